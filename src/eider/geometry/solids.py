"""Neutral solids: what a body is made of, before any CAD kernel knows of it."""

import math
from collections.abc import Iterator
from typing import Literal

import msgspec

from eider.geometry.bends import inset_outline
from eider.geometry.plane import Outline, Point
from eider.geometry.shapes import is_area


class Cylinder(msgspec.Struct, frozen=True):
    """An upright cylinder about (x, y), from z0 to z1 (mm)."""

    x: float
    y: float
    radius: float
    z0: float
    z1: float


class Prism(msgspec.Struct, frozen=True):
    """An outline in the plane, raised from z0 to z1 (mm), less the round pockets cut into it.

    With a `draft` the outline is that at half the height, where a mould parts; bottom and top are smaller by so much
    all round (mm).
    """

    outline: Outline
    z0: float
    z1: float
    pockets: tuple[Cylinder, ...] = ()
    draft: float = 0.0


class Strip(msgspec.Struct, frozen=True):
    """A bent strip, such as a gull-wing lead: a closed profile in (x, z), drawn along y by `width` about y = 0.

    `bends` are corners of the profile that are rounded, each with its radius (mm).
    """

    profile: Outline
    width: float
    bends: tuple[tuple[Point, float], ...] = ()


class Ball(msgspec.Struct, frozen=True):
    """A ball about (x, y, z) (mm), cut off level below z0 and above z1 where these lie inside it."""

    x: float
    y: float
    z: float
    radius: float
    z0: float
    z1: float


class Revolved(msgspec.Struct, frozen=True):
    """A closed profile in (r, z), turned about the upright axis through (x, y) (mm)."""

    profile: Outline
    x: float = 0.0
    y: float = 0.0


Shape = Prism | Strip | Cylinder | Ball | Revolved


class EdgeTreatment(msgspec.Struct, frozen=True):
    """Which edges of a solid are rounded by a radius or chamfered (mm): level ones on top, upright ones, or all."""

    which: Literal["top", "upright", "all"]
    size: float
    chamfered: bool = False


class SolidPlacement(msgspec.Struct, frozen=True):
    """Where one instance of a solid stands: moved by (x, y, z) after a turn about z in degrees."""

    x: float = 0.0
    y: float = 0.0
    z: float = 0.0
    turn: float = 0.0


# Classes of materials that stay solid where a body is shown see-through.
OPAQUE = frozenset({"metal", "board", "ink"})


class Look(msgspec.Struct, frozen=True):
    """How a material looks: colour (red, green, blue) and shine from 0 to 1, and of which class it is."""

    colour: tuple[float, float, float] = (0.6, 0.6, 0.6)
    shine: float = 0.0
    kind: str = "plastic"

    @property
    def is_opaque(self) -> bool:
        """Whether it stays solid where a body is shown see-through."""
        return self.kind in OPAQUE


FaceSide = Literal["top", "sides", "bottom"]
# A face whose normal rises or falls by more than this (its z) is one of the top or bottom.
RISING = 0.7


def face_side(rise: float) -> FaceSide:
    """On which side of a solid a face lies, by the z of its outward normal."""
    return "top" if rise > RISING else "bottom" if rise < -RISING else "sides"


class Solid(msgspec.Struct, frozen=True):
    """A named, coloured shape with all its instances; the shape is made once, however many there are.

    What it `joins` is one with it; then `edges` are treated, then the `cuts` are taken out. `sides` look otherwise than
    the rest.
    """

    name: str
    material: str
    shape: Shape
    placements: tuple[SolidPlacement, ...] = (SolidPlacement(),)
    edges: EdgeTreatment | None = None
    cuts: tuple[Shape, ...] = ()
    joins: tuple[Shape, ...] = ()
    look: Look = Look()
    sides: tuple[tuple[FaceSide, Look], ...] = ()


def extent_fault(solid: Solid) -> str:
    """Why a solid encloses no space (“no height”); empty where it does. A CAD kernel may die of one that does not."""
    places = (v for place in solid.placements for v in (place.x, place.y, place.z, place.turn))
    if not all(map(math.isfinite, places)):
        return "no finite size"
    faults = (_shape_fault(shape) for shape in (solid.shape, *solid.joins, *solid.cuts))
    return next((fault for fault in faults if fault), "")


def _shape_fault(shape: Shape) -> str:
    if not all(map(math.isfinite, _numbers(shape))):
        return "no finite size"
    if isinstance(shape, Strip):
        if shape.width <= 0:
            return "no width"
        return "" if is_area(shape.profile) else "no thickness"
    if isinstance(shape, Revolved):
        if min(r for r, _ in shape.profile) < 0:
            return "a profile beyond its axis"
        return "" if is_area(shape.profile) else "no thickness"
    if shape.z1 <= shape.z0:
        return "no height"
    if isinstance(shape, Ball):
        is_there = shape.radius > 0 and shape.z0 < shape.z + shape.radius and shape.z1 > shape.z - shape.radius
        return "" if is_there else "no diameter"
    if isinstance(shape, Cylinder):
        return "" if shape.radius > 0 else "no diameter"
    return _prism_fault(shape)


def _prism_fault(prism: Prism) -> str:
    if any(pocket.radius <= 0 or pocket.z1 <= pocket.z0 for pocket in prism.pockets):
        return "a pocket without size"
    if not is_area(prism.outline):
        return "no area"
    return "" if not prism.draft or is_area(inset_outline(prism.outline, prism.draft)) else "no area on top"


def _numbers(shape: Shape) -> Iterator[float]:
    if isinstance(shape, Strip):
        yield shape.width
        yield from (value for point in shape.profile for value in point)
    elif isinstance(shape, Revolved):
        yield from (shape.x, shape.y)
        yield from (value for point in shape.profile for value in point)
    elif isinstance(shape, Ball):
        yield from (shape.x, shape.y, shape.z, shape.radius, shape.z0, shape.z1)
    elif isinstance(shape, Cylinder):
        yield from (shape.z0, shape.z1, shape.x, shape.y, shape.radius)
    else:
        yield from (shape.z0, shape.z1)
        yield from (value for point in shape.outline for value in point)
        for pocket in shape.pockets:
            yield from _numbers(pocket)
