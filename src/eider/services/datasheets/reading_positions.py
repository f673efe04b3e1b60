"""Where someone was reading in each document: kept beside the library, on this machine only."""

import contextlib
import json
from pathlib import Path

import msgspec

from eider.errors import EiderError
from eider.library.item_paths import PRIVATE
from eider.library.library_files import LibraryFiles
from eider.model.codec import decode

# Documents beyond this many are forgotten, the longest unread first.
MOST = 500
FILE = f"{PRIVATE}/places.json"


class ReadingPosition(msgspec.Struct, frozen=True):
    """Page from 1, how far down it (0 to 1), zoom (0: as wide as there is room), quarters turned, dark paper."""

    page: int = 1
    down: float = 0.0
    zoom: float = 0.0
    quarters: int = 0
    dark: bool = False


class ReadingPositions:
    """The places of one library; a damaged file is as good as none."""

    def __init__(self, library: Path) -> None:
        self._files = LibraryFiles(library)
        self._known: dict[str, ReadingPosition] | None = None

    def of(self, document: str) -> ReadingPosition | None:
        """Where a document was left; None where it was never read."""
        return self._load().get(document)

    def keep(self, document: str, place: ReadingPosition) -> None:
        """Remember a place; a disk that takes nothing is no reason to stop reading."""
        known = self._load()
        known.pop(document, None)
        known[document] = place
        while len(known) > MOST:
            known.pop(next(iter(known)))
        with contextlib.suppress(OSError, EiderError):
            self._files.write(FILE, json.dumps(msgspec.to_builtins(known)).encode())

    def _load(self) -> dict[str, ReadingPosition]:
        if self._known is None:
            try:
                self._known = decode(self._files.read(FILE) or b"{}", dict[str, ReadingPosition], FILE)
            except (OSError, EiderError):
                self._known = {}
        return self._known
