"""Pins of a draft from a table and a figure together, and what is left to confirm of them."""

from pathlib import Path

import pytest
from reportlab.lib import colors
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

from eider.commands.datasheets.datasheet_draft import pins_named
from eider.commands.datasheets.family_guess import family_of_package
from eider.datasheets.documents.package_names import packages_named
from eider.demo.parts import LIBRARIAN
from eider.library import Library, init_library
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet

SIGNALS = {"A1": "CS", "A2": "SCK", "B1": "VSS", "B2": "VCC"}


@pytest.fixture
def library(tmp_path: Path) -> Library:
    return init_library(tmp_path / "library", "Skerry Fieldworks", LIBRARIAN)


GRID = ("GRID", (0, 0), (-1, -1), 0.5, colors.black)


def ball_sheet(path: Path, *, exchanged: bool = False) -> Path:
    """A memory in a grid of 3 × 3 balls: its table has four of them, its map all, five of them without a function."""
    canvas = Canvas(str(path))
    canvas.setFont("Helvetica", 12)
    canvas.drawString(60, 800, "SKM016 16 Mbit memory in BGA-9")
    rows = [["Ball", "Name", "Function"], *([ball, name, "signal"] for ball, name in SIGNALS.items())]
    table = Table(rows, style=[GRID, ("FONT", (0, 0), (-1, -1), "Helvetica", 9)])
    table.wrapOn(canvas, 500, 500)
    table.drawOn(canvas, 60, 650)
    canvas.setFont("Helvetica", 7)
    for column in range(3):
        canvas.drawCentredString(200 + 40 * column, 560, str(column + 1))
    drawn = {**SIGNALS, "A1": "SCK", "A2": "CS"} if exchanged else SIGNALS
    for row, letter in enumerate("ABC"):
        canvas.drawString(170, 537 - 40 * row, letter)
        for column in range(3):
            canvas.circle(200 + 40 * column, 540 - 40 * row, 8)
            canvas.drawCentredString(200 + 40 * column, 522 - 40 * row, drawn.get(f"{letter}{column + 1}", "NC"))
    canvas.showPage()
    canvas.setFont("Helvetica", 9)
    canvas.drawString(60, 800, "Ordering information")
    orders = Table([["Part No.", "Packing"], ["SKM016-B9", "reel"], ["SKM016-B9T", "tray"]], style=[GRID])
    orders.wrapOn(canvas, 500, 500)
    orders.drawOn(canvas, 60, 720)
    canvas.save()
    return path


def drafted(library: Library, path: Path) -> DatasheetDraft:
    return draft_from_datasheet(library, path, DraftChoice(name="SKM016-B9T", category="ic"))


def test_balls_that_the_map_alone_has_are_pins_to_confirm(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, ball_sheet(tmp_path / "skm016.pdf"))
    names = {pin.number: pin.name for pin in draft.bundle.symbol.pins}
    assert names == {**dict.fromkeys(["A3", "B3", "C1", "C2", "C3"], "NC"), **SIGNALS}
    told = [doubt for doubt in draft.doubts if "figure alone" in doubt.reason]
    assert [doubt.reading for doubt in told] == ["5 pins"]


def test_a_map_that_names_a_ball_otherwise_adds_none(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, ball_sheet(tmp_path / "skm016.pdf", exchanged=True))
    assert {pin.number for pin in draft.bundle.symbol.pins} == set(SIGNALS)


def test_an_order_code_on_a_later_page_is_the_part_number(library: Library, tmp_path: Path) -> None:
    draft = drafted(library, ball_sheet(tmp_path / "skm016.pdf"))
    assert draft.bundle.part.facts["Part number"].value == "SKM016-B9T"
    evidence = draft.bundle.part.facts["Part number"].evidence
    assert evidence is not None
    assert evidence.page == 2


def test_a_bar_over_one_of_two_names_of_a_figure_is_asked_about(library: Library, tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "bars.pdf"))
    canvas.setFont("Helvetica", 8)
    canvas.rect(250, 400, 60, 60)
    for row, (left, right) in enumerate((("CS", "VCC"), ("SO", "SCK"), ("VSS", "WP/IO2"))):
        y = 445 - 18 * row
        canvas.drawString(254, y, str(row + 1))
        canvas.drawRightString(306, y, str(6 - row))
        canvas.drawRightString(244, y, left)
        canvas.drawString(316, y, right)
    width = canvas.stringWidth("CS", "Helvetica", 8)
    canvas.line(244 - width, 452, 244, 452)
    canvas.line(316, 416, 316 + canvas.stringWidth("WP", "Helvetica", 8), 416)
    canvas.save()
    draft = drafted(library, tmp_path / "bars.pdf")
    pins = {pin.number: (pin.name, pin.active_low) for pin in draft.bundle.symbol.pins}
    assert pins["1"] == ("CS", True)
    assert pins["4"] == ("WP/IO2", False)
    assert [d.address for d in draft.doubts if "a bar is over a part" in d.reason] == ["symbol.pins.4"]


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("MiniSO8 (mm)", ["MiniSO8"]),
        ("DHVQFN20: plastic very thin quad flat package", ["DHVQFN20"]),
        ("0 TO 70 DEG C, 16 LEAD PLASTIC DIP", ["DIP-16"]),
        ("-55 TO 125", []),
        ("TO-220 and SC-059", ["TO-220", "SC-059"]),
        ("PowerSO-8", ["PowerSO-8"]),
        ("UFBGA64 and LFBGA-100, typical 1.27 MSOP-8", ["UFBGA64", "LFBGA-100", "MSOP-8"]),
    ],
)
def test_packages_that_a_text_names(text: str, names: list[str]) -> None:
    assert packages_named(text) == names


@pytest.mark.parametrize(
    ("name", "family"),
    [
        ("DHVQFN20", "no-lead-quad"),
        ("HVSON8", "no-lead-dual"),
        ("TVSOP-48", "gullwing-dual"),
        ("MiniSO8", "gullwing-dual"),
        ("UFBGA64", "ball-grid"),
        ("MiniMELF", "cylinder"),
        ("LLP8", ""),
    ],
)
def test_the_form_before_a_kind_says_nothing_of_its_family(name: str, family: str) -> None:
    assert family_of_package(name) == family


@pytest.mark.parametrize(("name", "pins"), [("LQFP48", 48), ("SOIC-8", 8), ("10", 0), ("PLN3225", 0), ("TO-220", 0)])
def test_only_the_name_of_a_package_tells_its_pins(name: str, pins: int) -> None:
    assert pins_named(name) == pins
