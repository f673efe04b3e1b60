"""The pitch of a connector from a table over its ways, with what of the datasheet says the same."""

import re

import msgspec

from eider.commands.datasheets.captured_values import datasheet_evidence, member_rows
from eider.commands.datasheets.drafted_pitch import PITCH
from eider.datasheets.tables.table_capture import TableCapture
from eider.datasheets.tables.table_headings import headings, meaning_of
from eider.datasheets.tables.ways_table import WaysPitch, pitch_over_ways
from eider.evidence.evidence_changes import put_value
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.packages.letters.letter_proposals import DatasheetLetter

WAYS = "ways"
# Lengths (mm) that differ by less are one.
SAME_LENGTH = 0.006
_PITCH_IN_TITLE = re.compile(
    r"(\d+(?:[.,]\d+)?)\s*mm[\s-]*(?:pitch|raster|pas\b)|pitch:?\s*(\d+(?:[.,]\d+)?)\s*mm", re.IGNORECASE
)


def ways_pitch_of(capture: TableCapture) -> WaysPitch | None:
    """The pitch that a table over ways gives; None for any other table, and for one that gives a pitch itself."""
    table = capture.dimensions
    if table is None or any(row.letter == PITCH for row in table.rows):
        return None
    heads = (cell for row in capture.cells[: max(table.header_rows, 1)] for cell in row)
    is_over_ways = any(meaning_of(head, headings().dimensions) == WAYS for head in heads)
    return pitch_over_ways(table.rows) if is_over_ways else None


def pitch_letter(found: WaysPitch) -> DatasheetLetter:
    """The pitch as a row of the table would give it."""
    return DatasheetLetter(PITCH, Limits(nom=found.pitch), "pitch")


def with_pitch_of_ways(
    bundle: Bundle, capture: TableCapture, member: str, found: WaysPitch, title: str, document: str, who: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with the pitch, cited at the length that grows by it; without a doubt where the title names it too."""
    index, row = next((index, row) for index, row in member_rows(capture, member) if row.letter in found.letters)
    place = capture.places[index]
    text, told = f"{found.pitch:g}", f"{' and '.join(found.letters)} grow by {found.pitch:g} mm for each way"
    told = told if len(found.letters) > 1 else told.replace("grow by", "grows by")
    evidence = datasheet_evidence(document, place.page, place.box, row.seen, who)
    agrees = _named_in(title, found.pitch)
    evidence = msgspec.structs.replace(evidence, agrees=agrees)
    made = put_value(bundle, DimensionAddress(PITCH), text, evidence)
    if agrees:
        return made, []
    return made, [Doubt(str(DimensionAddress(PITCH)), text, f"not written: {told}", document, place.page, place.box)]


def _named_in(title: str, pitch: float) -> str:
    """What a title says of the pitch where it is this one; empty where it says nothing, or another."""
    for match in _PITCH_IN_TITLE.finditer(title):
        if abs(float((match[1] or match[2]).replace(",", ".")) - pitch) < SAME_LENGTH:
            return match[0]
    return ""
