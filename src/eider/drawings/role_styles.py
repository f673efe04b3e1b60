"""From role to look, one table for screen, SVG and PDF."""

import tomllib
from collections.abc import Mapping
from functools import cache

import msgspec

from eider.model.codec import convert
from eider.packaged_data import packaged_text


class Style(msgspec.Struct, frozen=True):
    """How a role looks: colours as `#RRGGBB` or empty, line width and dashes in points."""

    stroke: str = ""
    fill: str = ""
    width: float = 1.0
    dash: tuple[float, ...] = ()
    alpha: float = 1.0


Palette = Mapping[str, str]


@cache
def _tables() -> tuple[dict[str, dict[str, str]], dict[str, Style]]:
    data = tomllib.loads(packaged_text("drawings/styles.toml"))
    return data["palette"], convert(data["role"], dict[str, Style], "styles.toml")


def palette(name: str = "light") -> Palette:
    """The colours of an appearance, `light` or `dark`, by name."""
    return _tables()[0][name]


@cache
def styles(appearance: str = "light") -> Mapping[str, Style]:
    """The style of every role in an appearance."""
    colours, roles = _tables()
    chosen = colours[appearance]
    return {
        role: msgspec.structs.replace(
            style, stroke=chosen[style.stroke] if style.stroke else "", fill=chosen[style.fill] if style.fill else ""
        )
        for role, style in roles.items()
    }
