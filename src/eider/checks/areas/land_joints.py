"""Checks of the land pattern as a whole: is it there, is it what the recipe gives, will it solder."""

from collections.abc import Iterator, Sequence

import msgspec

from eider.checks.part_under_check import PartUnderCheck
from eider.checks.registry import CheckHit, QuickFix, check
from eider.errors import EiderError
from eider.lands.adjustments import lost
from eider.lands.joints import GroupJoints, PadJoint
from eider.lands.manufacturer_pattern import differences
from eider.lands.pattern import manufacturer_pattern
from eider.lands.solver import allowance, shortfall
from eider.model.address import FieldAddress, PadAddress
from eider.model.bundle import Bundle
from eider.model.codec import encode
from eider.model.finding import Finding, Severity
from eider.model.pattern import Level, Pad
from eider.model.wording import counted, named

# Suggested pads that differ from the computed ones by more than this are worth a look (mm).
NOTABLE = 0.10


def _again(view: PartUnderCheck, _finding: Finding) -> Bundle:
    """Mends by running the recipe again, which follows every mend."""
    return msgspec.structs.replace(view.bundle, footprint=msgspec.structs.replace(view.bundle.footprint, pattern=None))


RUN_AGAIN = QuickFix("Run the recipe again", _again)


@check("lands.not-computed", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def not_computed(view: PartUnderCheck) -> Iterator[CheckHit]:
    """There is a land pattern, and the recipe still gives one.

    While it does not, every other check of the lands has no result, or an old one.
    """
    fresh, fault = view.fresh
    if fresh is None:
        yield CheckHit(FieldAddress("lands"), f"lands cannot be computed: {fault}", "no result", "a land pattern")
    elif not view.pads:
        yield CheckHit(FieldAddress("lands"), "the lands have not been computed yet", "no result", "a land pattern")


@check("lands.not-as-recipe", Severity.CAUTION, reads=("sheet", "lands", "rulebook"), quick_fix=RUN_AGAIN)
def not_as_recipe(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The stored pattern is what its recipe gives.

    The result was changed by hand in the file, or sheet, rulebook or program changed after it was made.
    """
    fresh, _ = view.fresh
    if fresh is None or view.pattern is None or fresh == view.pattern or encode(fresh) == encode(view.pattern):
        return
    differing = [a.number for a, b in zip(fresh.pads, view.pattern.pads, strict=False) if encode(a) != encode(b)]
    if len(fresh.pads) != len(view.pattern.pads):
        what = f"{counted(len(view.pattern.pads), 'pad')} stored, the recipe gives {len(fresh.pads)}"
    elif differing:
        what = f"pads {', '.join(differing[:6])}{' …' if len(differing) > 6 else ''} differ"
    else:
        what = "outlines or name differ"
    made, now = view.bundle.footprint.rulebook_revision, view.rulebook.revision
    if made and made != now:
        what += f"; it was computed with revision {made} of the rulebook, which is now at {now}"
    yield CheckHit(
        FieldAddress("lands"),
        f"the stored land pattern differs from what the recipe gives: {what}",
        what,
        "the recipe's result",
    )


@check("lands.adjustment-lost", Severity.BLOCKER, reads=("sheet", "lands", "rulebook"))
def adjustment_lost(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every adjustment still finds its pad.

    A hand change is never dropped silently: the pad that it spoke of is gone, for instance after fewer pins.
    """
    if not view.pads or not view.bundle.footprint.adjustments:
        return
    made = view.computed.pads if view.computed else view.pads
    for adjustment in lost(made, view.bundle.footprint.adjustments):
        message = f"the adjustment of {adjustment.what} refers to pad {adjustment.pad}, which does not exist"
        yield CheckHit(PadAddress(adjustment.pad), message, "no such pad", f"pad {adjustment.pad}")


@check("lands.joint-below-level", Severity.CAUTION, reads=("sheet", "lands", "rulebook"))
def joint_below_level(view: PartUnderCheck) -> Iterator[CheckHit]:
    """Every pad gives the solder joint of the chosen level.

    Toe, heel and side fillet are worked back from the pads as they are. Below level C the joint is not to be trusted.
    """
    level = view.bundle.footprint.level
    for group in view.joints:
        for fillet in ("toe", "heel", "side"):
            hits = [joint for joint in group.pads if _missed(view, group, joint, fillet)]
            if not hits:
                continue
            worst = min(hits, key=lambda joint: float(getattr(joint, fillet)))
            reached = float(getattr(worst, fillet))
            least = float(getattr(group.goals.goals("C"), fillet))
            below_c = reached < least - allowance(group.goals, view.rulebook)
            missed: Level = "C" if below_c else level
            goal = float(getattr(group.goals.goals(missed), fillet))
            pads = named("pad", [joint.number for joint in hits])
            yield CheckHit(
                PadAddress(worst.number),
                f"{fillet} fillet of {pads} is {goal - reached:.3f} mm below level {missed}",
                f"{fillet} {reached:.4f} mm",
                f"{fillet} {goal:.2f} mm ({missed})",
                Severity.BLOCKER if below_c else None,
                also=tuple(PadAddress(joint.number) for joint in hits if joint is not worst),
            )


def _missed(view: PartUnderCheck, group: GroupJoints, joint: PadJoint, fillet: str) -> bool:
    goals = group.goals.goals(view.bundle.footprint.level)
    return shortfall(joint.reached, goals).get(fillet, 0.0) > allowance(group.goals, view.rulebook)


@check("lands.differs-from-suggested", Severity.NOTE, reads=("sheet", "lands", "rulebook"))
def differs_from_suggested(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The lands are close to those that the manufacturer suggests in the datasheet, where these are known.

    Computed lands need not be the manufacturer's; where they differ much, one of the two often rests on a slip.
    """
    footprint = view.bundle.footprint
    if footprint.source == "suggested" or not footprint.has_suggestion:
        return
    try:
        suggested = manufacturer_pattern(view.bundle.sheet, footprint, view.rulebook)
    except EiderError:
        return
    yield from _notable_differences(view.pads, suggested.pads, "those that the datasheet suggests")


@check("lands.differs-from-computed", Severity.NOTE, reads=("sheet", "lands", "rulebook"))
def differs_from_computed(view: PartUnderCheck) -> Iterator[CheckHit]:
    """The manufacturer's suggested pattern is close to the computed one.

    Where the two differ, one of them is often a slip; the joints tell which of the two to trust.
    """
    if view.bundle.footprint.source != "suggested" or view.computed is None:
        return
    yield from _notable_differences(view.pads, view.computed.pads, "the computed ones")


def _notable_differences(pads: Sequence[Pad], others: Sequence[Pad], what: str) -> Iterator[CheckHit]:
    """One hit at the pad that differs most, where some differ by more than is worth a look."""
    differing = [d for d in differences(pads, others) if max(map(abs, d[1:])) > NOTABLE]
    if differing:
        worst = max(differing, key=lambda d: max(map(abs, d[1:])))
        number = counted(len(differing), "pad differs", "pads differ")
        message = f"{number} from {what}, most pad {worst.number}: {worst.words} mm"
        address = PadAddress(worst.number)
        yield CheckHit(address, message, f"{max(map(abs, worst[1:])):.3f} mm", f"≤ {NOTABLE:g} mm")
