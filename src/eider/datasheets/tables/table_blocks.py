"""Where tables may be on a page: frames of rulings that hang together, and lines with columns that have none."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import are_near, holds, joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.table_grid import CAPTION
from eider.datasheets.tables.table_headings import limit_word
from eider.datasheets.tables.value_reading import is_number
from eider.geometry.plane import Box

# Rulings of one frame touch within so many points; a page with more than so many is a drawing, and has no frames.
TOUCH, MOST_RULINGS = 1.2, 4_000
# A frame has at least so many lines across, and a table so many lines of text with several columns.
FEWEST_ACROSS, FEWEST_LINES = 3, 3
# In heights of the text: lines of one open table are no farther apart; a phrase of so many words is a sentence.
FARTHEST_STEP, SENTENCE = 3.2, 7
ROUND = 2.0
MOST_HEADING_WORDS = 2
# A phrase of so many words is not a cell; the further lines of a cell begin within so many points of its first.
CLAUSE, UNDER = 4, 3.0
# A column of running text has at least so many long lines; a row of a table within so many points of one is level.
FEWEST_PROSE_LINES, SAME_LINE = 4, 1.0
# In heights of the text: a line of a paragraph, or one a short line further, is not a farther from the one before it.
FARTHEST_PROSE = 3.2
# What lists begin with; a hyphen, a star or the letter o does so only before a sentence.
BULLETS, HYPHENS, FEWEST_LISTED = frozenset("•▪●○·◦■□"), frozenset("-–—o*"), 3
# A heading is this many times as far from the line above or below it as lines of a table are, or its letters are so
# many times as large; its own words may be spaced this many times as wide.
HEADING_ABOVE, HEADING_BELOW, HEADING_SIZE, HEADING_SPACED = 1.4, 1.25, 1.08, 2.0
# Columns of a page are so many heights of the text apart, and fewer than this share of their lines are level.
GUTTER, LEVEL, MOST_TITLES = 3.0, 0.6, 6
FEWEST_SIDES = 2
# A line that names so many limits is the head of a table.
FEWEST_LIMITS = 2


def table_blocks(page: PageText) -> tuple[Box, ...]:
    """Boxes that may hold a table, from the top of the page down; frames first where both mean one."""
    words = [word for word in page.words if word.quarters == 0]
    frames = [
        box for box in ruled_blocks(page.rulings) if sum(holds(box, word.box) for word in words) >= 2 * FEWEST_LINES
    ]
    outside = [word for word in words if not any(holds(frame, word.box) for frame in frames)]
    lines = text_lines(outside)
    if prose := list(_prose_columns(outside, lines)):
        outside = [word for word in outside if not any(holds(column, word.box) for column in prose)]
        lines = text_lines(outside)
    return tuple(sorted([*frames, *_open_blocks(outside, lines)], key=lambda box: -box[3]))


def _prose_columns(words: Sequence[PageWord], lines: Sequence[list[PageWord]]) -> Iterator[Box]:
    """Columns of running text beside which a table stands, whose rows are not level with its lines.

    The long texts of a table, as descriptions are, begin level with its rows.
    """
    gap = phrase_gap(words) if words else 0.0
    sentences = [p for line in lines for p in phrases(line, gap) if len(p) >= SENTENCE]
    for group in _runs_of_lines(sentences):
        x0, y0, x1, y1 = joined(*(word.box for phrase in group for word in phrase))
        beside = [w for w in words if y0 <= w.middle[1] <= y1 and (w.box[0] > x1 + gap or w.box[2] < x0 - gap)]
        rows = [line for line in text_lines(beside) if len(phrases(line, gap)) > 1]
        heights = [phrase[0].middle[1] for phrase in group]
        level = sum(any(abs(row[0].middle[1] - y) < SAME_LINE for y in heights) for row in rows)
        if len(rows) >= FEWEST_LINES and level < LEVEL * len(rows):
            yield x0 - 1, y0 - 1, x1 + 1, y1 + 1


def _runs_of_lines(sentences: Sequence[list[PageWord]]) -> Iterator[list[list[PageWord]]]:
    """Sentences that begin under each other line by line, four and more."""
    by_edge: dict[int, list[list[PageWord]]] = {}
    for phrase in sentences:
        by_edge.setdefault(round(phrase[0].box[0] / UNDER), []).append(phrase)
    for group in by_edge.values():
        run: list[list[PageWord]] = []
        for phrase in group:
            if run and run[-1][0].middle[1] - phrase[0].middle[1] > FARTHEST_PROSE * phrase[0].size:
                yield from [run] if len(run) >= FEWEST_PROSE_LINES else []
                run = []
            run.append(phrase)
        yield from [run] if len(run) >= FEWEST_PROSE_LINES else []


def ruled_blocks(rulings: Sequence[Ruling], fewest: int = FEWEST_ACROSS) -> list[Box]:
    """The boxes of rulings that hang together, with so many lines across at least."""
    if len(rulings) > MOST_RULINGS:
        return []
    groups: list[tuple[Box, list[Ruling]]] = []
    for ruling in rulings:
        box, mine, others = ruling.box, [ruling], []
        for other, members in groups:
            if are_near(box, other, TOUCH):
                box, mine = joined(box, other), [*mine, *members]
            else:
                others.append((other, members))
        groups = [*others, (box, mine)]
    return [_grown(box) for box, mine in groups if sum(r.across for r in mine) >= fewest]


def _grown(box: Box) -> Box:
    return box[0] - ROUND, box[1] - ROUND, box[2] + ROUND, box[3] + ROUND


def _open_blocks(words: Sequence[PageWord], lines: Sequence[list[PageWord]]) -> Iterator[Box]:
    """Runs of lines of which most have several phrases under each other."""
    if not words:
        return
    gap = phrase_gap(words)
    run: list[list[PageWord]] = []
    for above, line in pairwise([[], *lines]):
        parted = bool(run) and bool(above) and above[0].middle[1] - line[0].middle[1] > FARTHEST_STEP * line[0].size
        is_prose = _is_prose(line, gap, run)
        if parted or is_prose:
            yield from _sections(run, gap)
            run = []
        if not is_prose:
            run.append(line)
    yield from _sections(run, gap)


def _sections(run: Sequence[list[PageWord]], gap: float) -> Iterator[Box]:
    """The blocks of a run of lines that headings part: tables of sections that follow each other are one each."""
    if len(run) < FEWEST_LINES:
        return
    steps = [above[0].middle[1] - below[0].middle[1] for above, below in pairwise(run)]
    typical, size = median(steps), median(word.size for line in run for word in line)
    begun = 0
    for index, (line, below) in enumerate(pairwise(run)):
        if _is_head_under(line, run[begun:index]):
            # Limits are named again under rows that have some: another table follows at once.
            yield from _block(list(run[begun:index]), gap)
            begun = index
            continue
        is_alone = len(phrases(line, HEADING_SPACED * gap)) == 1 and len(line) < SENTENCE
        # The space between words is as wide as the letters are high.
        own_gap = gap * max(1.0, line[0].size / size)
        is_alone = is_alone and not _is_row_over(phrases(line, own_gap), phrases(below, gap))
        # The first line has nothing over it: of one word it may be the heading of a column.
        is_apart = steps[index - 1] > HEADING_ABOVE * typical if index else len(line) > 1
        is_large = line[0].size > HEADING_SIZE * size
        is_over = is_apart or steps[index] > HEADING_BELOW * typical or is_large
        # Under a heading in larger letters the head of a table may begin with what is over several of its columns.
        heads = run[index + 1 : index + 3] if is_large else [below]
        columned = next((head for head in heads if len(phrases(head, gap)) > 1), None)
        if is_alone and is_over and columned is not None and _begins_at_left(line, columned, gap):
            yield from _block(list(run[begun:index]), gap)
            begun = index + 1
    yield from _block(list(run[begun:]), gap)


def _is_head_under(line: Sequence[PageWord], above: Sequence[list[PageWord]]) -> bool:
    """Whether a line names limits, as Min and Max, has no figures, and stands under rows of numbers: what is beside a
    table has none over it, and what a head has over it is no rows."""
    limits = [word for word in line if limit_word(word.text)]
    if len(limits) < FEWEST_LIMITS or any(map(_has_figure, line)):
        return False
    spans = [(limit.box[0], limit.box[2]) for limit in limits]
    numbered = [[word for word in other if is_number(word.text)] for other in above]
    rows = sum(any(w.box[0] < stop and start < w.box[2] for w in other for start, stop in spans) for other in numbered)
    return rows >= FEWEST_LINES


def _has_figure(word: PageWord) -> bool:
    return any(letter.isdigit() for letter in word.text)


def _is_row_over(line: Sequence[list[PageWord]], below: Sequence[list[PageWord]]) -> bool:
    """Whether phrases of a line begin over columns of the next: a row, or the headings of the columns."""
    starts = [phrase[0].box[0] for phrase in below[1:]]
    return any(abs(phrase[0].box[0] - start) < UNDER for phrase in line[1:] for start in starts)


def _begins_at_left(line: Sequence[PageWord], below: Sequence[PageWord], gap: float) -> bool:
    """Whether a line begins before the second column below it: one that does not may be over several columns."""
    return line[0].box[0] < phrases(below, gap)[1][0].box[0]


def _is_prose(line: list[PageWord], gap: float, run: Sequence[list[PageWord]]) -> bool:
    """Whether a line is a sentence, or names a table or a figure; a cell's further line is under its column."""
    found = phrases(line, gap)
    if CAPTION.match(line_text(line)) is not None or _is_listed(line, found):
        return True
    if len(found) > 1:
        return max(map(len, found)) >= SENTENCE and min(map(len, found)) >= CLAUSE
    if len(found[0]) < SENTENCE:
        return False
    columned = next((phrases(above, gap) for above in reversed(run) if len(phrases(above, gap)) > 1), [])
    if any(abs(phrase[0].box[0] - line[0].box[0]) < UNDER for phrase in columned[1:]):
        return False
    # Under a heading that stands over the middle of its column.
    over = [i for i, p in enumerate(columned) if p[0].box[0] < line[-1].box[2] and line[0].box[0] < p[-1].box[2]]
    return len(over) != 1 or over[0] == 0


def _is_listed(line: Sequence[PageWord], found: Sequence[Sequence[PageWord]]) -> bool:
    """Whether a line is an entry of a list."""
    first = line[0].text
    is_sentence = len(found) <= 2 and len(line) > FEWEST_LISTED
    return len(line) > 1 and (first in BULLETS or (first in HYPHENS and is_sentence))


def _block(run: list[list[PageWord]], gap: float) -> Iterator[Box]:
    """The box of a run of lines without single phrases at its ends; nothing where too few have columns.

    A short phrase right above the first of them stays: it may be a heading over several columns.
    """
    columned = [i for i, line in enumerate(run) if len(phrases(line, gap)) > 1]
    if len(columned) < FEWEST_LINES:
        return
    # Titles may go over both columns of a page.
    for start in columned[:MOST_TITLES]:
        below = run[start : columned[-1] + 1]
        sides = _sides([word for line in below for word in line], _between_headings(below, gap))
        if sides is not None:
            yield from _block(run[:start], gap)
            for side in sides:
                yield from _open_blocks(side, text_lines(side))
            break
    else:
        first, last = columned[0], columned[-1]
        first -= first > 0 and _may_be_heading(run[first - 1])
        kept = run[first : last + 1]
        yield _grown(joined(*(word.box for line in kept for word in line)))


def _between_headings(run: Sequence[list[PageWord]], gap: float) -> float | None:
    """Where two tables side by side part, each with a heading at the left edge of its columns; None where none do.

    Headings over groups of columns of one table leave its first column out, or are over the middle of theirs.
    """
    if len(run) < FEWEST_LINES:
        return None
    heads, columns = phrases(run[0], HEADING_SPACED * gap), phrases(run[1], gap)
    starts = [phrase[0].box[0] for phrase in columns]
    if len(heads) != FEWEST_SIDES or len(columns) < 2 * FEWEST_SIDES or abs(heads[0][0].box[0] - starts[0]) > UNDER:
        return None
    found = next((start for start in starts[FEWEST_SIDES:] if abs(heads[1][0].box[0] - start) < UNDER), None)
    return found - UNDER if found is not None else None


def _sides(words: Sequence[PageWord], between: float | None) -> tuple[list[PageWord], list[PageWord]] | None:
    """The words left and right of the widest gutter, where their lines are not those of one table; else None.

    They may be level where they part `between` two headings.
    """
    spans = sorted((word.box[0], word.box[2]) for word in words)
    gap = phrase_gap(words)
    widest, at, reach = 0.0, 0.0, spans[0][1]
    for start, stop in spans[1:]:
        if start - reach > widest:
            widest, at = start - reach, (start + reach) / 2
        reach = max(reach, stop)
    is_parted = between is not None and not any(start < between < stop for start, stop in spans)
    if between is not None and is_parted:
        at = between
    elif widest < GUTTER * max(word.size for word in words):
        return None
    left = [word for word in words if word.middle[0] < at]
    right = [word for word in words if word.middle[0] > at]
    one, other = text_lines(left), text_lines(right)
    fewer, more = sorted((one, other), key=len)
    heights = [line[0].middle[1] for line in more]
    level = sum(any(abs(line[0].middle[1] - y) < line[0].size / 4 for y in heights) for line in fewer)
    has_columns = all(sum(len(phrases(line, gap)) > 1 for line in side) >= FEWEST_LINES for side in (one, other))
    return (left, right) if has_columns and (is_parted or level < LEVEL * len(fewer)) else None


def _may_be_heading(line: Sequence[PageWord]) -> bool:
    """Whether a line is a word or two; a letter alone belongs to a drawing."""
    return len(line) <= MOST_HEADING_WORDS and len(line_text(list(line))) > MOST_HEADING_WORDS
