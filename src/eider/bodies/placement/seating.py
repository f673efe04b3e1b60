"""At which height a model that lies right way up stands on the board."""

import numpy as np
import numpy.typing as npt

from eider.bodies.placement.alignment_target import AlignmentTarget
from eider.bodies.placement.contacts import Contacts
from eider.bodies.step_files.step_model import FaceTable, FloatArray

# How much room (mm) round the end of a lead still counts as the lead, and how far it reaches below the body at least.
ROUND_LEAD, SHORTEST_LEAD = 0.2, 0.3


def seating_height(lying: FaceTable, contacts: Contacts, pairs: tuple[int, ...], target: AlignmentTarget) -> float:
    """The height of the seating plane in the frame in which the model lies (mm).

    Surface mount: the lowest point, on which it stands. Leads in holes: below the body by its stand-off.
    """
    if not target.through_hole:
        return float(lying.low[:, 2].min())
    return _underside(lying, contacts, [pair for pair in pairs if pair >= 0]) - target.stand_off


def _underside(lying: FaceTable, contacts: Contacts, used: list[int]) -> float:
    """The lowest point that is not a lead: of the solids without leads, or of one solid's faces beside its leads."""
    leads = set(contacts.solid[used].tolist())
    others = ~np.isin(lying.solid, list(leads))
    if others.any():
        return float(lying.low[others, 2].min())
    above = lying.low[:, 2] > float(contacts.depth[used].max()) + SHORTEST_LEAD
    heights = lying.low[above & ~_within_leads(lying, contacts.box[used]), 2]
    return float(heights.min() if len(heights) else lying.low[:, 2].min())


def _within_leads(lying: FaceTable, boxes: FloatArray) -> npt.NDArray[np.bool_]:
    """Which faces lie within the leads as seen from above; shape (n,)."""
    low, high = lying.low[:, None, :2], lying.high[:, None, :2]
    inside = (low >= boxes[None, :, :2] - ROUND_LEAD) & (high <= boxes[None, :, 2:] + ROUND_LEAD)
    return np.asarray(np.any(np.all(inside, axis=2), axis=1))
