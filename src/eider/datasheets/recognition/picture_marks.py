"""What is drawn in the picture of a page besides its words: short strokes, and arrows at the ends of lines."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from eider.datasheets.recognition.letter_recognition import SeenWord
from eider.datasheets.recognition.picture_rules import PixelRule, pieces_of, swapped

# Pixels at 200 to the inch: strokes are at least so long; around a word so much is its own.
LEAST_STROKE, AROUND_WORD = 12, 2
# Lines are no thicker than this; what is thicker, and no larger than an arrow may be, is the thick half of one.
LINE_THICK, LARGEST, LEAST_AREA = 4, 44, 12
# From its thickest place an arrow grows thin over so many pixels towards its tip, that many times faster behind, and is
# half way no thicker than this share.
LEAST_TAPER, SHARPER, HALF_WAY = 5, 2.2, 0.85
# A tip is at the line across it that lies so near.
NEAR_TIP = 6
Ink = npt.NDArray[np.uint8]


class PixelArrow(NamedTuple):
    """An arrow: its tip, and the two corners of its back."""

    tip: tuple[float, float]
    back: tuple[tuple[float, float], tuple[float, float]]


def without_words(ink: Ink, words: Sequence[SeenWord]) -> Ink:
    """The ink of a page without that of its words."""
    bare = ink.copy()
    for word in words:
        left, top, right, bottom = (round(value) for value in word.box)
        bare[max(top - AROUND_WORD, 0) : bottom + AROUND_WORD, max(left - AROUND_WORD, 0) : right + AROUND_WORD] = 0
    return bare


def find_strokes(ink: Ink) -> list[PixelRule]:
    """The short straight strokes, across and upright."""
    return [
        *pieces_of(ink, across=True, least=LEAST_STROKE),
        *pieces_of(ink, across=False, least=LEAST_STROKE),
    ]


def find_arrows(ink: Ink, strokes: Sequence[PixelRule]) -> Iterator[PixelArrow]:
    """The filled arrows that point along the page or up and down it."""
    across = _without_strokes(ink, [stroke for stroke in strokes if not stroke.across])
    for arrow in _arrows_along(across):
        yield _placed(arrow, strokes, across=True)
    upright = _without_strokes(ink, [stroke for stroke in strokes if stroke.across])
    for arrow in _arrows_along(np.ascontiguousarray(upright.T)):
        yield _placed(arrow, strokes, across=False)


def _without_strokes(ink: Ink, strokes: Sequence[PixelRule]) -> Ink:
    """The ink without some strokes: a line across a tip would make it the thickest place of its arrow."""
    bare = ink.copy()
    for left, top, right, bottom in strokes:
        bare[max(top - 1, 0) : bottom + 2, max(left - 1, 0) : right + 2] = 0
    return bare


def _arrows_along(ink: Ink) -> Iterator["_Arrow"]:
    thick = cv2.morphologyEx(ink, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (LINE_THICK + 1,) * 2))
    count, _labels, stats, _middles = cv2.connectedComponentsWithStats(thick, connectivity=8)
    for left, top, width, height, area in stats[1:count].tolist():
        if max(width, height) <= LARGEST and area >= LEAST_AREA:
            arrow = _arrow_along(ink, left, top, width, height)
            if arrow is not None:
                yield arrow


class _Arrow(NamedTuple):
    """An arrow that points along the first axis: its tip, the place and half width of its back, and its taper."""

    tip: float
    level: float
    back: float
    half: float
    taper: int


def _arrow_along(ink: Ink, left: int, top: int, width: int, height: int) -> _Arrow | None:
    """The arrow that points left or right about a thick place; None where it grows thin on neither side alone."""
    room = LARGEST // 2
    x0, x1 = max(left - room, 0), min(left + width + room, ink.shape[1])
    y0, y1 = max(top - 1, 0), min(top + height + 1, ink.shape[0])
    profile = (ink[y0:y1, x0:x1] > 0).sum(axis=0)
    inner = profile[left - x0 : left - x0 + width]
    if not len(inner) or inner.max() <= LINE_THICK:
        return None
    widest = left - x0 + np.flatnonzero(inner >= inner.max() - 1)
    # Its back is the thick place farthest from its tip: the first where it points right, the last where to the left.
    ways = [(1, int(widest[0])), (-1, int(widest[-1]))]
    tapers = [
        (_thins_out(_from(profile, back, way)), _thins_out(_from(profile, back, -way)), way, back) for way, back in ways
    ]
    taper, behind, way, back = max(tapers, key=lambda found: found[0] / max(found[1], 1))
    if taper < LEAST_TAPER or taper < SHARPER * max(behind, 1):
        return None
    # A square is as thick half way as where it is thickest.
    if profile[back + way * (taper // 2)] > HALF_WAY * inner.max():
        return None
    half = float(inner.max()) / 2
    return _Arrow(float(x0 + back + way * taper), (y0 + y1 - 1) / 2, float(x0 + back), half, taper)


def _from(profile: npt.NDArray[np.int_], place: int, way: int) -> npt.NDArray[np.int_]:
    """A profile from a place on, to the right (1) or to the left (-1)."""
    return profile[place:] if way > 0 else profile[: place + 1][::-1]


def _thins_out(profile: npt.NDArray[np.int_]) -> int:
    """Over how many pixels from its first place a profile grows thin, to the thickness of a line."""
    for step, thick in enumerate(profile):
        if thick <= LINE_THICK:
            # The last of a tip is as thin as a line.
            return step + (2 if step > LINE_THICK else 0)
    return len(profile)


def _placed(arrow: _Arrow, strokes: Sequence[PixelRule], *, across: bool) -> PixelArrow:
    """The arrow on the page, its tip at the line across it where one is near."""
    tip, level = arrow.tip, arrow.level
    walls = [stroke if across else swapped(stroke) for stroke in strokes if stroke.across != across]
    near = [
        (wall.left + wall.right) / 2
        for wall in walls
        if wall.top - NEAR_TIP <= level <= wall.bottom + NEAR_TIP
        and abs((wall.left + wall.right) / 2 - tip) <= NEAR_TIP
    ]
    tip = min(near, key=lambda x: abs(x - arrow.tip), default=tip)
    places = ((tip, level), (arrow.back, level - arrow.half), (arrow.back, level + arrow.half))
    first, second, third = places if across else tuple((y, x) for x, y in places)
    return PixelArrow(first, (second, third))
