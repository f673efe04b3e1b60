"""Checks of holes: against the lead, the ring round them, and each other."""

from collections.abc import Iterator, Mapping

import numpy as np
import shapely
from shapely.geometry import Point

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.limits import Limits
from eider.geometry.rounding import NOISE
from eider.lands.pads import ring_of
from eider.lands.through_hole import lead_diagonal
from eider.model.address import PadAddress
from eider.model.finding import Severity
from eider.model.pattern import LEVELS, Pad
from eider.packages.family import Leads
from eider.packages.pads.pad_shapes import pad_outline


def _drilled(view: PartUnderCheck) -> list[Pad]:
    return [pad for pad in view.pads if pad.hole is not None]


def leads_of(view: PartUnderCheck) -> Mapping[str, Leads]:
    """The leads of the package by number."""
    groups = view.recipe.leads if view.recipe else ()
    return {number: group for group in groups for number in group.numbers}


def section_of(leads: Leads, pad: Pad) -> tuple[float, float]:
    """The largest and the smallest section of a lead as its hole sees it: a slot only its thin side (mm)."""
    thick = leads.thickness
    if thick is None:
        return leads.width.upper, leads.width.lower
    if pad.hole and pad.hole.width != pad.hole.height:
        return min(leads.width.upper, thick.upper), min(leads.width.lower, thick.lower)
    return lead_diagonal(leads.width.upper, thick.upper), lead_diagonal(leads.width.lower, thick.lower)


@check("lands.hole-size", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def hole_size(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every hole takes its lead at its largest, and does not leave the smallest too much play (IPC-2222).

    Through too small a hole the lead does not go; in too large a one the solder does not rise.
    """
    rules, leads = view.rulebook.holes, leads_of(view)
    level = LEVELS.index(view.bundle.footprint.level)
    for pad in _drilled(view):
        if pad.number not in leads or pad.hole is None:
            continue
        given = leads[pad.number].hole
        if given is not None:
            yield from _against_sheet(pad, given)
        if leads[pad.number].press_fit:
            continue
        largest, smallest = section_of(leads[pad.number], pad)
        hole = min(pad.hole.width, pad.hole.height)
        least, most = largest + rules.over_largest[level], smallest + rules.over_smallest[level]
        address = PadAddress(pad.number)
        if hole < least - NOISE and (given is None or hole <= largest):
            severity = Severity.BLOCKER if hole <= largest else None
            message = f"the hole of pad {pad.number} is too small for its lead of {largest:.3f} mm"
            yield CheckHit(address, message, f"{hole:.3f} mm", f"≥ {least:.3f} mm", severity)
        elif given is None and hole > most + rules.step:
            message = f"the hole of pad {pad.number} gives the smallest lead of {smallest:.3f} mm too much play"
            yield CheckHit(address, message, f"{hole:.3f} mm", f"≤ {most:.3f} mm")


def _against_sheet(pad: Pad, given: Limits) -> Iterator[CheckHit]:
    """A hole that the sheet gives has its size: of a press fit nothing else holds."""
    hole = min(pad.hole.width, pad.hole.height) if pad.hole else 0.0
    if not given.lower - NOISE <= hole <= given.upper + NOISE:
        message = f"the hole of pad {pad.number} is not the one that the sheet gives"
        yield CheckHit(PadAddress(pad.number), message, f"{hole:.3f} mm", f"{given.lower:g} to {given.upper:g} mm")


@check("lands.ring", Severity.CAUTION, reads=("lands", "rulebook"))
def ring(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Copper is left all round every plated hole.

    A drill that wanders cuts through a thinner ring; a land smaller than its hole leaves no copper at all.
    """
    least = view.rulebook.holes.least_ring
    for pad in _drilled(view):
        if not pad.plated or pad.hole is None:
            continue
        left = ring_of(pad)
        if left < least - NOISE:
            severity = Severity.BLOCKER if left < 0 else None
            message = f"the ring of pad {pad.number} is {'missing' if left < 0 else 'too thin'}"
            yield CheckHit(PadAddress(pad.number), message, f"{left:.3f} mm", f"≥ {least:.3f} mm", severity)


@check("lands.hole-to-hole", Severity.CAUTION, reads=("lands", "rulebook"))
def hole_to_hole(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Holes keep their distance from each other.

    If two holes are too close, the web between them breaks and the drill wanders.
    """
    drilled = _drilled(view)
    least = view.rulebook.holes.hole_to_hole
    if not drilled:
        return
    places = np.array([pad.hole_centre for pad in drilled])
    radii = np.array([pad.hole.reach if pad.hole else 0.0 for pad in drilled])
    apart = np.hypot(*(places[:, None, :] - places[None, :, :]).transpose(2, 0, 1)) - radii[:, None] - radii[None, :]
    for i, j in zip(*np.nonzero(np.triu(apart < least - NOISE, k=1)), strict=True):
        pad, other = drilled[i], drilled[j]
        message = f"the holes of {pad.number} and {other.number} are too close"
        yield CheckHit(PadAddress(pad.number), message, f"{apart[i, j]:.3f} mm", f"≥ {least:.3f} mm")


@check("lands.hole-to-land", Severity.CAUTION, reads=("lands", "rulebook"))
def hole_to_land(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Copper keeps clear of holes without copper.

    A drill that wanders, or the post itself, would cut it or short it.
    """
    bare = [pad for pad in _drilled(view) if not pad.plated]
    lands = [pad for pad in view.pads if pad.plated]
    if not bare or not lands:
        return
    least = view.rulebook.posts.keep_out
    areas = [shapely.Polygon(pad_outline(pad)) for pad in lands]
    for pad in bare:
        radius = pad.hole.reach if pad.hole else 0.0
        distances = shapely.distance(Point(pad.hole_centre), areas) - radius
        nearest = int(distances.argmin())
        if distances[nearest] < least - NOISE:
            message = (
                f"the land of pad {lands[nearest].number} is too close to the hole {pad.number or 'without copper'}"
            )
            address = PadAddress(lands[nearest].number)
            yield CheckHit(address, message, f"{distances[nearest]:.3f} mm", f"≥ {least:.3f} mm")
