"""What need not be done while somebody waits for a release: git's own index follows, and objects are packed."""

from eider.library.errors import LibraryError
from eider.library.item_paths import PRIVATE
from eider.library.object_packing import gather_partial, is_due, pack_objects
from eider.library.release_recovery import locked
from eider.library.store import Library

# Names the commit that git's index follows.
SETTLED = f"{PRIVATE}/settled"


def keep_house(library: Library) -> str:
    """Bring git's index up to date, so that `git status` is clean, and pack objects where many lie loose.

    Returns why it could not be done, which is no harm: the next time makes up for it. Empty where it was.
    """
    if library.read_only:
        return library.read_only
    try:
        with locked(library):
            _settle(library)
            # A project's objects are for git itself to pack.
            if not library.versions.in_project and is_due(library.versions.git_folder):
                pack_objects(library.versions.git_folder)
            if library.versions.has_documents_when_needed:
                gather_partial(library.versions.git_folder)
    except LibraryError as fault:
        return str(fault)
    return ""


def note_cloned(library: Library) -> None:
    """Note that git's index is up to date, as git itself has just written it; else all files would be compared once.

    Raises:
        LibraryError: nothing can be written.
    """
    library.files.write(SETTLED, library.versions.head.encode())


def _settle(library: Library) -> None:
    versions, head = library.versions, library.versions.head
    known = (library.files.read(SETTLED) or b"").decode("ascii", "replace").strip()
    if known == head:
        return
    since = known if known and versions.is_before_head(known) else ""
    versions.settle_index([changed.path for changed in versions.changed_paths(since)])
    library.files.write(SETTLED, head.encode())
