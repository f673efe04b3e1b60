"""Holes and lands of leaded parts (IPC-2222, IPC-7251): hole from the lead, land from the hole. Lengths in mm."""

import math

import msgspec

from eider.geometry.rounding import round_to_step
from eider.model.pattern import Level
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
