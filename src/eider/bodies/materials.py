"""Materials and their colours."""

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources

Colour = tuple[float, float, float]


@cache
def _tables() -> Mapping[str, Mapping[str, Colour]]:
    text = (resources.files("eider.bodies") / "materials.toml").read_text(encoding="utf-8")
    return {
        table: {name: tuple(rgb) for name, rgb in entries.items()} for table, entries in tomllib.loads(text).items()
    }


def colours() -> Mapping[str, Colour]:
    """The colour of each material, red, green, blue from 0 to 1."""
    return _tables()["colours"]


def colour_of(material: str) -> Colour:
    """The colour of a material; an unknown one is a neutral grey."""
    return colours().get(material) or _tables()["shown"].get(material, (0.6, 0.6, 0.6))
