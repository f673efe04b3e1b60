"""The dimension lines of a drawing: two end marks on one level, with a line between or on their outsides."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise

import msgspec

from eider.datasheets.figures.drawing_marks import DrawingMarks, EndMark
from eider.datasheets.pages.ruling_lines import Ruling
from eider.packages.letters.drawing_witness import DrawnAxis

# Points: tips on one level; a perpendicular line at a tip; how far a line may begin behind its tip.
SAME_LEVEL, AT_TIP, SHAFT_GAP = 0.9, 1.3, 0.8
# How far a line goes on beyond its tick.
OVERRUN = 4.0
# The shortest dimension; the longest with arrows outside; the widest text for which a line is broken.
SHORTEST, LONGEST_GAP, WIDEST_TEXT = 1.2, 60.0, 90.0


class DimensionSpan(msgspec.Struct, frozen=True):
    """A dimension line: along `axis` from `start` to `stop` at `level` (PDF points); `is_outward` with arrows inside.

    `tail` is how far the line goes, with what stands outside the arrows.
    """

    axis: DrawnAxis
    start: float
    stop: float
    level: float
    is_outward: bool
    tail: tuple[float, float]


def dimension_spans(marks: DrawingMarks) -> Iterator[DimensionSpan]:
    """The dimension lines that the marks of a drawing make."""
    axes: tuple[DrawnAxis, ...] = ("horizontal", "vertical")
    for axis in axes:
        ends = [_Tip.of(end, axis) for end in marks.ends if _runs_along(end, axis)]
        strokes = [s for s in marks.strokes if s.across == (axis == "horizontal")]
        walls = [s for s in marks.strokes if s.across != (axis == "horizontal")]
        for level in _levels(ends):
            shafts = [s for s in strokes if abs(s.at - level[0].level) <= SAME_LEVEL]
            yield from _pairs(axis, level, shafts, walls)


class _Tip(msgspec.Struct, frozen=True):
    """An end mark along an axis: -1 points to lower, 1 to higher values, 0 nowhere."""

    along: float
    level: float
    way: int
    length: float

    @staticmethod
    def of(end: EndMark, axis: str) -> "_Tip":
        along, level = end.tip if axis == "horizontal" else end.tip[::-1]
        return _Tip(along, level, {"left": -1, "down": -1, "right": 1, "up": 1, "": 0}[end.way], end.length)


def _runs_along(end: EndMark, axis: str) -> bool:
    return not end.way or (end.way in ("left", "right")) == (axis == "horizontal")


def _levels(tips: Iterable[_Tip]) -> list[list[_Tip]]:
    """Tips by the level on which they stand, each level in order along it."""
    levels: list[list[_Tip]] = []
    for tip in sorted(tips, key=lambda t: t.level):
        if levels and tip.level - levels[-1][-1].level <= SAME_LEVEL:
            levels[-1].append(tip)
        else:
            levels.append([tip])
    return [sorted(level, key=lambda t: t.along) for level in levels]


def _pairs(
    axis: DrawnAxis, tips: Sequence[_Tip], shafts: Sequence[Ruling], walls: Sequence[Ruling]
) -> Iterator[DimensionSpan]:
    """The dimension lines on one level, each end used once; short ones with arrows outside first."""
    tips = [tip for tip in tips if tip.way or _has_wall(tip, walls)]
    used: set[int] = set()
    for lower, upper in _on_one_stroke(tips, shafts):
        used |= {lower, upper}
        ends = tips[lower].along, tips[upper].along
        yield DimensionSpan(axis, *ends, tips[lower].level, True, ends)
    for outward, is_short in ((False, True), (True, False), (False, False)):
        for index in range(len(tips)):
            found = _partner(tips, index, used, shafts, outward=outward)
            if found is None or (is_short and not _is_short(tips[index], tips[found], shafts)):
                continue
            used |= {index, found}
            first, second = tips[index], tips[found]
            low, high = _tail(first, shafts, -1), _tail(second, shafts, 1)
            tail = (first.along, second.along) if outward else (low, high)
            yield DimensionSpan(axis, first.along, second.along, first.level, outward, tail)


def _on_one_stroke(tips: Sequence[_Tip], shafts: Sequence[Ruling]) -> list[tuple[int, int]]:
    """Pairs of neighbouring arrows at both ends of one stroke, with nothing beyond that points at them.

    Dimensions one behind the other have them, and so has the distance between two short ones with arrows outside: there
    an arrow beyond each end points at it.
    """
    pairs = [
        (index, index + 1)
        for index, (first, second) in enumerate(pairwise(tips))
        if (first.way, second.way) == (-1, 1)
        and any(abs(s.start - first.along) + abs(s.stop - second.along) <= 2 * SHAFT_GAP for s in shafts)
    ]
    paired = {index for pair in pairs for index in pair}
    alone = [index for index in range(len(tips)) if index not in paired]
    return [
        (low, high)
        for low, high in pairs
        if not any((at == low - 1 and tips[at].way > 0) or (at == high + 1 and tips[at].way < 0) for at in alone)
    ]


def _partner(
    tips: Sequence[_Tip], index: int, used: set[int], shafts: Sequence[Ruling], *, outward: bool
) -> int | None:
    """The next tip on a level with which one makes a dimension line."""
    first, wanted = tips[index], -1 if outward else 1
    if index in used or first.way not in (0, wanted):
        return None
    for at in range(index + 1, len(tips)):
        second = tips[at]
        if at in used or second.along - first.along < SHORTEST:
            continue
        if second.way not in (0, -wanted):
            return None
        if outward and not (_has_shaft(first, shafts, 1) and _has_shaft(second, shafts, -1)):
            return None
        if outward and second.along - first.along - _covered(shafts, first.along, second.along) > WIDEST_TEXT:
            return None
        if outward and not (first.way and second.way) and _runs_on(first, second, shafts):
            return None
        if not outward and second.along - first.along > LONGEST_GAP:
            return None
        if not outward and not (_has_shaft(first, shafts, -1) or _has_shaft(second, shafts, 1)):
            return None
        return at
    return None


def _runs_on(first: _Tip, second: _Tip, shafts: Sequence[Ruling]) -> bool:
    """Whether a line between ticks goes on beyond them: an extension line with the ticks of two dimensions on it."""
    between = [s for s in shafts if s.start < second.along - SHORTEST and s.stop > first.along + SHORTEST]
    return any(s.start < first.along - OVERRUN or s.stop > second.along + OVERRUN for s in between)


def _is_short(first: _Tip, second: _Tip, shafts: Sequence[Ruling]) -> bool:
    """Whether two arrows point at each other over a gap without a line, as at a length too short for arrows inside."""
    gap = second.along - first.along
    return bool(first.way) and gap <= LONGEST_GAP and _covered(shafts, first.along, second.along) < 0.5 * gap


def _covered(shafts: Sequence[Ruling], start: float, stop: float) -> float:
    """How much of a range the lines on its level cover."""
    reached, total = start, 0.0
    for shaft in sorted(shafts, key=lambda s: s.start):
        low, high = max(shaft.start, reached), min(shaft.stop, stop)
        total += max(high - low, 0.0)
        reached = max(reached, high)
    return total


def _has_wall(tip: _Tip, walls: Sequence[Ruling]) -> bool:
    """Whether a line stands across the level at a tip, as extension lines and edges do."""
    return any(abs(w.at - tip.along) <= AT_TIP and w.start - AT_TIP <= tip.level <= w.stop + AT_TIP for w in walls)


def _has_shaft(tip: _Tip, shafts: Sequence[Ruling], side: int) -> bool:
    """Whether a line leaves a tip to one side: -1 to lower, 1 to higher values."""
    room = tip.length + SHAFT_GAP
    if side > 0:
        return any(s.start <= tip.along + room and s.stop > tip.along + SHORTEST for s in shafts)
    return any(s.stop >= tip.along - room and s.start < tip.along - SHORTEST for s in shafts)


def _tail(tip: _Tip, shafts: Sequence[Ruling], side: int) -> float:
    """How far the line of a tip goes to one side."""
    room = tip.length + SHAFT_GAP
    if side > 0:
        return max([tip.along, *(s.stop for s in shafts if s.start <= tip.along + room and s.stop > tip.along)])
    return min([tip.along, *(s.start for s in shafts if s.stop >= tip.along - room and s.start < tip.along)])
