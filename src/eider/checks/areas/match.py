"""Checks of the match: which pad belongs to which pin."""

from collections.abc import Iterator

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.evidence.pin_pads import pads_by_pin
from eider.model.address import PadAddress, PinAddress, pin_number
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.wording import counted
from eider.packages.forms.fused_leads import terminal_of_pin
from eider.symbols.pin_names import natural_key

replace = msgspec.structs.replace


@check("match.pin-without-pad", Severity.BLOCKER, reads=("sheet", "lands", "symbol", "match"))
def pin_without_pad(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pin of the symbol has a pad, or is said to be internal.

    The net drawn to it would end nowhere.
    """
    pads = {pad.number for pad in view.pads}
    if not pads:
        return
    names = {pin.number: pin.name for pin in view.bundle.symbol.pins}
    for pin, wanted in pads_by_pin(view.bundle).items():
        absent = [number for number in wanted if number not in pads]
        if absent:
            message = f"pin {pin} {names[pin]} has no pad {', '.join(absent)}"
            yield CheckHit(PinAddress(pin), message, "no pad", f"pad {', '.join(absent)}")


@check("match.pad-without-pin", Severity.BLOCKER, reads=("sheet", "lands", "symbol", "match"))
def pad_without_pin(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pad with a number belongs to a pin, or is said to be mechanical.

    Its terminal would be left open on the board.
    """
    taken = {pad for pads in pads_by_pin(view.bundle).values() for pad in pads}
    mechanical = set(view.bundle.part.mechanical)
    free = sorted({pad.number for pad in view.pads if pad.number and pad.plated} - taken - mechanical, key=natural_key)
    if free and view.bundle.symbol.pins:
        message = f"no pin of the symbol is matched with pad {', '.join(free[:12])}"
        yield CheckHit(PadAddress(free[0]), message, counted(len(free), "pad"), "0 pads")


@check("match.pad-of-two-pins", Severity.BLOCKER, reads=("sheet", "symbol", "match"))
def pad_of_two_pins(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No pad belongs to two pins.

    Two nets would be joined by the part.
    """
    owner: dict[str, str] = {}
    fused = terminal_of_pin(view.bundle.sheet)
    for pin, pads in pads_by_pin(view.bundle).items():
        for pad in pads:
            other = owner.setdefault(pad, pin)
            # The pins of a fused lead are one net by the package itself.
            if other != pin and not (fused.get(pin) == fused.get(other) == pad):
                message = f"pad {pad} is matched with pins {other} and {pin}"
                yield CheckHit(PinAddress(pin), message, f"pins {other}, {pin}", "one pin")


def _as_matched(view: PartUnderCheck, _finding: Finding) -> Bundle:
    part = view.bundle.part
    taken = {pad for pads in pads_by_pin(view.bundle).values() for pad in pads}
    kept = tuple(pad for pad in part.mechanical if pad not in taken)
    internal = tuple(pin for pin in part.internal if pin not in part.match)
    return replace(view.bundle, part=replace(part, mechanical=kept, internal=internal))


@check(
    "match.said-otherwise",
    Severity.CAUTION,
    reads=("sheet", "symbol", "match"),
    quick_fix=QuickFix("Use the match", _as_matched),
)
def said_otherwise(view: PartUnderCheck) -> Iterator[CheckHit]:
    """What is said to have no pin or no pad has none.

    A pad that is called mechanical and carries a net, or an internal pin with a pad, is one thing or the other.
    """
    part, pads = view.bundle.part, pads_by_pin(view.bundle)
    owner = {pad: pin for pin, numbers in pads.items() for pad in numbers}
    for pad in part.mechanical:
        if pad in owner:
            message = f"pad {pad} is said to be mechanical and belongs to pin {owner[pad]}"
            yield CheckHit(PadAddress(pad), message, f"pin {owner[pad]}", "no pin")
    for pin in part.internal:
        if pads.get(pin):
            message = f"pin {pin} is said to be internal and has pad {', '.join(pads[pin])}"
            yield CheckHit(PinAddress(pin), message, f"pad {', '.join(pads[pin])}", "no pad")


def _to_own_number(view: PartUnderCheck, finding: Finding) -> Bundle:
    number = pin_number(finding.address)
    part = view.bundle.part
    own = {number, *part.match.get(number, ())}
    match = {pin: pads for pin, pads in part.match.items() if pin not in own}
    return replace(view.bundle, part=replace(part, match=match))


@check(
    "match.exchanged",
    Severity.CAUTION,
    reads=("lands", "symbol", "match"),
    quick_fix=QuickFix("Match both by number", _to_own_number),
)
def exchanged(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No two pins have each other's pads.

    Both nets are connected, to the wrong terminals: it shows only on the board that does not work.
    """
    match, pads = view.bundle.part.match, {pad.number for pad in view.pads}
    seen: set[str] = set()
    for pin in view.bundle.symbol.pins:
        for other in match.get(pin.number, ()):
            pair = pin.number != other and pin.number in match.get(other, ()) and {pin.number, other} <= pads
            if pair and other not in seen:
                seen.add(pin.number)
                message = f"pins {pin.number} and {other} are matched with each other's pads"
                yield CheckHit(PinAddress(pin.number), message, f"pad {other}", f"pad {pin.number}")
