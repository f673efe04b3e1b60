"""Slips in pin tables and in the drawings of symbols."""

from eider.commands.pins import symbol_edits
from eider.demo.flaws.changes import Flaw, pins_from, placed_pin, replace, undrawn, with_pin
from eider.model.bundle import Bundle
from eider.model.symbol import CustomGraphic, GraphicStroke, SymbolMeasures

BY_FILE = frozenset({"symbol.not-as-recipe"})
# The figure has what is lost in the table.
UNLIKE = frozenset({"match.unlike-figure"})
UNMATCHED = frozenset({"match.pad-without-pin"})


def _upon_the_first(bundle: Bundle) -> Bundle:
    first = bundle.symbol.units[0].pins[0]
    return placed_pin("9", x=first.x, y=first.y, side=first.side)(bundle)


FLAWS = (
    Flaw("symbol.no-pins", "an empty pin table", pins_from(lambda _pins: ())),
    Flaw(
        "symbol.number-duplicate",
        "a number typed twice",
        with_pin("9", number="10"),
        brings=UNMATCHED | UNLIKE | {"symbol.count-against-package"},
    ),
    Flaw(
        "symbol.count-against-package",
        "the last row of the table lost",
        pins_from(lambda pins: pins[:-1]),
        brings=UNMATCHED | UNLIKE,
    ),
    Flaw(
        "symbol.column-wrong-kind",
        "a word where a length is wanted",
        with_pin("9", more={"Package length": "short"}),
    ),
    Flaw("symbol.name-missing", "a number without a name", with_pin("9", name="")),
    Flaw("symbol.type-undecided", "a type that nobody has settled", with_pin("9", type="undecided")),
    Flaw("symbol.type-assumed", "a type guessed from the name", with_pin("9", assumed=True)),
    Flaw("symbol.active-low-name", "active low written into the name", with_pin("9", name="PWRDN#", active_low=False)),
    Flaw("symbol.characters", "a space in a name", with_pin("9", name="POWER DOWN"), brings=UNLIKE),
    Flaw("symbol.active-low-odd", "a supply marked active low", with_pin("1", active_low=True)),
    Flaw("symbol.pin-off-grid", "a pin off the grid", placed_pin("9", x=-13.0), stored=True, brings=BY_FILE),
    Flaw("symbol.pins-meet", "two pins at one place", _upon_the_first, stored=True, brings=BY_FILE),
    Flaw(
        "symbol.supply-hidden",
        "supplies that are not drawn",
        undrawn(lambda pin: pin.type == "power input"),
        stored=True,
        brings=BY_FILE,
    ),
    Flaw("symbol.unit-empty", "a unit without pins", undrawn(lambda _pin: True), stored=True, brings=BY_FILE),
    Flaw("symbol.pin-off-body", "a pin that hangs in the air", placed_pin("9", y=203.2), stored=True, brings=BY_FILE),
    Flaw(
        "symbol.texts-overlap",
        "names that run into each other",
        placed_pin("9", name="A_NAME_MUCH_LONGER_THAN_ANY_BODY_IS_WIDE"),
        stored=True,
        brings=BY_FILE,
    ),
    Flaw("symbol.not-as-recipe", "a name changed in the drawing alone", placed_pin("9", name="OTHER"), stored=True),
    Flaw(
        "symbol.move-lost",
        "a pin moved behind one that is gone",
        lambda b: symbol_edits.put_pins(b, ["9"], "left", "99"),
    ),
    Flaw(
        "symbol.custom-graphic",
        "a line with one end",
        lambda b: symbol_edits.set_custom_graphic(b, CustomGraphic({}, (GraphicStroke("line", "0,0 1"),))),
    ),
    Flaw(
        "symbol.other-style",
        "drawn on another grid than the library's",
        lambda b: replace(b, symbol=replace(b.symbol, measures=SymbolMeasures(grid=2.5))),
    ),
    Flaw(
        "symbol.graphic-unfit",
        "a graphic for two pins on sixteen",
        lambda b: replace(b, symbol=replace(b.symbol, graphic="capacitor")),
    ),
    Flaw(
        "symbol.reference-letter",
        "the letter of another class",
        lambda b: replace(b, symbol=replace(b.symbol, reference="Q")),
    ),
    Flaw("symbol.side-unusual", "an input on the right", lambda b: symbol_edits.put_on_side(b, ["9"], "right")),
)
