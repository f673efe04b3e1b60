"""The joint view: a lead foot on its land, with the fillets it reaches and the goals of the three levels."""

from collections.abc import Sequence
from functools import partial

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from eider.desktop.part.controller import PartController
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import column, fill_widget, growing, label, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.drawings.joint_drawing import joint_drawing
from eider.errors import EiderError
from eider.lands.joints import GroupJoints, lowest_level, pattern_joints
from eider.lands.solver import allowance
from eider.model.pattern import LEVELS, Level, Pad, Pattern
from eider.packages.orientation import orientation_in


class _JointRow(msgspec.Struct, frozen=True):
    fillet: str
    reached: float
    goals: tuple[float, ...]


def _goal(level: Level, row: _JointRow) -> str:
    return f"{row.goals[LEVELS.index(level)]:.2f}"


EMPTY = "The joint is drawn here when there are lands."
NO_JOINT = (
    "Lands of balls, thermal pads and holes follow from their own rules, not from a toe and a heel: see Derivation."
)


class JointPanel(QWidget):
    """The joint of one pad, and the lowest level of each group; `pad_asked` wants another pad in hand."""

    pad_asked = pyqtSignal(str)

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self.controller = controller
        self.view = DrawingView(theme, EMPTY)
        self._joints = RecordView[_JointRow](
            [
                Column("Fillet", lambda r: r.fillet),
                Column("reached, mm", lambda r: f"{r.reached:+.4f}", number=True),
                *(Column(f"goal {level}, mm", partial(_goal, level), number=True) for level in LEVELS),
            ],
            theme,
        )
        self._joints.set_widths(60, 96, 90, 90)
        self._joints.setMaximumHeight(108)
        self._verdict, self._slack = label("", "number"), label("", "soft", wrap=True)
        self.groups = QComboBox()
        self.groups.setAccessibleName("group of lands")
        self.groups.activated.connect(lambda _i: self._show_group())
        fill_widget(self, column(row(self._verdict, 1, self.groups), self._slack, growing(self.view), self._joints))

    def show_joint(self, pattern: Pattern | None, pad: Pad | None) -> None:
        """The joint of a pad, or of the first one."""
        if pattern is None:
            self._show_nothing(EMPTY)
            return
        try:
            sheet, rulebook = self.controller.bundle.sheet, self.controller.rules.rulebook
            groups = pattern_joints(sheet, pattern.pads, rulebook, orientation_in(pattern))
        except EiderError as fault:
            self._show_nothing(str(fault))
            return
        wanted = pad.number if pad else ""
        group = next((g for g in groups if any(j.number == wanted for j in g.pads)), groups[0] if groups else None)
        if group is None or not group.pads:
            self._show_nothing(NO_JOINT)
            return
        joint = next((j for j in group.pads if j.number == wanted), group.pads[0])
        self._show_groups(groups, group)
        shown = next(p for p in pattern.pads if p.number == joint.number)
        lands = _measured(group, joint.reached.toe, joint.reached.heel)
        self.view.show_drawing(joint_drawing(group, shown, *lands))
        self._verdict.setText(f"Pad {joint.number} reaches {_level(joint.level)}")
        slack = allowance(group.goals, self.controller.rules.rulebook)
        self._slack.setText(f"A goal counts as met within {slack:.4f} mm, which rounding to the step can take.")
        goals = [group.goals.goals(level) for level in LEVELS]
        self._joints.show_records(
            [
                _JointRow(name, getattr(joint, name), tuple(getattr(goal, name) for goal in goals))
                for name in ("toe", "heel", "side")
            ]
        )

    def _show_nothing(self, hint: str) -> None:
        """No joint, and why; nothing of one shown before stays."""
        self.view.set_hint(hint)
        self.view.show_drawing(None)
        self.groups.hide()
        self._verdict.setText("")
        self._slack.setText("")
        self._joints.show_records([])

    def _show_groups(self, groups: Sequence[GroupJoints], shown: GroupJoints) -> None:
        """Each group of lands by its lowest level, so that none is overlooked."""
        told = [g for g in groups if g.pads]
        names = [f"{g.rows.group}: {_lowest(g)}" for g in told]
        set_choices(self.groups, names)
        for index, group in enumerate(told):
            self.groups.setItemData(index, group.pads[0].number)
        self.groups.setCurrentText(f"{shown.rows.group}: {_lowest(shown)}")
        self.groups.setVisible(len(names) > 1)

    def _show_group(self) -> None:
        number = self.groups.currentData()
        if number:
            self.pad_asked.emit(number)


def _lowest(group: GroupJoints) -> str:
    return _level(lowest_level([group]))


def _level(level: Level | None) -> str:
    return f"level {level}" if level else "below C"


def _measured(group: GroupJoints, toe: float, heel: float) -> tuple[float, float]:
    """Z and G of a pad and its opposite, worked back from its fillets (mm)."""
    t = group.terminals
    return t.l_min + 2 * toe + t.root_l, t.s_max - 2 * heel - t.root_s
