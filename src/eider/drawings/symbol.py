"""The symbol as it will stand in a schematic."""

from collections.abc import Collection, Iterator

from eider.drawings.primitives import Area, Drawing, Line, Primitive, Text
from eider.geometry.shapes import box_outline, join_boxes
from eider.model.symbol import PlacedPin, Symbol, SymbolUnit
from eider.symbols.graphics import all_graphics
from eider.symbols.style import DEFAULT_STYLE, SymbolStyle

INWARD = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "top": (0.0, -1.0), "bottom": (0.0, 1.0)}


def symbol_drawing(
    symbol: Symbol, value: str, lit: Collection[str] = (), style: SymbolStyle = DEFAULT_STYLE
) -> Drawing:
    """The first unit of a symbol with reference and value; pins in `lit` are highlighted."""
    if not symbol.units:
        return Drawing((), (-10.0, -10.0, 10.0, 10.0))
    unit = symbol.units[0]
    primitives = [
        *_body(unit, style),
        *(item for pin in unit.pins for item in _pin(pin, unit, style, pin.number in lit)),
    ]
    x0, y0, _x1, y1 = unit.body
    above = max((p.y for p in unit.pins if p.side == "top"), default=y1)
    below = min((p.y for p in unit.pins if p.side == "bottom"), default=y0)
    reference = (x0, max(above, y1) + style.text) if unit.graphic else (x0, y1 + 0.7 * style.text)
    text = style.text * (1.0 if unit.graphic else 1.1)
    primitives.append(Text(reference, f"{symbol.reference}?", text, "reference", "symbol.reference", "left", "bottom"))
    at = (x0, min(below, y0) - style.text) if unit.graphic else (x0, y0 - 0.7 * style.text)
    primitives.append(Text(at, value, text, "reference", "part.name", "left", "top"))
    ends = [(p.x, p.y, p.x, p.y) for p in unit.pins]
    box = join_boxes(
        [unit.body, *ends, (x0, at[1] - text * 1.4, x0 + style.text_width(value), reference[1] + text * 1.4)]
    )
    return Drawing(tuple(primitives), box)


def _body(unit: SymbolUnit, style: SymbolStyle) -> Iterator[Primitive]:
    if not unit.graphic:
        yield Area(box_outline(unit.body), "symbol body", "symbol")
        return
    graphic = all_graphics()[unit.graphic]
    for area in graphic.areas:
        yield Area(tuple((x * style.grid, y * style.grid) for x, y in area), "symbol body", "symbol")
    for line in graphic.lines:
        yield Line(tuple((x * style.grid, y * style.grid) for x, y in line), "symbol line", "symbol")


def _pin(pin: PlacedPin, unit: SymbolUnit, style: SymbolStyle, lit: bool) -> Iterator[Primitive]:
    place = f"symbol.pins.{pin.number}"
    dx, dy = INWARD[pin.side]
    if unit.graphic:
        end = (pin.x - dx * 0.3, pin.y + 0.5 * style.text)
        yield Text(end, pin.number, 0.7 * style.text, "pin number", place, "right" if dx > 0 else "left", "bottom")
        return
    x0, y0, x1, y1 = unit.body
    edge = {"left": (x0, pin.y), "right": (x1, pin.y), "top": (pin.x, y1), "bottom": (pin.x, y0)}[pin.side]
    yield Line(((pin.x, pin.y), edge), "lit" if lit else "pin", place)
    angle = 90.0 if dy else 0.0
    inset = 0.6 * style.text
    name_at = (edge[0] + dx * inset, edge[1] + dy * inset)
    number_at = (edge[0] - dx * inset, edge[1] + 0.25 * style.text)
    if dy:
        number_at = (edge[0] - 0.25 * style.text, edge[1] - dy * inset)
        reads_up = dy > 0
        yield Text(
            name_at,
            pin.name,
            style.text,
            "pin name",
            place,
            "left" if reads_up else "right",
            "middle",
            angle,
            pin.active_low,
        )
        yield Text(
            number_at,
            pin.number,
            0.75 * style.text,
            "pin number",
            place,
            "right" if reads_up else "left",
            "bottom",
            angle,
        )
        return
    yield Text(
        name_at, pin.name, style.text, "pin name", place, "left" if dx > 0 else "right", "middle", 0.0, pin.active_low
    )
    yield Text(number_at, pin.number, 0.75 * style.text, "pin number", place, "right" if dx > 0 else "left", "bottom")
