"""Own graphics: rows of places with sums, and a clear word for each row that cannot be drawn."""

import pytest

from eider.model.symbol import CustomGraphic, GraphicStroke, Pin, Symbol
from eider.symbols.arrangement import arrange
from eider.symbols.custom_graphic import custom_from_graphic, custom_graphic_faults, graphic_of
from eider.symbols.graphics import find_graphic

BUZZ = CustomGraphic(
    {"w": "4", "h": "w/2 + 1"},
    (
        GraphicStroke("area", "-w/2,-h/2 w/2,-h/2 w/2,h/2 -w/2,h/2"),
        GraphicStroke("arc", "0,0 h/3 0 180"),
        GraphicStroke("line", "-w/2-1,0 -w/2,0"),
        GraphicStroke("line", "w/2,0 w/2+1,0"),
        GraphicStroke("dot", "0,-1 0.1"),
        GraphicStroke("text", "0,0.5 ".strip(), "BZ"),
        GraphicStroke("pin", "-w/2-1,0", "A"),
        GraphicStroke("pin", "w/2+1,0", "B"),
    ),
)


def symbol(custom: CustomGraphic) -> Symbol:
    return arrange(Symbol(id="", name="", graphic="custom", custom=custom, pins=(Pin("1", "A"), Pin("2", "B"))))


def test_sums_are_worked_out_in_grids() -> None:
    assert custom_graphic_faults(BUZZ) == ()
    graphic = graphic_of(symbol(BUZZ), "custom")
    assert graphic
    assert graphic.pins == (((-3.0, 0.0), "A"), ((3.0, 0.0), "B"))
    assert graphic.shapes[0].outline == ((-2, -1.5), (2, -1.5), (2, 1.5), (-2, 1.5))
    assert graphic.texts == (((0.0, 0.5), "BZ"),)
    (unit,) = symbol(BUZZ).units
    assert (unit.graphic, [(p.name, p.x) for p in unit.pins]) == ("custom", [("A", -7.62), ("B", 7.62)])


def test_another_length_changes_all_that_uses_it() -> None:
    wider = CustomGraphic({**BUZZ.lengths, "w": "6"}, BUZZ.strokes)
    (unit,) = symbol(wider).units
    assert [p.x for p in unit.pins] == [-10.16, 10.16]
    assert unit.body[3] == pytest.approx(2.0 * 2.54)


@pytest.mark.parametrize(
    ("stroke", "word"),
    [
        (GraphicStroke("line", "0,0"), "2 or more places"),
        (GraphicStroke("pin", "0.5,0", "A"), "whole grids"),
        (GraphicStroke("pin", "0,0"), "needs a name"),
        (GraphicStroke("text", "0,0"), "needs a text"),
        (GraphicStroke("circle", "0,0"), "a place and radius"),
        (GraphicStroke("circle", "0,0 0"), "above zero"),
        (GraphicStroke("arc", "0,0 1 90 0"), "go up"),
        (GraphicStroke("area", "0,0 1,0"), "3 or more"),
        (GraphicStroke("line", "0,0 1"), "not a point"),
        (GraphicStroke("line", "0,0 q,1"), "known letter"),
        (GraphicStroke("line", "0,0 900,1"), "grids away"),
        (GraphicStroke("blob", "0,0"), "choose one of pin"),
    ],
)
def test_a_row_that_cannot_be_drawn_is_told_and_a_box_stands_in_its_place(stroke: GraphicStroke, word: str) -> None:
    custom = CustomGraphic(BUZZ.lengths, (*BUZZ.strokes, stroke))
    (fault,) = custom_graphic_faults(custom)
    assert fault.row == len(BUZZ.strokes) + 1
    assert word in fault.message
    assert symbol(custom).units[0].graphic == ""


def test_a_length_that_cannot_be_read_is_told() -> None:
    assert "w:" in custom_graphic_faults(CustomGraphic({"w": "4 +"}, BUZZ.strokes))[0].message
    assert "no pin" in custom_graphic_faults(CustomGraphic({}, (GraphicStroke("line", "0,0 1,1"),)))[0].message


@pytest.mark.parametrize("key", ["", "resistor", "npn", "transformer/1|0,0", "op-amp"])
def test_it_begins_with_what_was_drawn_before(key: str) -> None:
    custom = custom_from_graphic(find_graphic(key) if key else None)
    assert custom_graphic_faults(custom) == ()
    graphic = graphic_of(Symbol(id="", name="", graphic="custom", custom=custom), "custom")
    assert graphic
    before = find_graphic(key)
    if before:
        assert graphic.pins == before.pins
        assert sorted(s.outline for s in graphic.shapes) == sorted(s.outline for s in before.shapes)
