"""The pitch decision: what another pitch costs over each row of pads."""

from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.lengths import format_length
from eider.views.pitch_view import PitchRow, PitchView, pitch_view

ABOUT = "On another grid the error of the pitch adds up from pad to pad, against what joints and holes have to spare."


class PitchPanel(QWidget):
    """Works out the rows while it is seen: once for each state of the part and each pitch that is typed."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self._controller, self._context, self._jobs = controller, context, context.jobs.owned(self)
        self._made_for: object = None
        self.chosen = QLineEdit()
        self.chosen.setPlaceholderText("50 mil")
        self.chosen.setAccessibleName("Pitch instead of the datasheet's")
        self.chosen.editingFinished.connect(lambda: self.follow(is_seen=True))
        self.summary = label("", "number", wrap=True)
        self.table = RecordView[PitchRow](
            [
                Column("Pads", lambda r: f"{r.first}–{r.last}"),
                Column("Grid", lambda r: r.grid),
                Column("Pitch", lambda r: self._length(r.decision.chosen), number=True),
                Column("Over the row", lambda r: self._length(r.decision.over_row), number=True),
                Column("At most", lambda r: self._length(r.decision.margin), number=True),
                Column("Result", lambda r: r.verdict, fault=lambda r: "" if r.decision.fits else r.verdict),
                Column("Ways", lambda r: r.reach),
            ],
            context.theme,
        )
        self.table.set_widths(50, 92, 54, 90, 60, 84)
        head = row(label("Pitch instead"), growing(self.chosen))
        fill_widget(
            self,
            column(label("Pitch", "head"), label(ABOUT, "soft", wrap=True), head, self.summary, growing(self.table)),
        )

    def _length(self, mm: float) -> str:
        return format_length(round(mm, 4), self._context.unit, with_unit=False)

    def follow(self, *, is_seen: bool) -> None:
        """Work it out for the part as it is now, where that is looked at and not done yet."""
        state, chosen = self._controller.state, self.chosen.text()
        if not is_seen or state is None or self._made_for == (state, chosen):
            return
        self._made_for = state, chosen

        def done(view: PitchView) -> None:
            if self._made_for == (state, chosen):
                self.summary.setText(view.summary)
                self.table.show_records(view.rows)

        def failed(fault: Exception) -> None:
            self.summary.setText(str(fault))
            self.table.show_records([])

        self._jobs.run("rules", lambda: pitch_view(state.under_check, chosen), done, failed)
