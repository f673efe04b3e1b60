"""The joint yield: pads with the share of joints that would fall short, and three histograms of the one in hand."""

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.lands.joint_yield import FILLETS, PadYield
from eider.services.pattern_reading import read_other_pattern
from eider.views.joint_yield_view import COLUMNS, JointYieldView, OtherPattern, YieldRow, joint_yield_view

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
