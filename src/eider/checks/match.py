"""Checks of the match: which pad belongs to which pin."""

from collections.abc import Iterator

from eider.checks.registry import Found, check
from eider.checks.view import PartView
from eider.model.finding import Severity
from eider.symbols.names import natural_key


@check("match.pin-without-pad", Severity.BLOCKER, reads=("symbol", "lands", "part"))
def pin_without_pad(view: PartView) -> Iterator[Found]:
    """Every pin of the symbol has a pad.

    The net drawn to it would end nowhere.
    """
    pads = {pad.number for pad in view.pads}
    if not pads:
        return
    match = view.bundle.part.match
    for pin in view.bundle.symbol.pins:
        absent = [number for number in match.get(pin.number, (pin.number,)) if number not in pads]
        if absent:
            message = f"pin {pin.number} {pin.name} has no pad {', '.join(absent)}"
            yield Found(f"symbol.pins.{pin.number}", message, "no pad", f"pad {', '.join(absent)}")


@check("match.pad-without-pin", Severity.BLOCKER, reads=("symbol", "lands", "part"))
def pad_without_pin(view: PartView) -> Iterator[Found]:
    """Every pad with a number belongs to a pin.

    Its terminal would be left open on the board.
    """
    match = view.bundle.part.match
    taken = {pad for pin in view.bundle.symbol.pins for pad in match.get(pin.number, (pin.number,))}
    free = sorted({pad.number for pad in view.pads if pad.number and pad.plated} - taken, key=natural_key)
    if free and view.bundle.symbol.pins:
        message = f"no pin of the symbol is matched with pad {', '.join(free[:12])}"
        yield Found(f"lands.pads.{free[0]}", message, f"{len(free)} pads", "0 pads")


@check("match.pad-of-two-pins", Severity.BLOCKER, reads=("symbol", "part"))
def pad_of_two_pins(view: PartView) -> Iterator[Found]:
    """No pad belongs to two pins.

    Two nets would be joined by the part.
    """
    owner: dict[str, str] = {}
    for pin in view.bundle.symbol.pins:
        for pad in view.bundle.part.match.get(pin.number, (pin.number,)):
            other = owner.setdefault(pad, pin.number)
            if other != pin.number:
                message = f"pad {pad} is matched with pins {other} and {pin.number}"
                yield Found(f"symbol.pins.{pin.number}", message, f"pins {other}, {pin.number}", "one pin")
