"""Arcs as chords."""

import math

from eider.geometry.plane import Point
from eider.geometry.rounding import tidy

STEP_DEGREES = 5.0


def arc_points(start: Point, end: Point, centre: Point, *, clockwise: bool, step: float = STEP_DEGREES) -> list[Point]:
    """The places along an arc behind its start, the end as it is given; a chord spans at most `step` degrees.

    An arc that ends where it starts is a full circle. The radius is the distance of start and centre; where it is zero,
    only the end is left.
    """
    radius = math.dist(start, centre)
    if radius == 0:
        return [end]
    begin = math.degrees(math.atan2(start[1] - centre[1], start[0] - centre[0]))
    sweep = (math.degrees(math.atan2(end[1] - centre[1], end[0] - centre[0])) - begin) % 360 or 360.0
    if clockwise:
        sweep = sweep - 360 if sweep < 360 else -360.0
    count = max(2, math.ceil(abs(sweep) / step))
    turns = [math.radians(begin + sweep * index / count) for index in range(1, count)]
    return [*((tidy(centre[0] + radius * math.cos(a)), tidy(centre[1] + radius * math.sin(a))) for a in turns), end]


def arc_through(start: Point, middle: Point, end: Point, step: float = STEP_DEGREES) -> list[Point]:
    """The places behind the start of an arc that is given by three places on it; three on a line give a straight."""
    (ax, ay), (bx, by), (cx, cy) = start, middle, end
    twice = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
    if abs(twice) < 1e-12:
        return [middle, end]
    aa, bb, cc = ax * ax + ay * ay, bx * bx + by * by, cx * cx + cy * cy
    x = (aa * (by - cy) + bb * (cy - ay) + cc * (ay - by)) / twice
    y = (aa * (cx - bx) + bb * (ax - cx) + cc * (bx - ax)) / twice
    # Counter-clockwise from start over middle to end the area is above zero, as is `twice`.
    return arc_points(start, end, (x, y), clockwise=twice < 0, step=step)
