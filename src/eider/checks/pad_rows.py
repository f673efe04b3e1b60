"""The rows of pads that are held to a pitch, and what each of them has to spare for its errors."""

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence

import msgspec
import numpy as np

from eider.checks.part_under_check import PartUnderCheck
from eider.lands.joints import pads_of_rows
from eider.lands.through_hole import lead_diagonal
from eider.model.pattern import Pad
from eider.packages.family import FloatArray, Leads


class CheckedRow(msgspec.Struct, frozen=True):
    """Pads and the places of their terminals along one axis (0 is x), and what the joints spare for errors (mm)."""

    axis: int
    pads: Sequence[Pad]
    at: FloatArray
    spare: float


# Pads by their number and which of those with that number they are: the legs of a shell share one.
PadPlaces = dict[tuple[str, int], Pad]


def _placed(numbers: Iterable[str]) -> list[tuple[str, int]]:
    seen: Counter[str] = Counter()
    found = []
    for number in numbers:
        found.append((number, seen[number]))
        seen[number] += 1
    return found


def _row(by_place: PadPlaces, numbers: Sequence[str], at: FloatArray, axis: int, spare: float) -> CheckedRow:
    places = _placed(numbers)
    kept = [index for index, place in enumerate(places) if place in by_place]
    return CheckedRow(axis, [by_place[places[index]] for index in kept], at[kept], spare)


def _play(leads: Leads, pads: Sequence[Pad]) -> float:
    """How much the tightest hole is larger than its lead."""
    lead = lead_diagonal(leads.width.upper, leads.thickness.upper) if leads.thickness else leads.width.upper
    return min((min(pad.hole.width, pad.hole.height) - lead for pad in pads if pad.hole), default=0.0)


def checked_rows(view: PartUnderCheck) -> Iterator[CheckedRow]:
    """The pads of each row, of leads and grids along both axes, with what half the margin of their joints is."""
    by_place = dict(zip(_placed(pad.number for pad in view.pads), view.pads, strict=True))
    for group in view.joints:
        side = {joint.number: joint.side - group.goals.goals("C").side for joint in group.pads}
        rows = group.rows
        mine = {(number, 0): pad for number, pad in pads_of_rows(rows, view.pads).items()}
        for numbers, at in ((rows.first, rows.at_first), (rows.second, rows.at_second)):
            spare = min((side[number] for number in numbers if number in side), default=0.0) / 2
            yield _row(mine, numbers, at, 1 if rows.axis == "x" else 0, spare)
    for leads in view.recipe.leads if view.recipe else ():
        play = _play(leads, [by_place[place] for place in _placed(leads.numbers) if place in by_place]) / 2
        yield _row(by_place, leads.numbers, leads.x, 0, play)
        yield _row(by_place, leads.numbers, leads.y, 1, play)
    for grid in view.recipe.grids if view.recipe else ():
        # No equation tells the joint of a ball: the error of placement is what it must take anyhow.
        spare = view.rulebook.tolerances.placement
        yield _row(by_place, grid.numbers, grid.x, 0, spare)
        yield _row(by_place, grid.numbers, grid.y, 1, spare)
    yield from _given_rows(view)


def _given_rows(view: PartUnderCheck) -> Iterator[CheckedRow]:
    """Pads by hand against the places that their sums give."""
    given = [g.pad for g in view.recipe.manual_pads if g.pad.number] if view.recipe else []
    counts = Counter(pad.number for pad in (*given, *view.pads))
    # A number of several pads tells none of them.
    wanted = {pad.number: pad for pad in given if counts[pad.number] == 2}
    pads = [pad for pad in view.pads if pad.number in wanted]
    for axis in (0, 1):
        at = np.array([(wanted[pad.number].x, wanted[pad.number].y)[axis] for pad in pads])
        yield CheckedRow(axis, pads, at, view.rulebook.tolerances.placement)
