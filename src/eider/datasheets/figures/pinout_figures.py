"""A rectangle on a page to the pinout figure in it: numbers, the names beside them, and where each stands."""

import re
from collections.abc import Iterable, Sequence
from statistics import median

import msgspec

from eider.datasheets.pages.document import Datasheet, DatasheetError
from eider.datasheets.pages.overlines import with_bars
from eider.datasheets.pages.page_frame import holds
from eider.datasheets.pages.page_words import PageWord
from eider.geometry.plane import Box, join_boxes
from eider.model.part import FigurePin

# In heights of the text: a name lies so near to its number in one line with it, or above or below it, and two words of
# one name so near to each other.
NEAR, ABOVE, WORDS_APART = 6.0, 2.0, 0.6
# Words whose middles are apart by less than this share of the text's height are in one row or column.
LEVEL = 0.5
# Whole numbers are those of pins where there are so many of them, and so large a share of those up to the highest.
FEWEST_NUMBERS, RUNS_ON = 2, 0.6
# A word that follows another by less than this, in heights of the text, is in one phrase with it.
SPACE = 0.4
# What is kept of the rectangle reaches so far beyond the words that were read, in heights of the text.
ROUND_WORDS = 1.5
NO_BOX = (0.0, 0.0, 0.0, 0.0)
# A figure has at most so many words: a grid of 2,000 positions has half of them.
MOST_WORDS = 5_000
# A grid has headings of at least so many columns and rows.
FEWEST_HEADINGS = 2
_NUMBER = re.compile(r"\d{1,4}|[A-Z]{1,2}\d{1,3}")
_ROW = re.compile(r"[A-Z]{1,2}")


class ReadFigure(msgspec.Struct, frozen=True):
    """What was read of a figure: its pins, how high its text is (PDF points), and the words that belong to none.

    `box` is the part of the rectangle around the words that were read.
    """

    pins: tuple[FigurePin, ...]
    size: float
    unread: tuple[str, ...]
    box: Box


def read_pinout_figure(datasheet: Datasheet, page: int, box: Box) -> ReadFigure:
    """Read the pinout figure inside a box.

    Raises:
        DatasheetError: no text lies in the box, or too much, or no pins could be made out in it.
    """
    text = datasheet.read(page)
    words = with_bars([word for word in text.words if holds(box, word.box)], text.rulings)
    if not words:
        raise DatasheetError(f"page {page}: no text in this rectangle; draw it around the pinout figure")
    if len(words) > MOST_WORDS:
        raise DatasheetError(f"page {page}: {len(words):,} words in this rectangle; draw it around the figure alone")
    found = figure_of_words(words)
    if not found.pins:
        raise DatasheetError(f"page {page}: no pin numbers with names in this rectangle; is it the pinout figure?")
    x0, y0, x1, y1 = found.box
    room = ROUND_WORDS * found.size
    tight = max(x0 - room, box[0]), max(y0 - room, box[1]), min(x1 + room, box[2]), min(y1 + room, box[3])
    return msgspec.structs.replace(found, box=tight)


def figure_of_words(words: Sequence[PageWord]) -> ReadFigure:
    """The pins among the words of a figure: a grid with headings, else numbers with the names at them."""
    size = median(word.size for word in words)
    return _grid(words, size) or _leads(words, size)


def _leads(words: Sequence[PageWord], size: float) -> ReadFigure:
    numbers = _plausible(
        [word for word in words if _NUMBER.fullmatch(word.text) and not _ends_phrase(word, words, size)]
    )
    names = _joined([word for word in words if word not in numbers], size)
    gaps = sorted(
        (gap, i, j)
        for i, number in enumerate(numbers)
        for j, name in enumerate(names)
        if (gap := _gap(number.box, name.box)) <= _reach(number, name) * size
    )
    name_of: dict[int, int] = {}
    for _gap_size, i, j in gaps:
        if i not in name_of and j not in name_of.values():
            name_of[i] = j
    pins = [FigurePin(numbers[i].text, names[j].text, *_rounded(numbers[i])) for i, j in sorted(name_of.items())]
    unread = [word.text for i, word in enumerate(numbers) if i not in name_of]
    unread += [word.text for j, word in enumerate(names) if j not in name_of.values()]
    used = [word.box for i, j in name_of.items() for word in (numbers[i], names[j])]
    return ReadFigure(tuple(pins), size, tuple(unread), join_boxes(used) if used else NO_BOX)


def _plausible(numbers: Sequence[PageWord]) -> list[PageWord]:
    """Each number once: where whole numbers run on from 1, texts such as “D7” are names and not positions of a grid."""
    decimals = [word for word in numbers if word.text.isdecimal()]
    values = {int(word.text) for word in decimals}
    runs_on = len(values) >= FEWEST_NUMBERS and max(values) <= len(values) / RUNS_ON
    kept = decimals if runs_on else [word for word in numbers if not word.text.isdecimal()]
    seen: dict[str, PageWord] = {}
    for word in kept:
        seen.setdefault(word.text, word)
    return list(seen.values())


def _joined(words: Sequence[PageWord], size: float) -> list[PageWord]:
    """Words that stand one behind the other in one line, as one."""
    made: list[PageWord] = []
    for word in words:
        last = made[-1] if made else None
        if (
            last
            and last.quarters == word.quarters
            and _gap(last.box, word.box) < WORDS_APART * size
            and _level(last, word, size)
        ):
            made[-1] = msgspec.structs.replace(
                last, text=f"{last.text} {word.text}", box=join_boxes([last.box, word.box])
            )
        else:
            made.append(word)
    return made


def _ends_phrase(word: PageWord, words: Sequence[PageWord], size: float) -> bool:
    """Whether a number is the end of a phrase, as in “Fig. 4” or “GPIO 2”, and not that of a pin."""
    return any(
        not _NUMBER.fullmatch(other.text)
        and other.quarters == word.quarters == 0
        and 0 <= word.box[0] - other.box[2] < SPACE * size
        and _level(other, word, size)
        for other in words
    )


def _level(a: PageWord, b: PageWord, size: float) -> bool:
    across = 1 if a.quarters % 2 == 0 else 0
    return abs(a.middle[across] - b.middle[across]) < LEVEL * size


def _reach(number: PageWord, name: PageWord) -> float:
    """How far the name may stand off, in heights: in the line of the number, or above or below it; else nowhere."""
    along = 1 if name.quarters % 2 == 0 else 0
    for axis, reach in ((along, NEAR), (1 - along, ABOVE)):
        if name.box[axis] <= number.middle[axis] <= name.box[axis + 2]:
            return reach
    return -1.0


def _gap(a: Box, b: Box) -> float:
    across = max(a[0] - b[2], b[0] - a[2], 0.0)
    along = max(a[1] - b[3], b[1] - a[3], 0.0)
    return float((across**2 + along**2) ** 0.5)


def _rounded(word: PageWord) -> tuple[float, float]:
    return round(word.middle[0], 2), round(word.middle[1], 2)


def _grid(words: Sequence[PageWord], size: float) -> ReadFigure | None:
    """A grid: columns headed by numbers that follow each other, rows by letters, a name in each cell."""
    columns = _headings([w for w in words if w.text.isdecimal()], 1, size)
    rows = _headings([w for w in words if _ROW.fullmatch(w.text)], 0, size)
    if len(columns) < FEWEST_HEADINGS or len(rows) < FEWEST_HEADINGS or not _follow_each_other(columns):
        return None
    cells: dict[str, list[PageWord]] = {}
    unread = []
    for word in words:
        if word in columns or word in rows:
            continue
        column = min(columns, key=lambda c: abs(c.middle[0] - word.middle[0]))
        row = min(rows, key=lambda r: abs(r.middle[1] - word.middle[1]))
        inside = _is_within(word, columns, 0) and _is_within(word, rows, 1)
        if inside:
            cells.setdefault(f"{row.text}{column.text}", []).append(word)
        else:
            unread.append(word.text)
    at = {f"{r.text}{c.text}": (round(c.middle[0], 2), round(r.middle[1], 2)) for r in rows for c in columns}
    pins = [FigurePin(number, " ".join(w.text for w in found), *at[number]) for number, found in cells.items()]
    # Fewer names than half of the cells: numbers and letters of something else lie in lines by chance.
    if len(pins) * 2 < len(columns) * len(rows):
        return None
    used = [word.box for word in (*columns, *rows, *(w for found in cells.values() for w in found))]
    return ReadFigure(tuple(pins), size, tuple(unread), join_boxes(used))


def _follow_each_other(columns: Sequence[PageWord]) -> bool:
    """Whether the numbers run on from 1, from the left or from the right; the ends of two rows of leads do not."""
    numbers = [int(word.text) for word in sorted(columns, key=lambda w: w.middle[0])]
    wanted = list(range(1, len(numbers) + 1))
    return numbers in (wanted, wanted[::-1])


def _headings(words: Iterable[PageWord], axis: int, size: float) -> list[PageWord]:
    """The most words of one line (axis 1) or column (axis 0), each text once."""
    lines: list[list[PageWord]] = []
    for word in words:
        line = next((x for x in lines if abs(x[0].middle[axis] - word.middle[axis]) < LEVEL * size), None)
        if line is None:
            lines.append([word])
        elif word.text not in {w.text for w in line}:
            line.append(word)
    return max(lines, key=len, default=[])


def _is_within(word: PageWord, headings: Sequence[PageWord], axis: int) -> bool:
    at = sorted(h.middle[axis] for h in headings)
    pitch = (at[-1] - at[0]) / (len(at) - 1)
    return at[0] - 0.6 * pitch <= word.middle[axis] <= at[-1] + 0.6 * pitch
