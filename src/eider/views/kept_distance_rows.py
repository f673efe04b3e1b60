"""Kept distances as rows of a table and as lines of the drawing."""

from collections.abc import Iterator

import msgspec

from eider.checks import PartUnderCheck
from eider.drawings.primitives import Line
from eider.evidence.value_evidence import datasheet_names, evidence_words
from eider.lands.measure_anchors import AnchorError, anchor_point, distance_of
from eider.model.address import KeptDistanceAddress
from eider.model.footprint import KeptDistance


class DistanceRow(msgspec.Struct, frozen=True):
    """A kept distance in the table; `measured` is None once one of its ends is gone."""

    kept: KeptDistance
    measured: float | None
    evidence: str

    @property
    def address(self) -> KeptDistanceAddress:
        """The address of the value."""
        return KeptDistanceAddress(self.kept.key)


def distance_rows(view: PartUnderCheck) -> list[DistanceRow]:
    """Every kept distance with what it is now."""
    names = datasheet_names(view.bundle.part)
    return [DistanceRow(k, _now(view, k), evidence_words(k.shall, names)) for k in view.bundle.footprint.distances]


def _now(view: PartUnderCheck, kept: KeptDistance) -> float | None:
    try:
        return distance_of(view.surroundings, kept) if view.surroundings else None
    except AnchorError:
        return None


def kept_lines(view: PartUnderCheck) -> Iterator[Line]:
    """The kept distances as lines from place to place, for the drawing of the lands."""
    around = view.surroundings
    if around is None:
        return
    for kept in view.bundle.footprint.distances:
        try:
            ends = (anchor_point(around, kept.first), anchor_point(around, kept.second))
        except AnchorError:
            continue
        yield Line(ends, "dimension extension", KeptDistanceAddress(kept.key))
