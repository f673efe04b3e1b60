"""Distances that are measured, kept, and checked from then on."""

import msgspec

from eider.checks import PartUnderCheck
from eider.drawings.ruler_snapping import Measured, Snap
from eider.errors import InputError
from eider.evidence.address_table import put_kept_distance
from eider.evidence.evidence_changes import typed_dimension
from eider.lands.measure_anchors import AnchorError, Surroundings, name_anchor
from eider.model.address import KeptDistanceAddress, pad_number
from eider.model.bundle import Bundle
from eider.model.footprint import ALONG, Along, KeptDistance
from eider.model.package_sheet import Dimension

replace = msgspec.structs.replace


# What a role of the drawing is called in the name of a place.
THINGS = {
    "copper": "pad", "lit": "pad", "hole": "hole", "hole bare": "hole", "mask": "mask", "paste": "paste",
    "ghost": "lead", "ghost body": "body", "courtyard": "courtyard",
}  # fmt: skip


def anchor_of(around: Surroundings, snap: Snap) -> str:
    """The name of a place that the ruler holds on to.

    Raises:
        AnchorError: it is of a thing without a name, or none that is found again.
    """
    thing = THINGS.get(snap.role)
    if thing is None:
        raise AnchorError(
            "this line has no place that is found again; hold on to a pad, hole, opening, lead or the body"
        )
    number = pad_number(snap.address)
    return name_anchor(around, f"{thing} {number}".strip(), snap.at)


def ways(measured: Measured) -> tuple[Along, ...]:
    """The ways in which a measured distance can be kept."""
    return ALONG if measured.gap is not None else ALONG[:3]


def value_along(measured: Measured, along: Along) -> float:
    """The measured distance in one of its ways (mm)."""
    values = {"x": abs(measured.dx), "y": abs(measured.dy), "direct": measured.distance}
    return (measured.gap or 0.0) if along == "edge to edge" else values[along]


def kept_of(view: PartUnderCheck, measured: Measured, along: Along) -> KeptDistance:
    """A measured distance by the names of its ends.

    Raises:
        InputError: there are no lands.
        AnchorError: an end would not be found again.
    """
    if view.surroundings is None:
        raise InputError("there are no lands to measure")
    first, second = (anchor_of(view.surroundings, snap) for snap in (measured.first, measured.second))
    return KeptDistance(first, second, along)


def keep_distance(bundle: Bundle, kept: KeptDistance, text: str) -> Bundle:
    """Keep a distance: from now on it shall be `text`.

    Raises:
        InputError: it is kept already.
    """
    if any(other.key == kept.key for other in bundle.footprint.distances):
        raise InputError(f"{kept.key} is kept already")
    footprint = replace(bundle.footprint, distances=(*bundle.footprint.distances, kept))
    return set_distance(replace(bundle, footprint=footprint), kept.key, text)


def set_distance(bundle: Bundle, key: str, text: str) -> Bundle:
    """Type what a kept distance shall be; what was proven before stays on record."""
    old = next((k.shall for k in bundle.footprint.distances if k.key == key), Dimension())
    return put_kept_distance(bundle, KeptDistanceAddress(key), typed_dimension(old, text.strip(), None))


def drop_distances(bundle: Bundle, keys: list[str]) -> Bundle:
    """Keep some distances no longer."""
    kept = tuple(k for k in bundle.footprint.distances if k.key not in keys)
    return replace(bundle, footprint=replace(bundle.footprint, distances=kept))
