"""Pin tables as they come, and the drawings made from them."""

from collections.abc import Sequence

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.model.symbol import PIN_TYPES, Pin, Symbol, SymbolUnit
from eider.symbols.arrangement import arrange
from eider.symbols.pin_table import read_pins, split_table
from eider.symbols.symbol_style import DEFAULT_STYLE


def arrange_box(pins: Sequence[Pin], way: str) -> SymbolUnit:
    (unit,) = arrange(Symbol(id="", name="", pins=tuple(pins), arrangement=way)).units  # type: ignore[arg-type]
    return unit


TABLE = "Name;Pin;Type;Function\nVDD;1;P;Supply\nnCS;2;I;Select\nDOUT;3;O;Data\nGND;4;G;Ground\n"


def test_columns_in_any_order_by_their_headings() -> None:
    pins = read_pins(split_table(TABLE)).pins
    assert [(p.number, p.name, p.type, p.active_low) for p in pins] == [
        ("1", "VDD", "power input", False),
        ("2", "CS", "input", True),
        ("3", "DOUT", "output", False),
        ("4", "GND", "power input", False),
    ]
    assert not any(p.assumed for p in pins)


def test_pasted_without_headings() -> None:
    pins = read_pins(split_table("VDD\t1\nnCS\t2\nFOO\tA3\n")).pins
    assert [(p.number, p.name, p.type, p.assumed) for p in pins] == [
        ("1", "VDD", "power input", True),
        ("2", "CS", "input", True),
        ("A3", "FOO", "undecided", False),
    ]


def test_a_bad_line_is_told_with_its_number_and_the_others_come_in() -> None:
    reading = read_pins(split_table("Pin,Name,Type\n1,VDD,P\n,LOST,I\n3,OUT,sideways\n"))
    assert [p.number for p in reading.pins] == ["1", "3"]
    assert [f.line for f in reading.faults] == [3, 4]
    assert "sideways" in reading.faults[1].message


def test_a_line_for_several_pins() -> None:
    assert [p.number for p in read_pins(split_table('Pin,Name\n"4, 5",GND\n')).pins] == ["4", "5"]


PINS = st.lists(
    st.builds(
        Pin,
        number=st.integers(1, 400).map(str),
        name=st.from_regex(r"[A-Z][A-Z0-9]{0,9}", fullmatch=True),
        type=st.sampled_from(PIN_TYPES),
        group=st.sampled_from(["", "a", "b", "c"]),
    ),
    min_size=1,
    max_size=60,
    unique_by=lambda pin: pin.number,
)


@given(PINS, st.sampled_from(["number", "function"]))
def test_every_pin_once_on_the_grid_outside_a_body_that_holds_the_texts(pins: list[Pin], way: str) -> None:
    unit = arrange_box(pins, way)
    assert sorted(p.number for p in unit.pins) == sorted(p.number for p in pins)
    assert len({(p.x, p.y) for p in unit.pins}) == len(pins)
    x0, y0, x1, y1 = unit.body
    for pin in unit.pins:
        for value in (pin.x, pin.y):
            assert value / 2.54 == pytest.approx(round(value / 2.54), abs=1e-6)
        assert not (x0 < pin.x < x1 and y0 < pin.y < y1)
    for left in (p for p in unit.pins if p.side == "left"):
        for right in (p for p in unit.pins if p.side == "right" and p.y == left.y):
            texts = DEFAULT_STYLE.text_width(left.name) + DEFAULT_STYLE.text_width(right.name)
            assert texts < x1 - x0


@given(PINS, st.sampled_from(["number", "function"]))
def test_the_order_of_rows_does_not_matter_by_number(pins: list[Pin], way: str) -> None:
    assert arrange_box(pins, "number") == arrange_box(list(reversed(pins)), "number")
    assert arrange_box(pins, way) == arrange_box(list(pins), way)


def test_by_number_runs_down_the_left_and_up_the_right() -> None:
    unit = arrange_box([Pin(str(n), f"P{n}") for n in (3, 1, 4, 2)], "number")
    at = {p.number: (p.side, p.y) for p in unit.pins}
    assert at["1"][0] == at["2"][0] == "left"
    assert at["1"][1] > at["2"][1]
    assert at["3"][1] == at["2"][1]
    assert at["4"][1] == at["1"][1]


def test_by_function_supplies_stand_above_and_grounds_below() -> None:
    unit = arrange_box(read_pins(split_table(TABLE)).pins, "function")
    assert {p.name: p.side for p in unit.pins} == {"VDD": "top", "CS": "left", "DOUT": "right", "GND": "bottom"}


def test_groups_stay_together_with_a_gap_between() -> None:
    pins = [Pin("1", "A", "input", group="x"), Pin("2", "B", "input", group="y"), Pin("3", "C", "input", group="x")]
    ys = {p.name: p.y for p in arrange_box(pins, "function").pins}
    assert ys["A"] - ys["C"] == pytest.approx(2.54)
    assert ys["C"] - ys["B"] == pytest.approx(2 * 2.54)


def test_buses_stand_in_the_order_of_their_index() -> None:
    pins = [Pin(str(i), name, "bidirectional") for i, name in enumerate(("D10", "D2", "D0"))]
    ys = {p.name: p.y for p in arrange_box(pins, "function").pins}
    assert ys["D0"] > ys["D2"] > ys["D10"]


def test_a_standard_graphic_takes_the_place_of_the_box() -> None:
    symbol = arrange(Symbol(id="", name="", graphic="capacitor", pins=(Pin("1"), Pin("2"))))
    assert symbol.units[0].graphic == "capacitor"
    assert [(p.x, p.y) for p in symbol.units[0].pins] == [(-2.54, 0), (2.54, 0)]


def test_with_other_pins_than_it_has_a_box_is_drawn() -> None:
    symbol = arrange(Symbol(id="", name="", graphic="capacitor", pins=(Pin("1"), Pin("2"), Pin("3"))))
    assert symbol.units[0].graphic == ""


@given(st.lists(st.integers(3, 7), min_size=2, max_size=8), st.integers(0, 7))
def test_one_pin_more_in_a_bus_moves_no_other_pin_to_another_side(sizes: list[int], which: int) -> None:
    # Buses of three, or five to seven lines: one line more stays below the next power of two.
    sizes = [size if size != 4 else 3 for size in sizes]
    grown = which % len(sizes)
    names = [f"P{chr(ord('A') + i)}{k}" for i, size in enumerate(sizes) for k in range(size)]
    more = [*names, f"P{chr(ord('A') + grown)}{sizes[grown]}"]

    def sides(table: list[str]) -> dict[str, str]:
        pins = tuple(Pin(str(i), name, "bidirectional") for i, name in enumerate(table, start=1))
        return {pin.name: pin.side for unit in arrange(Symbol(id="", name="", pins=pins)).units for pin in unit.pins}

    before, after = sides(names), sides(more)
    assert {name: after[name] for name in names} == before
