"""Turns what has a constant size on screen or paper (dimensions, balloons, notes) into plain primitives at a scale."""

import math
from collections.abc import Iterator
from typing import NamedTuple, cast

import msgspec

from eider.drawings.dimensioning import FIRST_ROW, ROW, TEXT, LaidDimension, lay_dimensions, primitive_box, text_box
from eider.drawings.primitives import Area, Balloon, Disc, Drawing, Line, Note, Plain, Primitive, Text
from eider.geometry.plane import Box, Point, join_boxes

# All in points (1/72 inch on paper, a logical pixel on screen).
BALLOON_RADIUS, BALLOON_LIFT = 8.5, 16.0
# Between the middles of balloons at one point, in radii.
BALLOON_APART = 2.3
EDGE = 9.0
# The search for the scale that fits: at least a little smaller each time, down to a share of the view; then
# annotations smaller.
SEARCH_STEP, LEAST_SHARE = 1.01, 0.34
SMALLER = (1.0, 0.85, 0.72, 0.6)


class Fit(NamedTuple):
    """How a drawing goes into a view: mm per point, the mm at the view's middle, and the size of annotations."""

    scale: float
    centre: Point
    size: float


def fit_view(drawing: Drawing, width: float, height: float, size: float = 1.0) -> Fit:
    """Fit a drawing into a view of this size in points.

    Labels move out of dimension lines that get too short for them, so the room they need jumps with the scale: it is
    searched from the largest down. Where annotations of this size (1 is that of the screen) would leave the drawing
    too little room, they are made smaller, and at last may be cut.
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
            # What is left for the drawing itself beside the annotations, whose size in points stays.
            room_w = width - 2 * EDGE - (box[2] - box[0] - w) / scale
            room_h = height - 2 * EDGE - (box[3] - box[1] - h) / scale
            if w / scale <= room_w and h / scale <= room_h:
                return Fit(scale, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), size * share)
            if room_w <= 0 or room_h <= 0:
                break
            scale = max(w / room_w, h / room_h, scale * SEARCH_STEP)
    # Labels may have moved with the last scale: what is to be in the middle is what is drawn at it.
    box = extent(fixed, scale, size * SMALLER[-1])
    return Fit(scale, ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), size * SMALLER[-1])


def _has_fixed_size(item: Primitive) -> bool:
    # Asked of thousands: this is several times as fast as isinstance with a union of types.
    return type(item) not in _OF_THE_DRAWING and not (isinstance(item, Text) and not item.in_points)


_OF_THE_DRAWING = frozenset((Line, Area, Disc))


def extent(drawing: Drawing, scale: float, size: float = 1.0) -> Box:
    """The box in mm that a drawing covers at a scale (mm per point), annotations and texts included."""
    return join_boxes([drawing.box, *(primitive_box(item) for item in resolve_primitives(drawing, scale, size))])


def resolve_primitives(drawing: Drawing, scale: float, size: float = 1.0) -> Iterator[Plain]:
    """Plain primitives in mm; `scale` is mm per point, `size` enlarges what has a constant size."""
    unit = scale * size
    dimensions = lay_dimensions(drawing, unit)
    notes = 0
    for item in drawing.primitives:
        if not _has_fixed_size(item):
            yield cast(Plain, item)
        elif isinstance(item, Balloon):
            yield from _balloon(item, unit)
        elif isinstance(item, Note):
            yield _note(item, drawing, dimensions, unit, notes)
            notes += 1
        elif isinstance(item, Text):
            yield msgspec.structs.replace(item, height=item.height * unit, in_points=False)
    for laid in dimensions:
        yield from laid.items


def _balloon(item: Balloon, unit: float) -> Iterator[Plain]:
    x, y = item.at
    lift, radius = BALLOON_LIFT * unit, BALLOON_RADIUS * unit
    # Those at one point are in a row, and each leader runs from the point to its own balloon.
    centre = (x + lift + item.slot * BALLOON_APART * radius, y + lift)
    role = f"finding {item.severity}"
    far = math.hypot(centre[0] - x, centre[1] - y)
    share = 1 - radius / far
    end = (x + (centre[0] - x) * share, y + (centre[1] - y) * share)
    yield Line(((x, y), end), role, item.address)
    yield Disc(centre, radius, role, item.address)
    yield Text(centre, str(item.number), TEXT * unit, f"{role} text", item.address)


def _note(item: Note, drawing: Drawing, dimensions: tuple[LaidDimension, ...], unit: float, before: int) -> Text:
    """Below the lowest of what is drawn, and of the notes before."""
    x0, y0, x1, _ = drawing.box
    lowest = min([y0 - (FIRST_ROW - 0.5 * ROW) * unit, *(box[1] for d in dimensions for box in (d.label, *d.lines))])
    below = lowest - (0.5 + 0.55 * before) * ROW * unit
    return Text(((x0 + x1) / 2, below), item.text, 0.85 * TEXT * unit, item.role, vertical="top")


__all__ = ["Fit", "extent", "fit_view", "primitive_box", "resolve_primitives", "text_box"]
