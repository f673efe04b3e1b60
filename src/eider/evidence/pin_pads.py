"""Which pads belong to each pin: as someone matched them, else by number."""

from collections.abc import Mapping

from eider.model.bundle import Bundle
from eider.packages.forms.fused_leads import terminal_of_pin


def pads_by_pin(bundle: Bundle) -> Mapping[str, tuple[str, ...]]:
    """For each pin of the symbol the numbers of its pads, whether they exist or not.

    A pin without a match of its own has the pad of its number; one of a fused lead that lead's land. One that is said
    to be internal has none.
    """
    match, fused, internal = bundle.part.match, terminal_of_pin(bundle.sheet), set(bundle.part.internal)
    return {
        pin.number: match.get(pin.number) or (() if pin.number in internal else (fused.get(pin.number, pin.number),))
        for pin in bundle.symbol.pins
    }
