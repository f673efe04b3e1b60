"""The words of a search: which pieces the index finds by itself, and whether a text holds a word."""

import re
from collections.abc import Sequence
from typing import NamedTuple

# A word that is a value (1u, 100n, 25V) is not meant to be found inside a longer number (0.1u, 2100n, 125V).
_VALUE = re.compile(r"\d+([.,]\d+)?([pnuµμmkM](F|H|Ω|V|A|W|Hz)?|F|H|Ω|V|A|W|Hz)$", re.IGNORECASE)


# A pattern of more wildcards, or a longer one, could keep sqlite busy for ever.
MOST_WILDCARDS, LONGEST_PATTERN = 3, 200


class SearchTerms(NamedTuple):
    """A search in three parts, each narrower and slower than the one before.

    `phrases` (pieces of three letters and more, quoted) are found by the index, `patterns` are for LIKE with the escape
    character \\, and `exact` words have to be looked for in each text that is left.
    """

    phrases: list[str]
    patterns: list[str]
    exact: list[str]


def search_terms(words: Sequence[str]) -> SearchTerms:
    """What to look for."""
    plain = [plain_text(word) for word in words]
    pieces = [piece for word in plain for piece in re.split(r"[*?]", word) if len(piece) >= 3]
    left = [word for word in plain if word not in pieces or _VALUE.match(word)]
    exact = [word for word in left if _VALUE.match(word) or not _is_cheap(word)]
    patterns = [_pattern(word) for word in left if word not in exact]
    return SearchTerms(['"' + piece.replace('"', '""') + '"' for piece in pieces], patterns, exact)


def _is_cheap(word: str) -> bool:
    return len(word) <= LONGEST_PATTERN and word.count("*") <= MOST_WILDCARDS


def _pattern(word: str) -> str:
    """A word with wildcards as LIKE has them."""
    escaped = re.sub(r"([%_\\])", r"\\\1", word)
    return f"%{escaped.replace('*', '%').replace('?', '_')}%"


def holds_word(text: str, word: str) -> bool:
    """Whether a text of the index holds a word: its pieces between * in their order, a value as a number of its own."""
    if "?" in word:
        return re.search(".*".join(re.escape(p).replace(r"\?", ".") for p in word.split("*")), text) is not None
    is_value, at = _VALUE.match(word) is not None, 0
    for piece in word.split("*"):
        at = text.find(piece, at)
        while is_value and at > 0 and (text[at - 1].isdigit() or text[at - 1] in ".,"):
            at = text.find(piece, at + 1)
        if at < 0:
            return False
        at += len(piece)
    return True


def plain_text(text: str) -> str:
    """As the index holds it: small letters, and the micro sign, of which there are two, as people type it."""
    return text.replace("µ", "u").replace("μ", "u").lower()
