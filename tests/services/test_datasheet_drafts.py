"""A part drafted from a datasheet: what its own program drew is what the draft holds, and every doubt is listed."""

from pathlib import Path

import msgspec
import pytest
from reportlab.lib import colors
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.platypus import Paragraph, SimpleDocTemplate, Table

from drawn_tables import DUAL_ROWS, draw, tables_of
from eider.checks import PartUnderCheck, run_checks
from eider.commands.datasheets.datasheet_draft import confirm_doubt, open_doubts
from eider.commands.datasheets.family_guess import family_of_package
from eider.datasheets.documents.found_items import FoundItem
from eider.demo.parts import LIBRARIAN
from eider.demo.sheets import write_datasheets
from eider.errors import InputError
from eider.evidence.address_table import evidenced_values
from eider.geometry.lengths import parse_limits
from eider.library import Library, init_library
from eider.model.doubt import Doubt
from eider.model.finding import Severity
from eider.packages.registry import all_families
from eider.rulebooks import standard_rulebook
from eider.services.datasheets.datasheet_contents import DatasheetContents, find_in_datasheet
from eider.services.datasheets.datasheet_drafts import DraftChoice, draft_from_datasheet
from eider.services.datasheets.document_packages import packages_found

SMALL = [["Symbol", "Min", "Nom", "Max"], ["A", "-", "-", "1.10"], ["A1", "0.05", "-", "0.15"],
         ["b", "0.25", "-", "0.38"], ["D", "2.90", "-", "3.10"], ["E", "4.75", "-", "5.05"],
         ["E1", "2.90", "-", "3.10"], ["e", "-", "0.65", "-"], ["L", "0.40", "-", "0.70"]]  # fmt: skip


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)


@pytest.fixture(scope="module")
def sheets(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("sheets")
    write_datasheets(folder)
    return folder


def two_packages(path: Path) -> Path:
    """A datasheet with a table for each of two packages."""
    text, grid = getSampleStyleSheet(), [("GRID", (0, 0), (-1, -1), 0.5, colors.black)]
    story = [
        Paragraph("SOIC-8 package dimensions, all lengths in mm", text["Heading2"]), Table(DUAL_ROWS, style=grid),
        Paragraph("MSOP-8 package dimensions, all lengths in mm", text["Heading2"]), Table(SMALL, style=grid),
    ]  # fmt: skip
    SimpleDocTemplate(str(path)).build(story)
    return path


def test_a_draft_holds_the_pins_and_lengths_of_the_sheet(library: Library, sheets: Path) -> None:
    draft = draft_from_datasheet(library, sheets / "NVK-3301Q.pdf", DraftChoice(name="NVK-3301Q", category="ic"))
    pins, lengths = tables_of(sheets, "NVK-3301Q")
    made = draft.bundle
    assert [(p.number, p.name) for p in made.symbol.pins] == [(r["number"], r["name"]) for r in pins["rows"]]
    assert (made.sheet.family, made.sheet.pins) == ("no-lead-quad", 24)
    assert len(made.sheet.dims) == len(lengths["rows"])


def test_every_value_of_a_draft_has_its_place_and_none_is_confirmed(library: Library, sheets: Path) -> None:
    made = draft_from_datasheet(library, sheets / "NVK-3301Q.pdf").bundle
    evidence = [v.evidence for v in evidenced_values(made)]
    assert len(evidence) > 30
    assert all(e and e.box and e.page and not e.confirmed_by for e in evidence)


def test_a_draft_is_not_kept_before_someone_keeps_it(library: Library, sheets: Path) -> None:
    draft_from_datasheet(library, sheets / "NVK-3301Q.pdf")
    assert not library.has_part("NVK-3301Q")


def test_of_several_packages_one_is_to_be_named(library: Library, tmp_path: Path) -> None:
    path = two_packages(tmp_path / "LYN-OP2.pdf")
    assert packages_found(find_in_datasheet(path).found) == ["MSOP-8", "SOIC-8"]
    with pytest.raises(InputError, match="several packages: MSOP-8, SOIC-8"):
        draft_from_datasheet(library, path)
    with pytest.raises(InputError, match="no table of dimensions is for QFN-16"):
        draft_from_datasheet(library, path, DraftChoice(package="QFN-16"))


@pytest.mark.parametrize(("package", "span"), [("SOIC-8", "5.8–6.2"), ("MSOP-8", "4.75–5.05")])
def test_the_package_that_is_named_is_taken(library: Library, tmp_path: Path, package: str, span: str) -> None:
    path = two_packages(tmp_path / "LYN-OP2.pdf")
    draft = draft_from_datasheet(library, path, DraftChoice(package=package))
    sheet = draft.bundle.sheet
    assert (sheet.family, sheet.pins) == ("gullwing-dual", 8)
    assert sheet.dims["E"].limits == parse_limits(span)
    assert any("another table of dimensions stands here" in doubt.reason for doubt in draft.doubts)


def test_a_document_of_which_nothing_is_understood_is_a_draft_to_go_on_with(library: Library, tmp_path: Path) -> None:
    draw(tmp_path / "prose.pdf", [["This document has no table."]])
    draft = draft_from_datasheet(library, tmp_path / "prose.pdf")
    assert [link.name for link in draft.bundle.part.datasheets] == ["prose.pdf"]
    reasons = {doubt.address: doubt.reason for doubt in draft.doubts}
    assert "neither a name nor dimensions tell the family" in reasons["sheet.family"]
    assert "no table of dimensions was found" in [doubt.reason for doubt in draft.doubts]


def test_what_the_table_does_not_give_is_a_doubt(library: Library, tmp_path: Path) -> None:
    draw(tmp_path / "short.pdf", [row for row in DUAL_ROWS if row[0] != "b"])
    draft = draft_from_datasheet(library, tmp_path / "short.pdf", DraftChoice(package="SOIC-8"))
    assert [d.reason for d in draft.doubts if d.address == "sheet.dims.b"] == [
        "no row of the table gives the lead width"
    ]


@pytest.mark.parametrize(
    ("name", "family"), [("BRM-E100", "radial"), ("BRM-ECH47", "axial"), ("LYN-X25", "castellated")]
)
def test_where_no_package_is_named_a_word_of_the_title_is_asked_about(
    library: Library, sheets: Path, name: str, family: str
) -> None:
    draft = draft_from_datasheet(library, sheets / f"{name}.pdf")
    assert draft.bundle.sheet.family == family
    (told,) = [doubt.reason for doubt in draft.doubts if doubt.address == "sheet.family"]
    assert "in the title" in told


def test_doubts_come_in_the_order_of_the_work_and_go_one_by_one(library: Library, sheets: Path) -> None:
    made = draft_from_datasheet(library, sheets / "BRM-PT6.pdf").bundle
    kinds = [doubt.address.partition(".")[0] for doubt in open_doubts(made)]
    assert kinds == sorted(kinds, key=["symbol", "sheet", "part", "source"].index)
    first, *others = open_doubts(made)
    assert isinstance(first, Doubt)
    assert open_doubts(confirm_doubt(made, first)) == tuple(others)


def test_a_draft_is_not_released_before_its_doubts_are_looked_at(library: Library, sheets: Path) -> None:
    bundle = draft_from_datasheet(library, sheets / "BRM-L18.pdf").bundle
    view = PartUnderCheck(bundle, standard_rulebook(), library.settings)
    hits = [hit for hit in run_checks(view) if hit.check == "evidence.to-confirm"]
    assert len(hits) == len(open_doubts(bundle)) > 0
    assert all(hit.severity is Severity.BLOCKER for hit in hits)
    for doubt in open_doubts(bundle):
        bundle = confirm_doubt(bundle, doubt)
    view = PartUnderCheck(bundle, standard_rulebook(), library.settings)
    assert not [hit for hit in run_checks(view) if hit.check == "evidence.to-confirm"]


def test_a_number_that_the_pin_table_passes_over_is_a_place_without_a_lead(library: Library, sheets: Path) -> None:
    sheet = draft_from_datasheet(library, sheets / "BRM-L18.pdf").bundle.sheet
    assert (sheet.pins, sheet.missing) == (6, ("5",))


def test_pins_come_from_the_pinout_figure_where_there_is_no_table(library: Library, sheets: Path) -> None:
    path = sheets / "NVK-1216T.pdf"
    found = tuple(item for item in find_in_datasheet(path).found if item.kind != "pins")
    made = draft_from_datasheet(library, path, contents=DatasheetContents(found))
    truth = next(table for table in tables_of(sheets, "NVK-1216T") if table["as"] == "pins")["rows"]
    assert [(pin.number, pin.name, pin.active_low) for pin in made.bundle.symbol.pins] == [
        (row["number"], row["name"], row["active_low"]) for row in truth
    ]
    assert all(pin.evidence and pin.evidence.page == 2 for pin in made.bundle.symbol.pins)
    assert made.bundle.part.pinout
    (doubt,) = [doubt for doubt in made.doubts if doubt.address == "symbol"]
    assert "from the pinout figure" in doubt.reason


def test_a_draft_has_facts_description_and_its_outline_to_scale(library: Library, sheets: Path) -> None:
    bundle = draft_from_datasheet(library, sheets / "NVK-1216T.pdf", DraftChoice(category="ic")).bundle
    assert bundle.part.description == "Bridge converter, two channels, 24 bit, for the weighing perch"
    # The table of order codes gives it; the absolute maximum ratings beside it are no facts.
    assert bundle.part.facts["Operating temperature"].value == "-40 °C to 105 °C"
    assert "Supply voltage" not in bundle.part.facts
    (picture,) = bundle.sheet.pictures
    assert picture.page == 3
    assert picture.scale
    assert picture.scale.letter == "E"


@pytest.mark.parametrize(
    ("name", "family"),
    [
        ("SOIC-8", "gullwing-dual"),
        ("TSSOP-20", "gullwing-dual"),
        ("LQFP48", "gullwing-quad"),
        ("VQFN-32", "no-lead-quad"),
        ("SOT-23", "transistor"),
        ("BGA-64", "ball-grid"),
        ("PDIP-8", "dual-in-line"),
        ("XYZ-8", ""),
        ("", ""),
    ],
)
def test_a_packages_name_means_a_family(name: str, family: str) -> None:
    assert family_of_package(name) == family
    assert not family or family in all_families()


def test_a_holder_keeps_the_letters_of_all_its_tables_for_pads_by_hand(library: Library, sheets: Path) -> None:
    draft = draft_from_datasheet(library, sheets / "BRM-CH16.pdf")
    sheet = draft.bundle.sheet
    assert sheet.family == "custom"
    lands = tables_of(sheets, "BRM-CH16")[1]
    assert {row["letter"] for row in lands["rows"]} <= sheet.dims.keys()
    reasons = {doubt.address: doubt.reason for doubt in draft.doubts}
    assert "“holder” in the title" in reasons["sheet.family"]
    assert "told by its letter and length" in reasons["sheet.dims.D"]


def test_pages_that_cannot_be_read_are_a_doubt(library: Library, sheets: Path) -> None:
    path = sheets / "NVK-1216T.pdf"
    contents = DatasheetContents(find_in_datasheet(path).found, unreadable=(7, 9))
    doubts = draft_from_datasheet(library, path, contents=contents).doubts
    (doubt,) = [doubt for doubt in doubts if "not read" in doubt.reason]
    assert doubt.page == 7
    assert doubt.reason.startswith("pages not read: 7, 9; its fonts do not say which letters they draw")


def test_lands_of_a_package_that_is_not_whole_are_a_doubt(library: Library, sheets: Path) -> None:
    path = sheets / "NVK-1216T.pdf"
    found = tuple(item for item in find_in_datasheet(path).found if item.kind != "dimensions")
    lands = FoundItem("lands", 3, (60.0, 420.0, 480.0, 740.0), "", 0.6, 8, is_figure=True)
    draft = draft_from_datasheet(library, path, contents=DatasheetContents((*found, lands)))
    told = [doubt.reason for doubt in draft.doubts if doubt.address == "lands"]
    assert len(told) == 1
    assert "suggested lands cannot be compared with the package yet: " in told[0]


def test_a_tab_is_the_land_after_the_last_lead(library: Library, tmp_path: Path) -> None:
    rows = [["Pin No.", "Name", "Description"], ["1", "IN", "Input"], ["2", "GND", "Ground"], ["3", "OUT", "Output"]]
    draw(tmp_path / "KEL-78.pdf", [*rows, ["TAB", "GND", "Connected to pin 2"]])
    draft = draft_from_datasheet(library, tmp_path / "KEL-78.pdf")
    assert [(pin.number, pin.name) for pin in draft.bundle.symbol.pins] == [
        ("1", "IN"), ("2", "GND"), ("3", "OUT"), ("4", "GND"),
    ]  # fmt: skip
    assert not [doubt for doubt in draft.doubts if doubt.address.startswith("symbol")]


def test_a_table_that_names_no_package_is_in_doubt_where_there_are_several(library: Library, tmp_path: Path) -> None:
    path = two_packages(tmp_path / "LYN-OP2.pdf")
    first, second = find_in_datasheet(path).found
    outline = FoundItem("outline", 1, second.box, "QFN-8", 0.6, 4, is_figure=True)
    contents = DatasheetContents((msgspec.structs.replace(first, package=""), outline))
    draft = draft_from_datasheet(library, path, DraftChoice(package="SOIC-8"), contents=contents)
    assert "nothing says that this table is for SOIC-8; the document has QFN-8, too" in [d.reason for d in draft.doubts]
