"""Finds the families: each module of `packages.families` declares one."""

from collections.abc import Callable, Mapping
from functools import cache
from typing import TypeVar

import msgspec

from eider.discovery import modules_of
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages import families
from eider.packages.family import Dims, Family, LandRecipe, SheetError
from eider.packages.pads.further_pads import with_further_pads
from eider.rulebooks.rulebook import declare_goals

# No package has more terminals; a slip of a digit would take all memory before anything is drawn.
MOST_POSITIONS = 20_000
R = TypeVar("R")


@cache
def all_families() -> Mapping[str, Family]:
    """Every family by its key, in the order of the keys.

    Raises:
        TypeError: two modules declare one key.
    """
    found: dict[str, Family] = {}
    for module in modules_of(families):
        family: Family = module.FAMILY
        if family.key in found:
            raise TypeError(f"two modules declare the family {family.key}")
        found[family.key] = _refusing_impossible_counts(with_further_pads(family))
        declare_goals(family.goals)
    return found


def _refusing_impossible_counts(family: Family) -> Family:
    """The family, which is asked only about packages that can exist: a row of 0 pins and a grid of millions cannot."""

    def require_possible(sheet: PackageSheet) -> None:
        positions = max(sheet.pins, (sheet.rows or 1) * (sheet.columns or 1), sheet.pins_d or 0, sheet.pins_e or 0)
        if positions > MOST_POSITIONS:
            raise SheetError(f"{positions:,} positions: a package has {MOST_POSITIONS:,} at most", "pins")

    def lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
        require_possible(sheet)
        if sheet.pins < 1 and (fault := family.pin_fault(sheet.pins)):
            raise SheetError(f"{counted(sheet.pins, 'pin')}: {fault}", "pins")
        return family.lands(sheet, dims)

    def guarded(function: Callable[[PackageSheet, Dims], R]) -> Callable[[PackageSheet, Dims], R]:
        def call(sheet: PackageSheet, dims: Dims) -> R:
            require_possible(sheet)
            return function(sheet, dims)

        return call

    return msgspec.structs.replace(
        family,
        lands=lands,
        terminals=guarded(family.terminals),
        views=guarded(family.views),
        solids=guarded(family.solids),
    )


def family_of(key: str) -> Family:
    """The family with this key.

    Raises:
        SheetError: there is no such family.
    """
    try:
        return all_families()[key]
    except KeyError:
        known = ", ".join(all_families())
        raise SheetError(f"unknown package family “{key}”; choose one of {known}") from None
