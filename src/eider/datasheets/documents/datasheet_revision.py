"""Finds a captured value again in a newer datasheet: at the same place, elsewhere, changed, or gone."""

from collections.abc import Iterator, Sequence
from difflib import SequenceMatcher
from typing import Literal

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import holds, joined, turned
from eider.datasheets.pages.page_words import PageWord, line_text, straight
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.value_reading import cleaned
from eider.geometry.plane import Box

# Points: a value that has moved less stands where it stood; a wider gap in a line parts two columns of a page.
MOVED, COLUMN = 6.0, 90.0
# At least this share of the words beside a value must be there again for its line to be the same one.
ALIKE = 0.5
Outcome = Literal["same", "elsewhere", "differs", "gone"]


class RevisionMatch(msgspec.Struct, frozen=True):
    """What became of a value: page (0 where it is gone), box in PDF points, and the text that is there now."""

    outcome: Outcome
    page: int = 0
    box: Box | None = None
    text: str = ""


class _Line(msgspec.Struct, frozen=True):
    """A line of words on a page, laid straight."""

    page: int
    words: tuple[PageWord, ...]
    quarters: int

    @property
    def tokens(self) -> list[str]:
        return [cleaned(word.text) for word in self.words]

    def box(self, start: int, stop: int) -> Box:
        return turned(joined(*(w.box for w in self.words[start:stop])), -self.quarters)


class Pages:
    """The lines of a document's pages, made once."""

    def __init__(self, pages: Sequence[PageText]) -> None:
        self.lines = [line for page in pages for line in _lines(page)]


def find_in_revision(old: PageText, box: Box, newer: Pages) -> RevisionMatch:
    """What became of the value in a box of an old page."""
    line, start, stop = _in_hand(old, box)
    if line is None:
        return RevisionMatch("gone")
    value, beside = line.tokens[start:stop], len(line.tokens) - (stop - start)
    best: tuple[tuple[float, float, float], _Line, int, int] | None = None
    for candidate in newer.lines:
        match = _matched(line.tokens, start, stop, candidate.tokens, beside)
        if match is None:
            continue
        share, first, last = match
        there = candidate.box(first, last)
        is_same = candidate.tokens[first:last] == value
        key = (share + (0.25 if is_same else 0.0), -abs(candidate.page - old.page), -_apart(there, box))
        if best is None or key > best[0]:
            best = (key, candidate, first, last)
    if best is None:
        return RevisionMatch("gone")
    _, found, first, last = best
    there, text = found.box(first, last), line_text(found.words[first:last])
    if found.tokens[first:last] != value:
        return RevisionMatch("differs", found.page, there, text)
    stays = found.page == old.page and _apart(there, box) < MOVED
    return RevisionMatch("same" if stays else "elsewhere", found.page, there, text)


def _apart(a: Box, b: Box) -> float:
    return max(abs(a[0] - b[0]), abs(a[1] - b[1]))


def _lines(page: PageText) -> Iterator[_Line]:
    for quarters in sorted({word.quarters for word in page.words}):
        words = [straight(word, quarters) for word in page.words if word.quarters == quarters]
        for line in text_lines(words):
            begun: list[PageWord] = []
            for word in line:
                if begun and word.box[0] - begun[-1].box[2] > COLUMN:
                    yield _Line(page.page, tuple(begun), quarters)
                    begun = []
                begun.append(word)
            yield _Line(page.page, tuple(begun), quarters)


def _in_hand(page: PageText, box: Box) -> tuple[_Line | None, int, int]:
    """The line with the value, and where in it the value begins and ends."""
    for line in _lines(page):
        inside = [i for i, word in enumerate(line.words) if holds(box, turned(word.box, -line.quarters))]
        if inside:
            return line, inside[0], inside[-1] + 1
    return None, 0, 0


def _matched(old: list[str], start: int, stop: int, new: list[str], beside: int) -> tuple[float, int, int] | None:
    """How alike two lines are beside the value, and where in the new one the value must stand."""
    if beside == 0:
        return (1.0, 0, len(new)) if new == old else None
    if start > 0 and (not new or new[0] != old[0]):
        return None
    blocks = SequenceMatcher(None, old, new, autojunk=False).get_matching_blocks()
    common = sum(1 for b in blocks for i in range(b.a, b.a + b.size) if not start <= i < stop)
    if common < ALIKE * beside:
        return None
    first = max((b.b + min(b.size, start - b.a) for b in blocks if b.size and b.a < start), default=0)
    after = [b.b + max(stop - b.a, 0) for b in blocks if b.size and b.a + b.size > stop]
    last = min(after, default=len(new))
    return (common / beside, first, last) if first < last else None
