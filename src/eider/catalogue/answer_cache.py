"""What catalogue services answered, kept on this machine: asked again with its ETag, shown with its age."""

import hashlib
import sqlite3
import time
from collections.abc import Iterable, Sequence
from contextlib import closing, suppress
from pathlib import Path
from typing import Any, NamedTuple

import msgspec
import platformdirs

from eider.catalogue.protocol import CatalogueEntry

_SCHEMA = """
create table if not exists answers (request text primary key, tag text, at real, body blob) without rowid;
create table if not exists parts (maker text, number text, at real, entry blob, primary key (maker, number))
  without rowid;
create index if not exists answers_at on answers (at);
create index if not exists parts_number on parts (number);
pragma user_version = 1;
"""
# Answers are dropped after so many days, the oldest first where there are more than so many.
MOST_DAYS, MOST_ANSWERS = 30, 5_000
# How long (s) another process is waited for.
BUSY = 5.0


_Statement = tuple[str, Sequence[tuple[object, ...]]]


class KeptAnswer(NamedTuple):
    """An answer as it was sent, its ETag, and when (s since 1970) it was last known to hold."""

    body: bytes
    tag: str
    at: float


class KnownPart(NamedTuple):
    """What was last heard of a part, and when (s since 1970)."""

    entry: CatalogueEntry
    at: float


def cache_folder() -> Path:
    """Where the answers of all services are kept."""
    return Path(platformdirs.user_cache_dir("eider")) / "catalogues"


def cache_path(address: str, folder: Path | None = None) -> Path:
    """The file for one service."""
    name = hashlib.sha256(address.rstrip("/").encode()).hexdigest()[:20]
    return (folder or cache_folder()) / f"{name}.sqlite"


class AnswerCache:
    """The answers of one service; where nothing can be kept, all is as if it were empty."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def read(self, request: str) -> KeptAnswer | None:
        """The answer to a request; None where there is none."""
        rows = self._ask("select body, tag, at from answers where request = ?", (request,))
        return KeptAnswer(*rows[0]) if rows else None

    def keep(self, request: str, answer: KeptAnswer) -> None:
        """Keep an answer, in place of an earlier one."""
        row = request, answer.tag, answer.at, answer.body
        oldest = time.time() - MOST_DAYS * 86_400
        self._write(
            ("insert or replace into answers values (?, ?, ?, ?)", [row]),
            ("delete from answers where at < ?", [(oldest,)]),
            (
                "delete from answers where request in (select request from answers order by at desc limit -1 offset ?)",
                [(MOST_ANSWERS,)],
            ),
        )

    def keep_parts(self, entries: Iterable[CatalogueEntry], at: float) -> None:
        """Keep what was heard of parts with all of their offers."""
        rows = [(*entry.key, at, msgspec.json.encode(entry)) for entry in entries]
        self._write(("insert or replace into parts values (?, ?, ?, ?)", rows))

    def known_part(self, key: tuple[str, str]) -> KnownPart | None:
        """What was last heard of a part by its manufacturer and number; None where nothing was."""
        return self.known_parts([key]).get(key)

    def known_parts(self, keys: Iterable[tuple[str, str]]) -> dict[tuple[str, str], KnownPart]:
        """What was last heard of parts; those of which nothing was are left out."""
        found: dict[tuple[str, str], KnownPart] = {}
        if not self._path.is_file():
            return found
        with suppress(sqlite3.Error, OSError), closing(self._opened()) as db:
            for key in keys:
                for at, blob in db.execute("select at, entry from parts where maker = ? and number = ?", key):
                    with suppress(msgspec.MsgspecError):
                        found[key] = KnownPart(msgspec.json.decode(blob, type=CatalogueEntry), at)
        return found

    def _opened(self) -> sqlite3.Connection:
        self._path.parent.mkdir(parents=True, exist_ok=True)
        db = sqlite3.connect(self._path, timeout=BUSY)
        try:
            db.executescript(_SCHEMA)
        except sqlite3.Error:
            db.close()
            raise
        return db

    def _ask(self, words: str, values: tuple[str, ...]) -> list[tuple[Any, Any, Any]]:
        if not self._path.is_file():
            return []
        try:
            with closing(self._opened()) as db:
                return list(db.execute(words, values))
        except (sqlite3.Error, OSError):
            return []

    def _write(self, *statements: _Statement) -> None:
        try:
            self._write_all(statements)
        except sqlite3.DatabaseError:
            # It holds nothing that cannot be asked for again.
            with suppress(OSError, sqlite3.Error):
                self._path.unlink(missing_ok=True)
                self._write_all(statements)
        except OSError:
            return

    def _write_all(self, statements: Sequence[_Statement]) -> None:
        with closing(self._opened()) as db, db:
            for words, rows in statements:
                db.executemany(words, rows)
