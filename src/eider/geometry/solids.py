"""Neutral solids: what a body is made of, before any CAD kernel knows of it."""

import msgspec

from eider.geometry.shapes import Outline


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
