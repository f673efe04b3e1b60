"""One PDF, read through PDFium. PDFium is not made for threads: one lock guards every call."""

import ctypes
import math
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import numpy.typing as npt

from eider.datasheets.pages.font_letters import lacks_letters, makes_words
from eider.datasheets.pages.page_frame import PageFrame, ordered, turned
from eider.datasheets.pages.page_paths import PathPiece, read_paths
from eider.datasheets.pages.page_pictures import (
    STAMP_WORDS,
    has_letters_as_outlines,
    has_unseen_text,
    is_scan,
    picture_boxes,
)
from eider.datasheets.pages.page_words import Char, PageWord, line_text, read_words, straight
from eider.datasheets.pages.ruling_lines import Ruling, read_areas, read_rulings, turned_ruling
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.recognition.known_recognition import KnownRecognition
from eider.datasheets.recognition.page_straightening import straight_cut_out, straightened
from eider.datasheets.recognition.recognised_page import (
    UNSEEN_CONFIDENCE,
    RecognisedPart,
    places_of,
    with_parts,
    with_witnesses,
)
from eider.errors import InputError
from eider.geometry.plane import Box

_pdfium = threading.RLock()
LARGEST_SIDE = 6000
# A page with more characters is not a page for people; the rest is left out.
MOST_CHARS = 60_000
SPACE = 32
# Letters that run at such an angle (radians, 10°) to the edges of the page are a watermark, and no text of it.
ASLANT = 0.17
# So many letters before and after a hit are shown with it.
AROUND = 28
# The pages read last are kept: a table is looked at by several readers, and on the page after it.
READ_KEPT = 8


class DatasheetError(InputError):
    """A PDF that cannot be used: damaged, encrypted, or not a PDF."""


class Hit(msgspec.Struct, frozen=True):
    """A place where a text was found: page from 1, boxes in PDF points, and the words around it."""

    page: int
    boxes: tuple[Box, ...]
    around: str = ""


class PageText(msgspec.Struct, frozen=True):
    """What is on a page (from 1): words, rulings and the boxes of areas, in PDF points, and how the page is shown.

    It is not `is_readable` where its fonts do not say which letters they draw, so that its words are others. It
    `is_picture` where it has to be recognised, and was not yet; once it was, it has the words that were seen.
    """

    page: int
    frame: PageFrame
    words: tuple[PageWord, ...]
    rulings: tuple[Ruling, ...]
    is_readable: bool = True
    areas: tuple[Box, ...] = ()
    is_picture: bool = False


def turned_page(page: PageText, quarters: int) -> PageText:
    """A page turned so that its text of so many quarters runs across; boxes turn as `page_frame.turned` says."""
    if not quarters:
        return page
    return msgspec.structs.replace(
        page,
        frame=PageFrame(turned(page.frame.crop, quarters), (page.frame.quarters + quarters) % 4),
        words=tuple(
            msgspec.structs.replace(straight(word, quarters), quarters=(word.quarters - quarters) % 4)
            for word in page.words
        ),
        rulings=tuple(turned_ruling(ruling, quarters) for ruling in page.rulings),
        areas=tuple(turned(area, quarters) for area in page.areas),
    )


class Datasheet:
    """An open document."""

    def __init__(self, path: Path) -> None:
        import pypdfium2

        self.path = path
        self._read_last: dict[int, PageText] = {}
        self._texts: dict[int, str] = {}
        # Pages, of those that were read, whose fonts do not say which letters they draw.
        self.unreadable: set[int] = set()
        self.recognition = KnownRecognition(path)
        try:
            with _pdfium:
                self._document: Any = pypdfium2.PdfDocument(str(path))
                self.sizes: tuple[tuple[float, float], ...] = tuple(
                    _page_size(self._document, index) for index in range(len(self._document))
                )
        except FileNotFoundError:
            raise DatasheetError(f"{path.name} no longer exists; attach it again") from None
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

    def picture(self, page: int, scale: float, quarters: int = 0, *, inverted: bool = False) -> npt.NDArray[np.uint8]:
        """A page (from 1) as an image of shape (height, width, 3); scale 1 is 72 pixels to the inch.

        `quarters` turns it clockwise beyond what the page says itself; `inverted` gives light on dark.

        Raises:
            DatasheetError: the page has no size, or is damaged.
        """
        width, height = self.sizes[page - 1]
        if min(width, height) <= 0:
            raise DatasheetError(f"page {page} of {self.path.name} has no size; it cannot be shown")
        scale = min(scale, LARGEST_SIDE / max(width, height))
        with self._opened(page) as opened:
            pixels = straightened(_pixels(opened, scale=scale, rotation=90 * (quarters % 4)), self._askew(page))
        return np.subtract(255, pixels) if inverted else pixels

    def snippet(self, page: int, box: Box, scale: float) -> npt.NDArray[np.uint8]:
        """The cut-out of a page within a box in PDF points, as an image of shape (height, width, 3).

        Raises:
            DatasheetError: the box lies outside the page.
        """
        with self._opened(page) as opened:
            frame = _frame(opened)
            left, top, right, bottom = frame.box_to_picture(box)
            width, height = frame.size
            if min(right, width) - max(left, 0) <= 1 or min(bottom, height) - max(top, 0) <= 1:
                raise DatasheetError(f"the rectangle lies outside page {page} of {self.path.name}")
            scale = min(scale, LARGEST_SIDE / max(right - left, bottom - top, 1.0))
            return straight_cut_out(
                (left, top, right, bottom), frame.size, self._askew(page), scale,
                lambda crop: _pixels(opened, scale=scale, crop=crop),
            )  # fmt: skip

    def _askew(self, page: int) -> float:
        """By how much a recognised page has to be turned to stand straight (degrees); 0 for any other."""
        known = self.recognition.page(page)
        return known.askew if known else 0.0

    def frame(self, page: int, quarters: int = 0) -> PageFrame:
        """How a page (from 1) lies in its picture, turned clockwise by further quarters."""
        with self._opened(page) as opened:
            return _frame(opened, quarters)

    def text(self, page: int) -> str:
        """The text of a page (from 1)."""
        known = self.recognition.page(page)
        if known is not None:
            return "\n".join(line_text(line) for line in text_lines(known.words))
        if page not in self._texts:
            with self._opened(page) as opened, closing(opened.get_textpage()) as textpage:
                self._texts[page] = str(textpage.get_text_bounded())
        return self._texts[page]

    def read(self, page: int) -> PageText:
        """The words and rulings of a page (from 1).

        Raises:
            DatasheetError: the page is not there, or is damaged.
        """
        found = self._read_last.pop(page, None)
        if found is None or found.is_picture:
            with self._opened(page) as opened:
                found = self._with_parts(self._as_recognised(_read_page(opened, page), opened))
            self.unreadable = (self.unreadable - {page}) | (set() if found.is_readable else {page})
        self._read_last[page] = found
        for oldest in list(self._read_last)[:-READ_KEPT]:
            self._read_last.pop(oldest, None)
        return found

    def _as_recognised(self, page: PageText, opened: Any) -> PageText:
        """A page that is a picture, with the words that were recognised in it; any other as it is."""
        is_seen_otherwise = is_scan(opened, page.frame.crop) and has_unseen_text(opened)
        if not (page.is_picture or is_seen_otherwise):
            return page
        unseen = page.words if is_seen_otherwise else ()
        known = self.recognition.page(page.page)
        if known is not None:
            words = with_witnesses(known.words, unseen)
            drawn = tuple(path.box for path in known.paths)
            seen = msgspec.structs.replace(page, words=words, rulings=known.rulings, areas=drawn)
            return msgspec.structs.replace(seen, is_readable=True, is_picture=False)
        # An earlier recognition is a witness, not the truth.
        unsure = tuple(msgspec.structs.replace(word, confidence=UNSEEN_CONFIDENCE) for word in unseen)
        return msgspec.structs.replace(page, words=unsure or page.words, is_picture=True)

    def _with_parts(self, page: PageText) -> PageText:
        """A page with what was recognised in pictures on it, as tables of old datasheets are in newer ones."""
        parts = self.recognition.parts(page.page) if not page.is_picture else ()
        if not parts:
            return page
        return msgspec.structs.replace(
            page,
            words=with_parts(page.words, parts),
            rulings=(*page.rulings, *(ruling for part in parts for ruling in part.page.rulings)),
            areas=(*page.areas, *(path.box for part in parts for path in part.page.paths)),
        )

    def keep_part(self, part: RecognisedPart) -> None:
        """Keep what was recognised in a picture of a page that has text besides."""
        self.recognition.keep_part(part)
        self._read_last.pop(part.page.page, None)

    def pictures(self, page: int) -> tuple[Box, ...]:
        """The boxes (PDF points) of the pictures on a page (from 1).

        Raises:
            DatasheetError: the page is not there, or is damaged.
        """
        with self._opened(page) as opened:
            return tuple(picture_boxes(opened))

    def paths(self, page: int) -> tuple[PathPiece, ...]:
        """What is drawn on a page (from 1).

        Raises:
            DatasheetError: the page is not there, or is damaged.
        """
        known = self.recognition.page(page)
        if known is not None:
            return known.paths
        with self._opened(page) as opened:
            own = tuple(read_paths(opened))
        return (*own, *(path for part in self.recognition.parts(page) for path in part.page.paths))

    def search(self, words: str, pages: range | None = None) -> list[Hit]:
        """Every place of a text, whatever its case, in reading order; `pages` (from 1) are all unless given."""
        if not words.strip():
            return []
        return [hit for page in pages or range(1, self.pages + 1) for hit in self._search_page(page, words)]

    def _search_page(self, page: int, words: str) -> list[Hit]:
        known = self.recognition.page(page)
        if known is not None:
            return [Hit(page, boxes, around) for boxes, around in places_of(words, known.words)]
        parts = self.recognition.parts(page)
        hits = [Hit(page, boxes, around) for part in parts for boxes, around in places_of(words, part.page.words)]
        with self._opened(page) as opened, closing(opened.get_textpage()) as textpage:
            searcher = textpage.search(words, match_case=False)
            while (found := searcher.get_next()) is not None:
                start, count = found
                total = textpage.count_rects(start, count)
                boxes = tuple(tuple(float(v) for v in textpage.get_rect(i)) for i in range(total))
                first = max(start - AROUND, 0)
                around = " ".join(textpage.get_text_range(first, start - first + count + AROUND).split())
                hits.append(Hit(page, boxes, around))  # type: ignore[arg-type]  # a rectangle has four values
        return hits

    def close(self) -> None:
        """Give the document back; whoever still reads it elsewhere is told."""
        with _pdfium:
            document, self._document = self._document, None
            if document is not None:
                document.close()

    @contextmanager
    def _opened(self, page: int) -> Iterator[Any]:
        """A page (from 1) for as long as the lock is held: what PDFium made must go while nobody else calls it."""
        import pypdfium2

        with _pdfium:
            if self._document is None:
                raise DatasheetError(f"{self.path.name} was closed")
            if not 1 <= page <= self.pages:
                raise DatasheetError(f"{self.path.name} has no page {page}; it has {self.pages}")
            try:
                opened = self._document[page - 1]
                try:
                    yield opened
                finally:
                    opened.close()
            except pypdfium2.PdfiumError as fault:
                raise DatasheetError(f"page {page} of {self.path.name} cannot be read: it is damaged") from fault


def _read_page(opened: Any, page: int) -> PageText:
    """What PDFium says is on a page."""
    with closing(opened.get_textpage()) as textpage:
        words, paths = read_words(_chars(textpage)), tuple(read_paths(opened))
        is_readable = makes_words(words) or not lacks_letters(textpage)
    frame, rulings, areas = _frame(opened), read_rulings(paths), read_areas(paths)
    is_picture = (
        not is_readable
        or (len(words) < STAMP_WORDS and is_scan(opened, frame.crop))
        or has_letters_as_outlines(words, paths)
    )
    return PageText(page, frame, words, rulings, is_readable, areas, is_picture)


def _frame(opened: Any, quarters: int = 0) -> PageFrame:
    crop = tuple(float(v) for v in opened.get_cropbox())
    return PageFrame(crop, opened.get_rotation() // 90 + quarters)  # type: ignore[arg-type]  # a box has four values


def _pixels(opened: Any, **how: Any) -> npt.NDArray[np.uint8]:
    with closing(opened.render(rev_byteorder=True, **how)) as bitmap:
        return np.ascontiguousarray(bitmap.to_numpy()[:, :, :3]).copy()


def _chars(textpage: Any) -> Iterator[Char]:
    """The characters of a page; a space that PDFium makes up where it sees a gap is told of the character after it."""
    import pypdfium2.raw as pdfium

    raw = textpage.raw
    rect = pdfium.FS_RECTF()
    x, y = ctypes.c_double(), ctypes.c_double()
    level, quarters, after_gap = math.nan, 0, False
    bottom = top = math.nan
    for index in range(min(textpage.count_chars(), MOST_CHARS)):
        code = pdfium.FPDFText_GetUnicode(raw, index)
        # What it makes up are spaces and ends of lines: nothing else has to be asked about.
        if code <= SPACE and pdfium.FPDFText_IsGenerated(raw, index) == 1:
            after_gap = code == SPACE
            continue
        pdfium.FPDFText_GetLooseCharBox(raw, index, rect)
        box = (rect.left, rect.bottom, rect.right, rect.top)
        # Each call counts on a page of text: one as high as the one before it, which runs across, stands on its
        # baseline, and one on such a baseline runs across too.
        if quarters or box[1] != bottom or box[3] != top:
            pdfium.FPDFText_GetCharOrigin(raw, index, x, y)
            if quarters or y.value != level:
                angle = pdfium.FPDFText_GetCharAngle(raw, index)
                quarters = round(-angle / (math.pi / 2)) % 4 if angle else 0
                if abs(math.remainder(angle, math.pi / 2)) > ASLANT:
                    # The next letter is asked about anew.
                    level = bottom = top = math.nan
                    continue
            level, bottom, top = y.value, box[1], box[3]
        base = (x.value, level) if quarters else (box[0], level)
        if box[0] > box[2] or box[1] > box[3]:
            box = ordered(*box)
        size = (box[2] - box[0]) if quarters % 2 else (box[3] - box[1])
        yield Char(code, box, base, max(size, 0.1), quarters, after_gap)
        after_gap = False


def _page_size(document: Any, index: int) -> tuple[float, float]:
    """The size of a page in points. One whose crop box lies outside of its paper is shown whole, as if it had none."""
    width, height = document.get_page_size(index)
    if min(width, height) <= 0:
        page = document[index]
        page.set_cropbox(*page.get_mediabox())
        page.close()
        width, height = document.get_page_size(index)
    return width, height
