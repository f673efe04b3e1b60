"""How the lands came about: each length raw and rounded, the equations with their numbers, and what went in."""

from PyQt6.QtWidgets import QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import column, fill_widget, growing, label, panes, scrolled
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.lengths import format_length
from eider.views.derivation_inputs import InputRow
from eider.views.steps.lands import LandsView, LengthRow

# Columns that are folded away in a narrow place.
RAW, FROM, EVIDENCE = 2, 3, 4
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
        self.table.setColumnHidden(RAW, is_narrow)
        for place in (FROM, EVIDENCE):
            self.inputs.setColumnHidden(place, is_narrow)
        self.inputs.setColumnWidth(0, 92 if is_narrow else 104)
        self.table.setColumnWidth(0, 92 if is_narrow else 130)
        self._note.setText(FOLDED if is_narrow else HINT)

    def _go_to_input(self) -> None:
        """The cell of the sheet that the input in hand comes from, or the rulebook."""
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
