"""Further columns of pins: read with any table, fitted to the template, edited, sorted, exported."""

import csv
import io

import pytest

from eider.commands.datasheets.captured_values import use_pin_reading
from eider.commands.pins.pin_cells import more_cell, paste_cells
from eider.commands.pins.pin_edits import fill_down, fill_series, replace_text, set_pin_table, sort_pins
from eider.exchange.formats.csv import pins_csv
from eider.model.bundle import Bundle
from eider.model.library import FactField
from eider.model.symbol import Pin
from eider.symbols.pin_columns import MORE, column_text, fit_columns, left_out_words, with_column
from eider.symbols.pin_table import read_pins, split_table

TEXT = "Pin\tName\tPin length\tSwap\tColour\n1\tDQ0\t3.20 mm\tA\tred\n2\tDQ1\t900 µm\tA\t\n3\tGND\t\t\t\n"
COLUMNS = (
    FactField("Package length", kind="number", unit="m", also=("pin length",)),
    FactField("Swap group", also=("swap",)),
)
LENGTH = f"{MORE}Package length"


@pytest.fixture
def pins() -> tuple[Pin, ...]:
    return fit_columns(read_pins(split_table(TEXT)).pins, COLUMNS).pins


def test_columns_come_along_under_their_headings_and_are_fitted() -> None:
    read = read_pins(split_table(TEXT)).pins
    assert read[0].more == {"Pin length": "3.20 mm", "Swap": "A", "Colour": "red"}
    fitted = fit_columns(read, COLUMNS)
    assert [pin.more for pin in fitted.pins] == [
        {"Package length": "3.20 mm", "Swap group": "A"},
        {"Package length": "900 µm", "Swap group": "A"},
        {},
    ]
    assert fitted.left_out == ("Colour",)
    assert left_out_words(read, COLUMNS) == ["left out, as the category has no such column: Colour"]
    assert left_out_words(fitted.pins, COLUMNS) == []


def test_a_table_without_headings_has_no_further_columns() -> None:
    (pin,) = read_pins([["1", "VDD", "power input", "supply", "x"]]).pins
    assert pin.more == {}


def test_they_stay_when_the_pins_are_read_again(sound: Bundle, pins: tuple[Pin, ...]) -> None:
    bundle = set_pin_table(sound, pins)
    again = read_pins(split_table("Pin\tName\tSwap\n1\tDQ0\tB\n2\tOTHER\tB\n"))
    made = use_pin_reading(bundle, again, "pasted", COLUMNS)
    assert made.symbol.pins[0].more == {"Package length": "3.20 mm", "Swap group": "B"}
    assert made.symbol.pins[1].more == {"Swap group": "B"}, "another pin has another length"


def test_they_are_filled_replaced_pasted_and_sorted_by_value(sound: Bundle, pins: tuple[Pin, ...]) -> None:
    bundle = set_pin_table(sound, pins)
    swap = f"{MORE}Swap group"
    filled = fill_down(bundle, [0, 1, 2], swap)
    assert [column_text(pin, swap) for pin in filled.symbol.pins] == ["A", "A", "A"]
    series = fill_series(set_pin_table(sound, [with_column(p, swap, "G1") for p in pins]), [0, 1, 2], swap)
    assert [column_text(pin, swap) for pin in series.symbol.pins] == ["G1", "G2", "G3"]
    replaced, count = replace_text(bundle, [0, 1, 2], swap, "A", "B")
    assert count == 2 and column_text(replaced.symbol.pins[1], swap) == "B"
    pasted = paste_cells(bundle, 1, [LENGTH, swap], [["1 mm", ""], ["2 mm", "C"]])
    assert [pin.more for pin in pasted.symbol.pins[1:]] == [
        {"Package length": "1 mm"},
        {"Package length": "2 mm", "Swap group": "C"},
    ]
    # 900 µm is less than 3.20 mm; a pin without a length comes last.
    assert [pin.number for pin in sort_pins(bundle, LENGTH).symbol.pins] == ["2", "1", "3"]


def test_a_cell_shows_and_puts_and_has_the_choices_of_its_template() -> None:
    cell = more_cell(FactField("Bank", kind="choice", choices=("1", "2")))
    pin = cell.put(Pin("1"), "2")
    assert (cell.show(pin), cell.choices, cell.put(pin, "").more) == ("2", ("", "1", "2"), {})
    assert more_cell(FactField("Ready", kind="yes/no")).choices == ("", "yes", "no")


def test_they_are_exported(sound: Bundle, pins: tuple[Pin, ...]) -> None:
    rows = list(csv.reader(io.StringIO(pins_csv(set_pin_table(sound, pins).symbol))))
    assert rows[0][-2:] == ["Package length", "Swap group"]
    assert [row[-2:] for row in rows[1:]] == [["3.20 mm", "A"], ["900 µm", "A"], ["", ""]]
