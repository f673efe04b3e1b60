"""The table of a composed body: a row for each simple solid, every length a sum over the sheet's letters."""

from collections.abc import Callable, Mapping

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.bodies.solids.composed_solids import EDGES, MIRRORS, SHAPES
from eider.commands.parts import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library.documents.shared_tables import SHARED_COMPOSITIONS
from eider.model.body import ComposedSolid
from eider.views.steps.body import ComposedRow

Rows = tuple[ComposedSolid, ...]


class SavedCompositions(QWidget):
    """A list to use one from, and a name to save the present one under; `taken` tells the name and the rows."""

    taken = pyqtSignal(str, object)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self._controller, self._jobs = controller, context.jobs.owned(self)
        self._saved: Mapping[str, Rows] = {}
        self.choices = QComboBox()
        self.choices.setAccessibleName("Compositions of the library")
        self.choices.setToolTip("Use a composition of the library in place of these rows")
        self.choices.activated.connect(lambda _index: self._take())
        self.name = QLineEdit()
        self.name.setPlaceholderText("Name")
        self.name.setMaximumWidth(130)
        self.name.returnPressed.connect(self.save)
        save = button("Save to library", self.save)
        fill_widget(self, row(label("In the library", "soft"), self.choices, self.name, save))

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.read()

    def read(self) -> None:
        """Look what the library has now."""
        library = self._controller.library
        self._jobs.run("library", lambda: SHARED_COMPOSITIONS.read_sound(library), self._show)

    def _show(self, saved: Mapping[str, Rows]) -> None:
        self._saved = saved
        set_choices(self.choices, ["Use…", *saved])

    def _take(self) -> None:
        name = self.choices.currentText()
        self.choices.setCurrentIndex(0)
        if name in self._saved:
            self.name.setText(name)
            self.taken.emit(name, self._saved[name])

    def save(self) -> None:
        """Keep the present rows under the name, in place of those that it had."""
        name, rows = self.name.text().strip(), self._controller.bundle.body.composed
        before = self._saved.get(name)
        self._controller.do(lambda library: SHARED_COMPOSITIONS.save(library, name, rows, replaces=before), self.read)


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
    """The rows; `lit` tells the name of the selected solid."""

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
        """The selected row once more."""
        rows, record = list(self.controller.bundle.body.composed), self.table.record()
        if record is not None:
            rows.insert(record.index + 1, record.value)
            self._put(rows, f"Copy {record.value.name}")

    def remove(self) -> None:
        """Import selected rows away; a composition keeps one."""
        gone = {record.index for record in self.table.selected()}
        rows = [solid for index, solid in enumerate(self.controller.bundle.body.composed) if index not in gone]
        if gone and rows:
            self._put(rows, "Remove solids")
