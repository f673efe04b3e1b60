"""Units: equal ones from repeated names, by group, supplies apart; and what is in each."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.demo.data import printed_pins
from eider.drawings.primitives import Text
from eider.drawings.symbol_drawing import symbol_drawing, unit_drawing
from eider.model.symbol import Pin, Symbol
from eider.symbols.arrangement import arrange
from eider.symbols.unit_splitting import SPLITTINGS, split_by_group, split_equal, split_supply, unit_label

GATES = tuple(Pin(p.number, p.name, p.type) for p in printed_pins("nvk-4gt"))


def units(pins: list[Pin]) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for pin in pins:
        found.setdefault(pin.unit, []).append(pin.name)
    return found


def test_four_gates_are_four_equal_units_and_a_supply() -> None:
    assert units(split_equal(GATES)) == {
        "A": ["1A", "1B", "1Y"],
        "B": ["2A", "2B", "2Y"],
        "E": ["GND", "VCC"],
        "C": ["3Y", "3A", "3B"],
        "D": ["4Y", "4A", "4B"],
    }


def test_equal_units_look_alike_and_can_be_swapped() -> None:
    symbol = arrange(Symbol(id="", name="gates", pins=tuple(split_equal(GATES))))
    gates, supply = symbol.units[:4], symbol.units[4]
    assert [unit.name for unit in symbol.units] == ["A", "B", "C", "D", "E"]
    assert len({unit.swap for unit in gates}) == 1
    assert gates[0].swap
    assert supply.swap == ""
    places = [[(pin.name[1:], pin.x, pin.y, pin.side) for pin in unit.pins] for unit in gates]
    assert places[0] == places[1] == places[2] == places[3]


def test_amplifiers_number_their_pins_inside() -> None:
    names = ["IN1+", "IN1-", "OUT1", "IN2+", "IN2-", "OUT2", "V+", "V-"]
    types = ["input", "input", "output", "input", "input", "output", "power input", "power input"]
    pins = [Pin(str(i), name, kind) for i, (name, kind) in enumerate(zip(names, types, strict=True), start=1)]
    assert units(split_equal(pins)) == {
        "A": ["IN1+", "IN1-", "OUT1"],
        "B": ["IN2+", "IN2-", "OUT2"],
        "C": ["V+", "V-"],
    }


def test_names_that_do_not_repeat_stay_in_one_unit() -> None:
    pins = [Pin("1", "VDD", "power input"), Pin("2", "D0"), Pin("3", "CLK")]
    assert units(split_equal(pins)) == {"": ["VDD", "D0", "CLK"]}


def test_groups_and_supplies_become_units() -> None:
    pins = [
        Pin("1", "VDD", "power input"),
        Pin("2", "A0", group="a"),
        Pin("3", "B0", group="b"),
        Pin("4", "A1", group="a"),
    ]
    assert units(split_by_group(pins)) == {"C": ["VDD"], "A": ["A0", "A1"], "B": ["B0"]}
    assert units(split_supply(pins)) == {"B": ["VDD"], "A": ["A0", "B0", "A1"]}


@pytest.mark.parametrize(("index", "label"), [(0, "A"), (25, "Z"), (26, "AA"), (51, "AZ"), (52, "BA"), (701, "ZZ")])
def test_units_are_lettered_on(index: int, label: str) -> None:
    assert unit_label(index) == label


PINS = st.lists(
    st.builds(
        lambda name, kind, group: (name, kind, group),
        st.sampled_from(["1A", "1Y", "2A", "2Y", "IN1", "OUT1", "IN2", "OUT2", "VDD", "GND", "CLK"]),
        st.sampled_from(["input", "output", "power input", "passive"]),
        st.sampled_from(["", "bus", "port"]),
    ),
    min_size=1,
    max_size=30,
).map(lambda rows: tuple(Pin(str(i), *row[:2], group=row[2]) for i, row in enumerate(rows, start=1)))


@given(PINS, st.sampled_from(list(SPLITTINGS)))
def test_however_a_table_is_split_every_pin_stands_in_one_unit_once(pins: tuple[Pin, ...], way: str) -> None:
    split = SPLITTINGS[way](pins)
    assert [pin.number for pin in split] == [pin.number for pin in pins]
    symbol = arrange(Symbol(id="", name="", pins=tuple(split)))
    placed = sorted(int(pin.number) for unit in symbol.units for pin in unit.pins)
    assert placed == sorted(int(pin.number) for pin in pins)
    assert arrange(symbol) == symbol


def test_all_units_are_drawn_beside_each_other_and_each_alone() -> None:
    symbol = arrange(Symbol(id="", name="gates", pins=tuple(split_equal(GATES))))
    together = symbol_drawing(symbol, "NVK-4GT")
    references = [p.text for p in together.primitives if isinstance(p, Text) and p.role == "reference"]
    assert [r for r in references if r.startswith("U?")] == ["U?A", "U?B", "U?C", "U?D", "U?E"]
    bodies = [p for p in together.primitives if getattr(p, "role", "") == "symbol body"]
    assert len({p.outline for p in bodies}) == 5
    alone = unit_drawing(symbol, 2, "NVK-4GT")
    assert [p.text for p in alone.primitives if isinstance(p, Text) and p.role == "pin number"] == ["9", "10", "8"]
