"""Changes to the symbol and its table: moved, shifted, split, pasted, grouped; nothing else changes with them."""

import itertools

import pytest
from msgspec.structs import replace

from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.parts.shared_items import make_exclusive
from eider.commands.pins import pin_edits, symbol_edits
from eider.commands.pins.pin_cells import BY_FIELD, confidence, draw_next_function, paste_cells
from eider.commands.pins.pin_drag import begin_pin_drag, drop_pins
from eider.commands.pins.pin_edits import group_pins, join_group, move_rows
from eider.errors import InputError
from eider.library import Library
from eider.model.bundle import Bundle
from eider.model.symbol import Pin, Side
from eider.rulebooks import standard_rulebook
from eider.symbols.pin_moves import on_side

ROWS = (
    ("1", "CLK", "input", "bus"), ("2", "DIN", "input", "bus"), ("3", "EN", "input", ""),
    ("4", "DOUT", "output", "bus"),
    ("5", "BUSY", "output", ""), ("6", "VDD", "power input", ""), ("7", "GND", "power input", ""),
)  # fmt: skip


@pytest.fixture
def part(library: Library) -> Bundle:
    bundle = new_parts.new_part("NVK-T7", "ic", library.settings)
    pins = [Pin(number, name, kind, group=group) for number, name, kind, group in ROWS]
    return made(pin_edits.set_pin_table(bundle, pins))


def made(bundle: Bundle) -> Bundle:
    return rerun_recipes(bundle, standard_rulebook())


def names(bundle: Bundle, side: Side, unit: int = 0) -> list[str]:
    return [pin.name for pin in on_side(made(bundle).symbol.units[unit], side)]


def test_put_on_a_side_one_after_the_other_they_stand_together(part: Bundle) -> None:
    once = made(symbol_edits.put_on_side(part, ["3"], "right"))
    twice = made(symbol_edits.put_on_side(once, ["1"], "right"))
    assert names(twice, "right") == ["DOUT", "BUSY", "EN", "CLK"]
    heights = [pin.y for pin in on_side(twice.symbol.units[0], "right")]
    # Groups and the moved ones are apart by two grids, the moved ones by one.
    assert [round((a - b) / 2.54) for a, b in itertools.pairwise(heights)] == [2, 2, 1]
    assert names(symbol_edits.put_on_side(twice, ["3", "1"], None), "left") == names(part, "left")


@pytest.mark.parametrize(
    ("step", "order"), [(-1, ["DIN", "CLK", "EN"]), (1, ["CLK", "EN", "DIN"]), (-5, ["DIN", "CLK", "EN"])]
)
def test_a_pin_goes_up_or_down_on_its_side(part: Bundle, step: int, order: list[str]) -> None:
    assert names(symbol_edits.shift_pins(part, ["2"], step), "left") == order


def test_pins_of_two_sides_cannot_go_up_together(part: Bundle) -> None:
    with pytest.raises(InputError, match="one side"):
        symbol_edits.shift_pins(part, ["1", "4"], 1)


def test_behind_another_pin_by_its_number(part: Bundle) -> None:
    assert names(symbol_edits.put_behind(part, "3", "4"), "right") == ["DOUT", "EN", "BUSY"]
    assert names(symbol_edits.put_behind(part, "3", "first"), "left") == ["EN", "CLK", "DIN"]
    assert symbol_edits.put_behind(symbol_edits.put_behind(part, "3", "4"), "3", "") == part
    with pytest.raises(InputError, match="cannot be placed after"):
        symbol_edits.put_behind(part, "3", "99")


def test_a_move_follows_a_pin_that_gets_another_number(part: Bundle) -> None:
    moved = symbol_edits.put_behind(part, "3", "4")
    renumbered = pin_edits.change_pin(moved, 2, replace(moved.symbol.pins[2], number="33"))
    renumbered = pin_edits.change_pin(renumbered, 3, replace(renumbered.symbol.pins[3], number="44"))
    assert [(m.pin, m.after) for m in renumbered.symbol.moves] == [("33", "44")]


def test_all_moves_are_taken_back_but_those_of_the_other_arrangement(part: Bundle) -> None:
    both = symbol_edits.put_behind(part, "3", "4")
    both = made(symbol_edits.set_arrangement(both, "number"))
    both = symbol_edits.put_behind(both, "1", "7")
    assert len(both.symbol.moves) == 2
    assert [m.arrangement for m in symbol_edits.take_moves_back(both).symbol.moves] == ["function"]


def test_names_are_taken_apart_by_hand(part: Bundle) -> None:
    bundle = pin_edits.set_pin_table(part, [Pin("1", "PB3|SPI_SCK|TIM2_CH2"), Pin("2", "nRST|PA0"), Pin("3", "CLK")])
    split = symbol_edits.split_alternatives(bundle, [0, 1, 2], "|").symbol.pins
    assert [(p.name, p.alternatives, p.active_low) for p in split] == [
        ("PB3", ("SPI_SCK", "TIM2_CH2"), False),
        ("RST", ("PA0",), True),
        ("CLK", (), False),
    ]
    with pytest.raises(InputError, match="none of the selected pins"):
        symbol_edits.split_alternatives(bundle, [2], "/")


def test_the_next_function_is_drawn_and_after_the_last_the_name(part: Bundle) -> None:
    bundle = pin_edits.set_pin_table(part, [Pin("1", "PB3", alternatives=("SCK", "CH2"))])
    drawn = []
    for _ in range(3):
        bundle = draw_next_function(bundle, [0])
        drawn.append(bundle.symbol.pins[0].drawn)
    assert drawn == ["SCK", "CH2", "PB3"]
    with pytest.raises(InputError, match="other functions"):
        draw_next_function(part, [0])


def test_cells_are_pasted_from_one_on_and_a_bad_one_changes_nothing(part: Bundle) -> None:
    fields = ("type", "assumed", "active_low")
    pasted = paste_cells(part, 1, fields, [["output", "assumed", "yes"], ["tri-state", "", ""]]).symbol.pins
    assert [(p.type, p.assumed, p.active_low) for p in pasted[1:3]] == [
        ("output", True, True),
        ("tri-state", False, False),
    ]
    assert (pasted[0], pasted[3]) == (part.symbol.pins[0], part.symbol.pins[3])
    assert len(paste_cells(part, 6, ("name",), [["A"], ["B"], ["C"]]).symbol.pins) == 7
    with pytest.raises(InputError, match="not an electrical type"):
        paste_cells(part, 0, fields, [["sideways"]])


def test_what_is_typed_into_a_cell() -> None:
    pin = Pin("1")
    assert BY_FIELD["name"].put(pin, " SCL ") == Pin("1", "SCL", "input", assumed=True)
    assert BY_FIELD["alternatives"].put(pin, "A, B,").alternatives == ("A", "B")
    assert BY_FIELD["shape"].put(pin, "clock").shape == "clock"
    with pytest.raises(InputError, match="not a pin shape"):
        BY_FIELD["shape"].put(pin, "round")


def test_a_guess_shows_how_sure_it_is() -> None:
    assert confidence(BY_FIELD["name"].put(Pin("1"), "GND")) == "assumed 90%"
    assert confidence(Pin("1", "GND", "output", assumed=True)) == "assumed"
    assert confidence(Pin("1", "GND", "power input")) == ""


def test_rows_take_a_group_or_another_place(part: Bundle) -> None:
    assert [p.group for p in join_group(part, [2, 4], 0).symbol.pins] == ["bus", "bus", "bus", "bus", "bus", "", ""]
    with pytest.raises(InputError, match="has no group yet"):
        join_group(part, [0], 2)
    assert [p.number for p in move_rows(part, [0, 3], 3).symbol.pins] == ["2", "3", "1", "4", "5", "6", "7"]
    assert next(p.number for p in move_rows(part, [5], 0).symbol.pins) == "6"


def test_groups_by_bank(part: Bundle) -> None:
    bundle = pin_edits.set_pin_table(part, [Pin("1", "IO_L1_34"), Pin("2", "IO_L2_34"), Pin("3", "TDI")])
    assert [p.group for p in group_pins(bundle, [0, 1, 2], "bank").symbol.pins] == ["bank 34", "bank 34", ""]


def test_pins_dragged_to_another_unit_belong_to_it(part: Bundle) -> None:
    split = made(symbol_edits.split_units(part, "supply"))
    drag = begin_pin_drag(split.symbol, "NVK-T7", ["3"], None)
    dx, dy = drag.offsets[1]
    supply = split.symbol.units[1]
    place = drag.place(dx + supply.body[0] - 3, dy)
    assert place
    assert (place.unit, place.drop.side) == (1, "left")
    moved = made(drop_pins(split, ["3"], place))
    assert [p.unit for p in moved.symbol.pins if p.number == "3"] == ["B"]
    assert names(moved, "left", 1) == ["EN"]


def test_on_graphics_nothing_can_be_dropped(library: Library) -> None:
    chip = made(new_parts.new_part("C", "capacitor", library.settings))
    assert begin_pin_drag(chip.symbol, "C", ["1"], 0).place(0, 0) is None


def test_a_symbol_of_its_own_has_another_id_and_no_revision(part: Bundle) -> None:
    shared = replace(part, part=replace(part.part, symbol=replace(part.part.symbol, revision=3)))
    own = make_exclusive(shared, "symbol")
    assert own.symbol.id != shared.symbol.id
    assert (own.part.symbol.id, own.part.symbol.revision) == (own.symbol.id, None)


def test_an_own_drawing_begins_with_the_graphic_and_keeps_its_name_from_the_part(library: Library) -> None:
    drawn = made(symbol_edits.set_graphic(new_parts.new_part("BRM-X", "capacitor", library.settings), "custom"))
    assert drawn.symbol.custom
    assert drawn.symbol.units[0].graphic == "custom"
    assert drawn.symbol.name == "BRM-X"
