"""The table of a composed body: a row for each simple solid, every length a sum over the sheet's letters."""

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.bodies.composed_solids import EDGES, MIRRORS, SHAPES
from eider.commands import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.body.saved_compositions import SavedCompositions
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.body import ComposedSolid
from eider.views.steps.body import ComposedRow

# Field, heading and width of the columns.
FIELDS = (
    ("name", "Solid", 74), ("shape", "Shape", 70), ("material", "Material", 104), ("x", "x", 58), ("y", "y", 48),
    ("z", "z", 48), ("length", "Length", 60), ("width", "Width", 56), ("height", "Height", 56),
    ("outline", "Outline", 84), ("turn", "Turn", 44), ("count", "Count", 48), ("dx", "dx", 48), ("dy", "dy", 48),
    ("mirror", "Mirror", 52), ("edges", "Edges", 60), ("corner", "Corner", 54), ("chamfered", "Chamfer", 60),
    ("cuts", "Cuts", 46), ("joins", "Joins", 46),
)  # fmt: skip
YES = ("yes", "no")
CHOICES = {
    "shape": SHAPES, "mirror": MIRRORS, "edges": EDGES, "chamfered": YES, "cuts": YES, "joins": YES,
}  # fmt: skip


class ComposedPanel(QWidget):
    """The rows; `lit` tells the name of the solid in hand."""

    lit = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller = controller
        self._materials: tuple[str, ...] = ()
        self.table = RecordView[ComposedRow]([self._column(field, title) for field, title, _ in FIELDS], context.theme)
        self.table.set_widths(*(width for _, _, width in FIELDS))
        self.table.edited.connect(controller.session.end_merge)
        self.table.entered_record.connect(lambda record: self.lit.emit(record.value.name))
        self._fault = label("", "wrong", wrap=True)
        add, copy = button("Add a solid", self.add), button("Copy row", self.copy)
        hint = label(
            "Lengths are sums of the sheet's letters, such as D, Dmin or Dmax. The selected solid is highlighted.",
            "soft",
        )
        self.saved = SavedCompositions(controller, context)
        self.saved.taken.connect(self._take)
        tools = flow(add, copy, button("Remove rows", self.remove), self.saved, hint)
        fill_widget(self, column(growing(self.table), self._fault, tools, margins=4))

    def _column(self, field: str, title: str) -> Column[ComposedRow]:
        def show(record: ComposedRow) -> str:
            value = getattr(record.value, field)
            return ("yes" if value else "no") if isinstance(value, bool) else str(value)

        def put(record: ComposedRow, text: str) -> None:
            rows = list(self.controller.bundle.body.composed)
            value = text == "yes" if CHOICES.get(field) == YES else text.strip()
            rows[record.index] = replace(rows[record.index], **{field: value})
            self._put(rows, f"Change a solid's {title}", f"composed:{record.index}:{field}")

        choices: Callable[[ComposedRow], tuple[str, ...]] | None = (
            (lambda _r: self._materials)
            if field == "material"
            else (lambda _r: CHOICES[field])
            if field in CHOICES
            else None
        )
        return Column(title, show, put, choices=choices, fault=lambda r: r.fault)

    def show_rows(self, rows: tuple[ComposedRow, ...], materials: tuple[str, ...]) -> None:
        """Show the rows, and the first thing that is wrong with them; `materials` are those that can be chosen."""
        self._materials = materials
        self.table.show_records(rows)
        faults = [record.fault for record in rows if record.fault]
        self._fault.setText(faults[0] if faults else "")
        self._fault.setVisible(bool(faults))

    def _put(self, rows: list[ComposedSolid], title: str, merge: str = "") -> None:
        self.controller.edit(title, lambda bundle: body_edits.compose(bundle, rows), merge)

    def _take(self, name: str, rows: tuple[ComposedSolid, ...]) -> None:
        """Use a composition of the library; its letters must be there too."""
        self._put(list(rows), f"Use composition {name}")

    def add(self) -> None:
        """One more solid, a small block on the board."""
        rows = list(self.controller.bundle.body.composed)
        made = ComposedSolid(name=f"solid {len(rows) + 1}", length="1", width="1", height="1")
        self._put([*rows, made], "Add a solid")

    def copy(self) -> None:
        """The row in hand once more."""
        rows, record = list(self.controller.bundle.body.composed), self.table.record()
        if record is not None:
            rows.insert(record.index + 1, record.value)
            self._put(rows, f"Copy {record.value.name}")

    def remove(self) -> None:
        """Take the selected rows away; a composition keeps one."""
        gone = {record.index for record in self.table.selected()}
        rows = [solid for index, solid in enumerate(self.controller.bundle.body.composed) if index not in gone]
        if gone and rows:
            self._put(rows, "Remove solids")
