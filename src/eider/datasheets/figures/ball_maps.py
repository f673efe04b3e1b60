"""Maps of balls on a page: numbers over the columns, letters at the rows, whatever is drawn between them."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median

from eider.datasheets.pages.page_frame import holds, joined
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.text_lines import text_lines
from eider.geometry.plane import Box
from eider.packages.forms.array import ROW_LETTERS

# A map has so many columns and rows at least; the letters stand no farther (in pitches) before its first column.
FEWEST, BEFORE = 3, 2.0
# In pitches: what is written at a ball is no farther under the last row.
UNDER = 0.75


def ball_maps(words: Sequence[PageWord], taken: Sequence[Box]) -> Iterator[Box]:
    """The boxes of the maps of balls among the straight words of a page, outside of what is taken."""
    free = [word for word in words if word.quarters == 0 and not any(holds(box, word.box) for box in taken)]
    for line in text_lines(free):
        numbers = [word for word in line if word.text.isdecimal()]
        if len(numbers) < FEWEST or len(numbers) < len(line):
            continue
        wanted = [str(number) for number in range(1, len(numbers) + 1)]
        if [word.text for word in numbers] not in (wanted, wanted[::-1]):
            continue
        pitch = median(b.middle[0] - a.middle[0] for a, b in pairwise(numbers))
        letters = _row_letters(free, numbers, pitch)
        if len(letters) >= FEWEST:
            x0, _y0, _x1, y1 = joined(*(word.box for word in (*numbers, *letters)))
            foot = letters[-1].middle[1] - UNDER * pitch
            yield x0, foot, numbers[-1].middle[0] + pitch / 2, y1


def _row_letters(words: Sequence[PageWord], numbers: Sequence[PageWord], pitch: float) -> list[PageWord]:
    """The letters at the rows, from A on, under the line of numbers and before the first of its columns."""
    left, line = numbers[0].middle[0], numbers[0].middle[1]
    before = [w for w in words if left - BEFORE * pitch < w.middle[0] < left - 0.2 * pitch and w.middle[1] < line]
    found: list[PageWord] = []
    for word in sorted(before, key=lambda word: -word.middle[1]):
        is_next = len(found) < len(ROW_LETTERS) and word.text == ROW_LETTERS[len(found)]
        is_level = not found or abs(word.middle[0] - found[0].middle[0]) < pitch / 3
        if is_next and is_level:
            found.append(word)
    return found
