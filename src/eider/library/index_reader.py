"""What can be asked of an index: parts by words, revisions of items, paths, users, faults."""

import sqlite3
from collections.abc import Sequence
from typing import Any, NamedTuple

import msgspec

from eider.library.revision_trailers import ItemRevision
from eider.library.search_words import holds_word, search_terms

# SQLite takes this many values in one statement, and some more.
CHUNK = 900


class PartRow(msgspec.Struct, frozen=True):
    """A part as the Shelf lists it; `revision` 0 is not yet released. `state` is draft, released or changed."""

    id: str
    name: str
    category: str
    description: str
    state: str
    revision: int
    package: str
    family: str
    facts: dict[str, str]
    blockers: int
    cautions: int
    notes: int
    updated: str


class IndexReader:
    """Reads an index. A connection belongs to the thread that made it."""

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db
        # Rows that were read, by rowid, for as long as the file is at the version that sqlite tells.
        self._kept: dict[int, _Entry] = {}
        self._version = -1

    @property
    def is_new(self) -> bool:
        """Whether nothing of the library has been read yet."""
        return self._db.execute("select 1 from about where key = 'head'").fetchone() is None

    def history(self, item_id: str) -> tuple[ItemRevision, ...]:
        """All released revisions of an item, oldest first."""
        rows = self._db.execute("select * from revisions where id = ? order by revision", (item_id,))
        return tuple(ItemRevision(*row) for row in rows)

    def revision(self, item_id: str, revision: int) -> ItemRevision | None:
        """A released revision of an item, or None if there is no such revision."""
        row = self._db.execute("select * from revisions where id = ? and revision = ?", (item_id, revision)).fetchone()
        return ItemRevision(*row) if row else None

    def newest_revision(self, item_id: str) -> int:
        """The number of an item's newest revision; 0 where none is released."""
        row = self._db.execute("select max(revision) from revisions where id = ?", (item_id,)).fetchone()
        return int(row[0] or 0)

    def faults(self) -> dict[str, str]:
        """Files that were released or committed by hand and are no items: what is wrong, by path."""
        return dict(self._db.execute("select path, message from faults order by path"))

    def search(self, words: Sequence[str] = (), limit: int = 20_000) -> list[PartRow]:
        """Parts that hold every word, in any order and any case; * and ? are wildcards. Sorted by name."""
        terms = search_terms(words)
        conditions = ["w.text like ? escape '\\'" for _ in terms.patterns]
        values: list[str | int] = list(terms.patterns)
        if terms.phrases:
            conditions.insert(0, "words match ?")
            values.insert(0, " ".join(terms.phrases))
        source = "words w join parts p on p.rowid = w.rowid where " if conditions else "parts p"
        # Sorted and cut by sqlite, unless each hit has to be looked at first.
        found = self._db.execute(
            f"select p.rowid from {source}{' and '.join(conditions)} order by p.name limit ?",
            (*values, -1 if terms.exact else limit),
        )
        entries = self._entries([row[0] for row in found])
        if terms.exact:
            entries = [entry for entry in entries if all(holds_word(entry.text, word) for word in terms.exact)]
        return [entry.row for entry in entries[:limit]]

    def _entries(self, rowids: Sequence[int]) -> list["_Entry"]:
        """Rows with their texts; read once and kept, until somebody else changes the file."""
        version = self._db.execute("pragma data_version").fetchone()[0]
        if version != self._version:
            self._version = version
            self._kept.clear()
        missing = [rowid for rowid in rowids if rowid not in self._kept]
        for start in range(0, len(missing), CHUNK):
            chunk = missing[start : start + CHUNK]
            rows = self._db.execute(
                "select p.rowid, w.text, p.id, p.name, p.category, p.description, p.state, p.revision, p.package,"
                " p.family, p.facts, p.blockers, p.cautions, p.notes, p.updated from parts p"
                f" join words w on w.rowid = p.rowid where p.rowid in ({', '.join('?' * len(chunk))})",
                chunk,
            )
            self._kept.update({row[0]: _Entry(_row(row[2:]), row[1]) for row in rows})
        return [self._kept[rowid] for rowid in rowids]

    def item_at(self, path: str) -> str | None:
        """The id of the item at a path."""
        row = self._db.execute("select id from items where path = ?", (path,)).fetchone()
        return row[0] if row else None

    def findings_of(self, part_id: str, state: str) -> str | None:
        """What was noted of a part's findings (JSON) in a state; None where it was never checked in it."""
        row = self._db.execute("select findings from checked where part = ? and state = ?", (part_id, state)).fetchone()
        return row[0] if row else None

    def item_paths(self) -> list[str]:
        """The paths of all items that were released."""
        return [str(row[0]) for row in self._db.execute("select path from items order by path")]

    def users_of(self, item_id: str) -> list[str]:
        """Names of the parts that use an item."""
        rows = self._db.execute(
            "select p.name from uses u join parts p on p.id = u.part where u.item = ? order by p.name", (item_id,)
        )
        return [str(row[0]) for row in rows]


def _row(values: tuple[Any, ...]) -> PartRow:
    make: Any = PartRow
    row: PartRow = make(*values[:8], msgspec.json.decode(values[8]), *values[9:])
    return row


class _Entry(NamedTuple):
    """A row and the text that it is found by."""

    row: PartRow
    text: str
