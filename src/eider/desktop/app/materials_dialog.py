"""The materials of a library: a table that all bodies are coloured by; changed once, all follow."""

from collections.abc import Mapping

from msgspec.structs import replace
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QColor, QPixmap
from PyQt6.QtWidgets import QDialog, QLineEdit, QVBoxLayout, QWidget

from eider.bodies.materials import UNKNOWN, materials_with, standard_materials
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.shared_tables import SHARED_MATERIALS
from eider.model.material import CLASSES, FINISHES, Material

# A material and its name.
Named = tuple[str, Material]
SWATCH = (22, 12)
ABOUT = (
    "Every body of the library takes its colours from here. Metal, board and ink stay solid where a body is shown "
    "see-through; the finish tells how a material shines in pictures and in glTF."
)


class MaterialsDialog(QDialog):
    """Nothing is kept before *Save*, which writes the materials that are not the standard ones as they were."""

    kept = pyqtSignal()

    def __init__(self, library: Library, context: DesktopContext, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Materials of the library")
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._saved: dict[str, Material] = {}
        self.materials: dict[str, Material] = dict(materials_with({}))
        self.table = RecordView[Named](
            [
                Column("Name", lambda r: r[0]),
                Column[Named]("Colour", lambda r: r[1].colour, self._set_colour, at_end=True).with_picture(_swatch),
                Column("Finish", lambda r: r[1].finish, self._setter("finish"), choices=lambda _r: FINISHES),
                Column("Class", lambda r: r[1].kind, self._setter("kind"), choices=lambda _r: CLASSES),
                Column("Origin", lambda r: _origin(*r)),
            ],
            context.theme,
        )
        self.table.set_widths(150, 110, 80, 90)
        self.new_name = QLineEdit()
        self.new_name.setPlaceholderText("Name of a new material")
        self.new_name.returnPressed.connect(self.add)
        self._fault = label("", "wrong", wrap=True)
        self._fault.hide()
        self.save_button = button("Save", self.save, main=True)
        add, remove = button("Add", self.add), button("Reset or remove", self.remove)
        cancel = button("Cancel", self.reject)
        for other in (add, remove, cancel):
            other.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label(ABOUT, "soft", wrap=True))
        layout.addWidget(self.table, 1)
        layout.addWidget(self._fault)
        layout.addWidget(row(self.new_name, add, remove, 1, cancel, self.save_button))
        self.resize(620, 460)
        self._show()
        self._jobs.run("library", lambda: SHARED_MATERIALS.read(library), self._read, self._fail)

    def _read(self, saved: dict[str, Material]) -> None:
        self._saved, self.materials = saved, dict(materials_with(saved))
        self._show()

    def _show(self) -> None:
        self.table.show_records(list(self.materials.items()))

    def _fail(self, fault: Exception | str) -> None:
        self._fault.setText(str(fault))
        self._fault.show()

    def _put(self, name: str, material: Material) -> None:
        self._fault.hide()
        self.materials[name] = material
        self._show()

    def _set_colour(self, record: Named, text: str) -> None:
        colour = QColor(text.strip())
        if colour.isValid():
            self._put(record[0], replace(record[1], colour=colour.name().upper()))
        else:
            self._fail(f"{text} is no colour; type it as #RRGGBB, such as #383D42")

    def _setter(self, field: str):  # type: ignore[no-untyped-def]  # a field by its name
        return lambda record, text: self._put(record[0], replace(record[1], **{field: text}))

    def add(self) -> None:
        """A new material, grey at first."""
        name = self.new_name.text().strip()
        if not name or name in self.materials:
            self._fail(f"There is a material {name} already." if name else "Type a name for the material first.")
            return
        self.new_name.clear()
        self._put(name, UNKNOWN)
        self.table.select_where(lambda record: record[0] == name)

    def remove(self) -> None:
        """Take away the selected materials of the library's own; a standard one becomes as it was."""
        for name, _ in self.table.selected():
            if name in standard_materials():
                self.materials[name] = standard_materials()[name]
            else:
                self.materials.pop(name, None)
        self._show()

    def save(self) -> None:
        """Write them, and let every open body follow."""
        own, saved, library = _own(self.materials), self._saved, self._library

        def done(_result: object) -> None:
            self.kept.emit()
            self.accept()

        note = "materials changed"
        self._jobs.run(
            "library", lambda: SHARED_MATERIALS.save_all(library, own, note, replaces=saved), done, self._fail
        )


def _own(materials: Mapping[str, Material]) -> dict[str, Material]:
    """What differs from the standard materials."""
    return {name: material for name, material in materials.items() if standard_materials().get(name) != material}


def _origin(name: str, material: Material) -> str:
    standard = standard_materials().get(name)
    return "own" if standard is None else "standard" if standard == material else "changed"


def _swatch(record: Named) -> QPixmap:
    picture = QPixmap(*SWATCH)
    picture.fill(QColor(record[1].colour))
    return picture
