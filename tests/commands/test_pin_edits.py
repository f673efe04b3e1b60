"""Changes to many pins at once."""

import pytest

from eider.commands.parts import new_parts
from eider.commands.pins import pin_edits
from eider.commands.pins.pin_edits import (
    fill_down,
    fill_series,
    group_pins,
    number_grid,
    number_pins,
    replace_text,
    sort_pins,
)
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.packages.forms.array import row_letter


@pytest.fixture
def table(library: Library) -> Bundle:
    names = ("D10", "D2", "CLK", "nCS", "D1")
    pins = [Pin(str(i), name, "input", group="g" if i == 1 else "") for i, name in enumerate(names, start=1)]
    return pin_edits.set_pin_table(new_parts.new_part("NVK-9", "ic", library.settings), pins)


def column(bundle: Bundle, what: str) -> list[str]:
    return [getattr(pin, what) for pin in bundle.symbol.pins]


def test_a_value_is_filled_down(table: Bundle) -> None:
    assert column(fill_down(table, [0, 1, 3], "group"), "group") == ["g", "g", "", "g", ""]
    assert column(fill_down(table, [0, 1], "type"), "type")[:2] == ["input", "input"]
    with pytest.raises(InputError, match="fill down from"):
        fill_down(table, [0], "group")


def test_counting_goes_on(table: Bundle) -> None:
    assert column(fill_series(table, [1, 2, 3], "name"), "name") == ["D10", "D2", "D3", "D4", "D1"]
    stepped = pin_edits.set_pin_table(table, [Pin("1", "A0"), Pin("3", "A2"), Pin("", "x"), Pin("", "y")])
    assert column(fill_series(stepped, [0, 1, 2, 3], "number"), "number") == ["1", "3", "5", "7"]
    assert column(fill_series(stepped, [0, 1, 2, 3], "name"), "name") == ["A0", "A2", "A4", "A6"]
    with pytest.raises(InputError, match="contains no number"):
        fill_series(table, [2, 3], "name")
    down = pin_edits.set_pin_table(table, [Pin("2"), Pin("1"), Pin("x"), Pin("y")])
    with pytest.raises(InputError, match="below zero"):
        fill_series(down, [0, 1, 2, 3], "number")


def test_a_grid_is_lettered_without_i_o_q_s_x_z(table: Bundle) -> None:
    assert column(number_grid(table, range(5), 2), "number") == ["A1", "A2", "B1", "B2", "C1"]
    assert [row_letter(i) for i in (7, 8, 19, 20, 21, 40)] == ["H", "J", "Y", "AA", "AB", "BA"]


def test_rows_are_numbered_round_a_package_and_in_two_rows(table: Bundle) -> None:
    assert column(number_pins(table, range(5), "counter-clockwise"), "number") == ["1", "2", "3", "4", "5"]
    assert column(number_pins(table, range(5), "two rows"), "number") == ["1", "3", "5", "2", "4"]
    assert column(number_pins(table, range(4), "grid", 2), "number")[:4] == ["A1", "A2", "B1", "B2"]
    with pytest.raises(InputError, match="cannot be numbered"):
        number_pins(table, [0], "unheard-of")


def test_groups_follow_from_names(library: Library) -> None:
    names = ("UART_TX", "UART_RX", "SPI_CK", "D0", "D1", "VDD")
    pins = [Pin(str(i), n, "power input" if n == "VDD" else "input", group="old") for i, n in enumerate(names, start=1)]
    table = pin_edits.set_pin_table(new_parts.new_part("NVK-9", "ic", library.settings), pins)
    rows = range(len(names))
    assert column(group_pins(table, rows, "prefix"), "group") == ["UART", "UART", "", "", "", "old"]
    assert column(group_pins(table, rows, "bus"), "group") == ["", "", "", "D", "D", "old"]
    assert column(group_pins(table, rows, "none"), "group") == ["", "", "", "", "", "old"]
    with pytest.raises(InputError, match="cannot be grouped"):
        group_pins(table, rows, "unheard-of")


def test_texts_are_replaced_in_the_selection_only(table: Bundle) -> None:
    changed, count = replace_text(table, [0, 1, 2], "name", "D", "DATA")
    assert (column(changed, "name"), count) == (["DATA10", "DATA2", "CLK", "nCS", "D1"], 2)
    with pytest.raises(InputError, match="say what to look for"):
        replace_text(table, [0], "name", "", "x")


def test_the_table_is_sorted_by_value_and_back(table: Bundle) -> None:
    once = sort_pins(table, "name")
    assert column(once, "name") == ["CLK", "D1", "D2", "D10", "nCS"]
    assert column(sort_pins(once, "name"), "name") == ["nCS", "D10", "D2", "D1", "CLK"]
    with pytest.raises(InputError, match="cannot be sorted"):
        sort_pins(table, "assumed")
