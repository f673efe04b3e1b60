"""Checks of thermal lands: their gap to the others, and how much of them is paste."""

from collections.abc import Iterator

import numpy as np

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.rounding import NOISE
from eider.lands.thermal_lands import paste_coverage
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
        if not others:
            continue
        x0, y0, x1, y1 = pad.box
        boxes = np.array([other.box for other in others])
        dx = np.maximum(boxes[:, 0] - x1, x0 - boxes[:, 2])
        dy = np.maximum(boxes[:, 1] - y1, y0 - boxes[:, 3])
        apart = np.where((dx > 0) & (dy > 0), np.hypot(dx, dy), np.maximum(dx, dy))
        nearest = int(apart.argmin())
        if apart[nearest] < least - NOISE:
            message = f"pad {others[nearest].number} is too close to the thermal land {pad.number}"
            address = PadAddress(others[nearest].number)
            yield CheckHit(address, message, f"{apart[nearest]:.3f} mm", f"≥ {least:.2f} mm")


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
