"""The file of an index: SQLite in the library, in the user's cache or in memory, begun again where it is damaged."""

import hashlib
import os
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any

import platformdirs

from eider.errors import EiderError
from eider.library.item_paths import PRIVATE
from eider.library.library_files import LibraryFiles

VERSION = 11
FILE = "index.sqlite"
# How long (s) a process waits for another that is writing the index.
BUSY = 10.0
_SCHEMA = """
create table if not exists about (key text primary key, value text);
create table if not exists items (id text primary key, kind text, name text, path text, family text, model text);
create table if not exists parts (
  rowid integer primary key, id text unique, name text, category text, description text, state text,
  revision integer, package text, family text, facts text, blockers integer, cautions integer, notes integer,
  updated text,
  text text);
create table if not exists contents (item text primary key, sum text);
create index if not exists contents_sum on contents (sum);
create table if not exists uses (part text, item text);
create index if not exists uses_item on uses (item);
create index if not exists uses_part on uses (part);
create index if not exists items_path on items (path);
create index if not exists parts_name on parts (name);
create index if not exists parts_state on parts (state);
create table if not exists revisions (
  id text, revision integer, kind text, path text, note text, made_by text, at text, made_in text,
  primary key (id, revision));
create table if not exists faults (path text primary key, message text);
create table if not exists checked (part text primary key, state text, findings text);
"""
TABLES = ("about", "items", "parts", "contents", "uses", "revisions", "faults", "checked")
# What sqlite says where nothing can be written: no room, no right, no disk.
NOT_WRITTEN = (sqlite3.SQLITE_FULL, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_CANTOPEN)
# What sqlite says of a file that is not one of its own, or not as it was written.
_DAMAGED = (sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB, sqlite3.SQLITE_ERROR)


def open_index(files: LibraryFiles) -> sqlite3.Connection:
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
        return index_in_memory()


def index_in_memory() -> sqlite3.Connection:
    """An empty index that is on no disk."""
    return _prepared(sqlite3.connect(":memory:"))


def _opened(path: Path) -> sqlite3.Connection:
    """Open an index, or start again where it is damaged or of another version: it holds nothing of its own."""
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
        return all(_columns(db, table) == _columns(empty, table) for table in TABLES)


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
