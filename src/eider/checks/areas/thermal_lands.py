"""Checks of thermal lands: their gap to the others, and how much of them is paste."""

from collections.abc import Iterable, Iterator

import numpy as np

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.rounding import NOISE
from eider.lands.shape_gaps import shape_gaps
from eider.lands.thermal_lands import full_size, paste_coverage, thermal_pads
from eider.model.address import PadAddress
from eider.model.finding import Severity
from eider.model.pattern import Pad


def _thermal(view: PartUnderCheck) -> list[Pad]:
    return list(thermal_pads(view.pads, view.recipe)) if view.recipe else []


@check("lands.thermal-gap", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def thermal_gap(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The thermal land keeps its distance from the lands around it.

    Solder that squeezes out from under the part bridges over a smaller one, where nobody sees it.
    """
    least = view.rulebook.clearances.pad_to_thermal
    for pad in _thermal(view):
        others = [other for other in view.pads if other.number != pad.number]
        gaps = shape_gaps((pad, *others), least)
        # The nearest comes first; the thermal land is the first of them.
        to_land = np.flatnonzero(gaps.first == 0)
        if len(to_land):
            at = int(to_land[0])
            number = others[int(gaps.second[at]) - 1].number
            message = f"pad {number} is too close to the thermal land {pad.number}"
            yield CheckHit(PadAddress(number), message, f"{gaps.distance[at]:.3f} mm", f"≥ {least:.2f} mm")


@check("lands.thermal-reduced", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def thermal_reduced(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A thermal land is as large as the thermal pad that is soldered to it.

    Where the lands around it need room, the computed one is made smaller and carries less heat; more often the
    sheet's L, D2 or E2 was misread.
    """
    for plate in view.recipe.plates if view.recipe else ():
        width, height = full_size(plate)
        used = _size(view.pads, plate.number)
        if used is None or (used[0] >= width - NOISE and used[1] >= height - NOISE):
            continue
        # A size that someone chose is not a want of room; only a smaller land is worth the computing.
        if view.computed and used == _size(view.computed.pads, plate.number):
            message = f"the thermal land {plate.number} is smaller than its pad, for want of room: check L, D2 and E2"
            measured, required = (f"{x:.2f} × {y:.2f} mm" for x, y in (used, (width, height)))
            yield CheckHit(PadAddress(plate.number), message, measured, required)


def _size(pads: Iterable[Pad], number: str) -> tuple[float, float] | None:
    return next(((pad.width, pad.height) for pad in pads if pad.number == number), None)


@check("lands.thermal-coverage", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def thermal_coverage(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Paste covers the right share of a thermal land (IPC-7525).

    Too much lifts the part off its other lands, too little leaves it hanging on voids.
    """
    rules = view.rulebook.thermal
    for pad in _thermal(view):
        share = paste_coverage(pad)
        if not rules.least_coverage - NOISE <= share <= rules.most_coverage + NOISE:
            message = f"paste covers {share:.0%} of the thermal land {pad.number}"
            wanted = f"{rules.least_coverage:.0%} to {rules.most_coverage:.0%}"
            yield CheckHit(PadAddress(pad.number), message, f"{share:.0%}", wanted)
