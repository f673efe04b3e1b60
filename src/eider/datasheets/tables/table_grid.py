"""Words and rulings inside a box to rows, columns and cells: ruled tables, open ones, and what lies between.

All coordinates are such that text lies straight (see `frame.turned`).
"""

import itertools
import re
from collections.abc import Iterator, Sequence
from itertools import pairwise

import msgspec

from eider.datasheets.pages.overlines import without_bars
from eider.datasheets.pages.page_frame import are_near, holds, joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.open_rows import open_rows
from eider.geometry.plane import Box

# Columns are at least this share of the text size apart.
COLUMN_GAP = 0.5
# A whitespace column may be crossed by this share of the lines: merged headings and notes do.
CROSSED = 0.25
# A ruling parts two cells where it covers this share of their common edge.
COVERS = 0.5
# Rulings nearer than this (points) are one, as a double line is.
SAME_LINE = 2.0
# A row is nearly full with this share of the most phrases; so many such rows, and this share of all, tell the columns.
NEARLY_FULL, FEWEST_FULL, ENOUGH_FULL = 0.75, 3, 0.4
# What a caption begins with.
CAPTION = re.compile(r"(?:table|tab\.|figure|fig\.)\s*[\dA-Z]", re.IGNORECASE)
# Where one number ends and another begins.
NUMBER_END, NUMBER_START = re.compile(r"\d[)\]]?$"), re.compile(r"\d*[.,]\d")
Place = tuple[int, int]
# Rows are ruled where there are lines between at least this share of the lines of text.
ROWS_RULED = 0.45
# Headings that are turned by a quarter are in one of so many rows.
TURNED_ROWS = 3
# An entry of a cell, as opposed to a line of a text, is one word of so many letters at most.
LONGEST_ENTRY = 8
# Two rows that no ruling parts are two where so large a share of the columns that hold anything have an entry in each.
ROWS_APART = 0.6
# Lines beside each other are level within this share of the text size.
SAME_LEVEL = 0.3
# An edge of a column that is given has its rule within so many points.
AT_EDGE = 4.0


class Cell(msgspec.Struct, frozen=True):
    """A cell with its words in reading order; `row` and `column` are its first, counted from 0."""

    row: int
    column: int
    rows: int
    columns: int
    box: Box
    lines: tuple[tuple[PageWord, ...], ...] = ()

    @property
    def text(self) -> str:
        """Its text on one line."""
        return " ".join(line_text(line) for line in self.lines)

    @property
    def words(self) -> tuple[PageWord, ...]:
        """All its words."""
        return tuple(word for line in self.lines for word in line)

    @property
    def ink(self) -> Box:
        """The box around its words; its own box where it is empty."""
        return joined(*(word.box for word in self.words)) if self.lines else self.box


class TableGrid(msgspec.Struct, frozen=True):
    """A table: cells by row, and where rows (top to bottom) and columns (left to right) part.

    `covering` gives for each row and column the index of the cell that covers it.
    """

    cells: tuple[Cell, ...]
    covering: tuple[tuple[int, ...], ...]
    row_edges: tuple[float, ...]
    column_edges: tuple[float, ...]
    is_ruled: bool

    @property
    def rows(self) -> int:
        """How many rows there are."""
        return len(self.row_edges) - 1

    @property
    def columns(self) -> int:
        """How many columns there are."""
        return len(self.column_edges) - 1

    def row(self, index: int) -> tuple[Cell, ...]:
        """The cells that begin in or reach into a row, left to right."""
        return tuple(self.cells[i] for i in dict.fromkeys(self.covering[index]))

    def at(self, row: int, column: int) -> Cell:
        """The cell that covers a place of the grid."""
        return self.cells[self.covering[row][column]]


def find_grid(
    words: Sequence[PageWord], rulings: Sequence[Ruling], box: Box, edges: Sequence[float] = ()
) -> TableGrid | None:
    """The table inside a box; None where there are no words in it. `edges` are those of its columns, where known."""
    within = [word for word in words if holds(box, word.box)]
    inside = [word for word in within if word.quarters == 0]
    if not inside:
        return None
    rulings = without_bars(inside, [ruling for ruling in rulings if are_near(ruling.box, box)])
    lines = _without_captions(text_lines(inside), rulings, box)
    inside = [word for line in lines for word in line]
    upright = [word for word in within if word.quarters % 2]
    ink = joined(*(word.box for word in (*inside, *upright)))
    uprights = _positions(rulings, box, ink, across=False)
    levels = _positions(rulings, box, ink, across=True)
    across = [r for r in rulings if r.across]
    rows, rows_ruled = _rows(lines, [y for y, _ in levels], ink, across)
    gap = phrase_gap(inside)
    drawn = [x for x, _ in uprights]
    columns = [(x, any(abs(x - other) < AT_EDGE for other in drawn)) for x in edges] or _columns(
        [[line] for line in lines] if rows_ruled else open_rows(lines), [x for x, _ in uprights], ink, gap
    )
    parts = [phrases(line, gap) for line in lines]
    grid = _cells(rows, columns, parts, rulings, rows_ruled)
    if between := _between_lines(grid):
        # Rules stand between groups of rows alone, or lines are so near that they were taken for those of a cell.
        edges = sorted({*rows, *between}, reverse=True)
        grid = _cells(edges, columns, parts, rulings, rows_ruled, frozenset(between))
    return _with_turned_headings(grid, upright) if upright else grid


def _between_lines(grid: TableGrid) -> list[float]:
    """Where rows of which every cell has as many lines as the others, each level with theirs, are several rows."""
    found: list[float] = []
    for row in range(grid.rows):
        cells = [cell for cell in grid.row(row) if cell.row == row and cell.rows == 1 and cell.lines]
        counts = {len(cell.lines) for cell in cells}
        if len(cells) < 2 or len(counts) > 1 or counts == {1}:
            continue
        levels = [[line[0].middle[1] for line in cell.lines] for cell in cells]
        size = cells[0].lines[0][0].size
        if all(max(at) - min(at) < SAME_LEVEL * size for at in zip(*levels, strict=True)):
            found += [(above + below) / 2 for above, below in pairwise(levels[0])]
    return found


def _with_turned_headings(grid: TableGrid, words: Sequence[PageWord]) -> TableGrid:
    """The table with headings that run up or down in those of its first cells that hold nothing else."""
    cells = list(grid.cells)
    for index, cell in enumerate(cells):
        x0, y0, x1, y1 = cell.box
        inside = [word for word in words if x0 <= word.middle[0] <= x1 and y0 <= word.middle[1] <= y1]
        if inside and not cell.lines and cell.row < TURNED_ROWS:
            # Text that runs up is read from below.
            ordered = sorted(inside, key=lambda w: (round(w.middle[0]), w.middle[1] * (1 if w.quarters == 1 else -1)))
            cells[index] = msgspec.structs.replace(cell, lines=(tuple(ordered),))
    return msgspec.structs.replace(grid, cells=tuple(cells))


def _without_captions(lines: list[list[PageWord]], rulings: Sequence[Ruling], box: Box) -> list[list[PageWord]]:
    """The lines of a table without the caption over it, which people draw into the box."""
    kept = list(lines)
    while len(kept) > 2 and _is_caption(kept[0], kept[1:], rulings, box):
        kept.pop(0)
    return kept


def _is_caption(line: list[PageWord], below: list[list[PageWord]], rulings: Sequence[Ruling], box: Box) -> bool:
    """Whether a line names the table: it says so, or is one phrase of several words above the table's frame."""
    gap = phrase_gap([*line, *(word for other in below for word in other)])
    if all(len(phrases(other, gap)) < 2 for other in below):
        return False
    # Type is set wider after the full stop of “Table 2.”.
    if CAPTION.match(line_text(line)) and len(phrases(line, 2 * gap)) == 1:
        return True
    if len(phrases(line, gap)) > 1 or len(line) < 3:
        return False
    tops = [r.at for r in rulings if r.across and are_near(r.box, box)]
    left = min(word.box[0] for other in below for word in other)
    is_left = abs(line[0].box[0] - left) < line[0].size
    return (bool(tops) and line[0].middle[1] > max(tops)) or (not tops and is_left)


def _positions(rulings: Sequence[Ruling], box: Box, ink: Box, *, across: bool) -> list[tuple[float, float]]:
    """Where rulings lie that part text, and how much of the text they reach along."""
    low, high = (1, 3) if across else (0, 2)
    along = (0, 2) if across else (1, 3)
    places: list[tuple[float, float]] = []
    for ruling in sorted((r for r in rulings if r.across == across), key=lambda r: r.at):
        reach = min(ruling.stop, ink[along[1]]) - max(ruling.start, ink[along[0]])
        if not box[low] - 1 <= ruling.at <= box[high] + 1 or reach <= 0:
            continue
        if places and ruling.at - places[-1][0] < SAME_LINE:
            places[-1] = (places[-1][0], places[-1][1] + reach)
        else:
            places.append((ruling.at, reach))
    return places


def _rows(
    lines: list[list[PageWord]], levels: list[float], ink: Box, rulings: Sequence[Ruling]
) -> tuple[list[float], bool]:
    """The edges of rows from the top down, and whether they are ruled."""
    inner = [y for y in levels if ink[1] < y < ink[3] and not any(_strikes(line, y, rulings) for line in lines)]
    if len(inner) >= ROWS_RULED * (len(lines) - 1) and inner:
        top, bottom = max(levels[-1], ink[3]), min(levels[0], ink[1])
        edges = [top, *sorted(inner, reverse=True), bottom]
        return [edges[0], *(b for a, b in itertools.pairwise(edges) if a - b > SAME_LINE)], True
    edges = [ink[3]]
    for above, below in itertools.pairwise(open_rows(lines)):
        low, high = (min(w.box[1] for line in above for w in line), max(w.box[3] for line in below for w in line))
        edges.append((low + high) / 2)
    return [*edges, ink[1]], False


def _strikes(line: list[PageWord], y: float, rulings: Sequence[Ruling]) -> bool:
    """Whether a line at y runs through the words, as an overbar or an underline nearly does.

    A heading that is centred over two rows of headings is at such a height beside the line that parts them.
    """
    struck = [w for w in line if w.box[1] + 0.25 * w.size < y < w.box[3] - 0.25 * w.size]
    near = [r for r in rulings if abs(r.at - y) < SAME_LINE]
    return any(min(r.stop, w.box[2]) - max(r.start, w.box[0]) > 0 for w in struck for r in near)


def _columns(rows: list[list[list[PageWord]]], uprights: list[float], ink: Box, gap: float) -> list[tuple[float, bool]]:
    """The edges of columns from the left, and whether each is a ruling."""
    inner = [(x, True) for x in uprights if ink[0] < x < ink[2]]
    for low, high, at in _white_columns(rows, ink, gap):
        if not any(low - 1 <= x <= high + 1 for x, _ in inner):
            inner.append((at, False))
    left = min([ink[0], *(x for x in uprights if x <= ink[0] + 1)])
    right = max([ink[2], *(x for x in uprights if x >= ink[2] - 1)])
    return [(left, True), *sorted(inner), (right, True)]


def _white_columns(rows: list[list[list[PageWord]]], ink: Box, gap: float) -> list[tuple[float, float, float]]:
    """Bands that hardly any phrase crosses, and in each the place that fewest do."""
    spans = [[(p[0].box[0], p[-1].box[2]) for line in row for p in phrases(line, gap)] for row in rows]
    typical = _full_rows([s for s in spans if len(s) > 1] or spans)
    sizes = sorted(word.size for row in rows for line in row for word in line)
    size = sizes[len(sizes) // 2]
    allowed = int(CROSSED * len(typical))
    marks = sorted({x for s in typical for span in s for x in span if ink[0] <= x <= ink[2]})
    bands: list[list[tuple[float, float, int]]] = []
    for low, high in itertools.pairwise(marks):
        middle = (low + high) / 2
        crossing = sum(any(a < middle < b for a, b in s) for s in typical)
        if crossing > allowed:
            continue
        if bands and low <= bands[-1][-1][1]:
            bands[-1].append((low, high, crossing))
        else:
            bands.append([(low, high, crossing)])
    wide = [_best(band) for band in bands if band[-1][1] - band[0][0] >= max(COLUMN_GAP * size, gap)]
    return _without_halves(_without_empty(wide, typical, ink), spans, ink)


def _without_halves(
    bands: list[tuple[float, float, float]], spans: list[list[tuple[float, float]]], ink: Box
) -> list[tuple[float, float, float]]:
    """Bands without those between two halves of one column: no row has something on both sides of such a one.

    A heading over the middle of a column of short texts is beside them, not over them.
    """
    kept = list(bands)
    for band in bands:
        index = kept.index(band)
        start = kept[index - 1][2] if index else ink[0] - 1
        stop = kept[index + 1][2] if index + 1 < len(kept) else ink[2] + 1
        left = [any(start <= (a + b) / 2 <= band[2] for a, b in row) for row in spans]
        right = [any(band[2] < (a + b) / 2 <= stop for a, b in row) for row in spans]
        if not any(a and b for a, b in zip(left, right, strict=True)) and any(left) and any(right):
            kept.remove(band)
    return kept


def _full_rows(spans: list[list[tuple[float, float]]]) -> list[list[tuple[float, float]]]:
    """The rows with something in nearly every column, where there are enough: others have cells over several."""
    most = max(map(len, spans))
    full = [s for s in spans if len(s) >= NEARLY_FULL * most]
    return full if len(full) >= max(FEWEST_FULL, ENOUGH_FULL * len(spans)) else spans


def _best(band: list[tuple[float, float, int]]) -> tuple[float, float, float]:
    fewest = min(crossing for _, _, crossing in band)
    low, high, _ = max((piece for piece in band if piece[2] == fewest), key=lambda p: p[1] - p[0])
    return band[0][0], band[-1][1], (low + high) / 2


def _without_empty(
    bands: list[tuple[float, float, float]], spans: list[list[tuple[float, float]]], ink: Box
) -> list[tuple[float, float, float]]:
    """Bands with nothing between them become one."""
    kept: list[tuple[float, float, float]] = []
    for band in bands:
        start = kept[-1][2] if kept else ink[0] - 1
        if any(start <= (a + b) / 2 <= band[2] for s in spans for a, b in s):
            kept.append(band)
        elif kept:
            kept[-1] = (kept[-1][0], band[1], (kept[-1][0] + band[1]) / 2)
    while kept and not any((a + b) / 2 > kept[-1][2] for s in spans for a, b in s):
        kept.pop()
    return kept


class _Merger:
    """Places of a grid, of which neighbours can be made one cell."""

    def __init__(self, rows: int, columns: int) -> None:
        self._owner = {(r, c): (r, c) for r in range(rows) for c in range(columns)}

    def find(self, place: Place) -> Place:
        """The place that stands for the cell."""
        while self._owner[place] != place:
            place = self._owner[place]
        return place

    def merge(self, one: Place, other: Place) -> None:
        """Make the cells of two places one."""
        self._owner[self.find(other)] = self.find(one)

    def groups(self) -> dict[Place, list[Place]]:
        """The places of each cell, by the one that stands for it."""
        found: dict[Place, list[Place]] = {}
        for place in self._owner:
            found.setdefault(self.find(place), []).append(place)
        return found


def _cells(
    rows: list[float],
    columns: list[tuple[float, bool]],
    lines: list[list[list[PageWord]]],
    rulings: list[Ruling],
    rows_ruled: bool,
    soft: frozenset[float] = frozenset(),
) -> TableGrid:
    """Cells from lines of phrases: those are merged that no ruling parts, or over whose gap a phrase goes.

    Between rows at `soft` there is no ruling, and they are two all the same.
    """
    edges = [x for x, _ in columns]
    merger = _Merger(len(rows) - 1, len(edges) - 1)
    for r, (top, bottom) in enumerate(pairwise(rows)):
        inside = [line for line in lines if bottom <= line[0][0].middle[1] <= top]
        spans = [(part[0].box[0], part[-1].box[2]) for line in inside for phrase in line for part in _numbers(phrase)]
        for k, (x, is_ruled) in enumerate(columns[1:-1], start=1):
            crossed = any(a + 0.5 < x < b - 0.5 for a, b in spans)
            if (is_ruled and not _covered(rulings, x, bottom, top, across=False)) or (not is_ruled and crossed):
                merger.merge((r, k - 1), (r, k))
    if rows_ruled:
        _merge_rows(merger, rows, edges, rulings, soft, lines)
    groups = merger.groups()
    indexes = {first: index for index, first in enumerate(groups)}
    cells = tuple(_filled(group, rows, edges, lines) for group in groups.values())
    covering = tuple(tuple(indexes[merger.find((r, c))] for c in range(len(edges) - 1)) for r in range(len(rows) - 1))
    is_ruled = rows_ruled and sum(flag for _, flag in columns[1:-1]) * 2 >= len(columns) - 2
    return TableGrid(cells, covering, tuple(rows), tuple(edges), is_ruled)


def _numbers(phrase: list[PageWord]) -> Iterator[list[PageWord]]:
    """A phrase parted between numbers: two that stand near to each other can still be of two columns."""
    start = 0
    for at, (word, following) in enumerate(pairwise(phrase), start=1):
        if NUMBER_END.search(word.text) and NUMBER_START.match(following.text):
            yield phrase[start:at]
            start = at
    yield phrase[start:]


def _merge_rows(
    merger: _Merger,
    rows: list[float],
    edges: list[float],
    rulings: list[Ruling],
    soft: frozenset[float],
    lines: list[list[list[PageWord]]],
) -> None:
    """Merge cells over each other that no ruling parts, unless two rows of entries are over each other there."""
    counts: dict[int, list[int]] = {}

    def entries(row: int) -> list[int]:
        if row not in counts:
            low, high = rows[row + 1], rows[row]
            counts[row] = [_entries(lines, (left, low, right, high)) for left, right in pairwise(edges)]
        return counts[row]

    for r, y in enumerate(rows[1:-1], start=1):
        opened = [c for c, (a, b) in enumerate(pairwise(edges)) if not _covered(rulings, y, a, b, across=True)]
        if y in soft or not opened:
            continue
        over, under = entries(r - 1), entries(r)
        alike = [c for c in opened if over[c] == under[c] == 1]
        filled = sum(bool(a or b) for a, b in zip(over, under, strict=True))
        apart = alike if len(alike) >= max(2, ROWS_APART * filled) else []
        for c in opened:
            if c not in apart:
                merger.merge((r - 1, c), (r, c))


def _entries(lines: list[list[list[PageWord]]], box: Box) -> int:
    """How many words a place holds; one long word counts as several."""
    inside = [word for line in lines for phrase in line for word in phrase if holds(box, word.box)]
    return len(inside) + sum(len(word.text) > LONGEST_ENTRY for word in inside)


def _covered(rulings: list[Ruling], at: float, start: float, stop: float, *, across: bool) -> bool:
    length = sum(
        max(0.0, min(r.stop, stop) - max(r.start, start))
        for r in rulings
        if r.across == across and abs(r.at - at) < SAME_LINE
    )
    return length >= COVERS * (stop - start)


def _filled(
    group: list[tuple[int, int]], rows: list[float], edges: list[float], lines: list[list[list[PageWord]]]
) -> Cell:
    r0, r1 = min(r for r, _ in group), max(r for r, _ in group) + 1
    c0, c1 = min(c for _, c in group), max(c for _, c in group) + 1
    box = (edges[c0], rows[r1], edges[c1], rows[r0])
    # Lines of other rows have no word in it; to ask each of their words is what most time went into.
    near = [
        line for line in lines if line and box[1] - line[0][0].size <= line[0][0].middle[1] <= box[3] + line[0][0].size
    ]
    found = tuple(tuple(w for phrase in line for w in phrase if holds(box, w.box)) for line in near)
    return Cell(r0, c0, r1 - r0, c1 - c0, box, tuple(line for line in found if line))
