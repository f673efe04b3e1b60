"""Standard graphics of discretes and gates, from their proportions in `graphics.toml`, in IEC and in IEEE form."""

import math
import re
import tomllib
from collections.abc import Callable, Mapping, Sequence
from functools import cache, lru_cache

import msgspec

from eider.geometry.plane import Box, Outline, Point, bounds
from eider.geometry.rounding import tidy
from eider.model.codec import convert
from eider.model.symbol import Pin, PlacedPin, Side, SymbolUnit
from eider.model.wording import counted
from eider.packaged_data import packaged_text
from eider.symbols.graphic_builders import OVERRIDES, Form, GraphicEntry, build
from eider.symbols.pin_shapes import Graphic, Shape

MOST_CHANNELS = 32
_KEY = re.compile(r"(?P<base>[a-z0-9-]+)/(?P<count>\d+)(?P<supply>-supply)?")
# Graphics whose body is the triangle of an amplifier: the supply comes in at the middle of its slanted edges.
AMPLIFIERS = ("op-amp", "comparator")
_EDGE, _END = 0.95, 3.0


def channels(key: str, base_of: Callable[[str], Graphic | None]) -> Graphic | None:
    """What a key such as `op-amp/2-supply` or `optocoupler/4` stands for; `base_of` finds the graphic of one channel.

    Pins bear the channel's number before their name; those of a supply come last. None where the key is no such.
    """
    match = _KEY.fullmatch(key)
    base = base_of(match["base"]) if match else None
    if match is None or base is None or not base.pins:
        return None
    count, supply = int(match["count"]), bool(match["supply"])
    if not (1 if supply else 2) <= count <= MOST_CHANNELS or (supply and match["base"] not in AMPLIFIERS):
        return None
    pitch = _pitch(base)
    first = (count - 1) // 2 * pitch
    offsets = [first - i * pitch for i in range(count)]
    pins = tuple(
        ((x, y + dy), _name(name, i, len(base.pins), at))
        for i, dy in enumerate(offsets)
        for at, ((x, y), name) in enumerate(base.pins)
    )
    shapes = tuple(
        msgspec.structs.replace(shape, outline=_down(shape.outline, dy)) for dy in offsets for shape in base.shapes
    )
    texts = tuple(((x, y + dy), word) for dy in offsets for (x, y), word in base.texts)
    if supply:
        ends: tuple[tuple[Point, float, str], ...] = (
            ((0.0, offsets[0] + _END), offsets[0] + _EDGE, "V+"),
            ((0.0, offsets[-1] - _END), offsets[-1] - _EDGE, "V-"),
        )
        shapes += tuple(Shape("line", (end, (0.0, edge))) for end, edge, _ in ends)
        pins += tuple((end, name) for end, _, name in ends)
    outer = {point for point, _ in pins}
    inner = [p for shape in shapes for p in shape.outline if p not in outer]
    title = f"{base.title}, {counted(count, 'channel')}{' with supply' if supply else ''}"
    return Graphic(title, pins, bounds(inner), shapes, texts)


def _pitch(base: Graphic) -> int:
    """Whole grids from channel to channel, so that nothing of two touches."""
    points = [p for shape in base.shapes for p in shape.outline] + [p for p, _ in base.pins]
    _x0, low, _x1, high = bounds(points)
    return math.ceil(high - low + 0.2)


def _name(name: str, channel: int, pins: int, at: int) -> str:
    """Numbers go on from channel to channel; names bear the channel's number."""
    return str(channel * pins + at + 1) if name.isdecimal() else f"{channel + 1}{name}"


def _down(outline: Outline, dy: float) -> Outline:
    return tuple((x, tidy(y + dy)) for x, y in outline)


FORMS: tuple[Form, ...] = ("iec", "ieee")
# Arcs are drawn as polylines with steps of this many degrees.
ARC_STEP = 10.0
DEEPEST = 8


class _Table(msgspec.Struct, frozen=True):
    graphic: dict[str, GraphicEntry]
    piece: dict[str, GraphicEntry]


class _Gathered(msgspec.Struct):
    """What a graphic is made of, in the order in which it is painted."""

    shapes: list[Shape] = msgspec.field(default_factory=list)
    texts: list[tuple[Point, str]] = msgspec.field(default_factory=list)


@cache
def _table() -> _Table:
    text = packaged_text("symbols/graphics.toml")
    return convert(tomllib.loads(text), _Table, "graphics.toml")


@cache
def all_graphics(form: Form = "iec") -> Mapping[str, Graphic]:
    """Every standard graphic by its key, in one of the two forms."""
    return {key: _made(key, form) for key in _table().graphic}


def find_graphic(key: str, form: Form = "iec") -> Graphic | None:
    """A graphic of the table, or one built from a key with numbers (`connector-pins/2x5`); None where neither."""
    return all_graphics(form).get(key) or built(key, form)


@lru_cache(256)
def built(key: str, form: Form) -> Graphic | None:
    """A graphic that a builder makes from its key, or one of the table in several channels."""
    entry = build(key, form)
    return graphic_from_entry(entry, form) if entry is not None else channels(key, all_graphics(form).get)


def has_forms(key: str) -> bool:
    """Whether a graphic differs between the two forms."""
    return find_graphic(key, "iec") != find_graphic(key, "ieee")


def graphic_unit(key: str, graphic: Graphic, pins: Sequence[Pin], grid: float) -> SymbolUnit:
    """The unit of a symbol drawn with a graphic (mm), whose pins there are as many as it has."""
    placed = tuple(
        PlacedPin(
            pin.number,
            pin.name,
            pin.type,
            tidy(x * grid),
            tidy(y * grid),
            _side((x, y), graphic.body),
            pin.active_low,
            pin.shape,
            pin.shown,
        )
        for pin, ((x, y), _) in zip(pins, graphic.pins, strict=True)
    )
    x0, y0, x1, y1 = (tidy(v * grid) for v in graphic.body)
    return SymbolUnit(pins=placed, body=(x0, y0, x1, y1), graphic=key)


def graphic_pins(key: str) -> tuple[Pin, ...]:
    """The pins that a graphic begins with: numbered in order, with its names; none where it is unknown."""
    graphic = find_graphic(key)
    if graphic is None:
        return ()
    return tuple(
        Pin(str(i), "" if name.isdecimal() else name, type="passive")
        for i, (_, name) in enumerate(graphic.pins, start=1)
    )


def _side(end: Point, body: Box) -> Side:
    """The side on which a pin stands: where it lies farthest outside of the body."""
    x, y = end
    out: dict[Side, float] = {"left": body[0] - x, "right": x - body[2], "top": y - body[3], "bottom": body[1] - y}
    return max(out, key=lambda side: out[side])


def _in_form(entry: GraphicEntry, form: Form) -> GraphicEntry:
    """An entry in a form: what IEEE says in place of what IEC says."""
    if form == "iec" or entry.ieee is None:
        return entry
    said = {name: getattr(entry.ieee, name) for name in OVERRIDES}
    return msgspec.structs.replace(entry, **{name: value for name, value in said.items() if value is not None})


def _made(key: str, form: Form) -> Graphic:
    return graphic_from_entry(_table().graphic[key], form)


def graphic_from_entry(entry: GraphicEntry, form: Form = "iec") -> Graphic:
    """What an entry of the table gives."""
    gathered = _Gathered()
    pins = _gather(entry, form, gathered, 0)
    ends = {point for point, _ in pins}
    inner = [p for shape in gathered.shapes for p in shape.outline if p not in ends]
    return Graphic(entry.title, pins, bounds(inner), tuple(gathered.shapes), tuple(gathered.texts))


def _gather(entry: GraphicEntry, form: Form, gathered: _Gathered, depth: int) -> tuple[tuple[Point, str], ...]:
    """Put the shapes of a graphic, and of those it is based on, together; returns its pins."""
    if depth > DEEPEST:
        raise ValueError(f"graphics.toml: {entry.title} is based on itself")
    entry = _in_form(entry, form)
    pins: tuple[tuple[Point, str], ...] = ()
    if entry.base:
        pins = _gather(_table().graphic[entry.base], form, gathered, depth + 1)
        if entry.texts is not None:
            gathered.texts.clear()
    _add(entry, gathered, (0.0, 0.0))
    for mark in entry.marks or ():
        name, place = mark.split(" ")
        _add(_table().piece[name], gathered, _point(place))
    return tuple(map(_named, entry.pins)) or pins


def _add(entry: GraphicEntry, gathered: _Gathered, at: Point) -> None:
    """Areas first, lines over them, ink at last."""
    areas = [*map(_points, entry.areas or ()), *(_ring(text) for text in entry.circles or ())]
    lines = [*map(_points, entry.lines or ()), *(_arc(_numbers(text)) for text in entry.arcs or ())]
    solids = [*map(_points, entry.solids or ()), *(_ring(text) for text in entry.dots or ())]
    gathered.shapes += [Shape("area", _moved(outline, at)) for outline in areas]
    gathered.shapes += [Shape("line", _moved(outline, at)) for outline in lines]
    gathered.shapes += [Shape("solid", _moved(outline, at)) for outline in solids]
    gathered.texts += [((x + at[0], y + at[1]), word) for (x, y), word in map(_named, entry.texts or ())]


def _moved(outline: Outline, at: Point) -> Outline:
    return tuple((tidy(x + at[0]), tidy(y + at[1])) for x, y in outline)


def _point(text: str) -> Point:
    x, y = text.split(",")
    return float(x), float(y)


def _points(text: str) -> Outline:
    return tuple(map(_point, text.split()))


def _named(text: str) -> tuple[Point, str]:
    place, _, word = text.partition(" ")
    return _point(place), word


def _numbers(text: str) -> list[float]:
    return [float(v) for v in text.replace(",", " ").split()]


def _arc(numbers: Sequence[float]) -> Outline:
    """A polyline along an arc: middle, radius, from, to."""
    x, y, radius, start, stop = numbers
    count = max(2, round((stop - start) / ARC_STEP))
    angles = [math.radians(start + (stop - start) * i / count) for i in range(count + 1)]
    return tuple((x + radius * math.cos(a), y + radius * math.sin(a)) for a in angles)


def _ring(text: str) -> Outline:
    """The outline of a circle: middle and radius."""
    return _arc([*_numbers(text), 0.0, 360.0])[:-1]
