"""Standard graphics in several channels, one below the other: two op-amps with their supply, four optocouplers."""

import math
import re
from collections.abc import Callable

import msgspec

from eider.geometry.rounding import tidy
from eider.geometry.shapes import Outline, Point, bounds
from eider.model.wording import counted
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
