"""Distances that are kept: the row in which a measured one is kept, and the table of those that are."""

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.commands.lands.kept_distances import drop_distances, keep_distance, kept_of, set_distance, value_along, ways
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.ruler import HINT
from eider.drawings.ruler_snapping import Measured
from eider.geometry.lengths import format_length
from eider.model.address import Address, KeptDistanceAddress
from eider.model.footprint import Along
from eider.views.kept_distance_rows import DistanceRow
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


class MeasuredRow(QWidget):
    """What the ruler measured, and what it shall be from now on."""

    kept = pyqtSignal()

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self._measured: Measured | None = None
        self.words = label(HINT, wrap=True)
        self.along = QComboBox()
        self.along.setAccessibleName("Direction in which the distance is kept")
        self.along.currentTextChanged.connect(lambda _way: self._show_value())
        self.shall = QLineEdit()
        self.shall.setMaximumWidth(150)
        self.shall.setAccessibleName("Required distance")
        self.shall.returnPressed.connect(self._keep)
        self._keeping = row(
            label("Keep", "soft"), self.along, label("Required", "soft"), self.shall, button("Keep", self._keep), 1
        )
        fill_widget(self, column(self.words, self._keeping, margins=0, spacing=2))
        self.show_measured(None)

    def show_measured(self, measured: Measured | None) -> None:
        """Show a measurement, or how to make one."""
        self._measured = measured
        self.words.setText(measured.words(self.context.unit) if measured else HINT)
        self._keeping.setVisible(measured is not None)
        if measured is not None:
            self.along.clear()
            self.along.addItems(ways(measured))
            self.along.setCurrentText("x" if abs(measured.dx) >= abs(measured.dy) else "y")

    def _way(self) -> Along | None:
        """The chosen way, of those that the measurement has."""
        return (
            next((w for w in ways(self._measured) if w == self.along.currentText()), None) if self._measured else None
        )

    def _show_value(self) -> None:
        way = self._way()
        if self._measured and way:
            self.shall.setText(format_length(value_along(self._measured, way), self.context.unit))

    def _keep(self) -> None:
        measured, text = self._measured, self.shall.text()
        way = self._way()
        if measured and way:
            under_check = self.controller.state.under_check
            self.controller.edit(
                "Keep a distance", lambda b: keep_distance(b, kept_of(under_check, measured, way), text)
            )
            self.kept.emit()


class DistancesPanel(QWidget):
    """The kept distances: what each shall be and is."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self._faults: Mapping[KeptDistanceAddress, str] = {}
        self.table = RecordView[DistanceRow](
            [
                Column("From", lambda r: r.kept.first),
                Column("To", lambda r: r.kept.second),
                Column("Along", lambda r: r.kept.along),
                Column("Required", lambda r: r.kept.shall.text, self._type, number=True),
                Column("Is", self._is, number=True, fault=self._fault),
                Column("Evidence", lambda r: r.evidence),
            ],
            context.theme,
        )
        self.table.set_widths(98, 104, 44, 86, 68)
        self.table.edited.connect(controller.session.end_merge)
        note = label(
            "Measure with the ruler, then press Keep: from then on the distance is checked. F4 opens the datasheet, "
            "where a click on the number adds its evidence.",
            "soft",
            wrap=True,
        )
        remove = button("Remove selected", self._remove)
        fill_widget(self, column(note, growing(self.table), row(remove, 1)))

    def show_rows(self, rows: Sequence[DistanceRow], faults: Mapping[KeptDistanceAddress, str]) -> None:
        """Show the kept distances, and what is wrong with them."""
        self._faults = faults
        self.table.show_records(rows)

    def target(self) -> CaptureTarget | None:
        """The selected distance, for a click in the datasheet."""
        record: DistanceRow | None = self.table.record()
        return CaptureTarget(record.address, f"required value of {record.kept.key}", "length") if record else None

    def show_address(self, address: Address) -> bool:
        """Take a distance into hand; whether it is one of these."""
        self.table.select_where(lambda r: r.address == address)
        return any(r.address == address for r in self.table.records.records)

    def _is(self, record: DistanceRow) -> str:
        return "gone" if record.measured is None else format_length(record.measured, self.context.unit)

    def _fault(self, record: DistanceRow) -> str:
        return self._faults.get(record.address, "")

    def _type(self, record: DistanceRow, text: str) -> None:
        key = record.kept.key
        self.controller.edit("Change a kept distance", lambda b: set_distance(b, key, text), f"distance:{key}")

    def _remove(self) -> None:
        keys = [r.kept.key for r in self.table.selected()]
        self.controller.edit("Remove kept distances", lambda b: drop_distances(b, keys))
