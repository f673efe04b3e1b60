"""Standard graphics: on the grid, with the proportions of the standard, in both forms."""

import math

import pytest

from eider.commands.parts import new_parts
from eider.commands.pins import symbol_edits
from eider.demo.data import printed_pins
from eider.drawings.primitives import Area, Line
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import InputError
from eider.library import Library
from eider.model.symbol import Pin, Symbol, SymbolMeasures
from eider.symbols.arrangement import arrange
from eider.symbols.graphics import FORMS, all_graphics, find_graphic, graphic_pins, has_forms
from eider.symbols.pin_shapes import Graphic
from eider.symbols.unit_splitting import split_equal


def outlines(graphic: Graphic, kind: str) -> list[tuple[tuple[float, float], ...]]:
    return [shape.outline for shape in graphic.shapes if shape.kind == kind]


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("key", list(all_graphics()))
def test_every_graphic_has_its_pins_on_the_grid_outside_its_body(key: str, form: str) -> None:
    graphic = all_graphics(form)[key]  # type: ignore[arg-type]
    ends = [end for end, _ in graphic.pins]
    assert ends
    assert len(set(ends)) == len(ends)
    assert all(x == round(x) and y == round(y) for x, y in ends)
    x0, y0, x1, y1 = graphic.body
    for x, y in ends:
        assert not (x0 < x < x1 and y0 < y < y1)
        assert any((x, y) in line for line in outlines(graphic, "line")), f"nothing is drawn to the pin at {x}, {y}"
    assert [name for _, name in graphic.pins] == [name for _, name in all_graphics("iec")[key].pins]


@pytest.mark.parametrize("key", list(all_graphics()))
def test_every_graphic_makes_a_symbol_that_can_be_drawn(key: str) -> None:
    symbol = arrange(Symbol(id="", name=key, graphic=key, pins=graphic_pins(key)))
    assert symbol.units[0].graphic == key
    drawn = symbol_drawing(symbol, "value").primitives
    assert any(isinstance(p, Line | Area) and p.role.startswith("symbol") for p in drawn)


def test_proportions_are_those_of_the_standard() -> None:
    iec = all_graphics("iec")
    (rectangle,) = outlines(iec["resistor"], "area")
    wide = max(x for x, _ in rectangle) - min(x for x, _ in rectangle)
    high = max(y for _, y in rectangle) - min(y for _, y in rectangle)
    assert wide / high == pytest.approx(3.0)
    plates = [line for line in outlines(iec["capacitor"], "line") if line[0][0] == line[1][0]]
    gap, length = abs(plates[0][0][0] - plates[1][0][0]), abs(plates[0][0][1] - plates[0][1][1])
    assert gap / length == pytest.approx(0.25)
    (triangle,) = outlines(iec["diode"], "area")
    sides = [math.dist(a, b) for a, b in zip(triangle, (*triangle[1:], triangle[0]), strict=True)]
    assert max(sides) / min(sides) == pytest.approx(1.0, abs=0.01)
    arcs = [line for line in outlines(iec["inductor"], "line") if len(line) > 3]
    assert len(arcs) == 4


def test_forms_differ_where_the_standards_do() -> None:
    assert has_forms("resistor")
    assert has_forms("nand")
    assert not has_forms("diode")
    assert outlines(all_graphics("ieee")["resistor"], "area") == []


def test_a_negation_is_a_circle_over_the_line() -> None:
    kinds = [shape.kind for shape in all_graphics("iec")["nand"].shapes]
    assert kinds[-1] == "area"


BUILT = {
    "connector-pins/1x5": 5, "connector-sockets/2x10": 20, "connector-pins/2x4-shield": 9, "transformer/0|0": 4,
    "transformer/1|0,0": 7, "transformer/0,1|2": 9, "and/3": 4, "nor/8": 9, "xnor/2": 3, "resistors/4": 8,
    "resistors-common/8": 9, "op-amp/2": 6, "op-amp/1-supply": 5, "comparator/4-supply": 14, "optocoupler/4": 16,
    "connector-pins/3x5": 15, "connector-sockets/4x2-key-shield": 9, "diode/2": 4,
}  # fmt: skip


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("key", list(BUILT))
def test_graphics_are_built_in_any_number(key: str, form: str) -> None:
    graphic = find_graphic(key, form)  # type: ignore[arg-type]
    assert graphic is not None
    ends = [end for end, _ in graphic.pins]
    assert len(ends) == len(set(ends)) == BUILT[key]
    assert all(x == round(x) and y == round(y) for x, y in ends)
    assert all(any(end in line for line in outlines(graphic, "line")) for end in ends)
    symbol = arrange(Symbol(id="", name=key, graphic=key, measures=SymbolMeasures(form=form), pins=graphic_pins(key)))  # type: ignore[arg-type]
    assert symbol.units[0].graphic == key


@pytest.mark.parametrize(
    "key",
    [
        "connector-pins/0x5",
        "connector-pins/9x5",
        "diode/2-supply",
        "op-amp/99",
        "op-amp/1",
        "connector-pins/1x9999",
        "transformer/1",
        "transformer/99|0",
        "and/1",
        "and/x",
        "resistors/1",
        "unheard-of/3",
        "and/",
        "/3",
    ],
)
def test_what_no_builder_knows_is_no_graphic(key: str) -> None:
    assert find_graphic(key) is None


def test_a_connector_has_a_contact_for_each_way_in_rows_of_its_own() -> None:
    graphic = find_graphic("connector-pins/2x3")
    assert graphic is not None
    # Row by row across: 1 and 2 face each other.
    assert [(end[0] < 0, name) for end, name in graphic.pins] == [
        (True, "1"),
        (False, "2"),
        (True, "3"),
        (False, "4"),
        (True, "5"),
        (False, "6"),
    ]
    assert len(outlines(graphic, "solid")) == 6


def test_channels_stand_below_each_other_and_their_supply_above_and_below() -> None:
    graphic = find_graphic("op-amp/2-supply")
    assert graphic is not None
    # The triangle is 3.8 grids high: the next whole number is the pitch.
    assert graphic.pins == (
        ((-3, 1), "1IN+"),
        ((-3, -1), "1IN-"),
        ((3, 0), "1OUT"),
        ((-3, -3), "2IN+"),
        ((-3, -5), "2IN-"),
        ((3, -4), "2OUT"),
        ((0, 3), "V+"),
        ((0, -7), "V-"),
    )


def test_further_rows_of_a_connector_stand_below_and_a_key_is_a_notch() -> None:
    graphic = find_graphic("connector-pins/3x2-key")
    assert graphic is not None
    assert graphic.pins == (
        ((-3, 0), "1"),
        ((3, 0), "2"),
        ((-3, -3), "3"),
        ((-3, -1), "4"),
        ((3, -1), "5"),
        ((-3, -4), "6"),
    )
    assert len(outlines(graphic, "area")[0]) == 8


def test_four_gates_are_four_shapes_and_a_box_for_the_supply() -> None:
    pins = split_equal([Pin(p.number, p.name, p.type) for p in printed_pins("nvk-4gt")])
    symbol = arrange(Symbol(id="", name="gates", graphic="nand", pins=tuple(pins)))
    assert [unit.graphic for unit in symbol.units] == ["nand", "nand", "nand", "nand", ""]
    third = {pin.name: (pin.x, pin.y) for pin in symbol.units[2].pins}
    first = {pin.name: (pin.x, pin.y) for pin in symbol.units[0].pins}
    # Pin 8 comes before 9 and 10, and is the output all the same.
    assert (third["3A"], third["3B"], third["3Y"]) == (first["1A"], first["1B"], first["1Y"])


@pytest.mark.parametrize("key", ["diode", "unheard-of"])
def test_pins_that_do_not_fit_give_a_box(key: str) -> None:
    (unit,) = arrange(Symbol(id="", name="", graphic=key, pins=(Pin("1"),))).units
    assert unit.graphic == ""


def test_a_part_takes_a_graphic_with_its_pins(library: Library) -> None:
    part = new_parts.new_part("NVK-N2S", "ic", library.settings)
    drawn = symbol_edits.set_graphic(part, "nmos")
    assert [(p.number, p.name) for p in drawn.symbol.pins] == [("1", "G"), ("2", "D"), ("3", "S")]
    other = symbol_edits.set_graphic(drawn, "pmos", "ieee")
    assert (other.symbol.graphic, other.symbol.measures.form, len(other.symbol.pins)) == ("pmos", "ieee", 3)
    assert symbol_edits.set_graphic(other, "").symbol.graphic == ""
    with pytest.raises(InputError, match="a diode has 2 pins, the table 3"):
        symbol_edits.set_graphic(drawn, "diode")
    with pytest.raises(InputError, match="no standard graphic"):
        symbol_edits.set_graphic(part, "unheard-of")
