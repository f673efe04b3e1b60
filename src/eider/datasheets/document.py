"""One PDF, read through PDFium. PDFium is not made for threads: one lock guards every call."""

import threading
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import numpy.typing as npt

from eider.errors import InputError
from eider.geometry.shapes import Box

_pdfium = threading.RLock()
LARGEST_SIDE = 6000


class DatasheetError(InputError):
    """A PDF that cannot be used: damaged, encrypted, or not a PDF."""


class Hit(msgspec.Struct, frozen=True):
    """A place where a text was found: page from 1, boxes in PDF points from the lower left corner."""

    page: int
    boxes: tuple[Box, ...]


class Datasheet:
    """An open document."""

    def __init__(self, path: Path) -> None:
        import pypdfium2

        self.path = path
        try:
            with _pdfium:
                self._document: Any = pypdfium2.PdfDocument(str(path))
                self.sizes: tuple[tuple[float, float], ...] = tuple(
                    self._document.get_page_size(index) for index in range(len(self._document))
                )
        except FileNotFoundError:
            raise DatasheetError(f"{path.name} is not there any more; attach it again") from None
        except pypdfium2.PdfiumError as fault:
            locked = "password" in str(fault).lower()
            why = "it is locked with a password; save an open copy" if locked else "the file is damaged or no PDF"
            raise DatasheetError(f"{path.name} cannot be opened: {why}") from fault
        if not self.sizes:
            raise DatasheetError(f"{path.name} has no pages")

    @property
    def pages(self) -> int:
        """How many pages there are."""
        return len(self.sizes)

    def picture(self, page: int, scale: float) -> npt.NDArray[np.uint8]:
        """A page (from 1) as an image of shape (height, width, 3); scale 1 is 72 pixels to the inch."""
        width, height = self.sizes[page - 1]
        scale = min(scale, LARGEST_SIDE / max(width, height))
        with _pdfium:
            bitmap = self._document[page - 1].render(scale=scale, rev_byteorder=True)
            return np.ascontiguousarray(bitmap.to_numpy()[:, :, :3]).copy()

    def text(self, page: int) -> str:
        """The text of a page (from 1)."""
        with _pdfium:
            return str(self._document[page - 1].get_textpage().get_text_bounded())

    def search(self, words: str) -> list[Hit]:
        """Every place of a text, whatever its case, in reading order."""
        if not words.strip():
            return []
        hits = []
        for page in range(1, self.pages + 1):
            with _pdfium:
                textpage = self._document[page - 1].get_textpage()
                searcher = textpage.search(words, match_case=False)
                while (found := searcher.get_next()) is not None:
                    start, count = found
                    total = textpage.count_rects(start, count)
                    boxes = tuple(tuple(float(v) for v in textpage.get_rect(i)) for i in range(total))
                    hits.append(Hit(page, boxes))  # type: ignore[arg-type]  # a rectangle has four values
        return hits

    def close(self) -> None:
        """Give the document back."""
        with _pdfium:
            self._document.close()
