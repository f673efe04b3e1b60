"""Finds the families: each module of `packages.families` declares one."""

from collections.abc import Mapping
from functools import cache

import msgspec

from eider.discovery import modules_of
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages import families
from eider.packages.family import Dims, Family, LandRecipe, SheetError
from eider.packages.pads.further_pads import with_further_pads
from eider.rulebooks.rulebook import declare_goals


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
        found[family.key] = _refusing_no_pins(with_further_pads(family))
        declare_goals(family.goals)
    return found


def _refusing_no_pins(family: Family) -> Family:
    """The family, whose lands are asked for only where there are pins to lay; a mounting hole has none."""

    def lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
        if sheet.pins < 1 and (fault := family.pin_fault(sheet.pins)):
            raise SheetError(f"{counted(sheet.pins, 'pin')}: {fault}", "pins")
        return family.lands(sheet, dims)

    return msgspec.structs.replace(family, lands=lands)


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
