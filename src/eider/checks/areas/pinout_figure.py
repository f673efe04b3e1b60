"""Checks of number, name and place of each pin against the datasheet's own pinout figure."""

from collections.abc import Iterator

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.evidence.figure_comparison import Difference, name_differences, place_differences
from eider.model.address import FieldAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.part import PinoutFigure
from eider.model.wording import counted
from eider.symbols.pin_names import THERMAL_NAMES, natural_key

replace = msgspec.structs.replace
# So many pins are named.
NAMED = 8


def _listed(numbers: list[str] | tuple[str, ...]) -> str:
    more = f" and {len(numbers) - NAMED} more" if len(numbers) > NAMED else ""
    return ", ".join(numbers[:NAMED]) + more


def _changed(difference: Difference) -> list[str]:
    whole = difference.whole
    return [one for one, other in whole.taken_for.items() if one != other] if whole else []


def _named_as_drawn(view: PartUnderCheck, _finding: Finding) -> Bundle:
    """Give the pins that were exchanged each other's row of the table, so that each has the name of the figure."""
    bundle, figure = view.bundle, view.bundle.part.pinout
    if figure is None:
        return bundle
    found = name_differences(bundle.symbol.pins, figure)
    taken = dict(found.whole.taken_for) if found.whole else {}
    taken |= {a: b for one, other in found.pairs for a, b in ((one, other), (other, one))}
    # The row of pin `number` is what the figure draws at `taken[number]`.
    pins = [replace(pin, number=taken.get(pin.number, pin.number)) for pin in bundle.symbol.pins]
    order = {pin.number: index for index, pin in enumerate(bundle.symbol.pins)}
    pins.sort(key=lambda pin: order.get(pin.number, len(order)))
    return replace(bundle, symbol=replace(bundle.symbol, pins=tuple(pins)))


@check(
    "match.names-exchanged",
    Severity.BLOCKER,
    reads=("symbol", "match"),
    quick_fix=QuickFix("Number them as in the figure", _named_as_drawn),
)
def names_exchanged(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No pin has the name that the datasheet's pinout figure writes at another pin.

    A pair exchanged while a table was typed, or a table read down both sides instead of round the package, passes
    every other check and connects the wrong nets.
    """
    figure = view.bundle.part.pinout
    if figure is None:
        return
    names = {pin.number: pin.name for pin in view.bundle.symbol.pins}
    drawn = {pin.number: pin.name for pin in figure.pins}
    found = name_differences(view.bundle.symbol.pins, figure)
    if found.whole is not None:
        wrong = _changed(found)
        message = (
            f"The pin table is read {found.whole.words}: in the figure on page {figure.page}, "
            f"pins {_listed(wrong)} have each other's names."
        )
        first = wrong[0]
        yield CheckHit(FieldAddress("symbol", "pins"), message, names[first], drawn[first])
    for one, other in found.pairs:
        message = (
            f"pins {one} and {other} are exchanged: the figure on page {figure.page} writes "
            f"{drawn[one]} at pin {one} and {drawn[other]} at pin {other}"
        )
        yield CheckHit(PinAddress(one), message, names[one], drawn[one])


@check("match.placed-otherwise", Severity.BLOCKER, reads=("sheet", "lands", "match", "rulebook"))
def placed_otherwise(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Pins are arranged as in the datasheet's pinout figure.

    Numbers that run clockwise, a bottom view taken for a top view, or a connector drawn as its mating half:
    every length is right, and every pin is on the other side.
    """
    figure = view.bundle.part.pinout
    found = place_differences(view.terminals, figure) if figure and view.terminals else None
    if figure is None or found is None:
        return
    where = f"in the figure on page {figure.page}"
    wrong = _changed(found)
    if found.whole is not None:
        message = (
            f"Against the package, the numbers {where} run {found.whole.words}: pins {_listed(wrong)} stand "
            f"elsewhere. If the figure shows the package from below or from the mating side, say so in Match."
        )
        yield CheckHit(FieldAddress("match", "pinout"), message, counted(len(wrong), "pin"), "0 pins")
    for one, other in found.pairs:
        yield CheckHit(PinAddress(one), f"pins {one} and {other} are at each other's place {where}", one, other)
    if found.left:
        message = f"pins {_listed(found.left)} stand elsewhere {where} than on the package"
        yield CheckHit(PinAddress(found.left[0]), message, counted(len(found.left), "pin"), "0 pins")


@check("match.unlike-figure", Severity.CAUTION, reads=("sheet", "lands", "symbol", "match", "rulebook"))
def unlike_figure(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Symbol, package and the datasheet's pinout figure tell of the same pins.

    A name that is found nowhere in the figure, or a pin that is missing in it, was misread in one place or the other.
    """
    figure = view.bundle.part.pinout
    if figure is None or not view.bundle.symbol.pins:
        return
    where = f"the figure on page {figure.page}"
    drawn = {pin.number: pin.name for pin in figure.pins}
    pins = {pin.number: pin for pin in view.bundle.symbol.pins}
    for number in name_differences(view.bundle.symbol.pins, figure).left:
        message = f"pin {number} is {pins[number].name} in the symbol and {drawn[number]} in {where}"
        yield CheckHit(PinAddress(number), message, pins[number].name, drawn[number])
    yield from _missing(view, figure, where)


def _missing(view: PartUnderCheck, figure: PinoutFigure, where: str) -> Iterator[CheckHit]:
    drawn = {pin.number for pin in figure.pins}
    pins = {pin.number: pin for pin in view.bundle.symbol.pins}
    # A thermal pad has a number of our own: the figure writes its name alone, or nothing.
    absent = sorted(
        (n for n, pin in pins.items() if n not in drawn and pin.name.lower() not in THERMAL_NAMES), key=natural_key
    )
    more = sorted(drawn - set(pins), key=natural_key)
    if absent:
        message = f"{where} does not have pin {_listed(absent)}"
        yield CheckHit(PinAddress(absent[0]), message, counted(len(absent), "pin"), "0 pins")
    if more:
        message = f"{where} has pin {_listed(more)}, the symbol does not"
        yield CheckHit(FieldAddress("symbol", "pins"), message, counted(len(more), "pin"), "0 pins")
    if view.terminals and not absent and not more and place_differences(view.terminals, figure) is None:
        message = f"{where} has other rows and columns than the package; places were not compared"
        yield CheckHit(FieldAddress("match", "pinout"), message, "not compared", "compared")
