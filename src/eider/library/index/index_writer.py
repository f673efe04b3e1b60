"""Writes into an index what files of a library hold: items, parts, and what is wrong with a file."""

import json
import sqlite3

import msgspec

from eider.facts.quantities import value_spellings
from eider.library.documents.working_copies import WorkingCopies
from eider.library.errors import LibraryError
from eider.library.git.versions import Versions
from eider.library.index.content_sums import content_sum
from eider.library.index.index_file import open_index
from eider.library.index.index_reader import IndexReader
from eider.library.index.search_words import plain_text
from eider.library.item_paths import kind_of
from eider.library.library_files import LibraryFiles
from eider.model.codec import DocumentError, decode
from eider.model.item_ref import ItemId, Sha256
from eider.model.part import Part


def note_content(db: sqlite3.Connection, item_id: str, total: str) -> None:
    """Enter what an item holds, as the sum of it; an empty sum for nothing that could be compared."""
    if total:
        db.execute("insert or replace into contents values (?, ?)", (item_id, total))
    else:
        db.execute("delete from contents where item = ?", (item_id,))


class _ModelHead(msgspec.Struct, frozen=True):
    """What the index has of a body's model."""

    sha256: Sha256


class _ItemHead(msgspec.Struct, frozen=True):
    """What the index has of an item that is not a part."""

    id: ItemId
    name: str
    family: str = ""
    model: _ModelHead | None = None


class IndexWriter(IndexReader):
    """Enters items and parts into an index, or takes them out."""

    def __init__(self, files: LibraryFiles, versions: Versions, copies: WorkingCopies) -> None:
        self._versions, self._copies = versions, copies
        super().__init__(open_index(files))
        self._stamps: dict[str, int] = {}
        self._seen = ""

    def _take_path(self, path: str, present: bool) -> None:
        kind = kind_of(path)
        if not kind:
            return
        self._note_fault(path, "")
        if not present:
            self._leave_path(path, kind)
            return
        try:
            self._take_item(path, kind, self._versions.read(path) or b"")
        except (LibraryError, DocumentError) as fault:
            # A file that is not an item of ours does not keep the rest of the library from being found.
            self._note_fault(path, str(fault))

    def _note_fault(self, path: str, fault: str) -> None:
        """Note what is wrong with a file; with nothing, that nothing is."""
        self._db.execute("delete from faults where path = ?", (path,))
        if fault:
            self._db.execute("insert into faults values (?, ?)", (path, fault))

    def _leave_path(self, path: str, kind: str) -> None:
        old = self._db.execute("select id from items where path = ?", (path,)).fetchone()
        self._db.execute("delete from items where path = ?", (path,))
        if old and kind == "part":
            self._drop(old[0])

    def _take_item(self, path: str, kind: str, data: bytes) -> None:
        about = decode(data, _ItemHead, path)
        row = (about.id, kind, about.name, path, about.family, about.model.sha256 if about.model else "")
        self._db.execute("insert or replace into items values (?, ?, ?, ?, ?, ?)", row)
        note_content(self._db, about.id, content_sum(kind, data, path))
        if kind == "part":
            part = decode(data, Part, path)
            state = "withdrawn" if part.withdrawn else "released"
            self._put(part, state, self._family(part.package.id), part.footprint.name, {})

    def _family(self, package_id: str) -> str:
        row = self._db.execute("select family from items where id = ?", (package_id,)).fetchone()
        return row[0] if row else ""

    def _drop(self, part_id: str) -> None:
        row = self._db.execute("select rowid from parts where id = ?", (part_id,)).fetchone()
        if row:
            self.forget_part(row[0])
            self._db.execute("delete from parts where rowid = ?", row)
            self._db.execute("delete from uses where part = ?", (part_id,))

    def _put(self, part: Part, state: str, family: str, package: str, findings: dict[str, int]) -> None:
        self._drop(part.id)
        facts = {name: fact.value for name, fact in part.facts.items()}
        texts = [part.name, part.description, part.category, package, family, *facts.values()]
        texts += [other for value in facts.values() for other in value_spellings(value)]
        release = part.release
        counts = [findings.get(severity, 0) for severity in ("blocker", "caution", "note")]
        values = (
            part.id,
            part.name,
            part.category,
            part.description,
            state,
            release.revision if release else 0,
            package,
            family,
            json.dumps(facts, ensure_ascii=False),
            *counts,
            release.at if release else "",
            plain_text(" ".join(texts)),
        )
        marks = ", ".join("?" * len(values))
        cursor = self._db.execute(f"insert into parts values (null, {marks})", values)
        self.forget_part(int(cursor.lastrowid or 0))
        refs = (part.package, part.symbol, part.footprint, part.body)
        self._db.executemany("insert into uses values (?, ?)", [(part.id, ref.id) for ref in refs])
