"""The index of a library: SQLite, derived from commits and working copies, rebuilt whenever in doubt."""

import sqlite3
from collections.abc import Callable, Mapping, Sequence
from functools import partial

from eider.library.errors import LibraryError
from eider.library.index.content_sums import lands_sum, pins_sum
from eider.library.index.index_file import NOT_WRITTEN, TABLES, index_in_memory
from eider.library.index.index_reader import PartGroup, PartRow, SearchHits
from eider.library.index.index_writer import IndexWriter, note_content
from eider.library.item_paths import kind_of
from eider.model.codec import DocumentError
from eider.model.footprint import Footprint
from eider.model.package_sheet import PackageSheet

__all__ = ["Index", "PartGroup", "PartRow", "SearchHits"]

# After so many files what was read is put on disk: others see it, and can write between.
READ_TOGETHER = 500


class Index(IndexWriter):
    """Search over the parts of one library. A connection belongs to the thread that made the index."""

    def close(self) -> None:
        """Close the connection."""
        self._db.close()

    def refresh(self) -> None:
        """Take over what was released or changed since the last time."""
        self.follow_commits()
        self.follow_copies()

    def follow_copies(self) -> None:
        """Take over what was changed in working copies since the last time."""
        self._write(self._take_copies)

    def follow_commits(self, tell: Callable[[float], None] = lambda _share: None) -> None:
        """Take over what was committed since the last time; nothing is read where the branch has not moved.

        `tell` hears which share is done, and may raise to cancel: the next time what is missing is read.
        """
        while self._versions.head != self._seen:
            self._write(partial(self._take_commits, tell))

    def _write(self, work: Callable[[], None]) -> None:
        """Change the index; where the disk takes nothing any more, one in memory takes its place.

        Raises:
            LibraryError: another process holds the index for too long.
        """
        try:
            with self._db:
                work()
        except sqlite3.OperationalError as fault:
            if fault.sqlite_errorcode & 0xFF not in NOT_WRITTEN:
                raise LibraryError(f"the index of the library cannot be written: {fault}; try again") from fault
            self._db.close()
            self.use_database(index_in_memory())
            self._stamps, self._seen = {}, ""
            self.follow_commits()
            with self._db:
                work()

    def _take_commits(self, tell: Callable[[float], None]) -> None:
        """Take over commits, a piece at a time; given up where another process has done it meanwhile."""
        head, since = self._versions.head, self._begin()
        if head == since:
            self._seen = head
            return
        if since and not self._versions.is_before_head(since):
            # Another branch, or a history that was rewritten: what was seen there says nothing of this one.
            self._forget()
            self._db.commit()
            return
        self._take_revisions(since)
        changed = sorted(self._versions.changed_paths(since), key=lambda entry: kind_of(entry.path) == "part")
        for count, entry in enumerate(changed):
            if count % READ_TOGETHER == 0 and count:
                self._db.commit()
                tell(count / len(changed))
                if self._begin() != since:
                    return
            if entry.is_text:
                self._take_path(entry.path, entry.is_there)
            elif kind_of(entry.path):
                self._note_fault(entry.path, "the name of the file is not UTF-8; rename it" if entry.is_there else "")
        self._db.execute("insert or replace into about values ('head', ?)", (head,))
        self._seen = head

    def _begin(self) -> str:
        """Keep others from writing; returns the commit to which the library was read, empty where to none."""
        self._db.execute("begin immediate")
        found = self._db.execute("select value from about where key = 'head'").fetchone()
        return str(found[0]) if found else ""

    def _forget(self) -> None:
        for table in TABLES[1:]:
            self._db.execute(f"delete from {table}")
        self._db.execute("delete from about where key = 'head'")
        self.forget_parts()
        self._stamps.clear()

    def _take_revisions(self, since: str) -> None:
        rows = (
            (r.id, r.revision, r.kind, r.path, r.note, r.by, r.at, r.commit)
            for r in self._versions.revisions_since(since)
        )
        # A number is never given twice: where someone made two by hand, the first one holds.
        self._db.executemany("insert or ignore into revisions values (?, ?, ?, ?, ?, ?, ?, ?)", rows)

    def _take_copies(self) -> None:
        stamps = self._copies.stamps()
        if stamps == self._stamps and not self._has_gone(stamps):
            return
        # Two connections that find a part missing must not both put it in.
        self._db.execute("begin immediate")
        rows = self._db.execute("select id from parts where state in ('draft', 'changed')")
        known = {str(row[0]) for row in rows}
        for part_id, stamp in stamps.items():
            if self._stamps.get(part_id) == stamp:
                continue
            try:
                copy = self._copies.load(part_id)
            except DocumentError:
                continue
            if copy:
                part, sheet, footprint = copy.bundle.part, copy.bundle.sheet, copy.bundle.footprint
                note_content(self._db, footprint.id, lands_sum(footprint.pattern.pads) if footprint.pattern else "")
                note_content(self._db, copy.bundle.symbol.id, pins_sum(copy.bundle.symbol.pins))
                self._put(
                    part, "changed" if part.release else "draft", sheet.family, _shown(sheet, footprint), copy.findings
                )
        for part_id in known - set(stamps):
            self._back_to_release(part_id)
        self._stamps = stamps

    def _has_gone(self, stamps: Mapping[str, int]) -> bool:
        """Whether a working copy that the index knows is not there any more."""
        rows = self._db.execute("select id from parts where state in ('draft', 'changed')")
        return any(row[0] not in stamps for row in rows)

    def _back_to_release(self, part_id: str) -> None:
        row = self._db.execute("select path from items where id = ?", (part_id,)).fetchone()
        if not row:
            self._drop(part_id)
            return
        # What its items hold was that of the working copy.
        shared = "select path from items where id in (select item from uses where part = ?)"
        for (path,) in self._db.execute(shared, (part_id,)).fetchall():
            self._take_path(path, True)
        self._take_path(row[0], True)

    def note_findings(self, noted: Sequence[tuple[str, str, str]]) -> None:
        """Note what was found: part, state and findings (JSON) of each."""
        self._write(lambda: self._note(noted))

    def _note(self, noted: Sequence[tuple[str, str, str]]) -> None:
        self._db.executemany("insert or replace into checked values (?, ?, ?)", noted)

    def stamp_of(self, part_id: str) -> int:
        """When the working copy of a part was changed last (ns); 0 where there is none."""
        return self._stamps.get(part_id, 0)


def _shown(sheet: PackageSheet, footprint: Footprint) -> str:
    return footprint.name or sheet.name
