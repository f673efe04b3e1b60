"""Paints plain primitives with QPainter, by the table of roles and styles."""

from collections.abc import Iterable, Iterator
from itertools import groupby
from typing import cast

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from eider.drawings.primitives import Area, Disc, Line, Plain, Text
from eider.drawings.role_styles import Style, styles
from eider.geometry.plane import Outline, Point

# Letters are laid out at this size and scaled, so that they look alike at every zoom.
LAYOUT_SIZE = 40.0


def _look(item: Plain) -> tuple[type, str, float]:
    return type(item), item.role, item.width if isinstance(item, Line) else 0.0


class ScenePainter:
    """Paints primitives (mm, y up) into a view: `scale` mm per pixel, `centre` the mm at its middle."""

    def __init__(
        self, painter: QPainter, scale: float, centre: Point, size: tuple[float, float], appearance: str
    ) -> None:
        self._painter, self._scale = painter, scale
        self._x0 = size[0] / 2 - centre[0] / scale
        self._y0 = size[1] / 2 + centre[1] / scale
        self._styles = styles(appearance)
        self._font = QFont(painter.font())
        self._font.setPixelSize(int(LAYOUT_SIZE))
        self._metrics = QFontMetricsF(self._font)
        self._capital = self._metrics.capHeight()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)

    def paint(self, items: Iterable[Plain]) -> None:
        """Paint all primitives in their order."""
        # Primitives come by role: pens and brushes change seldom.
        for (kind, role, ink), alike in groupby(items, _look):
            style = self._styles[role]
            if kind is Text:
                self._painter.setOpacity(1.0)
                for item in alike:
                    self._text(cast(Text, item), style)
                continue
            self._take_up(style, ink, is_line=kind is Line)
            if kind is Disc:
                self._discs(cast(Iterator[Disc], alike))
            elif kind is Line:
                for item in alike:
                    self._painter.drawPolyline(self._polygon(cast(Line, item).points))
            else:
                for item in alike:
                    self._painter.drawPolygon(self._polygon(cast(Area, item).outline))
        self._painter.setOpacity(1.0)

    def _at(self, point: Point) -> QPointF:
        return QPointF(self._x0 + point[0] / self._scale, self._y0 - point[1] / self._scale)

    def _take_up(self, style: Style, ink: float, *, is_line: bool) -> None:
        """Pen and brush of a role; `ink` is the width of a line in mm, 0 for a hairline of the role's own."""
        width = max(ink / self._scale, 1.0) if ink > 0 else style.width
        pen = QPen(Qt.PenStyle.NoPen)
        if style.stroke:
            pen = QPen(QColor(style.stroke), width)
            pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap if ink > 0 else Qt.PenCapStyle.FlatCap)
            if style.dash:
                pen.setDashPattern([value / width for value in style.dash])
        filled = style.fill and not is_line
        self._painter.setOpacity(style.alpha)
        self._painter.setPen(pen)
        self._painter.setBrush(QBrush(QColor(style.fill)) if filled else QBrush(Qt.BrushStyle.NoBrush))

    def _discs(self, discs: Iterable[Disc]) -> None:
        # There are thousands on a large grid, so that each call and look-up shows.
        draw, x0, y0, scale = self._painter.drawEllipse, self._x0, self._y0, self._scale
        for disc in discs:
            (x, y), radius = disc.centre, disc.radius / scale
            draw(QRectF(x0 + x / scale - radius, y0 - y / scale - radius, 2 * radius, 2 * radius))

    def _polygon(self, points: Outline) -> QPolygonF:
        x0, y0, scale = self._x0, self._y0, self._scale
        return QPolygonF([QPointF(x0 + x / scale, y0 - y / scale) for x, y in points])

    def _text(self, item: Text, style: Style) -> None:
        capital = item.height / self._scale
        if capital < 1.5 or not item.text:
            return
        factor = capital / self._capital
        width = self._metrics.horizontalAdvance(item.text)
        left = {"left": 0.0, "middle": -width / 2, "right": -width}[item.horizontal]
        base = {"bottom": 0.0, "middle": self._capital / 2, "top": self._capital}[item.vertical]
        painter = self._painter
        painter.save()
        painter.translate(self._at(item.at))
        painter.rotate(-item.angle)
        painter.scale(factor, factor)
        painter.setFont(self._font)
        painter.setPen(QColor(style.fill))
        painter.drawText(QPointF(left, base), item.text)
        if item.overbar:
            painter.setPen(QPen(QColor(style.fill), LAYOUT_SIZE / 14))
            bar = base - self._capital * 1.22
            painter.drawLine(QPointF(left, bar), QPointF(left + width, bar))
        painter.restore()
