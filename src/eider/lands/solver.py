"""The solder-joint equations of IPC-7351B / IPC-7352 for two opposing rows, and their inverse.

L is the outside extent over the terminals, T the length of the foot that stands on the land, W its width, S the gap
between the feet; C is the tolerance (maximum less minimum) of each, F and P are the tolerances of fabrication and
placement. All in mm.
"""

import math

import msgspec

from eider.geometry.limits import Limits
from eider.geometry.rounding import round_to_step
from eider.model.pattern import LEVELS, Goals, Level
from eider.packages.family import OpposedRows
from eider.rulebooks import GoalRow, Rulebook


class Extents(msgspec.Struct, frozen=True):
    """The terminals of two opposing rows as the equations want them, in mm.

    `s_max` is S at its maximum after the statistical reduction (where the method takes one); `c_*` are tolerances,
    `root_*` how far tolerance, fabrication and placement together can shift an end, an inner end and a side.
    """

    l_min: float
    w_min: float
    s_max: float
    c_l: float
    c_s: float
    c_w: float
    root_l: float
    root_s: float
    root_w: float
    notes: tuple[str, ...]


class Lands(msgspec.Struct, frozen=True):
    """Outside extent Z, gap G and width X of two opposing lands, in mm."""

    Z: float
    G: float
    X: float


def extents(rows: OpposedRows, rulebook: Rulebook) -> Extents:
    """Terminal extents with their tolerances, S derived from L and T unless the sheet gives it."""
    notes: list[str] = []
    length, foot, width = (
        _toleranced(limits, letter, rulebook, notes)
        for limits, letter in ((rows.length, "L"), (rows.foot, "T"), (rows.width, "W"))
    )
    c_l, c_t, c_w = length.spread, foot.spread, width.spread
    statistical = rulebook.tolerances.method == "statistical"
    if rows.gap is not None:
        gap = _toleranced(rows.gap, "S", rulebook, notes)
        s_max, c_s = gap.upper, gap.spread
    else:
        s_max = length.upper - 2 * foot.lower
        worst = c_l + 2 * c_t
        c_s = math.sqrt(c_l**2 + 2 * c_t**2) if statistical else worst
        s_max -= (worst - c_s) / 2
    f, p = rulebook.tolerances.fabrication, rulebook.tolerances.placement

    def combine(tolerance: float) -> float:
        if statistical:
            return math.sqrt(tolerance**2 + f**2 + p**2)
        return tolerance + f + p

    return Extents(
        l_min=length.lower,
        w_min=width.lower,
        s_max=s_max,
        c_l=c_l,
        c_s=c_s,
        c_w=c_w,
        root_l=combine(c_l),
        root_s=combine(c_s),
        root_w=combine(c_w),
        notes=tuple(notes),
    )


def _toleranced(limits: Limits, letter: str, rulebook: Rulebook, notes: list[str]) -> Limits:
    """The limits of a length; a basic one gets the rulebook's tolerance, half of it to each side."""
    if not limits.is_exact:
        return limits
    basic = rulebook.tolerances.basic
    notes.append(f"{letter} has no tolerance: {basic:g} mm from the rulebook used")
    return Limits(min=limits.lower - basic / 2, max=limits.upper + basic / 2) if basic else limits


def solve_lands(terminals: Extents, goals: Goals) -> Lands:
    """Z, G and X, not rounded (mm)."""
    return Lands(
        Z=terminals.l_min + 2 * goals.toe + terminals.root_l,
        G=terminals.s_max - 2 * goals.heel - terminals.root_s,
        X=terminals.w_min + 2 * goals.side + terminals.root_w,
    )


def reached_joints(terminals: Extents, lands: Lands) -> Goals:
    """The inverse: the toe, heel and side fillet that lands of any origin give (mm)."""
    return Goals(
        toe=(lands.Z - terminals.l_min - terminals.root_l) / 2,
        heel=(terminals.s_max - lands.G - terminals.root_s) / 2,
        side=(lands.X - terminals.w_min - terminals.root_w) / 2,
    )


def rounded(raw: Lands, row: GoalRow, rulebook: Rulebook) -> Lands:
    """Z, G and X rounded once, by the rulebook's step and directions."""
    step, rounding = rounding_step(row, rulebook), rulebook.rounding
    return Lands(
        Z=round_to_step(raw.Z, step, rounding.Z),
        G=round_to_step(raw.G, step, rounding.G),
        X=round_to_step(raw.X, step, rounding.X),
    )


def rounding_step(row: GoalRow, rulebook: Rulebook) -> float:
    """The rounding step in mm: the rulebook's own, or that of the family's goals."""
    return rulebook.rounding.step if rulebook.rounding.step is not None else row.step


def allowance(row: GoalRow, rulebook: Rulebook) -> float:
    """How far rounding to the nearest step alone can take a fillet below its goal: half a step over both ends."""
    return rounding_step(row, rulebook) / 4 + 1e-9


def shortfall(reached: Goals, goals: Goals) -> dict[str, float]:
    """By how much each fillet misses its goal (mm); met ones are left out."""
    gaps = {
        "toe": goals.toe - reached.toe,
        "heel": goals.heel - reached.heel,
        "side": goals.side - reached.side,
    }
    return {name: gap for name, gap in gaps.items() if gap > 0}


def level_reached(reached: Goals, row: GoalRow, rulebook: Rulebook) -> Level | None:
    """The first of the levels A, B, C all of whose goals are met within the rounding; None is below C."""
    slack = allowance(row, rulebook)
    for level in LEVELS:
        if all(gap <= slack for gap in shortfall(reached, row.goals(level)).values()):
            return level
    return None
