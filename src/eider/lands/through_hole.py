"""Holes and lands of leaded parts (IPC-2222, IPC-7251): hole from the lead, land from the hole. Lengths in mm."""

import math
from typing import NamedTuple

import msgspec
import numpy as np

from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.model.package_sheet import Post
from eider.model.pattern import Hole, Level, Pad, PadShape, SizeDerivation
from eider.packages.family import FloatArray, Leads
from eider.rulebooks import Rulebook


class HoleAndLand(msgspec.Struct, frozen=True):
    """Finished hole and land diameter in mm; `hole_raw` before rounding, `hole_most` the largest hole allowed."""

    hole: float
    land: float
    hole_raw: float
    hole_most: float


def lead_diagonal(width: float, thickness: float) -> float:
    """What a rectangular lead needs in a round hole."""
    return math.hypot(width, thickness)


def hole_and_land(largest_lead: float, smallest_lead: float, level: Level, rulebook: Rulebook) -> HoleAndLand:
    """Hole ≥ largest lead + allowance, land = hole + 2 × ring + fabrication allowance, both rounded up."""
    rules, index = rulebook.holes, "ABC".index(level)
    raw = largest_lead + rules.over_largest[index]
    hole = round_to_step(raw, rules.step, "up")
    land = round_to_step(hole + 2 * rules.ring + rules.allowance[index], rules.step, "up")
    return HoleAndLand(hole=hole, land=land, hole_raw=raw, hole_most=smallest_lead + rules.over_smallest[index])


class LeadLands(NamedTuple):
    """The pads of leads without openings, and how hole and land came about."""

    pads: tuple[Pad, ...]
    derivation: SizeDerivation


def lay_leads(leads: Leads, level: Level, rulebook: Rulebook, first: str) -> LeadLands:
    """A plated hole with its land for every lead; a slot where a flat lead in a round hole would have too much play.

    The land of pin `first` is square where the rulebook says so.
    """
    hole, formulas, inputs = _hole(leads, level, rulebook)
    rules, index = rulebook.holes, "ABC".index(level)
    around = 2 * rules.ring + rules.allowance[index]
    width, height = (round_to_step(size + around, rules.step, "up") for size in (hole.width, hole.height))
    is_slot = hole.width != hole.height
    width, height, told = _crowded(leads, hole, (width, height), rulebook)
    formulas = (
        *formulas,
        f"land = hole + 2·ring + allowance = {hole.width:g} + 2·{rules.ring:g} + "
        f"{rules.allowance[index]:g} → {round_to_step(hole.width + around, rules.step, 'up'):g}",
        *told,
    )
    x, y = np.round(leads.x, 6) + 0.0, np.round(leads.y, 6) + 0.0
    pads = tuple(
        Pad(
            number,
            px,
            py,
            width,
            height,
            hole=hole,
            layers="all",
            shape="rectangle" if number == first and rules.square_first else "circle" if width == height else "oval",
        )
        for number, px, py in zip(leads.numbers, x.tolist(), y.tolist(), strict=True)
    )
    values = {"hole": hole.width, "land": width} | ({} if is_slot or width == height else {"land length": height})
    if is_slot:
        values |= {"hole length": max(hole.width, hole.height), "hole": min(hole.width, hole.height)}
    return LeadLands(pads, SizeDerivation(leads.group, leads.numbers, values, inputs, formulas))


def _crowded(
    leads: Leads, hole: Hole, land: tuple[float, float], rulebook: Rulebook
) -> tuple[float, float, tuple[str, ...]]:
    """Width and height of lands that keep the gap to the next land of their row and column, and what was done for it.

    Across the row they stay as they are, unless all of the ring is to be smaller; the least ring is never taken.
    """
    rules, least = rulebook.holes, rulebook.clearances.pad_to_pad
    made, told = list(land), list[str]()
    holes = (hole.width, hole.height)
    for axis, apart in enumerate((_nearest(leads.x, leads.y), _nearest(leads.y, leads.x))):
        if apart - made[axis] >= least - NOISE:
            continue
        room = round_to_step(apart - least, rules.step, "down")
        smallest = holes[axis] + 2 * rules.least_ring
        size = tidy(min(max(room, smallest), made[axis]))
        how = f"{land[axis]:g} → {size:g}: {least:g} to the next land at {apart:g}"
        if rules.crowded == "smaller":
            made = [
                tidy(min(length, max(size, end + 2 * rules.least_ring)))
                for length, end in zip(made, holes, strict=True)
            ]
            told.append(f"ring made smaller, {how}")
        else:
            made[axis] = size
            told.append(f"oval across the row, {how}")
    return made[0], made[1], tuple(told)


def _nearest(along: FloatArray, across: FloatArray) -> float:
    """How far the nearest two places in one line are apart (mm); infinite where each has its line for itself."""
    order = np.lexsort((along, np.round(across, 6)))
    steps = np.diff(along[order])
    in_line = np.diff(np.round(across[order], 6)) == 0
    return float(steps[in_line].min()) if in_line.any() else math.inf


def _hole(leads: Leads, level: Level, rulebook: Rulebook) -> tuple[Hole, tuple[str, ...], dict[str, float]]:
    """The finished hole; a flat lead counts with its diagonal, or gets a slot where that breaks the maximum."""
    if leads.hole is not None:
        given = tidy(leads.hole.middle)
        words = f"hole = finished hole of the sheet = {given:g}" + (", a press fit" if leads.press_fit else "")
        return Hole(given, given), (words,), {"largest lead": leads.width.upper}
    rules, index = rulebook.holes, "ABC".index(level)
    over, most = rules.over_largest[index], rules.over_smallest[index]
    wide, thick = leads.width, leads.thickness
    if thick is None:
        round_hole = round_to_step(wide.upper + over, rules.step, "up")
        words = f"hole = largest lead + allowance = {wide.upper:g} + {over:g} → {round_hole:g}"
        return Hole(round_hole, round_hole), (words,), {"largest lead": wide.upper, "smallest lead": wide.lower}
    largest, smallest = lead_diagonal(wide.upper, thick.upper), lead_diagonal(wide.lower, thick.lower)
    round_hole = round_to_step(largest + over, rules.step, "up")
    inputs = {"largest diagonal": tidy(largest), "smallest diagonal": tidy(smallest)}
    words = f"hole = diagonal of the largest lead + allowance = {largest:.4f} + {over:g} → {round_hole:g}"
    if round_hole <= smallest + most + NOISE:
        return Hole(round_hole, round_hole), (words,), inputs
    long, short = (round_to_step(size.upper + over, rules.step, "up") for size in (wide, thick))
    width, height = (long, short) if leads.along == "x" else (short, long)
    limit = f"{round_hole:g} is over the diagonal of the smallest lead, {smallest:.4f}, by more than {most:g}: a slot"
    slot = f"slot = width + allowance by thickness + allowance = {long:g} × {short:g}"
    return Hole(width, height), (words, limit, slot), inputs


def lay_posts(posts: tuple[Post, ...], rulebook: Rulebook) -> tuple[Pad, ...]:
    """Holes without copper for posts, numbered H1, H2 …: the post and some room, no land beyond the hole."""
    rules = rulebook.posts
    made = []
    for index, post in enumerate(posts, start=1):
        width, height = (
            round_to_step(size + rules.over, rules.step, "up") for size in (post.diameter, post.height or post.diameter)
        )
        shape: PadShape = "circle" if width == height else "oval"
        made.append(
            Pad(
                f"H{index}",
                tidy(post.x),
                tidy(post.y),
                width,
                height,
                hole=Hole(width, height),
                plated=False,
                layers="all",
                shape=shape,
            )
        )
    return tuple(made)
