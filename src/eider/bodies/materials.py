"""Materials and their colours."""

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources

Colour = tuple[float, float, float]


@cache
def colours() -> Mapping[str, Colour]:
    """The colour of each material, red, green, blue from 0 to 1."""
    text = (resources.files("eider.bodies") / "materials.toml").read_text(encoding="utf-8")
    return {name: tuple(rgb) for name, rgb in tomllib.loads(text)["colours"].items()}


def colour_of(material: str) -> Colour:
    """The colour of a material; an unknown one is a neutral grey."""
    return colours().get(material, (0.6, 0.6, 0.6))
