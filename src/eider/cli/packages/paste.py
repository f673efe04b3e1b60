"""The command paste: how much paste the openings of a pattern give, beside what its joints want."""

from pathlib import Path

import click
import msgspec

from eider.checks import run_checks
from eider.checks.part_under_check import PartUnderCheck
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.packages.lands import (
    bare_bundle,
    computed_pattern,
    level_option,
    pattern_under_check,
    rulebook_of,
    sheet_argument,
    with_settings,
)
from eider.exchange.package_sheet import read_package_sheet
from eider.lands.paste_volume import PastedLand, pasted_lands
from eider.model.library import LibrarySettings
from eider.model.pattern import Level

# The checks of lands that are about paste.
OF_PASTE = ("lands.paste-release", "lands.thermal-coverage")


@click.command("paste")
@sheet_argument
@click.argument("pattern", type=click.Path(path_type=Path), required=False)
@level_option
@click.option("--rulebook", type=click.Path(path_type=Path), help="A rulebook file in place of the standard one.")
@click.option("--set", "settings", multiple=True, metavar="KEY=VALUE", help="Override a dimension or a rule.")
@json_option
def paste(
    sheet: Path,
    pattern: Path | None,
    level: Level | None,
    rulebook: Path | None,
    settings: tuple[str, ...],
    as_json: bool,
) -> None:
    """Tell how much paste each land gets, and how much its joint wants: of the computed lands, or of any pattern."""
    document, rules = with_settings(read_package_sheet(sheet), rulebook_of(rulebook), settings)
    at: Level = level or rules.default_level
    if pattern is None:
        bundle = bare_bundle(document, computed_pattern(document, at, rules), at)
        view = PartUnderCheck(bundle, rules, LibrarySettings(name=""))
    else:
        view = pattern_under_check(document, pattern, at, rules)
    lands = pasted_lands(view.dims, view.pads, view.joints, view.recipe, rules) if view.dims and view.recipe else ()
    findings = tuple(f for f in run_checks(view, areas=("lands",)) if f.check in OF_PASTE)
    data = {"lands": [_rounded(land) for land in lands], "findings": findings}
    finish(data, [*map(_line, lands), *finding_lines(findings)], as_json)


def _rounded(land: PastedLand) -> PastedLand:
    """Numbers without the noise of floats."""

    def plain(value: float | None) -> float | None:
        return None if value is None else round(value, 6)

    return msgspec.structs.replace(
        land, area_ratio=plain(land.area_ratio), volume=round(land.volume, 6), wanted=plain(land.wanted),
        share=plain(land.share),
    )  # fmt: skip


def _line(land: PastedLand) -> str:
    if not land.openings:
        return f"pad {land.pad:>4}  no paste"
    wanted = "" if land.wanted is None else f"  wanted {land.wanted:.4f} mm³  {land.share or 0:.0%}"
    ratio = land.area_ratio or 0.0
    return f"pad {land.pad:>4}  {land.openings} openings  area ratio {ratio:.2f}  {land.volume:.4f} mm³{wanted}"
