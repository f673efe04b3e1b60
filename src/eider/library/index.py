"""The index of a library: SQLite with FTS5, derived from commits and working copies, rebuilt whenever in doubt."""

import hashlib
import json
import os
import re
import sqlite3
from collections.abc import Callable, Sequence
from contextlib import closing
from pathlib import Path
from typing import Any, NamedTuple

import msgspec
import platformdirs

from eider.errors import EiderError
from eider.library.errors import LibraryError
from eider.library.fact_values import spellings
from eider.library.item_paths import PRIVATE, kind_of
from eider.library.library_files import LibraryFiles
from eider.library.revision_trailers import ItemRevision
from eider.library.versions import Versions
from eider.library.working_copies import WorkingCopies
from eider.model.codec import DocumentError, decode
from eider.model.footprint import Footprint
from eider.model.item_ref import ItemId
from eider.model.package_sheet import PackageSheet
from eider.model.part import Part

VERSION = 5
# SQLite takes this many values in one statement, and some more.
CHUNK = 900
FILE = "index.sqlite"
# How long (s) a process waits for another that is writing the index.
BUSY = 10.0
# A word that is a value (1u, 100n, 25V) is not meant to be found inside a longer number (0.1u, 2100n, 125V).
_VALUE = re.compile(r"\d+([.,]\d+)?([pnuµμmkM](F|H|Ω|V|A|W|Hz)?|F|H|Ω|V|A|W|Hz)$", re.IGNORECASE)
_SCHEMA = """
create table if not exists about (key text primary key, value text);
create table if not exists items (id text primary key, kind text, name text, path text, family text);
create table if not exists parts (
  rowid integer primary key, id text unique, name text, category text, description text, state text,
  revision integer, package text, family text, facts text, blockers integer, cautions integer, notes integer,
  updated text);
create table if not exists uses (part text, item text);
create index if not exists uses_item on uses (item);
create index if not exists uses_part on uses (part);
create virtual table if not exists words using fts5(text, tokenize='trigram');
create index if not exists items_path on items (path);
create index if not exists parts_name on parts (name);
create table if not exists revisions (
  id text, revision integer, kind text, path text, note text, made_by text, at text, made_in text,
  primary key (id, revision)) without rowid;
create table if not exists faults (path text primary key, message text);
create table if not exists checked (part text primary key, state text, findings text);
"""


def _open_anywhere(files: LibraryFiles) -> sqlite3.Connection:
    """The index in the library, or where nothing can be written there in the user's cache, or else in memory."""
    total = hashlib.sha256(str(files.folder.resolve()).encode()).hexdigest()[:20]
    cache = Path(platformdirs.user_cache_dir("eider")) / "indexes"
    try:
        files.make_folder(PRIVATE)
        return _opened(files.folder / PRIVATE / FILE)
    except (EiderError, OSError, sqlite3.Error):
        pass
    try:
        cache.mkdir(parents=True, exist_ok=True)
        return _opened(cache / f"{total}.sqlite")
    except (OSError, sqlite3.Error):
        return _prepared(sqlite3.connect(":memory:"))


def _opened(path: Path) -> sqlite3.Connection:
    """Open an index, or start anew where it is damaged or of another version: it holds nothing of its own."""
    if path.is_symlink() or (path.exists() and not (path.is_file() and os.access(path, os.W_OK))):
        raise OSError(f"{path} is not a file that can be written")
    try:
        return _prepared(sqlite3.connect(path, timeout=BUSY))
    except sqlite3.DatabaseError as fault:
        if fault.sqlite_errorcode not in _DAMAGED:
            raise
        for name in (path, path.with_name(f"{path.name}-wal"), path.with_name(f"{path.name}-shm")):
            name.unlink(missing_ok=True)
        return _prepared(sqlite3.connect(path, timeout=BUSY))


def _has_columns(db: sqlite3.Connection) -> bool:
    """Whether the tables are those that this Eider makes: the same columns as in an empty index."""
    with closing(sqlite3.connect(":memory:")) as empty:
        empty.executescript(_SCHEMA)
        return all(_columns(db, table) == _columns(empty, table) for table in _TABLES)


def _columns(db: sqlite3.Connection, table: str) -> list[tuple[Any, ...]]:
    return list(db.execute(f"select name, pk from pragma_table_info('{table}')"))


def _damage(words: str) -> sqlite3.DatabaseError:
    fault = sqlite3.DatabaseError(words)
    fault.sqlite_errorcode = sqlite3.SQLITE_CORRUPT
    return fault


def _prepared(db: sqlite3.Connection) -> sqlite3.Connection:
    try:
        db.executescript("pragma journal_mode = wal; pragma synchronous = normal;" + _SCHEMA)
        db.execute("insert or ignore into about values ('version', ?)", (str(VERSION),))
        db.commit()
        version = db.execute("select value from about where key = 'version'").fetchone()[0]
        if version != str(VERSION) or not _has_columns(db):
            raise _damage("another version")
    except sqlite3.Error:
        db.close()
        raise
    return db


_TABLES = ("about", "items", "parts", "uses", "words", "revisions", "faults", "checked")
# What sqlite says where nothing can be written: no room, no right, no disk.
_NOT_WRITTEN = (sqlite3.SQLITE_FULL, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN)
# What sqlite says of a file that is none of its own, or not as it was written.
_DAMAGED = (sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB, sqlite3.SQLITE_ERROR)


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


class Index:
    """Search over the parts of one library. A connection belongs to the thread that made the index."""

    def __init__(self, files: LibraryFiles, versions: Versions, copies: WorkingCopies) -> None:
        self._versions, self._copies = versions, copies
        self._db = _open_anywhere(files)
        self._stamps: dict[str, int] = {}
        self._kept: dict[int, _Entry] = {}
        self._version = -1
        self._seen = ""

    def close(self) -> None:
        """Close the connection."""
        self._db.close()

    def refresh(self) -> None:
        """Take over what was released or changed since the last time."""
        self.follow_commits()
        self._write(self._take_copies)

    def follow_commits(self) -> None:
        """Take over what was committed since the last time; nothing is read where the branch has not moved."""
        if self._versions.head != self._seen:
            self._write(self._take_commits)

    def _write(self, work: Callable[[], None]) -> None:
        """Change the index; where the disk takes nothing any more, one in memory takes its place.

        Raises:
            LibraryError: another process holds the index for too long.
        """
        try:
            with self._db:
                work()
        except sqlite3.OperationalError as fault:
            if fault.sqlite_errorcode & 0xFF not in _NOT_WRITTEN:
                raise LibraryError(f"the index of the library cannot be written: {fault}; try again") from fault
            self._db.close()
            self._db = _prepared(sqlite3.connect(":memory:"))
            self._kept.clear()
            self._stamps, self._seen, self._version = {}, "", -1
            with self._db:
                self._take_commits()
                work()

    def _take_commits(self) -> None:
        head = self._versions.head
        if head != self._seen:
            # Another process may be at the same: who comes second finds it done.
            self._db.execute("begin immediate")
            found = self._db.execute("select value from about where key = 'head'").fetchone()
            since = found[0] if found else ""
            if since and not self._versions.is_before_head(since):
                # Another branch, or a history that was rewritten: what was seen there says nothing of this one.
                self._forget()
                since = ""
            changed = sorted(self._versions.changed_paths(since), key=lambda entry: kind_of(entry.path) == "part")
            for entry in changed:
                self._take_path(entry.path, entry.is_there)
            self._take_revisions(since)
            self._db.execute("insert or replace into about values ('head', ?)", (head,))
        self._seen = head

    def _forget(self) -> None:
        for table in _TABLES[1:]:
            self._db.execute(f"delete from {table}")
        self._kept.clear()
        self._stamps.clear()

    def _take_revisions(self, since: str) -> None:
        rows = (
            (r.id, r.revision, r.kind, r.path, r.note, r.by, r.at, r.commit)
            for r in self._versions.revisions_since(since)
        )
        # A number is never given twice: where somebody made two by hand, the first one holds.
        self._db.executemany("insert or ignore into revisions values (?, ?, ?, ?, ?, ?, ?, ?)", rows)

    def history(self, item_id: str) -> tuple[ItemRevision, ...]:
        """All released revisions of an item, oldest first."""
        rows = self._db.execute("select * from revisions where id = ? order by revision", (item_id,))
        return tuple(ItemRevision(*row) for row in rows)

    def revision(self, item_id: str, revision: int) -> ItemRevision | None:
        """One released revision of an item; None where there is none."""
        row = self._db.execute("select * from revisions where id = ? and revision = ?", (item_id, revision)).fetchone()
        return ItemRevision(*row) if row else None

    def newest_revision(self, item_id: str) -> int:
        """The number of an item's newest revision; 0 where none is released."""
        row = self._db.execute("select max(revision) from revisions where id = ?", (item_id,)).fetchone()
        return int(row[0] or 0)

    def _take_path(self, path: str, present: bool) -> None:
        kind = kind_of(path)
        if not kind:
            return
        self._db.execute("delete from faults where path = ?", (path,))
        if not present:
            self._leave_path(path, kind)
            return
        try:
            self._take_item(path, kind, self._versions.read(path) or b"")
        except (LibraryError, DocumentError) as fault:
            # A file that is no item of ours does not keep the rest of the library from being found.
            self._db.execute("insert or replace into faults values (?, ?)", (path, str(fault)))

    def _leave_path(self, path: str, kind: str) -> None:
        old = self._db.execute("select id from items where path = ?", (path,)).fetchone()
        self._db.execute("delete from items where path = ?", (path,))
        if old and kind == "part":
            self._drop(old[0])

    def _take_item(self, path: str, kind: str, data: bytes) -> None:
        about = decode(data, _ItemHead, path)
        row = (about.id, kind, about.name, path, about.family)
        self._db.execute("insert or replace into items values (?, ?, ?, ?, ?)", row)
        if kind == "part":
            part = decode(data, Part, path)
            self._put(part, "released", self._family(part.package.id), part.footprint.name, {})

    def faults(self) -> dict[str, str]:
        """Files that were released or committed by hand and are no items: what is wrong, by path."""
        return dict(self._db.execute("select path, message from faults order by path"))

    def _take_copies(self) -> None:
        stamps = self._copies.stamps()
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
                self._put(
                    part, "changed" if part.release else "draft", sheet.family, _shown(sheet, footprint), copy.findings
                )
        for part_id in known - set(stamps):
            self._back_to_release(part_id)
        self._stamps = stamps

    def _back_to_release(self, part_id: str) -> None:
        row = self._db.execute("select path from items where id = ?", (part_id,)).fetchone()
        if row:
            self._take_path(row[0], True)
        else:
            self._drop(part_id)

    def _family(self, package_id: str) -> str:
        row = self._db.execute("select family from items where id = ?", (package_id,)).fetchone()
        return row[0] if row else ""

    def _drop(self, part_id: str) -> None:
        row = self._db.execute("select rowid from parts where id = ?", (part_id,)).fetchone()
        if row:
            self._kept.pop(row[0], None)
            self._db.execute("delete from words where rowid = ?", row)
            self._db.execute("delete from parts where rowid = ?", row)
            self._db.execute("delete from uses where part = ?", (part_id,))

    def _put(self, part: Part, state: str, family: str, package: str, findings: dict[str, int]) -> None:
        self._drop(part.id)
        facts = {name: fact.value for name, fact in part.facts.items()}
        texts = [part.name, part.description, part.category, package, family, *facts.values()]
        texts += [other for value in facts.values() for other in spellings(value)]
        texts = [_plain(text) for text in texts]
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
        )
        marks = ", ".join("?" * len(values))
        cursor = self._db.execute(f"insert into parts values (null, {marks})", values)
        refs = (part.package, part.symbol, part.footprint, part.body)
        self._db.executemany("insert into uses values (?, ?)", [(part.id, ref.id) for ref in refs])
        self._db.execute("insert into words (rowid, text) values (?, ?)", (cursor.lastrowid, " ".join(texts)))

    def search(self, words: Sequence[str] = (), limit: int = 20_000) -> list[PartRow]:
        """Parts that hold every word, in any order and any case; * and ? are wildcards. Sorted by name."""
        phrases, exact = _split(words)
        # Sorted and cut by sqlite, unless each hit has to be looked at first.
        most = -1 if exact else limit
        if phrases:
            found = self._db.execute(
                "select p.rowid from words w join parts p on p.rowid = w.rowid where words match ?"
                " order by p.name limit ?",
                (" ".join(phrases), most),
            )
        else:
            found = self._db.execute("select rowid from parts order by name limit ?", (most,))
        entries = self._entries([row[0] for row in found])
        if exact:
            entries = [entry for entry in entries if all(_holds(entry.text, word) for word in exact)]
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

    def note_findings(self, noted: Sequence[tuple[str, str, str]]) -> None:
        """Note what was found: part, state and findings (JSON) of each."""
        self._write(lambda: self._note(noted))

    def _note(self, noted: Sequence[tuple[str, str, str]]) -> None:
        self._db.executemany("insert or replace into checked values (?, ?, ?)", noted)

    def stamp_of(self, part_id: str) -> int:
        """When the working copy of a part was changed last (ns); 0 where there is none."""
        return self._stamps.get(part_id, 0)

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


class _ItemHead(msgspec.Struct, frozen=True):
    """What the index has of an item that is no part."""

    id: ItemId
    name: str
    family: str = ""


class _Entry(NamedTuple):
    """A row and the text that it is found by."""

    row: PartRow
    text: str


def _split(words: Sequence[str]) -> tuple[list[str], list[str]]:
    """What the trigrams find (pieces of three letters and more, quoted), and words that need a closer look."""
    plain = [_plain(word) for word in words]
    pieces = [piece for word in plain for piece in re.split(r"[*?]", word) if len(piece) >= 3]
    exact = [word for word in plain if word not in pieces or _VALUE.match(word)]
    return ['"' + piece.replace('"', '""') + '"' for piece in pieces], exact


def _holds(text: str, word: str) -> bool:
    """Whether a text of the index holds a word: its pieces between * in their order, a value as a number of its own."""
    if "?" in word:
        return re.search(".*".join(re.escape(p).replace(r"\?", ".") for p in word.split("*")), text) is not None
    is_value, at = _VALUE.match(word) is not None, 0
    for piece in word.split("*"):
        at = text.find(piece, at)
        while is_value and at > 0 and (text[at - 1].isdigit() or text[at - 1] in ".,"):
            at = text.find(piece, at + 1)
        if at < 0:
            return False
        at += len(piece)
    return True


def _plain(text: str) -> str:
    """As the index holds it: small letters, and the micro sign, of which there are two, as people type it."""
    return text.replace("µ", "u").replace("μ", "u").lower()


def _shown(sheet: PackageSheet, footprint: Footprint) -> str:
    return footprint.name or sheet.name
