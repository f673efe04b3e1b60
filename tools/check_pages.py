"""The guide's pages of checks: what each holds and why, and a picture of a slip that it finds, from the flawed demo."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

import msgspec

from eider.checks import Check, PartUnderCheck, all_checks, run_checks
from eider.demo.build import MADE
from eider.demo.flaws import FLAWS, flawed
from eider.demo.flaws.changes import Flaw
from eider.demo.parts import LIBRARIAN, connector_part
from eider.drawings.finding_balloons import with_balloons
from eider.drawings.land_drawing import LAYERS, LandOptions, pattern_drawing
from eider.drawings.package_drawing import begun_drawings
from eider.drawings.primitives import Balloon, Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError
from eider.exchange.svg_drawings import svg_text
from eider.library import init_library
from eider.model.finding import Finding
from eider.model.part import DatasheetLink

TITLES = {
    "sheet": "Package sheet", "evidence": "Evidence", "lands": "Lands", "symbol": "Pins and symbol",
    "match": "Match", "body": "Body", "facts": "Facts",
}  # fmt: skip
PICTURE = (360.0, 240.0)


class Slip(msgspec.Struct, frozen=True):
    """A flaw of the flawed demo, the finding that speaks of it, and a drawing that shows the place."""

    flaw: Flaw
    finding: Finding
    drawing: Drawing | None


@cache
def slips() -> Mapping[str, Slip]:
    """The slip of each check by the check's id."""
    with TemporaryDirectory() as folder:
        library = init_library(Path(folder) / "library", "guide", LIBRARIAN)
        bases = {flaw.base for flaw in FLAWS}
        sound = {n: make(library, DatasheetLink("0" * 64, f"{n}.pdf", 1)) for n, make, _ in MADE if n in bases}
        wide = connector_part(library, 12, DatasheetLink("0" * 64, "OHC-125.pdf", 1))
        sound[wide.part.name] = wide
        rulebook, settings = library.rulebook(), library.settings
        first = [flaw for flaw in FLAWS if not flaw.variant]
        views = {flaw.check: PartUnderCheck(flawed(flaw, sound, rulebook), rulebook, settings) for flaw in first}
    found = {}
    for flaw in first:
        finding = next(f for f in run_checks(views[flaw.check]) if f.check == flaw.check)
        found[flaw.check] = Slip(flaw, finding, _drawing(views[flaw.check], finding))
    return found


def _drawing(view: PartUnderCheck, finding: Finding) -> Drawing | None:
    """The drawing on which the finding's place stands, with its balloon, or else the first that shows the slip."""
    marked = [with_balloons(drawing, [finding]) for drawing in _drawings(view, finding)]
    with_place = (d for d in marked if any(isinstance(item, Balloon) for item in d.primitives))
    return next(with_place, marked[0] if marked else None)


def _drawings(view: PartUnderCheck, finding: Finding) -> list[Drawing]:
    area, letter = str(finding.address).split(".")[0], str(finding.address).rsplit(".", 1)[-1]
    if area == "lands" and view.pattern:
        options = LandOptions(frozenset(LAYERS) - {"assembly", "dimensions"})
        return [pattern_drawing(view.pattern, view.terminals, options)]
    if area == "symbol" and view.bundle.symbol.units:
        return [symbol_drawing(view.bundle.symbol, view.bundle.part.name)]
    if area == "sheet":
        try:
            return list(begun_drawings(view.bundle.sheet, wrong={letter}))
        except EiderError:
            return []
    return []


def pages(docs: Path) -> dict[Path, str]:
    """The table of all checks, a page for each area, and the pictures, by their files."""
    guide = docs / "guide"
    areas = list(dict.fromkeys(check_id.split(".")[0] for check_id in all_checks()))
    written = {guide / "checks.md": _table()}
    for area in areas:
        entries = [entry for entry in all_checks().values() if entry.id.split(".")[0] == area]
        text = [f"# Checks: {TITLES[area].lower()}", "", *(line for entry in entries for line in _section(entry))]
        written[guide / "checks" / f"{area}.md"] = "\n".join(text)
    for check_id, slip in slips().items():
        if slip.drawing:
            title = f"{check_id}: {slip.finding.message}"
            written[guide / "checks" / f"{check_id}.svg"] = svg_text(slip.drawing, *PICTURE, title)
    return written


def _table() -> str:
    lines = [
        "# What Eider checks",
        "",
        "Every check runs all the time. A *blocker* stops the release; a *caution* and a *note* can be accepted with",
        "a reason. Many findings differ in severity from the one named here where the matter is worse or lighter.",
        "`./eider demo --flawed` opens a library with a part for each of them, that has just this slip.",
        "",
        "| check | severity | what holds | corrected by |",
        "|---|---|---|---|",
    ]
    for entry in all_checks().values():
        mend = entry.quick_fix.title if entry.quick_fix else ""
        link = f"checks/{entry.id.split('.')[0]}.md#{entry.id.replace('.', '')}"
        lines.append(f"| [`{entry.id}`]({link}) | {entry.severity} | {entry.title} | {mend} |")
    return "\n".join(lines) + "\n"


def _section(entry: Check) -> list[str]:
    slip = slips()[entry.id]
    told = f" Measured {slip.finding.measured}" if slip.finding.measured else ""
    wanted = f", expected {slip.finding.expected}" if slip.finding.expected else ""
    lines = [
        f"## {entry.id}",
        "",
        f"**{entry.title}** {entry.why}",
        "",
        f"*{entry.severity.capitalize()}.* For instance {slip.flaw.slip}: {slip.finding.message}.{told}{wanted}.",
        "",
    ]
    if entry.quick_fix:
        lines[-1:] = ["", f"Mended by *{entry.quick_fix.title}*.", ""]
    if slip.drawing:
        lines += [f"![{slip.flaw.slip}]({entry.id}.svg)", ""]
    return lines
