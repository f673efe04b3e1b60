"""What a graphic of a symbol is made of, in grid units with y up."""

from typing import Literal

import msgspec

from eider.geometry.plane import Box, Outline, Point


class Shape(msgspec.Struct, frozen=True):
    """A line, an area filled with paper, or one filled with ink (`solid`)."""

    kind: Literal["line", "area", "solid"]
    outline: Outline


class Graphic(msgspec.Struct, frozen=True):
    """A standard graphic in grid units: pins with names in order, shapes one painted over another, texts."""

    title: str
    pins: tuple[tuple[Point, str], ...]
    body: Box
    shapes: tuple[Shape, ...]
    texts: tuple[tuple[Point, str], ...]
