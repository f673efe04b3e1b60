"""A graphic drawn for one symbol: rows of places in grids, each coordinate a sum over named lengths."""

from collections.abc import Mapping
from functools import lru_cache

import msgspec

from eider.errors import InputError
from eider.geometry.expressions import LengthError, evaluate_expression
from eider.model.symbol import STROKES, CustomGraphic, GraphicStroke, Symbol
from eider.symbols.graphic_builders import GraphicEntry
from eider.symbols.graphics import find_graphic, graphic_from_entry
from eider.symbols.pin_shapes import Graphic

# The key of a custom graphic among the standard graphics.
CUSTOM = "custom"
MOST_STROKES = 300
# How many places each kind takes (at least, at most), and how many numbers behind the first place.
_PLACES: Mapping[str, tuple[int, int]] = {
    "pin": (1, 1),
    "text": (1, 1),
    "line": (2, 200),
    "area": (3, 200),
    "solid": (3, 200),
}
_NUMBERS: Mapping[str, int] = {"circle": 1, "dot": 1, "arc": 3}
_FARTHEST = 200.0


class CustomGraphicFault(msgspec.Struct, frozen=True):
    """What is wrong with a row (from 1; 0: with a named length or the whole)."""

    row: int
    message: str


def graphic_of(symbol: Symbol, key: str) -> Graphic | None:
    """The graphic that a symbol or one of its units is drawn with: a standard one, or the symbol's own.

    None where there is none, or the custom graphic has faults.
    """
    if key == CUSTOM:
        return _custom_graphic(_frozen(symbol.custom)) if symbol.custom else None
    return find_graphic(key, symbol.measures.form) if key else None


def custom_graphic_faults(custom: CustomGraphic) -> tuple[CustomGraphicFault, ...]:
    """Everything that keeps a custom graphic from being drawn."""
    names, faults = _lengths(custom)
    for index, stroke in enumerate(custom.strokes, start=1):
        try:
            _read(stroke, names)
        except InputError as fault:
            faults.append(CustomGraphicFault(index, str(fault)))
    if not faults and not any(stroke.kind == "pin" for stroke in custom.strokes):
        faults.append(CustomGraphicFault(0, "a custom graphic has no pin yet; add a row “pin” with its point and name"))
    if len(custom.strokes) > MOST_STROKES:
        faults.append(CustomGraphicFault(0, f"a custom graphic has at most {MOST_STROKES} rows"))
    return tuple(faults)


def _frozen(custom: CustomGraphic) -> tuple[tuple[tuple[str, str], ...], tuple[GraphicStroke, ...]]:
    return tuple(custom.lengths.items()), custom.strokes


@lru_cache(64)
def _custom_graphic(frozen: tuple[tuple[tuple[str, str], ...], tuple[GraphicStroke, ...]]) -> Graphic | None:
    custom = CustomGraphic(dict(frozen[0]), frozen[1])
    if custom_graphic_faults(custom):
        return None
    names, _ = _lengths(custom)
    rows: dict[str, list[str]] = {kind: [] for kind in STROKES}
    for stroke in custom.strokes:
        rows[stroke.kind].append(_read(stroke, names))
    fields = {f"{kind}s": tuple(texts) for kind, texts in rows.items()}
    return graphic_from_entry(msgspec.convert({"title": "Custom graphic", **fields}, GraphicEntry))


def _lengths(custom: CustomGraphic) -> tuple[dict[str, float], list[CustomGraphicFault]]:
    names: dict[str, float] = {}
    faults = []
    for name, text in custom.lengths.items():
        try:
            names[name] = evaluate_expression(text, names, "mm")
        except LengthError as fault:
            faults.append(CustomGraphicFault(0, f"{name}: {fault}"))
    return names, faults


def _read(stroke: GraphicStroke, names: Mapping[str, float]) -> str:
    """A row as it would be in the table of standard graphics, its sums worked out.

    Raises:
        InputError: it cannot be drawn.
    """
    pieces = stroke.points.split()
    if stroke.kind not in STROKES:
        raise InputError(f"unknown row “{stroke.kind}”; choose one of {', '.join(STROKES)}")
    if (count := _NUMBERS.get(stroke.kind)) is not None:
        if len(pieces) != count + 1:
            what = "radius" if count == 1 else "radius, from and to in degrees"
            raise InputError(f"a {stroke.kind} is a place and {what}, such as “0,0 1{' 0 180' if count == 3 else ''}”")
        numbers = [evaluate_expression(piece, names, "mm") for piece in pieces[1:]]
        if not 0 < numbers[0] <= _FARTHEST or (count == 3 and not 0 < numbers[2] - numbers[1] <= 360):
            raise InputError(f"a {stroke.kind} needs a radius above zero, and angles that go up by at most 360")
        return " ".join([_place(pieces[0], names), *(f"{n:.9g}" for n in numbers)])
    least, most = _PLACES[stroke.kind]
    if not least <= len(pieces) <= most:
        raise InputError(
            f"a {stroke.kind} needs {least if least == most else f'{least} or more'} places “x,y”, "
            f"this has {len(pieces)}"
        )
    places = [_place(piece, names) for piece in pieces]
    if stroke.kind == "pin" and not all(float(v).is_integer() for v in places[0].split(",")):
        raise InputError(f"a pin stands on whole grids, not at {places[0]}")
    if stroke.kind in ("pin", "text") and not stroke.text.strip():
        raise InputError(f"a {stroke.kind} needs a {'name' if stroke.kind == 'pin' else 'text'}")
    return f"{places[0]} {stroke.text.strip()}" if stroke.kind in ("pin", "text") else " ".join(places)


def _place(text: str, names: Mapping[str, float]) -> str:
    x, comma, y = text.partition(",")
    if not comma:
        raise InputError(f"“{text}” is not a point; enter “x,y” without a space, such as “-2,w/2”")
    values = evaluate_expression(x, names, "mm"), evaluate_expression(y, names, "mm")
    if max(map(abs, values)) > _FARTHEST:
        raise InputError(f"“{text}” lies more than {_FARTHEST:g} grids away")
    return ",".join(f"{v:.9g}" for v in values)


def custom_from_graphic(graphic: Graphic | None) -> CustomGraphic:
    """A custom graphic to begin with: what a standard graphic is made of, or a small box with two pins."""
    if graphic is None:
        box = GraphicStroke("area", "-w/2,-h/2 w/2,-h/2 w/2,h/2 -w/2,h/2")
        pins = (
            GraphicStroke("line", "-w/2-1,0 -w/2,0"),
            GraphicStroke("line", "w/2,0 w/2+1,0"),
            GraphicStroke("pin", "-w/2-1,0", "1"),
            GraphicStroke("pin", "w/2+1,0", "2"),
        )
        return CustomGraphic({"w": "4", "h": "2"}, (box, *pins))
    shapes = [
        GraphicStroke(shape.kind, " ".join(f"{x:.9g},{y:.9g}" for x, y in shape.outline)) for shape in graphic.shapes
    ]
    texts = [GraphicStroke("text", f"{x:.9g},{y:.9g}", word) for (x, y), word in graphic.texts]
    pins_drawn = [GraphicStroke("pin", f"{x:.9g},{y:.9g}", name) for (x, y), name in graphic.pins]
    return CustomGraphic({}, (*pins_drawn, *shapes, *texts))
