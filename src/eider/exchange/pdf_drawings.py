"""Drawings as PDF, by the same roles and styles as the screen: fitted into a frame, or at their true size."""

import io
from collections.abc import Sequence
from functools import cache
from typing import NamedTuple

from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from eider.drawings.drawing_layout import extent, fit_view, resolve_primitives
from eider.drawings.primitives import Disc, Drawing, Line, Plain, Text
from eider.drawings.role_styles import Style, styles
from eider.geometry.plane import Box

FONT, BOLD = "EiderSans", "EiderSansBold"
# Capitals of the Vera faces that reportlab ships are this share of the font's size.
CAPITAL = 0.73


MM_PER_POINT = 25.4 / 72.0
# ISO 216 sheets in mm, the smallest first; the margin that printers leave free, and the strip of the title.
SHEETS = ((210.0, 297.0), (297.0, 420.0), (420.0, 594.0), (594.0, 841.0), (841.0, 1189.0))
MARGIN, TITLE = 10.0, 8.0


class Page(NamedTuple):
    """A drawing on a page of its own."""

    title: str
    drawing: Drawing


def pdf_pages(pages: Sequence[Page], name: str, *, fitted: bool = False) -> bytes:
    """Each drawing at its true size (1:1) on the smallest ISO sheet that holds it; beyond A0 it is fitted into that.

    With `fitted` each fills an A4 sheet, for what is looked at and not measured.

    The same drawings give the same bytes.
    """
    load_fonts()
    buffer = io.BytesIO()
    canvas = Canvas(buffer, invariant=1)
    canvas.setTitle(name)
    for page in pages:
        (_filling if fitted else _true_size)(canvas, page)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _filling(canvas: Canvas, page: Page) -> None:
    height, width = (length / MM_PER_POINT for length in SHEETS[0])
    margin = MARGIN / MM_PER_POINT
    canvas.setPageSize((width, height))
    canvas.setFont(FONT, 9)
    canvas.drawString(margin, height - margin - 9, page.title)
    paint(canvas, page.drawing, (margin, margin, width - margin, height - 2 * margin), 0.8)


def _true_size(canvas: Canvas, page: Page) -> None:
    x0, y0, x1, y1 = extent(page.drawing, MM_PER_POINT, 1.0)
    need = x1 - x0 + 2 * MARGIN, y1 - y0 + 2 * MARGIN + TITLE
    sheets = [sheet for upright in SHEETS for sheet in (upright, upright[::-1])]
    width, height = next((s for s in sheets if need[0] <= s[0] and need[1] <= s[1]), SHEETS[-1])
    fits = need[0] <= width and need[1] <= height
    canvas.setPageSize((width / MM_PER_POINT, height / MM_PER_POINT))
    margin = MARGIN / MM_PER_POINT
    canvas.setFont(FONT, 9)
    scale = "1:1" if fits else "fitted to the sheet"
    canvas.drawString(margin, (height - MARGIN - 3) / MM_PER_POINT, f"{page.title}   {scale}")
    if not fits:
        paint(canvas, page.drawing, (margin, margin, width / MM_PER_POINT - margin, height / MM_PER_POINT - 2 * margin))
        return
    middle = width / 2 / MM_PER_POINT, (height - TITLE) / 2 / MM_PER_POINT
    origin = middle[0] - (x0 + x1) / 2 / MM_PER_POINT, middle[1] - (y0 + y1) / 2 / MM_PER_POINT
    paint_true_size(canvas, page.drawing, origin)


def paint_true_size(canvas: Canvas, drawing: Drawing, origin: tuple[float, float], *, mirrored: bool = False) -> None:
    """Draw a drawing 1:1, its origin at a place of the page in points; `mirrored` left to right, as from below."""
    load_fonts()
    looks = styles()
    canvas.saveState()
    canvas.translate(*origin)
    if mirrored:
        canvas.scale(-1, 1)
    for item in resolve_primitives(drawing, MM_PER_POINT, 1.0):
        _Pen(canvas, (0.0, 0.0), MM_PER_POINT).draw(item, looks[item.role])
    canvas.restoreState()


@cache
def load_fonts() -> None:
    """Embed the faces that come with reportlab: they have ± – − × √ ≥ and µ, which PDF's own do not."""
    pdfmetrics.registerFont(TTFont(FONT, "Vera.ttf"))
    pdfmetrics.registerFont(TTFont(BOLD, "VeraBd.ttf"))


def paint(canvas: Canvas, drawing: Drawing, frame: Box, size: float = 0.62) -> None:
    """Fit a drawing into a frame (x0, y0, x1, y1 in points) of the page; `size` is that of its annotations."""
    load_fonts()
    x0, y0, x1, y1 = frame
    scale, centre, size = fit_view(drawing, x1 - x0, y1 - y0, size)
    origin = ((x0 + x1) / 2 - centre[0] / scale, (y0 + y1) / 2 - centre[1] / scale)
    looks = styles()
    canvas.saveState()
    for item in resolve_primitives(drawing, scale, size):
        _Pen(canvas, origin, scale).draw(item, looks[item.role])
    canvas.restoreState()


class _Pen:
    """Draws one primitive; `scale` is mm per point."""

    def __init__(self, canvas: Canvas, origin: tuple[float, float], scale: float) -> None:
        self.canvas, self.origin, self.scale = canvas, origin, scale

    def draw(self, item: Plain, style: Style) -> None:
        if isinstance(item, Text):
            self._text(item, style)
            return
        filled = not isinstance(item, Line) and bool(style.fill)
        width = item.width / self.scale if isinstance(item, Line) and item.width else style.width
        self.canvas.setDash(list(style.dash) if style.dash else [])
        self.canvas.setLineWidth(width)
        self.canvas.setLineJoin(1)
        self.canvas.setLineCap(1)
        if style.stroke:
            self.canvas.setStrokeColor(_colour(style.stroke, style.alpha))
        if filled:
            self.canvas.setFillColor(_colour(style.fill, style.alpha))
        if isinstance(item, Disc):
            x, y = self._at(item.centre)
            self.canvas.circle(x, y, item.radius / self.scale, stroke=int(bool(style.stroke)), fill=int(filled))
            return
        points = item.points if isinstance(item, Line) else item.outline
        path = self.canvas.beginPath()
        path.moveTo(*self._at(points[0]))
        for point in points[1:]:
            path.lineTo(*self._at(point))
        if not isinstance(item, Line):
            path.close()
        self.canvas.drawPath(path, stroke=int(bool(style.stroke)), fill=int(filled))

    def _text(self, item: Text, style: Style) -> None:
        size = item.height / self.scale / CAPITAL
        x, y = self._at(item.at)
        self.canvas.saveState()
        self.canvas.translate(x, y)
        self.canvas.rotate(item.angle)
        self.canvas.setFillColor(HexColor(style.fill))
        self.canvas.setFont(FONT, size)
        capital = item.height / self.scale
        width = pdfmetrics.stringWidth(item.text, FONT, size)
        left = {"left": 0.0, "middle": -width / 2, "right": -width}[item.horizontal]
        base = {"bottom": 0.0, "middle": -capital / 2, "top": -capital}[item.vertical]
        self.canvas.drawString(left, base, item.text)
        if item.overbar:
            self.canvas.setStrokeColor(HexColor(style.fill))
            self.canvas.setLineWidth(size / 14)
            self.canvas.setDash([])
            self.canvas.line(left, base + capital * 1.18, left + width, base + capital * 1.18)
        self.canvas.restoreState()

    def _at(self, point: tuple[float, float]) -> tuple[float, float]:
        return self.origin[0] + point[0] / self.scale, self.origin[1] + point[1] / self.scale


def _colour(text: str, alpha: float) -> Color:
    base = HexColor(text)
    return Color(base.red, base.green, base.blue, alpha=alpha)


def cut_text(text: str, width: float, size: float) -> str:
    """A text as long as there is room, with dots where it was cut."""
    if stringWidth(text, FONT, size) <= width:
        return text
    while text and stringWidth(f"{text}…", FONT, size) > width:
        text = text[:-1]
    return f"{text}…"
