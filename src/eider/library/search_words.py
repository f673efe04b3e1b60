"""The words of a search, and whether a text holds them."""

import re
from collections.abc import Iterable, Sequence
from typing import Protocol, TypeVar

# A word that is a value (1u, 100n, 25V) is not meant to be found inside a longer number (0.1u, 2100n, 125V).
_VALUE = re.compile(r"\d+([.,]\d+)?([pnuµμmkM](F|H|Ω|V|A|W|Hz)?|F|H|Ω|V|A|W|Hz)$", re.IGNORECASE)
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
    """The entries whose texts hold every word, in any order and any case; * and ? are wildcards."""
    found = list(entries)
    for word in sorted(map(plain_text, words), key=len, reverse=True):
        # Looking for the pieces by themselves, the longest first, leaves little to look at more closely.
        pieces = sorted(_WILDCARD.split(word)[:MOST_PIECES], key=len, reverse=True)
        for piece in pieces:
            found = [entry for entry in found if piece in entry.text]
        if len(pieces) > 1 or _VALUE.match(word):
            found = [entry for entry in found if holds_word(entry.text, word)]
    return found


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
