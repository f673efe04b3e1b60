"""Commands on package sheets: lands, joints."""

from pathlib import Path
from typing import Any

import click
import msgspec

from eider.checks import PartUnderCheck, run_checks
from eider.checks.pattern_slips import slips_of
from eider.cli.output import finding_lines, finish, json_option
from eider.cli.packages.joint_data import hole_data, land_offsets, thermal_data
from eider.errors import InputError
from eider.exchange.package_sheet import read_package_sheet
from eider.exchange.pattern_file import pattern_data, read_pads
from eider.geometry.lengths import format_length
from eider.lands.joints import lowest_level
from eider.lands.pattern import make_pattern, zero_orientation
from eider.model.body import Body
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.footprint import Footprint
from eider.model.item_ref import Ref
from eider.model.library import LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.part import Part
from eider.model.pattern import Level, Pattern
from eider.model.symbol import Symbol
from eider.packages.family import SheetError
from eider.packages.registry import family_of
from eider.packages.sheet_parsing import with_dimension
from eider.rulebooks import Rulebook, load_rulebook, standard_rulebook

# Checks that tell why a sheet gives no lands; so many of their findings are told.
REASONS = frozenset(
    {
        "sheet.unreadable", "sheet.max-below-min", "sheet.not-positive", "sheet.implausible", "sheet.mixed-unit",
        "sheet.unusual-size",
    }
)  # fmt: skip
MOST_REASONS = 3
NO_JOINT = (
    "no solder joint is defined for balls and leads through the board: they are held to their lands, holes and rings"
)
sheet_argument = click.argument("sheet", type=click.Path(path_type=Path))
level_option = click.option(
    "--level", type=click.Choice(["A", "B", "C"]), help="Density level; the rulebook's default."
)


def bare_bundle(sheet: PackageSheet, pattern: Pattern | None, level: Level) -> Bundle:
    """A sheet and a pattern as a part without anything else, so that the checks can look at them."""
    ref = Ref("sheet", sheet.name)
    return Bundle(
        part=Part(id="", name=sheet.name, package=ref, symbol=ref, footprint=ref, body=ref),
        sheet=sheet,
        symbol=Symbol(id="", name=""),
        footprint=Footprint(id="", name="", package=ref, level=level, pattern=pattern),
        body=Body(id="", name="", package=ref),
    )


def _lying(bundle: Bundle, rulebook: Rulebook) -> Bundle:
    """The part with its footprint lying as its pattern says, beyond the rulebook's zero orientation."""
    pattern = bundle.footprint.pattern
    if pattern is None:
        return bundle
    turn = (pattern.turn - zero_orientation(rulebook).turn) % 360
    footprint = msgspec.structs.replace(bundle.footprint, turn=turn, mirrored=pattern.mirrored)
    return msgspec.structs.replace(bundle, footprint=footprint)


def computed_pattern(sheet: PackageSheet, level: Level, rulebook: Rulebook) -> Pattern:
    """The land pattern of a sheet; where it has none, what is wrong with the sheet is told before the consequence.

    Raises:
        SheetError: the dimensions give no possible lands.
    """
    try:
        return make_pattern(sheet, level, rulebook)
    except SheetError as fault:
        view = PartUnderCheck(bare_bundle(sheet, None, level), rulebook, LibrarySettings(name=""))
        wrong = [f for f in run_checks(view, areas=("sheet",)) if f.check in REASONS and f.severity != Severity.NOTE]
        told = "; ".join(dict.fromkeys(f.message for f in wrong[:MOST_REASONS]))
        raise SheetError(f"{told}. So {fault}" if told else str(fault), fault.letter) from fault


def check_lands(sheet: PackageSheet, pattern: Pattern, rulebook: Rulebook) -> tuple[Finding, ...]:
    """Findings of the checks of sheet and lands."""
    view = PartUnderCheck(bare_bundle(sheet, pattern, pattern.level), rulebook, LibrarySettings(name=""))
    return run_checks(view, areas=("sheet", "lands"))


def with_settings(sheet: PackageSheet, rulebook: Rulebook, settings: tuple[str, ...]) -> tuple[PackageSheet, Rulebook]:
    """Apply --set: a letter of the family, pins or kind of the sheet, else a path of the rulebook."""
    family, rules = family_of(sheet.family), {}
    for setting in settings:
        key, equals, value = setting.partition("=")
        key, value = key.strip(), value.strip()
        if not equals or not value:
            raise InputError(f"--set {setting}: expected KEY=VALUE, such as b=0.19–0.30 or tolerances.placement=0.03")
        if family.letter(key):
            sheet = with_dimension(sheet, key, Dimension(text=value))
        elif key == "pins" and value.isdecimal() and int(value) > 0:
            sheet = msgspec.structs.replace(sheet, pins=int(value))
        elif key == "kind":
            sheet = msgspec.structs.replace(sheet, kind=value)
        elif "." in key or key in Rulebook.__struct_fields__:
            rules[key] = value
        else:
            letters = ", ".join(letter.key for letter in family.letters)
            raise InputError(
                f"--set {setting}: not understood; KEY is one of {letters}, pins, kind, or a rulebook path"
            )
    return sheet, rulebook.with_values(rules) if rules else rulebook


def rulebook_of(path: Path | None) -> Rulebook:
    """The rulebook of a file, or the standard one."""
    return load_rulebook(path) if path else standard_rulebook()


@click.command("lands")
@sheet_argument
@level_option
@click.option("--rulebook", type=click.Path(path_type=Path), help="A rulebook file in place of the standard one.")
@click.option("--set", "settings", multiple=True, metavar="KEY=VALUE", help="Override a dimension or a rule.")
@json_option
def lands(sheet: Path, level: Level | None, rulebook: Path | None, settings: tuple[str, ...], as_json: bool) -> None:
    """Compute the land pattern of a package sheet."""
    document, rules = with_settings(read_package_sheet(sheet), rulebook_of(rulebook), settings)
    pattern = computed_pattern(document, level or rules.default_level, rules)
    findings = check_lands(document, pattern, rules)
    lines = [f"{pattern.name}  level {pattern.level}, rulebook {rules.name}"]
    for group in pattern.derivation:
        lines.append(f"{group.group}: Z {group.Z:g}, G {group.G:g}, X {group.X:g} mm")
        lines += [f"  {formula}" for formula in (*group.formulas, *group.notes, group.reached_words) if formula]
    for size in pattern.sizes:
        lines.append(f"{size.group}: {', '.join(f'{name} {value:g}' for name, value in size.values.items())} mm")
        lines += [f"  {formula}" for formula in (*size.formulas, *size.notes)]
    for pad in pattern.pads:
        place = f"x {format_length(pad.x, with_unit=False):>8} y {format_length(pad.y, with_unit=False):>8}"
        lines.append(f"  pad {pad.number:>4}  {place}  {pad.width:g} × {pad.height:g} mm")
    finish(pattern_data(pattern, findings), [*lines, *finding_lines(findings)], as_json, findings)


@click.command("joints")
@sheet_argument
@click.argument("pattern", type=click.Path(path_type=Path))
@level_option
@click.option("--rulebook", type=click.Path(path_type=Path), help="A rulebook file in place of the standard one.")
@click.option("--set", "settings", multiple=True, metavar="KEY=VALUE", help="Override a dimension or a rule.")
@json_option
def joints(
    sheet: Path,
    pattern: Path,
    level: Level | None,
    rulebook: Path | None,
    settings: tuple[str, ...],
    as_json: bool,
) -> None:
    """Tell which solder joint each pad of any pattern gives on a package, which lies as the pattern says."""
    document, rules = with_settings(read_package_sheet(sheet), rulebook_of(rulebook), settings)
    view = pattern_under_check(document, pattern, level or rules.default_level, rules)
    kept = (
        "lands.lie",
        "lands.slip",
        "lands.hole-size",
        "lands.ring",
        "lands.thermal-gap",
        "lands.joint-below-level",
        "lands.pad-numbers",
        "lands.pitch",
        "lands.origin-not-centre",
        "lands.pads-overlap",
    )
    found_all = run_checks(view, areas=("sheet", "lands"))
    findings = tuple(f for f in found_all if f.check in kept or f.check.startswith("sheet."))
    found = [joint for group in view.joints for joint in group.pads]
    has_joints = bool(view.recipe and view.recipe.rows)
    beside, slips = land_offsets(view), slips_of(view)
    data: dict[str, Any] = {
        "pads": [
            {
                "number": j.number,
                "toe": j.toe,
                "heel": j.heel,
                "side": j.side,
                "level": j.level,
                "dx": beside.get(j.number, (0.0, 0.0))[0],
                "dy": beside.get(j.number, (0.0, 0.0))[1],
            }
            for j in found
        ],
        "level": lowest_level(view.joints),
        "diagnosis": [{"slip": s.slip, "message": s.message, "action": s.action} for s in slips],
        "holes": hole_data(view),
        "thermal": thermal_data(view),
        "findings": findings,
    }
    if not has_joints:
        data["note"] = NO_JOINT
    lines = [f"{s.message} {s.action}" for s in slips]
    # Of a pattern that is in mil or mirrored no fillet says anything.
    for j in () if any(slip.explains_all for slip in slips) else found:
        fillets = f"toe {j.toe:+.4f}  heel {j.heel:+.4f}  side {j.side:+.4f} mm"
        lines.append(f"pad {j.number:>4}  {fillets}  level {j.level or 'below C'}")
    lowest = lowest_level(view.joints) or ("below C" if found else "none of the pads belongs to a terminal")
    lines.append(f"all pads: level {lowest}" if has_joints else NO_JOINT)
    finish(data, [*lines, *finding_lines(findings)], as_json)


def pattern_under_check(sheet: PackageSheet, path: Path, level: Level, rulebook: Rulebook) -> PartUnderCheck:
    """The pads of a pattern file on a package, which lies as the file says, as the checks see them.

    Raises:
        InputError: the file is not a pattern.
        SheetError: the sheet is not complete, or gives no possible lands.
    """
    read = read_pads(path)
    turn = zero_orientation(rulebook).turn if read.turn is None else read.turn
    given = Pattern(name=path.stem, level=level, family=sheet.family, pads=read.pads, turn=turn, mirrored=read.mirrored)
    # A sheet that is not complete raises here, with the letter that is missing.
    computed_pattern(sheet, level, rulebook)
    return PartUnderCheck(_lying(bare_bundle(sheet, given, level), rulebook), rulebook, LibrarySettings(name=""))


def require_lengths(sheet: PackageSheet) -> None:
    """Refuse a sheet with a length that cannot be read or that no package has."""
    view = PartUnderCheck(bare_bundle(sheet, None, "B"), standard_rulebook(), LibrarySettings(name=""))
    refused = ("sheet.unreadable", "sheet.not-positive", "sheet.max-below-min")
    wrong = [finding for finding in run_checks(view, areas=("sheet",)) if finding.check in refused]
    if wrong:
        raise InputError(f"{wrong[0].message}; correct it in the sheet")
