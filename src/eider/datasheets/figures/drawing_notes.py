"""What a note beside a drawing says of all its lengths: the tolerance of those that have none of their own."""

import re
from collections.abc import Sequence

from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import text_lines

# `Tolerance is ±0.1 mm unless otherwise noted`, `TOL. ±0.1`, `General tolerance: ±0.2`, `Allgemeintoleranz ±0,1`.
_TOLERANCE = re.compile(
    r"toler\w*\.?\s*(?:is|are|of|:|=)?\s*±\s*(\d*[.,]\d+)\s*(?:mm)?(?![\d.]|\s*(?:in|mil|°|%))", re.IGNORECASE
)
_SHORT = re.compile(r"\btol\.?\s*:?\s*±\s*(\d*[.,]\d+)", re.IGNORECASE)


def general_tolerance(words: Sequence[PageWord]) -> str:
    """The tolerance (mm, without its sign) that a note gives all lengths; empty without one, or with several."""
    lines = text_lines([word for word in words if word.quarters == 0])
    whole = [line_text(line) for line in lines]
    found = {
        match[1].replace(",", ".")
        for text in whole
        for pattern in (_TOLERANCE, _SHORT)
        for match in pattern.finditer(text)
    }
    return found.pop() if len(found) == 1 else ""
