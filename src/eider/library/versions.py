"""Versions in git, through pygit2: commits made without a working tree, one annotated tag per item and revision."""

import threading
from collections.abc import Iterator, Mapping
from datetime import UTC, datetime
from pathlib import Path, PurePosixPath

import msgspec
import pygit2
from pygit2.enums import FileMode, ObjectType

from eider.library.errors import LibraryError

TAG = "refs/tags/released/{id}/{revision}"
BRANCH = "refs/heads/main"


class Person(msgspec.Struct, frozen=True):
    """Who makes a change."""

    name: str
    email: str


class ItemRevision(msgspec.Struct, frozen=True):
    """One released revision of an item: `path` is its file in the commit `commit`; `at` is ISO 8601 in UTC."""

    id: str
    revision: int
    kind: str
    path: str
    note: str
    by: str
    at: str
    commit: str


class Tagging(msgspec.Struct, frozen=True):
    """A revision about to be tagged."""

    id: str
    revision: int
    kind: str
    path: str


class Versions:
    """The git repository of a library."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        # libgit2 wants a repository of its own for each thread.
        self._own = threading.local()
        _ = self._repository

    @property
    def _repository(self) -> pygit2.Repository:
        found: pygit2.Repository | None = getattr(self._own, "repository", None)
        if found is not None:
            return found
        try:
            self._own.repository = pygit2.Repository(str(self._folder))
        except pygit2.GitError as fault:
            raise LibraryError(
                f"{self._folder} is no Eider library: it has no git repository; make one with eider init"
            ) from fault
        made: pygit2.Repository = self._own.repository
        return made

    @staticmethod
    def create(folder: Path, person: Person) -> "Versions":
        """Make an empty repository; the person is kept in it as the one who works here."""
        repository = pygit2.init_repository(str(folder), initial_head="main")
        repository.config["user.name"], repository.config["user.email"] = person.name, person.email
        return Versions(folder)

    @property
    def head(self) -> str:
        """The newest commit; empty before the first."""
        if self._repository.head_is_unborn:
            return ""
        return str(self._repository.head.target)

    def person(self) -> Person | None:
        """Who works in this library, by git's own settings."""
        config = self._repository.config
        # A pygit2 config has no `get`.
        name, email = (config[key] if key in config else None for key in ("user.name", "user.email"))  # noqa: SIM401
        return Person(name, email) if name and email else None

    def read(self, path: str, commit: str = "") -> bytes | None:
        """The content of a file in a commit (the newest unless named); None where it is not there."""
        wanted = commit or self.head
        if not wanted:
            return None
        try:
            tree = self._repository[wanted].peel(pygit2.Commit).tree
            blob = tree / path
        except KeyError:
            return None
        return bytes(blob.data) if isinstance(blob, pygit2.Blob) else None

    def commit(
        self, files: Mapping[str, bytes | None], message: str, person: Person, tags: tuple[Tagging, ...] = ()
    ) -> str:
        """Commit new contents of some files (None takes one away), and tag the revisions that they are."""
        repository = self._repository
        head = self.head
        tree = repository[head].peel(pygit2.Commit).tree.id if head else repository.TreeBuilder().write()
        for path, data in sorted(files.items()):
            blob = None if data is None else repository.create_blob(data)
            tree = self._with_file(tree, PurePosixPath(path).parts, blob)
        now = datetime.now(tz=UTC)
        signature = pygit2.Signature(person.name, person.email, int(now.timestamp()), 0)
        commit = repository.create_commit(BRANCH, signature, signature, message, tree, [head] if head else [])
        for tag in tags:
            text = f"{message}\n\nEider-Kind: {tag.kind}\nEider-Path: {tag.path}\n"
            name = TAG.format(id=tag.id, revision=tag.revision).removeprefix("refs/tags/")
            repository.create_tag(name, commit, ObjectType.COMMIT, signature, text)
        self._settle_index(files)
        return str(commit)

    def _with_file(self, tree: pygit2.Oid, parts: tuple[str, ...], blob: pygit2.Oid | None) -> pygit2.Oid:
        builder = self._repository.TreeBuilder(tree)
        if len(parts) == 1 and blob is None:
            if builder.get(parts[0]) is not None:
                builder.remove(parts[0])
        elif len(parts) == 1 and blob is not None:
            builder.insert(parts[0], blob, FileMode.BLOB)
        else:
            below = builder.get(parts[0])
            inner = below.id if below is not None else self._repository.TreeBuilder().write()
            builder.insert(parts[0], self._with_file(inner, parts[1:], blob), FileMode.TREE)
        return builder.write()

    def _settle_index(self, files: Mapping[str, bytes | None]) -> None:
        """Git's own index follows, so that `git status` in the folder is clean."""
        index = self._repository.index
        index.read()
        for path, data in files.items():
            if data is None:
                if path in index:
                    index.remove(path)
                continue
            index.add(pygit2.IndexEntry(path, self._repository.create_blob(data), FileMode.BLOB))
        index.write()

    def revision(self, item_id: str, revision: int) -> ItemRevision | None:
        """One released revision of an item; None where there is none."""
        reference = self._repository.references.get(TAG.format(id=item_id, revision=revision))
        if reference is None:
            return None
        tag = self._repository[reference.target]
        if not isinstance(tag, pygit2.Tag):
            return None
        note, _, trailer = tag.message.rpartition("\n\n")
        values = dict(line.split(": ", 1) for line in trailer.strip().splitlines() if ": " in line)
        at = datetime.fromtimestamp(tag.tagger.time, tz=UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
        return ItemRevision(
            item_id,
            revision,
            values.get("Eider-Kind", ""),
            values.get("Eider-Path", ""),
            note,
            tag.tagger.name,
            at,
            str(tag.target),
        )

    def history(self, item_id: str) -> tuple[ItemRevision, ...]:
        """All released revisions of an item, oldest first; read from its tags, whatever the library's size."""
        found: list[ItemRevision] = []
        while (entry := self.revision(item_id, len(found) + 1)) is not None:
            found.append(entry)
        return tuple(found)

    def changed_paths(self, since: str) -> Iterator[tuple[str, bool]]:
        """Paths that differ between a commit (or nothing) and the newest one, with whether they are still there."""
        head = self.head
        if not head or head == since:
            return
        new = self._repository[head].peel(pygit2.Commit).tree
        known = since and self._repository.get(since) is not None
        if known:
            difference = self._repository[since].peel(pygit2.Commit).tree.diff_to_tree(new)
        else:
            difference = new.diff_to_tree(swap=True)
        for delta in difference.deltas:
            gone = delta.status_char() == "D"
            yield (delta.old_file.path if gone else delta.new_file.path), not gone
