"""The symbol as it will stand in a schematic."""

from collections.abc import Collection, Iterator

from eider.drawings.drawing_layout import text_box
from eider.drawings.primitives import Area, Drawing, Line, Primitive, Text
from eider.drawings.symbol_pins import pin_primitives
from eider.drawings.tile_drawings import tile_offsets, tile_side_by_side
from eider.geometry.shapes import Outline, Point, box_outline, join_boxes
from eider.model.address import FieldAddress, PinAddress
from eider.model.symbol import PlacedPin, Symbol, SymbolUnit
from eider.symbols.custom_graphic import graphic_of
from eider.symbols.symbol_style import SymbolStyle, style_of

# Grids between units that are drawn beside each other, and how much wider than high such a drawing may be.
APART, WIDE = 4, 1.8
# So many numbers stand in a line of the list of not-connected pins.
LISTED_IN_LINE = 12


# What is no pin and no text of a symbol.
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
    texts = tuple(_texts(symbol, unit, value, style))
    ends = [(p.x, p.y, p.x, p.y) for p in unit.pins]
    told = (*texts, *(item for item in pins if isinstance(item, Text)))
    box = join_boxes([unit.body, *ends, *(text_box(item) for item in told)])
    return Drawing((*_body(symbol, unit), *pins, *texts), box)


def _texts(symbol: Symbol, unit: SymbolUnit, value: str, style: SymbolStyle) -> Iterator[Text]:
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
