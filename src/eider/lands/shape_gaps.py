"""How near lands and openings come to each other, all pairs of a large pattern at once."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import shapely

from eider.geometry.rounding import NOISE
from eider.geometry.shapes import FloatArray, GeometryArray
from eider.model.pattern import Opening, Pad, placed_box
from eider.packages.pads.pad_shapes import pad_outline

# Pads that all lie at one place would make millions of pairs; beyond so many nothing more is learned from them.
MOST_PAIRS = 200_000
QUERIED_TOGETHER = 50

IndexArray = npt.NDArray[np.int64]


class ShapeGaps(NamedTuple):
    """Pairs of shapes by their indices, `first` below `second`, and how far they are apart; nearest first.

    Distances are in mm, below zero where two overlap; three arrays of shape (n,).
    """

    first: IndexArray
    second: IndexArray
    distance: FloatArray


def shape_gaps(shapes: Sequence[Pad | Opening], below: float) -> ShapeGaps:
    """All pairs of shapes that are nearer to each other than `below` (mm), or the first 200,000 and some of them."""
    if not shapes:
        nothing = np.zeros(0, dtype=np.int64)
        return ShapeGaps(nothing, nothing, np.zeros(0))
    boxes = np.array([placed_box(shape) for shape in shapes])
    # The tree finds the few pairs that may be near; all pairs of a large grid would be a million.
    first, second = _near_pairs(shapely.box(*boxes.T), max(below, 0.0))
    distance = _core_distances(boxes, _corner_radii(shapes), first, second)
    # Turned and free outlines have no core; there are few of them.
    free = np.array([_is_free(shape) for shape in shapes])
    for place in np.flatnonzero(free[first] | free[second]).tolist():
        distance[place] = _outline_distance(shapes[first[place]], shapes[second[place]])
    near = np.flatnonzero(distance < below - NOISE)
    order = near[np.lexsort((second[near], first[near], distance[near]))]
    return ShapeGaps(first[order], second[order], distance[order])


def _near_pairs(areas: GeometryArray, below: float) -> tuple[IndexArray, IndexArray]:
    tree, found, count = shapely.STRtree(areas), [], 0
    for start in range(0, len(areas), QUERIED_TOGETHER):
        pairs = tree.query(areas[start : start + QUERIED_TOGETHER], predicate="dwithin", distance=below)
        pairs[0] += start
        found.append(pairs[:, pairs[0] < pairs[1]])
        count += found[-1].shape[1]
        if count > MOST_PAIRS:
            break
    first, second = np.concatenate(found, axis=1)
    return first, second


def _is_free(shape: Pad | Opening) -> bool:
    return shape.shape == "outline" or shape.rotation % 90 != 0


def _corner_radii(shapes: Sequence[Pad | Opening]) -> FloatArray:
    """The radius of each shape's corners: what its core, a box, a line or a point, is grown by all round."""

    def radius(shape: Pad | Opening) -> float:
        half = min(shape.width, shape.height) / 2
        if shape.shape in ("oval", "circle"):
            return half
        return min(shape.corner_radius, half) if shape.shape == "rounded" else 0.0

    return np.array([radius(shape) for shape in shapes])


def _core_distances(boxes: FloatArray, radii: FloatArray, first: IndexArray, second: IndexArray) -> FloatArray:
    """Exact for boxes with any corner radius: the distance of their cores less both radii."""
    cores = boxes + np.stack([radii, radii, -radii, -radii], axis=1)
    a, b = cores[first], cores[second]
    dx = np.maximum(a[:, 0] - b[:, 2], b[:, 0] - a[:, 2])
    dy = np.maximum(a[:, 1] - b[:, 3], b[:, 1] - a[:, 3])
    apart = np.where((dx > 0) & (dy > 0), np.hypot(dx, dy), np.maximum(dx, dy))
    distances: FloatArray = apart - radii[first] - radii[second]
    return distances


def _outline_distance(a: Pad | Opening, b: Pad | Opening) -> float:
    """Between two shapes of any outline (mm); where they overlap, less than zero by the root of the common area."""
    first, second = shapely.Polygon(pad_outline(a)), shapely.Polygon(pad_outline(b))
    common = float(first.intersection(second).area)
    return -math.sqrt(common) if common > 0 else float(first.distance(second))
