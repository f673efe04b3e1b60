"""The pages of documents that were recognised on this machine, kept by the sum of the document."""

import contextlib
import hashlib
import os
from pathlib import Path

import msgspec
import platformdirs

from eider.datasheets.recognition.recognised_page import RECOGNISER, RecognisedPage


def recognition_folder() -> Path:
    """Where recognised pages are kept, a folder for each document."""
    return Path(platformdirs.user_cache_dir("eider")) / "recognised-pages"


class KnownRecognition:
    """The recognised pages of one document; what is damaged, or was read by an older Eider, is as good as not there."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._folder: Path | None = None
        self._read: dict[int, RecognisedPage] = {}

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
        file = self._file(page.page)
        with contextlib.suppress(OSError):
            file.parent.mkdir(parents=True, exist_ok=True)
            beside = file.with_suffix(f".{os.getpid()}")
            beside.write_bytes(msgspec.json.encode(page))
            beside.replace(file)

    def _file(self, number: int) -> Path:
        if self._folder is None:
            with self._path.open("rb") as opened:
                self._folder = recognition_folder() / hashlib.file_digest(opened, "sha256").hexdigest()
        return self._folder / f"{number}.json"
