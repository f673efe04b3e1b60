"""The words of a drawing to its letters and lengths: limits over each other, remarks, another unit in brackets."""

import re
from collections.abc import Iterator, Sequence

import msgspec

from eider.datasheets.pages.page_frame import joined, turned
from eider.datasheets.pages.page_words import PageWord, line_text, straight
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.tables.table_headings import bare_symbol, is_symbol
from eider.datasheets.tables.value_reading import cleaned, compose, is_number, number, read_value
from eider.geometry.limits import Limits
from eider.geometry.plane import Box

# Limits over each other stand so near, in sizes of the text.
STACKED = 1.5
# A remark is no farther (in sizes of the text) behind its length.
REMARK_GAP = 1.5
_REMARK = re.compile(r"[(\[]\s*[.\d]|(?:max|min|typ|nom|ref|bsc)\b", re.IGNORECASE)
_IN_BRACKETS = re.compile(r"[(\[][^()\[\]]*\d[^()\[\]]*[)\]]")
_DECIMAL = re.compile(r"\d[.,]\d")
_COUNT = re.compile(r"^\(?\d{1,3}\s*[x×X]\)?\s*(?=[A-Za-z])|\s*\(?\d{1,3}\s*[x×X]\)?$")
_ONLY_COUNT = re.compile(r"\(?\d{1,3}\s*[x×X]\)?")


class DrawingText(msgspec.Struct, frozen=True):
    """A letter, or a length with its limits in mm, and where it stands (PDF points)."""

    letter: str
    text: str
    limits: Limits | None
    box: Box
    size: float


def drawing_texts(words: Sequence[PageWord], unit: str) -> tuple[DrawingText, ...]:
    """The letters and lengths among the words of a drawing, of those turned by a quarter too."""
    found: list[DrawingText] = []
    for quarters in sorted({word.quarters for word in words}):
        lines = text_lines([straight(word, quarters) for word in words if word.quarters == quarters])
        runs = [run for line in lines for run in _with_remarks(phrases(line, phrase_gap(line)))]
        for run in _with_stacked(runs):
            whole = _text(run, unit, quarters)
            # Lengths of two lines beside each other stand as near as the words of one text.
            found += [whole] if whole is not None else _single_lengths(run, unit, quarters)
    return tuple(found)


def _with_remarks(runs: Sequence[list[PageWord]]) -> list[list[PageWord]]:
    """The phrases of a line, a length in brackets or a remark such as MAX joined to the length that it is behind."""
    found: list[list[PageWord]] = []
    for run in runs:
        before = found[-1][-1] if found else None
        is_near = before is not None and run[0].box[0] - before.box[2] < REMARK_GAP * run[0].size
        is_length = before is not None and (before.text[-1:].isdigit() or before.text[-1:] in ")]")
        if is_near and is_length and _REMARK.match(run[0].text):
            found[-1] = [*found[-1], *run]
        else:
            found.append(run)
    return found


def _single_lengths(runs: Sequence[Sequence[PageWord]], unit: str, quarters: int) -> list[DrawingText]:
    """The words of a text that is not a length, each by itself, where each of them is one."""
    read = [_text([[word]], unit, quarters) for run in runs for word in run]
    known = [text for text in read if text is not None and text.limits is not None and _DECIMAL.search(text.text)]
    return known if len(known) == len(read) > 1 else []


def _with_stacked(runs: Sequence[list[PageWord]]) -> Iterator[list[list[PageWord]]]:
    """Runs of words, two numbers over each other as one."""
    rest = list(runs)
    while rest:
        run = rest.pop(0)
        under = next((other for other in rest if _is_stacked(run, other)), None)
        if under is not None:
            rest.remove(under)
            yield [run, under]
        else:
            yield [run]


def _is_stacked(run: Sequence[PageWord], other: Sequence[PageWord]) -> bool:
    """Whether a phrase is right under another, as a lower limit or the same length in another unit in brackets."""
    if _IN_BRACKETS.fullmatch(line_text(other)) and any(c.isdigit() for c in line_text(run)):
        (a, _b, c, _d), (x, _y, z, _w) = joined(*(w.box for w in run)), joined(*(w.box for w in other))
        step = run[0].middle[1] - other[0].middle[1]
        return abs((a + c) - (x + z)) < 2 * run[0].size and 0.4 * run[0].size < step < STACKED * run[0].size
    upper = _lone_number(run)
    if upper is None or len(other) > 1 or not is_number(cleaned(other[0].text)):
        return False
    (x, y), (u, v), size = upper.middle, other[0].middle, upper.size
    # Behind a count the lower limit may begin under that.
    is_under = abs(x - u) < size or (len(run) > 1 and abs(run[0].box[0] - other[0].box[0]) < size)
    return is_under and 0.4 * size < abs(y - v) < STACKED * size


def _lone_number(run: Sequence[PageWord]) -> PageWord | None:
    """The number that a phrase is, perhaps behind a count as in `24× 0.50`; None where it is anything else."""
    *before, last = run
    is_counted = not before or _ONLY_COUNT.fullmatch(line_text(before)) is not None
    return last if is_counted and is_number(cleaned(last.text)) else None


def _text(runs: Sequence[Sequence[PageWord]], unit: str, quarters: int) -> DrawingText | None:
    words = [word for run in runs for word in run]
    box, size = turned(joined(*(word.box for word in words)), -quarters), max(word.size for word in words)
    if len(runs) == 2 and _IN_BRACKETS.fullmatch(line_text(runs[1])):
        value = read_value(f"{cleaned(line_text(runs[0]))} {cleaned(line_text(runs[1]))}", unit)
        return DrawingText("", value.text, value.limits, box, size) if value.limits is not None else None
    if len(runs) == 2:
        low, high = sorted((cleaned(run[-1].text) for run in runs), key=number)
        text = compose(low, "", high, unit)
        return DrawingText("", text, read_value(text, unit).limits, box, size)
    said = _COUNT.sub("", cleaned(line_text(words)))
    if is_symbol(said) and not is_number(said):
        return DrawingText(bare_symbol(said), said, None, box, size)
    value = read_value(said, unit)
    return DrawingText("", value.text, value.limits, box, size) if value.limits is not None else None
