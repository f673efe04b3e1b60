"""Neutral solids: what a body is made of, before any CAD kernel knows of it."""

import math
from collections.abc import Iterator

import msgspec

from eider.geometry.shapes import Outline, is_area


class Cylinder(msgspec.Struct, frozen=True):
    """An upright cylinder about (x, y), from z0 to z1 (mm)."""

    x: float
    y: float
    radius: float
    z0: float
    z1: float


class Prism(msgspec.Struct, frozen=True):
    """An outline in the plane, raised from z0 to z1 (mm), less the round pockets cut into it."""

    outline: Outline
    z0: float
    z1: float
    pockets: tuple[Cylinder, ...] = ()


class Strip(msgspec.Struct, frozen=True):
    """A bent strip, such as a gull-wing lead: a closed profile in (x, z), drawn along y by `width` about y = 0."""

    profile: Outline
    width: float


class SolidPlacement(msgspec.Struct, frozen=True):
    """Where one instance of a solid stands: moved by (x, y, z) after a turn about z in degrees."""

    x: float = 0.0
    y: float = 0.0
    z: float = 0.0
    turn: float = 0.0


class Solid(msgspec.Struct, frozen=True):
    """A named, coloured shape with all its instances; the shape is made once, however many there are."""

    name: str
    material: str
    shape: Prism | Strip | Cylinder
    placements: tuple[SolidPlacement, ...] = (SolidPlacement(),)


def extent_fault(solid: Solid) -> str:
    """Why a solid encloses no space (“no height”); empty where it does. A CAD kernel may die of one that does not."""
    shape = solid.shape
    if not all(map(math.isfinite, _numbers(solid))):
        return "no finite size"
    if isinstance(shape, Strip):
        if shape.width <= 0:
            return "no width"
        return "" if is_area(shape.profile) else "no thickness"
    if shape.z1 <= shape.z0:
        return "no height"
    if isinstance(shape, Cylinder):
        return "" if shape.radius > 0 else "no diameter"
    if any(pocket.radius <= 0 or pocket.z1 <= pocket.z0 for pocket in shape.pockets):
        return "a pocket without size"
    return "" if is_area(shape.outline) else "no area"


def _numbers(solid: Solid) -> Iterator[float]:
    shape = solid.shape
    for place in solid.placements:
        yield from (place.x, place.y, place.z, place.turn)
    if isinstance(shape, Strip):
        yield shape.width
        yield from (value for point in shape.profile for value in point)
        return
    yield from (shape.z0, shape.z1)
    if isinstance(shape, Cylinder):
        yield from (shape.x, shape.y, shape.radius)
        return
    yield from (value for point in shape.outline for value in point)
    for pocket in shape.pockets:
        yield from (pocket.x, pocket.y, pocket.radius, pocket.z0, pocket.z1)
