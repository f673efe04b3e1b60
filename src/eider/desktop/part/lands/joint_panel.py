"""The joint view: a lead foot on its land, with the fillets it reaches and the goals of the three levels."""

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import column, fill_widget, growing, label, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.pattern import LEVELS, Level
from eider.views.joint_view import FilletRow, JointView


def _goal(level: Level, row: FilletRow) -> str:
    return f"{row.goals[LEVELS.index(level)]:.2f}"


class JointPanel(QWidget):
    """The joint of one pad, and the lowest level of each group; `pad_asked` wants another pad in hand."""

    pad_asked = pyqtSignal(str)

    def __init__(self, context: DesktopContext) -> None:
        super().__init__()
        self.view = DrawingView(context.theme, "", context.jobs)
        self._joints = RecordView[FilletRow](
            [
                Column("Fillet", lambda r: r.fillet),
                Column("Reached, mm", lambda r: f"{r.reached:+.4f}", number=True),
                *(Column(f"goal {level}, mm", partial(_goal, level), number=True) for level in LEVELS),
            ],
            context.theme,
        )
        self._joints.set_widths(60, 96, 90, 90)
        self._joints.setMaximumHeight(108)
        self._verdict, self._slack = label("", "number"), label("", "soft", wrap=True)
        self.groups = QComboBox()
        self.groups.setAccessibleName("group of lands")
        self.groups.activated.connect(lambda _i: self._show_group())
        fill_widget(self, column(row(self._verdict, 1, self.groups), self._slack, growing(self.view), self._joints))

    def show_view(self, view: JointView) -> None:
        """Show a joint, or why there is none; nothing of one shown before stays."""
        self.view.set_hint(view.hint)
        self.view.show_drawing(view.drawing)
        self._verdict.setText(view.verdict)
        self._slack.setText(view.slack)
        self._joints.show_records(view.fillets)
        # Each group of lands by its lowest level, so that none is overlooked.
        set_choices(self.groups, [group.title for group in view.groups])
        for index, group in enumerate(view.groups):
            self.groups.setItemData(index, group.pad)
        self.groups.setCurrentText(view.shown)
        self.groups.setVisible(len(view.groups) > 1)

    def _show_group(self) -> None:
        number = self.groups.currentData()
        if number:
            self.pad_asked.emit(number)
