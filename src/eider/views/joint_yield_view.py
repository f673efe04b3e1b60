"""The yield of a part's joints: of the lands as they are, and of the computed ones beside them."""

import msgspec

from eider.drawings.primitives import Drawing
from eider.drawings.yield_drawing import yield_drawing
from eider.lands.joint_yield import PadYield, joint_yield
from eider.lands.joints import GroupJoints, pattern_joints
from eider.model.pattern import LEVELS, Goals, Level
from eider.model.wording import named
from eider.views.joint_view import EMPTY, NO_JOINT
from eider.views.part_state import PartState

# Enough for shares of a hundred in a million, and quick enough to follow the work.
SAMPLES = 200_000


class YieldRow(msgspec.Struct, frozen=True):
    """A pad: joints in a million that miss the level, and the same of the computed land where that differs."""

    pad: PadYield
    computed: PadYield | None
    level: Level
    goals: dict[Level, Goals]

    @property
    def drawing(self) -> Drawing:
        """Its histograms."""
        return yield_drawing(self.pad, self.goals, self.level)


class JointYieldView(msgspec.Struct, frozen=True):
    """The pads of a part with their yields, worst first, and what to say of them; without pads why there are none."""

    summary: str
    rows: tuple[YieldRow, ...] = ()
    compares: bool = False


def joint_yield_view(state: PartState, samples: int = SAMPLES) -> JointYieldView:
    """Simulate the joints of a part; it takes some tenths of a second, so not with every change."""
    view, rulebook = state.under_check, state.rules.rulebook
    level = state.bundle.footprint.level
    if view.pattern is None:
        return JointYieldView(EMPTY)
    if not any(group.pads for group in view.joints):
        return JointYieldView(view.fresh[1] or NO_JOINT)
    found = joint_yield(view.joints, view.pads, rulebook, level, samples)
    computed = _computed(state, samples)
    goals = {joint.number: group for group in view.joints for joint in group.pads}
    rows = [
        YieldRow(pad, computed.get(pad.number), level, {name: goals[pad.number].goals.goals(name) for name in LEVELS})
        for pad in found.pads
    ]
    rows.sort(key=lambda row: -row.pad.below[level])
    return JointYieldView(_summary(rows, level, found.worst), tuple(rows), bool(computed))


def _computed(state: PartState, samples: int) -> dict[str, PadYield]:
    """The yields of the computed lands, where those of the footprint are others."""
    view, rulebook = state.under_check, state.rules.rulebook
    if view.computed is None or view.computed.pads == view.pads:
        return {}
    groups: tuple[GroupJoints, ...] = pattern_joints(view.bundle.sheet, view.computed.pads, rulebook, view.orientation)
    found = joint_yield(groups, view.computed.pads, rulebook, state.bundle.footprint.level, samples)
    return {pad.number: pad for pad in found.pads}


def _summary(rows: list[YieldRow], level: Level, worst: tuple[str, ...]) -> str:
    if not worst:
        return f"No joint of the samples misses level {level}."
    most = rows[0].pad.below[level]
    return f"{most:,.0f} of a million joints miss level {level}: {named('pad', list(worst))}."
