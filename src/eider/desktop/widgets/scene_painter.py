"""Paints plain primitives with QPainter, by the table of roles and styles."""

import math
from collections.abc import Iterable, Iterator, Sequence
from itertools import groupby
from typing import cast

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QImage, QPainter, QPen, QPolygonF

from eider.drawings.primitives import Area, Disc, Line, Plain, Text
from eider.drawings.role_styles import Style, styles
from eider.geometry.plane import Outline, Point

# Letters are laid out at this size and scaled, so that they look alike at every zoom.
LAYOUT_SIZE = 40.0


# So many small discs that are alike are copies of one picture, which is made for each quarter of a pixel (pixels).
COPIED_FROM, LARGEST_COPIED, PARTS = 50, 40.0, 4


def _is_upright(outline: Outline) -> bool:
    if len(outline) != 4:
        return False
    (xa, ya), (xb, yb), (xc, yc), (xd, yd) = outline
    return (xa == xd and xb == xc and ya == yb and yc == yd) or (xa == xb and xc == xd and yb == yc and ya == yd)


def _disc_picture(like: QPainter, radius: float, reach: int, part: tuple[float, float]) -> QImage:
    """A disc with the pen and brush of a painter, its centre `reach` pixels and a part of one from the corner."""
    size = 2 * reach + 2
    picture = QImage(size, size, QImage.Format.Format_ARGB32_Premultiplied)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(like.pen())
    painter.setBrush(like.brush())
    painter.drawEllipse(QPointF(reach + part[0], reach + part[1]), radius, radius)
    painter.end()
    return picture


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
                self._discs(list(cast(Iterator[Disc], alike)))
            elif kind is Line:
                for item in alike:
                    self._painter.drawPolyline(self._polygon(cast(Line, item).points))
            else:
                self._areas(cast(Iterator[Area], alike))
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

    def _areas(self, areas: Iterable[Area]) -> None:
        """Upright rectangles, by far the most, in one call for each run of them."""
        for is_upright, alike in groupby(areas, lambda area: _is_upright(area.outline)):
            if is_upright:
                self._painter.drawRects(*(self._rectangle(area.outline) for area in alike))
            else:
                for area in alike:
                    self._painter.drawPolygon(self._polygon(area.outline))

    def _rectangle(self, outline: Outline) -> QRectF:
        (xa, ya), _, (xb, yb), _ = outline
        return QRectF(self._at((xa, ya)), self._at((xb, yb))).normalized()

    def _discs(self, discs: Sequence[Disc]) -> None:
        """Discs: of many that are alike and small, one is drawn and copied to the place of each."""
        x0, y0, scale = self._x0, self._y0, self._scale
        for radius, alike in groupby(discs, lambda disc: disc.radius / scale):
            centres = [(x0 + disc.centre[0] / scale, y0 - disc.centre[1] / scale) for disc in alike]
            if len(centres) >= COPIED_FROM and radius <= LARGEST_COPIED and self._has_plain_pixels():
                self._copies(radius, centres)
            else:
                for x, y in centres:
                    self._painter.drawEllipse(QRectF(x - radius, y - radius, 2 * radius, 2 * radius))

    def _has_plain_pixels(self) -> bool:
        """Whether a pixel of the painter is one of the picture, so that pictures can be copied without a loss."""
        device = self._painter.device()
        return device is not None and device.devicePixelRatioF() == 1.0 and self._painter.transform().isIdentity()

    def _copies(self, radius: float, centres: Iterable[tuple[float, float]]) -> None:
        """The same disc at many places, to a quarter of a pixel."""
        painter = self._painter
        reach = math.ceil(radius + painter.pen().widthF() / 2) + 1
        made: dict[tuple[int, int], QImage] = {}
        for x, y in centres:
            left, top = math.floor(x), math.floor(y)
            part = round((x - left) * PARTS), round((y - top) * PARTS)
            if part not in made:
                made[part] = _disc_picture(painter, radius, reach, (part[0] / PARTS, part[1] / PARTS))
            painter.drawImage(left - reach, top - reach, made[part])

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
