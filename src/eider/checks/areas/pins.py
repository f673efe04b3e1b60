"""Checks of the pin table."""

import re
from collections import Counter
from collections.abc import Callable, Iterator

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.facts.fact_reading import read_fact
from eider.model.address import FieldAddress, PinAddress, pin_number
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.symbol import Pin
from eider.model.wording import counted
from eider.packages.forms.fused_leads import terminal_of_pin
from eider.symbols.pin_names import guess_type, natural_key, read_name

replace = msgspec.structs.replace


def _change_pin(change: Callable[[Pin], Pin]) -> Callable[[PartUnderCheck, Finding], Bundle]:
    """A quick fix that changes the one pin of which the finding speaks."""

    def apply(view: PartUnderCheck, finding: Finding) -> Bundle:
        number = pin_number(finding.address)
        pins = tuple(change(pin) if pin.number == number else pin for pin in view.bundle.symbol.pins)
        return replace(view.bundle, symbol=replace(view.bundle.symbol, pins=pins))

    return apply


@check("symbol.column-wrong-kind", Severity.CAUTION, reads=("about", "symbol", "settings"))
def column_wrong_kind(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A further column of the pin table holds values of the kind that the category's template says.

    A length inside the package that is not a length cannot be added to that of a trace.
    """
    for column in view.category.pin_columns if view.category else ():
        for pin in view.bundle.symbol.pins:
            text = pin.more.get(column.name, "")
            reading = read_fact(column, text)
            if reading.value is None:
                message = f"{column.name} of pin {pin.number}: {reading.fault}"
                yield CheckHit(PinAddress(pin.number), message, text[:60], reading.accepted)


@check("symbol.no-pins", Severity.BLOCKER, reads=("sheet", "lands", "symbol", "rulebook"))
def no_pins(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The symbol has pins.

    An empty one connects to nothing. A hole without copper has nothing to connect.
    """
    has_nothing = view.recipe is not None and view.recipe.bare and not view.terminals
    if not view.bundle.symbol.pins and not has_nothing:
        yield CheckHit(
            FieldAddress("symbol", "pins"),
            "the pin table is empty; paste or type the pins",
            "0 pins",
            "the package's pins",
        )


@check("symbol.number-duplicate", Severity.BLOCKER, reads=("symbol",))
def number_duplicate(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No pin number is used twice.

    One of the two would be lost, and another number is probably missing.
    """
    for number, count in Counter(pin.number for pin in view.bundle.symbol.pins).items():
        if count > 1:
            yield CheckHit(PinAddress(number), f"pin number {number} is used {count} times", str(count), "1")


@check("symbol.count-against-package", Severity.BLOCKER, reads=("sheet", "lands", "symbol", "rulebook", "match"))
def count_against_package(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The pin table has the pins of the package: none missing, none that it does not have.

    Rows are easily lost or doubled where a table runs over a page.
    """
    part = view.bundle.part
    numbers = {pin.number for pin in view.bundle.symbol.pins} - set(part.internal)
    wanted = {terminal.number for terminal in view.terminals} - set(part.mechanical)
    if not numbers or not wanted:
        return
    # The pins of a fused lead are in the table all or, as one, under the number of its land.
    fused = terminal_of_pin(view.bundle.sheet)
    written = {fused[number] for number in numbers if number in fused and fused[number] != number}
    wanted |= {number for number, terminal in fused.items() if terminal in written}
    for what, found in (("missing in the pin table", wanted - numbers), ("not on the package", numbers - wanted)):
        if found:
            listed = ", ".join(sorted(found, key=natural_key)[:12])
            address = PinAddress(min(found, key=natural_key))
            yield CheckHit(
                address, f"pins {listed} are {what}", counted(len(numbers), "pin"), counted(len(wanted), "pin")
            )


@check("symbol.name-missing", Severity.BLOCKER, reads=("symbol",))
def name_missing(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pin has a name.

    A number without a name cannot be compared with the datasheet. Parts with a standard graphic need none.
    """
    for pin in view.bundle.symbol.pins:
        if not pin.name and not view.bundle.symbol.graphic:
            yield CheckHit(PinAddress(pin.number), f"pin {pin.number} has no name", "empty", "a name")


def _guess(pin: Pin) -> Pin:
    guess = guess_type(pin.name)
    return replace(pin, type=guess.type if guess else "passive", assumed=True)


@check(
    "symbol.type-undecided",
    Severity.CAUTION,
    reads=("symbol",),
    quick_fix=QuickFix("Set a likely type", _change_pin(_guess)),
)
def type_undecided(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pin's electrical type is settled.

    Connection checks in the design rest on it; an undecided pin passes every one of them.
    """
    for pin in view.bundle.symbol.pins:
        if pin.type == "undecided":
            yield CheckHit(PinAddress(pin.number), f"the type of pin {pin.number} {pin.name} is undecided", pin.type)


@check(
    "symbol.type-assumed",
    Severity.NOTE,
    reads=("symbol",),
    quick_fix=QuickFix("Confirm the type", _change_pin(lambda pin: replace(pin, assumed=False))),
)
def type_assumed(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Types that were guessed from names are confirmed by someone.

    A guess is often right and sometimes not; that doubt stays visible until it is settled.
    """
    for pin in view.bundle.symbol.pins:
        if pin.assumed and pin.type != "undecided":
            message = f"the type of pin {pin.number} {pin.name} is assumed from its name"
            yield CheckHit(PinAddress(pin.number), message, pin.type, "confirmed")


def _mark_low(pin: Pin) -> Pin:
    reading = read_name(pin.name)
    return replace(pin, name=reading.name, active_low=True)


@check(
    "symbol.active-low-name",
    Severity.CAUTION,
    reads=("symbol",),
    quick_fix=QuickFix("Mark as active low", _change_pin(_mark_low)),
)
def active_low_name(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A name that says active low is marked as such, and not written twice.

    The overbar on the drawing comes from the mark, not from a letter in the name.
    """
    for pin in view.bundle.symbol.pins:
        reading = read_name(pin.name)
        if reading.active_low:
            message = f"pin {pin.number}: “{pin.name}” looks active low ({reading.mark})"
            yield CheckHit(PinAddress(pin.number), message, pin.name, f"{reading.name}, active low")


# What EDIF, SPICE and comma-separated lists cannot carry in a name or number.
_AWKWARD = re.compile(r"[\x00-\x1f\x7f\"\\,;{}]|\s")


def _plain_names(view: PartUnderCheck, finding: Finding) -> Bundle:
    pins = tuple(
        replace(p, number=_AWKWARD.sub("_", p.number), name=_AWKWARD.sub("_", p.name.strip()))
        if PinAddress(p.number) == finding.address
        else p
        for p in view.bundle.symbol.pins
    )
    return replace(view.bundle, symbol=replace(view.bundle.symbol, pins=pins))


@check(
    "symbol.characters",
    Severity.CAUTION,
    reads=("symbol",),
    quick_fix=QuickFix("Replace with underscores", _plain_names),
)
def characters(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Numbers and names hold only what open formats can carry.

    A space, quote or comma in a pin's name breaks the netlist of everyone who uses the part.
    """
    for pin in view.bundle.symbol.pins:
        for what, text in (("number", pin.number), ("name", pin.name)):
            if match := _AWKWARD.search(text):
                message = f"the {what} of pin {pin.number} holds “{match[0]}”"
                yield CheckHit(PinAddress(pin.number), message, text, "letters, digits, + - _ . # / * ( ) [ ]")


@check(
    "symbol.active-low-odd",
    Severity.CAUTION,
    reads=("symbol",),
    quick_fix=QuickFix("Remove the mark", _change_pin(lambda pin: replace(pin, active_low=False))),
)
def active_low_odd(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Only signals are marked active low, not supplies or pins without connection.

    A mark without reason misleads, and often is in the wrong row.
    """
    for pin in view.bundle.symbol.pins:
        if pin.active_low and pin.type in ("power input", "power output", "not connected"):
            message = f"{pin.type} pin {pin.number} {pin.name} is marked active low"
            yield CheckHit(PinAddress(pin.number), message, "active low", "no mark")
