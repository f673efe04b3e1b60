"""Closed shapes of a drawing: lands, terminals and bodies, as areas, outlines, or rectangles of four strokes."""

import math
from collections.abc import Iterable, Iterator, Sequence

from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.ruling_lines import Ruling
from eider.geometry.plane import Box

# Points: corners this near are one; a land is not a smaller; what differs less is drawn twice.
SAME_CORNER, SMALLEST_SHAPE, DRAWN_TWICE = 0.7, 1.6, 1.0
# The share of its box that a land fills: rounded and cut corners take a little.
FILLED = 0.7


def closed_shapes(paths: Iterable[PathPiece]) -> Iterator[Box]:
    """The boxes of areas and closed outlines that fill them."""
    for path in paths:
        x0, y0, x1, y1 = path.box
        is_closed = path.is_closed or path.is_filled or math.dist(path.points[0], path.points[-1]) < SAME_CORNER
        is_large = min(x1 - x0, y1 - y0) >= SMALLEST_SHAPE
        if is_closed and is_large and "l" in path.kinds and _area(path) >= FILLED * (x1 - x0) * (y1 - y0):
            yield path.box


def _area(path: PathPiece) -> float:
    """The area of the polygon of a path's points; curves count by the points that pull them."""
    turned = zip(path.points, (*path.points[1:], path.points[0]), strict=True)
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in turned)) / 2


def boxes_of_strokes(strokes: Sequence[Ruling]) -> Iterator[Box]:
    """Rectangles of four strokes of their own, as some programs draw them."""
    across = sorted((s for s in strokes if s.across), key=lambda s: s.at)
    uprights = [s for s in strokes if not s.across]
    for index, low in enumerate(across):
        high = next((s for s in across[index + 1 :] if s.at - low.at >= SMALLEST_SHAPE and _are_level(low, s)), None)
        sides = (low.start, low.stop)
        if (
            high is not None
            and low.stop - low.start >= SMALLEST_SHAPE
            and all(
                any(abs(u.at - x) <= SAME_CORNER and _goes_from(u, low.at, high.at) for u in uprights) for x in sides
            )
        ):
            yield low.start, low.at, low.stop, high.at


def _are_level(a: Ruling, b: Ruling) -> bool:
    return abs(a.start - b.start) <= SAME_CORNER and abs(a.stop - b.stop) <= SAME_CORNER


def _goes_from(upright: Ruling, low: float, high: float) -> bool:
    return abs(upright.start - low) <= SAME_CORNER and abs(upright.stop - high) <= SAME_CORNER


def distinct_boxes(boxes: Sequence[Box]) -> list[Box]:
    """Each shape once: one that is both filled and stroked is drawn twice."""
    found: list[Box] = []
    for box in sorted(boxes):
        if not any(
            max(abs(a - b) for a, b in zip(box, other, strict=True)) <= DRAWN_TWICE for other in reversed(found[-40:])
        ):
            found.append(box)
    return found
