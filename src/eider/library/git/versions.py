"""Versions in git, through pygit2: commits made without a working tree, each whole in one step."""

import contextlib
import threading
from collections.abc import Iterator, Mapping, Sequence
from datetime import UTC, datetime
from functools import cached_property
from itertools import chain
from pathlib import Path, PurePosixPath

import msgspec
import pygit2
from pygit2.enums import FileMode, SortMode

from eider.library.errors import ConflictError, LibraryError
from eider.library.git.git_program import run_git
from eider.library.git.git_repository import RepositoryPlace, find_repository, open_repository
from eider.library.git.revision_trailers import (
    ItemRevision,
    RevisionEntry,
    commit_message,
    is_own_message,
    parse_message,
)
from eider.library.item_paths import is_document

HEADS = "refs/heads/"
_LOCKS = ("index.lock", "HEAD.lock", "packed-refs.lock")
KEPT_TREES = 64
# What is larger (bytes) is not an item, no datasheet and no STEP file of a part.
MOST_IN_ITEM, MOST_IN_FILE = 32_000_000, 512_000_000
# In git's settings of a library: whether documents come with it, or when they are needed.
DOCUMENTS, WHEN_NEEDED = "eider.documents", "when-needed"
# Git's own note that contents may be missing here, which it fetches when they are asked for.
PARTIAL = "remote.origin.promisor"
# How many files git is told of at once.
TOLD_TOGETHER = 500
replace = msgspec.structs.replace

# Objects and refs are on disk before the branch moves: a power cut leaves the old state or the new one.
pygit2.settings.enable_fsync_gitdir(True)


class Person(msgspec.Struct, frozen=True):
    """Who makes a change."""

    name: str
    email: str


class OwnCommit(msgspec.Struct, frozen=True):
    """A commit that Eider made, by whom, and the note with it."""

    commit: str
    name: str
    email: str
    note: str


class ChangedPath(msgspec.Struct, frozen=True):
    """A file that differs between two commits, and whether the later one has it.

    Where its name `is_text` no longer (it is not UTF-8), the path shows the odd bytes as \\x.., and names no file.
    """

    path: str
    is_there: bool
    is_text: bool = True


class Versions:
    """The commits of a library's repository. Paths are the library's own, wherever in the repository it lies."""

    def __init__(self, folder: Path, place: RepositoryPlace | None = None) -> None:
        self._folder, self._place = folder, place or find_repository(folder)
        # libgit2 wants a repository of its own for each thread.
        self._own = threading.local()
        _ = self._repository

    @property
    def _repository(self) -> pygit2.Repository:
        found: pygit2.Repository | None = getattr(self._own, "repository", None)
        if found is None:
            found = self._own.repository = open_repository(self._place)
        return found

    @property
    def git_folder(self) -> Path:
        """Git's own folder."""
        return self._place.git

    @property
    def in_project(self) -> bool:
        """Whether the library is a folder of a project, whose other files are not Eider's."""
        return self._place.prefix != ""

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

    @property
    def head(self) -> str:
        """The newest commit; empty before the first.

        Raises:
            LibraryError: git's own files are damaged.
        """
        with self._told("HEAD cannot be read"):
            return "" if self._repository.head_is_unborn else str(self._repository.head.target)

    @property
    def branch(self) -> str:
        """The branch that is checked out; empty where HEAD is at a commit instead (is detached)."""
        target = self._repository.references["HEAD"].target
        return target.removeprefix(HEADS) if isinstance(target, str) and target.startswith(HEADS) else ""

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

    def person(self) -> Person | None:
        """Who works in this library, by git's own settings."""
        config = self._repository.config
        # A pygit2 config has no `get`.
        name, email = (config[key] if key in config else None for key in ("user.name", "user.email"))  # noqa: SIM401
        return Person(name, email) if name and email else None

    def read(self, path: str, commit: str = "") -> bytes | None:
        """The content of a file in a commit (the newest unless named); None where it is not there.

        Raises:
            LibraryError: the repository is damaged.
        """
        wanted = commit or self.head
        if not wanted:
            return None
        with self._told(f"{path} cannot be read from commit {wanted[:8]}"):
            try:
                blob = self._tree(wanted) / path
            except KeyError:
                return None
            if not isinstance(blob, pygit2.Blob):
                return None
            if blob.id not in self._repository and PARTIAL in self._repository.config:
                self._fetch(path, blob.id)
            most = MOST_IN_ITEM if path.endswith(".json") else MOST_IN_FILE
            if blob.size > most:
                raise LibraryError(
                    f"{path} has {blob.size // 1_000_000:,} MB, more than the {most // 1_000_000} MB that Eider reads"
                )
            return bytes(blob.data)

    def has(self, path: str) -> bool:
        """Whether the newest commit has a file; its content is not read."""
        with self._told(f"{path} cannot be found"):
            return bool(self.head) and path in self._tree(self.head)

    @cached_property
    def has_documents_when_needed(self) -> bool:
        """Whether documents of a shared library are fetched when someone wants to see them."""
        config = self._repository.config
        return DOCUMENTS in config and config[DOCUMENTS] == WHEN_NEEDED

    def is_left_out(self, path: str) -> bool:
        """Whether a file is a document that is not in the folder because nobody has needed it yet."""
        is_fetched = self.has_documents_when_needed and is_document(path)
        return is_fetched and not (self._folder / path).exists() and self.has(path)

    def _fetch(self, path: str, blob: pygit2.Oid) -> None:
        """Fetch one file's content, as git does it in a partial clone when it is asked for the file."""
        try:
            run_git(self._place.root, ["cat-file", "-s", str(blob)])
        except LibraryError as fault:
            raise LibraryError(f"{path} is not on this machine yet and cannot be fetched now: {fault}") from fault

    def _tree(self, commit: str) -> pygit2.Tree:
        """The files of a commit. A commit of a thousand revisions takes long to read, and is asked for each of them."""
        trees: dict[str, pygit2.Tree] = self._own.__dict__.setdefault("trees", {})
        if commit not in trees:
            if len(trees) >= KEPT_TREES:
                trees.pop(next(iter(trees)))
            whole = self._repository[commit].peel(pygit2.Commit).tree
            trees[commit] = self._below(whole)
        return trees[commit]

    def _below(self, whole: pygit2.Tree) -> pygit2.Tree:
        """The library's folder in the files of its repository; an empty one where it is not there yet."""
        prefix = self._place.prefix.rstrip("/")
        if not prefix:
            return whole
        found = whole / prefix if prefix in whole else None
        if isinstance(found, pygit2.Tree):
            return found
        return self._repository[self._repository.TreeBuilder().write()].peel(pygit2.Tree)

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

    def revisions_since(self, since: str) -> Iterator[ItemRevision]:
        """The revisions that commits after `since` (or all) made, oldest first."""
        if not self.head or self.head == since:
            return
        with self._told("its history cannot be read"):
            walker = self._repository.walk(self.head, SortMode.TOPOLOGICAL | SortMode.REVERSE)
            if since:
                walker.hide(since)
            for commit in walker:
                note, entries = parse_message(commit.message)
                at = datetime.fromtimestamp(commit.author.time, tz=UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
                for e in entries:
                    # A project may have several libraries.
                    if e.path.startswith(self._place.prefix):
                        path = e.path.removeprefix(self._place.prefix)
                        yield ItemRevision(e.id, e.revision, e.kind, path, note, commit.author.name, at, str(commit.id))

    def own_commits(self, since: str) -> Iterator[OwnCommit]:
        """The commits of Eider's that follow from one, oldest first."""
        with self._told("its history cannot be read"):
            walker = self._repository.walk(self.head, SortMode.TOPOLOGICAL | SortMode.REVERSE)
            walker.hide(since)
            for commit in walker:
                if is_own_message(commit.message):
                    note = parse_message(commit.message)[0]
                    yield OwnCommit(str(commit.id), commit.author.name, commit.author.email, note)

    def is_before_head(self, commit: str) -> bool:
        """Whether the newest commit is this one or follows from it."""
        try:
            return commit == self.head or self._repository.descendant_of(self.head, commit)
        except (pygit2.GitError, KeyError, ValueError):
            return False

    def changed_paths(self, since: str) -> Iterator[ChangedPath]:
        """Paths that differ between a commit (or nothing) and the newest one."""
        head = self.head
        if not head or head == since:
            return
        with self._told("its history cannot be read"):
            new = self._tree(head)
            difference = self._tree(since).diff_to_tree(new) if since else new.diff_to_tree(swap=True)
            for delta in difference.deltas:
                is_gone = delta.status_char() == "D"
                raw = (delta.old_file if is_gone else delta.new_file).raw_path
                path = raw.decode(errors="backslashreplace")
                yield ChangedPath(path, not is_gone, path.encode() == raw)

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

    @contextlib.contextmanager
    def _told(self, what: str) -> Iterator[None]:
        """Faults of git within come as a LibraryError."""
        try:
            yield
        except (pygit2.GitError, KeyError, ValueError, OSError) as fault:
            raise _git_error(self._folder, what, fault) from fault


def _entered(index: pygit2.Index, path: str) -> pygit2.Oid | None:
    return index[path].id if path in index else None


def _add_to_index(index: pygit2.Index, folder: Path, path: str, blob: pygit2.Oid) -> None:
    """Enter a file as the commit has it; with its time and size where the folder has the same, as git wants to know."""
    if (folder / path).is_file() and not (folder / path).is_symlink():
        index.add(path)
        if index[path].id == blob:
            return
    index.add(pygit2.IndexEntry(path, blob, FileMode.BLOB))


def _git_error(folder: Path, what: str, fault: Exception) -> LibraryError:
    said = str(fault)
    if "No space left" in said or "Disk quota" in said:
        return LibraryError(f"the disk is full; nothing was changed; free 10 MB and try again ({folder})")
    if ".lock" in said or "locked" in said:
        return LibraryError(
            f"another git program is at work in {folder}; nothing was changed. If none is, remove the file that ends "
            f"in .lock there ({said})"
        )
    return LibraryError(f"{folder}: {what}: {said}; run git fsck there, or clone the library again")
