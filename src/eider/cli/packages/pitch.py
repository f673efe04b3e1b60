"""The command pitch: what a pitch on another grid costs over a row of pads."""

from pathlib import Path

import click

from eider.checks import PartUnderCheck
from eider.cli.output import finish, json_option
from eider.cli.packages.lands import (
    bare_bundle,
    computed_pattern,
    level_option,
    rulebook_of,
    sheet_argument,
    with_settings,
)
from eider.exchange.package_sheet import read_package_sheet
from eider.model.library import LibrarySettings
from eider.model.pattern import Level
from eider.views.pitch_view import PitchRow, pitch_view


@click.command("pitch")
@sheet_argument
@click.argument("chosen", default="")
@level_option
@click.option("--rulebook", type=click.Path(path_type=Path), help="A rulebook file in place of the standard one.")
@click.option("--set", "settings", multiple=True, metavar="KEY=VALUE", help="Override a dimension or a rule.")
@json_option
def pitch(
    sheet: Path, chosen: str, level: Level | None, rulebook: Path | None, settings: tuple[str, ...], as_json: bool
) -> None:
    """Tell how far the error of a pitch such as “50 mil” adds up over a row, against what joints and holes spare."""
    document, rules = with_settings(read_package_sheet(sheet), rulebook_of(rulebook), settings)
    at: Level = level or rules.default_level
    bundle = bare_bundle(document, computed_pattern(document, at, rules), at)
    view = pitch_view(PartUnderCheck(bundle, rules, LibrarySettings(name="")), chosen)
    data = {"summary": view.summary, "rows": [_row(row) for row in view.rows]}
    finish(data, [view.summary, *(_line(row) for row in view.rows)], as_json)


def _row(row: PitchRow) -> dict[str, object]:
    found = row.decision
    return {
        "first": row.first,
        "last": row.last,
        "grid": row.grid,
        "count": found.count,
        "given": found.given,
        "pitch": found.chosen,
        "step": found.step,
        "over_row": found.over_row,
        "margin": found.margin,
        "fits": found.fits,
        "most_ways": found.most_ways,
    }


def _line(row: PitchRow) -> str:
    found = row.decision
    return (
        f"pads {row.first} to {row.last}  {row.grid:14} {found.chosen:8.4f} mm  {found.step:+.4f} mm a step  "
        f"{found.over_row:+.3f} mm over the row  {row.verdict}; ways: {row.reach}"
    )
