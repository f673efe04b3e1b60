"""What is picked in a picture of a body, in words; and which terminal, pad and pin it belongs to."""

import msgspec

from eider.bodies.kernel.picked_items import MeasuredGap, PickedItem
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.geometry.plane import Box, Outline, inside_by
from eider.model.bundle import Bundle
from eider.model.pattern import Pattern
from eider.packages.orientation import terminals_on
from eider.packages.pads.pad_shapes import pad_outline
from eider.views.part_values import matched_pads

# A face belongs to a terminal that it lies in, seen from above, but for this much (mm); models are drawn rounded.
BESIDE = 0.15
# z of a normal from which on a face is level.
LEVEL = 0.9999


class PickedTerminal(msgspec.Struct, frozen=True):
    """A terminal with its pads, as outlines (mm), and the pins that these belong to."""

    number: str
    pads: tuple[Outline, ...] = ()
    pins: tuple[str, ...] = ()
    words: str = ""


def picked_terminal(bundle: Bundle, item: PickedItem) -> PickedTerminal | None:
    """The terminal that a picked item is part of, or the pad that is picked; None for anything else.

    Of a model the terminals are told by where the sheet has them.
    """
    pattern = bundle.footprint.pattern
    if pattern is None:
        return None
    number = _pad_at(pattern, item) if item.solid == "land" else _terminal_at(bundle, pattern, item)
    if not number:
        return None
    pads = [pad for pad in pattern.pads if pad.number == number]
    pins = tuple(pin for pin, numbers in matched_pads(bundle).items() if number in numbers)
    names = {pin.number: f"{pin.number} {pin.name}".strip() for pin in bundle.symbol.pins}
    told = ", ".join(f"pin {names.get(pin, pin)}" for pin in pins) or "no pin"
    words = f"terminal {number}, {'pad ' + number if pads else 'no pad'}, {told}"
    return PickedTerminal(number, tuple(pad_outline(pad) for pad in pads), pins, words)


def _pad_at(pattern: Pattern, item: PickedItem) -> str:
    x, y = item.at[:2]
    found = (pad for pad in pattern.pads if pad.box[0] <= x <= pad.box[2] and pad.box[1] <= y <= pad.box[3])
    return next((pad.number for pad in found), "")


def _terminal_at(bundle: Bundle, pattern: Pattern, item: PickedItem) -> str:
    """The terminal in which the item lies as a whole: a face of the body reaches over many."""
    try:
        terminals = terminals_on(bundle.sheet, pattern)
    except EiderError:
        return ""
    box: Box = (item.low[0], item.low[1], item.high[0], item.high[1])
    inside = [(inside_by(box, terminal.whole), terminal.number) for terminal in terminals]
    depth, number = max(inside, default=(-1.0, ""))
    return number if depth >= -BESIDE else ""


def item_words(item: PickedItem, unit: str) -> str:
    """A picked item in words, with its size and where it is."""

    def show(mm: float) -> str:
        return format_length(mm, unit)

    of = f"of {item.solid}" if item.solid else ""
    where = ", ".join(f"{axis} {show(value)}" for axis, value in zip("xyz", item.centre, strict=True))
    if item.kind == "point":
        return f"Corner {of} at {where}"
    if item.kind == "edge":
        size = f"Ø {show(2 * item.radius)}" if item.radius else f"{show(item.size)} long"
        return f"{'Round edge' if item.radius else 'Edge'} {of}: {size}, centre {where}"
    if item.radius:
        return f"Round face {of}: Ø {show(2 * item.radius)}, centre {where}"
    if item.direction is not None and abs(item.direction[2]) > LEVEL:
        return f"Level face {of} at z {show(item.centre[2])}, centre {where}"
    return f"{'Flat' if item.is_flat else 'Curved'} face {of}, centre {where}"


def gap_words(gap: MeasuredGap, unit: str) -> str:
    """A distance in words."""

    def show(mm: float) -> str:
        return format_length(mm, unit)

    along = ", ".join(f"d{axis} {show(value)}" for axis, value in zip("xyz", gap.between_centres, strict=True))
    angle = "" if gap.angle is None else f"; {gap.angle:.3g}° between them"
    return f"{show(gap.least)} apart; centres {along}{angle}"
