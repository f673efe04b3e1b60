"""How the lands came about: each length raw and rounded, the equations with their numbers, and what went in."""

from PyQt6.QtWidgets import QWidget

from eider.desktop.controller import PartController
from eider.desktop.steps.base import Shared
from eider.desktop.table import Column, RecordView
from eider.desktop.widgets import column, fill, growing, label, panes, scrolled
from eider.geometry.lengths import format_length
from eider.workbench.derivations import InputRow, derivation_inputs


class DerivationPanel(QWidget):
    """The derivation of every group of lands, its inputs linked to the cells that they come from."""

    def __init__(self, controller: PartController, shared: Shared) -> None:
        super().__init__()
        self.controller, self.shared = controller, shared
        self.table = RecordView(
            [
                Column("Group", lambda r: r[0]),
                Column("Length", lambda r: r[1]),
                Column("raw, mm", lambda r: "" if r[2] is None else f"{r[2]:.4f}", number=True),
                Column("rounded", lambda r: format_length(r[3], self.shared.unit), number=True),
            ],
            shared.theme,
        )
        self.table.set_widths(130, 52, 84)
        self.inputs = RecordView(
            [
                Column("Group", lambda r: r.group),
                Column("Input", lambda r: r.name),
                Column("Value", lambda r: r.value, number=True),
                Column("From", lambda r: r.letter),
                Column("Evidence", lambda r: r.evidence),
            ],
            shared.theme,
        )
        self.inputs.set_widths(104, 42, 96, 90)
        self.inputs.activated.connect(lambda _index: self._go_to_input())
        self._formulas = label("", wrap=True)
        self._formulas.setTextInteractionFlags(self._formulas.textInteractionFlags().TextSelectableByMouse)
        note = label("Enter or a double click goes to the cell that an input comes from.", "soft", wrap=True)
        upper = column(self.table, growing(scrolled(self._formulas)), margins=2)
        lower = column(label("What went in", "head"), growing(self.inputs), note, margins=2)
        fill(self, panes(upper, lower, sizes=(360, 200), vertical=True))

    def _go_to_input(self) -> None:
        """The cell of the sheet that the input in hand comes from, or the rulebook."""
        record: InputRow | None = self.inputs.record()
        if record is None:
            return
        if record.place:
            self.shared.go("package", record.place)
        elif record.letter.startswith("rulebook"):
            self.shared.open_rulebook(self.controller.bundle.footprint.rulebook)

    def refresh(self) -> None:
        """Show the present derivation."""
        pattern = self.controller.bundle.footprint.pattern
        groups, sizes = (pattern.derivation, pattern.sizes) if pattern else ((), ())
        rows: list[tuple[str, str, float | None, float]] = [
            (group.group, name, getattr(group, f"{name}_raw"), getattr(group, name))
            for group in groups
            for name in ("Z", "G", "X")
        ]
        rows += [(size.group, name, None, value) for size in sizes for name, value in size.values.items()]
        self.table.show_records(rows)
        texts = [text for group in (*groups, *sizes) for text in (f"{group.group}:", *group.formulas, *group.notes)]
        by_hand = ["These lands are given by hand, by sums over the sheet's letters: see Pads by hand in Package."]
        said = [*texts, "All lengths in mm."] if texts else by_hand if pattern else []
        self._formulas.setText("\n\n".join(said))
        self.inputs.show_records(derivation_inputs(self.controller.view, self.shared.unit))
        self.table.setFixedHeight(32 + 24 * min(max(len(rows), 1), 8))
