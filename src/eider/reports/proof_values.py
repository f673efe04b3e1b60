"""The proof's pages of values: each with the cut-out of the datasheet that shows it, and a second person's tick."""

from collections.abc import Mapping, Sequence
from pathlib import Path

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from eider.drawings.role_styles import palette
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.evidence.value_evidence import EvidencedValue, datasheet_names, evidence_words, is_struck
from eider.exchange.pdf_drawings import BOLD, FONT, cut_text
from eider.model.address import Address, dimension_letter
from eider.model.bundle import Bundle
from eider.reports.cut_outs import CutOuts, opened_cut_outs

WIDTH, HEIGHT = A4
MARGIN, ROW = 12 * mm, 17.0
# The room for a cut-out on the page.
PICTURE = (196.0, 14.0)
COLUMNS = (MARGIN, MARGIN + 92, MARGIN + 178, MARGIN + 382, MARGIN + 476)


def draw_values(
    canvas: Canvas, bundle: Bundle, documents: Mapping[str, Path], former: Mapping[Address, str] | None = None
) -> None:
    """Add as many pages as the values need, without values none; those that are in `former` say what they were."""
    values = list(evidenced_values(bundle))
    per_page = int((HEIGHT - 2 * MARGIN - 46) / ROW)
    with opened_cut_outs(documents) as pages:
        for start in range(0, len(values), per_page):
            _page(canvas, bundle, values[start : start + per_page], pages, former or {})


def _page(
    canvas: Canvas,
    bundle: Bundle,
    values: Sequence[EvidencedValue],
    pages: CutOuts,
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
    canvas: Canvas, bundle: Bundle, value: EvidencedValue, y: float, pages: CutOuts, names: Mapping[str, str]
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
    cut_out = pages.picture(value.evidence or value.former)
    if cut_out is not None:
        picture = ImageReader(cut_out)
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
