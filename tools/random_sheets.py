"""Lands of sheets drawn at random from every family's usual proportions: `random_sheets.py [COUNT] [SEED]`.

No sheet may break the program, lose a land, give less copper at a denser level, or meet a blocker; cautions are
counted by check, and the first sheet of each is printed.
"""

import random
import sys
from collections import Counter
from pathlib import Path

from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.errors import EiderError
from eider.geometry.limits import Limits
from eider.lands.pattern import make_pattern
from eider.model.finding import Severity
from eider.model.library import LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.pattern import LEVELS, Pattern
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

RULEBOOK, SETTINGS = standard_rulebook(), LibrarySettings(name="")
# Families whose pins are in rows along these bodies: how many rows share the pins, and what grows with a row.
ROWS: dict[str, tuple[int, tuple[str, ...]]] = {
    "gullwing-dual": (2, ("D",)), "j-lead-dual": (2, ("D",)), "no-lead-dual": (2, ("D", "D2")),
    "butt-lead": (2, ("D",)), "surface-header": (2, ("D",)),
    "chip-array": (2, ("D",)), "dual-in-line": (2, ("D",)), "single-in-line": (1, ("D",)),
    "gullwing-quad": (4, ("D", "D1", "E", "E1")),
    "j-lead-quad": (4, ("D", "D1", "E", "E1")), "no-lead-quad": (4, ("D", "D2", "E", "E2")),
}  # fmt: skip
# Pitch and what belongs to it come in steps that a drawing does not change.
FIXED = frozenset({"e", "eR", "e1", "eD", "eE", "b", "L", "c", "A1", "span", "d"})


def drawn(family: str, chance: random.Random) -> PackageSheet:
    """A sheet like the sample of its family, larger or smaller, of more or fewer pins, with other tolerances."""
    base = sample(family)
    factor, pins, longer = chance.uniform(0.85, 1.2), base.pins, 0.0
    has_pitch = base.limits("e") is not None
    if family in ROWS:
        rows, _ = ROWS[family]
        pins = max(base.pins + chance.randint(-1, 4) * rows, 2 * rows)
        longer = (pins - base.pins) / rows * (base.limits("e") or Limits(nom=0)).middle
    dims = {}
    for letter, dimension in base.dims.items():
        limits = dimension.limits
        if limits is None:
            continue
        grows = longer if family in ROWS and letter in ROWS[family][1] else 0.0
        scale = 1.0 if letter in FIXED or (has_pitch and letter not in ("A",)) else factor
        middle = (limits.middle + grows) * scale
        half = min((limits.upper - limits.lower) / 2 * scale * chance.uniform(0.6, 1.1), middle)
        is_open = limits.min is None and limits.nom is None
        made = Limits(max=round(limits.upper * scale, 4)) if is_open else None
        dims[letter] = Dimension(limits=made or Limits(min=round(middle - half, 4), max=round(middle + half, 4)))
    return replace(base, pins=pins, dims=dims)


def faults_of(sheet: PackageSheet) -> tuple[list[str], list[str]]:
    """What is wrong with the lands of a sheet, and the cautions, as check and message."""
    patterns: dict[str, Pattern] = {}
    for level in LEVELS:
        patterns[level] = make_pattern(sheet, level, RULEBOOK)
    wrong, cautions = [], []
    copper = [sum(pad.width * pad.height for pad in patterns[level].pads if pad.plated) for level in LEVELS]
    if not copper[0] >= copper[1] - 1e-9 or not copper[1] >= copper[2] - 1e-9:
        wrong.append(f"less copper at a denser level: {copper}")
    numbers = {pad.number for pad in patterns["B"].pads if pad.number}
    plated = len(numbers) - (1 if sheet.limits("D2") and "no-lead" in sheet.family else 0)
    if sheet.family != "custom" and plated != sheet.pins:
        wrong.append(f"{plated} lands for {sheet.pins} pins")
    view = PartUnderCheck(bare_bundle(sheet, patterns["B"], "B"), RULEBOOK, SETTINGS)
    for finding in run_checks(view):
        if not finding.check.startswith(("sheet.", "lands.", "body.")) or finding.severity == Severity.NOTE:
            continue
        # A sheet that nobody read has no evidence; a bare pattern has no stored body.
        if finding.check in ("sheet.no-evidence", "body.not-as-recipe", "lands.not-as-recipe"):
            continue
        told = f"{finding.check}: {finding.message}"
        (wrong if finding.severity == Severity.BLOCKER else cautions).append(told)
    return wrong, cautions


def main() -> int:
    """Print what was found; status 1 where anything was wrong."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    chance = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 14)
    families, wrong, cautions = sorted(SAMPLES), Counter[str](), Counter[str]()
    cautious = 0
    for index in range(count):
        family = families[index % len(families)]
        sheet = drawn(family, chance)
        try:
            faults, told = faults_of(sheet)
        except EiderError as fault:
            faults, told = [f"refused: {fault}"], []
        cautious += bool(told)
        for kind, found in ((wrong, faults), (cautions, told)):
            for text in found:
                key = f"{family}: {text.partition(':')[0]}"
                if key not in kind:
                    shown = {k: (d.limits.lower, d.limits.upper) for k, d in sheet.dims.items() if d.limits}
                    print(f"{'WRONG' if kind is wrong else 'caution'} {family} {sheet.pins} {text}\n    {shown}")
                kind[key] += 1
    print(f"{count} sheets; wrong: {dict(wrong)}; with cautions: {cautious} ({cautious / count:.2%}): {dict(cautions)}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
