"""A slip of a pattern, and the pattern beside the one that the package asks for."""

import math
from collections import Counter
from collections.abc import Mapping, Sequence
from functools import cached_property

import msgspec
import numpy as np

from eider.geometry.plane import box_centre
from eider.geometry.rounding import median
from eider.lands.pads import has_copper
from eider.model.pattern import Pad
from eider.packages.family import FloatArray, LandRecipe, Terminal


class PatternSlip(msgspec.Struct, frozen=True):
    """One slip: its stable name, what is wrong in one sentence, and what to do next.

    `pads` are the numbers of which it speaks, none where it is the whole pattern. One that `explains_all` is the cause
    of whatever else can be measured: spans, pitches and fillets say nothing beside it.
    """

    slip: str
    message: str
    action: str
    pads: tuple[str, ...] = ()
    explains_all: bool = False


class ComparedPattern:
    """The lands of a pattern beside those that the package asks for, by number; lengths in mm.

    Args:
        pads: the pattern as it is.
        wanted: the lands that the package asks for, in the same orientation.
        recipe: what these follow from.
        terminals: the terminals of the package, placed alike.
    """

    def __init__(
        self, pads: Sequence[Pad], wanted: Sequence[Pad], recipe: LandRecipe, terminals: Sequence[Terminal]
    ) -> None:
        self.pads = tuple(pad for pad in pads if pad.number and (has_copper(pad) or pad.hole is not None))
        self.wanted = tuple(pad for pad in wanted if pad.number and has_copper(pad))
        self.recipe, self.terminals = recipe, tuple(terminals)

    @cached_property
    def pairs(self) -> Mapping[str, tuple[Pad, Pad]]:
        """The pad and the wanted land of each number that stands once in both."""
        have, want = _once(self.pads), _once(self.wanted)
        return {number: (have[number], want[number]) for number in want if number in have}

    @cached_property
    def shift(self) -> tuple[float, float]:
        """By how much the pattern as a whole lies beside the package in x and y: what most of its pads agree on.

        Lands of another level reach beyond their terminals alike on both sides: across the rows the middle counts.
        """
        if not self.recipe.rows:
            offsets = [offset(*pair) for pair in self.pairs.values()]
            return (median([x for x, _y in offsets]), median([y for _x, y in offsets])) if offsets else (0.0, 0.0)
        moved: tuple[list[float], list[float]] = ([], [])
        for axis in ("x", "y"):
            along, across = (1, 0) if axis == "x" else (0, 1)
            groups = [group for group in self.recipe.rows if group.axis == axis]
            sides = [
                [offset(*self.pairs[number]) for row in rows for number in row if number in self.pairs]
                for rows in ([group.first for group in groups], [group.second for group in groups])
            ]
            beside = [place for side in sides for place in side]
            moved[along].extend(place[along] for place in beside)
            if all(sides):
                middle = sum(median([place[across] for place in side]) for side in sides) / 2
                moved[across].extend([middle] * len(beside))
        dx, dy = (median(values) if values else 0.0 for values in moved)
        return dx, dy

    @cached_property
    def spread(self) -> float:
        """How many times as far apart as the wanted lands the pads lie, or how many times as wide the only one is."""
        if len(self.pads) == len(self.wanted) == 1:
            return self.pads[0].width / self.wanted[0].width
        have, want = _spread(self.pads), _spread(self.wanted)
        return have / want if want > 0 else 0.0

    @cached_property
    def nearest_gap(self) -> float:
        """From the middle of a wanted land to the next one, at the least (mm)."""
        places = centres(self.wanted)
        if len(places) < 2:
            return math.inf
        far = np.hypot(*(places[:, None, :] - places[None, :, :]).transpose(2, 0, 1))
        np.fill_diagonal(far, np.inf)
        return float(far.min())


def centres(pads: Sequence[Pad]) -> FloatArray:
    """The middles of pads (mm), shape (n, 2)."""
    return np.array([box_centre(pad.box) for pad in pads]).reshape(-1, 2)


def offset(have: Pad, want: Pad) -> tuple[float, float]:
    """By how much a pad lies beside a wanted land (mm)."""
    (x, y), (u, v) = box_centre(have.box), box_centre(want.box)
    return x - u, y - v


def _once(pads: Sequence[Pad]) -> dict[str, Pad]:
    counts = Counter(pad.number for pad in pads)
    return {pad.number: pad for pad in pads if counts[pad.number] == 1}


def _spread(pads: Sequence[Pad]) -> float:
    places = centres(pads)
    return float(np.sqrt(((places - places.mean(axis=0)) ** 2).sum(axis=1).mean())) if len(places) > 1 else 0.0


def listed(numbers: Sequence[str]) -> str:
    """Numbers for a sentence: all of a few, of many the first and how many."""
    if len(numbers) <= MOST_LISTED:
        return ", ".join(numbers[:-1]) + (" and " if len(numbers) > 1 else "") + numbers[-1]
    return f"{', '.join(numbers[: MOST_LISTED - 1])} and {len(numbers) - MOST_LISTED + 1} more"


MOST_LISTED = 6
