"""Whether the text of a page is what is seen there: some fonts draw letters without saying which they are."""

import re
from collections.abc import Sequence
from typing import Any

from eider.datasheets.pages.page_words import PageWord

UNREADABLE = (
    "its fonts do not say which letters they draw, so its text differs from what is printed; "
    "type the values, or take another copy of the document"
)
# Words of which any page of a datasheet has one, in English, German, French or Swedish.
_COMMON = frozenset(
    re.findall(
        r"\w+",
        "the of and to in for is a an no not all see with by be are on at or from this as mm min max nom typ pin pins "
        "name type unit symbol table figure page note dimensions package data part number value description function "
        "pads der die das und von mit für ist nicht de la le les et des du est och av för med som inte",
    )
)
# A page of a drawing has numbers at least.
_NUMBER = re.compile(r"\d+[.,]\d+")
FEWEST_NUMBERS, FEWEST_WORDS = 3, 5
# Of so many characters this share without a letter is too many.
SAMPLE, MOST_UNMAPPED = 600, 0.5


def pages_not_read(pages: Sequence[int]) -> str:
    """What to say of the pages whose fonts do not say which letters they draw."""
    return f"{'page' if len(pages) == 1 else 'pages'} not read: {', '.join(map(str, pages))}; {UNREADABLE}"


def makes_words(words: Sequence[PageWord]) -> bool:
    """Whether words hold a common one or numbers, or are too few to tell."""
    if len(words) < FEWEST_WORDS or any(word.text.strip("().,:;").lower() in _COMMON for word in words):
        return True
    return sum(_NUMBER.search(word.text) is not None for word in words) >= FEWEST_NUMBERS


def lacks_letters(textpage: Any) -> bool:
    """Whether the fonts of an open text page of PDFium map most characters to no letter. The caller holds the lock.

    PDFium says so of some fonts that are read well, by the names of their shapes: ask it where the words look odd.
    """
    import pypdfium2.raw as pdfium

    count = min(textpage.count_chars(), SAMPLE)
    unmapped = sum(pdfium.FPDFText_HasUnicodeMapError(textpage.raw, index) == 1 for index in range(count))
    return bool(unmapped > MOST_UNMAPPED * count)
