"""By what the datasheets of one house are told: the lines at head and foot of their pages, and title blocks."""

import contextlib
import re
from collections.abc import Collection, Iterator

from eider.datasheets.documents.document_survey import neighbours
from eider.datasheets.layout.page_furniture import MARGIN, without_furniture
from eider.datasheets.pages.document import Datasheet, DatasheetError, PageText
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.text_lines import phrase_gap, phrases, text_lines

# So many pages tell a house; a mark has at least so many letters.
PAGES, FEWEST_LETTERS = 3, 5
# Words of heads and feet that any house may have.
_COMMON = frozenset(
    re.findall(
        r"\w+",
        "page pages rev revision date datasheet data sheet product specification preliminary confidential copyright "
        "all rights reserved drawn checked approved scale unit units title drawing number package outline "
        "information the dimensions mechanical and for january february march april may june july august september "
        "october november december jan feb mar apr jun jul aug sep oct nov dec",
    )
)


def house_marks(datasheet: Datasheet) -> tuple[str, ...]:
    """The marks of the house that made a datasheet, in the order in which they are met; none where it has none.

    A mark is what is left of a line of head, foot or title block without numbers, names of parts and common words. On a
    document of one page, which has no other to tell them by, what stands in its margins is taken for these.
    """
    marks: dict[str, None] = {}
    for number in range(1, min(datasheet.pages, PAGES) + 1):
        with contextlib.suppress(DatasheetError):
            page = datasheet.read(number)
            marks.update(dict.fromkeys(_marks_of(page, neighbours(datasheet, number))))
    return tuple(marks)


def shares_marks(marks: Collection[str], others: Collection[str]) -> bool:
    """Whether two documents are of one house: they have a mark in common."""
    return bool(set(marks) & set(others))


def _marks_of(page: PageText, others: list[PageText]) -> Iterator[str]:
    kept = set(without_furniture(page, others).words)
    gone = [word for word in page.words if word not in kept and word.quarters == 0]
    if not others and not gone:
        _x0, low, _x1, high = page.frame.crop
        room = MARGIN * (high - low)
        gone = [w for w in page.words if w.quarters == 0 and not low + room < w.middle[1] < high - room]
    gap = phrase_gap(gone) if gone else 0.0
    for line in text_lines(gone):
        for phrase in phrases(line, gap):
            if mark := _mark(phrase):
                yield mark


def _mark(phrase: list[PageWord]) -> str:
    words = [re.sub(r"[^\w&]", "", word.text).lower() for word in phrase]
    kept = [word for word in words if word and not any(c.isdigit() for c in word) and word not in _COMMON]
    mark = " ".join(word for word in kept if len(word) > 1)
    return mark if sum(c.isalpha() for c in mark) >= FEWEST_LETTERS else ""
