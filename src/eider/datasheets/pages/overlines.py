"""Bars over names: a line drawn over a word, or over a part of it, says that the pin is active low."""

from collections.abc import Sequence

import msgspec

from eider.datasheets.pages.page_frame import are_near
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.ruling_lines import Ruling
from eider.symbols.pin_names import OVERLINE

# A bar over a name covers at least this share of it; less is a bar over one of several names.
BARRED, PARTLY = 0.8, 0.15
# In heights of the word, above its foot, and beyond its head: a line lower crosses the word, one higher is another's.
LOWEST, HIGHEST = 0.62, 0.4
# Points: words and lines are compared in strips of the page so high.
LEVEL = 10.0
# Points: an upright so near to a line meets it.
MEETING = 1.0
# In widths of the word: a line that reaches farther beyond it is a rule of the table.
BEYOND = 0.3


class BarredName(msgspec.Struct, frozen=True):
    """A word with the letters under a bar written with the combining overline; `is_partial` where only some have it."""

    text: str
    is_partial: bool = False


def barred_name(word: PageWord, rulings: Sequence[Ruling]) -> BarredName:
    """A word as it reads with the bar over it; of alternatives parted by strokes a bar may cover one."""
    bar = _bar_over(word, rulings)
    if bar is None:
        return BarredName(word.text)
    x0, _y0, x1, _y1 = word.box
    start, stop = (max(bar.start, x0) - x0) / (x1 - x0), (min(bar.stop, x1) - x0) / (x1 - x0)
    if stop - start >= BARRED:
        return BarredName(_overlined(word.text))
    if stop - start <= PARTLY:
        return BarredName(word.text)
    # The letters of a name are about equally wide; a stroke parts names, and has no bar.
    pieces, at, made = word.text.split("/"), 0, []
    for piece in pieces:
        middle = (at + len(piece) / 2) / len(word.text)
        made.append(_overlined(piece) if start <= middle <= stop else piece)
        at += len(piece) + 1
    return BarredName("/".join(made), is_partial=True)


def with_bars(words: Sequence[PageWord], rulings: Sequence[Ruling]) -> list[PageWord]:
    """The words as they read with the bars over them."""
    return [msgspec.structs.replace(word, text=barred_name(word, rulings).text) for word in words]


def without_bars(words: Sequence[PageWord], rulings: Sequence[Ruling]) -> list[Ruling]:
    """The rulings without the bars over names: what is left is of tables and drawings.

    A line at whose ends others begin is the border of a cell, however short.
    """
    uprights = [ruling for ruling in rulings if not ruling.across]
    by_level: dict[int, list[PageWord]] = {}
    for word in words:
        _x0, y0, _x1, y1 = word.box
        for level in range(int(y0 // LEVEL), int((y1 + HIGHEST * (y1 - y0)) // LEVEL) + 1):
            by_level.setdefault(level, []).append(word)
    return [
        ruling
        for ruling in rulings
        if not ruling.across
        or not any(_is_bar(ruling, word) for word in by_level.get(int(ruling.at // LEVEL), ()))
        or any(are_near(upright.box, ruling.box, MEETING) for upright in uprights)
    ]


def _overlined(text: str) -> str:
    return "".join(letter + OVERLINE for letter in text)


def _bar_over(word: PageWord, rulings: Sequence[Ruling]) -> Ruling | None:
    """The line over a word that is no longer than about the word; None without one."""
    x0, _y0, x1, _y1 = word.box
    bars = [ruling for ruling in rulings if ruling.across and _is_bar(ruling, word)]
    return max(bars, key=lambda bar: min(bar.stop, x1) - max(bar.start, x0), default=None)


def _is_bar(ruling: Ruling, word: PageWord) -> bool:
    x0, y0, x1, y1 = word.box
    room, height = BEYOND * (x1 - x0), y1 - y0
    is_level = y0 + LOWEST * height <= ruling.at <= y1 + HIGHEST * height
    return is_level and x0 - room <= ruling.start < x1 and x0 < ruling.stop <= x1 + room
