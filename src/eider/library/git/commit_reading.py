"""What the commits of a library hold: files as of a revision, revisions, and which files changed."""

import contextlib
import threading
from collections.abc import Iterator
from datetime import UTC, datetime
from functools import cached_property
from pathlib import Path

import msgspec
import pygit2
from pygit2.enums import SortMode

from eider.library.errors import LibraryError
from eider.library.git.git_program import run_git
from eider.library.git.git_repository import RepositoryPlace, find_repository, open_repository
from eider.library.git.revision_trailers import (
    ItemRevision,
    is_own_message,
    parse_message,
)
from eider.library.item_paths import is_document

HEADS = "refs/heads/"
KEPT_TREES = 64
# What is larger (bytes) is not an item, no datasheet and no STEP file of a part.
MOST_IN_ITEM, MOST_IN_FILE = 32_000_000, 512_000_000
# In git's settings of a library: whether documents come with it, or when they are needed.
DOCUMENTS, WHEN_NEEDED = "eider.documents", "when-needed"
# Git's own note that contents may be missing here, which it fetches when they are asked for.
PARTIAL = "remote.origin.promisor"


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


class CommitReader:
    """Reads the commits of one library."""

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

    @contextlib.contextmanager
    def _told(self, what: str) -> Iterator[None]:
        """Faults of git within come as a LibraryError."""
        try:
            yield
        except (pygit2.GitError, KeyError, ValueError, OSError) as fault:
            raise _git_error(self._folder, what, fault) from fault
