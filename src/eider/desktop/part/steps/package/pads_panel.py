"""Pads by hand: a table of sums, and the outlines that they name, step by step beside their drawing."""

from collections.abc import Callable

import msgspec
from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.commands.packages import package_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.steps.package.outline_editor import OutlineEditor
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.outline import PadSpec
from eider.packages.pads.manual_pads import SHAPES, SIDES
from eider.views.steps.package import ManualPadsView, PadRow

replace = msgspec.structs.replace
# Field, heading and width of the columns of the pad table.
FIELDS = (
    ("number", "No.", 40), ("x", "x", 70), ("y", "y", 70), ("outline", "Outline", 66), ("width", "Width", 70),
    ("height", "Height", 70),
    ("shape", "Shape", 78), ("corner_radius", "Corner", 52),
    ("corners", "Which", 52), ("rotation", "Turn", 44), ("count", "Count", 46),
    ("dx", "dx", 56), ("dy", "dy", 56), ("rows", "Rows", 42), ("row_dx", "row dx", 50), ("row_dy", "row dy", 50),
    ("radius", "Circle", 50), ("mirror", "Mirror", 52), ("hole", "Hole", 50), ("ring", "Ring", 46),
    ("slot", "Slot", 44),
    ("hole_x", "hole x", 50), ("hole_y", "hole y", 50), ("plated", "Plated", 48), ("mask", "Mask", 60),
    ("paste", "Paste", 60), ("layers", "Side", 56),
)  # fmt: skip
CHOICES = {"shape": SHAPES, "mirror": ("", "x", "y", "both"), "plated": ("yes", "no"), "layers": SIDES}


class PadsPanel(QWidget):
    """The pads that a sheet gives by hand: all of them, or those beside what its family lays."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, theme = controller, context.theme
        self.table = RecordView[PadRow]([self._column(field, title) for field, title, _ in FIELDS], theme)
        self.table.set_widths(*(width for _, _, width in FIELDS))
        self.table.edited.connect(controller.session.end_merge)
        self._fault = label("", "wrong", wrap=True)
        self.letter = QLineEdit()
        self.letter.setPlaceholderText("Another length, such as s = 14")
        self.letter.returnPressed.connect(self._add_letter)
        self.letter.setMinimumWidth(170)
        tools = row(button("Add a pad", self._add_pad), button("Remove pads", self._remove_pads), 1, self.letter)
        upper = column(growing(self.table), self._fault, tools, margins=4)
        self.outlines = OutlineEditor(controller, context)
        fill_widget(self, panes(upper, self.outlines, sizes=(220, 300), vertical=True))

    def _column(self, field: str, title: str) -> Column[PadRow]:
        def show(record: PadRow) -> str:
            value = getattr(record.value, field)
            if field == "shape" and record.value.outline:
                return "outline"
            return ("yes" if value else "no") if field == "plated" else str(value)

        def put(record: PadRow, text: str) -> None:
            value = text == "yes" if field == "plated" else text.strip()
            pads = list(self.controller.bundle.sheet.pads)
            pads[record.index] = replace(pads[record.index], **{field: value})
            self._put_pads(pads, f"Change a pad's {title}", f"pads:{record.index}:{field}")

        choices: Callable[[PadRow], tuple[str, ...]] | None = (lambda _r: CHOICES[field]) if field in CHOICES else None
        return Column(title, show, put, choices=choices, fault=lambda r: r.fault)

    def show_view(self, view: ManualPadsView) -> None:
        """Show the pads and outlines, and what is wrong with them."""
        self.table.show_records(view.pads)
        self._fault.setText(view.fault)
        self._fault.setVisible(bool(view.fault))
        self.outlines.show_view(view.outlines)

    def _put_pads(self, pads: list[PadSpec], title: str, merge: str = "") -> None:
        self.controller.edit(title, lambda b: package_edits.set_pads(b, pads), merge)

    def _add_pad(self) -> None:
        self.controller.edit("Add a pad", package_edits.add_pad)

    def _remove_pads(self) -> None:
        gone = {record.index for record in self.table.selected()}
        kept = [pad for i, pad in enumerate(self.controller.bundle.sheet.pads) if i not in gone]
        self._put_pads(kept, "Remove pads")

    def _add_letter(self) -> None:
        """A length of the sheet's own, for the sums."""
        name, _, text = (piece.strip() for piece in self.letter.text().partition("="))
        if name.isidentifier() and text:
            self.controller.edit(f"Add length {name}", lambda b: package_edits.set_dimension(b, name, text))
            self.letter.clear()
