"""Git's own index follows what Eider commits, so that the user's next `git commit` does not take it back.

Eider commits without git's index, which takes long where a library is large. Most commits let it follow at once; a
release, which someone waits for, leaves that to `keep_house`, and where the process ends before, to the next opening.
"""

import contextlib

from eider.library.errors import LibraryError
from eider.library.item_paths import PRIVATE
from eider.library.store import Library

# Names the commit that git's index follows.
SETTLED = f"{PRIVATE}/settled"


def is_index_behind(library: Library) -> bool:
    """Whether git's index is known to follow an older commit than the newest."""
    known = _settled_commit(library)
    return bool(known) and known != library.versions.head


def settle_index(library: Library) -> None:
    """Let git's index follow all that was committed since it last did. For who holds the library's lock.

    Raises:
        LibraryError: git's files cannot be written.
    """
    versions, head, known = library.versions, library.versions.head, _settled_commit(library)
    if known == head:
        return
    since = known if known and versions.is_before_head(known) else ""
    versions.settle_index([changed.path for changed in versions.changed_paths(since) if changed.is_text], since)
    note_settled(library)


def try_settle_index(library: Library) -> None:
    """The same where it can be done; where another git program is at work, the next time makes up for it."""
    with contextlib.suppress(LibraryError):
        settle_index(library)


def note_settled(library: Library) -> None:
    """Note that git's index is up to date; where git itself has written it, all files would else be compared once.

    Raises:
        LibraryError: nothing can be written.
    """
    library.files.write(SETTLED, library.versions.head.encode())


def _settled_commit(library: Library) -> str:
    return (library.files.read(SETTLED) or b"").decode("ascii", "replace").strip()
