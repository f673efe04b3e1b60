"""Facts and description of a draft, from tables of characteristics, of order codes, and the first lines of a page."""

from pathlib import Path

import pytest
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import Row, draw
from eider.cli.packages.lands import bare_bundle
from eider.commands.datasheets.drafted_facts import (
    CitedRow,
    with_drafted_description,
    with_drafted_facts,
    with_known_manufacturer,
)
from eider.datasheets import Datasheet
from eider.datasheets.pages.document import PageText
from eider.datasheets.tables.fact_rows import FactRow, characteristics_in, order_facts_in
from eider.model.bundle import Bundle
from eider.model.library import Category, FactField
from eider.model.package_sheet import PackageSheet

CHIP = Category(
    title="Chip",
    reference="U",
    facts=(
        FactField("Manufacturer"),
        FactField("Supply voltage", also=("vdd",)),
        FactField("Operating temperature", kind="range", unit="°C", also=("temperature",)),
        FactField("Rated voltage", kind="number", unit="V"),
    ),
)


@pytest.fixture
def part() -> Bundle:
    return bare_bundle(PackageSheet(name="HOLM-7", family="chip", pins=2), None, "B")


def page_of(path: Path) -> PageText:
    datasheet = Datasheet(path)
    try:
        return datasheet.read(1)
    finally:
        datasheet.close()


def rows_of(tmp_path: Path, rows: list[Row]) -> tuple[FactRow, ...]:
    box = draw(tmp_path / "a.pdf", rows)
    return characteristics_in(page_of(tmp_path / "a.pdf"), box)


def test_limits_and_units_make_one_value(tmp_path: Path) -> None:
    read = rows_of(
        tmp_path,
        [
            ["Parameter", "Symbol", "Min", "Typ", "Max", "Unit"],
            ["Supply voltage", "VDD", "2.7", "-", "5.3", "V"],
            ["Supply current", "IDD", "-", "1.4", "-", "mA"],
            ["Rated voltage", "VR", "-", "-", "25", "V"],
            ["Remarks", "", "", "", "", ""],
            ["", "", "", "", "", ""],
        ],
    )
    assert [(row.name, row.value) for row in read] == [
        ("Supply voltage", "2.7 to 5.3 V"),
        ("Supply current", "1.4 mA"),
        ("Rated voltage", "25 V"),
    ]


def test_a_table_of_order_codes_says_its_columns_of_the_part_alone(tmp_path: Path) -> None:
    box = draw(
        tmp_path / "a.pdf",
        [
            ["Part number", "Leads", "Temperature"],
            ["HOLM-7", "16", "−40 °C to 105 °C"],
            ["HOLM-8", "20", "0 °C to 70 °C"],
        ],
    )
    page = page_of(tmp_path / "a.pdf")
    assert [(row.name, row.value) for row in order_facts_in(page, box, "HOLM-7")] == [
        ("Leads", "16"),
        ("Temperature", "-40 °C to 105 °C"),
    ]
    assert order_facts_in(page, box, "HOLM-9") == ()


def row(name: str, value: str) -> CitedRow:
    return CitedRow(3, FactRow(name, value, (1.0, 2.0, 3.0, 4.0), f"{name} {value}"))


def test_facts_of_the_category_are_taken_with_their_place(part: Bundle) -> None:
    rows = [row("VDD", "2.7 to 5.3 V"), row("Ambient temperature range", "-40 to 85 °C"), row("Weight", "3 g")]
    made, doubts = with_drafted_facts(part, CHIP, rows, "sum", "librarian")
    assert {name: fact.value for name, fact in made.part.facts.items()} == {
        "Supply voltage": "2.7 to 5.3 V",
        "Operating temperature": "-40 to 85 °C",
    }
    evidence = made.part.facts["Supply voltage"].evidence
    assert evidence
    assert (evidence.page, evidence.box, evidence.text) == (3, (1.0, 2.0, 3.0, 4.0), "VDD 2.7 to 5.3 V")
    assert doubts == []
    assert with_drafted_facts(part, None, rows, "sum", "librarian") == (part, [])


def test_what_is_no_value_of_the_fact_is_not_taken_and_two_values_are_a_doubt(part: Bundle) -> None:
    rows = [row("Rated voltage", "see note"), row("Rated voltage", "25 V"), row("Rated voltage", "50 V")]
    made, doubts = with_drafted_facts(part, CHIP, rows, "sum", "librarian")
    assert made.part.facts["Rated voltage"].value == "25 V"
    assert [doubt.reason for doubt in doubts] == ["the datasheet gives 25 V, 50 V; the first was taken"]


def first_page(path: Path, lines: list[str]) -> PageText:
    canvas = Canvas(str(path), invariant=1)
    for index, line in enumerate(lines):
        canvas.drawString(60, 780 - 16 * index, line)
    canvas.save()
    return page_of(path)


def test_the_line_under_the_title_is_the_description(part: Bundle, tmp_path: Path) -> None:
    page = first_page(tmp_path / "a.pdf", ["Norrvik Semi", "HOLM-7", "Tide gauge front end, two channels", "Features"])
    made, doubts = with_drafted_description(part, page, "sum")
    assert made.part.description == "Tide gauge front end, two channels"
    assert [(doubt.address, doubt.page) for doubt in doubts] == [("part.description", 1)]


def test_a_title_in_a_sentence_gives_none(part: Bundle, tmp_path: Path) -> None:
    page = first_page(tmp_path / "a.pdf", ["The HOLM-7 is a gauge for tides at sea", "with two channels and more"])
    assert with_drafted_description(part, page, "sum") == (part, [])


def test_a_manufacturer_of_the_library_is_known_again(part: Bundle, tmp_path: Path) -> None:
    page = first_page(tmp_path / "a.pdf", ["Norrvik Semi", "HOLM-7"])
    made = with_known_manufacturer(part, ["", "Norrvik Semi", "Brimfall"], page, "sum", "librarian")
    assert made.part.facts["Manufacturer"].value == "Norrvik Semi"
    both = first_page(tmp_path / "b.pdf", ["Norrvik Semi and Brimfall", "HOLM-7"])
    assert with_known_manufacturer(part, ["Norrvik Semi", "Brimfall"], both, "sum", "librarian") == part
