"""Where a page has drawings: what hangs together of its lines and areas, with the texts at them."""

import math
from collections.abc import Iterable, Iterator, Sequence

from eider.datasheets.figures.drawing_frames import frames_round_drawings, is_of_frames
from eider.datasheets.figures.figure_titles import FigureTitle
from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import are_near, area_in_common, holds, joined
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.geometry.plane import Box

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
# A page is looked at in a raster of so many cells along its longer side at most.
MOST_CELLS = 400
Cell = tuple[int, int]


def figure_boxes(page: PageText, taken: Sequence[Box], titles: Sequence["FigureTitle"] = ()) -> list[Box]:
    """The boxes of the drawings of a page with their texts, from the top down; `taken` are its tables.

    Words of `titles` are of no drawing: they would join the one over them to the one under them.
    """
    x0, y0, x1, y1 = page.frame.crop
    frames = frames_round_drawings(page.rulings)
    pieces = [
        box
        for box in (*(r.box for r in page.rulings), *page.areas)
        if max((box[2] - box[0]) / (x1 - x0), (box[3] - box[1]) / (y1 - y0)) < WHOLE_PAGE
        and _lies_on(page, box)
        and not any(holds(table, box) for table in taken)
        and not is_of_frames(box, frames)
    ]
    if not FEWEST_PIECES <= len(pieces) <= MOST_PIECES:
        return []
    words = [
        word
        for word in _drawing_words(page)
        if _lies_on(page, word.box)
        and not any(holds(table, word.box) for table in taken)
        and not any(holds(title.place, word.box) for title in titles)
    ]
    # A page as large as a damaged one may say it is has no more cells than others.
    cell = max(NEAR, max(x1 - x0, y1 - y0) / MOST_CELLS)
    return sorted(_grouped(pieces, [word.box for word in words], cell), key=lambda box: -box[3])


def _lies_on(page: PageText, box: Box) -> bool:
    """Whether a box lies on a page whole, or nearly so; of damaged pages some do not."""
    x0, y0, x1, y1 = page.frame.crop
    return x0 - NEAR <= box[0] and y0 - NEAR <= box[1] and box[2] <= x1 + NEAR and box[3] <= y1 + NEAR


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
    boxes = (*pieces, *words)
    for index, box in enumerate(boxes):
        for cell in _cells(box, size):
            cells.setdefault(cell, set()).add(index)
    groups: list[tuple[list[Box], list[Box]]] = []
    while cells:
        members = _connected(cells, boxes, size)
        drawn = [pieces[index] for index in members if index < len(pieces)]
        texts = [words[index - len(pieces)] for index in members if index >= len(pieces)]
        groups += [(drawn, texts)] if drawn else []
    few = [group for group in groups if len(group[0]) < FEWEST_PIECES]
    for drawn, texts in (group for group in groups if len(group[0]) >= FEWEST_PIECES):
        around = joined(*drawn)
        # The last land of a row may lie far from the others, with its own length: what reaches into a drawing is of it.
        reaching = [group for group in few if area_in_common(joined(*group[0]), around) > 0]
        around = joined(around, *(piece for group in reaching for piece in group[0]))
        near = [text for text in (*texts, *(t for group in reaching for t in group[1])) if are_near(text, around, NEAR)]
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


def _apart(a: Box, b: Box) -> float:
    """How far two boxes lie apart (points)."""
    across, up = max(a[0] - b[2], b[0] - a[2], 0.0), max(a[1] - b[3], b[1] - a[3], 0.0)
    return math.hypot(across, up)


def _connected(cells: dict[Cell, set[int]], boxes: Sequence[Box], near: float) -> set[int]:
    """Take what hangs together out of the cells: its members.

    What touches one cell does, and of two cells beside each other what is no farther apart than a cell is wide.
    """
    first = next(iter(cells))
    waiting, members = [(first, cells.pop(first))], set[int]()
    while waiting:
        (x, y), here = waiting.pop()
        members |= here
        for cell in ((x + i, y + j) for i in (-1, 0, 1) for j in (-1, 0, 1)):
            there = cells.get(cell)
            if there and (there & here or any(_apart(boxes[a], boxes[b]) <= near for a in here for b in there)):
                waiting.append((cell, cells.pop(cell)))
    return members
