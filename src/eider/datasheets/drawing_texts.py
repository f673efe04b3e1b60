"""The texts of an outline drawing, letters and lengths, and the dimension line at which each stands."""

import re
from collections.abc import Iterator, Mapping, Sequence

import msgspec

from eider.datasheets.dimension_spans import DimensionSpan
from eider.datasheets.page_frame import joined, turned
from eider.datasheets.page_words import PageWord, line_text, straight
from eider.datasheets.table_headings import bare_symbol, is_symbol
from eider.datasheets.text_lines import phrase_gap, phrases, text_lines
from eider.datasheets.value_reading import cleaned, compose, is_number, number, read_value
from eider.geometry.limits import Limits
from eider.geometry.shapes import Box

# In sizes of the text: how far from its line a text stands, and how far behind the end of one with arrows outside.
ABOVE, BEHIND = 1.6, 3.0
# A text that stands this much nearer to one line than to another is surely of that one.
CLOSE = 0.25
# Limits over each other stand so near, in sizes of the text.
STACKED = 1.5
_DECIMAL = re.compile(r"\d[.,]\d")
_COUNT = re.compile(r"^\(?\d{1,3}\s*[x×X]\)?\s*(?=[A-Za-z])|\s*\(?\d{1,3}\s*[x×X]\)?$")


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
        runs = [run for line in lines for run in phrases(line, phrase_gap(line))]
        for run in _with_stacked(runs):
            whole = _text(run, unit, quarters)
            # Lengths of two lines beside each other stand as near as the words of one text.
            found += [whole] if whole is not None else _single_lengths(run, unit, quarters)
    return tuple(found)


def _single_lengths(runs: Sequence[Sequence[PageWord]], unit: str, quarters: int) -> list[DrawingText]:
    """The words of a text that is no length, each by itself, where each of them is one."""
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
    if len(run) > 1 or len(other) > 1 or not (is_number(cleaned(run[0].text)) and is_number(cleaned(other[0].text))):
        return False
    (x, y), (u, v) = run[0].middle, other[0].middle
    return abs(x - u) < run[0].size and 0.4 * run[0].size < abs(y - v) < STACKED * run[0].size


def _text(runs: Sequence[Sequence[PageWord]], unit: str, quarters: int) -> DrawingText | None:
    words = [word for run in runs for word in run]
    box, size = turned(joined(*(word.box for word in words)), -quarters), max(word.size for word in words)
    if len(runs) == 2:
        low, high = sorted((cleaned(run[0].text) for run in runs), key=number)
        text = compose(low, "", high, unit)
        return DrawingText("", text, read_value(text, unit).limits, box, size)
    said = _COUNT.sub("", cleaned(line_text(words)))
    if is_symbol(said) and not is_number(said):
        return DrawingText(bare_symbol(said), said, None, box, size)
    value = read_value(said, unit)
    return DrawingText("", value.text, value.limits, box, size) if value.limits is not None else None


class LabelledSpan(msgspec.Struct, frozen=True):
    """A dimension line with its text; `doubt` says so where the text may as well belong to another line."""

    span: DimensionSpan
    text: DrawingText
    doubt: str = ""


def texts_of_lines(texts: Sequence[DrawingText], spans: Sequence[DimensionSpan]) -> list[LabelledSpan]:
    """The text of each dimension line: as many lines as can be get one that stands near, the nearest where they can."""
    near = {
        (i, j): far
        for i, span in enumerate(spans)
        for j, text in enumerate(texts)
        if (far := _far(span, text)) is not None
    }
    chosen: dict[int, int] = {}
    for i, j in sorted(near, key=lambda pair: near[pair]):
        if i not in chosen.values() and j not in chosen:
            chosen[j] = i
    for i in range(len(spans)):
        if i not in chosen.values():
            _make_room(i, chosen, near, set())
    return [LabelledSpan(spans[i], texts[j], _doubt(i, j, near, chosen)) for j, i in sorted(chosen.items())]


def _make_room(span: int, chosen: dict[int, int], near: Mapping[tuple[int, int], float], tried: set[int]) -> bool:
    """Give a line a text that another line can do without because it has a second one near it."""
    for j in sorted((j for i, j in near if i == span), key=lambda j: near[span, j]):
        if j in tried:
            continue
        tried.add(j)
        if j not in chosen or _make_room(chosen[j], chosen, near, tried):
            chosen[j] = span
            return True
    return False


def _doubt(span: int, text: int, near: Mapping[tuple[int, int], float], chosen: Mapping[int, int]) -> str:
    """What to say of a text that may as well be of another line: one whose own text could be of a third."""
    taken = {i for j, i in chosen.items() if all(other == i for other, k in near if k == j)}
    others = [far for (i, j), far in near.items() if j == text and i != span and i not in taken]
    is_close = bool(others) and min(others) < near[span, text] + CLOSE
    return "it stands as near to another line" if is_close else ""


def _far(span: DimensionSpan, text: DrawingText) -> float | None:
    """How far a text stands from where a line's text is expected, in sizes of the text; None where that is too far."""
    x0, y0, x1, y1 = text.box
    along, across = ((x0, x1), (y0, y1)) if span.axis == "horizontal" else ((y0, y1), (x0, x1))
    middle, size = (along[0] + along[1]) / 2, text.size
    beside = max(across[0] - span.level, span.level - across[1], 0.0) / size
    if span.start <= middle <= span.stop and beside <= ABOVE:
        # A text at the middle of its line is more likely its own than one further along.
        off = abs(middle - (span.start + span.stop) / 2) / max(span.stop - span.start, 1.0)
        return beside + 0.5 * off
    behind = min(abs(along[0] - span.tail[1]), abs(span.tail[0] - along[1])) / size
    if beside <= 0.3 and behind <= BEHIND:
        return behind + (1.0 if span.is_outward else 0.0)
    if not span.is_outward and span.tail[0] - size <= middle <= span.tail[1] + size and beside <= ABOVE:
        return beside + 0.5
    return None
