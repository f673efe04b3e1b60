"""How each length of the lands came about, the joint that they give, and its yield."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFileDialog, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, scrolled, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.lengths import format_length
from eider.lands.joint_yield import FILLETS, PadYield
from eider.model.pattern import LEVELS, Level
from eider.services.parts.pattern_reading import read_other_pattern
from eider.views.derivation_inputs import InputRow
from eider.views.joint_view import FilletRow, JointView
from eider.views.joint_yield_view import COLUMNS, JointYieldView, OtherPattern, YieldRow, joint_yield_view
from eider.views.steps.lands import LandsView, LengthRow


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
                *(Column(f"Goal {level}, mm", partial(_goal, level), number=True) for level in LEVELS),
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
        """Show the derivation of a joint, or say why it has none."""
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


ABOUT = "Joints in a million below the goal of the chosen level, over all tolerances together; worst pads first."


class YieldPanel(QWidget):
    """Simulates while it is seen: once for each state of the part."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self._controller, self._jobs = controller, context.jobs.owned(self)
        self._made_for: object = None
        self.view = DrawingView(context.theme, "", context.jobs)
        self.table = RecordView[YieldRow](
            [
                Column("Pad", lambda r: r.pad.number, number=True),
                *(self._share(fillet) for fillet in FILLETS),
                Column("Any", lambda r: _all(r.pad, r), number=True),
                *(self._beside(title) for title in COLUMNS),
            ],
            context.theme,
        )
        self.table.set_widths(44, 66, 66, 66, 66, 78, 78, 78)
        self.table.entered_record.connect(self._show_pad)
        self.summary = label("", "number", wrap=True)
        self.other: OtherPattern | None = None
        self.leave = button("Stop comparing", self._stop)
        self.leave.hide()
        fill_widget(
            self,
            column(
                label(ABOUT, "soft", wrap=True),
                self.summary,
                growing(self.view),
                growing(self.table),
                row(button("Compare with a pattern…", self._choose), self.leave, 1),
            ),
        )

    @staticmethod
    def _share(fillet: str) -> Column[YieldRow]:
        return Column(fillet.capitalize(), lambda r: f"{getattr(r.pad, fillet).below[r.level]:,.0f}", number=True)

    @staticmethod
    def _beside(title: str) -> Column[YieldRow]:
        return Column(title, lambda r: _all(r.beside.get(title), r), number=True)

    def _choose(self) -> None:
        folder = str(self._controller.library.folder.parent)
        name, _ = QFileDialog.getOpenFileName(self, "Choose a pattern", folder, "Land patterns (*.json)")
        if name:
            self.compare_with(Path(name))

    def compare_with(self, path: Path) -> None:
        """Show the joints of the pattern in a file beside those of the part."""

        def done(other: OtherPattern) -> None:
            self._show_beside(other)

        self._jobs.run("disk", lambda: read_other_pattern(path), done, lambda fault: self.summary.setText(str(fault)))

    def _stop(self) -> None:
        self._show_beside(None)

    def _show_beside(self, other: OtherPattern | None) -> None:
        self.other, self._made_for = other, None
        self.leave.setVisible(other is not None)
        self.follow(is_seen=True)

    def follow(self, *, is_seen: bool) -> None:
        """Simulate the present state, where the panel is seen and has not done so."""
        state = self._controller.state
        if not is_seen or self._made_for is state:
            return
        self._made_for, other = state, self.other
        self.summary.setText("Simulating…")

        def done(view: JointYieldView) -> None:
            if self._made_for is state and self.other is other:
                self.show_yield(view)

        self._jobs.run(
            "rules", lambda: joint_yield_view(state, other=other), done, lambda fault: self.summary.setText(str(fault))
        )

    def show_yield(self, view: JointYieldView) -> None:
        """Show the pads with their yields, and select the worst."""
        self.summary.setText(view.summary)
        self.table.show_records(view.rows)
        for place, title in enumerate(COLUMNS, start=len(FILLETS) + 2):
            self.table.setColumnHidden(place, title not in view.beside)
        if view.rows:
            self.table.select_rows([0])
            self._show_pad(view.rows[0])
        else:
            self.view.show_drawing(None)

    def _show_pad(self, row: YieldRow) -> None:
        self.view.show_drawing(row.drawing)


def _all(pad: PadYield | None, row: YieldRow) -> str:
    """The joints of a pad that miss the level in any fillet."""
    return f"{pad.below[row.level]:,.0f}" if pad else ""


# Said below the inputs; in a narrow place with what is folded away there.
HINT = "Enter or a double click goes to the cell that an input comes from."
FOLDED = f"{HINT} Raw lengths and evidence are folded away."


class DerivationPanel(QWidget):
    """The derivation of every group of lands, its inputs linked to the cells that they come from."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.table = RecordView[LengthRow](
            [
                Column("Group", lambda r: r.group),
                Column("Length", lambda r: r.name),
                Column("Raw, mm", lambda r: "" if r.raw is None else f"{r.raw:.4f}", number=True),
                Column("Rounded", lambda r: format_length(r.value, self.context.unit), number=True),
            ],
            context.theme,
        )
        self.table.set_widths(130, 52, 84)
        self.inputs = RecordView[InputRow](
            [
                Column("Group", lambda r: r.group),
                Column("Input", lambda r: r.name),
                Column("Value", lambda r: r.value, number=True),
                Column("From", lambda r: r.letter),
                Column("Evidence", lambda r: r.evidence),
            ],
            context.theme,
        )
        self.inputs.set_widths(104, 42, 96, 90)
        self.inputs.activated.connect(lambda _index: self._go_to_input())
        self._formulas = label("", wrap=True)
        self._formulas.setTextInteractionFlags(self._formulas.textInteractionFlags().TextSelectableByMouse)
        self._note = label(HINT, "soft", wrap=True)
        upper = column(self.table, growing(scrolled(self._formulas)), margins=2)
        lower = column(label("Inputs", "head"), growing(self.inputs), self._note, margins=2)
        fill_widget(self, panes(upper, lower, sizes=(360, 200), vertical=True))

    def fold(self, *, is_narrow: bool) -> None:
        """In a narrow place only what is looked for first: lengths as they are, inputs with their values."""
        self.table.hide_columns("Raw, mm", hidden=is_narrow)
        self.inputs.hide_columns("From", "Evidence", hidden=is_narrow)
        self.inputs.setColumnWidth(0, 92 if is_narrow else 104)
        self.table.setColumnWidth(0, 92 if is_narrow else 130)
        self._note.setText(FOLDED if is_narrow else HINT)

    def _go_to_input(self) -> None:
        """The cell of the sheet that the selected input comes from, or the rulebook."""
        record: InputRow | None = self.inputs.record()
        if record is None:
            return
        if record.address is not None:
            self.context.step_asked.emit("package", record.address)
        elif record.letter.startswith("rulebook"):
            self.context.rulebook_asked.emit(self.controller.bundle.footprint.rulebook)

    def show_view(self, view: LandsView) -> None:
        """Show how the lands came about."""
        self.table.show_records(view.lengths)
        self._formulas.setText(view.formulas)
        self.inputs.show_records(view.inputs)
        self.table.setFixedHeight(32 + 24 * min(max(len(view.lengths), 1), 8))
