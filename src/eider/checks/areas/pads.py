"""Checks between pads: numbers, gaps, overlaps, mask webs, paste."""

import math
from collections import Counter
from collections.abc import Iterator, Sequence

import msgspec
import numpy as np
import numpy.typing as npt
import shapely

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.rounding import NOISE
from eider.geometry.shapes import Box
from eider.lands.pads import has_copper, pad_outline, share_side
from eider.model.address import PadAddress
from eider.model.finding import Severity
from eider.model.pattern import Pad
from eider.model.wording import counted


class Gap(msgspec.Struct, frozen=True):
    """The distance between two boxes, by their index; below zero where they overlap (mm)."""

    first: int
    second: int
    distance: float


def _gaps(boxes: Sequence[Box], below: float) -> list[Gap]:
    """All pairs of boxes nearer than `below`, nearest first; exact for boxes, which nearly all pads are."""
    b: npt.NDArray[np.float64] = np.array(boxes)
    # The tree finds the few pairs that may be near; all pairs of a large grid would be a million.
    areas = shapely.box(*b.T)
    first, second = shapely.STRtree(areas).query(areas, predicate="dwithin", distance=max(below, 0.0))
    once = first < second
    first, second = first[once], second[once]
    dx = np.maximum(b[first, 0] - b[second, 2], b[second, 0] - b[first, 2])
    dy = np.maximum(b[first, 1] - b[second, 3], b[second, 1] - b[first, 3])
    apart = np.where((dx > 0) & (dy > 0), np.hypot(dx, dy), np.maximum(dx, dy))
    hits = apart < below - NOISE
    triples = zip(first[hits].tolist(), second[hits].tolist(), apart[hits].tolist(), strict=True)
    gaps = [Gap(i, j, distance) for i, j, distance in triples]
    return sorted(gaps, key=lambda gap: (gap.distance, gap.first, gap.second))


def _land_gaps(pads: Sequence[Pad], below: float) -> list[Gap]:
    """All pairs of lands on a common side that are nearer than `below`, nearest first, by their true outlines."""
    found = []
    for gap in _gaps([pad.box for pad in pads], below) if pads else ():
        a, b = pads[gap.first], pads[gap.second]
        if not share_side(a, b):
            continue
        if not (_is_box(a) and _is_box(b)):
            apart = _true_distance(a, b)
            if apart >= below - NOISE:
                continue
            gap = Gap(gap.first, gap.second, apart)
        found.append(gap)
    return sorted(found, key=lambda gap: (gap.distance, gap.first, gap.second))


def _is_box(pad: Pad) -> bool:
    return pad.shape == "rectangle" and pad.rotation % 90 == 0


def _true_distance(a: Pad, b: Pad) -> float:
    """Between two lands of any shape (mm); below zero where they overlap, by the root of the common area."""
    first, second = shapely.Polygon(pad_outline(a)), shapely.Polygon(pad_outline(b))
    common = float(first.intersection(second).area)
    return -math.sqrt(common) if common > 0 else float(first.distance(second))


@check("lands.pad-numbers", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def pad_numbers(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every terminal has one pad of its number, and every pad a terminal.

    A missing pad is an open pin, a double number joins two nets or hides a missing one.
    """
    # Holes without copper belong to no terminal.
    counts = Counter(pad.number for pad in view.pads if pad.plated)
    wanted = [terminal.number for terminal in view.terminals]
    if not view.pads or not wanted:
        return
    # Pads given by hand may share a number: a terminal of several lands.
    given = Counter(g.pad.number for g in view.recipe.given if g.pad.plated) if view.recipe else Counter()
    for number in wanted:
        expected = given[number] or 1
        if counts[number] != expected:
            message = (
                f"terminal {number} has {counted(counts[number], 'pad')}"
                if counts[number]
                else f"there is no pad {number}"
            )
            yield CheckHit(PadAddress(number), message, str(counts[number]), str(expected))
    for number in sorted(set(counts) - set(wanted)):
        yield CheckHit(PadAddress(number), f"pad {number} belongs to no terminal of the package", number, "none")


@check("lands.pads-overlap", Severity.BLOCKER, reads=("lands",))
def pads_overlap(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No two pads overlap that do not share a number.

    They would be one piece of copper, and two pins shorted.
    """
    pads = [pad for pad in view.pads if has_copper(pad)]
    for gap in _land_gaps(pads, 0.0):
        a, b = pads[gap.first], pads[gap.second]
        if a.number != b.number:
            message = f"pads {a.number} and {b.number} overlap"
            yield CheckHit(PadAddress(a.number), message, f"{gap.distance:.4f} mm", "> 0 mm")


@check("lands.gap-between-lands", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def gap_between_lands(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Neighbouring lands leave the rulebook's gap.

    Solder bridges over a smaller one, and many makers of boards refuse it.
    """
    smallest = view.rulebook.clearances.pad_to_pad
    # How near holes without copper and thermal lands may be is said by checks of their own.
    plates = {plate.number for plate in view.recipe.plates} if view.recipe else set()
    pads = [pad for pad in view.pads if has_copper(pad) and pad.number not in plates]
    gaps = [gap for gap in _land_gaps(pads, smallest) if gap.distance > 0]
    if gaps:
        a, b = pads[gaps[0].first], pads[gaps[0].second]
        more = f" and {len(gaps) - 1} more" if len(gaps) > 1 else ""
        message = f"lands {a.number} and {b.number}{more} are too close"
        yield CheckHit(PadAddress(a.number), message, f"{gaps[0].distance:.4f} mm", f"≥ {smallest:.2f} mm")


def _mask_gaps(view: PartUnderCheck) -> list[Gap]:
    openings = [opening.box for pad in view.pads for opening in pad.mask]
    return _gaps(openings, view.rulebook.clearances.mask_web) if openings else []


@check("lands.mask-web", Severity.CAUTION, reads=("lands", "rulebook"))
def mask_web(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The web of solder mask between openings is wide enough to hold.

    A thinner one breaks off; then the openings are better made one.
    """
    owners = [pad for pad in view.pads for _ in pad.mask]
    gaps = _mask_gaps(view)
    if gaps:
        a, b = owners[gaps[0].first], owners[gaps[0].second]
        more = f" and {len(gaps) - 1} more" if len(gaps) > 1 else ""
        yield CheckHit(
            PadAddress(a.number),
            f"the mask web between pads {a.number} and {b.number}{more} is too thin",
            f"{gaps[0].distance:.4f} mm",
            f"≥ {view.rulebook.clearances.mask_web:.2f} mm",
        )


@check("lands.paste-release", Severity.CAUTION, reads=("lands", "rulebook"))
def paste_release(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every paste opening lets go of its paste (IPC-7525).

    Area ratio L·W / (2·t·(L + W)) and aspect ratio W / t of the opening in a stencil of thickness t.
    """
    rules, seen = view.rulebook.pads, set()
    for pad in view.pads:
        for opening in pad.paste:
            x0, y0, x1, y1 = opening.box
            short, long = sorted((round(x1 - x0, 6), round(y1 - y0, 6)))
            if (short, long) in seen or not rules.stencil:
                continue
            seen.add((short, long))
            ratio, aspect = short * long / (2 * rules.stencil * (short + long)), short / rules.stencil
            size = f"opening {short:g} × {long:g} mm in a stencil of {rules.stencil:g} mm"
            address = PadAddress(pad.number)
            if ratio < rules.area_ratio - NOISE:
                yield CheckHit(
                    address, f"{size} releases paste badly", f"area ratio {ratio:.2f}", f"≥ {rules.area_ratio:g}"
                )
            if aspect < rules.aspect_ratio - NOISE:
                yield CheckHit(
                    address, f"{size} is too narrow", f"aspect ratio {aspect:.2f}", f"≥ {rules.aspect_ratio:g}"
                )
