"""Outlines by the thousand: offsets, keep-outs, lines cut at openings. Points are (x, y) in mm."""

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt
import shapely
from shapely.geometry import Polygon

from eider.geometry.plane import Outline, Point, rectangle
from eider.geometry.rounding import NOISE, tidy

FloatArray = npt.NDArray[np.float64]
GeometryArray = npt.NDArray[Any]

# Straight pieces for a quarter of a circle: the chord is off by less than 1 µm at a radius of 0.25 mm.
QUARTER_SEGMENTS = 12


def rounded_rectangle(x: float, y: float, width: float, height: float, radius: float) -> Outline:
    """A rectangle with rounded corners; a radius of half the shorter side gives an oval."""
    radius = min(radius, width / 2, height / 2)
    if radius <= 0:
        return rectangle(x, y, width, height)
    # Many pads have one form: its corners are worked out once, and moved.
    moved = np.round(np.add(_rounded_form(width, height, radius), (x, y)), 6) + 0.0
    return tuple(zip(moved[:, 0].tolist(), moved[:, 1].tolist(), strict=True))


@lru_cache(maxsize=256)
def _rounded_form(width: float, height: float, radius: float) -> FloatArray:
    """The corners of a rounded rectangle about the origin, shape (n, 2)."""
    middles = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * (width / 2 - radius, height / 2 - radius)
    steps = np.arange(QUARTER_SEGMENTS + 1) * (90 / QUARTER_SEGMENTS)
    angles = np.radians(np.array([180.0, 270.0, 0.0, 90.0])[:, None] + steps)
    around = np.stack([np.cos(angles), np.sin(angles)], axis=2) * radius
    return (middles[:, None] + around).reshape(-1, 2)


def is_area(outline: Outline) -> bool:
    """Whether an outline encloses something and does not cross itself."""
    if len(outline) < 3:
        return False
    shape = Polygon(outline)
    return bool(shape.is_valid and shape.area != 0)


def grow(outline: Outline, distance: float) -> Outline:
    """The outline moved outwards by a distance, with square corners; empty where nothing is left."""
    grown = Polygon(outline).buffer(distance, join_style="mitre", mitre_limit=2.0)
    if grown.is_empty:
        return ()
    return tuple((tidy(x), tidy(y)) for x, y in list(grown.exterior.coords)[:-1])


class KeepOutArea(NamedTuple):
    """Where no line may run: boxes of shape (n, 4), which are clipped by hand and fast, and any other areas."""

    boxes: FloatArray
    areas: GeometryArray


def keep_out(openings: Sequence[Outline], clearance: float) -> KeepOutArea:
    """The openings grown by a clearance (mm). Upright rectangles, by far the most, take no geometry engine."""
    plain = [outline for outline in openings if len(outline) == 4]
    corners = np.array(plain).reshape(-1, 4, 2)
    low, high = corners.min(axis=1), corners.max(axis=1)
    upright = ((corners == low[:, None]) | (corners == high[:, None])).all(axis=(1, 2))
    boxes = np.hstack([low - clearance, high + clearance])[upright]
    others = [o for o in openings if len(o) != 4] + [o for o, is_box in zip(plain, upright, strict=True) if not is_box]
    if not others:
        return KeepOutArea(boxes, np.array([], dtype=object))
    # One call for all: a grid has hundreds of round openings beside its silkscreen.
    points = np.concatenate([np.array(outline) for outline in others])
    rings = shapely.linearrings(points, indices=np.repeat(np.arange(len(others)), [len(o) for o in others]))
    return KeepOutArea(boxes, shapely.buffer(shapely.polygons(rings), clearance, join_style="mitre"))


def cut_line(line: Outline, hidden: KeepOutArea, shortest: float) -> list[Outline]:
    """The pieces of a line outside the areas; left-overs shorter than `shortest` (mm) are dropped.

    A closed line is given with its first point repeated at the end.
    """
    return [
        tuple((tidy(x), tidy(y)) for x, y in piece)
        for piece in _visible(line, hidden)
        if sum(math.dist(a, b) for a, b in pairwise(piece)) >= shortest
    ]


def _visible(line: Outline, hidden: KeepOutArea) -> list[list[Point]]:
    """The pieces of a line outside the hidden areas: per straight segment the hidden stretches are taken off."""
    pieces: list[list[Point]] = []
    for a, b in pairwise(line):
        for start, end in _free_stretches(a, b, hidden):
            p, q = (_between(a, b, t) for t in (start, end))
            if start == 0 and pieces and pieces[-1][-1] == p:
                pieces[-1].append(q)
            else:
                pieces.append([p, q])
    if len(pieces) > 1 and pieces[0][0] == pieces[-1][-1]:
        pieces[0] = pieces.pop() + pieces[0][1:]
    return pieces


def _free_stretches(a: Point, b: Point, hidden: KeepOutArea) -> list[tuple[float, float]]:
    """Shares of the way from a to b (0 to 1) that are not hidden."""
    stretches = sorted([*_in_boxes(a, b, hidden.boxes), *_in_areas(a, b, hidden.areas)])
    free, position = [], 0.0
    for start, end in stretches:
        if start > position:
            free.append((position, start))
        position = max(position, end)
    if position < 1.0 - NOISE:
        free.append((position, 1.0))
    return free


def _in_boxes(a: Point, b: Point, boxes: FloatArray) -> list[tuple[float, float]]:
    """Where a segment runs through boxes, as shares of its length: entry and exit by the slab of each axis."""
    enter, leave = np.zeros(len(boxes)), np.ones(len(boxes))
    for axis in (0, 1):
        low, high, step = boxes[:, axis], boxes[:, axis + 2], b[axis] - a[axis]
        if step == 0:
            outside = (a[axis] <= low) | (a[axis] >= high)
            leave = np.where(outside, -1.0, leave)
            continue
        ends = np.stack([(low - a[axis]) / step, (high - a[axis]) / step])
        enter, leave = np.maximum(enter, ends.min(axis=0)), np.minimum(leave, ends.max(axis=0))
    inside = leave > enter
    return list(zip(enter[inside].tolist(), leave[inside].tolist(), strict=True))


def _in_areas(a: Point, b: Point, areas: GeometryArray) -> list[tuple[float, float]]:
    """The same for areas of any form."""
    if not len(areas):
        return []
    parts = shapely.get_parts(shapely.intersection(shapely.linestrings([a, b]), areas))
    length = math.dist(a, b)
    reach = [
        [math.dist(a, (x, y)) / length for x, y in shapely.get_coordinates(part).tolist()]
        for part in parts
        if not shapely.is_empty(part)
    ]
    return [(min(ends), max(ends)) for ends in reach]


def _between(a: Point, b: Point, share: float) -> Point:
    if share in (0.0, 1.0):
        return a if share == 0.0 else b
    return a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share
