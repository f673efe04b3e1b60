"""A library that is open, and how what is in it is found and loaded."""

import getpass
import os
import threading
from collections.abc import Callable, Collection, Mapping
from pathlib import Path
from typing import TypeVar

from eider.errors import NotFoundError
from eider.library.documents.attachments import Attachments
from eider.library.documents.rulebook_files import rulebook_source
from eider.library.documents.working_copies import WorkingCopies
from eider.library.errors import LibraryError, ReadOnlyError
from eider.library.git.commit_reading import Person
from eider.library.git.revision_trailers import ItemRevision
from eider.library.git.versions import Versions
from eider.library.index.part_index import Index, PartRow, SearchHits
from eider.library.item_paths import rulebook_path
from eider.library.library_files import LibraryFiles
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.codec import decode
from eider.model.footprint import Footprint
from eider.model.item_ref import Ref
from eider.model.library import LIBRARY_FORMAT, LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part
from eider.model.symbol import Symbol
from eider.rulebooks import Rulebook, standard_rulebook
from eider.rulebooks.rulebook import parse_rulebook

# How many items a thread keeps that it read last.
KEPT_ITEMS = 64
T = TypeVar("T", Part, PackageSheet, Symbol, Footprint, Body)


class Library:
    """A library that is open: settings, released items, working copies. Use it from one thread at a time."""

    def __init__(self, folder: Path, settings: LibrarySettings) -> None:
        self.folder, self.settings = folder, settings
        self.versions = Versions(folder)
        self.files = LibraryFiles(folder)
        self.copies = WorkingCopies(self.files)
        self.attachments = Attachments(self.files, self.versions)
        self._own = threading.local()
        # Set while another thread reads the library for the first time: what it has read so far is to be had.
        self._is_being_read = threading.Event()

    @property
    def read_only(self) -> str:
        """Why nothing can be written here; empty where it can."""
        if self.settings.format > LIBRARY_FORMAT:
            return f"the library has format {self.settings.format}, made by a newer Eider; update Eider to change it"
        if not os.access(self.folder, os.W_OK):
            return f"the folder {self.folder} is write-protected"
        return ""

    def require_writable(self) -> None:
        """Refuse to go on where nothing can be written.

        Raises:
            ReadOnlyError: the library was opened read-only.
        """
        if self.read_only:
            raise ReadOnlyError(self.read_only)

    @property
    def index(self) -> Index:
        """The search index; each thread has a connection of its own, made on first use."""
        found: Index | None = getattr(self._own, "index", None)
        if found is None:
            found = self._own.index = Index(self.files, self.versions, self.copies)
        return found

    def person(self) -> Person:
        """Who works here: the repository's settings, or the name of the login."""
        found = self.versions.person()
        if found:
            return found
        login = getpass.getuser()
        return Person(login, f"{login}@localhost")

    def rulebook(self, name: str = "") -> Rulebook:
        """A rulebook of the library by its name; the library's own default, then Eider's standard.

        Raises:
            NotFoundError: the library has no rulebook of this name.
            RulebookError: it cannot be read.
        """
        wanted = name or self.settings.rulebook
        text = rulebook_source(self.files, wanted)
        if text is not None:
            return parse_rulebook(text, rulebook_path(wanted))
        if wanted == "standard":
            return standard_rulebook()
        path = self.files.path(rulebook_path(wanted))
        raise NotFoundError(f"rulebook “{wanted}” is not in {path.parent}; put {path.name} there or choose another")

    def read_first(self, tell: Callable[[float], None]) -> None:
        """Read a library that was never read on this machine; meanwhile other threads find what was read so far.

        `tell` hears which share is done, and may raise to cancel.
        """
        self._is_being_read.set()
        try:
            self.index.follow_commits(tell)
        finally:
            self._is_being_read.clear()

    def _follow_commits(self) -> None:
        if not self._is_being_read.is_set():
            self.index.follow_commits()

    def search(self, words: str = "") -> list[PartRow]:
        """Parts that hold every word, newest state of each; an empty search gives all."""
        return list(self.find_parts(words).rows)

    def find_parts(
        self,
        words: str = "",
        chosen: Mapping[str, Collection[str]] | None = None,
        limit: int | None = None,
        *,
        with_withdrawn: bool = False,
    ) -> SearchHits:
        """The same with filters and a limit, as `IndexReader.search` has them."""
        self._follow_commits()
        self.index.follow_copies()
        return self.index.search(words.split(), chosen, limit, with_withdrawn=with_withdrawn)

    def find(self, name: str) -> PartRow:
        """The part with this name or id.

        Raises:
            NotFoundError: there is none.
        """
        self.index.refresh()
        row = self.index.find(name)
        if row is None:
            near = [row.name for row in self.index.search([name], limit=3).rows]
            hint = f"; near it are {', '.join(near)}" if near else ""
            raise NotFoundError(f"there is no part “{name}” in {self.folder}{hint}")
        return row

    def has_part(self, name: str) -> bool:
        """Whether there is a part of this name."""
        self.index.refresh()
        return self.index.find(name) is not None

    def load(self, part_id: str) -> Bundle:
        """The part as it is being worked on, or else its newest release."""
        copy = self.copies.load(part_id)
        return copy.bundle if copy else self.load_release(part_id)

    def load_release(self, part_id: str, revision: int = 0) -> Bundle:
        """A released revision of a part (the newest unless named), with exactly the items it was released with.

        Raises:
            NotFoundError: the part has no such released revision.
        """
        self._follow_commits()
        entry = self.index.revision(part_id, revision or self.index.newest_revision(part_id))
        if entry is None:
            raise NotFoundError(f"part {part_id} has no released revision {revision or ''}".rstrip())
        part = self.read_item(Part, entry)
        return Bundle(
            part=part,
            sheet=self._item(PackageSheet, part.package),
            symbol=self._item(Symbol, part.symbol),
            footprint=self._item(Footprint, part.footprint),
            body=self._item(Body, part.body),
        )

    def history(self, item_id: str) -> tuple[ItemRevision, ...]:
        """All released revisions of an item, oldest first."""
        self._follow_commits()
        return self.index.history(item_id)

    def revision(self, item_id: str, revision: int) -> ItemRevision | None:
        """A released revision of an item, or None if there is no such revision."""
        self._follow_commits()
        return self.index.revision(item_id, revision)

    def _item(self, kind: type[T], ref: Ref) -> T:
        entry = self.index.revision(ref.id, ref.revision or 1)
        if entry is None:
            raise LibraryError(
                f"{ref.name} revision {ref.revision} is not in {self.folder}; the commit that made it is missing, "
                "fetch it with git"
            )
        return self.read_item(kind, entry)

    def read_item(self, kind: type[T], entry: ItemRevision) -> T:
        """An item as it was released.

        Raises:
            LibraryError: the commit does not have it.
        """
        # Many parts share an item, and what was committed does not change.
        kept: dict[tuple[str, str], T] = self._own.__dict__.setdefault("items", {})
        key = (entry.commit, entry.path)
        found = kept.get(key)
        if found is None:
            data = self.versions.read(*reversed(key))
            if data is None:
                raise LibraryError(
                    f"{entry.path} is not in commit {entry.commit[:8]} of {self.folder}; run git fsck there"
                )
            if len(kept) >= KEPT_ITEMS:
                kept.pop(next(iter(kept)))
            found = kept[key] = decode(data, kind, f"{entry.path} (revision {entry.revision})")
        return found

    def read_document(self, revision: ItemRevision) -> bytes:
        """The file of one revision as it was released."""
        return self.versions.read(revision.path, revision.commit) or b""

    def close(self) -> None:
        """Give back what this thread has open."""
        if hasattr(self._own, "index"):
            self._own.index.close()
            del self._own.index
