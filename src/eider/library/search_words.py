"""The words of a search: which pieces the index finds by itself, and whether a text holds a word."""

import re
from collections.abc import Sequence

# A word that is a value (1u, 100n, 25V) is not meant to be found inside a longer number (0.1u, 2100n, 125V).
_VALUE = re.compile(r"\d+([.,]\d+)?([pnuµμmkM](F|H|Ω|V|A|W|Hz)?|F|H|Ω|V|A|W|Hz)$", re.IGNORECASE)


def split_words(words: Sequence[str]) -> tuple[list[str], list[str]]:
    """What the trigrams find (pieces of three letters and more, quoted), and words that need a closer look."""
    plain = [plain_text(word) for word in words]
    pieces = [piece for word in plain for piece in re.split(r"[*?]", word) if len(piece) >= 3]
    exact = [word for word in plain if word not in pieces or _VALUE.match(word)]
    return ['"' + piece.replace('"', '""') + '"' for piece in pieces], exact


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
