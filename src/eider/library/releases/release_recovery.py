"""Makes whole what a killed process left: the files in the folder follow the newest commit, stale locks go.

Before a release touches anything it notes the commit that it starts from. Whoever finds the note while holding the
library's lock knows that the release has died: either its commit is there, and the folder has to follow it, or nothing
happened. The note names no files: which ones follow is what the commits say, and only of what releases write.
"""

import contextlib
import json
from collections.abc import Iterator, Mapping, Sequence

import msgspec

from eider.errors import EiderError
from eider.library.documents.working_copies import WorkingCopies
from eider.library.errors import LibraryError
from eider.library.git.git_index_following import is_index_behind, try_settle_index
from eider.library.git.git_program import GitError, run_git
from eider.library.git.revision_trailers import RevisionEntry
from eider.library.item_paths import ATTACHED, PRIVATE, is_released
from eider.library.sharing.shared_server import SharedServer, shared_address
from eider.library.store import Library
from eider.model.codec import DocumentError, decode

LOCK = f"{PRIVATE}/lock"
NOTE = f"{PRIVATE}/releasing.json"


class ReleaseNote(msgspec.Struct, frozen=True):
    """What a release starts from: a commit, and the working copies that it releases, by part and sum of the file."""

    start: str
    copies: dict[str, str] = {}


class Committed(msgspec.Struct, frozen=True):
    """A commit; `behind` says why the files in the folder do not follow it yet, where they do not."""

    commit: str
    behind: str = ""


@contextlib.contextmanager
def locked(library: Library) -> Iterator[None]:
    """Only one process writes to the library at a time; what a dead one left is made whole first."""
    with library.files.locked(LOCK):
        _recover(library)
        yield


def commit_noted(
    library: Library,
    files: Mapping[str, bytes | None],
    note: str,
    entries: Sequence[RevisionEntry] = (),
    part_ids: Sequence[str] = (),
) -> Committed:
    """Commit files, then let the folder follow and take away the working copies that are released by it.

    A shared library's server has to take the commit first, and gives back the claims on the parts. Git's index follows
    too, but after a release of parts, whose caller ends with `keep_house`. For who holds the lock.

    Raises:
        LibraryError: nothing was committed.
    """
    versions, start = library.versions, library.versions.head
    copies = {part_id: total for part_id in part_ids if (total := library.copies.sum_of(part_id))}
    library.files.write(NOTE, json.dumps(msgspec.to_builtins(ReleaseNote(start, copies))).encode())
    try:
        commit = versions.prepare_commit(files, note, library.person(), entries)
        if shared_address(library.folder):
            # Before the branch moves: what the server refuses leaves the library where it was.
            SharedServer(library).publish(commit, part_ids)
        versions.move_branch(commit, start, f"commit: {note}")
    except EiderError:
        with contextlib.suppress(EiderError):
            library.files.remove(NOTE)
        raise
    try:
        for path in files:
            bring(library, path)
        for part_id in part_ids:
            library.copies.discard(part_id)
        library.files.remove(NOTE)
        if not part_ids:
            try_settle_index(library)
    except EiderError as fault:
        # The revision is safe in git; the note stays, and whoever opens the library next lets the folder follow.
        return Committed(commit, f"The revision is kept, but the files in {library.folder} are behind it: {fault}")
    return Committed(commit)


def finish_interrupted(library: Library) -> None:
    """At opening: make whole what a killed process left, where anything can be written here."""
    if library.read_only:
        return
    for folder in (PRIVATE, WorkingCopies.FOLDER, ATTACHED):
        library.files.clear_leftovers(folder)
    if library.files.read(NOTE) is not None or is_index_behind(library):
        with locked(library):
            try_settle_index(library)


def follow_to(library: Library, commit: str) -> None:
    """Let the library are at a later commit: its branch, then the files in its folder. For who holds the lock.

    Killed in between, it is made whole at the next opening, as a release is.

    Raises:
        LibraryError: the branch could not be moved, or a file not be written.
    """
    if library.versions.in_project:
        _follow_project(library, commit)
        return
    start = library.versions.head
    library.files.write(NOTE, json.dumps(msgspec.to_builtins(ReleaseNote(start))).encode())
    library.versions.move_branch(commit, start, "eider: follow the server")
    _follow(library, ReleaseNote(start))
    library.files.remove(NOTE)


def _follow_project(library: Library, commit: str) -> None:
    """The project's other files follow too; git itself sees to it that nothing which was changed there is lost."""
    try:
        run_git(library.folder, ["merge", "--ff-only", commit])
    except GitError as fault:
        # Git names the files that are in its way, one to a line that begins with a tab.
        names = [line.strip() for line in fault.said.splitlines() if line.startswith("\t")]
        if not names:
            raise
        raise LibraryError(
            f"the server has newer states of files of the project that were changed here: {', '.join(names[:5])}; "
            "commit or put aside what you changed, then synchronise again"
        ) from fault


def bring(library: Library, path: str) -> None:
    """Make a file in the folder what the newest commit says."""
    data = library.versions.read(path)
    if data is None:
        library.files.remove(path)
    else:
        library.files.write(path, data)


def _recover(library: Library) -> None:
    found = library.files.read(NOTE)
    if found is None:
        return
    library.versions.remove_stale_locks()
    with contextlib.suppress(DocumentError):
        _follow(library, decode(found, ReleaseNote, NOTE))
    library.files.remove(NOTE)


def _follow(library: Library, note: ReleaseNote) -> None:
    versions, start = library.versions, note.start
    if not start or start == versions.head or not versions.is_before_head(start):
        return
    paths = [changed.path for changed in versions.changed_paths(start) if changed.is_text and is_released(changed.path)]
    for folder in {path.rpartition("/")[0] for path in paths} - {""}:
        library.files.clear_leftovers(folder)
    for path in paths:
        if versions.is_left_out(path):
            continue
        # A file that someone changed by hand since is theirs.
        if library.files.read(path) == versions.read(path, start):
            bring(library, path)
    made = {entry.id for entry in versions.revisions_since(start)}
    for part_id, total in note.copies.items():
        if part_id in made and library.copies.sum_of(part_id) == total:
            library.copies.discard(part_id)
