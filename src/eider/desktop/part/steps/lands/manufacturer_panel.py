"""The manufacturer's lands beside the computed: numbers as the sheet gives them, and the difference by pad."""

from collections.abc import Mapping
from typing import Any

from PyQt6.QtWidgets import QRadioButton, QWidget

from eider.commands.lands.manufacturer_lands import set_form, set_source, set_suggested
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import CaptureTarget
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.views.manufacturer_rows import SuggestedRow
from eider.views.steps.lands import ManufacturerView, PadDifferenceRow


class ManufacturerPanel(QWidget):
    """Which pattern the footprint takes, the manufacturer's lengths, and how its pads differ from the computed ones."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self.controller = controller
        self._forms: Mapping[str, tuple[str, ...]] = {}
        self.computed, self.suggested = QRadioButton("Computed"), QRadioButton("As the manufacturer suggests")
        self.computed.clicked.connect(lambda: self._choose("computed"))
        self.suggested.clicked.connect(lambda: self._choose("suggested"))
        self.table = RecordView[SuggestedRow](
            [
                Column("Group", lambda r: r.group),
                Column(
                    "Dimensioned as", lambda r: r.form, self._set_form, choices=lambda r: self._forms.get(r.group, ())
                ),
                Column("", lambda r: r.key),
                Column("As typed", lambda r: r.text, self._type),
                Column("Evidence", lambda r: r.evidence),
                Column("Meaning", lambda r: r.meaning),
            ],
            theme,
        )
        self.table.set_widths(98, 108, 46, 58, 58)
        self.table.edited.connect(controller.session.end_merge)
        self.pads = RecordView[PadDifferenceRow](
            [
                Column("Pad", lambda d: d.number, number=True),
                Column("Difference from computed, mm", lambda d: d.words),
            ],
            theme,
        )
        self.pads.set_widths(52)
        self._summary = label("", "soft", wrap=True)
        lower = column(label("Compared with computed", "head"), self._summary, growing(self.pads), margins=0)
        fill_widget(
            self,
            column(
                row(self.computed, 1),
                row(self.suggested, 1),
                growing(panes(self.table, lower, sizes=(220, 220), vertical=True)),
            ),
        )

    def show_view(self, view: ManufacturerView) -> None:
        """Show the present choice, lengths and differences."""
        self.computed.setChecked(not view.is_chosen)
        self.suggested.setChecked(view.is_chosen)
        self._forms = view.forms
        self.table.show_records(view.rows)
        self.table.setEnabled(view.is_chosen or any(row.text for row in view.rows))
        self.pads.show_records(view.differences)
        self._summary.setText(view.summary)

    def target(self) -> CaptureTarget | None:
        """The selected length, for a click in the datasheet."""
        record: SuggestedRow | None = self.table.record()
        return (
            CaptureTarget(record.address, f"suggested {record.key}", "length")
            if record and self.table.isEnabled()
            else None
        )

    def next_field(self) -> None:
        """The next length."""
        current = self.table.currentIndex()
        below = self.table.records.index(current.row() + 1, current.column())
        if below.isValid():
            self.table.setCurrentIndex(below)

    def _choose(self, source: Any) -> None:
        rulebook = self.controller.rules.rulebook
        title = "Use the manufacturer's lands" if source == "suggested" else "Use the computed lands"
        self.controller.edit(title, lambda b: set_source(b, source, rulebook))

    def _set_form(self, record: SuggestedRow, text: str) -> None:
        self.controller.edit(f"Give {record.group} as {text}", lambda b: set_form(b, record.group, text))

    def _type(self, record: SuggestedRow, text: str) -> None:
        self.controller.edit(
            f"Change the suggested {record.key}",
            lambda b: set_suggested(b, record.group, record.key, text),
            f"suggested:{record.group}:{record.key}",
        )
