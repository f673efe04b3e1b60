"""Paints plain primitives with QPainter, by the table of roles and styles."""

from collections.abc import Iterable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from eider.drawings.primitives import Area, Disc, Line, Plain, Text
from eider.drawings.role_styles import Style, styles
from eider.geometry.shapes import Point

# Letters are laid out at this size and scaled, so that they look alike at every zoom.
LAYOUT_SIZE = 40.0


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
        taken: tuple[str, float, bool] | None = None
        for item in items:
            style = self._styles[item.role]
            if isinstance(item, Text):
                self._painter.setOpacity(1.0)
                self._text(item, style)
                taken = None
                continue
            is_line = isinstance(item, Line)
            look = (item.role, item.width if isinstance(item, Line) else 0.0, is_line)
            # Primitives come by role: pens and brushes change seldom.
            if look != taken:
                self._take_up(style, *look[1:])
                taken = look
            self._shape(item)
        self._painter.setOpacity(1.0)

    def _at(self, point: Point) -> QPointF:
        return QPointF(self._x0 + point[0] / self._scale, self._y0 - point[1] / self._scale)

    def _take_up(self, style: Style, ink: float, is_line: bool) -> None:
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

    def _shape(self, item: Line | Area | Disc) -> None:
        if isinstance(item, Disc):
            radius = item.radius / self._scale
            self._painter.drawEllipse(self._at(item.centre), radius, radius)
        elif isinstance(item, Line):
            self._painter.drawPolyline(QPolygonF([self._at(point) for point in item.points]))
        else:
            self._painter.drawPolygon(QPolygonF([self._at(point) for point in item.outline]))

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
