"""The demo's data, as it stands in `parts.toml`."""

import tomllib
from functools import cache
from importlib import resources
from typing import Any

import msgspec

from eider.model.codec import convert


class DemoPart(msgspec.Struct, frozen=True):
    """A part with a datasheet of its own."""

    name: str
    category: str
    description: str
    family: str
    pins: int
    outline_page: int
    aliases: dict[str, str]
    dims: dict[str, str]
    facts: dict[str, str]


class ChipSize(msgspec.Struct, frozen=True):
    """One size of a chip series."""

    size: str
    voltage: str
    dims: dict[str, str]


class ChipSeries(msgspec.Struct, frozen=True):
    """A series of chips in several sizes and values."""

    category: str
    maker: str
    outline_page: int
    values: tuple[str, ...]
    tolerance: str
    dielectric: str
    sizes: tuple[ChipSize, ...]


@cache
def _data() -> dict[str, Any]:
    return tomllib.loads((resources.files("eider.demo") / "parts.toml").read_text(encoding="utf-8"))


def converter() -> DemoPart:
    """NVK-1216T, the bridge converter of the weighing perch."""
    return convert(_data()["nvk-1216t"], DemoPart, "parts.toml")


def chips() -> ChipSeries:
    """LYN-C, chip capacitors in three sizes."""
    return convert(_data()["lyn-c"], ChipSeries, "parts.toml")


def pin_table_text() -> str:
    """The pin table of NVK-1216T as CSV."""
    return (resources.files("eider.demo") / "nvk-1216t-pins.csv").read_text(encoding="utf-8")
