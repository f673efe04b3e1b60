"""The settings of a library: `eider-library.toml`."""

import msgspec

from eider.model.symbol import SymbolMeasures

LIBRARY_FORMAT = 2


class FactField(msgspec.Struct, frozen=True, omit_defaults=True):
    """One parameter that parts of a category have. `also` are spellings that mean the same."""

    name: str
    required: bool = False
    unit: str = ""
    also: tuple[str, ...] = ()


class Category(msgspec.Struct, frozen=True, omit_defaults=True):
    """A class of parts: its reference letter, its facts, and how its parts are named (a regular expression)."""

    title: str
    reference: str
    facts: tuple[FactField, ...] = ()
    name_pattern: str = ""
    name_example: str = ""
    graphic: str = ""


class LibrarySettings(msgspec.Struct, frozen=True, kw_only=True):
    """Name, format version, categories, defaults, and how symbols are drawn in one library."""

    format: int = LIBRARY_FORMAT
    name: str
    rulebook: str = "standard"
    catalogue: str = ""
    categories: dict[str, Category] = {}
    symbols: SymbolMeasures = SymbolMeasures()
