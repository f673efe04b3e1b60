"""Characters of a page to words: spaces and gaps part them, raised small ones are footnote marks, not digits."""

import unicodedata
from collections.abc import Iterable, Iterator
from functools import lru_cache

import msgspec

from eider.datasheets.pages.page_frame import turned
from eider.geometry.plane import Box, Point

# Shares of the text size: a gap that parts words, the size of raised or lowered text, how far it then stands off the
# line, and how far letters of one line may.
WORD_GAP, SMALL, RAISED, LOWERED, LEVEL = 0.22, 0.93, 0.18, 0.6, 0.06
# The gap that parts words where PDFium sees a space by the widths of the letters, as in narrow faces; and the gap that
# a space which is written must leave: some programs take one back by kerning.
NARROW_GAP, LEAST_SPACE = 0.12, 0.04
# A piece of a word set on its own, as kerned text is, lies this near to the one before it.
KERNED = 0.09
# Signs of the standard symbol face where they are at private code points, and what PDFium makes of a hyphen at the
# end of a line.
_SIGNS = {0xF0B1: "±", 0xF0B0: "°", 0xF0A3: "≤", 0xF0B3: "≥", 0xF0B4: "×", 0xF02D: "−", 0xF06D: "µ", 0x02: "-"}
_HYPHENS = "-\u2010\u2011\u2212"
_INVISIBLE = {0xAD, 0x200B, 0x200C, 0x200D, 0xFEFF, 0xFFFE}


class Char(msgspec.Struct, frozen=True):
    """A character of a page: box and baseline in PDF points; `quarters` tells which way its text runs.

    `after_gap` says that PDFium sees a space before it where none is written.
    """

    code: int
    box: Box
    base: Point
    size: float
    quarters: int = 0
    after_gap: bool = False


class PageWord(msgspec.Struct, frozen=True):
    """A word and its box in PDF points; `marks` are raised footnote marks that are at it.

    `quarters` is 0 for text across the page, 1 where it runs up, 3 where it runs down; `confidence` is below 1 where
    it was recognised in a picture.
    """

    text: str
    box: Box
    size: float
    quarters: int = 0
    marks: str = ""
    confidence: float = 1.0

    @property
    def middle(self) -> Point:
        """The middle of its box."""
        return (self.box[0] + self.box[2]) / 2, (self.box[1] + self.box[3]) / 2


def read_words(chars: Iterable[Char]) -> tuple[PageWord, ...]:
    """The words of a page, in the order of its text."""
    pieces = list(_pieces(chars))
    return tuple(piece.word() for piece in _rejoined(pieces))


class _Piece:
    """A word while it grows, in coordinates in which its text lies straight."""

    def __init__(self, text: str, char: Char, box: Box, base: float) -> None:
        self.text, self.box, self.base, self.size, self.quarters = text, box, base, char.size, char.quarters
        self.marks, self.right, self.closed = "", box[2], False

    def takes(self, char: Char, box: Box, base: float) -> str:
        """Whether a character belongs to the word, as `text` or as `mark`; empty where it begins another."""
        if char.quarters != self.quarters:
            return ""
        gap = (box[0] - self.right) / self.size
        least = -KERNED if self.closed else -0.6
        if not least < gap < (LEAST_SPACE if self.closed else NARROW_GAP if char.after_gap else WORD_GAP):
            return ""
        rise, small = (base - self.base) / self.size, char.size < SMALL * self.size
        if small and rise > RAISED:
            return "mark"
        if abs(rise) < LEVEL or (small and -LOWERED < rise < 0):
            return "text"
        return ""

    def add(self, text: str, box: Box, how: str) -> None:
        if how == "mark":
            self.marks += text
        else:
            self.text += text
            (a, b, c, d), (e, f, g, h) = self.box, box
            # Compared here: a page has thousands of characters, and calls are what they cost.
            self.box = (a if a < e else e, b if b < f else f, c if c > g else g, d if d > h else h)
        if box[2] > self.right:
            self.right = box[2]
        self.closed = False

    def word(self) -> PageWord:
        box = turned(self.box, -self.quarters)
        return PageWord(unicodedata.normalize("NFC", self.text), box, self.size, self.quarters, self.marks)


def _pieces(chars: Iterable[Char]) -> Iterator[_Piece]:
    word: _Piece | None = None
    for char in chars:
        text = _text(char.code)
        if not text:
            continue
        if text.isspace():
            if word:
                word.closed = True
            continue
        box, base = char.box, char.base[1]
        if char.quarters:
            box = turned(box, char.quarters)
            base = turned((*char.base, *char.base), char.quarters)[1]
        how = word.takes(char, box, base) if word else ""
        if word and how:
            word.add(text, box, how)
            continue
        if word:
            yield word
        word = _Piece(text, char, box, base)
    if word:
        yield word


@lru_cache(maxsize=4096)
def _text(code: int) -> str:
    """The character as it is read: ligatures taken apart, spaces of all kinds alike, controls left out."""
    if code in _SIGNS:
        return _SIGNS[code]
    if code in _INVISIBLE or (code < 32 and code not in (9, 10, 13)):
        return ""
    char = chr(code)
    if 0xFB00 <= code <= 0xFB06 or unicodedata.category(char) == "Zs":
        return unicodedata.normalize("NFKC", char) if char != "\u00a0" else " "
    return char


def _rejoined(pieces: list[_Piece]) -> list[_Piece]:
    """Pieces that were set one by one but touch belong to one word; a space between them keeps them apart.

    PDFium may tell what follows a hyphen elsewhere, as if a line ended there.
    """
    found: list[_Piece] = []
    for piece in pieces:
        last = found[-1] if found else None
        if piece.text[0] in _HYPHENS and not (last and _touches(last, piece)):
            last = next((other for other in found if _touches(other, piece)), None)
        if last and _touches(last, piece):
            last.add(piece.text, piece.box, "text")
            last.marks, last.closed = last.marks + piece.marks, piece.closed
        else:
            found.append(piece)
    return found


def _touches(last: _Piece, piece: _Piece) -> bool:
    """Whether a piece begins where another one ends."""
    return (
        not last.closed
        and last.quarters == piece.quarters
        and abs(last.base - piece.base) < LEVEL * last.size
        and abs(last.size - piece.size) < 0.02 * last.size
        and -KERNED < (piece.box[0] - last.right) / last.size < KERNED
    )


def straight(word: PageWord, quarters: int) -> PageWord:
    """A word where it lies once its page is turned so that its text runs across."""
    return msgspec.structs.replace(word, box=turned(word.box, quarters), quarters=0)


def line_text(words: Iterable[PageWord]) -> str:
    """Words as one text."""
    return " ".join(word.text for word in words)
