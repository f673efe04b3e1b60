"""What can be asked of an index about items: their revisions, paths, users and faults."""

import sqlite3
from typing import NamedTuple

from eider.library.git.revision_trailers import ItemRevision

# The largest number that SQLite can compare.
LARGEST_INTEGER = 2**63 - 1


class ItemHead(NamedTuple):
    """An item that is not a part: its id, kind and name."""

    id: str
    kind: str
    name: str


class ItemReader:
    """Reads what an index has of items. A connection belongs to the thread that made it."""

    def __init__(self, db: sqlite3.Connection) -> None:
        self._db = db

    def history(self, item_id: str) -> tuple[ItemRevision, ...]:
        """All released revisions of an item, oldest first."""
        rows = self._db.execute("select * from revisions where id = ? order by revision", (item_id,))
        return tuple(ItemRevision(*row) for row in rows)

    def all_revisions(self) -> list[ItemRevision]:
        """The revisions of all items, the newest first as commits follow each other: clocks may be wrong."""
        return [ItemRevision(*row) for row in self._db.execute("select * from revisions order by rowid desc")]

    def revision(self, item_id: str, revision: int) -> ItemRevision | None:
        """A released revision of an item, or None if there is no such revision."""
        if not 0 < revision <= LARGEST_INTEGER:
            return None
        row = self._db.execute("select * from revisions where id = ? and revision = ?", (item_id, revision)).fetchone()
        return ItemRevision(*row) if row else None

    def newest_revision(self, item_id: str) -> int:
        """The number of an item's newest revision; 0 where none is released."""
        row = self._db.execute("select max(revision) from revisions where id = ?", (item_id,)).fetchone()
        return int(row[0] or 0)

    def faults(self) -> dict[str, str]:
        """Files that were released or committed by hand and are no items: what is wrong, by path."""
        return dict(self._db.execute("select path, message from faults order by path"))

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

    def models(self) -> list[str]:
        """The sums of all STEP files that released bodies name."""
        rows = self._db.execute("select distinct model from items where kind = 'body' and model <> '' order by model")
        return [str(row[0]) for row in rows]

    def items_named(self, name: str) -> list[ItemHead]:
        """The released items that are no parts with this name or id, by kind."""
        query = "select id, kind, name from items where (name = ? or id = ?) and kind <> 'part' order by kind"
        return [ItemHead(*row) for row in self._db.execute(query, (name, name))]

    def users_of(self, item_id: str) -> list[str]:
        """Names of the parts that use an item."""
        rows = self._db.execute(
            "select p.name from uses u join parts p on p.id = u.part where u.item = ? order by p.name", (item_id,)
        )
        return [str(row[0]) for row in rows]
