"""Standard graphics of discretes, from their proportions in `graphics.toml`."""

import tomllib
from collections.abc import Mapping, Sequence
from functools import cache
from importlib import resources

import msgspec

from eider.geometry.rounding import tidy
from eider.geometry.shapes import Box, Outline, Point
from eider.model.codec import convert
from eider.model.symbol import Pin, PlacedPin, SymbolUnit
from eider.symbols.style import DEFAULT_STYLE, SymbolStyle


class Graphic(msgspec.Struct, frozen=True):
    """A standard graphic in grid units."""

    title: str
    pins: tuple[Point, ...]
    body: Box
    lines: tuple[Outline, ...]
    areas: tuple[Outline, ...]


@cache
def all_graphics() -> Mapping[str, Graphic]:
    """Every standard graphic by its key."""
    text = (resources.files("eider.symbols") / "graphics.toml").read_text(encoding="utf-8")
    return convert(tomllib.loads(text), dict[str, Graphic], "graphics.toml")


def graphic_unit(key: str, pins: Sequence[Pin], style: SymbolStyle = DEFAULT_STYLE) -> SymbolUnit | None:
    """The unit of a symbol drawn with a graphic (mm); None where the graphic is not known or the pins do not fit it."""
    graphic = all_graphics().get(key)
    if graphic is None or len(graphic.pins) != len(pins):
        return None
    placed = tuple(
        PlacedPin(
            pin.number,
            pin.name,
            pin.type,
            tidy(x * style.grid),
            tidy(y * style.grid),
            "left" if x < 0 else "right",
            pin.active_low,
        )
        for pin, (x, y) in zip(pins, graphic.pins, strict=True)
    )
    x0, y0, x1, y1 = (tidy(v * style.grid) for v in graphic.body)
    return SymbolUnit(pins=placed, body=(x0, y0, x1, y1), graphic=key)
