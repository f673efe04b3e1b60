"""Runs the recipes of a part: reads the sheet, computes the lands, arranges the symbol, measures the body."""

from contextlib import suppress

import msgspec

from eider.bodies.body_solids import body_solids, measure_body
from eider.checks import PartUnderCheck, run_checks
from eider.errors import EiderError
from eider.lands.pattern import footprint_pattern, package_name
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.library import LibrarySettings
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import Rulebook
from eider.symbols.arrangement import arrange
from eider.symbols.custom_graphic import CUSTOM

replace = msgspec.structs.replace


class EvaluationRules(msgspec.Struct, frozen=True):
    """What a part is made and checked by: the library's settings and a rulebook."""

    rulebook: Rulebook
    settings: LibrarySettings


class EvaluatedPart(msgspec.Struct, frozen=True):
    """A part with fresh results, and what the checks found."""

    bundle: Bundle
    findings: tuple[Finding, ...]

    @property
    def counts(self) -> dict[str, int]:
        """How many findings there are of each severity."""
        return count_by_severity(self.findings)


def count_by_severity(findings: tuple[Finding, ...]) -> dict[str, int]:
    """Findings by severity; all three are named."""
    return {name: sum(f.severity == name for f in findings) for name in ("blocker", "caution", "note")}


def rerun_recipes(bundle: Bundle, rulebook: Rulebook) -> Bundle:
    """The part with every result made anew; where a recipe gives none, the last good result stays."""
    sheet = parse_dimensions(bundle.sheet).sheet
    footprint, body = bundle.footprint, bundle.body
    with suppress(EiderError):
        pattern = footprint_pattern(sheet, footprint, rulebook)
        others = (replace(footprint, level=level) for level in footprint.also_levels if level != footprint.level)
        footprint = replace(
            footprint,
            pattern=pattern,
            also=tuple(footprint_pattern(sheet, other, rulebook) for other in others),
            name=pattern.name,
            rulebook_revision=rulebook.revision,
        )
        sheet = replace(sheet, name=package_name(sheet))
    with suppress(EiderError):
        body = replace(body, result=measure_body(body_solids(sheet, body)), name=sheet.name or body.name)
    symbol = arrange(replace(bundle.symbol, name=_symbol_name(bundle)))
    return _linked(replace(bundle, sheet=sheet, symbol=symbol, footprint=footprint, body=body))


def _symbol_name(bundle: Bundle) -> str:
    """Standard graphics are shared under their own name; others are called as the part."""
    graphic = bundle.symbol.graphic
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


def evaluate_part(bundle: Bundle, rules: EvaluationRules, *, fresh: bool = True) -> EvaluatedPart:
    """Run the recipes (unless the part is to be looked at as it is stored) and all checks."""
    made = rerun_recipes(bundle, rules.rulebook) if fresh else bundle
    return EvaluatedPart(made, run_checks(PartUnderCheck(made, rules.rulebook, rules.settings)))
