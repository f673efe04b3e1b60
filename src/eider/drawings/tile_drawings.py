"""Several drawings in one, in rows beside each other."""

from collections.abc import Sequence

import msgspec

from eider.drawings.primitives import Area, Balloon, Disc, Drawing, Line, Primitive, Text
from eider.geometry.plane import Point, join_boxes

replace = msgspec.structs.replace


def moved(item: Primitive, dx: float, dy: float) -> Primitive:
    """A primitive somewhere else; a note stays under its whole drawing."""

    def at(point: Point) -> Point:
        return point[0] + dx, point[1] + dy

    if isinstance(item, Line):
        return replace(item, points=tuple(map(at, item.points)))
    if isinstance(item, Area):
        return replace(item, outline=tuple(map(at, item.outline)))
    if isinstance(item, Disc):
        return replace(item, centre=at(item.centre))
    if isinstance(item, Text | Balloon):
        return replace(item, at=at(item.at))
    return item


def tile_side_by_side(drawings: Sequence[Drawing], gap: float, wide: float) -> Drawing:
    """Drawings in rows from the upper left on, `gap` mm apart, together about `wide` times as wide as high."""
    primitives: list[Primitive] = []
    boxes = []
    for drawing, (dx, dy) in zip(drawings, tile_offsets(drawings, gap, wide), strict=True):
        primitives += [moved(item, dx, dy) for item in drawing.primitives]
        x0, y0, x1, y1 = drawing.box
        boxes.append((x0 + dx, y0 + dy, x1 + dx, y1 + dy))
    return Drawing(tuple(primitives), join_boxes(boxes))


def tile_offsets(drawings: Sequence[Drawing], gap: float, wide: float) -> list[Point]:
    """How far each drawing is moved to be in such rows."""
    sizes = [(d.box[2] - d.box[0], d.box[3] - d.box[1]) for d in drawings]
    area = sum((w + gap) * (h + gap) for w, h in sizes)
    row_width = max(max(w for w, _ in sizes), (area * wide) ** 0.5)
    offsets = []
    x, y, tallest = 0.0, 0.0, 0.0
    for drawing, (width, height) in zip(drawings, sizes, strict=True):
        if x > 0 and x + width > row_width:
            x, y, tallest = 0.0, y - tallest - gap, 0.0
        offsets.append((x - drawing.box[0], y - drawing.box[3]))
        x, tallest = x + width + gap, max(tallest, height)
    return offsets
