"""A drawing laid out and painted for a view: a picture, its plain primitives, and an index of what lies where.

Nothing here touches a widget, so that it can be made in any thread.
"""

from functools import cached_property
from typing import NamedTuple

import numpy as np
import shapely
from PyQt6.QtGui import QColor, QFont, QImage, QPainter

from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.drawing_layout import fit_view, resolve_primitives
from eider.drawings.primitives import Area, Disc, Drawing, Line, Plain, Text
from eider.drawings.role_styles import palette
from eider.geometry.plane import Box, Point
from eider.model.address import Address

# A line is hit within this many pixels.
REACH = 5.0


class SceneRequest(NamedTuple):
    """What is to be painted for a view of a size (pixels), and how.

    `zoom` is scale (mm per pixel), middle (mm) and size of annotations; None fits the drawing into the view, but no
    closer than `closest_fit` (mm per pixel).
    """

    drawing: Drawing
    view: tuple[int, int]
    ratio: float
    appearance: str
    font: str
    zoom: tuple[float, Point, float] | None
    closest_fit: float = 0.0


class Scene:
    """A painted drawing; `size` is that of its annotations."""

    def __init__(
        self, request: SceneRequest, image: QImage, items: tuple[Plain, ...], scale: float, centre: Point, size: float
    ) -> None:
        self.image, self.items, self.scale, self.centre, self.size = image, items, scale, centre, size
        self.view, self.appearance = request.view, request.appearance

    @cached_property
    def _index(self) -> tuple[shapely.STRtree, tuple[Plain, ...]]:
        """The boxes of all primitives that stand for something, in the order in which they were painted."""
        items = tuple(item for item in self.items if item.address is not None)
        boxes = np.array([_box(item) for item in items]).reshape(-1, 4)
        return shapely.STRtree(shapely.box(*boxes.T)), items

    def address_at(self, at: Point, scale: float) -> Address | None:
        """The address of the topmost thing at a place (mm), seen at a scale; None where there is none."""
        tree, items = self._index
        reach = REACH * scale
        found = tree.query(shapely.box(at[0] - reach, at[1] - reach, at[0] + reach, at[1] + reach))
        hit = (items[int(i)] for i in sorted(found, reverse=True) if _is_hit(items[int(i)], at, reach))
        return next((item.address for item in hit), None)

    def prepare(self) -> None:
        """Make the index now rather than at the first move of the pointer."""
        _ = self._index


def paint_scene(request: SceneRequest) -> Scene:
    """Lay out and paint a drawing, in any thread."""
    width, height = max(request.view[0], 1), max(request.view[1], 1)
    if request.zoom is None:
        scale, centre, size = fit_view(request.drawing, max(width, 60), max(height, 60))
        scale = max(scale, request.closest_fit)
    else:
        scale, centre, size = request.zoom
    items = tuple(resolve_primitives(request.drawing, scale, size))
    ratio = request.ratio
    image = QImage(round(width * ratio), round(height * ratio), QImage.Format.Format_RGB32)
    image.setDevicePixelRatio(ratio)
    image.fill(QColor(palette(request.appearance)["paper"]))
    painter = QPainter(image)
    font = QFont()
    font.fromString(request.font)
    painter.setFont(font)
    ScenePainter(painter, scale, centre, (float(width), float(height)), request.appearance).paint(items)
    painter.end()
    return Scene(request, image, items, scale, centre, size)


def _box(item: Plain) -> Box:
    if isinstance(item, Disc):
        (x, y), r = item.centre, item.radius
        return x - r, y - r, x + r, y + r
    if isinstance(item, Text):
        across = len(item.text) * item.height * 0.5 + item.height
        return item.at[0] - across, item.at[1] - item.height, item.at[0] + across, item.at[1] + item.height
    xs, ys = zip(*(item.points if isinstance(item, Line) else item.outline), strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def _is_hit(item: Plain, at: Point, reach: float) -> bool:
    """Whether a place lies in an area or text, or near a straight line; `reach` in mm."""
    if isinstance(item, Disc):
        return (at[0] - item.centre[0]) ** 2 + (at[1] - item.centre[1]) ** 2 <= item.radius**2
    x0, y0, x1, y1 = _box(item)
    if isinstance(item, Text):
        return x0 <= at[0] <= x1 and y0 <= at[1] <= y1
    if isinstance(item, Area):
        return bool(shapely.contains_xy(shapely.Polygon(item.outline), *at))
    near = x0 - reach <= at[0] <= x1 + reach and y0 - reach <= at[1] <= y1 + reach
    return len(item.points) == 2 and near and min(x1 - x0, y1 - y0) <= reach
