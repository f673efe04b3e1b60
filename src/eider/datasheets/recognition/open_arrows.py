"""Open arrows in the picture of a page: two barbs that part from the tip of a line, as drawings by hand have them."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from eider.datasheets.recognition.picture_marks import NEAR_TIP, Ink, PixelArrow
from eider.datasheets.recognition.picture_rules import PixelRule, swapped

# Pixels at 200 to the inch: how far from its tip an arrow is looked for, where it is thin still, how short and narrow
# it is at least, and how far behind its barbs the line is alone.
FARTHEST, TIP, SHORTEST, LEAST_HALF, BEHIND = 20, 3, 5, 2.5, 5
# How far beside the line it is looked for; gaps between barb and line, and sides that differ by no more, are its own.
WIDEST, GAP, SAME_SIDE = 9, 3, 1.5
# A line with an arrow is longer than its barbs.
LEAST_LINE = 14
# Scans break thin lines: between a line and the one across it there is ink over so much of the way, where an arrow lies
# between, and no more pixels than this.
MOSTLY_INKED, MOST_BROKEN = 0.4, 28


class _End(NamedTuple):
    """The end of a line along the first axis, at a line across it, and which way the line goes on from there."""

    at: float
    level: int
    way: int


def find_open_arrows(ink: Ink, strokes: Sequence[PixelRule]) -> Iterator[PixelArrow]:
    """The open arrows that point along the page or up and down it, with their tips at lines across.

    `ink` is without words, of shape (height, width); `strokes` are its straight lines.
    """
    for across in (True, False):
        turned = [stroke if across else swapped(stroke) for stroke in strokes]
        lying = [s for s, own in zip(turned, strokes, strict=True) if own.across == across]
        walls = [s for s, own in zip(turned, strokes, strict=True) if own.across != across]
        seen = ink if across else np.ascontiguousarray(ink.T)
        for end in _ends(seen, lying, walls):
            reach = _barbs(seen, end)
            if reach is not None:
                length, half = reach
                back = end.at + end.way * length
                places = ((end.at, end.level), (back, end.level - half), (back, end.level + half))
                tip, first, second = places if across else tuple((y, x) for x, y in places)
                yield PixelArrow(tip, (first, second))


def _ends(ink: Ink, lying: Sequence[PixelRule], walls: Sequence[PixelRule]) -> Iterator[_End]:
    """The ends of lines that are at a line across, or come so near that their arrow may lie between."""
    for line in lying:
        if line.right - line.left < LEAST_LINE:
            continue
        level = (line.top + line.bottom) // 2
        for place, way in ((line.left, 1), (line.right, -1)):
            near = [
                (wall.left + wall.right) / 2
                for wall in walls
                if wall.top - NEAR_TIP <= level <= wall.bottom + NEAR_TIP
                and -MOST_BROKEN <= way * ((wall.left + wall.right) / 2 - place) <= NEAR_TIP
            ]
            at = min(near, key=lambda x, at=place: abs(x - at), default=None)  # type: ignore[misc]
            if at is not None and _is_inked(ink, level, *sorted((round(at), place))):
                yield _End(at, level, way)


def _is_inked(ink: Ink, level: int, start: int, stop: int) -> bool:
    """Whether there is ink along a level nearly all the way."""
    if stop <= start:
        return True
    between = ink[max(level - 1, 0) : level + 2, start:stop].any(axis=0)
    return bool(between.mean() >= MOSTLY_INKED) if between.size else True


def _barbs(ink: npt.NDArray[np.uint8], end: _End) -> tuple[float, float] | None:
    """How long barbs are and how far they part (pixels); None where none part from an end on both sides alike."""
    halves = [_halves(ink, round(end.at) + end.way * step, end.level) for step in range(FARTHEST + BEHIND)]
    wide = [min(above, below) for above, below in halves]
    longest = max(range(SHORTEST, FARTHEST), key=lambda step: (wide[step], step))
    above, below = halves[longest]
    # From the tip on it grows wide, and behind its barbs there is the line alone.
    grows = all(wide[step + 1] >= wide[step] - 1 for step in range(TIP, longest))
    is_thin = (
        wide[TIP] <= wide[longest] - 1.5 and max(wide[longest + BEHIND - 2 : longest + BEHIND]) <= wide[longest] / 2
    )
    if wide[longest] < LEAST_HALF or abs(above - below) > SAME_SIDE or not grows or not is_thin:
        return None
    return float(longest), float(wide[longest])


def _halves(ink: npt.NDArray[np.uint8], place: int, level: int) -> tuple[float, float]:
    """How far ink reaches above and below a level in a column, over gaps that barbs leave to their line."""
    if not 0 <= place < ink.shape[1]:
        return 0.0, 0.0
    column = ink[max(level - WIDEST, 0) : level + WIDEST + 1, place] > 0
    middle = min(level, WIDEST)
    return _reach(column[middle::-1]), _reach(column[middle:])


def _reach(side: npt.NDArray[np.bool_]) -> float:
    """The farthest ink of one side that hangs together but for gaps."""
    reached = 0
    for offset in np.flatnonzero(side).tolist():
        if offset - reached > GAP + 1:
            break
        reached = offset
    return float(reached)
