"""Checks of the symbol and its pin table."""

import re
from collections import Counter
from collections.abc import Callable, Iterator

import msgspec

from eider.checks.registry import Found, Mend, check
from eider.checks.view import PartView
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.symbol import Pin, SymbolMeasures
from eider.symbols.arrangement import arrange
from eider.symbols.names import guess_type, natural_key, read_name
from eider.symbols.style import style_of

replace = msgspec.structs.replace


def _change_pin(change: Callable[[Pin], Pin]) -> Callable[[PartView, Finding], Bundle]:
    """A mend that changes the one pin of which the finding speaks."""

    def apply(view: PartView, finding: Finding) -> Bundle:
        number = finding.place.removeprefix("symbol.pins.")
        pins = tuple(change(pin) if pin.number == number else pin for pin in view.bundle.symbol.pins)
        return replace(view.bundle, symbol=replace(view.bundle.symbol, pins=pins))

    return apply


@check("symbol.no-pins", Severity.BLOCKER, reads=("symbol",))
def no_pins(view: PartView) -> Iterator[Found]:
    """The symbol has pins.

    An empty one connects to nothing.
    """
    if not view.bundle.symbol.pins:
        yield Found("symbol.pins", "the pin table is empty; paste or type the pins", "0 pins", "the package's pins")


@check("symbol.number-duplicate", Severity.BLOCKER, reads=("symbol",))
def number_duplicate(view: PartView) -> Iterator[Found]:
    """No pin number stands twice.

    One of the two would be lost, and another number is probably missing.
    """
    for number, count in Counter(pin.number for pin in view.bundle.symbol.pins).items():
        if count > 1:
            yield Found(f"symbol.pins.{number}", f"pin number {number} stands {count} times", str(count), "1")


@check("symbol.count-against-package", Severity.BLOCKER, reads=("symbol", "sheet"))
def count_against_package(view: PartView) -> Iterator[Found]:
    """The pin table has the pins of the package: none missing, none that it does not have.

    Rows are easily lost or doubled where a table runs over a page.
    """
    numbers = {pin.number for pin in view.bundle.symbol.pins}
    wanted = {terminal.number for terminal in view.terminals}
    if not numbers or not wanted:
        return
    for what, found in (("missing in the pin table", wanted - numbers), ("not on the package", numbers - wanted)):
        if found:
            listed = ", ".join(sorted(found, key=natural_key)[:12])
            place = f"symbol.pins.{min(found, key=natural_key)}"
            yield Found(place, f"pins {listed} are {what}", f"{len(numbers)} pins", f"{len(wanted)} pins")


@check("symbol.name-missing", Severity.BLOCKER, reads=("symbol",))
def name_missing(view: PartView) -> Iterator[Found]:
    """Every pin has a name.

    A number without a name cannot be held against the datasheet. Parts with a standard graphic need none.
    """
    for pin in view.bundle.symbol.pins:
        if not pin.name and not view.bundle.symbol.graphic:
            yield Found(f"symbol.pins.{pin.number}", f"pin {pin.number} has no name", "empty", "a name")


def _guess(pin: Pin) -> Pin:
    guess = guess_type(pin.name)
    return replace(pin, type=guess.type if guess else "passive", assumed=True)


@check(
    "symbol.type-undecided", Severity.CAUTION, reads=("symbol",), mend=Mend("Take a likely type", _change_pin(_guess))
)
def type_undecided(view: PartView) -> Iterator[Found]:
    """Every pin's electrical type is settled.

    Connection checks in the design rest on it; an undecided pin passes every one of them.
    """
    for pin in view.bundle.symbol.pins:
        if pin.type == "undecided":
            yield Found(f"symbol.pins.{pin.number}", f"the type of pin {pin.number} {pin.name} is undecided", pin.type)


@check(
    "symbol.type-assumed",
    Severity.NOTE,
    reads=("symbol",),
    mend=Mend("Confirm the type", _change_pin(lambda pin: replace(pin, assumed=False))),
)
def type_assumed(view: PartView) -> Iterator[Found]:
    """Types that were guessed from names are confirmed by somebody.

    A guess is often right and sometimes not; that doubt stays visible until it is settled.
    """
    for pin in view.bundle.symbol.pins:
        if pin.assumed and pin.type != "undecided":
            message = f"the type of pin {pin.number} {pin.name} is assumed from its name"
            yield Found(f"symbol.pins.{pin.number}", message, pin.type, "confirmed")


def _mark_low(pin: Pin) -> Pin:
    reading = read_name(pin.name)
    return replace(pin, name=reading.name, active_low=True)


@check(
    "symbol.active-low-name",
    Severity.CAUTION,
    reads=("symbol",),
    mend=Mend("Mark as active low", _change_pin(_mark_low)),
)
def active_low_name(view: PartView) -> Iterator[Found]:
    """A name that says active low is marked as such, and not written twice.

    The overbar on the drawing comes from the mark, not from a letter in the name.
    """
    for pin in view.bundle.symbol.pins:
        reading = read_name(pin.name)
        if reading.active_low:
            message = f"pin {pin.number}: “{pin.name}” looks active low ({reading.mark})"
            yield Found(f"symbol.pins.{pin.number}", message, pin.name, f"{reading.name}, active low")


def _arrange_again(view: PartView, _finding: Finding) -> Bundle:
    return replace(view.bundle, symbol=arrange(view.bundle.symbol))


@check("symbol.pin-off-grid", Severity.BLOCKER, reads=("symbol",), mend=Mend("Arrange again", _arrange_again))
def pin_off_grid(view: PartView) -> Iterator[Found]:
    """Every connection end stands on the grid.

    A wire drawn to a pin off the grid looks connected and is not.
    """
    grid = view.bundle.symbol.measures.grid
    for unit in view.bundle.symbol.units:
        for pin in unit.pins:
            off = max(abs(v / grid - round(v / grid)) for v in (pin.x, pin.y)) * grid
            if off > 1e-6:
                message = f"pin {pin.number} is off the connection grid"
                yield Found(f"symbol.pins.{pin.number}", message, f"{off:.4f} mm", f"a multiple of {grid} mm")


@check("symbol.pins-meet", Severity.BLOCKER, reads=("symbol",), mend=Mend("Arrange again", _arrange_again))
def pins_meet(view: PartView) -> Iterator[Found]:
    """No two connection ends stand at one place.

    They would be connected by being drawn.
    """
    for unit in view.bundle.symbol.units:
        places: dict[tuple[float, float], str] = {}
        for pin in unit.pins:
            other = places.setdefault((pin.x, pin.y), pin.number)
            if other != pin.number:
                message = f"pins {other} and {pin.number} stand at one place"
                yield Found(f"symbol.pins.{pin.number}", message, f"({pin.x:g}, {pin.y:g}) mm", "two places")


@check("symbol.not-as-recipe", Severity.CAUTION, reads=("symbol",), mend=Mend("Arrange again", _arrange_again))
def not_as_recipe(view: PartView) -> Iterator[Found]:
    """The stored drawing of the symbol is what its pin table gives.

    It was changed in the file, or the table was, after the drawing was made.
    """
    symbol = view.bundle.symbol
    if symbol.pins and arrange(symbol).units != symbol.units:
        yield Found("symbol", "the stored symbol is not what its pin table gives", "differs", "the recipe's result")


def _as_library(view: PartView, _finding: Finding) -> Bundle:
    symbol = view.bundle.symbol
    return replace(view.bundle, symbol=replace(symbol, measures=view.settings.symbols))


@check("symbol.other-style", Severity.CAUTION, reads=("symbol",), mend=Mend("Draw it as the library does", _as_library))
def other_style(view: PartView) -> Iterator[Found]:
    """The symbol is drawn on the library's grid, with its lengths and in its form.

    Two grids in one library meet on one sheet, and their ends do not.
    """
    own, wanted = view.bundle.symbol.measures, view.settings.symbols
    if own != wanted:
        yield Found("symbol", "the symbol is drawn otherwise than the library's", _in_words(own), _in_words(wanted))


def _in_words(measures: SymbolMeasures) -> str:
    return f"grid {measures.grid:g}, pins {measures.pin_grids} grids, text {measures.text:g}, {measures.form.upper()}"


@check("symbol.graphic-unfit", Severity.CAUTION, reads=("symbol",))
def graphic_unfit(view: PartView) -> Iterator[Found]:
    """A standard graphic that was chosen can be drawn with the pins there are.

    Where it cannot, a plain box stands in its place.
    """
    symbol = view.bundle.symbol
    if symbol.graphic and symbol.units and not any(unit.graphic == symbol.graphic for unit in symbol.units):
        message = f"the graphic “{symbol.graphic}” does not fit {len(symbol.pins)} pins; a box is drawn"
        yield Found("symbol", message, f"{len(symbol.pins)} pins", symbol.graphic)


def _take_letter(view: PartView, _finding: Finding) -> Bundle:
    letter = view.category.reference if view.category else view.bundle.symbol.reference
    return replace(view.bundle, symbol=replace(view.bundle.symbol, reference=letter))


@check(
    "symbol.reference-letter",
    Severity.CAUTION,
    reads=("symbol", "part"),
    mend=Mend("Take the category's letter", _take_letter),
)
def reference_letter(view: PartView) -> Iterator[Found]:
    """The reference letter is that of the part's class (IEEE 315, ASME Y14.44).

    It sorts the part into bills of materials and assembly papers.
    """
    if view.category and view.bundle.symbol.reference != view.category.reference:
        message = f"the reference letter is not that of {view.category.title}"
        yield Found("symbol.reference", message, view.bundle.symbol.reference or "none", view.category.reference)


@check("symbol.pin-off-body", Severity.BLOCKER, reads=("symbol",), mend=Mend("Arrange again", _arrange_again))
def pin_off_body(view: PartView) -> Iterator[Found]:
    """Every pin ends at the body, and its connection end points outwards.

    A pin that hangs in the air, or points into the body, cannot be connected.
    """
    for unit in view.bundle.symbol.units:
        x0, y0, x1, y1 = unit.body
        for pin in unit.pins if not unit.graphic else ():
            along, low, high = (pin.y, y0, y1) if pin.side in ("left", "right") else (pin.x, x0, x1)
            outside = {"left": pin.x < x0, "right": pin.x > x1, "top": pin.y > y1, "bottom": pin.y < y0}[pin.side]
            if not (low <= along <= high and outside):
                message = f"pin {pin.number} does not stand at the {pin.side} of the body"
                yield Found(f"symbol.pins.{pin.number}", message, f"({pin.x:g}, {pin.y:g}) mm", f"beside {unit.body}")


@check("symbol.texts-overlap", Severity.CAUTION, reads=("symbol",), mend=Mend("Arrange again", _arrange_again))
def texts_overlap(view: PartView) -> Iterator[Found]:
    """Names of pins that face each other do not run into each other.

    Two names in one are read as a third.
    """
    style = style_of(view.bundle.symbol.measures)
    for unit in view.bundle.symbol.units:
        room = unit.body[2] - unit.body[0]
        right = {pin.y: pin for pin in unit.pins if pin.side == "right"}
        for pin in unit.pins if not unit.graphic else ():
            other = right.get(pin.y) if pin.side == "left" else None
            wide = style.text_width(pin.name) + (style.text_width(other.name) if other else 0.0)
            if wide > room and (other or pin.side in ("left", "right")):
                names = f"{pin.name} and {other.name}" if other else pin.name
                message = f"{names} need more room than the body has"
                yield Found(f"symbol.pins.{pin.number}", message, f"{wide:.2f} mm", f"≤ {room:.2f} mm")


@check("symbol.side-unusual", Severity.NOTE, reads=("symbol",))
def side_unusual(view: PartView) -> Iterator[Found]:
    """By function, inputs stand left and outputs right.

    Who reads a schematic follows signals from left to right.
    """
    symbol = view.bundle.symbol
    odd = {"input": "right", "output": "left", "power output": "left"}
    for unit in symbol.units if symbol.arrangement == "function" else ():
        for pin in unit.pins if not unit.graphic else ():
            if odd.get(pin.type) == pin.side:
                expected = "left" if pin.side == "right" else "right"
                message = f"{pin.type} {pin.name or pin.number} stands on the {pin.side}"
                yield Found(f"symbol.pins.{pin.number}", message, pin.side, expected)


# What EDIF, SPICE and comma-separated lists cannot carry in a name or number.
_AWKWARD = re.compile(r"[\x00-\x1f\x7f\"\\,;{}]|\s")


def _plain_names(view: PartView, finding: Finding) -> Bundle:
    pins = tuple(
        replace(p, number=_AWKWARD.sub("_", p.number), name=_AWKWARD.sub("_", p.name.strip()))
        if f"symbol.pins.{p.number}" == finding.place else p
        for p in view.bundle.symbol.pins
    )  # fmt: skip
    return replace(view.bundle, symbol=replace(view.bundle.symbol, pins=pins))


@check(
    "symbol.characters", Severity.CAUTION, reads=("symbol",), mend=Mend("Put underscores in their place", _plain_names)
)
def characters(view: PartView) -> Iterator[Found]:
    """Numbers and names hold only what open formats can carry.

    A space, quote or comma in a pin's name breaks the netlist of whoever takes the part.
    """
    for pin in view.bundle.symbol.pins:
        for what, text in (("number", pin.number), ("name", pin.name)):
            if match := _AWKWARD.search(text):
                message = f"the {what} of pin {pin.number} holds “{match[0]}”"
                yield Found(f"symbol.pins.{pin.number}", message, text, "letters, digits, + - _ . # / * ( ) [ ]")
