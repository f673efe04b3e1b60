"""Does the body stand on its lands? What must agree, measured and expected."""

import msgspec

from eider.bodies.body_solids import body_solids, measure_body
from eider.errors import EiderError
from eider.geometry.lengths import format_length
from eider.geometry.rounding import NOISE
from eider.model.bundle import Bundle
from eider.packages.orientation import terminals_on
from eider.packages.registry import family_of

SMALLEST = 1e-4
# Material of marks on a body.
PAINT = "marking"


class Agreement(msgspec.Struct, frozen=True):
    """One thing that must agree between body, lands and sheet."""

    what: str
    measured: str
    expected: str
    agrees: bool


def body_alignment(bundle: Bundle, unit: str) -> list[Agreement]:
    """Seating plane, height, and each terminal's foot on its land; empty while the sheet is not complete.

    Leads that go through the board, and the paint of marks, are not what the body stands on or ends with. Balls are
    larger than their lands: of them it is the middle that must agree.
    """
    try:
        family = family_of(bundle.sheet.family)
        dims = family.dims(bundle.sheet)
        pattern = bundle.footprint.pattern
        solids = body_solids(bundle.sheet, bundle.body)
        recipe = family.lands(bundle.sheet, dims)
        terminals = terminals_on(bundle.sheet, pattern) if pattern else family.terminals(bundle.sheet, dims)
    except EiderError:
        return []

    def show(mm: float) -> str:
        return format_length(mm, unit)

    heights = [measure_body((solid,)).bounds for solid in solids if solid.material != PAINT]
    standing = [low[2] for low, _ in heights if not recipe.leads or low[2] >= 0]
    low, high = min(standing, default=0.0), max(top[2] for _, top in heights)
    balls = {number for grid in recipe.grids for number in grid.numbers}
    rows = [Agreement("Seating plane at zero", show(low), show(0.0), abs(low) <= SMALLEST)]
    if "A" in dims:
        expected = dims["A"].upper
        rows.append(
            Agreement("Height as in the package sheet", show(high), show(expected), abs(high - expected) <= SMALLEST)
        )
    pads = {pad.number: pad for pad in pattern.pads} if pattern else {}
    for terminal in terminals:
        pad = pads.get(terminal.number)
        if pad is None:
            rows.append(Agreement(f"terminal {terminal.number} on its land", "no land", "on the land", False))
            continue
        foot, land = terminal.foot, pad.box
        if terminal.number in balls:
            off = max(abs(foot[k] + foot[k + 2] - land[k] - land[k + 2]) / 2 for k in (0, 1))
            what = f"terminal {terminal.number} off its land by"
            rows.append(Agreement(what, show(off), show(0.0), off <= SMALLEST))
            continue
        inside = min(foot[0] - land[0], foot[1] - land[1], land[2] - foot[2], land[3] - foot[3])
        rows.append(
            Agreement(
                f"terminal {terminal.number} inside its land by", show(inside), f"≥ {show(0.0)}", inside >= -NOISE
            )
        )
    return rows
