"""One pin of a symbol: its line, name and number, the marks of its shape, and on request that of its type."""

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from eider.drawings.primitives import Area, Disc, Line, Primitive, Text
from eider.geometry.shapes import Outline, Point
from eider.model.address import Address, PinAddress
from eider.model.symbol import PlacedPin, SymbolMeasures, SymbolUnit
from eider.symbols.stacked_pins import stack_label
from eider.symbols.symbol_style import SymbolStyle, style_of

INWARD: Mapping[str, Point] = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "top": (0.0, -1.0), "bottom": (0.0, 1.0)}
# Marks beside the name (IEC 60617-12), in text heights about their middle, read along the text.
_CURVE = tuple((0.5 * math.cos(math.radians(a)), 0.6 * math.sin(math.radians(a)) - 0.3) for a in range(180, -1, -15))
_DIAMOND: Outline = ((-0.45, 0.0), (0.0, 0.45), (0.45, 0.0), (0.0, -0.45), (-0.45, 0.0))
_BESIDE: Mapping[str, tuple[Outline, ...]] = {
    "schmitt": (((-0.6, -0.4), (0.2, -0.4), (0.2, 0.4), (0.6, 0.4)), ((-0.2, -0.4), (-0.2, 0.4), (0.2, 0.4))),
    "tri-state": (((-0.45, 0.4), (0.45, 0.4), (0.0, -0.45), (-0.45, 0.4)),),
    "open low": (_DIAMOND, ((-0.45, -0.6), (0.45, -0.6))),
    "open high": (_DIAMOND, ((-0.45, 0.6), (0.45, 0.6))),
    "analogue": (_CURVE,),
}
# Letter and form of each electrical type: pointing in, out, both ways, or a plain box.
_TYPES: Mapping[str, tuple[str, str]] = {
    "input": ("I", "in"), "output": ("O", "out"), "bidirectional": ("B", "both"), "tri-state": ("T", "out"),
    "passive": ("P", "box"), "power input": ("S", "in"), "power output": ("S", "out"), "open collector": ("C", "out"),
    "open emitter": ("E", "out"), "free": ("F", "box"), "not connected": ("N", "box"), "undecided": ("?", "box"),
}  # fmt: skip
_FORMS: Mapping[str, Outline] = {
    "in": ((-0.9, -0.6), (0.3, -0.6), (0.9, 0.0), (0.3, 0.6), (-0.9, 0.6)),
    "out": ((-0.9, 0.0), (-0.3, -0.6), (0.9, -0.6), (0.9, 0.6), (-0.3, 0.6)),
    "both": ((-1.0, 0.0), (-0.5, -0.6), (0.5, -0.6), (1.0, 0.0), (0.5, 0.6), (-0.5, 0.6)),
    "box": ((-0.7, -0.6), (0.7, -0.6), (0.7, 0.6), (-0.7, 0.6)),
}


class _Frame(NamedTuple):
    """Where a pin meets the body, and the way inwards; lengths in text heights."""

    edge: Point
    inward: Point
    unit: float

    def at(self, along: float, across: float = 0.0) -> Point:
        """A point so far inside the body, and so far to the left of the way in."""
        (x, y), (dx, dy) = self.edge, self.inward
        return x + (dx * along - dy * across) * self.unit, y + (dy * along + dx * across) * self.unit

    def upright(self, along: float, outline: Outline) -> Outline:
        """A mark about a point inside the body, read as the text beside it is."""
        x, y = self.at(along)
        turned = [(-v, u) if self.inward[1] else (u, v) for u, v in outline]
        return tuple((x + u * self.unit, y + v * self.unit) for u, v in turned)


def pin_primitives(
    stack: Sequence[PlacedPin], unit: SymbolUnit, measures: SymbolMeasures, *, lit: bool, types: bool
) -> Iterator[Primitive]:
    """What is drawn of the pins that stand at one address, which are mostly one."""
    pin = stack[0]
    style = style_of(measures)
    if unit.graphic:
        yield from _on_graphic(pin, style, types=types)
        return
    x0, y0, x1, y1 = unit.body
    edge = {"left": (x0, pin.y), "right": (x1, pin.y), "top": (pin.x, y1), "bottom": (pin.x, y0)}[pin.side]
    frame = _Frame(edge, INWARD[pin.side], style.text)
    address = PinAddress(pin.number)
    circle = pin.active_low and measures.active_low == "circle"
    yield Line(((pin.x, pin.y), frame.at(-0.8) if circle else edge), "lit" if lit else "pin", address)
    yield from _marks(pin, frame, measures, address)
    # Where the mark of the type stands on the pin, the number stands above it.
    lift = 0.6 if types else 0.25
    yield from _texts(stack, frame, style, lift, bar=pin.active_low and measures.active_low == "bar")
    if types:
        yield from _type_mark(pin, frame.at(-1.6 if circle else -1.1), style, address)


def _marks(pin: PlacedPin, frame: _Frame, measures: SymbolMeasures, address: Address) -> Iterator[Primitive]:
    """The marks at the edge and beside the name."""
    if pin.active_low and measures.active_low == "circle":
        yield Disc(frame.at(-0.4), 0.4 * frame.unit, "pin mark", address)
    elif pin.active_low and measures.active_low == "wedge":
        # The half arrow of IEC points the way the signal goes.
        goes_out = pin.type in ("output", "tri-state", "open collector", "open emitter")
        high, low = ((0.0, 0.7), (-1.2, 0.0)) if goes_out else ((-1.2, 0.7), (0.0, 0.0))
        yield Line((frame.at(high[0]), frame.at(*high), frame.at(*low)), "pin", address)
    if pin.shape == "clock":
        yield Line((frame.at(0, 0.5), frame.at(0.9), frame.at(0, -0.5)), "pin", address)
    for outline in _BESIDE.get(pin.shape, ()):
        yield Line(frame.upright(1.1, outline), "pin", address)


def _texts(
    stack: Sequence[PlacedPin], frame: _Frame, style: SymbolStyle, lift: float, *, bar: bool
) -> Iterator[Primitive]:
    """Name inside, number or numbers outside and `lift` off the line; at top and bottom both are read upwards."""
    pin = stack[0]
    address = PinAddress(pin.number)
    upright = bool(frame.inward[1])
    inset = 0.6 + (style.shape_width / style.text if pin.shape else 0.0)
    reads_inwards = frame.inward in ((1.0, 0.0), (0.0, 1.0))
    angle = 90.0 if upright else 0.0
    yield Text(
        frame.at(inset),
        pin.drawn,
        style.text,
        "pin name",
        address,
        "left" if reads_inwards else "right",
        "middle",
        angle,
        bar,
    )
    x, y = frame.at(-0.6)
    away = lift * style.text
    at = (x - away, y) if upright else (x, y + away)
    numbers = stack_label([each.number for each in stack])
    yield Text(
        at, numbers, style.number_text, "pin number", address, "right" if reads_inwards else "left", "bottom", angle
    )


def _on_graphic(pin: PlacedPin, style: SymbolStyle, *, types: bool) -> Iterator[Primitive]:
    """At a standard graphic the lines belong to the graphic; only the number, small, stands at the end."""
    address = PinAddress(pin.number)
    dx, dy = INWARD[pin.side]
    height = 0.94 * style.number_text
    if dy:
        end = (pin.x + 0.3 * style.text, pin.y)
        yield Text(end, pin.number, height, "pin number", address, "left", "top" if dy < 0 else "bottom")
    else:
        end = (pin.x - dx * 0.3, pin.y + 0.5 * style.text)
        yield Text(end, pin.number, height, "pin number", address, "right" if dx > 0 else "left", "bottom")
    if types:
        yield from _type_mark(pin, (pin.x + dx * style.text, pin.y + dy * style.text), style, address)


def _type_mark(pin: PlacedPin, at: Point, style: SymbolStyle, address: Address) -> Iterator[Primitive]:
    """Letter and form of the electrical type, on the pin."""
    letter, form = _TYPES.get(pin.type, ("?", "box"))
    size = 0.75 * style.text
    dx, dy = INWARD[pin.side]
    outline = tuple((at[0] + (u * dx - v * dy) * size, at[1] + (u * dy + v * dx) * size) for u, v in _FORMS[form])
    yield Area(outline, "type mark", address)
    yield Text(at, letter, 0.8 * size, "type mark text", address)
