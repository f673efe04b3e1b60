"""The demo's data, as it is in `parts.toml`, `datasheets.toml` and the pin tables beside them."""

import csv
import io
import tomllib
from functools import cache
from typing import Any

import msgspec

from eider.model.codec import convert
from eider.packaged_data import packaged_text

# How the prefix of a unit, or an ohm without one, is written in a part number.
_LETTERS = {"p": "P", "n": "N", "µ": "U", "k": "K", "M": "M", "Ω": "R"}


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
    rating: str
    dims: dict[str, str]


class ChipSeries(msgspec.Struct, frozen=True):
    """A series of chips in several sizes and values."""

    name: str
    category: str
    maker: str
    outline_page: int
    value_fact: str
    rating_fact: str
    values: tuple[str, ...]
    sizes: tuple[ChipSize, ...]
    facts: dict[str, str]

    def part_name(self, size: str, value: str) -> str:
        """LYN-C1608-100N for 100 nF in 1608; LYN-R1608-4K7 for 4.7 kΩ."""
        number, unit = value.split()
        letter = _LETTERS[unit[0]]
        code = number.replace(".", letter) if "." in number else number + letter
        return f"{self.name}{size}-{code}"

    def described(self, size: ChipSize, value: str) -> str:
        """A line about one part of the series."""
        more = " ".join(self.facts.values())
        return f"Chip {self.category} {value} {size.rating} {more} {size.size}"


class SheetData(msgspec.Struct, frozen=True):
    """The true values of one datasheet: rows of the sheet's letter, min, nom and max as printed.

    `letters` gives the standard's letter for the sheet's; `asides` are rows that are no lengths; `lands` are those of
    the land pattern that the maker suggests.
    """

    name: str
    description: str
    family: str
    pins: int
    unit: str
    rows: tuple[tuple[str, str, str, str], ...]
    asides: tuple[tuple[str, str, str, str], ...]
    letters: dict[str, str]
    missing: tuple[str, ...] = ()
    ways: tuple[int, ...] = ()
    lands: tuple[tuple[str, str, str, str], ...] = ()

    def limits_text(self, row: tuple[str, str, str, str]) -> str:
        """A row's values in a form that a package sheet takes."""
        named = zip(("min", "nom", "max"), row[1:], strict=True)
        return " ".join(f"{word} {value}" for word, value in named if value).replace(",", ".")

    def standard_dims(self) -> dict[str, str]:
        """The values under the standard's letters."""
        return {self.letters[row[0]]: self.limits_text(row) for row in self.rows if row[0] in self.letters}


class PrintedPin(msgspec.Struct, frozen=True):
    """A pin as its datasheet prints it, and what is meant."""

    number: str
    printed: str
    name: str
    active_low: bool
    alternatives: str
    type: str
    description: str


def _text(name: str) -> str:
    return packaged_text(f"demo/{name}")


@cache
def _data() -> dict[str, Any]:
    return tomllib.loads(_text("parts.toml"))


def converter() -> DemoPart:
    """NVK-1216T, the bridge converter of the weighing perch."""
    return convert(_data()["nvk-1216t"], DemoPart, "parts.toml")


def chips(key: str = "lyn-c") -> ChipSeries:
    """LYN-C or LYN-R: chip capacitors or resistors in three sizes and twenty values."""
    return convert(_data()[key], ChipSeries, "parts.toml")


def pin_table_text() -> str:
    """The pin table of NVK-1216T as CSV."""
    return _text("nvk-1216t-pins.csv")


def buffer_text() -> str:
    """The buffer model of NVK-4GT."""
    return _text("nvk-4gt.ibs")


@cache
def sheet_data(key: str) -> SheetData:
    """The true values of a datasheet of `datasheets.toml`."""
    return convert(tomllib.loads(_text("datasheets.toml"))[key], SheetData, "datasheets.toml")


def printed_pins(key: str) -> tuple[PrintedPin, ...]:
    """The pins of a datasheet as they are printed."""
    rows = list(csv.reader(io.StringIO(_text(f"{key}-pins.csv"))))[1:]
    return tuple(
        PrintedPin(n, printed, name, low == "yes", more, kind, about)
        for n, printed, name, low, more, kind, about in rows
    )
