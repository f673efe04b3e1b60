"""What a document says of itself and of handling, and whether a title says what the part is."""

from pathlib import Path

import pytest
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_facts import facts_of_page
from eider.datasheets.documents.document_title import names_part
from eider.library import Library
from eider.services.datasheets.datasheet_drafts import draft_from_datasheet


def sheet(path: Path, *lines: tuple[float, str]) -> Datasheet:
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    for y, text in lines:
        canvas.drawString(60, y, text)
    canvas.save()
    return Datasheet(path)


@pytest.mark.parametrize(
    ("y", "text", "facts"),
    [
        (30, "P-0418 Rev. B, 21-Mar-11", {"Datasheet revision": "B", "Datasheet date": "21-Mar-11"}),
        (30, "Version 2.1   March 2024   page 3", {"Datasheet revision": "2.1", "Datasheet date": "March 2024"}),
        (810, "Issue 4  2019-07-02", {"Datasheet revision": "4", "Datasheet date": "2019-07-02"}),
        (400, "The revision B of 21-Mar-11 is obsolete", {}),
        (400, "Moisture Sensitivity Level: 2a", {"Moisture sensitivity level": "2a"}),
        (400, "MSL 3 according to J-STD-020", {"Moisture sensitivity level": "3"}),
        (400, "RthJA junction to ambient 62.5 K/W", {"Thermal resistance": "62.5 K/W"}),
        (400, "Moisture is bad for 3 reasons", {}),
    ],
)
def test_facts_of_a_line(tmp_path: Path, y: float, text: str, facts: dict[str, str]) -> None:
    found = {fact.name: fact.value for fact in facts_of_page(sheet(tmp_path / "a.pdf", (y, text)).read(1))}
    assert found == facts


def test_they_are_facts_of_a_draft_with_their_place_and_a_doubt_where_there_are_two(
    library: Library, tmp_path: Path
) -> None:
    sheet(tmp_path / "LYN-1.pdf", (400, "MSL 1 for reels"), (380, "MSL 3 for tubes"), (30, "Rev. C")).close()
    draft = draft_from_datasheet(library, tmp_path / "LYN-1.pdf")
    facts = draft.bundle.part.facts
    assert (facts["Datasheet revision"].value, facts["Moisture sensitivity level"].value) == ("C", "1")
    assert facts["Datasheet revision"].evidence and facts["Datasheet revision"].evidence.text == "Rev. C"
    (doubt,) = [doubt for doubt in draft.doubts if doubt.address == "facts.Moisture sensitivity level"]
    assert doubt.reason == "the datasheet gives 1, 3; the first was taken"


@pytest.mark.parametrize(
    ("description", "is_part"),
    [
        ("Precision operational amplifier", True),
        ("N-Channel 30 V Logic Level Power MOSFET", True),
        ("Rail-to-rail op amp", True),
        ("低压差线性稳压器", True),
        ("Gateway to the north", False),
        ("Preliminary information", False),
        ("For the bench and for the field", False),
    ],
)
def test_a_word_of_the_trade_says_that_a_title_is_a_description(description: str, is_part: bool) -> None:
    assert names_part(description) is is_part
