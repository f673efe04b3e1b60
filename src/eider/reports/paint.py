"""Paints drawings with reportlab, by the same roles and styles as the screen."""

from functools import cache

from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from eider.drawings.layout import fit, resolve
from eider.drawings.primitives import Disc, Drawing, Line, Plain, Text
from eider.drawings.styles import Style, styles
from eider.geometry.shapes import Box

FONT, BOLD = "EiderSans", "EiderSansBold"
# Capitals of the Vera faces that reportlab ships are this share of the font's size.
CAPITAL = 0.73


@cache
def load_fonts() -> None:
    """Embed the faces that come with reportlab: they have ± – − × √ ≥ and µ, which PDF's own do not."""
    pdfmetrics.registerFont(TTFont(FONT, "Vera.ttf"))
    pdfmetrics.registerFont(TTFont(BOLD, "VeraBd.ttf"))


def paint(canvas: Canvas, drawing: Drawing, frame: Box, size: float = 0.62) -> None:
    """Fit a drawing into a frame (x0, y0, x1, y1 in points) of the page; `size` is that of its annotations."""
    load_fonts()
    x0, y0, x1, y1 = frame
    scale, centre, size = fit(drawing, x1 - x0, y1 - y0, size)
    origin = ((x0 + x1) / 2 - centre[0] / scale, (y0 + y1) / 2 - centre[1] / scale)
    looks = styles()
    canvas.saveState()
    for item in resolve(drawing, scale, size):
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
