"""Recorded hand changes on the pads of a computed pattern; they survive every recomputation."""

from collections.abc import Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.geometry.lengths import LengthError, parse_length
from eider.model.footprint import ADJUSTABLE, Adjustment
from eider.model.pattern import Pad

SHAPES = ("rectangle", "rounded", "oval", "circle")


class AdjustmentError(InputError):
    """An adjustment whose value cannot be used; the message says which."""


def apply_adjustments(
    pads: Sequence[Pad], adjustments: Sequence[Adjustment], names: Mapping[str, float]
) -> tuple[Pad, ...]:
    """The pads with every active adjustment applied in order; `names` are letters of the sheet in mm.

    An adjustment that finds no pad of its number changes nothing here: a check speaks of it.
    """
    changed = list(pads)
    for adjustment in adjustments:
        if not adjustment.active:
            continue
        for index, pad in enumerate(changed):
            if pad.number == adjustment.pad:
                changed[index] = _adjusted(pad, adjustment, names)
    return tuple(changed)


def _adjusted(pad: Pad, adjustment: Adjustment, names: Mapping[str, float]) -> Pad:
    what, text = adjustment.what, adjustment.value.strip()
    if what not in ADJUSTABLE:
        raise AdjustmentError(f"pad {pad.number}: “{what}” cannot be adjusted; only {', '.join(ADJUSTABLE)} can")
    if what == "number":
        return msgspec.structs.replace(pad, number=text)
    if what == "shape":
        if text not in SHAPES:
            raise AdjustmentError(f"pad {pad.number}: there is no shape “{text}”; take {', '.join(SHAPES)}")
        return msgspec.structs.replace(pad, shape=text)
    try:
        value = float(text) if what == "rotation" else parse_length(text, names)
    except (LengthError, ValueError) as fault:
        raise AdjustmentError(f"pad {pad.number}, {what}: {fault}") from fault
    if what in ("width", "height") and value <= 0:
        raise AdjustmentError(f"pad {pad.number}: {what} {value:g} mm is no size; it must be above 0")
    return msgspec.structs.replace(pad, **{what: value})


def lost(pads: Sequence[Pad], adjustments: Sequence[Adjustment]) -> list[Adjustment]:
    """Active adjustments that speak of a pad which the recipe does not make."""
    numbers = {pad.number for pad in pads} | {a.value for a in adjustments if a.what == "number"}
    return [a for a in adjustments if a.active and a.pad not in numbers]
