"""The words of a search, and whether a text holds them."""

import re
from collections.abc import Iterable, Sequence
from typing import Protocol, TypeVar

from eider.facts.quantities import value_spellings

# A word that is a value (1u, 100n, 25V) is not meant to be found inside a longer number (0.1u, 2100n, 125V).
_VALUE = re.compile(r"\d+([.,]\d+)?([pnuµμmkM](F|H|Ω|V|A|W|Hz)?|F|H|Ω|V|A|W|Hz)$", re.IGNORECASE)
# A bare number, and all of a value that is not its number.
_NUMBER, _LEADING = re.compile(r"\d+(?:[.,]\d+)?"), re.compile(r"[^\d.+-].*$")
_WILDCARD = re.compile(r"[*?]")
# Of a word with more wildcards the first pieces are looked for by themselves.
MOST_PIECES = 4


class HasText(Protocol):
    """Something that is found by a text."""

    @property
    def text(self) -> str:
        """The text, as `plain_text` gives it."""


E = TypeVar("E", bound=HasText)


def holding(entries: Sequence[E], words: Iterable[str]) -> list[E]:
    """The entries whose texts hold every word, in any order and any case; * and ? are wildcards.

    A value finds its other spellings too: 4k7, 4700 ohm and 4.7kΩ are one.
    """
    found = list(entries)
    for spellings in sorted(map(_spellings, _joined_values(words)), key=lambda s: len(s[0]), reverse=True):
        held = [_holding_word(found, spelling) for spelling in spellings]
        if len(held) > 1:
            ids = {id(entry) for part in held for entry in part}
            found = [entry for entry in found if id(entry) in ids]
        else:
            found = held[0]
    return found


def _holding_word(entries: Sequence[E], word: str) -> list[E]:
    # Looking for the pieces by themselves, the longest first, leaves little to look at more closely.
    pieces = sorted(_WILDCARD.split(word)[:MOST_PIECES], key=len, reverse=True)
    found = list(entries)
    for piece in pieces:
        found = [entry for entry in found if piece in entry.text]
    if len(pieces) > 1 or _VALUE.match(word):
        found = [entry for entry in found if holds_word(entry.text, word)]
    return found


def _joined_values(words: Iterable[str]) -> list[str]:
    """The words, a number and the unit after it together: 4700 ohm."""
    made: list[str] = []
    for word in words:
        if made and _NUMBER.fullmatch(made[-1]) and word[:1].isalpha() and value_spellings(made[-1] + word):
            made[-1] += f" {word}"
        else:
            made.append(word)
    return made


def _spellings(word: str) -> list[str]:
    """How a word may be in the index: as it is, and a value with the prefix that leaves 1 to 999 before it."""
    usual = next((s for s in value_spellings(word) if 1 <= float(_LEADING.sub("", s)) < 1000), "")
    return list(dict.fromkeys(plain_text(s) for s in (word, word.replace(" ", ""), usual or word)))


def holds_word(text: str, word: str) -> bool:
    """Whether a text holds a word: its pieces between * in their order, a value as a number of its own."""
    is_value, at = _VALUE.match(word) is not None, 0
    for piece in word.split("*"):
        at = _find(text, piece, at)
        while is_value and at > 0 and (text[at - 1].isdigit() or text[at - 1] in ".,"):
            at = _find(text, piece, at + 1)
        if at < 0:
            return False
        at += len(piece)
    return True


def _find(text: str, piece: str, start: int) -> int:
    """Where a piece begins, of which ? is any letter; -1 where it is not."""
    if "?" not in piece:
        return text.find(piece, start)
    found = re.compile(re.escape(piece).replace(r"\?", "."), re.DOTALL).search(text, start)
    return found.start() if found else -1


def plain_text(text: str) -> str:
    """As the index holds it: small letters, and the micro sign, of which there are two, as people type it."""
    return text.replace("µ", "u").replace("μ", "u").lower()
