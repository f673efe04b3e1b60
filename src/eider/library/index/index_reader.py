"""What can be asked of an index: parts by words, revisions of items, paths, users, faults."""

import sqlite3
from bisect import insort
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from typing import Any, NamedTuple

import msgspec

from eider.library.index.item_reader import ItemReader
from eider.library.index.search_words import holding

# SQLite takes this many values in one statement, and some more.
CHUNK = 900
# The state of parts that shall not be used any more.
WITHDRAWN = "withdrawn"
# Where more parts than this changed, all texts are read again.
MOST_READ_AGAIN = 2000
_COLUMNS = (
    "id, name, category, description, state, revision, package, family, facts, blockers, cautions, notes, updated"
)


class PartRow(msgspec.Struct, frozen=True):
    """A part as the Shelf lists it; `revision` 0 is not yet released.

    `state` is draft, released, changed or withdrawn.
    """

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


class PartGroup(NamedTuple):
    """What parts are filtered by. `findings` is *some* or empty."""

    category: str
    state: str
    family: str
    findings: str


class SearchHits(msgspec.Struct, frozen=True):
    """What was found: the first parts by name, how many there are, and how many of each group without the filters."""

    rows: tuple[PartRow, ...]
    total: int
    groups: dict[PartGroup, int]


class IndexReader(ItemReader):
    """Reads an index. A connection belongs to the thread that made it."""

    def __init__(self, db: sqlite3.Connection) -> None:
        super().__init__(db)
        self.use_database(db)

    def use_database(self, db: sqlite3.Connection) -> None:
        """Read another database from now on; what is known of the one before is forgotten."""
        self._db = db
        # By what all parts are found, sorted by name, and the rows that were read: kept for as long as the file is at
        # the version that sqlite tells. At 50,000 parts to look through all texts takes 10 ms, less than sqlite's own
        # search over texts.
        self._texts: list[_PartText] | None = None
        self._rows: dict[int, PartRow] = {}
        self._version = -1
        # Rows that this connection wrote since the texts were read.
        self._written: set[int] = set()

    def forget_part(self, rowid: int) -> None:
        """The row of a part was written on this connection: it is read again when it is next wanted."""
        self._rows.pop(rowid, None)
        self._written.add(rowid)

    def forget_parts(self) -> None:
        """All rows were written on this connection."""
        self._texts = None

    @property
    def is_new(self) -> bool:
        """Whether the library has never been read to its end."""
        return self._db.execute("select 1 from about where key = 'head'").fetchone() is None

    def find(self, name: str) -> PartRow | None:
        """The part with this name or id; None where there is none."""
        found = self._db.execute(f"select {_COLUMNS} from parts where id = ? or name = ? limit 1", (name, name))
        row = found.fetchone()
        return _row(row) if row else None

    def part_at(self, path: str) -> PartRow | None:
        """The part that was released in this file; None where it holds none."""
        columns = ", ".join(f"parts.{name.strip()}" for name in _COLUMNS.split(","))
        found = self._db.execute(
            f"select {columns} from items join parts on parts.id = items.id where items.path = ? limit 1", (path,)
        )
        row = found.fetchone()
        return _row(row) if row else None

    def parts_with_content(self, total: str) -> tuple[PartRow, ...]:
        """Parts that use an item of this content, by name: see `content_sums`; none for an empty sum."""
        rows = self._db.execute(
            f"select distinct {', '.join('parts.' + name.strip() for name in _COLUMNS.split(','))} from contents "
            "join uses on uses.item = contents.item join parts on parts.id = uses.part "
            "where contents.sum = ? and contents.sum != '' order by parts.name",
            (total,),
        )
        return tuple(_row(row) for row in rows)

    def search(
        self,
        words: Sequence[str] = (),
        chosen: Mapping[str, Collection[str]] | None = None,
        limit: int | None = None,
        *,
        with_withdrawn: bool = False,
    ) -> SearchHits:
        """Parts that hold every word, in any order and any case, sorted by name; * and ? are wildcards.

        `chosen` filters them: by the names of `PartGroup`, the values that pass. Withdrawn parts are among them only
        if their state is chosen, or with `with_withdrawn`. At most `limit` rows are given.
        """
        found = holding(self._all_texts(), words)
        groups = Counter(entry.group for entry in found)
        if not with_withdrawn and WITHDRAWN not in (chosen or {}).get("state", ()):
            found = [entry for entry in found if entry.group.state != WITHDRAWN]
        if chosen:
            passing = {g for g in groups if all(getattr(g, key) in values for key, values in chosen.items())}
            found = [entry for entry in found if entry.group in passing]
        rows = self._rows_of([entry.rowid for entry in found[:limit]])
        if None in rows:
            # Another thread or process has changed a part since the texts were read.
            self._texts = None
            return self.search(words, chosen, limit, with_withdrawn=with_withdrawn)
        return SearchHits(tuple(row for row in rows if row), len(found), dict(groups))

    def _all_texts(self) -> list["_PartText"]:
        version = self._db.execute("pragma data_version").fetchone()[0]
        if self._texts is None or version != self._version or len(self._written) > MOST_READ_AGAIN:
            self._version = version
            self._rows.clear()
            groups: dict[PartGroup, PartGroup] = {}
            self._texts = [_part_text(row, groups) for row in self._db.execute(f"{_TEXTS} order by name")]
        elif self._written:
            self._texts = [entry for entry in self._texts if entry.rowid not in self._written]
            for row in self._select(f"{_TEXTS} where rowid in", list(self._written)):
                insort(self._texts, _part_text(row, {}))
        self._written.clear()
        return self._texts

    def _rows_of(self, rowids: Sequence[int]) -> list[PartRow | None]:
        """Rows in this order, None where one is gone; read once and kept."""
        missing = [rowid for rowid in rowids if rowid not in self._rows]
        for row in self._select(f"select {_COLUMNS}, rowid from parts where rowid in", missing):
            self._rows[row[-1]] = _row(row[:-1])
        return [self._rows.get(rowid) for rowid in rowids]

    def _select(self, query: str, values: Sequence[int]) -> list[tuple[Any, ...]]:
        """The rows of a query that ends with *in*, for as many values as there are."""
        return [
            row
            for chunk in (values[start : start + CHUNK] for start in range(0, len(values), CHUNK))
            for row in self._db.execute(f"{query} ({', '.join('?' * len(chunk))})", chunk)
        ]

    def parts_with_models(self, family: str) -> list[PartRow]:
        """The released parts of a package family whose body is someone's STEP file, one for each body."""
        rows = self._db.execute(
            f"select {', '.join(f'p.{name}' for name in _COLUMNS.split(', '))} from items b"
            " join uses u on u.item = b.id join parts p on p.id = u.part"
            " where b.kind = 'body' and b.model <> '' and p.family = ? group by b.id order by p.name",
            (family,),
        )
        return [_row(row) for row in rows]

    def parts_using(self, item_id: str) -> list[PartRow]:
        """The parts that use an item, by name."""
        names = ", ".join(f"p.{name}" for name in _COLUMNS.split(", "))
        query = f"select {names} from uses u join parts p on p.id = u.part where u.item = ? order by p.name"
        return [_row(row) for row in self._db.execute(query, (item_id,))]


class _PartText(NamedTuple):
    """By what a part is found, and where its row is."""

    name: str
    text: str
    rowid: int
    group: PartGroup


_TEXTS = "select name, text, rowid, category, state, family, blockers + cautions from parts"


def _part_text(row: tuple[Any, ...], groups: dict[PartGroup, PartGroup]) -> _PartText:
    """An entry; parts of one group share it, as there are few groups and many parts."""
    name, text, rowid, category, state, family, findings = row
    group = PartGroup(category, state, family, "some" if findings else "")
    return _PartText(name, text, rowid, groups.setdefault(group, group))


def _row(values: tuple[Any, ...]) -> PartRow:
    make: Any = PartRow
    row: PartRow = make(*values[:8], msgspec.json.decode(values[8]), *values[9:])
    return row
