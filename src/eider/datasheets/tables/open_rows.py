"""The lines of a table without rules between its rows to rows: which lines are of one cell."""

import re
from itertools import pairwise

from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases

# In sizes of the text: raised and lowered signs are nearer to their line than this (an index is set by a third of it).
RAISED_STEP = 0.6
# In sizes of the text: wrapped lines of one cell are at most so far apart (single spacing is 1.15 to 1.3, loose 1.5).
LARGEST_WRAP = 1.5
# Rows are at least this many times as far apart as the lines of one cell, or the two cannot be told from each other.
STEP_RATIO = 1.22
# More lines are no cell of a table but a paragraph.
MOST_LINES_OF_A_CELL = 6
# A line with phrases in this share of all columns is a row of its own, however near it is to another.
FULL = 0.85
# Where cells have several lines, at least this share of all steps between lines are those between rows.
FEWEST_ROW_STEPS = 0.15
# So many phrases without a figure are headings.
FEWEST_HEADINGS = 3
# What rows begin with: a letter of a dimension, or numbers of pins.
ROW_NAME = re.compile(r"[A-Za-zα-ω]{1,2}\d{0,2}|\d{1,3}(?:\s*[,–-]\s*\d{1,3})*")


def open_rows(lines: list[list[PageWord]]) -> list[list[list[PageWord]]]:
    """The lines of an open table by row: lines of one cell stand nearer to each other than rows do."""
    if not lines:
        return []
    size = sorted(word.size for line in lines for word in line)[sum(map(len, lines)) // 2]
    gap = phrase_gap([word for line in lines for word in line])
    marked = _with_raised(lines, size)
    heights = [_height(group) for group in marked]
    limit = _wrapping_step([above - below for above, below in pairwise(heights)], size)
    nears = [above - below <= limit for above, below in pairwise(heights)]
    # How many columns there are is told by the rows, and which lines are whole rows by the columns.
    loose = _grouped(marked, nears, gap, float("inf"))
    full = FULL * max(_columns_filled(row, gap) for row in loose)
    return _grouped(marked, nears, gap, full)


def _grouped(
    groups: list[list[list[PageWord]]], nears: list[bool], gap: float, full: float
) -> list[list[list[PageWord]]]:
    rows = [groups[0]]
    for is_near, group in zip(nears, groups[1:], strict=True):
        fits = is_near and len(rows[-1]) < MOST_LINES_OF_A_CELL
        if fits and all(_is_one_row(line, other, gap, full) for line in rows[-1] for other in group):
            rows[-1] = [*rows[-1], *group]
        else:
            rows.append(group)
    return rows


def _columns_filled(row: list[list[PageWord]], gap: float) -> int:
    """In how many columns a row has something: phrases that stand over each other are in one."""
    reach, count = float("-inf"), 0
    for start, stop in sorted((p[0].box[0], p[-1].box[2]) for line in row for p in phrases(line, gap)):
        count += start > reach
        reach = max(reach, stop)
    return count


def _with_raised(lines: list[list[PageWord]], size: float) -> list[list[list[PageWord]]]:
    """Lines with those of raised and lowered signs that are beside them, each with the nearer one."""
    groups = [[line] for line in lines]
    while len(groups) > 1:
        steps = [_height(above) - _height(below) for above, below in pairwise(groups)]
        at = min(range(len(steps)), key=lambda index: steps[index])
        if steps[at] >= RAISED_STEP * size:
            break
        groups[at : at + 2] = [[*groups[at], *groups[at + 1]]]
    return groups


def _height(group: list[list[PageWord]]) -> float:
    """Where the fullest line of a group stands."""
    return max(group, key=len)[0].middle[1]


def _is_one_row(line: list[PageWord], other: list[PageWord], gap: float, full: float) -> bool:
    """Whether two lines can be of one row: not both are full, and no phrase of one goes over several of the other."""
    parted = [phrases(words, gap) for words in (line, other)]
    spans = [[(p[0].box[0], p[-1].box[2]) for p in found] for found in parted]
    if all(len(found) >= full for found in spans) or all(map(_begins_with_name, parted)):
        return False
    if _are_headings(parted[0]) and _begins_with_name(parted[1]):
        return False
    ways = ((spans[0], spans[1]), (spans[1], spans[0]))
    return all(sum(c < b and a < d for c, d in under) < 2 for over, under in ways for a, b in over)


def _are_headings(parts: list[list[PageWord]]) -> bool:
    """Whether the phrases of a line can be headings: several, without a figure."""
    return len(parts) >= FEWEST_HEADINGS and not any(c.isdigit() for part in parts for c in line_text(part))


def _begins_with_name(parts: list[list[PageWord]]) -> bool:
    """Whether a line begins with the letter or the number of a row, and has something beside it."""
    return len(parts) > 1 and ROW_NAME.fullmatch(line_text(parts[0])) is not None


def _wrapping_step(steps: list[float], size: float) -> float:
    """Up to which step lines are of one row; 0 where all lines stand alike."""
    ordered = sorted(step for step in steps if step >= RAISED_STEP * size)
    for small, large in pairwise(ordered):
        # One step alone is that of the rule under the headings.
        if large > STEP_RATIO * small and small < LARGEST_WRAP * size:
            limit = (small + large) / 2
            return limit if sum(step > limit for step in ordered) >= FEWEST_ROW_STEPS * len(ordered) else 0.0
    return 0.0
