"""Compositions that the library keeps by name: saved from one part, used in others."""

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QComboBox, QLineEdit, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, fill_widget, label, row, set_choices
from eider.library.shared_tables import SHARED_COMPOSITIONS
from eider.model.body import ComposedSolid

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
