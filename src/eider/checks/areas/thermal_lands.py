"""Checks of thermal lands: their gap to the others, and how much of them is paste."""

from collections.abc import Iterator

import numpy as np

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.rounding import NOISE
from eider.lands.shape_gaps import shape_gaps
from eider.lands.thermal_lands import full_size, paste_coverage
from eider.model.address import PadAddress
from eider.model.finding import Severity
from eider.model.pattern import Pad


def _thermal(view: PartUnderCheck) -> list[Pad]:
    numbers = {plate.number for plate in view.recipe.plates} if view.recipe else set()
    return [pad for pad in view.pads if pad.number in numbers]


@check("lands.thermal-gap", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def thermal_gap(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The thermal land keeps its distance from the lands round it.

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

    Where the lands round it need room, the computed one is made smaller and carries less heat; more often the
    sheet's L, D2 or E2 was misread.
    """
    computed = {pad.number: pad for pad in view.computed.pads} if view.computed else {}
    for plate in view.recipe.plates if view.recipe else ():
        pad = computed.get(plate.number)
        used = next((pad for pad in view.pads if pad.number == plate.number), None)
        full = full_size(plate)
        if pad is None or used is None or (used.width, used.height) != (pad.width, pad.height):
            continue
        if pad.width < full[0] - NOISE or pad.height < full[1] - NOISE:
            message = f"the thermal land {plate.number} is smaller than its pad, for want of room: check L, D2 and E2"
            required = f"{full[0]:.2f} × {full[1]:.2f} mm"
            yield CheckHit(PadAddress(plate.number), message, f"{pad.width:.2f} × {pad.height:.2f} mm", required)


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
