"""Pins that are listed in a line or under each other, as in `PIN 1. BASE  2. EMITTER  3. COLLECTOR`."""

import re
from collections.abc import Iterator, Sequence
from itertools import pairwise

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines
from eider.geometry.plane import Box

# A list of pins has so many at least; a name has so many words and letters at most, or it is a sentence.
FEWEST, MOST_WORDS, MOST_LETTERS = 2, 3, 22
# Entries under each other begin within so many sizes of the text of one upright line, and are so many apart at most.
ALIGNED, STEP = 1.0, 2.5
# What speaks of pins in the heading right over a list, or at its first number.
_OF_PINS = re.compile(r"\b(?:pins?|terminals?|leads?|style|connections?|electrodes?|anschl|broch|pinning|pinout)", re.I)
_ELECTRODES = re.compile(r"\b(?:anode|cathode|base|emitter|collector|gate|drain|source)\b", re.IGNORECASE)
_ENTRY = re.compile(r"(?:pins?\s*)?[(]?(\d{1,2})[.):]?[)]?\s*[:=.–-]?\s*", re.IGNORECASE)


class ListedPin(msgspec.Struct, frozen=True):
    """A pin's number and name with their place (PDF points)."""

    number: str
    name: str
    box: Box


def listed_pins(page: PageText) -> tuple[ListedPin, ...]:
    """The longest list of pins of a page that numbers them from 1 without a gap; none where none is headed as such."""
    words = [word for word in page.words if word.quarters == 0]
    lines = text_lines(words)
    found = [*_lists_down(lines), *_lists_across(lines)]
    return max(found, key=len, default=())


def _lists_down(lines: Sequence[list[PageWord]]) -> Iterator[tuple[ListedPin, ...]]:
    """Lists with an entry on each line."""
    entries = [
        (entry, phrase, index)
        for index, line in enumerate(lines)
        for phrase in phrases(line, 2 * phrase_gap(line))
        if (entry := _entry(phrase)) is not None
    ]
    for start, (first, phrase, index) in enumerate(entries):
        if first.number != "1" or not _is_headed(lines, index, phrase):
            continue
        run, last = [first], phrase
        for entry, following, _ in entries[start + 1 :]:
            aligned = abs(following[0].box[0] - last[0].box[0]) < ALIGNED * last[0].size
            near = last[0].middle[1] - following[0].middle[1] < STEP * last[0].size
            if entry.number == str(len(run) + 1) and aligned and near:
                run, last = [*run, entry], following
        if len(run) >= FEWEST:
            yield tuple(run)


def _lists_across(lines: Sequence[list[PageWord]]) -> Iterator[tuple[ListedPin, ...]]:
    """Lists with all entries on one line."""
    for index, line in enumerate(lines):
        starts = [k for k, word in enumerate(line) if re.fullmatch(r"[(]?\d{1,2}[.):]+", word.text)]
        pieces = [line[a:b] for a, b in pairwise([*starts, len(line)])]
        entries = [entry for piece in pieces if (entry := _entry(piece)) is not None]
        numbers = [entry.number for entry in entries]
        is_whole = len(entries) == len(starts) and numbers == [str(n) for n in range(1, len(numbers) + 1)]
        if is_whole and len(entries) >= FEWEST and _is_headed(lines, index, line):
            yield tuple(entries)


def _entry(words: Sequence[PageWord]) -> ListedPin | None:
    """A number with a name behind it; None for anything else."""
    text = line_text(words)
    found = _ENTRY.match(text)
    if found is None or (found[0].strip() == found[1] and len(words) < FEWEST):
        return None
    name = text[found.end() :].strip(" ,;.")
    has_mark = found[0].strip() != found[1]
    is_name = bool(re.search(r"[A-Za-z]", name)) and len(name) <= MOST_LETTERS and len(name.split()) <= MOST_WORDS
    if not is_name or not has_mark or re.match(r"\d", name):
        return None
    return ListedPin(found[1], name, joined(*(word.box for word in words)))


def _is_headed(lines: Sequence[list[PageWord]], index: int, phrase: Sequence[PageWord]) -> bool:
    """Whether the line itself, or one of the two over it, speaks of pins or names electrodes."""
    over = [line_text(line) for line in lines[max(index - 2, 0) : index]]
    own = line_text(phrase)
    return _ELECTRODES.search(own) is not None or any(_OF_PINS.search(text) for text in [*over, own])
