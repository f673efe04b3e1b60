"""Where drawings may stand on a page: lines, areas and short texts near each other; and which title they have."""

import math
import re
from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

from eider.datasheets.document import PageText
from eider.datasheets.page_frame import are_near, holds, joined
from eider.datasheets.page_words import PageWord, line_text
from eider.datasheets.text_lines import phrase_gap, phrases, text_lines
from eider.geometry.shapes import Box

# Points: what lies no farther apart than about this is of one drawing; a drawing is at least so wide or high.
NEAR, SMALLEST = 14.0, 60.0
# What lies on the edge of a drawing is of it.
ROUND = 2.0
# A drawing has at least so many lines and areas.
FEWEST_PIECES = 8
# A page with more pieces is a map or a picture.
MOST_PIECES = 6_000
# A piece that goes over this share of the page is its frame, or a line between head and text.
WHOLE_PAGE = 0.8
# Words of a drawing are letters, lengths and short names; those of one line of more words are text.
LONGEST_WORD, MOST_WORDS = 12, 3
# A title stands no farther (points) from its drawing, and has no more words.
TITLE_NEAR, TITLE_WORDS = 120.0, 16

# A page is looked at in a raster of so many cells along its longer side at most.
MOST_CELLS = 400
Cell = tuple[int, int]


def figure_boxes(page: PageText, taken: Sequence[Box]) -> list[Box]:
    """The boxes of the drawings of a page with their texts, from the top down; `taken` are its tables."""
    x0, y0, x1, y1 = page.frame.crop
    pieces = [
        box
        for box in (*(r.box for r in page.rulings), *page.areas)
        if max((box[2] - box[0]) / (x1 - x0), (box[3] - box[1]) / (y1 - y0)) < WHOLE_PAGE
        and _lies_on(page, box)
        and not any(holds(table, box) for table in taken)
    ]
    if not FEWEST_PIECES <= len(pieces) <= MOST_PIECES:
        return []
    words = [
        word
        for word in _drawing_words(page)
        if _lies_on(page, word.box) and not any(holds(table, word.box) for table in taken)
    ]
    # A page as large as a damaged one may say it is has no more cells than others.
    cell = max(NEAR, max(x1 - x0, y1 - y0) / MOST_CELLS)
    return sorted(_grouped(pieces, [word.box for word in words], cell), key=lambda box: -box[3])


def _lies_on(page: PageText, box: Box) -> bool:
    """Whether a box lies on a page whole, or nearly so; of damaged pages some do not."""
    x0, y0, x1, y1 = page.frame.crop
    return x0 - NEAR <= box[0] and y0 - NEAR <= box[1] and box[2] <= x1 + NEAR and box[3] <= y1 + NEAR


class FigureTitle(NamedTuple):
    """What a drawing is called: which of some patterns (from 0) the text fits, without its spaces, and where it is."""

    which: int
    place: Box


def title_near(box: Box, titles: Iterable[FigureTitle], weak: int) -> FigureTitle | None:
    """The title nearest to a drawing, one of the pattern `weak` only without another; None where none is near."""
    near = [title for title in titles if boxes_apart(title.place, box) <= TITLE_NEAR]
    return min(near, key=lambda title: (title.which == weak, boxes_apart(title.place, box)), default=None)


def heading_above(box: Box, titles: Iterable[FigureTitle]) -> FigureTitle | None:
    """The last heading above a drawing, however far above; None without any."""
    above = (title for title in titles if title.place[1] >= box[3])
    return min(above, key=lambda title: title.place[1], default=None)


def figure_titles(page: PageText, *patterns: re.Pattern[str]) -> Iterator[FigureTitle]:
    """The phrases of a page that may be titles and fit one of the patterns."""
    words = [word for word in page.words if word.quarters == 0]
    # Most pages name no drawing: that is told before they are parted into lines.
    whole = "".join(word.text for word in words)
    for line in text_lines(words) if any(pattern.search(whole) for pattern in patterns) else ():
        for phrase in phrases(line, phrase_gap(line)):
            text = line_text(phrase)
            which = next((i for i, pattern in enumerate(patterns) if pattern.search(text.replace(" ", ""))), None)
            if which is not None and len(text.split()) <= TITLE_WORDS:
                yield FigureTitle(which, joined(*(word.box for word in phrase)))


def boxes_apart(a: Box, b: Box) -> float:
    """How far two boxes lie apart along the axis on which they are farther."""
    return max(a[1] - b[3], b[1] - a[3], a[0] - b[2], b[0] - a[2], 0.0)


def _drawing_words(page: PageText) -> Iterator[PageWord]:
    """The words that may be of a drawing: turned ones, and those of lines of few and short words."""
    straight = [word for word in page.words if word.quarters == 0]
    yield from (word for word in page.words if word.quarters != 0)
    for line in text_lines(straight):
        for phrase in phrases(line, phrase_gap(line)):
            if len(phrase) <= MOST_WORDS and all(len(word.text) <= LONGEST_WORD for word in phrase):
                yield from phrase


def _grouped(pieces: Sequence[Box], words: Sequence[Box], size: float) -> Iterator[Box]:
    """The boxes of pieces that hang together, directly or by words between them; `size` is that of a raster cell."""
    cells: dict[Cell, set[int]] = {}
    for index, box in enumerate((*pieces, *words)):
        for cell in _cells(box, size):
            cells.setdefault(cell, set()).add(index)
    while cells:
        members = _connected(cells)
        drawn = [pieces[index] for index in members if index < len(pieces)]
        texts = [words[index - len(pieces)] for index in members if index >= len(pieces)]
        if len(drawn) >= FEWEST_PIECES:
            around = joined(*drawn)
            near = [text for text in texts if are_near(text, around, NEAR)]
            x0, y0, x1, y1 = joined(around, *near)
            if max(x1 - x0, y1 - y0) >= SMALLEST:
                yield x0 - ROUND, y0 - ROUND, x1 + ROUND, y1 + ROUND


def _cells(box: Box, size: float) -> Iterable[Cell]:
    """The cells of the page's raster that a box touches; of a large area those along its edges."""
    x0, y0, x1, y1 = (math.floor(v / size) for v in box)
    if x1 - x0 < 2 or y1 - y0 < 2:
        return [(x, y) for x in range(x0, x1 + 1) for y in range(y0, y1 + 1)]
    across = [(x, y) for x in range(x0, x1 + 1) for y in (y0, y1)]
    return [*across, *((x, y) for y in range(y0 + 1, y1) for x in (x0, x1))]


def _connected(cells: dict[Cell, set[int]]) -> set[int]:
    """Take what hangs together out of the cells: its members."""
    waiting, members = [next(iter(cells))], set[int]()
    while waiting:
        x, y = waiting.pop()
        members |= cells.pop((x, y), set())
        near = ((x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1))
        for cell in near:
            if cell in cells:
                members |= cells.pop(cell)
                waiting.append(cell)
    return members
