"""The symbol as it will stand in a schematic."""

from collections.abc import Collection, Iterator

from eider.drawings.beside import beside
from eider.drawings.layout import text_box
from eider.drawings.primitives import Area, Drawing, Line, Primitive, Text
from eider.geometry.shapes import Outline, box_outline, join_boxes
from eider.model.symbol import PlacedPin, Symbol, SymbolUnit
from eider.symbols.builders import Form
from eider.symbols.graphics import find_graphic
from eider.symbols.style import SymbolStyle, style_of

INWARD = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "top": (0.0, -1.0), "bottom": (0.0, 1.0)}


# Grids between units that are drawn beside each other, and how much wider than high such a drawing may be.
APART, WIDE = 4, 1.8


def symbol_drawing(symbol: Symbol, value: str, lit: Collection[str] = ()) -> Drawing:
    """All units of a symbol in rows, each with reference and value; pins in `lit` are highlighted."""
    if not symbol.units:
        return Drawing((), (-10.0, -10.0, 10.0, 10.0))
    drawings = [unit_drawing(symbol, i, value, lit) for i in range(len(symbol.units))]
    return beside(drawings, APART * symbol.measures.grid, WIDE) if len(drawings) > 1 else drawings[0]


def unit_drawing(symbol: Symbol, index: int, value: str, lit: Collection[str] = ()) -> Drawing:
    """One unit of a symbol with reference and value."""
    unit, style = symbol.units[index], style_of(symbol.measures)
    primitives = [
        *_body(unit, symbol.measures.form, style),
        *(item for pin in unit.pins for item in _pin(pin, unit, style, pin.number in lit)),
    ]
    x0, y0, _x1, y1 = unit.body
    text = style.text * 1.1
    tops = [p for p in unit.pins if p.side == "top"]
    bottoms = [p for p in unit.pins if p.side == "bottom"]
    # Reference above and value below the body, clear of the pins there.
    left = min(p.x for p in unit.pins) if unit.graphic and unit.pins else x0
    reference = (
        (left, y1 + 0.7 * style.text) if not tops else (max(p.x for p in tops) + style.grid / 2, y1 + style.text)
    )
    at = (left, y0 - 0.7 * style.text) if not bottoms else (max(p.x for p in bottoms) + style.grid / 2, y0 - style.text)
    texts = (
        Text(reference, f"{symbol.reference}?{unit.name}", text, "reference", "symbol.reference", "left", "bottom"),
        Text(at, value, text, "reference", "part.name", "left", "top"),
    )
    primitives += texts
    ends = [(p.x, p.y, p.x, p.y) for p in unit.pins]
    box = join_boxes([unit.body, *ends, *(text_box(item) for item in texts)])
    return Drawing(tuple(primitives), box)


def _body(unit: SymbolUnit, form: Form, style: SymbolStyle) -> Iterator[Primitive]:
    if not unit.graphic:
        yield Area(box_outline(unit.body), "symbol body", "symbol")
        return
    graphic, grid = find_graphic(unit.graphic, form), style.grid
    if graphic is None:
        return

    def scaled(outline: Outline) -> Outline:
        return tuple((x * grid, y * grid) for x, y in outline)

    for shape in graphic.shapes:
        outline = scaled(shape.outline)
        if shape.kind == "line":
            yield Line(outline, "symbol line", "symbol")
        else:
            yield Area(outline, "symbol body" if shape.kind == "area" else "symbol solid", "symbol")
    for (x, y), word in graphic.texts:
        yield Text((x * grid, y * grid), word, style.text, "reference", "symbol")


def _pin(pin: PlacedPin, unit: SymbolUnit, style: SymbolStyle, lit: bool) -> Iterator[Primitive]:
    place = f"symbol.pins.{pin.number}"
    dx, dy = INWARD[pin.side]
    if unit.graphic:
        if dy:
            end = (pin.x + 0.3 * style.text, pin.y)
            yield Text(end, pin.number, 0.7 * style.text, "pin number", place, "left", "top" if dy < 0 else "bottom")
            return
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
