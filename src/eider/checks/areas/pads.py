"""Checks between pads: numbers, gaps, overlaps, mask webs, paste."""

from collections import Counter
from collections.abc import Iterator, Sequence
from typing import NamedTuple

import numpy as np

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, check
from eider.geometry.rounding import NOISE
from eider.lands.pads import share_side
from eider.lands.shape_gaps import shape_gaps
from eider.lands.thermal_lands import thermal_pads
from eider.model.address import PadAddress
from eider.model.finding import Severity
from eider.model.pattern import Pad
from eider.model.wording import counted, named
from eider.symbols.pin_names import natural_key

# So many groups of pads are told one by one; a grid at a wrong pitch has half a million pairs.
PAIRS_TOLD = 10


class LandPair(NamedTuple):
    """Two lands on a common side of the board, and how far they are apart (mm, below zero where they overlap)."""

    first: Pad
    second: Pad
    distance: float


def _near_lands(view: PartUnderCheck) -> list[LandPair]:
    """Pairs of lands of two numbers that are nearer than the rulebook's gap between lands, nearest first."""
    lands, gaps = view.lands, view.land_gaps
    numbers = np.array([pad.number for pad in lands])
    apart = numbers[gaps.first] != numbers[gaps.second] if lands else np.zeros(0, dtype=bool)
    places = zip(gaps.first[apart].tolist(), gaps.second[apart].tolist(), gaps.distance[apart].tolist(), strict=True)
    pairs = (LandPair(lands[i], lands[j], distance) for i, j, distance in places)
    return [pair for pair in pairs if share_side(pair.first, pair.second)]


@check("lands.pad-numbers", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def pad_numbers(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every terminal has one pad of its number, and every pad a terminal.

    A missing pad is an open pin, a double number joins two nets or hides a missing one.
    """
    # Holes without copper belong to no terminal.
    counts = Counter(pad.number for pad in view.pads if pad.plated)
    wanted = Counter(terminal.number for terminal in view.terminals)
    if not view.pads or not wanted:
        return
    # Pads given by hand may share a number: a terminal of several lands.
    given = Counter(g.pad.number for g in view.recipe.manual_pads if g.pad.plated) if view.recipe else Counter()
    own = view.recipe.laid_numbers | {plate.number for plate in view.recipe.plates} if view.recipe else set()
    for number in wanted:
        # Several leads may bear one number, as the legs of a shell do.
        expected = given[number] + (number in own) * wanted[number] or 1
        if counts[number] != expected:
            message = (
                f"terminal {number} has {counted(counts[number], 'pad')}"
                if counts[number]
                else f"there is no pad {number}"
            )
            yield CheckHit(PadAddress(number), message, str(counts[number]), str(expected))
    for number in sorted(set(counts) - set(wanted)):
        yield CheckHit(PadAddress(number), f"pad {number} belongs to no terminal of the package", number, "none")


def _is_one_net(view: PartUnderCheck, first: str, second: str) -> bool:
    """Whether two pads belong together: by their number, or because the package joins them."""
    joined = view.recipe.joined if view.recipe else ()
    return first == second or (first, second) in joined or (second, first) in joined


@check("lands.pads-overlap", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def pads_overlap(view: PartUnderCheck) -> Iterator[CheckHit]:
    """No two pads overlap that do not share a number.

    They would be one piece of copper, and two pins shorted. Lands that the package joins on purpose may.
    """
    overlapping = (pair for pair in _near_lands(view) if pair.distance <= NOISE)
    pairs = [pair for pair in overlapping if not _is_one_net(view, pair.first.number, pair.second.number)]
    groups = _connected(pairs)
    for count, group in enumerate(groups[: PAIRS_TOLD + 1]):
        untold = len(groups) - count - 1
        more = f" and {counted(untold, 'more group')} of others" if count == PAIRS_TOLD and untold else ""
        numbers = list(dict.fromkeys(pad.number for pair in group for pad in (pair.first, pair.second)))
        message = f"{named('pad', sorted(numbers, key=natural_key))}{more} overlap"
        worst = min(pair.distance for pair in group)
        first, *others = sorted(numbers, key=natural_key)
        yield CheckHit(
            PadAddress(first), message, f"{worst:.4f} mm", "> 0 mm", also=tuple(PadAddress(n) for n in others)
        )


def _connected(pairs: Sequence[LandPair]) -> list[list[LandPair]]:
    """Pairs that hang together by their pads: a row in which each overlaps the next is one slip."""
    above: dict[str, str] = {}

    def top(number: str) -> str:
        while (over := above.setdefault(number, number)) != number:
            above[number] = above.setdefault(over, over)
            number = over
        return number

    for pair in pairs:
        above[top(pair.first.number)] = top(pair.second.number)
    groups: dict[str, list[LandPair]] = {}
    for pair in pairs:
        groups.setdefault(top(pair.first.number), []).append(pair)
    return list(groups.values())


@check("lands.gap-between-lands", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def gap_between_lands(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Neighbouring lands leave the rulebook's gap.

    Solder bridges over a smaller one, and many board manufacturers reject it.
    """
    smallest = view.rulebook.clearances.pad_to_pad
    # How near holes without copper and thermal lands may be is said by checks of their own.
    thermal = thermal_pads(view.pads, view.recipe) if view.recipe else ()
    # Solder between lands of one number joins what is joined.
    apart = (pair for pair in _near_lands(view) if pair.distance > NOISE)
    pairs = [
        pair
        for pair in apart
        if pair.first not in thermal
        and pair.second not in thermal
        and not _is_one_net(view, pair.first.number, pair.second.number)
    ]
    if pairs:
        a, b, distance = pairs[0]
        more = f" and {len(pairs) - 1} more" if len(pairs) > 1 else ""
        message = f"lands {a.number} and {b.number}{more} are too close"
        yield CheckHit(PadAddress(a.number), message, f"{distance:.4f} mm", f"≥ {smallest:.2f} mm")


@check("lands.mask-web", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def mask_web(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The web of solder mask between openings is wide enough to hold.

    A thinner one breaks off; then the openings are better made one.
    """
    owners = [pad for pad in view.pads for _ in pad.mask]
    gaps = shape_gaps([opening for pad in view.pads for opening in pad.mask], view.rulebook.clearances.mask_web)
    places = zip(gaps.first.tolist(), gaps.second.tolist(), gaps.distance.tolist(), strict=True)
    # Openings of one terminal that meet are one opening.
    thin = [
        (i, j, web)
        for i, j, web in places
        if share_side(owners[i], owners[j])
        and (web > NOISE or not _is_one_net(view, owners[i].number, owners[j].number))
    ]
    count = len(thin)
    if count:
        a, b = owners[thin[0][0]], owners[thin[0][1]]
        more = f" and {count - 1} more" if count > 1 else ""
        yield CheckHit(
            PadAddress(a.number),
            f"the mask web between pads {a.number} and {b.number}{more} is too thin",
            f"{thin[0][2]:.4f} mm",
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
