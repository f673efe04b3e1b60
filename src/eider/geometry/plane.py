"""Points, outlines and boxes in plain Python, which is all that documents need. Points are (x, y) in mm."""

import math
from collections.abc import Iterable

from eider.geometry.rounding import tidy

Point = tuple[float, float]
Outline = tuple[Point, ...]
# Left, low, right, high.
Box = tuple[float, float, float, float]


def rectangle(x: float, y: float, width: float, height: float) -> Outline:
    """The corners of a rectangle about its centre, counter-clockwise from the lower left."""
    w, h = width / 2, height / 2
    x0, y0, x1, y1 = tidy(x - w), tidy(y - h), tidy(x + w), tidy(y + h)
    return (x0, y0), (x1, y0), (x1, y1), (x0, y1)


def box_outline(box: Box) -> Outline:
    """The corners of a box (x0, y0, x1, y1)."""
    x0, y0, x1, y1 = box
    return rectangle((x0 + x1) / 2, (y0 + y1) / 2, x1 - x0, y1 - y0)


def cut_corner(box: Box, cut: float, corner: Point) -> Outline:
    """A box, counter-clockwise, with one corner cut off by `cut`; `corner` is its direction: (-1, 1) is upper left."""
    x0, y0, x1, y1 = box
    at_x, at_y = (x0 if corner[0] < 0 else x1), (y0 if corner[1] < 0 else y1)
    along_x = (round(at_x - corner[0] * cut, 9), at_y)
    along_y = (at_x, round(at_y - corner[1] * cut, 9))
    # Going round counter-clockwise, upper right and lower left are reached along y.
    pair = (along_y, along_x) if corner[0] * corner[1] > 0 else (along_x, along_y)
    pieces = ((pair if (x, y) == (at_x, at_y) else ((x, y),)) for x, y in ((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
    return tuple(point for piece in pieces for point in piece)


def circle(x: float, y: float, radius: float, corners: int) -> Outline:
    """A circle as a regular outline of so many corners, from the right counter-clockwise."""
    angles = [2 * math.pi * i / corners for i in range(corners)]
    return tuple((x + radius * math.cos(a), y + radius * math.sin(a)) for a in angles)


def rotated(outline: Iterable[Point], degrees: float, about: Point = (0.0, 0.0)) -> Outline:
    """The outline turned counter-clockwise about a point."""
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    ax, ay = about
    return tuple(
        (tidy(ax + (x - ax) * cos - (y - ay) * sin), tidy(ay + (x - ax) * sin + (y - ay) * cos)) for x, y in outline
    )


def mirrored(outline: Outline) -> Outline:
    """The outline with left and right exchanged, still in the same sense."""
    return tuple((-x, y) for x, y in reversed(outline))


def bounds(points: Iterable[Point]) -> Box:
    """The smallest box that holds all points."""
    xs, ys = zip(*points, strict=True)
    return min(xs), min(ys), max(xs), max(ys)


def box_centre(box: Box) -> Point:
    """The middle of a box."""
    return (box[0] + box[2]) / 2, (box[1] + box[3]) / 2


def join_boxes(boxes: Iterable[Box]) -> Box:
    """The smallest box that holds all boxes."""
    x0, y0, x1, y1 = zip(*boxes, strict=True)
    return min(x0), min(y0), max(x1), max(y1)


def inside_by(inner: Box, outer: Box) -> float:
    """By how much a box lies inside another one, the least over the four sides; negative where it reaches beyond."""
    return min(inner[0] - outer[0], inner[1] - outer[1], outer[2] - inner[2], outer[3] - inner[3])
