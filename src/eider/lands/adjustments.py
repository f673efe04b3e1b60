"""Recorded hand changes on the pads of a computed pattern; they survive every recomputation."""

from collections.abc import Callable, Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.geometry.lengths import LengthError, parse_length
from eider.lands.pads import opening_of
from eider.lands.thermal_lands import paste_windows
from eider.model.footprint import ADJUSTABLE, Adjustment
from eider.model.pattern import Hole, Pad
from eider.rulebooks import Rulebook

SHAPES = ("rectangle", "rounded", "oval", "circle")
OPENINGS = ("mask", "paste")
NONE, WINDOWS, ALL = "none", "windows", "*"


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
            if speaks_of(adjustment.pad, pad.number):
                changed[index] = _adjusted(pad, adjustment, names)
    return tuple(changed)


def speaks_of(text: str, number: str) -> bool:
    """Whether the pads of an adjustment are meant to hold a number: `3`, `1, 5–8`, or `*` for all."""
    return text == number or text.strip() == ALL or any(_holds(piece, number) for piece in text.split(","))


def _holds(piece: str, number: str) -> bool:
    if piece.strip() == number:
        return True
    low, dash, high = piece.replace("–", "-").partition("-")
    is_range = dash and low.strip().isdecimal() and high.strip().isdecimal() and number.isdecimal()
    return bool(is_range) and int(low) <= int(number) <= int(high)


def _adjusted(pad: Pad, adjustment: Adjustment, names: Mapping[str, float]) -> Pad:
    what, text = adjustment.what, adjustment.value.strip()
    if what not in ADJUSTABLE:
        raise AdjustmentError(f"pad {pad.number}: “{what}” cannot be adjusted; only {', '.join(ADJUSTABLE)} can")
    if what in _BY_WORD:
        return _BY_WORD[what](pad, text)
    if what in OPENINGS:
        # Openings follow from the rulebook after all else: see `adjusted_openings`.
        if not (what == "paste" and text == WINDOWS):
            _expansion(pad, what, text, names)
        return pad
    if what == "hole" and text == NONE:
        return msgspec.structs.replace(pad, hole=None, layers="top")
    value = _value(pad, what, text, names)
    if what == "hole":
        return msgspec.structs.replace(pad, hole=Hole(value, value), layers="all")
    if what in ("width", "height") and value <= 0:
        raise AdjustmentError(f"pad {pad.number}: {what} {value:g} mm is not a size; it must be above 0")
    return msgspec.structs.replace(pad, **{what: value})


def _numbered(pad: Pad, text: str) -> Pad:
    return msgspec.structs.replace(pad, number=text)


def _shaped(pad: Pad, text: str) -> Pad:
    if text not in SHAPES:
        raise AdjustmentError(f"pad {pad.number}: unknown shape “{text}”; choose one of {', '.join(SHAPES)}")
    return msgspec.structs.replace(pad, shape=text)


def _value(pad: Pad, what: str, text: str, names: Mapping[str, float]) -> float:
    try:
        value = float(text) if what == "rotation" else parse_length(text, names)
    except (LengthError, ValueError) as fault:
        raise AdjustmentError(f"pad {pad.number}, {what}: {fault}") from fault
    if what in ("hole", "corner_radius") and value < 0:
        raise AdjustmentError(f"pad {pad.number}: {what} {value:g} mm is below zero")
    return value


def _plated(pad: Pad, text: str) -> Pad:
    """A hole without copper is as large as it is drilled, and bears no paste."""
    if text not in ("yes", "no"):
        raise AdjustmentError(f"pad {pad.number}: plated is yes or no, not “{text}”")
    if text == "yes" or pad.hole is None:
        return msgspec.structs.replace(pad, plated=text == "yes")
    return msgspec.structs.replace(
        pad, plated=False, width=pad.hole.width, height=pad.hole.height, shape="circle", corner_radius=0.0
    )


_BY_WORD: Mapping[str, Callable[[Pad, str], Pad]] = {"number": _numbered, "shape": _shaped, "plated": _plated}


def _expansion(pad: Pad, what: str, text: str, names: Mapping[str, float]) -> float | None:
    """How far an opening is grown (mm); None where there is to be none."""
    return None if text == NONE else _value(pad, what, text, names)


def adjusted_openings(
    pads: Sequence[Pad], adjustments: Sequence[Adjustment], names: Mapping[str, float], rulebook: Rulebook
) -> tuple[Pad, ...]:
    """The pads with the openings of mask and paste that adjustments give them."""
    own = [a for a in adjustments if a.active and a.what in OPENINGS]
    changed = list(pads)
    for adjustment in own:
        text = adjustment.value.strip()
        for index, pad in enumerate(changed):
            if not speaks_of(adjustment.pad, pad.number):
                continue
            if text == WINDOWS and adjustment.what == "paste":
                opening = paste_windows(pad, rulebook)
            else:
                by = _expansion(pad, adjustment.what, text, names)
                grown = None if by is None else opening_of(pad, by)
                opening = () if grown is None else (grown,)
            changed[index] = msgspec.structs.replace(pad, **{adjustment.what: opening})
    return tuple(changed)


def lost(pads: Sequence[Pad], adjustments: Sequence[Adjustment]) -> list[Adjustment]:
    """Active adjustments that speak of a pad which the recipe does not make; `pads` are those before any of them."""
    numbers = {pad.number for pad in pads} | {a.value for a in adjustments if a.what == "number"}
    return [a for a in adjustments if a.active and not any(speaks_of(a.pad, number) for number in numbers)]
