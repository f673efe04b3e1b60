"""Checks of distances that someone measured and kept."""

from collections.abc import Iterator

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.lengths import LengthError, format_limits
from eider.lands.measure_anchors import AnchorError, distance_of, wanted
from eider.model.address import KeptDistanceAddress
from eider.model.finding import Severity

# Lengths are stored with six decimals; a bare number must be met as it stands.
EXACT = 5e-6


@check("lands.kept-distance", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def kept_distance(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every kept distance is within its limits.

    It was read in the datasheet: a change of the sheet or a slip elsewhere must not move it unseen.
    """
    if view.surroundings is None:
        return
    for kept in view.bundle.footprint.distances:
        address = KeptDistanceAddress(kept.key)
        try:
            limits = wanted(view.bundle.sheet, kept)
        except LengthError as fault:
            yield CheckHit(
                address, f"required value of {kept.key} cannot be read: {fault}", kept.shall.text, "a length"
            )
            continue
        try:
            found = distance_of(view.surroundings, kept)
        except AnchorError as fault:
            yield CheckHit(address, f"{kept.key}: {fault}", "no such place", format_limits(limits), Severity.CAUTION)
            continue
        if not limits.lower - EXACT <= found <= limits.upper + EXACT:
            yield CheckHit(address, f"{kept.key} is out of limits", f"{found:.4f} mm", format_limits(limits))
