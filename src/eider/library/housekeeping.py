"""What need not be done while somebody waits for a release: git's own index follows, and objects are packed."""

from eider.library.errors import LibraryError
from eider.library.git_index_following import settle_index
from eider.library.object_packing import gather_partial, is_due, pack_objects
from eider.library.release_recovery import locked
from eider.library.store import Library


def keep_house(library: Library) -> str:
    """Bring git's index up to date, so that `git status` is clean, and pack objects where many lie loose.

    Returns why it could not be done, which is no harm: the next time makes up for it. Empty where it was.
    """
    if library.read_only:
        return library.read_only
    try:
        with locked(library):
            settle_index(library)
            # A project's objects are for git itself to pack.
            if not library.versions.in_project and is_due(library.versions.git_folder):
                pack_objects(library.versions.git_folder)
            if library.versions.has_documents_when_needed:
                gather_partial(library.versions.git_folder)
    except LibraryError as fault:
        return str(fault)
    return ""
