"""A document read through: every table of the demo is found, what is none is not, and the work can be ended."""

from pathlib import Path

import pytest

from drawn_tables import DUAL_ROWS, Open, draw, tables_of
from eider.datasheets import Datasheet
from eider.datasheets.document_survey import packages_named, survey
from eider.datasheets.page_frame import holds
from eider.datasheets.table_capture import capture_table
from eider.services.tasks import CancelledError, Task

SINGLE = ("NVK-1216T", "NVK-3301Q", "NVK-4GT", "BRM-L18", "BRM-PT6", "LYN-X25", "NVK-U100P")


@pytest.mark.parametrize("name", SINGLE)
def test_the_tables_of_a_datasheet_are_found_where_they_begin(name: str, opened: Open, sheets: Path) -> None:
    found = [item for item in survey(opened(name)) if item.kind in ("pins", "dimensions")]
    wanted = [(table["as"], table["places"][0]) for table in tables_of(sheets, name)]
    for kind, place in wanted:
        x, y = (place["box"][0] + place["box"][2]) / 2, (place["box"][1] + place["box"][3]) / 2
        here = [item.kind for item in found if item.page == place["page"] and holds(item.box, (x, y, x, y))]
        assert here == [kind]
    assert len(found) == len(wanted)


def test_a_letter_of_the_drawing_above_is_no_heading(opened: Open) -> None:
    datasheet = opened("BRM-PT6")
    (found,) = [item for item in survey(datasheet) if item.kind == "dimensions"]
    read = capture_table(datasheet, found.page, found.box, "dimensions").dimensions
    assert read
    assert {row.letter: row.text for row in read.rows}["A"] == ".280–.300 in"


def test_order_codes_and_sizes_of_a_family_are_called_so(opened: Open) -> None:
    kinds = {item.kind: item.page for item in survey(opened("LYN-C"))}
    assert kinds == {"ordering": 1, "outline": 2, "family": 2}


def test_the_bits_of_a_register_are_no_pins(tmp_path: Path) -> None:
    rows = [["Bit", "Name", "Access", "Reset", "Description"]]
    rows += [[str(bit), f"EN{bit}", "R/W", "0", "enables the channel"] for bit in range(8)]
    draw(tmp_path / "a.pdf", rows)
    datasheet = Datasheet(tmp_path / "a.pdf")
    assert list(survey(datasheet)) == []
    datasheet.close()


def test_a_table_over_pages_is_one(opened: Open) -> None:
    (pins,) = [item for item in survey(opened("NVK-U100P")) if item.kind == "pins"]
    assert pins.rows == 100


def test_reading_through_can_be_ended(tmp_path: Path) -> None:
    draw(tmp_path / "sheet.pdf", DUAL_ROWS, page=3)
    task, seen = Task(), []

    def report(share: float, what: str) -> None:
        seen.append(what)
        task.cancel()
        task.report(share, what)

    with pytest.raises(CancelledError):
        list(survey(Datasheet(tmp_path / "sheet.pdf"), report))
    assert seen == ["reading page 1"]


@pytest.mark.parametrize(
    ("text", "named"),
    [
        ("The LYN-OP2 comes in SOIC-8 and MSOP-8.", ["SOIC-8", "MSOP-8"]),
        ("16-lead TSSOP, 24 pin VQFN", ["TSSOP-16", "VQFN-24"]),
        ("Supply of 5 V; see page 12.", []),
    ],
)
def test_packages_are_known_by_their_names(text: str, named: list[str]) -> None:
    assert sorted(packages_named(text)) == sorted(named)


def test_numbers_in_columns_that_run_together_are_a_doubt(opened: Open) -> None:
    """With a stray letter above the headings the first columns cannot be told apart."""
    found = capture_table(opened("BRM-L18"), 2, (67, 208, 475, 422), "dimensions")
    assert found.dimensions
    assert found.dimensions.doubt == "numbers stand in columns that could not be told apart"
