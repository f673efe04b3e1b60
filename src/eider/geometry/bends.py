"""Rounded corners of a profile, as large as its straight pieces allow."""

import math

from eider.geometry.plane import Outline, Point

# Of the shorter of the two pieces at a corner, how much a rounding may take up.
SHARE = 0.45


def bend_at(profile: Outline, index: int, wanted: float) -> tuple[Point, float]:
    """A corner of a closed profile with the radius by which it can be rounded: the wanted one, or less (mm)."""
    before, at, after = profile[index - 1], profile[index], profile[(index + 1) % len(profile)]
    shorter = min(math.dist(before, at), math.dist(at, after))
    toward = [math.atan2(point[1] - at[1], point[0] - at[0]) for point in (before, after)]
    inside = abs((toward[0] - toward[1] + math.pi) % (2 * math.pi) - math.pi)
    # The rounding begins radius / tan(half the angle) from the corner.
    return at, min(wanted, SHARE * shorter * math.tan(inside / 2))


def inset_outline(outline: Outline, by: float) -> Outline:
    """An outline with each edge moved inwards (mm), corner for corner; counter-clockwise as the outline is."""
    count = len(outline)
    return tuple(_inset_corner(outline[i - 1], outline[i], outline[(i + 1) % count], by) for i in range(count))


def _inset_corner(before: Point, at: Point, after: Point, by: float) -> Point:
    """Where the two edges at a corner meet after both have moved inwards, to the left of their direction."""
    (ax, ay), (bx, by_) = _direction(before, at), _direction(at, after)
    turn = ax * by_ - ay * bx
    if abs(turn) < 1e-9:
        return at[0] - by * ay, at[1] + by * ax
    # Along the bisector of both normals.
    scale = by / (1 + ax * bx + ay * by_)
    return at[0] - scale * (ay + by_), at[1] + scale * (ax + bx)


def _direction(start: Point, end: Point) -> Point:
    length = math.dist(start, end)
    return (end[0] - start[0]) / length, (end[1] - start[1]) / length
