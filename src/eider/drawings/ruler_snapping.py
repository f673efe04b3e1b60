"""The ruler: places in a drawing that it snaps to, and the exact distances between two of them."""

import math
from collections.abc import Iterator, Sequence
from typing import Literal

import msgspec
import numpy as np
import shapely

from eider.drawings.primitives import Area, Disc, Line, Plain, Text
from eider.geometry.lengths import format_length
from eider.geometry.plane import Outline, Point, bounds, circle
from eider.model.address import Address, pad_number

Kind = Literal["centre", "corner", "edge", "middle of an edge"]
# A corner or centre is preferred to a mere place on an edge within so much more of the reach.
PREFERRED = 0.6
# Outlines with more corners than this are round: they have a centre and an edge, but no corners.
ROUND_FROM = 16
CORNERS = 48


class Snap(msgspec.Struct, frozen=True):
    """A place that the ruler holds on to: where, what it is, of which thing; its outline (mm) and role."""

    at: Point
    kind: Kind
    address: Address | None
    outline: Outline = ()
    role: str = ""

    @property
    def words(self) -> str:
        """For the line of the measurement."""
        name = pad_number(self.address)
        return f"{self.kind} of {name}" if name else self.kind


class Measured(msgspec.Struct, frozen=True):
    """Two places and what lies between them, exactly, in mm.

    `gap` is the shortest way from edge to edge, and `centres` the way from middle to middle, where both are outlines.
    """

    first: Snap
    second: Snap
    dx: float
    dy: float
    distance: float
    gap: float | None
    centres: float | None

    def words(self, unit: str) -> str:
        """In words, in the user's unit."""

        def show(mm: float) -> str:
            return format_length(mm, unit, with_unit=False)

        parts = [f"dx {show(self.dx)}", f"dy {show(self.dy)}", f"direct {show(self.distance)}"]
        if self.centres is not None:
            parts.append(f"centre to centre {show(self.centres)}")
        if self.gap is not None:
            parts.append(f"edge to edge {show(self.gap)}")
        return f"{self.first.words} to {self.second.words}: {'   '.join(parts)} {unit}"


def snaps(items: Sequence[Plain]) -> Iterator[Snap]:
    """Centres, corners and middles of edges of everything in a drawing; texts have none."""
    for item in items:
        if isinstance(item, Disc):
            outline = _circle(item)
            yield Snap(item.centre, "centre", item.address, outline, item.role)
        elif isinstance(item, Area) and len(item.outline) > 2:
            yield from _of_outline(item.outline, item)
        elif isinstance(item, Line) and len(item.points) > 3 and item.points[0] == item.points[-1]:
            yield from _of_outline(item.points[:-1], item)


def _circle(disc: Disc) -> Outline:
    return circle(*disc.centre, disc.radius, CORNERS)


def _of_outline(outline: Outline, item: Area | Line) -> Iterator[Snap]:
    address, role = item.address, item.role
    x0, y0, x1, y1 = bounds(outline)
    yield Snap(((x0 + x1) / 2, (y0 + y1) / 2), "centre", address, outline, role)
    if len(outline) > ROUND_FROM:
        for at in ((x0, (y0 + y1) / 2), (x1, (y0 + y1) / 2), ((x0 + x1) / 2, y0), ((x0 + x1) / 2, y1)):
            yield Snap(at, "edge", address, outline, role)
        return
    for i, (x, y) in enumerate(outline):
        px, py = outline[i - 1]
        yield Snap((x, y), "corner", address, outline, role)
        yield Snap(((x + px) / 2, (y + py) / 2), "middle of an edge", address, outline, role)


def nearest(items: Sequence[Plain], at: Point, reach: float) -> Snap | None:
    """What the ruler holds on to near a point: a corner, centre or middle within reach (mm), else an edge."""
    found = [snap for snap in snaps(items) if math.dist(snap.at, at) <= reach]
    if found:
        # Of things with one middle, such as a land and its opening, the first that was drawn is meant.
        return min(found, key=lambda snap: round(math.dist(snap.at, at), 6))
    edges = [item for item in items if not isinstance(item, Text)]
    best: Snap | None = None
    for item in edges:
        outline = _outline_of(item)
        if len(outline) < 2:
            continue
        ring = shapely.LineString([*outline, outline[0]] if not isinstance(item, Line) else outline)
        point = ring.interpolate(ring.project(shapely.Point(at)))
        if math.dist((point.x, point.y), at) <= reach * PREFERRED:
            whole = outline if not isinstance(item, Line) else ()
            snap = Snap((point.x, point.y), "edge", item.address, whole, item.role)
            if best is None or math.dist(snap.at, at) < math.dist(best.at, at):
                best = snap
    return best


def _outline_of(item: Plain) -> Outline:
    if isinstance(item, Disc):
        return _circle(item)
    if isinstance(item, Area):
        return item.outline
    return item.points if isinstance(item, Line) else ()


def measure_between(first: Snap, second: Snap) -> Measured:
    """The distances between two places."""
    dx, dy = second.at[0] - first.at[0], second.at[1] - first.at[1]
    gap = centres = None
    if len(first.outline) > 2 and len(second.outline) > 2 and first.outline != second.outline:
        gap = float(shapely.distance(shapely.Polygon(first.outline), shapely.Polygon(second.outline)))
        middles = [np.array(bounds(snap.outline)).reshape(2, 2).mean(axis=0) for snap in (first, second)]
        centres = float(np.hypot(*(middles[1] - middles[0])))
    return Measured(first, second, dx, dy, math.hypot(dx, dy), gap, centres)
