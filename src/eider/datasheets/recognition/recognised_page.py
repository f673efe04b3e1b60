"""A page as it was recognised from its picture: straightened, with words, rules, and how sure each word is."""

from collections.abc import Iterator, Sequence

import msgspec

from eider.datasheets.pages.page_frame import are_near, holds
from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.pages.text_lines import text_lines
from eider.geometry.plane import Box

# Raised whenever pages are read otherwise than before: what an older Eider kept is recognised anew.
RECOGNISER = 12
# Why a value that was read in a picture is to be looked at.
RECOGNISED = "recognised in a picture"
# How sure the words are that an earlier recognition laid unseen over a scan: nobody knows how good it was.
UNSEEN_CONFIDENCE = 0.5


class RecognisedPage(msgspec.Struct, frozen=True):
    """The words, rules, strokes and arrows of a page (from 1) in PDF points, on the page turned back by `askew`.

    `askew` is by how many degrees the picture has to be turned counter-clockwise about its middle to stand straight.
    """

    page: int
    askew: float
    words: tuple[PageWord, ...]
    rulings: tuple[Ruling, ...]
    paths: tuple[PathPiece, ...] = ()
    recogniser: int = RECOGNISER


class RecognisedPart(msgspec.Struct, frozen=True):
    """What was recognised within a box (PDF points) of a page that has text besides: a table that is a picture."""

    box: Box
    page: RecognisedPage


def with_parts(words: Sequence[PageWord], parts: Sequence[RecognisedPart]) -> tuple[PageWord, ...]:
    """The words of a page with those recognised in its pictures, where no word of the page itself is."""
    seen = (word for part in parts for word in part.page.words)
    return (*words, *(word for word in seen if not any(are_near(word.box, own.box) for own in words)))


def with_witnesses(words: Sequence[PageWord], unseen: Sequence[PageWord]) -> tuple[PageWord, ...]:
    """Recognised words, those sure that an earlier recognition read alike at the same place."""
    return tuple(
        msgspec.structs.replace(word, confidence=1.0)
        if any(other.text == word.text and holds(word.box, other.box) for other in unseen)
        else word
        for word in words
    )


def are_recognised(words: Sequence[PageWord]) -> bool:
    """Whether some words were read in a picture, and nothing else says the same."""
    return any(word.confidence < 1 for word in words)


def is_recognised_within(words: Sequence[PageWord], box: Box) -> bool:
    """Whether some of the words in a box were read in a picture, and nothing else says the same."""
    return are_recognised([word for word in words if are_near(word.box, box) and holds(box, word.box)])


def places_of(text: str, words: Sequence[PageWord]) -> Iterator[tuple[tuple[Box, ...], str]]:
    """Where recognised words hold a text, whatever its case: the boxes of the words that do, and their line."""
    wanted = text.casefold().split()
    for line in text_lines(words):
        for first in range(len(line) - len(wanted) + 1):
            run = line[first : first + len(wanted)]
            if all(part in word.text.casefold() for part, word in zip(wanted, run, strict=True)):
                yield tuple(word.box for word in run), line_text(line)
