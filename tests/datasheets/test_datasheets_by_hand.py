"""Datasheets written by hand after the reader, each in another manner (tools/foreign/datasheets/by_hand.py)."""

from pathlib import Path

import pytest

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.found_items import FoundItem
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import TableCapture, capture_table

FOLDER = Path(__file__).parent / "by_hand"
ENGINES = ("browser", "layout")


def found_in(name: str) -> list[tuple[FoundItem, TableCapture]]:
    """The tables that are found by themselves in a document, read."""
    datasheet = Datasheet(FOLDER / f"{name}.pdf")
    try:
        items = [item for item in survey(datasheet) if not item.is_figure]
        return [
            (i, capture_table(datasheet, i.page, i.box, "pins" if i.kind == "pins" else "dimensions")) for i in items
        ]
    finally:
        datasheet.close()


def pins_in(capture: TableCapture) -> list[tuple[str, str, bool]]:
    assert capture.pins
    return [(pin.number, pin.name, pin.active_low) for pin in pins_from_table(capture.pins)[0].pins]


def lengths_in(capture: TableCapture, member: str = "") -> dict[str, str]:
    """The lengths of a table without a doubt, by letter."""
    assert capture.dimensions
    rows = [row for row in capture.dimensions.rows if row.member == member]
    assert not any(row.doubt for row in rows)
    return {row.letter: row.text for row in rows}


@pytest.mark.parametrize("engine", ENGINES)
def test_a_table_beside_running_text_with_indices_and_bars(engine: str) -> None:
    ((item, capture),) = found_in(f"beside-prose-{engine}")
    assert item.kind == "pins"
    assert pins_in(capture) == [
        ("1", "VDD", False), ("2", "RST", True), ("3", "SDA", False), ("4", "SCL", False), ("5", "GND", False),
        ("6", "ALERT", True), ("7", "AIN0", False), ("8", "AIN1", False),
    ]  # fmt: skip


@pytest.mark.parametrize("engine", ENGINES)
def test_two_packages_side_by_side(engine: str) -> None:
    (first, capture), (second, _again) = found_in(f"two-packages-{engine}")
    assert (first.package, second.package) == ("SOT-23-5", "SC-70-5")
    assert lengths_in(capture, "SOT-23-5")["D"] == "2.80–3.00"
    assert lengths_in(capture, "SC-70-5")["D"] == "1.80–2.20"


@pytest.mark.parametrize("engine", ENGINES)
def test_two_sets_of_letters_side_by_side(engine: str) -> None:
    ((_item, capture),) = found_in(f"two-sets-{engine}")
    assert lengths_in(capture) == {
        "A": "1.35–1.75", "A1": "0.10–0.25", "b": "0.31–0.51", "D": "4.80–5.00",
        "E": "5.80–6.20", "E1": "3.80–4.00", "e": "1.27–1.27", "L": "0.40–1.27",
    }  # fmt: skip


@pytest.mark.parametrize("engine", ENGINES)
def test_numbers_for_two_packages_are_asked_about(engine: str) -> None:
    ((item, capture),) = found_in(f"two-numbers-{engine}")
    assert item.kind == "pins"
    assert capture.pins
    assert "several columns of pin numbers (SOIC, QFN)" in capture.pins.doubt
    assert pins_in(capture)[1] == ("2", "IN1", False)


@pytest.mark.parametrize("engine", ENGINES)
def test_names_listed_for_listed_numbers(engine: str) -> None:
    ((_item, capture),) = found_in(f"name-lists-{engine}")
    assert pins_in(capture)[:4] == [("1", "A0", False), ("2", "A1", False), ("3", "A2", False), ("4", "GND", False)]


@pytest.mark.parametrize("engine", ENGINES)
def test_units_over_the_first_of_their_columns(engine: str) -> None:
    ((_item, capture),) = found_in(f"units-left-{engine}")
    assert lengths_in(capture) == {
        "A": "max 1.200", "A1": "0.050–0.150", "D": "min 4.900 nom 5.000 max 5.100",
        "E": "min 6.200 nom 6.400 max 6.600", "e": "0.650", "L": "min 0.450 nom 0.600 max 0.750",
    }  # fmt: skip


@pytest.mark.parametrize("engine", ENGINES)
def test_both_units_in_each_cell_of_limits(engine: str) -> None:
    ((_item, capture),) = found_in(f"two-units-{engine}")
    assert lengths_in(capture) == {
        "A": "1.35–1.75", "B": "0.33–0.51", "D": "4.80–5.00", "e": "1.27 BSC", "H": "5.80–6.20",
    }  # fmt: skip


def test_values_centred_over_three_columns_and_ranges_of_pins() -> None:
    (_lengths, dimensions), (_pins, pins) = found_in("booktabs-tex")
    read = lengths_in(dimensions)
    assert read["A"] == "min 0.80 nom 0.85 max 0.90"
    assert (read["A3"], read["D"], read["E"], read["e"]) == ("0.20 REF", "4.00 BSC", "4.00 BSC", "0.50 BSC")
    assert pins_in(pins) == [
        ("1", "VIN", False), ("2", "GND", False), ("3", "GND", False), ("4", "EN", False), ("5", "NC", False),
        ("6", "NC", False), ("7", "NC", False), ("8", "NC", False), ("9", "PG", True), ("10", "VOUT", False),
    ]  # fmt: skip
