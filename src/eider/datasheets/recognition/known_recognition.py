"""The pages of documents that were recognised on this machine, kept by the sum of the document."""

import contextlib
import hashlib
import os
from pathlib import Path

import msgspec
import platformdirs

from eider.datasheets.recognition.recognised_page import RECOGNISER, RecognisedPage, RecognisedPart


def recognition_folder() -> Path:
    """Where recognised pages are kept, a folder for each document."""
    return Path(platformdirs.user_cache_dir("eider")) / "recognised-pages"


class KnownRecognition:
    """The recognised pages of one document; what is damaged, or was read by an older Eider, is as good as not there."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._folder: Path | None = None
        self._read: dict[int, RecognisedPage] = {}
        self._parts: dict[int, tuple[RecognisedPart, ...]] = {}

    def page(self, number: int) -> RecognisedPage | None:
        """A page (from 1) as it was recognised; None where it was not yet."""
        if number not in self._read and (found := self._from_disk(number)) is not None:
            self._read[number] = found
        return self._read.get(number)

    def _from_disk(self, number: int) -> RecognisedPage | None:
        try:
            found = msgspec.json.decode(self._file(number).read_bytes(), type=RecognisedPage)
        except (OSError, msgspec.DecodeError):
            return None
        return found if found.recogniser == RECOGNISER and found.page == number else None

    def keep(self, page: RecognisedPage) -> None:
        """Keep a page; where nothing can be written it is recognised anew once the document was closed."""
        self._read[page.page] = page
        _write(self._file(page.page), msgspec.json.encode(page))

    def parts(self, number: int) -> tuple[RecognisedPart, ...]:
        """What was recognised in pictures of a page (from 1) that has text besides."""
        if number not in self._parts:
            try:
                found = msgspec.json.decode(self._parts_file(number).read_bytes(), type=tuple[RecognisedPart, ...])
            except (OSError, msgspec.DecodeError):
                found = ()
            self._parts[number] = tuple(part for part in found if part.page.recogniser == RECOGNISER)
        return self._parts[number]

    def keep_part(self, part: RecognisedPart) -> None:
        """Keep what was recognised in a picture of a page, in place of what was within the same box."""
        number = part.page.page
        self._parts[number] = (*(other for other in self.parts(number) if other.box != part.box), part)
        _write(self._parts_file(number), msgspec.json.encode(self._parts[number]))

    def _parts_file(self, number: int) -> Path:
        return self._file(number).with_stem(f"{number}-parts")

    def _file(self, number: int) -> Path:
        if self._folder is None:
            with self._path.open("rb") as opened:
                self._folder = recognition_folder() / hashlib.file_digest(opened, "sha256").hexdigest()
        return self._folder / f"{number}.json"


def _write(file: Path, data: bytes) -> None:
    """Write a file whole; where nothing can be written it is done without."""
    with contextlib.suppress(OSError):
        file.parent.mkdir(parents=True, exist_ok=True)
        beside = file.with_suffix(f".{os.getpid()}")
        beside.write_bytes(data)
        beside.replace(file)
