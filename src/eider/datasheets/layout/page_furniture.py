"""What a page has besides its contents: the frame of a drawing sheet, and head and foot that run through a document."""

import re
from collections.abc import Sequence
from itertools import takewhile
from typing import NamedTuple

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.table_blocks import ruled_blocks
from eider.geometry.plane import Box

# A line of a frame goes over this share of the page, and lies within this share of it from the edge: a table as wide as
# the text begins farther in, below the head (7 % of A4 is 15 mm).
FRAME_LENGTH, FRAME_MARGIN = 0.75, 0.07
# A frame that is closed on all sides may lie within so large a share of the page from its edge; it is at least so high,
# and its title block takes so much of its height at most. A table as large has rules all over.
CLOSED_MARGIN, CLOSED_HEIGHT, TITLE_BLOCK = 0.12, 0.6, 0.35
# A frame has lines on this many sides: the fourth may be that of a title block.
FEWEST_SIDES = 3
# What lies on a frame lies within so many points of it.
ON_FRAME = 2.0
# The title block may keep so far (points) from the sides of the frame.
AT_SIDE = 8.0
# Head and foot run within this share of the page from its top and bottom, on neighbouring pages at one height (points).
MARGIN, SAME_HEIGHT = 0.12, 3.0
# They have so many lines at most.
MOST_LINES = 3


def without_furniture(page: PageText, neighbours: Sequence[PageText] = ()) -> PageText:
    """A page without its frame, and without the lines of head and foot that a neighbouring page has at their place."""
    inner = inner_frame(page)
    rulings, words = page.rulings, page.words
    if inner is not None:
        rulings = tuple(ruling for ruling in rulings if not is_of_frame(ruling, inner))
        words = tuple(word for word in words if holds(inner, word.box))
    running = _running_words(page, neighbours)
    if running:
        words = tuple(word for word in words if word not in running)
    return msgspec.structs.replace(page, rulings=rulings, words=words)


def inner_frame(page: PageText) -> Box | None:
    """The innermost frame around the whole page; None without one."""
    x0, y0, x1, y1 = page.frame.crop
    wide, high = x1 - x0, y1 - y0
    across = [r.at for r in page.rulings if r.across and r.stop - r.start > FRAME_LENGTH * wide]
    up = [r.at for r in page.rulings if not r.across and r.stop - r.start > FRAME_LENGTH * high]
    left = [x for x in up if x < x0 + FRAME_MARGIN * wide]
    right = [x for x in up if x > x1 - FRAME_MARGIN * wide]
    bottom = [y for y in across if y < y0 + FRAME_MARGIN * high]
    top = [y for y in across if y > y1 - FRAME_MARGIN * high]
    if sum(map(bool, (left, right, bottom, top))) < FEWEST_SIDES:
        return _closed_frame(page) or _outlined_frame(page)
    frame = max(left, default=x0), max(bottom, default=y0), min(right, default=x1), min(top, default=y1)
    return _over_title_block(page, frame)


def _closed_frame(page: PageText) -> Box | None:
    """A frame farther in, closed on all sides, with nothing that runs across it but a title block at its foot."""
    x0, y0, x1, y1 = page.frame.crop
    room_x, room_y = CLOSED_MARGIN * (x1 - x0), CLOSED_HEIGHT * (y1 - y0)
    up = [r for r in page.rulings if not r.across and r.stop - r.start > room_y]
    left = max((r for r in up if r.at < x0 + room_x), key=lambda r: r.at, default=None)
    right = min((r for r in up if r.at > x1 - room_x), key=lambda r: r.at, default=None)
    if left is None or right is None or abs(left.start - right.start) + abs(left.stop - right.stop) > 2 * ON_FRAME:
        return None
    across = [r.at for r in page.rulings if r.across and r.start < left.at + ON_FRAME and r.stop > right.at - ON_FRAME]
    foot, top = left.start, left.stop
    title_block = foot + TITLE_BLOCK * (top - foot)
    is_closed = any(abs(y - foot) < ON_FRAME for y in across) and any(abs(y - top) < ON_FRAME for y in across)
    if not is_closed or any(title_block < y < top - ON_FRAME for y in across):
        return None
    return left.at, max(y for y in across if y <= title_block), right.at, top


def _outlined_frame(page: PageText) -> Box | None:
    """A frame that is drawn as the outline of an area round all words, over the title block at its foot."""
    x0, y0, x1, y1 = page.frame.crop
    wide, high = x1 - x0, y1 - y0
    round_words = [
        area
        for area in page.areas
        if area[2] - area[0] > FRAME_LENGTH * wide
        and area[3] - area[1] > CLOSED_HEIGHT * high
        and min(area[0] - x0, area[1] - y0, x1 - area[2], y1 - area[3]) > ON_FRAME
    ]
    if not round_words or not all(holds(round_words[0], word.box) for word in page.words):
        return None
    return _over_title_block(page, min(round_words, key=lambda a: (a[2] - a[0]) * (a[3] - a[1])))


def _over_title_block(page: PageText, frame: Box) -> Box:
    """A frame without the title block at its foot, of lines over its whole width; more of them are a table's."""
    left, foot, right, top = frame
    wide = [
        ruling.at
        for ruling in page.rulings
        if ruling.across and ruling.start < left + AT_SIDE and ruling.stop > right - AT_SIDE
    ]
    inside = [y for y in wide if foot + ON_FRAME < y < top - ON_FRAME]
    if not inside or max(inside) > foot + TITLE_BLOCK * (top - foot):
        return frame
    return left, max(inside), right, top


def is_of_frame(ruling: Ruling, inner: Box) -> bool:
    """Whether a ruling is a line of the frame, or lies between the frame and the edge of the page."""
    x0, y0, x1, y1 = inner
    a, b, c, d = ruling.box
    is_outside = c <= x0 + ON_FRAME or a >= x1 - ON_FRAME or d <= y0 + ON_FRAME or b >= y1 - ON_FRAME
    goes_out = a < x0 - ON_FRAME or c > x1 + ON_FRAME or b < y0 - ON_FRAME or d > y1 + ON_FRAME
    return is_outside or goes_out


def _running_words(page: PageText, neighbours: Sequence[PageText]) -> set[PageWord]:
    """The words of the outermost lines that a neighbouring page has as well, whatever their numbers.

    The headings of a table that goes on are on both pages too: nothing inside of rules is of head or foot, nor what
    comes after a line that is on this page alone.
    """
    there = [found for other in neighbours for side in _margin_lines(other) for found in side]
    alike = [
        list(takewhile(lambda line: _is_among(line, there), side[:MOST_LINES]))
        for side in (_margin_lines(page) if there else ())
    ]
    tables = ruled_blocks(page.rulings) if any(alike) else []
    return {
        word
        for side in alike
        for line in takewhile(lambda line: not any(holds(box, line.words[0].box) for box in tables), side)
        for word in line.words
    }


def _is_among(line: "_MarginLine", others: Sequence["_MarginLine"]) -> bool:
    """Whether another page has a line at its place."""
    return any(line.text == other.text and abs(line.height - other.height) < SAME_HEIGHT for other in others)


class _MarginLine(NamedTuple):
    text: str
    height: float
    words: list[PageWord]


def _margin_lines(page: PageText) -> tuple[list[_MarginLine], list[_MarginLine]]:
    """The lines near the top and near the bottom of a page, the outermost first, with their texts without numbers."""
    _x0, y0, _x1, y1 = page.frame.crop
    room = MARGIN * (y1 - y0)
    words = [w for w in page.words if w.quarters == 0 and not y0 + room < w.middle[1] < y1 - room]
    lines = [_MarginLine(re.sub(r"\d+", "#", line_text(line)), line[0].middle[1], line) for line in text_lines(words)]
    return [line for line in lines if line.height > y1 - room], [
        line for line in lines[::-1] if line.height < y0 + room
    ]
