"""The symbol as it will be in a schematic."""

import math
from collections.abc import Collection, Iterator, Mapping, Sequence
from typing import NamedTuple

from eider.drawings.drawing_layout import text_box
from eider.drawings.primitives import Area, Disc, Drawing, Line, Primitive, Text
from eider.drawings.tile_drawings import tile_offsets, tile_side_by_side
from eider.geometry.plane import Outline, Point, box_outline, join_boxes
from eider.model.address import Address, FieldAddress, PinAddress
from eider.model.symbol import PlacedPin, Symbol, SymbolMeasures, SymbolUnit
from eider.symbols.custom_graphic import graphic_of
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
    """What is drawn of the pins that are at one address, which are mostly one."""
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
    # Where the mark of the type stands on the pin, the number is above it.
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
    """At a standard graphic the lines belong to the graphic; only the number, small, is at the end."""
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


# Grids between units that are drawn beside each other, and how much wider than high such a drawing may be.
APART, WIDE = 4, 1.8
# So many numbers are in a line of the list of not-connected pins.
LISTED_IN_LINE = 12


# What is not a pin and no text of a symbol.
SYMBOL = FieldAddress("symbol")


def symbol_drawing(symbol: Symbol, value: str, lit: Collection[str] = (), *, types: bool = False) -> Drawing:
    """All units of a symbol in rows, each with reference and value; pins in `lit` are highlighted.

    With `types` each pin bears the mark of its electrical type.
    """
    if not symbol.units:
        return Drawing((), (-10.0, -10.0, 10.0, 10.0))
    drawings = _unit_drawings(symbol, value, lit, types=types)
    return tile_side_by_side(drawings, APART * symbol.measures.grid, WIDE) if len(drawings) > 1 else drawings[0]


def unit_offsets(symbol: Symbol, value: str) -> list[Point]:
    """How far each unit is moved in the drawing of all units."""
    if len(symbol.units) < 2:
        return [(0.0, 0.0)] * len(symbol.units)
    return tile_offsets(_unit_drawings(symbol, value, ()), APART * symbol.measures.grid, WIDE)


def _unit_drawings(symbol: Symbol, value: str, lit: Collection[str], *, types: bool = False) -> list[Drawing]:
    return [unit_drawing(symbol, i, value, lit, types=types) for i in range(len(symbol.units))]


def unit_drawing(symbol: Symbol, index: int, value: str, lit: Collection[str] = (), *, types: bool = False) -> Drawing:
    """One unit of a symbol with reference and value."""
    unit, style = symbol.units[index], style_of(symbol.measures)
    places: dict[tuple[float, float], list[PlacedPin]] = {}
    for pin in unit.pins:
        places.setdefault((pin.x, pin.y), []).append(pin)
    pins = [
        item
        for stack in places.values()
        for item in pin_primitives(
            stack, unit, symbol.measures, lit=any(pin.number in lit for pin in stack), types=types
        )
    ]
    texts = tuple(_symbol_texts(symbol, unit, value, style))
    ends = [(p.x, p.y, p.x, p.y) for p in unit.pins]
    told = (*texts, *(item for item in pins if isinstance(item, Text)))
    box = join_boxes([unit.body, *ends, *(text_box(item) for item in told)])
    return Drawing((*_body(symbol, unit), *pins, *texts), box)


def _symbol_texts(symbol: Symbol, unit: SymbolUnit, value: str, style: SymbolStyle) -> Iterator[Text]:
    """Reference above and value below the body, clear of the pins there; under them what is listed only."""
    x0, y0, _x1, y1 = unit.body
    height = style.text * 1.1
    # At a graphic the numbers of upright pins stand to the right of them.
    tile_side_by_side = 0.5 * style.grid
    tops = [p.x + (style.number_width(p.number) if unit.graphic else 0.0) for p in unit.pins if p.side == "top"]
    bottoms = [p.x + (style.number_width(p.number) if unit.graphic else 0.0) for p in unit.pins if p.side == "bottom"]
    left = min(p.x for p in unit.pins) if unit.graphic and unit.pins else x0
    above = (max(tops) + tile_side_by_side, y1 + style.text) if tops else (left, y1 + 0.7 * style.text)
    below = (max(bottoms) + tile_side_by_side, y0 - style.text) if bottoms else (left, y0 - 0.7 * style.text)
    yield Text(
        above,
        f"{symbol.reference}?{unit.name}",
        height,
        "reference",
        FieldAddress("symbol", "reference"),
        "left",
        "bottom",
    )
    yield Text(below, value, height, "reference", FieldAddress("part", "name"), "left", "top")
    for line, start in enumerate(range(0, len(unit.unconnected), LISTED_IN_LINE)):
        numbers = ", ".join(unit.unconnected[start : start + LISTED_IN_LINE])
        at = (below[0], below[1] - (line + 1.2) * 1.5 * height)
        text = f"not connected: {numbers}" if line == 0 else numbers
        yield Text(at, text, style.number_text, "pin number", PinAddress(unit.unconnected[start]), "left", "top")


def _body(symbol: Symbol, unit: SymbolUnit) -> Iterator[Primitive]:
    if not unit.graphic:
        outline = box_outline(unit.body)
        if symbol.measures.filled:
            yield Area(outline, "symbol body", SYMBOL)
        else:
            yield Line((*outline, outline[0]), "symbol line", SYMBOL)
        return
    graphic, grid = graphic_of(symbol, unit.graphic), symbol.measures.grid
    if graphic is None:
        return

    def scaled(outline: Outline) -> Outline:
        return tuple((x * grid, y * grid) for x, y in outline)

    for shape in graphic.shapes:
        outline = scaled(shape.outline)
        if shape.kind == "line":
            yield Line(outline, "symbol line", SYMBOL)
        else:
            yield Area(outline, "symbol body" if shape.kind == "area" else "symbol solid", SYMBOL)
    for (x, y), word in graphic.texts:
        yield Text((x * grid, y * grid), word, symbol.measures.text, "reference", SYMBOL)
