"""The adjustments of a footprint: of its pads, and of what surrounds them."""

import msgspec
from PyQt6.QtWidgets import QWidget

from eider.commands import footprint_edits
from eider.desktop.part.controller import PartController
from eider.desktop.part.lands.silkscreen_panel import SilkscreenPanel
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.footprint import Adjustment
from eider.views.steps.lands import LandsView


class AdjustmentsPanel(QWidget):
    """A row for each; they can be switched off, changed, given a reason and removed."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self._controller = controller
        self.table = RecordView[Adjustment](
            [
                Column(
                    "Active",
                    lambda a: "yes" if a.active else "no",
                    lambda a, text: self._change("Switch an adjustment on or off", a, active=text == "yes"),
                    choices=lambda _a: ("yes", "no"),
                ),
                Column(
                    "Pads",
                    lambda a: a.pad,
                    lambda a, text: self._change("Choose the pads of an adjustment", a, pad=text.strip()),
                ),
                Column("What", lambda a: a.what),
                Column("Value", lambda a: a.value, lambda a, text: self._change("Change an adjustment", a, value=text)),
                Column("Why", lambda a: a.why, lambda a, text: self._change("Give a reason", a, why=text)),
            ],
            theme,
        )
        self.table.set_widths(64, 46, 66, 96)
        self.surroundings = SilkscreenPanel(controller, theme)
        pads = column(label("Of pads", "head"), growing(self.table), row(button("Remove selected", self._remove), 1))
        fill_widget(self, panes(pads, self.surroundings, sizes=(260, 260), vertical=True))

    def show_view(self, view: LandsView) -> None:
        """Show the present adjustments."""
        self.table.show_records(view.adjustments)
        self.surroundings.show_overrides(view.overrides)

    def _change(self, title: str, shown: Adjustment, **changes: object) -> None:
        """Change one of the list as it is now: another cell of its row may have been typed since it was shown."""
        rows = list(self._controller.bundle.footprint.adjustments)
        index = next(i for i, a in enumerate(self.table.records.records) if a is shown)
        if index < len(rows):
            rows[index] = msgspec.structs.replace(rows[index], **changes)
            self._controller.edit(title, lambda b: footprint_edits.set_adjustments(b, rows))

    def _remove(self) -> None:
        gone = self.table.selected()
        kept = [a for a in self._controller.bundle.footprint.adjustments if a not in gone]
        self._controller.edit("Remove adjustments", lambda b: footprint_edits.set_adjustments(b, kept))
