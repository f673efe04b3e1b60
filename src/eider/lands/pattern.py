"""From a package sheet, a rulebook and a level to a complete land pattern."""

from collections.abc import Sequence

from eider.lands.adjustments import adjusted_openings, apply_adjustments
from eider.lands.dressing import assembly, courtyard, silkscreen
from eider.lands.laying import Laid, lay
from eider.lands.pads import own_openings, with_openings
from eider.lands.suggested import with_suggested
from eider.model.footprint import Adjustment, Footprint, SuggestedLands
from eider.model.pattern import Level, Pattern
from eider.model.sheet import PackageSheet
from eider.packages.family import Dims, Family, LandRecipe, SheetError
from eider.packages.names import level_letter
from eider.packages.reading import refuse_reversed
from eider.packages.registry import family_of
from eider.rulebooks import Rulebook


def make_pattern(
    sheet: PackageSheet, level: Level, rulebook: Rulebook, adjustments: Sequence[Adjustment] = (),
    suggested: Sequence[SuggestedLands] = (),
) -> Pattern:  # fmt: skip
    """Compute the land pattern of a package; groups that the maker's `suggested` numbers give are laid by them.

    Raises:
        SheetError: a dimension is missing, or the dimensions give no possible lands.
        AdjustmentError: an adjustment has a value that cannot be used.
    """
    family, dims, recipe = _recipe(sheet)
    laid = lay(recipe, level, rulebook)
    names = {letter: limits.middle for letter, limits in dims.items()}
    if suggested:
        laid = with_suggested(recipe, laid, suggested, names, rulebook)
    thermal = {plate.number for plate in recipe.plates}
    pads = with_openings(apply_adjustments(laid.pads, adjustments, names), rulebook, thermal)
    pads = adjusted_openings(own_openings(pads, recipe.given), adjustments, names)
    ink = silkscreen(pads, recipe, level, rulebook)
    return Pattern(
        name=family.name(sheet, dims) + name_ending(recipe, level),
        level=level,
        family=sheet.family,
        pads=pads,
        courtyard=courtyard(pads, ink, recipe, level, rulebook),
        silkscreen=ink,
        assembly=assembly(recipe, rulebook),
        derivation=laid.derivation,
        sizes=laid.sizes,
        vias=laid.vias,
    )


def footprint_pattern(sheet: PackageSheet, footprint: Footprint, rulebook: Rulebook) -> Pattern:
    """The pattern that a footprint's recipe gives; raises as `make_pattern` does."""
    suggested = footprint.suggested if footprint.source == "suggested" else ()
    return make_pattern(sheet, footprint.level, rulebook, footprint.adjustments, suggested)


def derive(sheet: PackageSheet, level: Level, rulebook: Rulebook) -> Laid:
    """Only the lands, without what surrounds them; raises as `make_pattern` does."""
    _, _, recipe = _recipe(sheet)
    return lay(recipe, level, rulebook)


def name_ending(recipe: LandRecipe, level: Level) -> str:
    """The letter of the level, with which the names of surface-mount patterns end."""
    return "" if recipe.leads else level_letter(level)


def _recipe(sheet: PackageSheet) -> tuple[Family, Dims, LandRecipe]:
    """What the lands follow from; refuses a sheet that can give none."""
    family = family_of(sheet.family)
    if fault := family.pin_fault(sheet.pins):
        raise SheetError(f"{sheet.pins} pins: {fault}", "pins")
    refuse_reversed(sheet)
    dims = family.dims(sheet)
    return family, dims, family.lands(sheet, dims)


def package_name(sheet: PackageSheet) -> str:
    """The name of the package itself, which is the same at every level."""
    family = family_of(sheet.family)
    return family.name(sheet, family.dims(sheet))
