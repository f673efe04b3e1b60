"""Finds the families: each module of `packages.families` declares one."""

import importlib
import pkgutil
from collections.abc import Mapping
from functools import cache

from eider.packages import families
from eider.packages.family import Family, SheetError


@cache
def all_families() -> Mapping[str, Family]:
    """Every family by its key, in the order of the keys."""
    found: dict[str, Family] = {}
    for module in sorted(pkgutil.iter_modules(families.__path__), key=lambda m: m.name):
        family: Family = importlib.import_module(f"{families.__name__}.{module.name}").FAMILY
        if family.key in found:
            raise TypeError(f"two modules declare the family {family.key}")
        found[family.key] = family
    return found


def family_of(key: str) -> Family:
    """The family with this key."""
    try:
        return all_families()[key]
    except KeyError:
        known = ", ".join(all_families())
        raise SheetError(f"there is no package family “{key}”; known are {known}") from None
