"""Whether a page is a picture: a scan, letters drawn as outlines, or a scan with text laid unseen over it."""

from collections.abc import Iterator, Sequence
from typing import Any

from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.page_words import PageWord
from eider.geometry.plane import Box

# A scan covers so large a share of its page; a stamp on it, such as who loaded it down, has fewer words than these.
COVERED, STAMP_WORDS = 0.5, 16
# Letters as outlines are filled, this high (points), and so many at least; such a page has fewer words than these.
LETTER_HIGH, FEWEST_LETTERS, FEWEST_WORDS = (2.0, 24.0), 150, 5
# Text is laid unseen over a scan where so many of its pieces, of the first so many, are not drawn.
UNSEEN, SAMPLE = 0.8, 60
# A page with more objects than this is no scan.
MOST_OBJECTS = 20_000


def is_scan(page: Any, crop: Box) -> bool:
    """Whether a picture covers most of an open PDFium page. The caller holds the lock of PDFium."""
    x0, y0, x1, y1 = crop
    whole = max((x1 - x0) * (y1 - y0), 1e-9)
    return any(_shared(box, crop) >= COVERED * whole for box in picture_boxes(page))


def has_unseen_text(page: Any) -> bool:
    """Whether the text of an open PDFium page is there to be searched, not seen. The caller holds the lock."""
    import pypdfium2.raw as pdfium

    modes = []
    for item in _objects(page, pdfium.FPDF_PAGEOBJ_TEXT):
        modes.append(pdfium.FPDFTextObj_GetTextRenderMode(item) == pdfium.FPDF_TEXTRENDERMODE_INVISIBLE)
        if len(modes) == SAMPLE:
            break
    return bool(modes) and sum(modes) >= UNSEEN * len(modes)


def has_letters_as_outlines(words: Sequence[PageWord], paths: Sequence[PathPiece]) -> bool:
    """Whether a page has next to no words, and many filled shapes of the size of letters."""
    if len(words) >= FEWEST_WORDS:
        return False
    low, high = LETTER_HIGH
    shapes = (path for path in paths if path.is_filled and len(path.points) > 4)
    return sum(low <= path.box[3] - path.box[1] <= high for path in shapes) >= FEWEST_LETTERS


def picture_boxes(page: Any) -> Iterator[Box]:
    """The boxes of the pictures on an open PDFium page. The caller holds the lock of PDFium."""
    import ctypes

    import pypdfium2.raw as pdfium

    for kind in (pdfium.FPDF_PAGEOBJ_IMAGE, pdfium.FPDF_PAGEOBJ_FORM):
        for item in _objects(page, kind):
            if kind == pdfium.FPDF_PAGEOBJ_FORM and not _holds_picture(pdfium, item):
                continue
            edges = [ctypes.c_float() for _ in range(4)]
            if pdfium.FPDFPageObj_GetBounds(item, *edges):
                yield edges[0].value, edges[1].value, edges[2].value, edges[3].value


def _holds_picture(pdfium: Any, form: Any) -> bool:
    """Whether a form holds little else than a picture, as those of scanners do."""
    count = pdfium.FPDFFormObj_CountObjects(form)
    kinds = [pdfium.FPDFPageObj_GetType(pdfium.FPDFFormObj_GetObject(form, index)) for index in range(min(count, 4))]
    return pdfium.FPDF_PAGEOBJ_IMAGE in kinds and count < len(kinds) + 1


def _objects(page: Any, kind: int) -> Iterator[Any]:
    import pypdfium2.raw as pdfium

    for index in range(min(pdfium.FPDFPage_CountObjects(page.raw), MOST_OBJECTS)):
        item = pdfium.FPDFPage_GetObject(page.raw, index)
        if pdfium.FPDFPageObj_GetType(item) == kind:
            yield item


def _shared(a: Box, b: Box) -> float:
    wide, high = min(a[2], b[2]) - max(a[0], b[0]), min(a[3], b[3]) - max(a[1], b[1])
    return max(wide, 0.0) * max(high, 0.0)
