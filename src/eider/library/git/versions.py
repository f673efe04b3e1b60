"""Versions in git, through pygit2: commits made without a working tree, each whole in one step."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from itertools import chain
from pathlib import Path, PurePosixPath

import msgspec
import pygit2
from pygit2.enums import FileMode

from eider.library.errors import ConflictError, LibraryError
from eider.library.git.commit_reading import HEADS, CommitReader, Person
from eider.library.git.git_program import run_git
from eider.library.git.revision_trailers import (
    RevisionEntry,
    commit_message,
)

_LOCKS = ("index.lock", "HEAD.lock", "packed-refs.lock")
# How many files git is told of at once.
TOLD_TOGETHER = 500
replace = msgspec.structs.replace

# Objects and refs are on disk before the branch moves: a power cut leaves the old state or the new one.
pygit2.settings.enable_fsync_gitdir(True)


class Versions(CommitReader):
    """The commits of a library's repository. Paths are the library's own, wherever in the repository it lies."""

    @staticmethod
    def create(folder: Path, person: Person) -> "Versions":
        """Make an empty repository; the person is kept in it as the one who works here.

        Raises:
            LibraryError: git cannot keep this name or address.
        """
        try:
            pygit2.Signature(person.name, person.email)
            repository = pygit2.init_repository(str(folder), initial_head="main")
            repository.config["user.name"], repository.config["user.email"] = person.name, person.email
        except (pygit2.GitError, ValueError, OSError) as fault:
            raise LibraryError(f"git cannot begin here as {person.name} <{person.email}>: {fault}") from fault
        return Versions(folder)

    def require_branch(self) -> str:
        """The branch that is checked out.

        Raises:
            LibraryError: none is.
        """
        branch = self.branch
        if not branch:
            raise LibraryError(
                f"{self._folder} has no branch checked out (HEAD is detached at {self.head[:8]}), and a revision would "
                "belong to none; run git switch main there, then try again"
            )
        return branch

    def commit(self, files: Mapping[str, bytes | None], note: str, person: Person) -> str:
        """Commit new contents of some files (None removes one) to the branch.

        Raises:
            ConflictError, LibraryError: as `prepare_commit` and `move_branch`.
        """
        before = self.head
        made = self.prepare_commit(files, note, person)
        self.move_branch(made, before, f"commit: {note}")
        return made

    def prepare_commit(
        self, files: Mapping[str, bytes | None], note: str, person: Person, entries: Sequence[RevisionEntry] = ()
    ) -> str:
        """Write a commit that follows the newest one, with new contents of some files and the revisions that they are.

        The branch does not move yet, and after it has nothing is left to write: a commit is there as a whole or not at
        all.

        Raises:
            LibraryError: nothing was changed; the message says why.
        """
        repository, head, prefix = self._repository, self.head, self._place.prefix
        self.require_branch()
        with self._told("nothing was committed"):
            before = repository[head].peel(pygit2.Commit).tree.id if head else None
            blobs = {path: None if data is None else repository.create_blob(data) for path, data in files.items()}
            made = self._with_files(before, {PurePosixPath(prefix + path).parts: blob for path, blob in blobs.items()})
            tree = made or repository.TreeBuilder().write()
            signature = pygit2.Signature(person.name, person.email, int(datetime.now(tz=UTC).timestamp()), 0)
            message = commit_message(note, [replace(entry, path=prefix + entry.path) for entry in entries])
            parents = [head] if head else []
            return str(repository.create_commit(None, signature, signature, message, tree, parents))

    def move_branch(self, commit: str, since: str, why: str) -> None:
        """Move the branch from the commit `since` (empty: it is new) to one that follows it; `why` is for git's log.

        Raises:
            ConflictError: another program moved the branch meanwhile. LibraryError: git's files cannot be written.
        """
        name = HEADS + self.require_branch()
        with self._told("the branch could not be moved"):
            is_moved = self._try_move(name, commit, since, why.partition("\n")[0])
        if not is_moved:
            raise ConflictError("another program committed at the same moment; synchronise if shared, then try again")

    def _try_move(self, name: str, commit: str, since: str, why: str) -> bool:
        try:
            if not since:
                self._repository.create_reference(name, commit, message=why)
                return True
            branch = self._repository.references[name]
            if str(branch.target) != since:
                return False
            # Git itself refuses where the branch has moved since it was read.
            branch.set_target(commit, why)
        except (pygit2.GitError, ValueError):
            if self.head == since:
                raise
            return False
        return True

    def _with_files(
        self, tree: pygit2.Oid | None, files: Mapping[tuple[str, ...], pygit2.Oid | None]
    ) -> pygit2.Oid | None:
        """The tree with some files put in or taken out, each folder written once; None where nothing is left in it."""
        builder = self._repository.TreeBuilder(tree) if tree else self._repository.TreeBuilder()
        below: dict[str, dict[tuple[str, ...], pygit2.Oid | None]] = {}
        for (name, *rest), blob in files.items():
            if rest:
                below.setdefault(name, {})[tuple(rest)] = blob
            elif blob is not None:
                builder.insert(name, blob, FileMode.BLOB)
            elif builder.get(name) is not None:
                builder.remove(name)
        for name, inner in below.items():
            known = builder.get(name)
            is_folder = known is not None and known.filemode == FileMode.TREE
            made = self._with_files(known.id if known is not None and is_folder else None, inner)
            if made:
                builder.insert(name, made, FileMode.TREE)
            elif known is not None:
                builder.remove(name)
        return builder.write() if len(builder) else None

    def settle_index(self, paths: Sequence[str], since: str = "") -> None:
        """Let git's own index follow the newest commit at some paths, so that `git status` there is clean.

        What the user has staged after the commit `since` stays staged.
        """
        with self._told("git's index was not brought up to date"):
            index, tree = self._repository.index, self._tree(self.head)
            before = self._tree(since) if since else None
            index.read()
            absent = [path for path in paths if self.is_left_out(path)]
            for path in set(paths).difference(absent):
                whole_path = self._place.prefix + path
                if before is not None and _entered(index, whole_path) != (before[path].id if path in before else None):
                    continue
                if path in tree:
                    _add_to_index(index, self._place.root, whole_path, tree[path].id)
                elif whole_path in index:
                    index.remove(whole_path)
            index.write()
        for begin in range(0, len(absent), TOLD_TOGETHER):
            told = absent[begin : begin + TOLD_TOGETHER]
            # libgit2 enters no content that is not here, and git has to know that the file is not removed.
            entered = [("--cacheinfo", f"{int(FileMode.BLOB):o},{tree[path].id},{path}") for path in told]
            run_git(self._place.root, ["update-index", "--add", *chain.from_iterable(entered)])
            run_git(self._place.root, ["update-index", "--skip-worktree", "--", *told])

    def remove_stale_locks(self) -> None:
        """Remove the locks that a release left which was killed; only for who holds the library's own lock.

        Those of a project stay: others than Eider work there, and git says what to do about a lock.
        """
        if self.in_project:
            return
        git = self.git_folder
        branch = self.branch
        for name in (*_LOCKS, *([f"{HEADS}{branch}.lock"] if branch else [])):
            (git / name).unlink(missing_ok=True)


def _entered(index: pygit2.Index, path: str) -> pygit2.Oid | None:
    return index[path].id if path in index else None


def _add_to_index(index: pygit2.Index, folder: Path, path: str, blob: pygit2.Oid) -> None:
    """Enter a file as the commit has it; with its time and size where the folder has the same, as git wants to know."""
    if (folder / path).is_file() and not (folder / path).is_symlink():
        index.add(path)
        if index[path].id == blob:
            return
    index.add(pygit2.IndexEntry(path, blob, FileMode.BLOB))
