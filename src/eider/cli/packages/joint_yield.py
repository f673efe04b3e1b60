"""The command yield: how many joints in a million would fall short."""

from pathlib import Path
from typing import Any

import click

from eider.checks import PartUnderCheck
from eider.cli.output import finish, json_option
from eider.cli.packages.lands import (
    NO_JOINT,
    bare_bundle,
    computed_pattern,
    level_option,
    pattern_under_check,
    rulebook_of,
    sheet_argument,
    with_settings,
)
from eider.errors import InputError
from eider.exchange.package_sheet import read_package_sheet
from eider.lands.joint_yield import FILLETS, SAMPLES, SEED, FilletYield, JointYield, PadYield, joint_yield
from eider.model.library import LibrarySettings
from eider.model.pattern import Level
from eider.model.wording import named

LEAST, MOST = 1000, 20_000_000


@click.command("yield")
@sheet_argument
@click.argument("pattern", type=click.Path(path_type=Path), required=False)
@level_option
@click.option("--samples", type=int, default=SAMPLES, show_default=True, help="How many joints of each pad are drawn.")
@click.option("--seed", type=int, default=SEED, show_default=True, help="The same seed gives the same answer.")
@click.option("--rulebook", type=click.Path(path_type=Path), help="A rulebook file in place of the standard one.")
@click.option("--set", "settings", multiple=True, metavar="KEY=VALUE", help="Override a dimension or a rule.")
@json_option
def yield_command(
    sheet: Path,
    pattern: Path | None,
    level: Level | None,
    samples: int,
    seed: int,
    rulebook: Path | None,
    settings: tuple[str, ...],
    as_json: bool,
) -> None:
    """Simulate the solder joints of a package on its computed lands, or on those of any pattern."""
    if not LEAST <= samples <= MOST:
        raise InputError(f"--samples {samples}: enter {LEAST:,} to {MOST:,}")
    if seed < 0:
        raise InputError(f"--seed {seed}: enter a whole number from 0")
    document, rules = with_settings(read_package_sheet(sheet), rulebook_of(rulebook), settings)
    chosen: Level = level or rules.default_level
    if pattern is not None:
        view = pattern_under_check(document, pattern, chosen, rules)
    else:
        bundle = bare_bundle(document, computed_pattern(document, chosen, rules), chosen)
        view = PartUnderCheck(bundle, rules, LibrarySettings(name=""))
    found = joint_yield(view.joints, view.pads, rules, chosen, samples, seed)
    finish(_data(found, has_joints=bool(view.joints)), _lines(found, chosen, has_joints=bool(view.joints)), as_json)


def _data(found: JointYield, *, has_joints: bool) -> dict[str, Any]:
    data: dict[str, Any] = {
        "pads": [_pad(pad) for pad in found.pads],
        "worst": found.worst,
        "samples": found.samples,
    }
    return data if has_joints else {**data, "note": NO_JOINT}


def _pad(pad: PadYield) -> dict[str, Any]:
    return {"number": pad.number, **{name: _fillet(getattr(pad, name)) for name in FILLETS}, "any": pad.below}


def _fillet(fillet: FilletYield) -> dict[str, Any]:
    return {"mean": fillet.mean, "sd": fillet.sd, "below": fillet.below, "within": fillet.within}


def _lines(found: JointYield, level: Level, *, has_joints: bool) -> list[str]:
    if not has_joints:
        return [NO_JOINT]
    lines = [f"joints in a million below level {level}, {found.samples:,} samples (± half of the 95 % interval)"]
    lines += [_pad_line(pad, level) for pad in found.pads]
    worst = f"worst: {named('pad', found.worst)}" if found.worst else f"no joint of the samples misses level {level}"
    return [*lines, worst]


def _pad_line(pad: PadYield, level: Level) -> str:
    told = []
    for name in FILLETS:
        fillet: FilletYield = getattr(pad, name)
        told.append(f"{name} {fillet.below[level]:,.0f} ± {fillet.within[level]:,.0f} ({fillet.mean:+.3f} mm)")
    return f"pad {pad.number:>4}  {'  '.join(told)}  any {pad.below[level]:,.0f}"
