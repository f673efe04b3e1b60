"""The rules of a table in the picture of a page: found, and taken out so that they are no letters."""

from collections.abc import Sequence
from typing import NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from eider.datasheets.recognition.page_straightening import WHITE, Picture

# Pixels at 200 to the inch: a rule is at least so long (13 mm across, 8 mm up, as those of a table run over several
# rows), and so thick at most. The strokes of large letters, and letters that touch side by side, are shorter.
LEAST_ACROSS, LEAST_UP, THICKEST = 100, 60, 9
# Noise breaks rules: their pieces are at least so long, lie on one level to so many pixels, and no farther apart.
PIECE_ACROSS, PIECE_UP, LEVEL, APART = 36, 28, 3, 24
# A rule that stands a little askew still, or is broken by noise, is closed over so many pixels.
CLOSED = 3
# What of a rule's edge is grey belongs to it.
EDGE = 2
# Right beside a rule is paper, or a second rule all along; where so large a share of the strip on a side is ink, and no
# larger one, are letters of which it is a stroke.
LETTERS_BESIDE = (0.12, 0.85)
# A piece as long as a rule is none where more than this share is ink on both sides: it is the edge of an area.
MOST_BESIDE = 0.35


# Levels of grey that ink is darker than its paper: faint rules are found with few, shapes stand out with many.
FAINT, DARK = 18, 70


class PixelRule(NamedTuple):
    """A rule in pixels from the picture's upper left corner: its first and last pixel each way."""

    left: int
    top: int
    right: int
    bottom: int

    @property
    def across(self) -> bool:
        """Whether it runs across."""
        return self.right - self.left >= self.bottom - self.top


def ink_of(picture: Picture, darker: int = FAINT) -> npt.NDArray[np.uint8]:
    """Where a grey picture has ink: 255 there and 0 elsewhere; it is so many levels darker than the paper around."""
    blurred = cv2.GaussianBlur(picture, (3, 3), 0)
    mean, inverse = cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY_INV
    return np.asarray(cv2.adaptiveThreshold(blurred, 255, mean, inverse, 41, darker), dtype=np.uint8)


def find_rules(ink: npt.NDArray[np.uint8]) -> list[PixelRule]:
    """The straight lines of a picture that lie across or upright."""
    across = _joined(pieces_of(ink, across=True, least=PIECE_ACROSS), LEAST_ACROSS)
    # Turned about its diagonal, what is upright lies across.
    upright = _joined([swapped(rule) for rule in pieces_of(ink, across=False, least=PIECE_UP)], LEAST_UP)
    return [*across, *(swapped(rule) for rule in upright)]


def swapped(rule: PixelRule) -> PixelRule:
    """A rule with its two axes exchanged."""
    return PixelRule(rule.top, rule.left, rule.bottom, rule.right)


def _joined(pieces: Sequence[PixelRule], least: int) -> list[PixelRule]:
    """Pieces that lie across on one level and near each other as one rule; those that are too short left out."""
    joined: list[PixelRule] = []
    for piece in sorted(pieces, key=lambda rule: rule.left):
        before = next((rule for rule in joined if _goes_on(rule, piece)), None)
        if before is None:
            joined.append(piece)
        else:
            top, bottom = min(before.top, piece.top), max(before.bottom, piece.bottom)
            joined[joined.index(before)] = PixelRule(before.left, top, max(before.right, piece.right), bottom)
    return [rule for rule in joined if rule.right - rule.left >= least]


def _goes_on(rule: PixelRule, piece: PixelRule) -> bool:
    middles = abs((rule.top + rule.bottom) - (piece.top + piece.bottom)) / 2
    return middles <= LEVEL and piece.left - rule.right <= APART


def pieces_of(ink: npt.NDArray[np.uint8], *, across: bool, least: int) -> list[PixelRule]:
    """Straight thin strokes of ink that lie across or upright and are at least so many pixels long."""
    longish, gap = ((least, 1), (CLOSED, 1)) if across else ((1, least), (1, CLOSED))
    closed = cv2.morphologyEx(ink, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_RECT, gap))
    opened = cv2.morphologyEx(closed, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_RECT, longish))
    # A line that steps by a pixel is one.
    thick = cv2.dilate(opened, cv2.getStructuringElement(cv2.MORPH_RECT, (1, 3) if across else (3, 1)))
    count, _labels, stats, _middles = cv2.connectedComponentsWithStats(thick, connectivity=8)
    found = []
    for left, top, width, height, _area in stats[1:count].tolist():
        rule = PixelRule(left, top, left + width - 1, top + height - 1)
        thickness = height if across else width
        if thickness <= THICKEST + 2 and not _is_among_letters(ink, rule, across=across):
            found.append(rule)
    return found


def _is_among_letters(ink: npt.NDArray[np.uint8], rule: PixelRule, *, across: bool) -> bool:
    """Whether some ink lies close on a side, as it does along the strokes of letters."""
    left, top, right, bottom = rule
    if across:
        sides = (ink[max(top - 4, 0) : max(top - 1, 0), left:right], ink[bottom + 2 : bottom + 5, left:right])
    else:
        sides = (ink[top:bottom, max(left - 4, 0) : max(left - 1, 0)], ink[top:bottom, right + 2 : right + 5])
    shares = [float(side.mean()) / 255 if side.size else 0.0 for side in sides]
    if rule.right - rule.left >= LEAST_ACROSS or rule.bottom - rule.top >= LEAST_UP:
        # No stroke of a letter is so long; a watermark may lie beside a rule.
        return min(shares) > MOST_BESIDE
    few, many = LETTERS_BESIDE
    return any(few < share < many for share in shares)


def without_rules(picture: Picture, rules: list[PixelRule]) -> Picture:
    """The picture with its rules painted over."""
    bare = picture.copy()
    paper = int(np.median(picture)) if picture.size else WHITE
    for left, top, right, bottom in rules:
        bare[max(top - EDGE, 0) : bottom + EDGE + 1, max(left - EDGE, 0) : right + EDGE + 1] = paper
    return bare
