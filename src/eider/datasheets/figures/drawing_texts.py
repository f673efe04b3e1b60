"""The words of a drawing to its letters and lengths: limits over each other, remarks, another unit in brackets."""

import re
from collections.abc import Collection, Iterator, Sequence
from itertools import pairwise

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
# A word that begins farther (in sizes of the text) before the end of the last one is printed over another text.
PRINTED_OVER = 0.4
_REMARK = re.compile(r"[(\[]\s*[.\d]|(?:max|min|typ|nom|ref|bsc)\b", re.IGNORECASE)
_REMARK_ALONE = re.compile(r"(?:max|min|typ|nom|ref|bsc)\.?", re.IGNORECASE)
_IN_BRACKETS = re.compile(r"[(\[][^()\[\]]*\d[^()\[\]]*[)\]]")
_DECIMAL = re.compile(r"\d[.,]\d")
_COUNT = re.compile(r"^\(?\d{1,3}\s*[x×X]\)?\s*(?=[A-Za-z])|\s*\(?\d{1,3}\s*[x×X]\)?$")
_ONLY_COUNT = re.compile(r"\(?\d{1,3}\s*[x×X]\)?")


class DrawingText(msgspec.Struct, frozen=True):
    """A letter, or a length with its limits in mm, and its place (PDF points); a reference is in brackets alone."""

    letter: str
    text: str
    limits: Limits | None
    box: Box
    size: float
    is_reference: bool = False


def drawing_texts(words: Sequence[PageWord], unit: str, letters: Collection[str] = ()) -> tuple[DrawingText, ...]:
    """The letters and lengths among the words of a drawing, of those turned by a quarter too.

    `letters` are those of the drawing's table, which may look like words: `MIE` for the distance of two rows.
    """
    found: list[DrawingText] = []
    for quarters in sorted({word.quarters for word in words}):
        lines = text_lines([straight(word, quarters) for word in words if word.quarters == quarters])
        runs = [run for line in lines for run in _with_remarks(_printed_apart(phrases(line, phrase_gap(line))))]
        for run in _with_stacked(runs):
            whole = _known_letter(run, letters, quarters) or _text(run, unit, quarters)
            # Lengths of two lines beside each other stand as near as the words of one text.
            found += [whole] if whole is not None else _single_lengths(run, unit, quarters)
    return tuple(found)


def _printed_apart(runs: Sequence[Sequence[PageWord]]) -> list[list[PageWord]]:
    """The phrases of a line, two texts of which the second begins over the end of the first taken apart."""
    found: list[list[PageWord]] = []
    for run in runs:
        found.append([run[0]])
        for before, word in pairwise(run):
            if word.box[0] < before.box[2] - PRINTED_OVER * word.size:
                found.append([])
            found[-1].append(word)
    return found


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


def _known_letter(runs: Sequence[Sequence[PageWord]], letters: Collection[str], quarters: int) -> DrawingText | None:
    """A letter that the drawing's table has; None for any other text."""
    words = [word for run in runs for word in run]
    said = cleaned(line_text(words))
    if bare_symbol(said) not in letters:
        return None
    box = turned(joined(*(word.box for word in words)), -quarters)
    return DrawingText(bare_symbol(said), said, None, box, max(word.size for word in words))


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
    if _REMARK_ALONE.fullmatch(line_text(other)):
        first, last, remark, size = run[0], run[-1], other[0], run[0].size
        step, off = first.middle[1] - remark.middle[1], remark.middle[0] - (first.box[0] + last.box[2]) / 2
        is_length = _lone_number(run) is not None or last.text[-1:] in ")]"
        is_under = min(abs(remark.box[0] - first.box[0]), abs(off)) < size
        return is_length and is_under and 0.4 * size < step < STACKED * size
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
    if len(runs) == 2 and _REMARK_ALONE.fullmatch(line_text(runs[1])):
        value = read_value(_COUNT.sub("", cleaned(line_text(words))), unit)
        return DrawingText("", value.text, value.limits, box, size) if value.limits is not None else None
    if len(runs) == 2:
        low, high = sorted((cleaned(run[-1].text) for run in runs), key=number)
        text = compose(low, "", high, unit)
        return DrawingText("", text, read_value(text, unit).limits, box, size)
    said = _COUNT.sub("", cleaned(line_text(words)))
    if is_symbol(said) and not is_number(said):
        return DrawingText(bare_symbol(said), said, None, box, size)
    value = read_value(said, unit)
    is_reference = _IN_BRACKETS.fullmatch(said) is not None
    return DrawingText("", value.text, value.limits, box, size, is_reference) if value.limits is not None else None
