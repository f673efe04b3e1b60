"""Pins that the user put elsewhere: where they stand, and what becomes of them when the table changes."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.model.symbol import Pin, PinMove, Side, Symbol, SymbolUnit
from eider.symbols.arrangement import arrange
from eider.symbols.pin_moves import SIDES, drop_at, lost_moves, move_pins, on_side, pin_before, take_back

NAMES = ("CLK", "DIN", "EN", "DOUT", "BUSY", "VDD", "GND")
TYPES = ("input", "input", "input", "output", "output", "power input", "power input")


def table(count: int = len(NAMES)) -> Symbol:
    pins = tuple(Pin(str(i), n, t) for i, (n, t) in enumerate(zip(NAMES[:count], TYPES[:count], strict=True), start=1))
    return arrange(Symbol(id="", name="", pins=pins))


def names(symbol: Symbol, side: Side) -> list[str]:
    return [pin.name for pin in on_side(symbol.units[0], side)]


def moved(symbol: Symbol, *numbers: str, side: Side, after: str = "", apart: bool = False) -> Symbol:
    return arrange(move_pins(symbol, numbers, side, after, apart=apart))


def test_a_pin_stands_behind_the_one_it_was_put_behind() -> None:
    symbol = moved(table(), "2", side="right", after="4")
    assert names(symbol, "left") == ["CLK", "EN"]
    assert names(symbol, "right") == ["DOUT", "DIN", "BUSY"]


def test_without_a_neighbour_it_is_the_first() -> None:
    assert names(moved(table(), "3", side="left"), "left") == ["EN", "CLK", "DIN"]


def test_several_pins_keep_the_order_in_which_they_are_put() -> None:
    assert names(moved(table(), "2", "1", side="top", after="6"), "top") == ["VDD", "DIN", "CLK"]


def test_apart_leaves_a_grid_on_both_sides() -> None:
    pins = on_side(moved(table(), "4", side="left", after="1", apart=True).units[0], "left")
    assert [pin.name for pin in pins] == ["CLK", "DOUT", "DIN", "EN"]
    assert [round((a.y - b.y) / 2.54) for a, b in itertools.pairwise(pins)] == [2, 2, 1]


def test_the_two_arrangements_have_moves_of_their_own() -> None:
    by_function = moved(table(), "2", side="right", after="4")
    by_number = arrange(Symbol(id="", name="", pins=by_function.pins, arrangement="number", moves=by_function.moves))
    assert names(by_number, "left") == ["CLK", "DIN", "EN", "DOUT"]


def test_a_move_survives_pins_that_come_and_pins_that_go() -> None:
    symbol = moved(table(), "2", side="right", after="4")
    more = arrange(Symbol(id="", name="", pins=(*symbol.pins, Pin("8", "IRQ", "output")), moves=symbol.moves))
    assert names(more, "right") == ["DOUT", "DIN", "BUSY", "IRQ"]
    assert lost_moves(more) == []
    fewer = arrange(Symbol(id="", name="", pins=tuple(p for p in symbol.pins if p.number != "4"), moves=symbol.moves))
    assert names(fewer, "right") == ["BUSY", "DIN"]
    assert [(move.pin, missing) for move, missing in lost_moves(fewer)] == [("2", "pin 4 on the right")]


def test_a_move_whose_pin_is_gone_is_kept_and_told() -> None:
    symbol = moved(table(), "2", side="right", after="4")
    without = arrange(Symbol(id="", name="", pins=tuple(p for p in symbol.pins if p.number != "2"), moves=symbol.moves))
    assert [(move.pin, missing) for move, missing in lost_moves(without)] == [("2", "pin 2")]


def test_where_a_neighbour_moves_on_the_one_before_it_takes_its_place() -> None:
    first = moved(table(), "2", side="right", after="4")
    second = moved(first, "4", side="left")
    assert lost_moves(second) == []
    assert names(second, "right") == ["DIN", "BUSY"]
    assert names(second, "left") == ["DOUT", "CLK", "EN"]


def test_taken_back_it_stands_where_it_stood() -> None:
    symbol = table()
    assert arrange(take_back(moved(symbol, "2", "3", side="right"), ("2", "3"))) == symbol


def test_the_pin_before_one() -> None:
    symbol = table()
    assert (pin_before(symbol, "3"), pin_before(symbol, "1"), pin_before(symbol, "99")) == ("2", "", "")


@given(st.lists(st.tuples(st.integers(1, 7), st.sampled_from(SIDES), st.integers(0, 7), st.booleans()), max_size=12))
def test_however_pins_are_moved_each_stands_once_and_gaps_are_one_grid(
    moves: list[tuple[int, Side, int, bool]],
) -> None:
    symbol = table()
    for number, side, after, apart in moves:
        symbol = moved(symbol, str(number), side=side, after=str(after) if after else "", apart=apart)
    (unit,) = symbol.units
    assert sorted(pin.number for pin in unit.pins) == sorted(pin.number for pin in symbol.pins)
    assert len({(pin.x, pin.y) for pin in unit.pins}) == len(unit.pins)
    assert len({move.pin for move in symbol.moves}) == len(symbol.moves)
    assert arrange(symbol) == symbol


UNIT = SymbolUnit((), (-10.16, -7.62, 10.16, 7.62))


@pytest.mark.parametrize(
    ("point", "side"),
    [((-15, 0), "left"), ((15, 0), "right"), ((0, 12), "top"), ((1, -12), "bottom"), ((9, 0), "right")],
)
def test_a_point_belongs_to_the_side_it_is_nearest_to(point: tuple[float, float], side: Side) -> None:
    assert drop_at(UNIT, point, 2.54).side == side


def test_a_drop_tells_the_pin_before_it_and_marks_the_place_between() -> None:
    unit = table().units[0]
    clk, din = on_side(unit, "left")[:2]
    drop = drop_at(unit, (clk.x, clk.y - 1.5), 2.54)
    assert (drop.side, drop.after, drop.apart) == ("left", "1", False)
    assert drop.mark[0][1] == pytest.approx((clk.y + din.y) / 2)
    first = drop_at(unit, (clk.x, clk.y + 1.0), 2.54)
    assert (first.after, first.mark[0][1]) == ("", pytest.approx(clk.y + 1.27))
    far = drop_at(unit, (clk.x, on_side(unit, "left")[-1].y - 5.2), 2.54)
    assert (far.after, far.apart) == ("3", True)


def test_moves_that_name_no_neighbour_are_written_without_one() -> None:
    assert PinMove("1", "function", "left") == PinMove("1", "function", "left", "", apart=False)
