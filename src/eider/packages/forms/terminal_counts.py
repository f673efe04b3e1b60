"""Whether a family lays out as many terminals as the sheet says; a count that comes out otherwise is refused."""

from msgspec.structs import replace

from eider.errors import InputError
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted, named
from eider.packages.family import Family, LandRecipe, SheetError
from eider.packages.forms.fused_leads import terminal_of_pin

# Counts that would fit are looked for so far around the one of the sheet.
AROUND = 12


def refuse_wrong_count(sheet: PackageSheet, family: Family, recipe: LandRecipe) -> None:
    """Refuse a sheet whose pins the family cannot lay out one by one.

    Pads by hand say themselves what there is. A number that is left out on purpose has to be one of the package.

    Raises:
        SheetError: fewer or more terminals come out than the sheet says, or a missing number is not one of its own.
    """
    if family.any_letters:
        return
    numbers = _numbers_of(recipe)
    unknown = [number for number in sheet.missing if number in numbers or number not in _all_numbers(sheet, family)]
    if unknown:
        raise SheetError(
            f"{named('pin', unknown)} cannot be missing: the package has no such position; correct the missing pins",
            "missing",
        )
    # Rows of headers and grids count only the pins that are there, other families all positions.
    joined = len(set(terminal_of_pin(sheet)) - numbers)
    if len(numbers) + joined in (sheet.pins, sheet.pins - len(sheet.missing)):
        return
    fitting = _fitting_counts(sheet, family)
    shown = f"; {' or '.join(map(str, fitting))} would fit" if fitting else ""
    sides = "" if not (sheet.left or sheet.right) else " by the numbers of its sides"
    raise SheetError(
        f"{counted(sheet.pins, 'pin')}: the package has {counted(len(numbers), 'terminal')}{sides}{shown}", "pins"
    )


def _numbers(sheet: PackageSheet, family: Family) -> set[str]:
    """The numbers of all that is laid but thermal pads, which no sheet counts among its pins."""
    return _numbers_of(family.lands(sheet, family.dims(sheet)))


def _numbers_of(recipe: LandRecipe) -> set[str]:
    """What counts as pins; of lands without a part the given ones do."""
    own = {manual.pad.number for manual in recipe.manual_pads if manual.pad.number and manual.pad.plated}
    return recipe.laid_numbers | own if recipe.bare else recipe.laid_numbers


def _all_numbers(sheet: PackageSheet, family: Family) -> set[str]:
    """The numbers of all positions; of a family that counts only those that are there, with these counted too."""
    for pins in (sheet.pins, sheet.pins + len(sheet.missing)):
        try:
            return _numbers(replace(sheet, missing=(), pins=pins), family)
        except InputError:
            continue
    return set()


def _fitting_counts(sheet: PackageSheet, family: Family) -> list[int]:
    """The nearest counts of pins, below and above, that the family can lay out."""
    if sheet.left or sheet.right:
        return []
    below = (n for n in range(sheet.pins - 1, max(sheet.pins - AROUND, 0), -1) if _fits(sheet, family, n))
    above = (n for n in range(sheet.pins + 1, sheet.pins + AROUND) if _fits(sheet, family, n))
    return [n for n in (next(below, 0), next(above, 0)) if n]


def _fits(sheet: PackageSheet, family: Family, pins: int) -> bool:
    if family.pin_fault(pins):
        return False
    try:
        return len(_numbers(replace(sheet, pins=pins), family)) == pins - len(sheet.missing)
    except InputError:
        return False
