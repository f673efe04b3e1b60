"""Turns what has a constant size on screen or paper (dimensions, balloons, notes) into plain primitives at a scale."""

from collections.abc import Iterator
from typing import NamedTuple

import msgspec

from eider.drawings.primitives import Area, Balloon, Dimension, Disc, Drawing, Line, Note, Plain, Primitive, Text
from eider.geometry.shapes import Box, Point, bounds, join_boxes

# All in points (1/72 inch on paper, a logical pixel on screen).
ROW = 23.0
FIRST_ROW = 17.0
ARROW, ARROW_HALF = 7.0, 2.2
OVERSHOOT, START_GAP = 3.0, 3.0
TEXT = 8.4
LETTER_RADIUS = 9.0
LABEL_GAP = 4.0
BALLOON_RADIUS, BALLOON_LIFT = 8.5, 16.0
EDGE = 9.0
# The search for the scale that fits: the drawing a little smaller each time, down to a share of the view; then
# annotations smaller.
SEARCH_STEP, LEAST_SHARE = 1.06, 0.34
SMALLER = (1.0, 0.85, 0.72, 0.6)
# Average advance of a character as a share of the height of capitals.
ADVANCE = 0.88


class Fit(NamedTuple):
    """How a drawing goes into a view: mm per point, the mm at the view's middle, and the size of annotations."""

    scale: float
    centre: Point
    size: float


def fit(drawing: Drawing, width: float, height: float, size: float = 1.0) -> Fit:
    """Fit a drawing into a view of this size in points.

    Labels move out of dimension lines that get too short for them, so the room they need jumps with the scale: the
    largest drawing that fits is searched from above. Where annotations of this size (1 is that of the screen) would
    leave it too little room, they are made smaller, and at last may be cut.
    """
    x0, y0, x1, y1 = drawing.box
    w, h = max(x1 - x0, 1e-3), max(y1 - y0, 1e-3)
    fixed = Drawing(tuple(p for p in drawing.primitives if _has_fixed_size(p)), drawing.box)
    scale = full = max(w / width, h / height)
    box = drawing.box
    for share in SMALLER:
        scale = full
        while scale < full / LEAST_SHARE:
            box = extent(fixed, scale, size * share)
            if (box[2] - box[0]) / scale <= width - 2 * EDGE and (box[3] - box[1]) / scale <= height - 2 * EDGE:
                return Fit(scale, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), size * share)
            scale *= SEARCH_STEP
    return Fit(scale, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), size * SMALLER[-1])


def _has_fixed_size(item: Primitive) -> bool:
    return isinstance(item, Dimension | Balloon | Note) or (isinstance(item, Text) and item.in_points)


def extent(drawing: Drawing, scale: float, size: float = 1.0) -> Box:
    """The box in mm that a drawing covers at a scale (mm per point), annotations and texts included."""
    boxes = [drawing.box, *(_box_of(item) for item in resolve(drawing, scale, size))]
    return join_boxes(boxes)


def _box_of(item: Plain) -> Box:
    if isinstance(item, Line):
        return bounds(item.points)
    if isinstance(item, Area):
        return bounds(item.outline)
    if isinstance(item, Disc):
        (x, y), r = item.centre, item.radius
        return x - r, y - r, x + r, y + r
    return text_box(item)


def text_box(item: Text) -> Box:
    """The box that a text with a height in mm takes up, estimated without a font."""
    x, y = item.at
    width = len(item.text) * item.height * ADVANCE
    left = {"left": 0.0, "middle": -width / 2, "right": -width}[item.horizontal]
    low = {"bottom": 0.0, "middle": -item.height / 2, "top": -item.height}[item.vertical]
    if item.angle == 90.0:
        return x - low - item.height, y + left, x - low, y + left + width
    return x + left, y + low, x + left + width, y + low + item.height


def resolve(drawing: Drawing, scale: float, size: float = 1.0) -> Iterator[Plain]:
    """Plain primitives in mm; `scale` is mm per point, `size` enlarges what has a constant size."""
    unit = scale * size
    rows = _upright_rows(drawing, unit)
    for item in drawing.primitives:
        if isinstance(item, Dimension):
            if item.optional and not _fits_inside(item, unit):
                continue
            yield from _dimension(item, drawing.box, unit, rows)
        elif isinstance(item, Balloon):
            yield from _balloon(item, unit)
        elif isinstance(item, Note):
            yield _note(item, drawing, unit)
        elif isinstance(item, Text) and item.in_points:
            yield msgspec.structs.replace(item, height=item.height * unit, in_points=False)
        else:
            yield item


def _balloon(item: Balloon, unit: float) -> Iterator[Plain]:
    x, y = item.at
    lift, radius = BALLOON_LIFT * unit, BALLOON_RADIUS * unit
    centre = (x + lift, y + lift)
    role = f"finding {item.severity}"
    yield Line(((x, y), (centre[0] - radius * 0.7, centre[1] - radius * 0.7)), role, item.place)
    yield Disc(centre, radius, role, item.place)
    yield Text(centre, str(item.number), TEXT * unit, f"{role} text", item.place)


def _note(item: Note, drawing: Drawing, unit: float) -> Text:
    """Below the lowest row of dimensions."""
    x0, y0, x1, _ = drawing.box
    rows = max((p.row for p in drawing.primitives if isinstance(p, Dimension) and p.side == "bottom"), default=0)
    below = y0 - (FIRST_ROW + rows * ROW) * unit
    return Text(((x0 + x1) / 2, below), item.text, 0.85 * TEXT * unit, item.role, vertical="top")


def _label_width(item: Dimension) -> float:
    """Points that letter and value take side by side."""
    text = len(item.text) * TEXT * ADVANCE
    return (2 * LETTER_RADIUS + LABEL_GAP if item.letter else 0.0) + text


class _Row(NamedTuple):
    """Where an upright dimension line lies: mm from the box, and the line of text above the box for its label.

    A label that does not fit along its line stands level beside it where the row is the outermost such one; the
    labels of inner rows would run across the lines further out, and are raised above the box (0 is not raised).
    """

    distance: float
    raised: int


def _upright_rows(drawing: Drawing, unit: float) -> dict[tuple[str, int], _Row]:
    found: dict[tuple[str, int], _Row] = {}
    for side in ("left", "right"):
        mine = [p for p in drawing.primitives if isinstance(p, Dimension) and p.side == side]
        shown = [p for p in mine if not p.optional or _fits_inside(p, unit)]
        outside = {p.row for p in shown if not _fits_inside(p, unit)}
        # Lines that hold their label come first: a label beside a line further in would run across them.
        for index, row in enumerate(sorted({p.row for p in shown}, key=lambda row: (row in outside, row))):
            beyond = sum(other > row for other in outside)
            found[side, row] = _Row((FIRST_ROW + index * ROW) * unit, beyond if row in outside else 0)
    return found


def _dimension(item: Dimension, box: Box, unit: float, rows: dict[tuple[str, int], _Row]) -> Iterator[Plain]:
    """Extension lines, dimension line with arrows, label; upright ones are worked out with x and y exchanged."""
    upright = item.side in ("left", "right")
    sign = 1.0 if item.side in ("top", "right") else -1.0
    along, across = (1, 0) if upright else (0, 1)
    edge = {"top": box[3], "bottom": box[1], "left": box[0], "right": box[2]}[item.side]
    away = rows[item.side, item.row].distance if upright else (FIRST_ROW + (item.row - 1) * ROW) * unit
    line_at = edge + sign * away

    def place(u: float, v: float) -> Point:
        return (v, u) if upright else (u, v)

    start, end = sorted((item.a, item.b), key=lambda p: p[along])
    u0, u1 = start[along], end[along]
    for point, u in ((start, u0), (end, u1)):
        near = point[across] + sign * START_GAP * unit
        yield Line((place(u, near), place(u, line_at + sign * OVERSHOOT * unit)), f"{item.role} extension", item.place)
    outward = u1 - u0 < 2.6 * ARROW * unit
    reach = 2 * ARROW * unit if outward else 0.0
    width = _label_width(item) * unit
    inside = _fits_inside(item, unit)
    middle = (u0 + u1) / 2
    gap = width / 2 + LABEL_GAP * unit
    pieces = [(u0, middle - gap), (middle + gap, u1)] if inside else [(u0 - reach, u1 + reach)]
    for a, b in pieces:
        yield Line((place(a, line_at), place(b, line_at)), item.role, item.place)
    for tip, towards in ((u0, 1.0), (u1, -1.0)):
        base, half = tip + (-towards if outward else towards) * ARROW * unit, ARROW_HALF * unit
        outline = (place(tip, line_at), place(base, line_at + half), place(base, line_at - half))
        yield Area(outline, f"{item.role} arrow", item.place)
    if inside:
        yield from _label(item, place(middle - width / 2, line_at), unit, 90.0 if upright else 0.0)
    elif upright:
        raised = rows[item.side, item.row].raised
        level = box[3] + raised * 2.2 * LETTER_RADIUS * unit if raised else middle
        if raised:
            yield Line(((line_at, u1), (line_at, level)), item.role, item.place)
        left = line_at + (LABEL_GAP * unit if sign > 0 else -LABEL_GAP * unit - width)
        yield from _label(item, (left, level), unit)
    else:
        yield from _label(item, (u1 + max(reach, ARROW * unit) + LABEL_GAP * unit, line_at), unit)


def _fits_inside(item: Dimension, unit: float) -> bool:
    """Whether the label finds room between the arrows."""
    along = 1 if item.side in ("left", "right") else 0
    return abs(item.a[along] - item.b[along]) > (_label_width(item) + 2 * ARROW + 3 * LABEL_GAP) * unit


def _label(item: Dimension, start: Point, unit: float, angle: float = 0.0) -> Iterator[Plain]:
    """The letter in its circle, then the value, beginning at a point; upright ones read from the right."""

    def along(by: float) -> Point:
        return (start[0], start[1] + by) if angle else (start[0] + by, start[1])

    text_at = 0.0
    if item.letter:
        radius = LETTER_RADIUS * unit
        height = TEXT * (1.0 if len(item.letter) < 2 else 0.85) * unit
        yield Disc(along(radius), radius, f"{item.role} letter", item.place)
        yield Text(along(radius), item.letter, height, f"{item.role} letter text", item.place)
        text_at = 2 * radius + LABEL_GAP * unit
    if item.text:
        yield Text(along(text_at), item.text, TEXT * unit, f"{item.role} text", item.place, "left", angle=angle)
