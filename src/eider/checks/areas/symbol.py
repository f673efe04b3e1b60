"""Checks of the symbol as it is drawn."""

from collections.abc import Iterator, Sequence

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.model.address import FieldAddress, PinAddress, pin_number
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.symbol import PlacedPin, SymbolMeasures
from eider.model.wording import counted
from eider.symbols.arrangement import arrange
from eider.symbols.custom_graphic import CUSTOM, custom_graphic_faults
from eider.symbols.pin_moves import lost_moves, take_back
from eider.symbols.symbol_style import style_of
from eider.symbols.unit_splitting import SUPPLY_TYPES

replace = msgspec.structs.replace


def _arrange_again(view: PartUnderCheck, _finding: Finding) -> Bundle:
    return replace(view.bundle, symbol=arrange(view.bundle.symbol))


@check("symbol.pin-off-grid", Severity.BLOCKER, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def pin_off_grid(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every connection end is on the grid.

    A wire drawn to a pin off the grid looks connected and is not.
    """
    grid = view.bundle.symbol.measures.grid
    for unit in view.bundle.symbol.units:
        for pin in unit.pins:
            off = max(abs(v / grid - round(v / grid)) for v in (pin.x, pin.y)) * grid
            if off > 1e-6:
                message = f"pin {pin.number} is off the connection grid"
                yield CheckHit(PinAddress(pin.number), message, f"{off:.4f} mm", f"a multiple of {grid} mm")


@check("symbol.pins-meet", Severity.BLOCKER, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def pins_meet(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No two connection ends are at one place, save those of one name that the library stacks.

    They would be connected by being drawn.
    """
    stacks = view.bundle.symbol.measures.same_names == "stacked"
    for unit in view.bundle.symbol.units:
        places: dict[tuple[float, float], PlacedPin] = {}
        for pin in unit.pins:
            other = places.setdefault((pin.x, pin.y), pin)
            if other.number != pin.number and not (stacks and (other.drawn, other.type) == (pin.drawn, pin.type)):
                message = f"pins {other.number} and {pin.number} are drawn at the same point"
                yield CheckHit(PinAddress(pin.number), message, f"({pin.x:g}, {pin.y:g}) mm", "two places")


@check("symbol.supply-hidden", Severity.BLOCKER, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def supply_hidden(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every supply pin of the table is drawn.

    A supply that nobody sees on the sheet is connected to the wrong net, or to none.
    """
    drawn = {pin.number for unit in view.bundle.symbol.units for pin in unit.pins}
    for pin in view.bundle.symbol.pins if drawn else ():
        if pin.type in SUPPLY_TYPES and pin.number not in drawn:
            yield CheckHit(
                PinAddress(pin.number), f"supply pin {pin.number} {pin.name} is not drawn", "hidden", "drawn"
            )


@check("symbol.unit-empty", Severity.CAUTION, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def unit_empty(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every unit has pins.

    An empty one is placed and forgotten, and the part seems to have one unit more than it has.
    """
    for unit in view.bundle.symbol.units:
        if not unit.pins:
            yield CheckHit(FieldAddress("symbol"), f"unit {unit.name or '1'} has no pins", "0 pins", "one or more")


def _take_move_back(view: PartUnderCheck, finding: Finding) -> Bundle:
    symbol = view.bundle.symbol
    return replace(view.bundle, symbol=take_back(symbol, (pin_number(finding.address),)))


@check("symbol.move-lost", Severity.CAUTION, reads=("symbol",), quick_fix=QuickFix("Undo the move", _take_move_back))
def move_lost(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Pins that were moved by hand still find their place.

    The table changed since: what is meant must be said again.
    """
    for move, missing in lost_moves(view.bundle.symbol):
        wanted = f"{move.side}, behind pin {move.after}" if move.after else f"{move.side}, first"
        message = f"pin {move.pin} was moved by hand ({wanted}), but there is no {missing}"
        yield CheckHit(PinAddress(move.pin), message, f"no {missing}", wanted)


@check("symbol.custom-graphic", Severity.BLOCKER, reads=("symbol",))
def own_drawing(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A custom graphic can be drawn, and has a point for every pin.

    Until then a box is in its place.
    """
    symbol = view.bundle.symbol
    if symbol.graphic != CUSTOM or symbol.custom is None:
        return
    for fault in custom_graphic_faults(symbol.custom):
        where = f"row {fault.row}: " if fault.row else ""
        yield CheckHit(FieldAddress("symbol", "custom"), f"custom graphic: {where}{fault.message}")


@check("symbol.not-as-recipe", Severity.CAUTION, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def not_as_recipe(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The stored drawing of the symbol is what its pin table gives.

    It was changed in the file, or the table was, after the drawing was made.
    """
    symbol = view.bundle.symbol
    fresh = view.results.units if view.results is not None else arrange(symbol).units
    if symbol.pins and fresh != symbol.units:
        yield CheckHit(
            FieldAddress("symbol"),
            "the stored symbol differs from what its pin table gives",
            "differs",
            "the recipe's result",
        )


def _as_library(view: PartUnderCheck, _finding: Finding) -> Bundle:
    symbol = view.bundle.symbol
    return replace(view.bundle, symbol=replace(symbol, measures=view.settings.symbols))


@check(
    "symbol.other-style",
    Severity.CAUTION,
    reads=("symbol", "settings"),
    quick_fix=QuickFix("Use the library's style", _as_library),
)
def other_style(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The symbol is drawn on the library's grid, with its lengths and in its form.

    Two grids in one library meet on one sheet, and their ends do not.
    """
    own, wanted = view.bundle.symbol.measures, view.settings.symbols
    differing = [name for name in own.__struct_fields__ if getattr(own, name) != getattr(wanted, name)]
    if differing:
        told = (_in_words(own, differing), _in_words(wanted, differing))
        yield CheckHit(FieldAddress("symbol"), "the symbol is not drawn in the library's style", *told)


def _in_words(measures: SymbolMeasures, names: Sequence[str]) -> str:
    return ", ".join(f"{name.replace('_', ' ')} {getattr(measures, name)}" for name in names)


@check("symbol.graphic-unfit", Severity.CAUTION, reads=("symbol",))
def graphic_unfit(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A standard graphic that was chosen can be drawn with the pins there are.

    Where it cannot, a plain box is in its place.
    """
    symbol = view.bundle.symbol
    if symbol.graphic == CUSTOM and symbol.custom and custom_graphic_faults(symbol.custom):
        return
    if symbol.graphic and symbol.units and not any(unit.graphic == symbol.graphic for unit in symbol.units):
        message = f"the graphic “{symbol.graphic}” does not fit {counted(len(symbol.pins), 'pin')}; a box is drawn"
        yield CheckHit(FieldAddress("symbol"), message, counted(len(symbol.pins), "pin"), symbol.graphic)


def _take_letter(view: PartUnderCheck, _finding: Finding) -> Bundle:
    letter = view.category.reference if view.category else view.bundle.symbol.reference
    return replace(view.bundle, symbol=replace(view.bundle.symbol, reference=letter))


@check(
    "symbol.reference-letter",
    Severity.CAUTION,
    reads=("symbol", "about", "settings"),
    quick_fix=QuickFix("Use the category's letter", _take_letter),
)
def reference_letter(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The reference letter is that of the part's class (IEEE 315, ASME Y14.44).

    It sorts the part into bills of materials and assembly papers.
    """
    if view.category and view.bundle.symbol.reference != view.category.reference:
        message = f"the reference letter is not that of {view.category.title}"
        yield CheckHit(
            FieldAddress("symbol", "reference"),
            message,
            view.bundle.symbol.reference or "none",
            view.category.reference,
        )


@check("symbol.pin-off-body", Severity.BLOCKER, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def pin_off_body(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pin ends at the body, and its connection end points outwards.

    A pin that hangs in the air, or points into the body, cannot be connected.
    """
    for unit in view.bundle.symbol.units:
        x0, y0, x1, y1 = unit.body
        for pin in unit.pins if not unit.graphic else ():
            along, low, high = (pin.y, y0, y1) if pin.side in ("left", "right") else (pin.x, x0, x1)
            outside = {"left": pin.x < x0, "right": pin.x > x1, "top": pin.y > y1, "bottom": pin.y < y0}[pin.side]
            if not (low <= along <= high and outside):
                message = f"pin {pin.number} is not on the {pin.side} edge of the body"
                yield CheckHit(PinAddress(pin.number), message, f"({pin.x:g}, {pin.y:g}) mm", f"beside {unit.body}")


@check("symbol.texts-overlap", Severity.CAUTION, reads=("symbol",), quick_fix=QuickFix("Arrange again", _arrange_again))
def texts_overlap(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Names of pins that face each other do not run into each other.

    Two names in one are read as a third.
    """
    style = style_of(view.bundle.symbol.measures)
    for unit in view.bundle.symbol.units:
        room = unit.body[2] - unit.body[0]
        right = {pin.y: pin for pin in unit.pins if pin.side == "right"}
        for pin in unit.pins if not unit.graphic else ():
            other = right.get(pin.y) if pin.side == "left" else None
            wide = style.name_width(pin.drawn, pin.shape) + (
                style.name_width(other.drawn, other.shape) if other else 0.0
            )
            if wide > room and (other or pin.side in ("left", "right")):
                names = f"{pin.drawn} and {other.drawn}" if other else pin.drawn
                message = f"Names {names} need more room than the body has"
                yield CheckHit(PinAddress(pin.number), message, f"{wide:.2f} mm", f"≤ {room:.2f} mm")


@check("symbol.side-unusual", Severity.NOTE, reads=("symbol",))
def side_unusual(view: PartUnderCheck) -> Iterator[CheckHit]:
    """By function, inputs stand left and outputs right.

    Who reads a schematic follows signals from left to right.
    """
    symbol = view.bundle.symbol
    odd = {"input": "right", "output": "left", "power output": "left"}
    for unit in symbol.units if symbol.arrangement == "function" else ():
        for pin in unit.pins if not unit.graphic else ():
            if odd.get(pin.type) == pin.side:
                expected = "left" if pin.side == "right" else "right"
                message = f"{pin.type} {pin.name or pin.number} is on the {pin.side}"
                yield CheckHit(PinAddress(pin.number), message, pin.side, expected)
