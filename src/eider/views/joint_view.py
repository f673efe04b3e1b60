"""The joint of one pad: a lead foot on its land, with the fillets it reaches and the goals of the three levels."""

import msgspec

from eider.drawings.joint_drawing import joint_drawing
from eider.drawings.primitives import Drawing
from eider.lands.joints import GroupJoints, PadJoint, lowest_level
from eider.lands.solver import allowance
from eider.model.pattern import LEVELS, Level
from eider.views.part_state import PartState

EMPTY = "The joint is drawn here once there are lands."
NO_JOINT = (
    "Lands of balls, thermal pads and holes follow from their own rules, not from a toe and a heel: see Derivation."
)


class FilletRow(msgspec.Struct, frozen=True):
    """A fillet as it is reached, and its goals at levels A, B and C (mm)."""

    fillet: str
    reached: float
    goals: tuple[float, ...]


class JointGroup(msgspec.Struct, frozen=True):
    """A group of lands with its lowest level in words, and the pad that stands for it."""

    title: str
    pad: str


class JointView(msgspec.Struct, frozen=True):
    """What is shown of a joint; without a drawing `hint` says why."""

    hint: str = EMPTY
    groups: tuple[JointGroup, ...] = ()
    shown: str = ""
    verdict: str = ""
    slack: str = ""
    fillets: tuple[FilletRow, ...] = ()
    drawing: Drawing | None = None


def joint_view(state: PartState, pad: str) -> JointView:
    """The joint of the pad of a number; of the first one that has a joint where it has none."""
    view = state.under_check
    if view.pattern is None:
        return JointView()
    groups = [group for group in view.joints if group.pads]
    if not groups:
        return JointView(hint=view.fresh[1] or NO_JOINT)
    group = next((g for g in groups if any(j.number == pad for j in g.pads)), groups[0])
    joint = next((j for j in group.pads if j.number == pad), group.pads[0])
    shown = next(p for p in view.pads if p.number == joint.number)
    slack = allowance(group.goals, state.rules.rulebook)
    return JointView(
        hint="",
        groups=tuple(JointGroup(_title(g), g.pads[0].number) for g in groups),
        shown=_title(group),
        verdict=f"Pad {joint.number} reaches {_level(joint.level)}",
        slack=f"A goal counts as met within {slack:.4f} mm, which rounding to the step can take.",
        fillets=_fillets(group, joint),
        drawing=joint_drawing(group, shown, *_measured(group, joint.reached.toe, joint.reached.heel)),
    )


def _fillets(group: GroupJoints, joint: PadJoint) -> tuple[FilletRow, ...]:
    goals = [group.goals.goals(level) for level in LEVELS]
    return (
        FilletRow("toe", joint.toe, tuple(goal.toe for goal in goals)),
        FilletRow("heel", joint.heel, tuple(goal.heel for goal in goals)),
        FilletRow("side", joint.side, tuple(goal.side for goal in goals)),
    )


def _title(group: GroupJoints) -> str:
    return f"{group.rows.group}: {_level(lowest_level([group]))}"


def _level(level: Level | None) -> str:
    return f"level {level}" if level else "below C"


def _measured(group: GroupJoints, toe: float, heel: float) -> tuple[float, float]:
    """Z and G of a pad and its opposite, worked back from its fillets (mm)."""
    t = group.terminals
    return t.l_min + 2 * toe + t.root_l, t.s_max - 2 * heel - t.root_s
