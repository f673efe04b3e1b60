"""Writes the symbols of parts as EDIF 2 0 0: a cell for each unit, lengths in whole micrometres."""

from collections.abc import Iterable, Iterator, Sequence

from eider import __version__
from eider.drawings.primitives import Area, Disc, Line
from eider.drawings.symbol_drawing import unit_drawing
from eider.exchange.formats.edif.expressions import identifier, quoted
from eider.geometry.plane import Point
from eider.model.bundle import Bundle
from eider.model.symbol import PlacedPin, SymbolUnit

# Electrical types that EDIF has a word for; the others are in a property.
DIRECTIONS = {"input": "INPUT", "output": "OUTPUT", "tri-state": "OUTPUT", "bidirectional": "INOUT"}
PART, UNIT, PIN_TYPE, ACTIVE_LOW, REFERENCE, SWAP = "PART", "UNIT", "PINTYPE", "ACTIVELOW", "REFERENCE", "SWAP"


def edif_file(bundles: Iterable[Bundle]) -> bytes:
    """The file of the symbols of some parts, in ASCII."""
    cells = [line for index, part in enumerate(bundles, start=1) for line in _cells(part, index)]
    head = [
        "(edif PARTS (edifVersion 2 0 0) (edifLevel 0) (keywordMap (keywordLevel 0))",
        f'(status (written (timeStamp 1970 1 1 0 0 0) (program "Eider" (version {quoted(__version__)}))))',
        "(library PARTS (edifLevel 0)",
        "(technology (numberDefinition (scale 1 (e 1 -6) (unit distance)))",
        " (figureGroup BODY) (figureGroup PINS))",
    ]
    return "\n".join([*head, *cells, "))", ""]).encode("ascii")


def _cells(part: Bundle, index: int) -> Iterator[str]:
    units = part.symbol.units
    for number, unit in enumerate(units, start=1):
        name = part.part.name if len(units) == 1 else f"{part.part.name} {unit.name or number}"
        yield f"(cell {identifier(name, f'CELL{index}U{number}')} (cellType generic)"
        yield " (view SYMBOL (viewType schematic) (interface"
        pins = list(unit.pins)
        for place, pin in enumerate(pins, start=1):
            yield f"  {_port(part, pin, place)}"
        yield f"  {_symbol(part, number - 1, pins)}"
        yield "  ))"
        about = {PART: part.part.name, UNIT: unit.name, REFERENCE: part.symbol.reference, SWAP: unit.swap}
        facts = {name: fact.value for name, fact in part.part.facts.items()}
        if number > 1:
            # The facts of a part are at its first unit.
            facts = {}
        for count, (key, value) in enumerate({**about, **facts}.items(), start=1):
            if value:
                yield f" {_property(key, value, f'PROPERTY{count}')}"
        yield ")"


def _port(part: Bundle, pin: PlacedPin, place: int) -> str:
    known = next((p for p in part.symbol.pins if p.number == pin.number), None)
    direction = f" (direction {DIRECTIONS[pin.type]})" if pin.type in DIRECTIONS else ""
    low = f" (property {ACTIVE_LOW} (boolean (true)))" if pin.active_low else ""
    group = f" {_property('GROUP', known.group, 'GROUP')}" if known and known.group else ""
    # Several pins may have one name, and a port needs its own.
    return (
        f"(port (rename P{place} {quoted(pin.name)}){direction} (designator {quoted(pin.number)})"
        f" {_property(PIN_TYPE, pin.type, PIN_TYPE)}{low}{group})"
    )


def _property(name: str, value: str, typical: str) -> str:
    return f"(property {identifier(name, typical)} (string {quoted(value)}))"


def _symbol(part: Bundle, index: int, pins: Sequence[PlacedPin]) -> str:
    unit = part.symbol.units[index]
    x0, y0, x1, y1 = unit.body
    box = f"(boundingBox (rectangle {_pt((x0, y0))} {_pt((x1, y1))}))"
    figures = "\n   ".join(_figures(part, index))
    ports = "\n   ".join(_implementation(unit, pin, place) for place, pin in enumerate(pins, start=1))
    shown = f"(keywordDisplay designator (display BODY (justify LOWERLEFT) (origin {_pt((x0, y1))})))"
    return f"(symbol {box}\n   (figure BODY {figures})\n   {ports}\n   {shown})"


def _figures(part: Bundle, index: int) -> Iterator[str]:
    """What is drawn of a unit beside its pins' lines and texts."""
    for item in unit_drawing(part.symbol, index, part.part.name).primitives:
        if not isinstance(item, Area | Line | Disc) or not item.role.startswith("symbol"):
            continue
        if isinstance(item, Area):
            yield _path((*item.outline, item.outline[0]))
        elif isinstance(item, Line):
            yield _path(item.points)
        else:
            (x, y), radius = item.centre, item.radius
            yield f"(circle {_pt((x - radius, y))} {_pt((x + radius, y))})"


def _implementation(unit: SymbolUnit, pin: PlacedPin, place: int) -> str:
    x0, y0, x1, y1 = unit.body
    root = {"left": (x0, pin.y), "right": (x1, pin.y), "top": (pin.x, y1), "bottom": (pin.x, y0)}[pin.side]
    return (
        f"(portImplementation P{place} (connectLocation (figure PINS (dot {_pt((pin.x, pin.y))})))"
        f" (figure PINS {_path(((pin.x, pin.y), root))}))"
    )


def _path(points: Sequence[Point]) -> str:
    return f"(path (pointList {' '.join(map(_pt, points))}))"


def _pt(point: Point) -> str:
    return f"(pt {round(point[0] * 1000)} {round(point[1] * 1000)})"
