"""The primitives of drawings, in mm with y up. Each has a role (which gives its look) and the address it stands for."""

from collections.abc import Iterable
from typing import Literal

import msgspec

from eider.geometry.plane import Box, Outline, Point
from eider.model.address import Address

Horizontal = Literal["left", "middle", "right"]
Vertical = Literal["bottom", "middle", "top"]
Edge = Literal["top", "bottom", "left", "right"]


class Line(msgspec.Struct, frozen=True, gc=False):
    """A polyline; `width` in mm where it is real ink, 0 where the role's hairline is meant."""

    points: Outline
    role: str
    address: Address | None = None
    width: float = 0.0


class Area(msgspec.Struct, frozen=True, gc=False):
    """A filled outline."""

    outline: Outline
    role: str
    address: Address | None = None


class Disc(msgspec.Struct, frozen=True, gc=False):
    """A filled circle."""

    centre: Point
    radius: float
    role: str
    address: Address | None = None


class Text(msgspec.Struct, frozen=True, gc=False):
    """A text; `height` of its capitals in mm, or in points of the screen or paper where `in_points`."""

    at: Point
    text: str
    height: float
    role: str
    address: Address | None = None
    horizontal: Horizontal = "middle"
    vertical: Vertical = "middle"
    angle: float = 0.0
    overbar: bool = False
    in_points: bool = False


class DimensionLine(msgspec.Struct, frozen=True, gc=False):
    """A dimension as datasheets draw it: extension lines, arrows, a letter in a circle, the value.

    `side` tells on which side of the drawing's box it lies and, with it, whether x or y is measured; `row` counts
    outwards from 1. One that is `optional` is left out where its label finds no room between the arrows. `detail` is
    told besides while the dimension is highlighted.
    """

    a: Point
    b: Point
    side: Edge
    letter: str
    text: str
    row: int = 1
    role: str = "dimension"
    address: Address | None = None
    optional: bool = False
    detail: str = ""


class Balloon(msgspec.Struct, frozen=True, gc=False):
    """The numbered mark of a finding; `slot` counts those at one point from 0, so that each has a place of its own."""

    at: Point
    number: int
    severity: str
    address: Address | None = None
    slot: int = 0


class Note(msgspec.Struct, frozen=True):
    """A line of text under everything else in a drawing, such as the unit of its dimensions."""

    text: str
    role: str = "note soft"


Primitive = Line | Area | Disc | Text | DimensionLine | Balloon | Note
Plain = Line | Area | Disc | Text


class Drawing(msgspec.Struct, frozen=True):
    """A drawing: its primitives in the order in which they are painted, and the box of what it shows (mm)."""

    primitives: tuple[Primitive, ...]
    box: Box

    def with_extra(self, extra: Iterable[Primitive]) -> "Drawing":
        """The drawing with more on top of it."""
        return Drawing((*self.primitives, *extra), self.box)


def unit_note(unit: str) -> Note:
    """Says once for a whole drawing in which unit its dimensions are, as drawings do."""
    return Note(f"dimensions in {unit}")


# Finding room for the label of a dimension takes as long as painting so many corners.
LABEL_COST = 400


def costs_more_than(drawing: Drawing, limit: int) -> bool:
    """Whether layout and painting take longer than for so many corners; what has none counts as 1, labels as many."""
    cost = len(drawing.primitives)
    return cost > limit or any((cost := cost + _further_cost(item)) > limit for item in drawing.primitives)


def _further_cost(item: Primitive) -> int:
    if isinstance(item, Line):
        return len(item.points) - 1
    if isinstance(item, Area):
        return len(item.outline) - 1
    return LABEL_COST - 1 if isinstance(item, DimensionLine) else 0
