"""What a length in a drawing of lands measures: the size of a land, or the distance between two of them."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Literal

import msgspec

from eider.geometry.plane import Box

LandAxis = Literal["x", "y"]
OTHER_AXIS: Mapping[LandAxis, LandAxis] = {"x": "y", "y": "x"}
# size: of a land; outer and gap: from outside to outside, or between; centres: middle to middle, or edge to like edge.
DistanceKind = Literal["size", "outer", "gap", "centres"]
# A line's end this near (points) to an edge is at it; edges that differ less are one.
AT_EDGE = 1.2
# An extension line begins no farther (points) from the edge that it extends.
BEGINS_AT = 3.5
# Of two things that a line may measure the nearer one is meant where it is nearer by so much (points).
NEARER = 0.5


class DrawnDistance(msgspec.Struct, frozen=True):
    """What a line measures: along which axis of the drawing, of which kind, and between which lands (from 0).

    `first` are the lands at its lower end, `second` those at the upper; of a size both are the same. `points` is its
    length as drawn.
    """

    axis: LandAxis
    kind: DistanceKind
    first: frozenset[int]
    second: frozenset[int]
    points: float


def along(box: Box, axis: LandAxis) -> tuple[float, float]:
    """From where to where a box goes along an axis."""
    return (box[0], box[2]) if axis == "x" else (box[1], box[3])


def middle_along(box: Box, axis: LandAxis) -> float:
    """Where the middle of a box lies along an axis."""
    return sum(along(box, axis)) / 2


def distance_between(
    lands: Sequence[Box], axis: LandAxis, start: float, stop: float, begins: Sequence[float] = ()
) -> DrawnDistance | None:
    """What a line from `start` to `stop` along an axis measures of lands, all in points of the page.

    `begins` is where across the axis its extension lines begin: of lands with edges on one line those are meant at
    which they do. None where an end is at no land, or the line could as well measure something else.
    """
    tried = sorted(_readings(lands, axis, start, stop), key=lambda found: found[0])
    likely = [found for far, found in tried if far - tried[0][0] <= NEARER]
    if any(not _is_same(found, likely[0]) for found in likely[1:]) and begins:
        likely = [found for found in likely if _begins_at(lands, found, begins)]
    is_clear = bool(likely) and all(_is_same(found, likely[0]) for found in likely[1:])
    return likely[0] if is_clear else None


def _begins_at(lands: Sequence[Box], distance: DrawnDistance, begins: Sequence[float]) -> bool:
    """Whether extension lines begin at edges of the lands that a distance is between."""
    across = OTHER_AXIS[distance.axis]
    return all(
        any(abs(edge - place) <= BEGINS_AT for index in which for edge in along(lands[index], across))
        for which in (distance.first, distance.second)
        for place in begins
    )


def _readings(lands: Sequence[Box], axis: LandAxis, start: float, stop: float) -> Iterator[tuple[float, DrawnDistance]]:
    """The ways to take a line, with how far its ends are from the edges in question."""
    edges: tuple[Callable[[Box], float], ...] = (
        lambda box: along(box, axis)[0], lambda box: middle_along(box, axis), lambda box: along(box, axis)[1]
    )  # fmt: skip
    low, middle, high = edges
    points = stop - start
    sizes = frozenset(_at(lands, low, start) & _at(lands, high, stop))
    if sizes:
        yield (
            _far(lands, sizes, low, start) + _far(lands, sizes, high, stop),
            DrawnDistance(axis, "size", sizes, sizes, points),
        )
    ways: tuple[tuple[DistanceKind, Callable[[Box], float], Callable[[Box], float]], ...] = (
        ("outer", low, high), ("gap", high, low), ("centres", middle, middle), ("centres", low, low),
        ("centres", high, high),
    )  # fmt: skip
    for kind, begin, end in ways:
        first, second = _at(lands, begin, start), _at(lands, end, stop)
        if kind == "outer" and sizes:
            continue
        if first and second and not first & second:
            yield (
                _far(lands, first, begin, start) + _far(lands, second, end, stop),
                DrawnDistance(axis, kind, frozenset(first), frozenset(second), points),
            )


def _at(lands: Sequence[Box], edge: Callable[[Box], float], place: float) -> set[int]:
    return {index for index, box in enumerate(lands) if abs(edge(box) - place) <= AT_EDGE}


def _far(lands: Sequence[Box], which: Iterable[int], edge: Callable[[Box], float], place: float) -> float:
    return min(abs(edge(lands[index]) - place) for index in which)


def _is_same(a: DrawnDistance, b: DrawnDistance) -> bool:
    return a.kind == b.kind and a.first == b.first and a.second == b.second
