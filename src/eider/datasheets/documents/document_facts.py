"""What a datasheet says of itself and of handling: revision and date, moisture level, thermal resistance."""

import re
from collections.abc import Iterator

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.page_words import PageWord, line_text
from eider.datasheets.pages.text_lines import text_lines
from eider.datasheets.tables.value_reading import with_hyphens
from eider.geometry.plane import Box

_MONTH = r"(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?"
_DATE = re.compile(
    rf"(?<![\d.])(\d{{4}}-\d{{2}}(?:-\d{{2}})?|\d{{1,2}}[- ]{_MONTH}[- ,]*\d{{2,4}}|"
    rf"{_MONTH}[ ,]+(?:\d{{1,2}},? +)?\d{{4}}|"
    r"\d{1,2}[./]\d{1,2}[./]\d{2,4})(?!\d)",
    re.IGNORECASE,
)
_REVISION = re.compile(
    r"\b(?:rev(?:ision|\.)?|version|issue)\s*[:.]?\s*([A-Z](?:\.?\d{1,2})?|\d{1,2}(?:\.\d{1,2})*)\b", re.I
)
# JEDEC J-STD-020: levels 1, 2, 2a, 3, 4, 5, 5a and 6.
_MOISTURE = re.compile(r"(?:moisture\s+sensitivity(?:\s+level)?|\bMSL)\D{0,20}?\b([1-6]a?)\b", re.I)
_THERMAL = re.compile(r"(?:θ\s?J-?[AC]|R\s?(?:th|θ)\s?\(?J-?[AC]\)?).{0,60}?\b(\d+(?:\.\d+)?)\s*(°C/W|K/W)", re.I)
# The revision and date of the document stand in its margins, within this share of the page.
MARGIN = 0.12
REVISION, DATE = "Datasheet revision", "Datasheet date"
MOISTURE, THERMAL = "Moisture sensitivity level", "Thermal resistance"


class DocumentFact(msgspec.Struct, frozen=True):
    """A fact by its name, with its value as printed, where it is (PDF points) and what is there."""

    name: str
    value: str
    box: Box
    seen: str


def facts_of_page(page: PageText) -> Iterator[DocumentFact]:
    """What a page says of the document and of how the part is handled, each fact once for each line that has it."""
    _x0, low, _x1, high = page.frame.crop
    room = MARGIN * (high - low)
    for line in text_lines([word for word in page.words if word.quarters == 0]):
        text = with_hyphens(line_text(line))
        is_margin = not low + room < line[0].middle[1] < high - room
        if is_margin and (found := _REVISION.search(text)):
            yield _fact(REVISION, found, line)
        if is_margin and (found := _DATE.search(text)):
            yield _fact(DATE, found, line)
        if found := _MOISTURE.search(text):
            yield _fact(MOISTURE, found, line)
        if found := _THERMAL.search(text):
            yield _fact(THERMAL, found, line, f"{found[1]} {found[2]}")


def _fact(name: str, found: re.Match[str], line: list[PageWord], value: str = "") -> DocumentFact:
    return DocumentFact(name, value or found[1], joined(*(word.box for word in line)), line_text(line))
