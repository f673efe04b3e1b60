"""Runs the recipes of a part: reads the sheet, computes the lands, arranges the symbol, measures the body."""

import msgspec

from eider.bodies.solids.body_solids import body_result
from eider.bodies.solids.materials import MaterialTable, materials_with
from eider.checks import PartUnderCheck
from eider.checks.part_under_check import RecipeResults
from eider.checks.runner import CheckResults, check_part
from eider.errors import EiderError
from eider.lands.pattern import footprint_pattern, package_name
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.footprint import Footprint
from eider.model.item_ref import Ref
from eider.model.library import LibrarySettings
from eider.model.material import Material
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pattern
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import Rulebook
from eider.symbols.arrangement import arrange
from eider.symbols.custom_graphic import CUSTOM

replace = msgspec.structs.replace


class EvaluationRules(msgspec.Struct, frozen=True):
    """What a part is made and checked by: a rulebook, and the library's settings and its own materials."""

    rulebook: Rulebook
    settings: LibrarySettings
    materials: dict[str, Material] = {}

    @property
    def all_materials(self) -> MaterialTable:
        """The library's materials with the standard ones."""
        return materials_with(self.materials)


class EvaluatedPart(msgspec.Struct, frozen=True):
    """A part with its results, and what the checks found; `recipes` tell what gave the results, where that is known.

    Until it `is_checked`, the findings are those of the state before.
    """

    under_check: PartUnderCheck
    checked: CheckResults
    recipes: RecipeResults | None = None
    is_checked: bool = True

    @property
    def bundle(self) -> Bundle:
        """The part with its results."""
        return self.under_check.bundle

    @property
    def rulebook(self) -> Rulebook:
        """What it was made and checked by."""
        return self.under_check.rulebook

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the checks found, worst first."""
        return self.checked.findings

    @property
    def counts(self) -> dict[str, int]:
        """How many findings there are of each severity."""
        return count_by_severity(self.findings)


def count_by_severity(findings: tuple[Finding, ...]) -> dict[str, int]:
    """Findings by severity; all three are named."""
    return {name: sum(f.severity == name for f in findings) for name in ("blocker", "caution", "note")}


def without_results(bundle: Bundle) -> Bundle:
    """The recipes alone: what undo keeps, and what two states are compared by."""
    return replace(
        bundle,
        symbol=replace(bundle.symbol, units=()),
        footprint=_without_patterns(bundle.footprint),
        body=replace(bundle.body, result=None),
    )


def _without_patterns(footprint: Footprint) -> Footprint:
    return replace(footprint, pattern=None, also=(), name="", rulebook_revision=0)


def with_results_of(bundle: Bundle, other: Bundle) -> Bundle:
    """Recipes with the results of another state, which are shown until their own are there."""
    made, body = other.footprint, other.body
    footprint = replace(
        bundle.footprint,
        pattern=made.pattern,
        also=made.also,
        name=made.name,
        rulebook_revision=made.rulebook_revision,
    )
    symbol = replace(bundle.symbol, units=other.symbol.units)
    return replace(bundle, symbol=symbol, footprint=footprint, body=replace(bundle.body, result=body.result))


def rerun_recipes(bundle: Bundle, rulebook: Rulebook) -> Bundle:
    """The part with every result made again; where a recipe gives none, the last good result stays."""
    return _rerun(bundle, rulebook, None)[0]


def _rerun(bundle: Bundle, rulebook: Rulebook, before: EvaluatedPart | None) -> tuple[Bundle, RecipeResults]:
    """Run the recipes; of `before` what no change touched is taken as it is."""
    known = before.recipes if before else None
    old = before.bundle if before and known and before.rulebook == rulebook else None
    footprint, body, sheet = bundle.footprint, bundle.body, bundle.sheet
    same_sheet = old is not None and replace(sheet, name=old.sheet.name) == old.sheet
    if not same_sheet:
        sheet = parse_dimensions(sheet).sheet
        same_sheet = old is not None and replace(sheet, name=old.sheet.name) == old.sheet
    pattern, land_fault = None, ""
    if old and known and same_sheet and _recipe(footprint) == _recipe(old.footprint):
        footprint, sheet, pattern, land_fault = old.footprint, old.sheet, known.pattern, known.land_fault
    else:
        try:
            pattern = footprint_pattern(sheet, footprint, rulebook)
            footprint = _with_pattern(sheet, footprint, pattern, rulebook)
            sheet = replace(sheet, name=package_name(sheet))
        except EiderError as fault:
            pattern, land_fault = None, str(fault)
    result, body_fault = None, ""
    if old and known and same_sheet and replace(body, result=None, name="") == replace(old.body, result=None, name=""):
        body, result, body_fault = old.body, known.body, known.body_fault
    else:
        try:
            result = body_result(sheet, body)
            body = replace(body, result=result, name=sheet.name or body.name)
        except EiderError as fault:
            body_fault = str(fault)
    symbol = replace(bundle.symbol, name=_symbol_name(bundle))
    is_kept = old is not None and replace(symbol, units=()) == replace(old.symbol, units=())
    symbol = old.symbol if old and is_kept else arrange(symbol)
    made = _linked(replace(bundle, sheet=sheet, symbol=symbol, footprint=footprint, body=body))
    return made, RecipeResults(pattern, land_fault, symbol.units, result, body_fault)


def _recipe(footprint: Footprint) -> Footprint:
    return replace(_without_patterns(footprint), package=Ref(footprint.package.id))


def _with_pattern(sheet: PackageSheet, footprint: Footprint, pattern: Pattern, rulebook: Rulebook) -> Footprint:
    """The footprint with its pattern, and with those of further levels."""
    others = (replace(footprint, level=level) for level in footprint.also_levels if level != footprint.level)
    return replace(
        footprint,
        pattern=pattern,
        also=tuple(footprint_pattern(sheet, other, rulebook) for other in others),
        name=pattern.name,
        rulebook_revision=rulebook.revision,
    )


def _symbol_name(bundle: Bundle) -> str:
    """Standard graphics are shared under their own name; others are called as the part that they were released with."""
    graphic = bundle.symbol.graphic
    if not graphic and bundle.symbol.name and bundle.part.symbol.revision is not None:
        return bundle.symbol.name
    return graphic if graphic and graphic != CUSTOM else bundle.part.name


def _linked(bundle: Bundle) -> Bundle:
    """Links carry the present names as hints."""
    part = bundle.part
    part = replace(
        part,
        package=replace(part.package, id=bundle.sheet.id, name=bundle.sheet.name),
        symbol=replace(part.symbol, id=bundle.symbol.id, name=bundle.symbol.name),
        footprint=replace(part.footprint, id=bundle.footprint.id, name=bundle.footprint.name),
        body=replace(part.body, id=bundle.body.id, name=bundle.body.name),
    )
    return replace(
        bundle,
        part=part,
        footprint=replace(bundle.footprint, package=replace(bundle.footprint.package, name=bundle.sheet.name)),
        body=replace(bundle.body, package=replace(bundle.body.package, name=bundle.sheet.name)),
    )


def evaluate_part(
    bundle: Bundle, rules: EvaluationRules, *, fresh: bool = True, before: EvaluatedPart | None = None
) -> EvaluatedPart:
    """Run the recipes (unless the part is to be looked at as it is stored) and the checks.

    `before` is an earlier state: what no change since then touched is neither computed nor checked again.
    """
    if not fresh:
        stored = PartUnderCheck(bundle, rules.rulebook, rules.settings)
        return EvaluatedPart(stored, check_part(stored))
    return check_evaluated(compute_part(bundle, rules, before))


def compute_part(bundle: Bundle, rules: EvaluationRules, before: EvaluatedPart | None = None) -> EvaluatedPart:
    """Run the recipes alone; what no change since `before` touched is not computed again."""
    made, recipes = _rerun(bundle, rules.rulebook, before)
    checked = before.checked if before else CheckResults((), {}, {})
    if before is None or before.recipes is None:
        # What was found in results of another origin says nothing of these.
        checked = CheckResults(checked.findings, {}, {})
    view = PartUnderCheck(made, rules.rulebook, rules.settings, recipes)
    return EvaluatedPart(view, checked, recipes, is_checked=False)


def check_evaluated(part: EvaluatedPart) -> EvaluatedPart:
    """Run the checks over computed results; what no change touched since they ran last is not checked again."""
    known = part.checked if part.checked.hits else None
    return replace(part, checked=check_part(part.under_check, known), is_checked=True)
