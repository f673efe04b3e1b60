"""Joint yield: how many joints in a million fall short, by simulation over all tolerances together.

The equations of IPC-7351B combine tolerances to one worst case; here length, foot and width of the terminals, the
fabrication of the lands and the placement of the part vary each by itself. Lengths in mm.
"""

import math
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

import msgspec
import numpy as np
import numpy.typing as npt

from eider.geometry.limits import Limits
from eider.lands.joints import GroupJoints, opposed_lands, opposites, pads_of_rows
from eider.lands.solver import Lands
from eider.model.pattern import LEVELS, Goals, Level, Pad
from eider.rulebooks import Rulebook

FILLETS: tuple[Literal["toe", "heel", "side"], ...] = ("toe", "heel", "side")
SAMPLES, SEED = 1_000_000, 1
# Half the width of an interval that holds 95 % of a normal distribution, in standard deviations.
CONFIDENT = 1.959964
# How many samples are sorted into a histogram, and into how many bins; how much below a goal (mm) is below it.
DRAWN, BINS, EXACT = 100_000, 48, 1e-6
# The narrowest range (mm) that a histogram is drawn over.
THINNEST = 1e-3
Floats = npt.NDArray[np.float32]


class FilletYield(msgspec.Struct, frozen=True):
    """How one fillet of a pad varies: mean and standard deviation (mm), and shares in parts per million.

    `below` are the joints that reach less than the goal of each level, and less than zero; `within` is half the 95 %
    interval of each share. `counts` are the samples between `edges` (mm), for drawing.
    """

    mean: float
    sd: float
    below: dict[str, float]
    within: dict[str, float]
    edges: tuple[float, float] = (0.0, 0.0)
    counts: tuple[int, ...] = ()


class PadYield(msgspec.Struct, frozen=True):
    """The fillets of one pad; `below` are the joints (ppm) that miss a level, or zero, in one of them or more."""

    number: str
    toe: FilletYield
    heel: FilletYield
    side: FilletYield
    below: dict[str, float]


class JointYield(msgspec.Struct, frozen=True):
    """The yield of all pads of a pattern, and the numbers of the worst of them at a level."""

    pads: tuple[PadYield, ...]
    worst: tuple[str, ...]
    samples: int


class _Draws(NamedTuple):
    """What varies, a value for each sample: lengths of the part, its place, and the ends and sides of lands."""

    half_length: Floats
    foot: Floats
    width: Floats
    along: Floats
    across: Floats
    turn: Floats
    outer: Floats
    inner: Floats
    left: Floats
    right: Floats


Goalposts = dict[str, dict[str, float]]
Masks = dict[str, npt.NDArray[np.bool_]]


class _PadCase(NamedTuple):
    """Pads that vary alike: lands, how far from the middle of their row the terminal lies, and the pad from it."""

    lands: Lands
    at: float
    off: float


def joint_yield(
    groups: Sequence[GroupJoints],
    pads: Sequence[Pad],
    rulebook: Rulebook,
    level: Level,
    samples: int = SAMPLES,
    seed: int = SEED,
) -> JointYield:
    """Simulate the joints of pads; `groups` are their terminals and goals, as `pattern_joints` gives them."""
    found: list[PadYield] = []
    # Two pairs of sides with the same terminals vary alike.
    of_terminals: dict[object, tuple[_Draws, dict[_PadCase, PadYield]]] = {}
    for group in groups:
        rows, goals = group.rows, {name: group.goals.goals(name) for name in LEVELS}
        least = _least(goals)
        key = (_ends(rows.length), _ends(rows.foot), _ends(rows.width), rows.gap and _ends(rows.gap), *goals.values())
        if key not in of_terminals:
            of_terminals[key] = _draw(group, rulebook, samples, np.random.default_rng(seed)), {}
        draws, known = of_terminals[key]
        cases = _cases(group, pads_of_rows(group.rows, pads))
        for joint in group.pads:
            case = cases[joint.number]
            if case not in known:
                known[case] = _simulate(draws, case, least)
            found.append(msgspec.structs.replace(known[case], number=joint.number))
    shares = {pad.number: pad.below[level] for pad in found}
    most = max(shares.values(), default=0.0)
    return JointYield(tuple(found), tuple(n for n, share in shares.items() if share == most and most > 0), samples)


def _ends(limits: Limits) -> tuple[float, float]:
    return limits.lower, limits.upper


def _cases(group: GroupJoints, pads: Mapping[str, Pad]) -> dict[str, _PadCase]:
    """For each pad its lands and its opposite's, and where it lies; its image at the other side varies as it does."""
    rows = group.rows
    places = dict(zip((*rows.first, *rows.second), (*rows.at_first.tolist(), *rows.at_second.tolist()), strict=True))
    opposite, found = opposites(rows), {}
    for joint in group.pads:
        pad, at = pads[joint.number], places[joint.number]
        off = (pad.y if rows.axis == "x" else pad.x) - at
        lands = opposed_lands(rows, joint.number, pads, opposite)
        found[joint.number] = _PadCase(lands, round(abs(at), 6), round(off if at >= 0 else -off, 6))
    return found


def _draw(group: GroupJoints, rulebook: Rulebook, samples: int, chance: np.random.Generator) -> _Draws:
    rules, f, p = rulebook.joint_yield, rulebook.tolerances.fabrication, rulebook.tolerances.placement

    def between(low: float, high: float) -> Floats:
        """Values between two limits; of a normal distribution these lie at 3 · Cpk standard deviations."""
        if high <= low:
            return np.full(samples, (low + high) / 2, np.float32)
        if rules.distribution == "uniform":
            return chance.random(samples, np.float32) * np.float32(high - low) + np.float32(low)
        spread = np.float32((high - low) / 2 / (3 * rules.cpk))
        return chance.standard_normal(samples, np.float32) * spread + np.float32((low + high) / 2)

    def of(limits: Limits) -> Floats:
        basic = rulebook.tolerances.basic / 2 if limits.is_exact else 0.0
        return between(limits.lower - basic, limits.upper + basic)

    rows = group.rows
    length = of(rows.length)
    # Where the sheet gives the gap between the feet, these end where it begins.
    half_length = np.multiply(length, np.float32(0.5), dtype=np.float32)
    foot = of(rows.foot) if rows.gap is None else half_length - np.multiply(of(rows.gap), 0.5, dtype=np.float32)
    turn = math.radians(rules.rotation)
    ends = [between(-f / 2, f / 2) for _ in range(4)]
    return _Draws(
        half_length, foot, of(rows.width), between(-p / 2, p / 2), between(-p / 2, p / 2), between(-turn, turn), *ends
    )


def _least(goals: Mapping[Level, Goals]) -> Goalposts:
    """What each fillet has to reach for each level, and zero."""
    return {
        fillet: {**{level: getattr(row, fillet) for level, row in goals.items()}, "zero": 0.0} for fillet in FILLETS
    }


def _simulate(draws: _Draws, case: _PadCase, least: Goalposts) -> PadYield:
    """The three fillets of a pad, as yet without its number, over all samples.

    A part that is turned by a small angle shifts each foot along its row's axis by the angle times its place.
    """
    shift = draws.along - draws.turn * np.float32(case.at)
    toe = np.float32(case.lands.Z / 2) + draws.outer - draws.half_length - shift
    heel = draws.half_length - draws.foot + shift - np.float32(case.lands.G / 2) - draws.inner
    aside = draws.across + draws.turn * draws.half_length - np.float32(case.off)
    room = np.float32(case.lands.X / 2) - draws.width / 2
    side = np.minimum(room + draws.left - aside, room + draws.right + aside)
    values = {"toe": toe, "heel": heel, "side": side}
    short = {name: _short(values[name], least[name]) for name in FILLETS}
    any_short = {level: short["toe"][level] | short["heel"][level] | short["side"][level] for level in least["toe"]}
    told = {name: _told(values[name], short[name]) for name in FILLETS}
    shares = {level: round(share * 1e6, 3) for level, share in _shares(any_short).items()}
    return PadYield("", told["toe"], told["heel"], told["side"], shares)


def _short(values: Floats, least: Mapping[str, float]) -> Masks:
    return {name: values < np.float32(goal - EXACT) for name, goal in least.items()}


def _shares(masks: Masks) -> dict[str, float]:
    return {name: float(np.count_nonzero(mask)) / len(mask) for name, mask in masks.items()}


def _told(values: Floats, short: Masks) -> FilletYield:
    count, below = len(values), _shares(short)
    mean, low, high = float(values.mean(dtype=np.float64)), float(values.min()), float(values.max())
    apart = values - np.float32(mean)
    # What hardly varies is drawn as one bar.
    ends = (low, max(high, low + THINNEST))
    counts, _ = np.histogram(values[:: max(1, count // DRAWN)], BINS, ends)
    return FilletYield(
        mean=round(mean, 6),
        sd=round(math.sqrt(float(apart @ apart) / count), 6),
        below={name: round(share * 1e6, 3) for name, share in below.items()},
        within={name: round(1e6 * CONFIDENT * math.sqrt(p * (1 - p) / count), 3) for name, p in below.items()},
        edges=ends,
        counts=tuple(counts.tolist()),
    )
