"""Frames that a page draws round its drawings, as cards and panels have them: they would join what they part."""

from collections.abc import Iterator, Sequence
from itertools import combinations

from eider.datasheets.pages.page_frame import holds_whole
from eider.datasheets.pages.ruling_lines import Ruling
from eider.geometry.plane import Box

# Points: sides that end this near to each other are of one frame; rounded corners take so much of each side.
SAME_END, CORNER = 1.5, 14.0
# Smaller frames are outlines of packages (points).
SMALLEST_FRAME = 100.0
# What lies on the frame comes this near to it; a drawing keeps away from it (points).
ON_FRAME = 2.0
# A frame goes round at least so many lines.
FEWEST_WITHIN = 8
# A page with more uprights of this length is a table or a picture.
MOST_UPRIGHTS = 60
# The band of a heading inside of a frame is as wide as it, but for so many points.
BAND_INSET = 4.0


def frames_round_drawings(rulings: Sequence[Ruling]) -> list[Box]:
    """Frames of four sides that nothing within crosses or touches, which outlines of packages never are."""
    return [box for box in _closed(rulings) if _keeps_apart(box, rulings)]


def is_of_frames(piece: Box, frames: Sequence[Box]) -> bool:
    """Whether a line or an area of a page is a side of such a frame, or a band over its whole width."""
    return any(_is_side(piece, frame) or _is_band(piece, frame) for frame in frames)


def _closed(rulings: Sequence[Ruling]) -> Iterator[Box]:
    uprights = [r for r in rulings if not r.across and r.stop - r.start >= SMALLEST_FRAME]
    across = [r for r in rulings if r.across and r.stop - r.start >= SMALLEST_FRAME]
    if len(uprights) > MOST_UPRIGHTS:
        return
    for left, right in combinations(sorted(uprights, key=lambda r: r.at), 2):
        is_pair = abs(left.start - right.start) + abs(left.stop - right.stop) <= 2 * SAME_END
        if not is_pair or right.at - left.at < SMALLEST_FRAME:
            continue
        sides = [r.at for r in across if _joins(r, left, right)]
        low = max((y for y in sides if y <= left.start + SAME_END), default=None)
        high = min((y for y in sides if y >= left.stop - SAME_END), default=None)
        if low is not None and high is not None and left.start - low <= CORNER and high - left.stop <= CORNER:
            yield left.at, low, right.at, high


def _joins(side: Ruling, left: Ruling, right: Ruling) -> bool:
    """Whether a level line goes from one upright to the other, but for rounded corners."""
    return 0 <= side.start - left.at + SAME_END <= CORNER and 0 <= right.at - side.stop + SAME_END <= CORNER


def _keeps_apart(frame: Box, rulings: Sequence[Ruling]) -> bool:
    """Whether enough is drawn within a frame, and nothing of it touches or crosses the frame."""
    inner = _grown(frame, -ON_FRAME)
    within = [r for r in rulings if holds_whole(inner, r.box)]
    others = [r.box for r in rulings if not holds_whole(inner, r.box) and not _is_side(r.box, frame)]
    return len(within) >= FEWEST_WITHIN and not any(_meets(box, frame) for box in others)


def _grown(box: Box, by: float) -> Box:
    return box[0] - by, box[1] - by, box[2] + by, box[3] + by


def _is_side(piece: Box, frame: Box) -> bool:
    """Whether a piece lies along one side of a frame."""
    a, b, c, d = piece
    x0, y0, x1, y1 = _grown(frame, ON_FRAME)
    if a < x0 or b < y0 or c > x1 or d > y1:
        return False
    is_upright = min(abs(a - frame[0]), abs(c - frame[2])) <= ON_FRAME and c - a <= ON_FRAME
    is_level = min(abs(b - frame[1]), abs(d - frame[3])) <= ON_FRAME and d - b <= ON_FRAME
    return is_upright or is_level


def _is_band(piece: Box, frame: Box) -> bool:
    """Whether an area is as wide as a frame and lies within it."""
    a, b, c, d = piece
    is_wide = abs(a - frame[0]) <= BAND_INSET and abs(c - frame[2]) <= BAND_INSET
    return is_wide and frame[1] - ON_FRAME <= b and d <= frame[3] + ON_FRAME


def _meets(piece: Box, frame: Box) -> bool:
    """Whether a piece comes to a frame's edge from within or across it; what lies outside does not."""
    x0, y0, x1, y1 = frame
    return (
        piece[0] < x1 - ON_FRAME and piece[2] > x0 + ON_FRAME and piece[1] < y1 - ON_FRAME and piece[3] > y0 + ON_FRAME
    )
