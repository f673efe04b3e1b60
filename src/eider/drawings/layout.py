"""Turns what has a constant size on screen or paper (dimensions, balloons, notes) into plain primitives at a scale."""

from collections.abc import Iterator

import msgspec

from eider.drawings.primitives import Area, Balloon, Dimension, Disc, Drawing, Line, Plain, Text
from eider.geometry.shapes import Box, Point

# All in points (1/72 inch on paper, a logical pixel on screen).
ROW = 19.0
FIRST_ROW = 16.0
ARROW, ARROW_HALF = 7.0, 2.2
OVERSHOOT, START_GAP = 3.0, 3.0
TEXT = 7.6
LETTER_RADIUS = 8.0
BALLOON_RADIUS = 8.5
EDGE = 10.0
# Average advance of a character as a share of the height of capitals.
ADVANCE = 0.86


def margins(drawing: Drawing) -> tuple[float, float, float, float]:
    """Points that dimensions need outside the box: left, bottom, right, top."""
    rows = {"left": 0, "bottom": 0, "right": 0, "top": 0}
    for item in drawing.primitives:
        if isinstance(item, Dimension):
            rows[item.side] = max(rows[item.side], item.row)
    need = {side: EDGE + (FIRST_ROW + ROW * count if count else 0.0) for side, count in rows.items()}
    return need["left"], need["bottom"], need["right"], need["top"]


def fit(drawing: Drawing, width: float, height: float) -> tuple[float, Point]:
    """Scale (mm per point) and the mm that stand at the middle of a view of this size in points."""
    left, bottom, right, top = margins(drawing)
    x0, y0, x1, y1 = drawing.box
    scale = max((x1 - x0) / max(width - left - right, 20.0), (y1 - y0) / max(height - bottom - top, 20.0), 1e-6)
    centre_x = (x0 + x1) / 2 + (right - left) / 2 * scale
    centre_y = (y0 + y1) / 2 + (top - bottom) / 2 * scale
    return scale, (centre_x, centre_y)


def resolve(drawing: Drawing, scale: float) -> Iterator[Plain]:
    """Plain primitives in mm; `scale` is mm per point."""
    for item in drawing.primitives:
        if isinstance(item, Dimension):
            yield from _dimension(item, drawing.box, scale)
        elif isinstance(item, Balloon):
            yield from _balloon(item, scale)
        elif isinstance(item, Text) and item.in_points:
            yield _scaled(item, scale)
        else:
            yield item


def _scaled(text: Text, scale: float) -> Text:
    return msgspec.structs.replace(text, height=text.height * scale, in_points=False)


def _balloon(item: Balloon, scale: float) -> Iterator[Plain]:
    x, y = item.at
    lift = 16.0 * scale
    centre = (x + lift, y + lift)
    role = f"finding {item.severity}"
    radius = BALLOON_RADIUS * scale
    yield Line(((x, y), (centre[0] - radius * 0.7, centre[1] - radius * 0.7)), role, item.place)
    yield Disc(centre, radius, role, item.place)
    yield Text(centre, str(item.number), TEXT * scale, f"{role} text", item.place)


def _dimension(item: Dimension, box: Box, scale: float) -> Iterator[Plain]:
    """Drawn as if it lay above the box and measured x; other sides are turned into that and back."""
    upright = item.side in ("left", "right")
    sign = 1.0 if item.side in ("top", "right") else -1.0
    along, across = (1, 0) if upright else (0, 1)
    edge = {"top": box[3], "bottom": box[1], "left": box[0], "right": box[2]}[item.side]
    line_at = edge + sign * (FIRST_ROW + (item.row - 1) * ROW) * scale

    def place(u: float, v: float) -> Point:
        return (v, u) if upright else (u, v)

    start, end = sorted((item.a, item.b), key=lambda p: p[along])
    u0, u1 = start[along], end[along]
    role, at = item.role, item.place
    for point, u in ((start, u0), (end, u1)):
        near = point[across] + sign * START_GAP * scale
        yield Line((place(u, near), place(u, line_at + sign * OVERSHOOT * scale)), f"{role} extension", at)
    width = _width(item) * scale
    inside = u1 - u0 > width + 2.4 * ARROW * scale
    outward = u1 - u0 < 2.6 * ARROW * scale
    reach = 2 * ARROW * scale if outward else 0.0
    middle = (u0 + u1) / 2 if inside else u1 + reach + width / 2 + 4 * scale
    pieces = (
        [(u0, middle - width / 2), (middle + width / 2, u1)] if inside else [(u0 - reach, u1 + max(reach, 4 * scale))]
    )
    for a, b in pieces:
        yield Line((place(a, line_at), place(b, line_at)), role, at)
    for tip, towards in ((u0, 1.0), (u1, -1.0)):
        direction = -towards if outward else towards
        base, half = tip + direction * ARROW * scale, ARROW_HALF * scale
        outline = (place(tip, line_at), place(base, line_at + half), place(base, line_at - half))
        yield Area(outline, f"{role} arrow", at)
    yield from _label(item, place(middle, line_at), upright, width, scale)


def _width(item: Dimension) -> float:
    """Points that letter and value take along the dimension line."""
    text = len(item.text) * TEXT * ADVANCE
    return (2 * LETTER_RADIUS if item.letter else 0.0) + text + 8.0


def _label(item: Dimension, centre: Point, upright: bool, width: float, scale: float) -> Iterator[Plain]:
    """The letter in its circle, then the value, along the line; upright ones read from the right."""
    angle = 90.0 if upright else 0.0
    start = -width / 2

    def shifted(by: float) -> Point:
        return (centre[0], centre[1] + by) if upright else (centre[0] + by, centre[1])

    text_start = start + 4 * scale
    if item.letter:
        radius = LETTER_RADIUS * scale
        spot = shifted(start + radius)
        yield Disc(spot, radius, f"{item.role} letter", item.place)
        height = TEXT * (1.0 if len(item.letter) < 3 else 0.8) * scale
        yield Text(spot, item.letter, height, f"{item.role} letter text", item.place, angle=angle)
        text_start = start + 2 * radius + 4 * scale
    if item.text:
        yield Text(
            shifted(text_start), item.text, TEXT * scale, f"{item.role} text", item.place,
            horizontal="left", angle=angle,
        )  # fmt: skip
