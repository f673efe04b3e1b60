"""What was read in a picture is to be confirmed, unless something else that is printed bears it out and it is plain."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from reportlab.pdfgen.canvas import Canvas

from eider.commands.datasheets.drafted_outline import DIMS
from eider.datasheets import Datasheet
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.recognition.recognised_page import RECOGNISED, RecognisedPage
from eider.geometry.lengths import parse_limits
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.package_sheet import Dimension
from eider.services.datasheets.datasheet_contents import DatasheetContents
from eider.services.datasheets.draft_source import DraftSource
from eider.services.datasheets.recognition_doubts import settle_recognition

DOCUMENT, BOX = "0" * 64, (10.0, 10.0, 60.0, 20.0)


@pytest.fixture
def source(library: Library, tmp_path: Path) -> DraftSource:
    """A document whose one page was recognised, and holds a length."""
    canvas = Canvas(str(tmp_path / "scan.pdf"))
    canvas.drawString(10, 10, "x")
    canvas.save()
    datasheet = Datasheet(tmp_path / "scan.pdf")
    datasheet.recognition.keep(
        RecognisedPage(1, 0.0, (PageWord("5.80", (12.0, 11.0, 40.0, 19.0), 8.0, confidence=0.98),), ())
    )
    page = replace(datasheet.read(1), words=(PageWord("5.80", (12.0, 11.0, 40.0, 19.0), 8.0, confidence=0.98),))
    datasheet._read_last[1] = page
    return DraftSource(library, datasheet, DOCUMENT, DatasheetContents((), 1, recognised=(1,)), None, None, "")


def with_length(bundle: Bundle, agrees: str = "", own: str = "") -> Bundle:
    """The part with one length from the scan, under the sheet's own letter or the standard's."""
    evidence = Evidence(EvidenceKind.DATASHEET, DOCUMENT, 1, BOX, "5.80", agrees=agrees)
    dims = {"E": Dimension("5.80", parse_limits("5.80"), evidence)}
    sheet = replace(bundle.sheet, dims=dims, aliases={own: "E"} if own else {})
    return replace(bundle, sheet=sheet)


def reasons(bundle: Bundle, source: DraftSource, *others: Doubt) -> list[str]:
    return [doubt.reason for doubt in settle_recognition(bundle, source, others) if doubt.address == "sheet.dims.E"]


def test_a_value_of_a_picture_is_to_be_confirmed(sound: Bundle, source: DraftSource) -> None:
    assert reasons(with_length(sound), source) == [RECOGNISED]


def test_the_same_in_inches_settles_it(sound: Bundle, source: DraftSource) -> None:
    assert reasons(with_length(sound, "0.228 in"), source) == []


def test_but_not_what_a_letter_of_the_house_means(sound: Bundle, source: DraftSource) -> None:
    assert reasons(with_length(sound, "0.228 in", own="H"), source) == [RECOGNISED]


def test_nor_a_letter_of_a_table_with_a_row_that_could_not_be_read(sound: Bundle, source: DraftSource) -> None:
    left_out = Doubt(DIMS, "H 6.20 5.80", "not read as one length: it holds several numbers")
    assert reasons(with_length(sound, "0.228 in"), source, left_out) == [RECOGNISED]


def test_another_doubt_about_it_is_enough(sound: Bundle, source: DraftSource) -> None:
    other = Doubt("sheet.dims.E", "E 5.80", "taken as E: the sheet uses D for other lengths than the standard")
    row = Doubt("sheet.dims.E", "E 5.80", RECOGNISED)
    assert reasons(with_length(sound), source, other, row) == [other.reason]
