"""Materials and how they look: those that every library begins with, and a library's own in their place."""

import tomllib
from collections.abc import Iterable, Mapping
from functools import cache

import msgspec
from msgspec.structs import replace

from eider.geometry.solids import FaceSide, Look, Solid
from eider.model.material import Material
from eider.packaged_data import packaged_text

MaterialTable = Mapping[str, Material]
SHINE = {"matt": 0.0, "satin": 0.35, "gloss": 1.0}
# What is of no known material is a neutral grey.
UNKNOWN = Material("#999999")
SIDE_MARK = "/"
SIDES: tuple[FaceSide, ...] = ("top", "sides", "bottom")


def side_key(solid: str, side: FaceSide) -> str:
    """Under what name a body keeps the material of one side of a solid: `body/top`."""
    return f"{solid}{SIDE_MARK}{side}"


@cache
def _tables() -> Mapping[str, MaterialTable]:
    text = packaged_text("bodies/materials.toml")
    return msgspec.convert(tomllib.loads(text), dict[str, dict[str, Material]])


def standard_materials() -> MaterialTable:
    """The materials that every library begins with."""
    return _tables()["materials"]


def materials_with(own: MaterialTable) -> MaterialTable:
    """The standard materials with a library's own in their place and beside them."""
    return {**standard_materials(), **own} if own else standard_materials()


def look_of(name: str, table: MaterialTable | None = None) -> Look:
    """How a material looks; an unknown one is a neutral grey."""
    found = (table if table is not None else standard_materials()).get(name)
    material = found or _tables()["shown"].get(name, UNKNOWN)
    red, green, blue = (int(material.colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    return Look((red, green, blue), SHINE[material.finish], material.kind)


def with_looks(
    solids: Iterable[Solid], table: MaterialTable, chosen: Mapping[str, str] | None = None
) -> tuple[Solid, ...]:
    """The solids as their materials look; `chosen` names another material of a solid (`body`) or side (`body/top`)."""
    chosen = chosen or {}

    def dressed(solid: Solid) -> Solid:
        material = chosen.get(solid.name, solid.material)
        sides = tuple(
            (side, look_of(chosen[key], table)) for side in SIDES if (key := side_key(solid.name, side)) in chosen
        )
        return replace(solid, material=material, look=look_of(material, table), sides=sides)

    return tuple(map(dressed, solids))
