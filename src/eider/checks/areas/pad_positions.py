"""Checks of where pads stand: on the pitch, alike about the middle, the origin at the centre of the package."""

from collections.abc import Iterator, Sequence

import msgspec
import numpy as np

from eider.checks.pad_rows import checked_rows
from eider.checks.part_under_check import PartUnderCheck
from eider.checks.pattern_slips import slips_of
from eider.checks.registry import CheckHit, QuickFix, check
from eider.geometry.plane import Box, join_boxes
from eider.geometry.rounding import NOISE, median
from eider.lands.joints import opposites, pads_of_rows
from eider.lands.pattern_orientation import lie_words
from eider.model.address import FieldAddress, PadAddress, pad_number
from eider.model.bundle import Bundle
from eider.model.finding import Finding, Severity
from eider.model.wording import counted

replace = msgspec.structs.replace
# Positions are compared with the package to a tenth of a micrometre.
PLACE_TOLERANCE = 1e-4
# Slips that checks of their own tell with what was measured.
TOLD_ELSEWHERE = frozenset({"pitch", "pad moved", "moved as a whole"})
# Slips beside those of the whole pattern with which no board can be made.
GRAVE = frozenset({"no holes", "unplated holes", "no mask opening", "under the next lead", "pads exchanged"})


@check("lands.lie", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def lie(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Pads lie as the terminals of the package do: not mirrored, not turned, pin 1 at pin 1.

    A pattern drawn from below, or numbered clockwise, has every length right and every connection wrong.
    """
    found = view.pattern_lie
    if found is not None:
        yield CheckHit(
            FieldAddress("lands"),
            lie_words(found, len(view.terminals)),
            f"pads {found.was:.2f} mm from their terminals",
            f"{found.error:.2f} mm, laid the right way",
        )


@check("lands.slip", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def slip(view: PartUnderCheck) -> Iterator[CheckHit]:
    """A pattern has no slip that is known: another unit, numbers elsewhere, rows moved, holes or openings left out.

    The cause is told before what it does to every fillet. Turned and mirrored patterns are told by their own check, and
    lands that were laid by the recipe have no slips.
    """
    footprint, (fresh, _fault) = view.bundle.footprint, view.fresh
    is_by_recipe = fresh is not None and fresh.pads == view.pads
    # What the equations alone give need not be computed anew to say that it has no slip.
    if view.pattern_lie is not None or (is_by_recipe and footprint.source == "computed" and not footprint.adjustments):
        return
    for found in slips_of(view):
        if found.slip in TOLD_ELSEWHERE:
            continue
        address = PadAddress(found.pads[0]) if len(found.pads) == 1 else FieldAddress("lands")
        severity = Severity.BLOCKER if found.explains_all or found.slip in GRAVE else None
        told = f"{found.message} {found.action}".rstrip(".")
        yield CheckHit(address, told, counted(len(found.pads) or len(view.pads), "pad"), "0 pads", severity)


@check("lands.pitch", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def pitch(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Pads are on the pitch, and its error does not add up along the row.

    A metric pitch drawn on the nearest inch grid fits two pins and does not fit twenty. The sum over the row must
    stay below half of the margin of the joint: of the side fillet above level C, or of the play of leads in holes.
    """
    if view.pattern_lie is not None:
        # Of a pattern that lies another way every distance along a row is wrong, and none says why.
        return
    for row in checked_rows(view):
        if len(row.pads) < 2:
            continue
        errors = np.array([pad.y if row.axis else pad.x for pad in row.pads]) - row.at
        # A row that is shifted as a whole is on its pitch.
        errors -= median(errors.tolist())
        worst = int(np.abs(errors).argmax())
        if abs(errors[worst]) <= PLACE_TOLERANCE:
            continue
        total, margin = float(np.ptp(errors)), max(0.0, row.spare)
        first, last = row.pads[0].number, row.pads[-1].number
        yield CheckHit(
            PadAddress(row.pads[worst].number),
            f"pads {first} to {last} are off the pitch; over the row the error is {total:.3f} mm",
            f"{errors[worst]:+.4f} mm at pad {row.pads[worst].number}",
            f"0 mm; at most {margin:.3f} mm over the row",
            Severity.BLOCKER if total > margin + NOISE else None,
        )


def _put_back(view: PartUnderCheck, finding: Finding) -> Bundle:
    """The pads of which the finding speaks as the recipe lays them: hand changes of them are switched off."""
    number = pad_number(finding.address)
    across = next((opposite[number] for group in view.joints if number in (opposite := opposites(group.rows))), number)
    numbers = {number, across}
    footprint = view.bundle.footprint
    adjustments = tuple(replace(a, active=a.active and a.pad not in numbers) for a in footprint.adjustments)
    return replace(view.bundle, footprint=replace(footprint, adjustments=adjustments, pattern=None))


@check(
    "lands.not-symmetric",
    Severity.CAUTION,
    reads=("sheet", "lands", "rulebook"),
    quick_fix=QuickFix("Lay both pads by the recipe", _put_back),
)
def not_symmetric(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Pads that face each other across the package lie equally far from its middle, and are of one length.

    Solder pulls the part towards the larger land; with one row further out than the other it ends up askew.
    """
    if view.pattern_lie is not None:
        return
    for group in view.joints:
        rows, opposite = group.rows, opposites(group.rows)
        by_number = pads_of_rows(rows, view.pads)
        axis = 0 if rows.axis == "x" else 1
        for number in rows.first:
            across = opposite.get(number, "")
            if number not in by_number or across not in by_number:
                continue
            near, far = by_number[number].box, by_number[across].box
            # The outer edge of one against that of the other, and the inner edges likewise.
            worst = max(abs(near[axis] + far[axis + 2]), abs(near[axis + 2] + far[axis]))
            if worst > PLACE_TOLERANCE:
                message = f"pads {number} and {across} are not symmetric about the centre of the package"
                yield CheckHit(PadAddress(number), message, f"{worst:.4f} mm apart", "0 mm")


@check("lands.origin-not-centre", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def origin_not_centre(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The origin is the centre of the package.

    Placement machines take the origin: with it off the centre every part is placed beside its lands.
    """
    fresh, _ = view.fresh
    if not any(p.plated for p in view.pads) or fresh is None or not any(p.plated for p in fresh.pads):
        return
    # A package whose terminals differ from side to side is centred by its own extents, not by those of its lands.
    # Holes without copper are placed by the part's posts, which may stand anywhere.
    # The same pads have the same middle; nearly always it is them.
    centre = _centre([pad.box for pad in view.pads if pad.plated])
    wanted = centre if fresh.pads is view.pads else _centre([pad.box for pad in fresh.pads if pad.plated])
    moved = any(a.what in ("x", "y") and a.active for a in view.bundle.footprint.adjustments)
    expected = (0.0, 0.0) if moved and view.recipe and len(view.recipe.rows) == 1 else wanted
    for name, found, place in zip("xy", centre, expected, strict=True):
        if abs(found - place) > PLACE_TOLERANCE:
            message = f"the lands are not centred on the origin in {name}"
            yield CheckHit(FieldAddress("lands"), message, f"{found - place:+.4f} mm", "0 mm")


def _centre(boxes: Sequence[Box]) -> tuple[float, float]:
    x0, y0, x1, y1 = join_boxes(boxes)
    return (x0 + x1) / 2, (y0 + y1) / 2
