"""Changes to many pins at once."""

import pytest

from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.workbench import edits
from eider.workbench.pin_edits import fill_down, fill_series, grid_row, number_grid, replace_text, sort_pins


@pytest.fixture
def table(library: Library) -> Bundle:
    names = ("D10", "D2", "CLK", "nCS", "D1")
    pins = [Pin(str(i), name, "input", group="g" if i == 1 else "") for i, name in enumerate(names, start=1)]
    return edits.set_pin_table(edits.new_part("NVK-9", "ic", library.settings), pins)


def column(bundle: Bundle, what: str) -> list[str]:
    return [getattr(pin, what) for pin in bundle.symbol.pins]


def test_a_value_is_filled_down(table: Bundle) -> None:
    assert column(fill_down(table, [0, 1, 3], "group"), "group") == ["g", "g", "", "g", ""]
    assert column(fill_down(table, [0, 1], "type"), "type")[:2] == ["input", "input"]
    with pytest.raises(InputError, match="fill down from"):
        fill_down(table, [0], "group")


def test_counting_goes_on(table: Bundle) -> None:
    assert column(fill_series(table, [1, 2, 3], "name"), "name") == ["D10", "D2", "D3", "D4", "D1"]
    stepped = edits.set_pin_table(table, [Pin("1", "A0"), Pin("3", "A2"), Pin("", "x"), Pin("", "y")])
    assert column(fill_series(stepped, [0, 1, 2, 3], "number"), "number") == ["1", "3", "5", "7"]
    assert column(fill_series(stepped, [0, 1, 2, 3], "name"), "name") == ["A0", "A2", "A4", "A6"]
    with pytest.raises(InputError, match="holds no number"):
        fill_series(table, [2, 3], "name")
    down = edits.set_pin_table(table, [Pin("2"), Pin("1"), Pin("x"), Pin("y")])
    with pytest.raises(InputError, match="below zero"):
        fill_series(down, [0, 1, 2, 3], "number")


def test_a_grid_is_lettered_without_i_o_q_s_x_z(table: Bundle) -> None:
    assert column(number_grid(table, range(5), 2), "number") == ["A1", "A2", "B1", "B2", "C1"]
    assert [grid_row(i) for i in (7, 8, 19, 20, 21, 40)] == ["H", "J", "Y", "AA", "AB", "BA"]


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
