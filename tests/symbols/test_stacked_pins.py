"""The library's style: stacked pins, not-connected pins as a list, four sides, and how numbers are written."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.drawings.primitives import Area, Disc, Line, Text
from eider.drawings.symbol_drawing import symbol_drawing, unit_drawing
from eider.model.address import PinAddress
from eider.model.symbol import Pin, Symbol, SymbolMeasures
from eider.symbols.arrangement import arrange
from eider.symbols.pin_moves import on_side
from eider.symbols.stacked_pins import stack_label

SUPPLIES = (
    Pin("1", "VDD", "power input"), Pin("2", "IN", "input"), Pin("3", "NC", "not connected"),
    Pin("4", "GND", "power input"), Pin("5", "GND", "power input"), Pin("6", "GND", "power input"),
    Pin("9", "GND", "power input"), Pin("8", "OUT", "output"), Pin("7", "NC", "not connected"),
)  # fmt: skip


def drawn(**measures: object) -> Symbol:
    return arrange(Symbol(id="", name="", pins=SUPPLIES, measures=SymbolMeasures(**measures)))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("numbers", "text"),
    [
        (["4"], "4"),
        (["5", "4"], "4, 5"),
        (["9", "4", "5", "6"], "4–6, 9"),
        (["A1", "A2", "A3", "B3"], "A1–A3, B3"),
        (["1", "3", "5", "7", "9", "11", "13"], "1 … 13 (7)"),
    ],
)
def test_the_numbers_of_a_stack_in_short(numbers: list[str], text: str) -> None:
    assert stack_label(numbers) == text


@given(st.sets(st.integers(1, 300), min_size=1, max_size=40))
def test_a_short_label_tells_first_and_last(numbers: set[int]) -> None:
    label = stack_label([str(n) for n in numbers])
    assert label.startswith(str(min(numbers)))
    assert str(max(numbers)) in label


def test_grounds_are_listed_or_stacked_by_the_librarys_style() -> None:
    assert len({(p.x, p.y) for p in drawn().units[0].pins}) == 9
    stacked = drawn(same_names="stacked")
    grounds = [p for p in stacked.units[0].pins if p.name == "GND"]
    assert [p.number for p in grounds] == ["4", "5", "6", "9"]
    assert len({(p.x, p.y) for p in grounds}) == 1
    # NC pins are no supplies, and stand each on its own.
    assert len({(p.x, p.y) for p in stacked.units[0].pins if p.name == "NC"}) == 2
    texts = [p.text for p in symbol_drawing(stacked, "").primitives if isinstance(p, Text) and p.role == "pin number"]
    assert "4–6, 9" in texts


def test_a_stacks_pin_is_long_enough_for_its_numbers() -> None:
    pins = tuple(Pin(str(n), "GND", "power input") for n in (101, 104, 107, 110, 113, 116))
    (unit,) = arrange(Symbol(id="", name="", pins=pins, measures=SymbolMeasures(same_names="stacked"))).units
    reach = unit.body[1] - unit.pins[0].y
    # Six numbers of three digits with commas and spaces: 28 characters of at most 0.95 × 0.95 mm.
    assert reach >= 28 * 0.95 * 0.95
    assert reach / 2.54 == pytest.approx(round(reach / 2.54))


def test_not_connected_pins_are_shown_or_only_listed() -> None:
    assert sum(p.type == "not connected" for p in drawn().units[0].pins) == 2
    listed = drawn(unconnected="listed")
    assert [p.number for p in listed.units[0].pins if p.type == "not connected"] == []
    assert listed.units[0].unconnected == ("3", "7")
    texts = [p.text for p in symbol_drawing(listed, "").primitives if isinstance(p, Text)]
    assert "not connected: 3, 7" in texts


def test_by_number_on_four_sides_runs_round_the_package() -> None:
    pins = tuple(Pin(str(n), f"P{n}") for n in range(1, 18))
    (unit,) = arrange(Symbol(id="", name="", pins=pins, arrangement="number", sides=4)).units
    sides = {side: [int(p.number) for p in on_side(unit, side)] for side in ("left", "bottom", "right", "top")}  # type: ignore[arg-type]
    # The seventeenth is the thermal pad of a package with sixteen leads.
    assert sides == {
        "left": [1, 2, 3, 4],
        "bottom": [5, 6, 7, 8, 17],
        "right": [12, 11, 10, 9],
        "top": [16, 15, 14, 13],
    }


@pytest.mark.parametrize(("style", "role"), [("circle", Disc), ("wedge", Line)])
def test_active_low_is_a_bar_a_circle_or_a_wedge(style: str, role: type) -> None:
    def shown(way: str) -> list[object]:
        pins = (Pin("1", "CS", "input", active_low=True), Pin("2", "Q", "output"))
        measures = SymbolMeasures(active_low=way)  # type: ignore[arg-type]
        symbol = arrange(Symbol(id="", name="", pins=pins, measures=measures))
        return list(unit_drawing(symbol, 0, "").primitives)

    assert [p.text for p in shown("bar") if isinstance(p, Text) and p.overbar] == ["CS"]
    assert not any(isinstance(p, Text) and p.overbar for p in shown(style))
    more = [p for p in shown(style) if isinstance(p, role)]
    assert len(more) == len([p for p in shown("bar") if isinstance(p, role)]) + 1


@pytest.mark.parametrize("shape", ["clock", "schmitt", "analogue", "tri-state", "open low", "open high"])
def test_a_shape_is_drawn_inside_and_the_name_makes_room(shape: str) -> None:
    def parts(kind: str) -> tuple[list[Line], float, float]:
        symbol = arrange(Symbol(id="", name="", pins=(Pin("1", "CP", "input", shape=kind), Pin("2", "Q", "output"))))
        primitives = unit_drawing(symbol, 0, "").primitives
        name = next(p for p in primitives if isinstance(p, Text) and p.text == "CP")
        lines = [p for p in primitives if isinstance(p, Line) and p.address == PinAddress("1")]
        return lines, name.at[0] - symbol.units[0].body[0], symbol.units[0].body[0]

    (marked, inset, x0), (plain, without, _) = parts(shape), parts("")
    assert len(marked) > len(plain)
    assert inset > without
    for line in marked[1:]:
        assert all(x0 - 1e-9 <= x <= x0 + inset for x, _ in line.points)


def test_types_are_marked_on_request() -> None:
    symbol = drawn()
    assert not any(getattr(p, "role", "") == "type mark" for p in symbol_drawing(symbol, "").primitives)
    with_types = symbol_drawing(symbol, "", types=True).primitives
    letters = [p.text for p in with_types if isinstance(p, Text) and p.role == "type mark text"]
    assert sorted(letters) == sorted("SINSSSSON")
    assert sum(isinstance(p, Area) and p.role == "type mark" for p in with_types) == 9


def test_what_is_shown_takes_the_place_of_the_name_and_gives_the_bodys_width() -> None:
    long, short = Pin("1", "A_NAME_OF_MANY_LETTERS", "input"), Pin("1", "A_NAME_OF_MANY_LETTERS", "input", shown="A")
    wide, narrow = (arrange(Symbol(id="", name="", pins=(pin,))).units[0] for pin in (long, short))
    assert wide.body[2] > narrow.body[2]
    assert narrow.pins[0].name == "A_NAME_OF_MANY_LETTERS"
    texts = [
        p.text
        for p in unit_drawing(arrange(Symbol(id="", name="", pins=(short,))), 0, "").primitives
        if isinstance(p, Text) and p.role == "pin name"
    ]
    assert texts == ["A"]
