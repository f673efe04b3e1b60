"""Own graphics: rows of places with sums, and a clear word for each row that cannot be drawn."""

import pytest

from eider.model.symbol import OwnGraphic, Pin, Stroke, Symbol
from eider.symbols.arrangement import arrange
from eider.symbols.custom_graphic import graphic_of, own_faults, own_from
from eider.symbols.graphics import find_graphic

BUZZ = OwnGraphic(
    {"w": "4", "h": "w/2 + 1"},
    (
        Stroke("area", "-w/2,-h/2 w/2,-h/2 w/2,h/2 -w/2,h/2"),
        Stroke("arc", "0,0 h/3 0 180"),
        Stroke("line", "-w/2-1,0 -w/2,0"),
        Stroke("line", "w/2,0 w/2+1,0"),
        Stroke("dot", "0,-1 0.1"),
        Stroke("text", "0,0.5 ".strip(), "BZ"),
        Stroke("pin", "-w/2-1,0", "A"),
        Stroke("pin", "w/2+1,0", "B"),
    ),
)


def symbol(own: OwnGraphic) -> Symbol:
    return arrange(Symbol(id="", name="", graphic="own", own=own, pins=(Pin("1", "A"), Pin("2", "B"))))


def test_sums_are_worked_out_in_grids() -> None:
    assert own_faults(BUZZ) == ()
    graphic = graphic_of(symbol(BUZZ), "own")
    assert graphic
    assert graphic.pins == (((-3.0, 0.0), "A"), ((3.0, 0.0), "B"))
    assert graphic.shapes[0].outline == ((-2, -1.5), (2, -1.5), (2, 1.5), (-2, 1.5))
    assert graphic.texts == (((0.0, 0.5), "BZ"),)
    (unit,) = symbol(BUZZ).units
    assert (unit.graphic, [(p.name, p.x) for p in unit.pins]) == ("own", [("A", -7.62), ("B", 7.62)])


def test_another_length_changes_all_that_uses_it() -> None:
    wider = OwnGraphic({**BUZZ.lengths, "w": "6"}, BUZZ.strokes)
    (unit,) = symbol(wider).units
    assert [p.x for p in unit.pins] == [-10.16, 10.16]
    assert unit.body[3] == pytest.approx(2.0 * 2.54)


@pytest.mark.parametrize(
    ("stroke", "word"),
    [
        (Stroke("line", "0,0"), "2 or more places"),
        (Stroke("pin", "0.5,0", "A"), "whole grids"),
        (Stroke("pin", "0,0"), "needs a name"),
        (Stroke("text", "0,0"), "needs a text"),
        (Stroke("circle", "0,0"), "a place and radius"),
        (Stroke("circle", "0,0 0"), "above zero"),
        (Stroke("arc", "0,0 1 90 0"), "go up"),
        (Stroke("area", "0,0 1,0"), "3 or more"),
        (Stroke("line", "0,0 1"), "no place"),
        (Stroke("line", "0,0 q,1"), "known letter"),
        (Stroke("line", "0,0 900,1"), "grids away"),
        (Stroke("blob", "0,0"), "none of pin"),
    ],
)
def test_a_row_that_cannot_be_drawn_is_told_and_a_box_stands_in_its_place(stroke: Stroke, word: str) -> None:
    own = OwnGraphic(BUZZ.lengths, (*BUZZ.strokes, stroke))
    (fault,) = own_faults(own)
    assert fault.row == len(BUZZ.strokes) + 1
    assert word in fault.message
    assert symbol(own).units[0].graphic == ""


def test_a_length_that_cannot_be_read_is_told() -> None:
    assert "w:" in own_faults(OwnGraphic({"w": "4 +"}, BUZZ.strokes))[0].message
    assert "no pin" in own_faults(OwnGraphic({}, (Stroke("line", "0,0 1,1"),)))[0].message


@pytest.mark.parametrize("key", ["", "resistor", "npn", "transformer/1|0,0", "op-amp"])
def test_it_begins_with_what_was_drawn_before(key: str) -> None:
    own = own_from(find_graphic(key) if key else None)
    assert own_faults(own) == ()
    graphic = graphic_of(Symbol(id="", name="", graphic="own", own=own), "own")
    assert graphic
    before = find_graphic(key)
    if before:
        assert graphic.pins == before.pins
        assert sorted(s.outline for s in graphic.shapes) == sorted(s.outline for s in before.shapes)
