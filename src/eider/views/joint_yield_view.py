"""The yield of a part's joints: of the lands as they are, and of the computed, suggested and other ones beside."""

from collections.abc import Mapping

import msgspec

from eider.drawings.primitives import Drawing
from eider.drawings.yield_drawing import yield_drawing
from eider.errors import EiderError
from eider.lands.joint_yield import PadYield, joint_yield
from eider.lands.joints import GroupJoints, pattern_joints
from eider.lands.pattern import make_pattern
from eider.model.pattern import LEVELS, Goals, Level, Pad
from eider.model.wording import named
from eider.packages.orientation import PackageOrientation
from eider.views.joint_view import EMPTY, NO_JOINT
from eider.views.part_state import PartState

# Enough for shares of a hundred in a million, and quick enough to follow the work.
SAMPLES = 200_000
COMPUTED, SUGGESTED, FROM_FILE = COLUMNS = ("Computed", "Suggested", "From file")


class OtherPattern(msgspec.Struct, frozen=True):
    """A pattern of another origin, whose joints are shown beside: its name and pads, and how the package lies in it."""

    name: str
    pads: tuple[Pad, ...]
    orientation: PackageOrientation | None = None


class YieldRow(msgspec.Struct, frozen=True):
    """A pad: joints in a million that miss the level, and the same of other lands for it, by their column."""

    pad: PadYield
    beside: Mapping[str, PadYield]
    level: Level
    goals: dict[Level, Goals]

    @property
    def drawing(self) -> Drawing:
        """Its histograms."""
        return yield_drawing(self.pad, self.goals, self.level)


class JointYieldView(msgspec.Struct, frozen=True):
    """The pads of a part with their yields, worst first, and what to say of them; without pads why there are none.

    `beside` names what is compared, of `COLUMNS`.
    """

    summary: str
    rows: tuple[YieldRow, ...] = ()
    beside: tuple[str, ...] = ()


def joint_yield_view(state: PartState, samples: int = SAMPLES, other: OtherPattern | None = None) -> JointYieldView:
    """Simulate the joints of a part; it takes some tenths of a second, so not with every change.

    The computed lands and those that the manufacturer suggests are beside, where they are not the footprint's own,
    and those of an `other` pattern.
    """
    view, rulebook = state.under_check, state.rules.rulebook
    level = state.bundle.footprint.level
    if view.pattern is None:
        return JointYieldView(EMPTY)
    if not any(group.pads for group in view.joints):
        return JointYieldView(view.fresh[1] or NO_JOINT)
    found = joint_yield(view.joints, view.pads, rulebook, level, samples)
    compared = {title: _yields(state, pattern, samples) for title, pattern in _others(state, other).items()}
    goals = {joint.number: group for group in view.joints for joint in group.pads}
    rows = [
        YieldRow(
            pad,
            {title: pads[pad.number] for title, pads in compared.items() if pad.number in pads},
            level,
            {name: goals[pad.number].goals.goals(name) for name in LEVELS},
        )
        for pad in found.pads
    ]
    rows.sort(key=lambda row: -row.pad.below[level])
    told = _summary(rows, level, found.worst)
    if other is not None:
        told += f" {FROM_FILE}: {other.name}."
    return JointYieldView(told, tuple(rows), tuple(compared))


def _others(state: PartState, other: OtherPattern | None) -> Mapping[str, OtherPattern]:
    """The patterns beside that of the footprint, by their column; those that are the footprint's own are left out."""
    view = state.under_check
    found: dict[str, OtherPattern] = {}
    if view.computed is not None:
        found[COMPUTED] = OtherPattern(COMPUTED, view.computed.pads, view.orientation)
    if state.bundle.footprint.suggested and (suggested := _suggested(state)) is not None:
        found[SUGGESTED] = suggested
    if other is not None:
        found[FROM_FILE] = other
    return {title: pattern for title, pattern in found.items() if pattern.pads != view.pads}


def _suggested(state: PartState) -> OtherPattern | None:
    view, footprint = state.under_check, state.bundle.footprint
    try:
        made = make_pattern(
            state.bundle.sheet,
            footprint.level,
            state.rules.rulebook,
            suggested=footprint.suggested,
            orientation=view.orientation,
        )
    except EiderError:
        # What is wrong with the manufacturer's lengths is a finding of its own.
        return None
    return OtherPattern(SUGGESTED, made.pads, view.orientation)


def _yields(state: PartState, other: OtherPattern, samples: int) -> Mapping[str, PadYield]:
    rulebook, level = state.rules.rulebook, state.bundle.footprint.level
    groups: tuple[GroupJoints, ...] = pattern_joints(state.bundle.sheet, other.pads, rulebook, other.orientation)
    found = joint_yield(groups, other.pads, rulebook, level, samples)
    return {pad.number: pad for pad in found.pads}


def _summary(rows: list[YieldRow], level: Level, worst: tuple[str, ...]) -> str:
    if not worst:
        return f"No joint of the samples misses level {level}."
    most = rows[0].pad.below[level]
    return f"{most:,.0f} of a million joints miss level {level}: {named('pad', list(worst))}."
