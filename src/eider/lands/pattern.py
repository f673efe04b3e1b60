"""From a package sheet, a rulebook and a level to a complete land pattern."""

import re
from collections.abc import Callable, Mapping, Sequence
from string import Formatter

from eider.geometry.lengths import format_length
from eider.lands.adjustments import adjusted_openings, apply_adjustments
from eider.lands.ball_lands import mask_defined_openings
from eider.lands.land_layout import LaidLands, lay_out_lands
from eider.lands.manufacturer_pattern import with_suggested
from eider.lands.pads import manual_openings, with_openings
from eider.lands.silkscreen_courtyard import assembly, courtyard, silkscreen
from eider.lands.silkscreen_overrides import Dressed, post_keep_outs, reference_text, with_overrides
from eider.lands.thermal_lands import thermal_pads, thermal_vias
from eider.model.footprint import Adjustment, Footprint, SilkscreenOverride, SuggestedLands
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level, Pattern
from eider.packages.family import Dims, Family, LandRecipe, SheetError
from eider.packages.forms.name_codes import hundredths, level_letter, tenths
from eider.packages.forms.terminal_counts import refuse_wrong_count
from eider.packages.orientation import PackageOrientation, placed_recipe
from eider.packages.registry import family_of
from eider.packages.sheet_parsing import refuse_negative, refuse_reversed
from eider.rulebooks import Rulebook

# What a name may hold: it becomes a file name.
ALLOWED = re.compile(r"[A-Za-z0-9_.+-]+")


def _plain(mm: float) -> str:
    return format_length(mm, "mm", with_unit=False)


FORMS: Mapping[str, Callable[[float], str]] = {"": hundredths, "tenths": tenths, "mm": _plain}


class NamingError(SheetError):
    """A template that cannot be filled in."""


def template_for(rulebook: Rulebook, family: str) -> str:
    """The template of a family's names; empty where the standard's name is taken."""
    return rulebook.naming.get(family) or rulebook.naming.get("*", "")


def filled(template: str, words: Mapping[str, str], lengths: Mapping[str, float]) -> str:
    """A template with its fields replaced; lengths in mm.

    Raises:
        NamingError: a brace is open, a field is not known, or the result is not a name.
    """
    try:
        pieces = list(Formatter().parse(template))
    except ValueError as fault:
        raise NamingError(f"name template “{template}”: {fault}") from fault
    name = "".join(
        text + ("" if field is None else _field(field, form or "", words, lengths)) for text, field, form, _ in pieces
    )
    if not ALLOWED.fullmatch(name):
        raise NamingError(f"name template “{template}” gives “{name}”; a name is letters, digits and - _ . +")
    return name


def _field(field: str, form: str, words: Mapping[str, str], lengths: Mapping[str, float]) -> str:
    if field in words and not form:
        return words[field]
    if field in lengths and form in FORMS:
        return FORMS[form](lengths[field])
    known = ", ".join((*words, *lengths))
    raise NamingError(f"a name template knows no “{field}{':' if form else ''}{form}” here; it knows {known}")


def pattern_name(sheet: PackageSheet, dims: Dims, level: Level, rulebook: Rulebook, standard: str, ending: str) -> str:
    """The name of a pattern: by the rulebook's template, else the standard's with its `ending` for the level.

    Raises:
        NamingError: the template cannot be filled in.
    """
    template = template_for(rulebook, sheet.family)
    if not template:
        return standard + ending
    words = {
        "standard": standard,
        "level": level_letter(level),
        "density": level,
        "pins": str(sheet.pins),
        "family": sheet.family,
        "kind": sheet.kind.replace(" ", "-"),
    }
    lengths = {letter: limits.upper if letter == "A" else limits.middle for letter, limits in dims.items()}
    return filled(template, words, lengths)


def make_pattern(
    sheet: PackageSheet,
    level: Level,
    rulebook: Rulebook,
    adjustments: Sequence[Adjustment] = (),
    suggested: Sequence[SuggestedLands] = (),
    orientation: PackageOrientation | None = None,
    overrides: Sequence[SilkscreenOverride] = (),
) -> Pattern:
    """Compute the land pattern of a package; groups that the maker's `suggested` numbers give are laid by them.

    The package lies as `orientation` says, or in the rulebook's zero orientation.

    Raises:
        SheetError: a dimension is missing, or the dimensions give no possible lands.
        AdjustmentError, OverrideError: an adjustment has a value that cannot be used.
    """
    family, dims, plain = _recipe(sheet)
    rulebook = rulebook.for_family(sheet.family)
    orientation = zero_orientation(rulebook) if orientation is None else orientation
    recipe = placed_recipe(plain, orientation)
    laid = lay_out_lands(recipe, level, rulebook)
    names = {letter: limits.middle for letter, limits in dims.items()}
    if suggested:
        laid = with_suggested(recipe, laid, suggested, names, rulebook)
    thermal = {plate.number for plate in recipe.plates}
    pads = with_openings(apply_adjustments(laid.pads, adjustments, names), rulebook, thermal)
    pads = mask_defined_openings(pads, recipe, rulebook)
    pads = adjusted_openings(manual_openings(pads, recipe.manual_pads, rulebook), adjustments, names, rulebook)
    text = None if recipe.bare else reference_text(recipe)
    drawn = Dressed(
        silkscreen(pads, recipe, level, rulebook),
        assembly(recipe, rulebook),
        (text,) if text else (),
        (*recipe.keep_outs, *post_keep_outs(pads, rulebook)),
    )
    drawn = with_overrides(drawn, overrides, pads, names, level, rulebook)
    return Pattern(
        name=pattern_name(sheet, dims, level, rulebook, family.name(sheet, dims), name_ending(recipe, level)),
        level=level,
        family=sheet.family,
        pads=pads,
        courtyard=courtyard(pads, drawn.silkscreen, recipe, level, rulebook),
        silkscreen=drawn.silkscreen,
        assembly=drawn.assembly,
        derivation=laid.derivation,
        sizes=laid.sizes,
        # Of the lands as they are: the maker's or a hand change may have made them larger or smaller.
        vias=tuple(via for pad in thermal_pads(pads, recipe) for via in thermal_vias(pad, rulebook)),
        texts=drawn.texts,
        keep_outs=drawn.keep_outs,
        turn=orientation.turn,
        mirrored=orientation.mirrored,
    )


def footprint_pattern(sheet: PackageSheet, footprint: Footprint, rulebook: Rulebook) -> Pattern:
    """The pattern that a footprint's recipe gives; raises as `make_pattern` does."""
    suggested = footprint.suggested if footprint.source == "suggested" else ()
    orientation = orientation_of(footprint, rulebook)
    return make_pattern(
        sheet, footprint.level, rulebook, footprint.adjustments, suggested, orientation, footprint.overrides
    )


def manufacturer_pattern(sheet: PackageSheet, footprint: Footprint, rulebook: Rulebook) -> Pattern:
    """The pattern with the manufacturer's lands, whether the footprint takes them or not; raises as `make_pattern`."""
    orientation = orientation_of(footprint, rulebook)
    return make_pattern(sheet, footprint.level, rulebook, (), footprint.suggested, orientation)


def zero_orientation(rulebook: Rulebook) -> PackageOrientation:
    """How packages lie by the rulebook's zero orientation (IEC 61188-7): 2 is 1 turned by 90° counter-clockwise."""
    return PackageOrientation(quarters=rulebook.orientation - 1)


def orientation_of(footprint: Footprint, rulebook: Rulebook) -> PackageOrientation:
    """How the package lies in a footprint: the rulebook's orientation, and what the footprint says beyond it."""
    return PackageOrientation(zero_orientation(rulebook).quarters + footprint.turn // 90, footprint.mirrored)


def derive_lands(sheet: PackageSheet, level: Level, rulebook: Rulebook) -> LaidLands:
    """Only the lands, without what surrounds them; raises as `make_pattern` does."""
    _, _, recipe = _recipe(sheet)
    return lay_out_lands(recipe, level, rulebook)


def name_ending(recipe: LandRecipe, level: Level) -> str:
    """The letter of the level, with which the names of surface-mount patterns end."""
    return "" if recipe.leads or recipe.bare else level_letter(level)


def _recipe(sheet: PackageSheet) -> tuple[Family, Dims, LandRecipe]:
    """What the lands follow from; refuses a sheet that can give none."""
    family = family_of(sheet.family)
    if fault := family.pin_fault(sheet.pins):
        raise SheetError(f"{sheet.pins} pins: {fault}", "pins")
    refuse_reversed(sheet)
    refuse_negative(sheet, family)
    dims = family.dims(sheet)
    recipe = family.lands(sheet, dims)
    refuse_wrong_count(sheet, family, recipe)
    return family, dims, recipe


def package_name(sheet: PackageSheet) -> str:
    """The name of the package itself, which is the same at every level."""
    family = family_of(sheet.family)
    return family.name(sheet, family.dims(sheet))
