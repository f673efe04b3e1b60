"""Tables of connectors over their ways: which lengths grow with each way, and so by which pitch."""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from eider.datasheets.tables.dimension_tables import ReadDimension

# Two rows always grow by one step; a third proves it.
FEWEST_MEMBERS = 3
# Lengths are printed to a hundredth of a mm, so that a step may be off by one of it at either end.
ROUNDED = 0.011


class WaysPitch(NamedTuple):
    """By how much (mm) the lengths of some letters grow for each way."""

    pitch: float
    letters: tuple[str, ...]


def pitch_over_ways(rows: Sequence[ReadDimension]) -> WaysPitch | None:
    """The step by which lengths of a table over numbers of ways grow for each way; None where none does evenly.

    `rows` are those of all members, these named by their ways.
    """
    values: dict[str, dict[int, float]] = {}
    for row in rows:
        if row.member.isdecimal() and row.letter and row.limits is not None:
            values.setdefault(row.letter, {})[int(row.member)] = row.limits.middle
    steps = {letter: step for letter, by_ways in values.items() if (step := _step(by_ways)) > ROUNDED}
    if not steps:
        return None
    # A body's length may be rounded otherwise than the distance of its pins: the commonest step is the pitch.
    pitch = max(steps.values(), key=lambda step: sum(abs(other - step) <= ROUNDED for other in steps.values()))
    return WaysPitch(round(pitch, 3), tuple(letter for letter, step in steps.items() if abs(step - pitch) <= ROUNDED))


def _step(by_ways: dict[int, float]) -> float:
    """By how much a length grows for each way, over all members alike; zero where it does not."""
    if len(by_ways) < FEWEST_MEMBERS:
        return 0.0
    members = sorted(by_ways.items())
    (fewest, shortest), (most, longest) = members[0], members[-1]
    step = (longest - shortest) / (most - fewest)
    is_even = all(abs(b - a - step * (n - m)) <= 2 * ROUNDED for (m, a), (n, b) in pairwise(members))
    return step if is_even else 0.0
