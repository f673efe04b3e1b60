"""The table of naming conventions, read once from `conventions.toml`."""

import re
import tomllib
from collections.abc import Mapping
from functools import cache

import msgspec

from eider.model.codec import convert
from eider.packaged_data import packaged_text


class TypeRule(msgspec.Struct, frozen=True):
    """Names that fit `pattern` are commonly of this type; `ground` marks grounds and negative supplies."""

    pattern: str
    type: str
    confidence: float
    ground: bool = False

    def fits(self, name: str) -> bool:
        """Whether the whole name fits."""
        return re.fullmatch(self.pattern, name, re.IGNORECASE) is not None


class ActiveLowRules(msgspec.Struct, frozen=True):
    """Control signals for which weak marks of active low count."""

    controls: frozenset[str]


class FacingRules(msgspec.Struct, frozen=True):
    """Words of names that belong to each other."""

    pairs: tuple[tuple[str, str], ...]


class BankRules(msgspec.Struct, frozen=True):
    """Patterns of whole names whose group is the number of a bank."""

    patterns: tuple[str, ...]


class Conventions(msgspec.Struct, frozen=True):
    """What names, type words and column headings mean."""

    active_low: ActiveLowRules
    opposite: FacingRules
    banks: BankRules
    types: tuple[TypeRule, ...]
    words: Mapping[str, tuple[str, ...]]
    columns: Mapping[str, tuple[str, ...]]


@cache
def conventions() -> Conventions:
    """The conventions that ship with Eider."""
    text = packaged_text("symbols/conventions.toml")
    return convert(tomllib.loads(text), Conventions, "conventions.toml")
