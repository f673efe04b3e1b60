"""The proof's pages of values: each with the cut-out of the datasheet that shows it, and a second person's tick."""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from pathlib import Path

from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from eider.datasheets import Datasheet, DatasheetError
from eider.datasheets.document import PageText
from eider.datasheets.page_frame import around
from eider.datasheets.value_labels import with_label
from eider.drawings.role_styles import palette
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.evidence.value_evidence import EvidencedValue, datasheet_names, evidence_words, is_struck
from eider.exchange.pdf_drawings import BOLD, FONT, cut_text
from eider.model.address import Address, dimension_letter
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence

WIDTH, HEIGHT = A4
MARGIN, ROW = 12 * mm, 17.0
# Pixels per point of a cut-out, and the room for it on the page.
SCALE, PICTURE = 3.0, (196.0, 14.0)
COLUMNS = (MARGIN, MARGIN + 92, MARGIN + 178, MARGIN + 382, MARGIN + 476)


class _Pages:
    """The documents of a part, opened when they are first wanted."""

    def __init__(self, paths: Mapping[str, Path]) -> None:
        self._paths, self._open = paths, dict[str, Datasheet]()
        self._texts: dict[tuple[str, int], PageText] = {}

    def cut_out(self, evidence: Evidence | None) -> ImageReader | None:
        """The picture of a place; None where it has no place, or its document cannot be read."""
        if evidence is None or evidence.box is None or evidence.document not in self._paths:
            return None
        try:
            if evidence.document not in self._open:
                self._open[evidence.document] = Datasheet(self._paths[evidence.document])
            document = self._open[evidence.document]
            key = (evidence.document, evidence.page)
            if key not in self._texts:
                self._texts[key] = document.read(evidence.page)
            box = around(with_label(self._texts[key], evidence.box))
            return ImageReader(Image.fromarray(document.snippet(evidence.page, box, SCALE)))
        except DatasheetError:
            return None

    def close(self) -> None:
        """Give them back."""
        for document in self._open.values():
            document.close()


@contextmanager
def _pages(paths: Mapping[str, Path]) -> Iterator[_Pages]:
    pages = _Pages(paths)
    try:
        yield pages
    finally:
        pages.close()


def draw_values(
    canvas: Canvas, bundle: Bundle, documents: Mapping[str, Path], former: Mapping[Address, str] | None = None
) -> None:
    """Add as many pages as the values need, without values none; those that are in `former` say what they were."""
    values = list(evidenced_values(bundle))
    per_page = int((HEIGHT - 2 * MARGIN - 46) / ROW)
    with _pages(documents) as pages:
        for start in range(0, len(values), per_page):
            _page(canvas, bundle, values[start : start + per_page], pages, former or {})


def _page(
    canvas: Canvas,
    bundle: Bundle,
    values: Sequence[EvidencedValue],
    pages: _Pages,
    former: Mapping[Address, str],
) -> None:
    canvas.setFillColor(HexColor(palette()["paper"]))
    canvas.rect(0, 0, WIDTH, HEIGHT, stroke=0, fill=1)
    covered, top = evidence_coverage(bundle), HEIGHT - MARGIN
    canvas.setFillColor(HexColor(palette()["ink"]))
    canvas.setFont(BOLD, 12)
    canvas.drawString(MARGIN, top - 10, f"{bundle.part.name}: values and where they stand")
    canvas.setFont(FONT, 8.5)
    canvas.drawRightString(WIDTH - MARGIN, top - 10, covered.words)
    canvas.setFont(BOLD, 7)
    canvas.setFillColor(HexColor(palette()["accent"]))
    for x, title in zip(COLUMNS, ("Value of", "In the part", "In the datasheet", "Evidence", "Confirmed"), strict=True):
        canvas.drawString(x, top - 28, title)
    names = datasheet_names(bundle.part)
    for index, value in enumerate(values):
        y = top - 46 - index * ROW
        _row(canvas, bundle, value, y, pages, names)
        if value.address in former:
            _mark_change(canvas, former[value.address], y)
    canvas.showPage()


def draw_mark(canvas: Canvas, x: float, y: float, height: float) -> None:
    """A bar left of what changed."""
    canvas.saveState()
    canvas.setFillColor(HexColor(palette()["accent"]))
    canvas.rect(x - 5, y, 2.2, height, stroke=0, fill=1)
    canvas.restoreState()


def _mark_change(canvas: Canvas, was: str, y: float) -> None:
    draw_mark(canvas, MARGIN, y - 3, ROW - 3)
    canvas.setFillColor(HexColor(palette()["accent"]))
    canvas.setFont(FONT, 5.5)
    canvas.drawRightString(COLUMNS[2] - 4, y - 2.5, cut_text(f"was {was}" if was else "new", 84, 5.5))
    canvas.setFillColor(HexColor(palette()["ink"]))


def _row(
    canvas: Canvas, bundle: Bundle, value: EvidencedValue, y: float, pages: _Pages, names: Mapping[str, str]
) -> None:
    letter = dimension_letter(value.address)
    own = bundle.sheet.datasheet_letter(letter) if letter else ""
    canvas.setStrokeColor(HexColor(palette()["grid"]))
    canvas.setLineWidth(0.4)
    canvas.line(MARGIN, y - 4, WIDTH - MARGIN, y - 4)
    canvas.setFont(FONT, 7.5)
    canvas.setFillColor(HexColor(palette()["ink"]))
    canvas.drawString(COLUMNS[0], y + 1, cut_text(f"{value.name} (sheet: {own})" if own else value.name, 88, 7.5))
    canvas.drawString(COLUMNS[1], y + 1, cut_text(value.text, 90, 7.5))
    picture = pages.cut_out(value.evidence or value.former)
    if picture is not None:
        width, height = picture.getSize()
        factor = min(PICTURE[0] / width, PICTURE[1] / height)
        canvas.drawImage(picture, COLUMNS[2], y - 3, width * factor, height * factor)
    if is_struck(value.evidence, value.former):
        canvas.setFillColor(HexColor(palette()["red"]))
    canvas.drawString(
        COLUMNS[3],
        y + 1,
        cut_text(
            evidence_words(value, names),
            COLUMNS[4] - COLUMNS[3] - 6,
            7.5,
        ),
    )
    canvas.setFillColor(HexColor(palette()["ink"]))
    confirmed = value.evidence.confirmed_by if value.evidence else ""
    canvas.drawString(
        COLUMNS[4], y + 1, cut_text(f"✓ {confirmed}" if confirmed else "", WIDTH - MARGIN - COLUMNS[4], 7.5)
    )
