"""Whether a table goes on over the page: the same headings again, or rows under the same columns at the top."""

from collections.abc import Iterable, Sequence
from difflib import SequenceMatcher

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds, joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.recognition.recognised_page import are_recognised
from eider.datasheets.tables.table_grid import TableGrid
from eider.datasheets.tables.value_reading import cleaned
from eider.geometry.plane import Box

# Points: how far an edge of the table may lie off on the next page, and how far below it other text ends the search.
ASIDE, BELOW = 12.0, 60.0
# So near (points) the left edge of the table on the next page is to where it was.
EDGE_OFF = 6.0
# Lines of text higher than this above the next one end the table.
LARGEST_STEP = 3.2
# A head has so many rows, and stands on so many lines, at most.
MOST_HEAD_ROWS, MOST_HEAD_LINES = 3, 5
# What names the rows of a table differs from row to row, in so large a share of at least so many; a table of which so
# large a share of the names was there before is another one.
FEWEST_KEYS, DISTINCT, REPEATED = 3, 0.85, 0.6
# Headings that were recognised are one where so large a share of their letters is.
ALIKE = 0.75


def find_continuation(first: TableGrid, last: TableGrid, box: Box, page: PageText, following: PageText) -> Box | None:
    """The box in which a table goes on; None where it ends on its page."""
    if _goes_on_below(last, box, page):
        return None
    left, right = first.column_edges[0] - ASIDE, first.column_edges[-1] + ASIDE
    inside = [w for w in following.words if w.quarters == 0 and left <= w.middle[0] <= right]
    lines = text_lines(inside)
    start = _head_in(lines, first)
    if start is None:
        start = next((i for i, line in enumerate(lines[:4]) if _fits(line, first)), None)
        if start is None or not _is_open(last, page):
            return None
    return _rows_from(lines[start:], _foot(first, lines[start][0].middle[1], following))


def find_in_next_column(first: TableGrid, last: TableGrid, box: Box, page: PageText) -> Box | None:
    """The box in which a table goes on in the page's next column, under its own head again; None where it ends."""
    if _goes_on_below(last, box, page):
        return None
    beside = [word for word in page.words if word.quarters == 0 and word.box[0] > last.column_edges[-1]]
    lines = text_lines(beside)
    start = _head_in(lines, first)
    return _rows_from(lines[start:], float("-inf")) if start is not None else None


def _head_in(lines: Sequence[list[PageWord]], first: TableGrid) -> int | None:
    """The line with which the head of a table begins again; None where it is in none."""
    heads = [_head_words(first, rows) for rows in range(1, min(first.rows, MOST_HEAD_ROWS) + 1)]
    first_row = sorted((word for cell in first.row(0) for word in cell.words), key=lambda w: w.box[0])
    return next(
        (
            i
            for i, line in enumerate(lines)
            if any(_begins_head(lines, i, head) for head in heads) or _is_seen_alike(line, first_row)
        ),
        None,
    )


def _rows_from(lines: Sequence[list[PageWord]], foot: float) -> Box:
    """The box of a table's rows from the first of some lines on, down to its foot where that is known."""
    taken = [lines[0]]
    for line in lines[1:]:
        step = taken[-1][0].middle[1] - line[0].middle[1]
        # An edge drawn down to the foot tells it; without one a wide step does.
        is_apart = foot == float("-inf") and step > LARGEST_STEP * taken[-1][0].size
        if is_apart or line[0].middle[1] < foot:
            break
        taken.append(line)
    x0, y0, x1, y1 = joined(*(word.box for line in taken for word in line))
    return x0 - 2, y0 - 2, x1 + 2, y1 + 2


def _foot(first: TableGrid, y: float, page: PageText) -> float:
    """Where the table's left edge ends that is drawn beside a line at `y`; minus infinity where none is drawn."""
    left = first.column_edges[0]
    edges = [r for r in page.rulings if not r.across and abs(r.at - left) < EDGE_OFF]
    foot, lower = y, [r for r in edges if r.start < y < r.stop]
    if not first.is_ruled or not lower:
        return float("-inf")
    while lower:
        foot = min(r.start for r in lower)
        lower = [r for r in edges if r.start < foot - 1 and r.stop > foot - 1]
    return foot


def _head_words(grid: TableGrid, rows: int) -> tuple[str, ...]:
    """The words of the first rows of a table, in the order of the alphabet: a head may be broken into lines anew."""
    cells = {id(cell): cell for row in range(rows) for cell in grid.row(row)}
    return _plain_words(word for cell in cells.values() for word in cell.words)


def _plain_words(words: Iterable[PageWord]) -> tuple[str, ...]:
    return tuple(sorted(cleaned(word.text).lower() for word in words))


def _begins_head(lines: Sequence[list[PageWord]], at: int, head: tuple[str, ...]) -> bool:
    """Whether the head of the table begins with a line, over one line or several."""
    taken: list[PageWord] = []
    for line in lines[at : at + MOST_HEAD_LINES]:
        taken += line
        if len(taken) >= len(head):
            return _plain_words(taken) == head
    return False


def _is_seen_alike(line: Sequence[PageWord], head: Sequence[PageWord]) -> bool:
    """Whether a line that was recognised in a picture is the first row of the table, but for some of its letters."""
    if not are_recognised(line):
        return False
    text, other = (cleaned(line_text(words)).lower() for words in (line, head))
    return SequenceMatcher(None, text, other, autojunk=False).ratio() >= ALIKE


def edges_on(following: PageText, box: Box, first: TableGrid) -> tuple[float, ...]:
    """The edges of the table's columns on the next page, as they were; none where words there stand across them."""
    words = [word for word in following.words if holds(box, word.box)]
    inner = first.column_edges[1:-1]
    if any(word.box[0] + 1 < x < word.box[2] - 1 for word in words for x in inner):
        return ()
    return first.column_edges


def repeats_rows(parts: Sequence[TableGrid], further: TableGrid) -> bool:
    """Whether a table with the same head has the rows that went before: it is the same of another package, and no more
    of this one."""
    for column in range(parts[0].columns):
        before = [text for part in parts for text in _column_texts(part, column)]
        if len(before) >= FEWEST_KEYS and len(set(before)) >= DISTINCT * len(before):
            here = _column_texts(further, column)
            return bool(here) and sum(text in before for text in here) >= REPEATED * len(here)
    return False


def _column_texts(grid: TableGrid, column: int) -> list[str]:
    """The texts of a column under its head, each as often as it is there."""
    texts = [cleaned(grid.at(row, column).text) for row in range(1, grid.rows)]
    return [text for text in texts if text]


def _goes_on_below(last: TableGrid, box: Box, page: PageText) -> bool:
    """Whether other text follows under the table on its own page; a page number at the foot does not count."""
    bottom = min(box[1], last.row_edges[-1])
    return not is_last_on(page, (last.column_edges[0], bottom, last.column_edges[-1], box[3]))


def is_last_on(page: PageText, box: Box) -> bool:
    """Whether no text is below a box; a page number at the foot does not count."""
    foot = page.frame.crop[1] + BELOW
    return not any(foot < word.middle[1] < box[1] - 2 and box[0] <= word.middle[0] <= box[2] for word in page.words)


def _is_open(last: TableGrid, page: PageText) -> bool:
    """Whether a table ends so near the foot of its page that it may go on without headings."""
    return last.row_edges[-1] - page.frame.crop[1] < 2 * BELOW and last.rows > 2


def _fits(line: list[PageWord], grid: TableGrid) -> bool:
    """Whether a line has phrases in most of the table's columns, none across an edge."""
    spans = [(p[0].box[0], p[-1].box[2]) for p in phrases(line, phrase_gap(line))]
    edges = grid.column_edges
    inner = edges[1:-1]
    if any(a + 1 < x < b - 1 for a, b in spans for x in inner):
        return False
    filled = {sum(x <= (a + b) / 2 for x in edges) for a, b in spans}
    return len(filled) >= max(2, len(inner) // 2 + 1)
