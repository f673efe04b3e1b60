"""The few questions that are asked in a window of their own."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QLineEdit, QListWidget, QPlainTextEdit, QVBoxLayout, QWidget

from eider.desktop.widgets.layouts import button, label, row
from eider.library.index import PartRow
from eider.model.library import LibrarySettings
from eider.model.wording import counted


class NameDialog(QDialog):
    """Asks for the name and the category of a new part.

    `named` tells both; whoever hears it closes the dialog, or says with `show_fault` why the name cannot be used.
    """

    named = pyqtSignal(str, str)

    def __init__(self, title: str, settings: LibrarySettings, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._settings = settings
        self.name, self.category = QLineEdit(), QComboBox()
        self.name.setPlaceholderText("manufacturer part number")
        for key, entry in settings.categories.items():
            self.category.addItem(entry.title, key)
        self.category.currentIndexChanged.connect(lambda _i: self._show_example())
        self._example, self._fault = label("", "soft", wrap=True), label("", "wrong", wrap=True)
        layout = QVBoxLayout(self)
        layout.addWidget(label("Name"))
        layout.addWidget(self.name)
        layout.addWidget(label("Category"))
        layout.addWidget(self.category)
        layout.addWidget(self._example)
        layout.addWidget(self._fault)
        self.make = button("Create", self._done, main=True)
        self.make.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout.addWidget(row(1, cancel, self.make))
        self.setMinimumWidth(440)
        self._show_example()

    def _show_example(self) -> None:
        entry = self._settings.categories.get(str(self.category.currentData()))
        self._example.setText(f"Naming rule: {entry.name_example}" if entry and entry.name_example else "")

    def _done(self) -> None:
        self._fault.setText("")
        self.named.emit(self.name.text(), str(self.category.currentData()))

    def show_fault(self, fault: str) -> None:
        """Say why the name cannot be used."""
        self._fault.setText(fault)


class ReleaseDialog(QDialog):
    """Asks for the note of parts that are released together; `noted` tells it."""

    noted = pyqtSignal(str)

    def __init__(self, rows: Sequence[PartRow], parent: QWidget) -> None:
        super().__init__(parent)
        parts = counted(len(rows), "part")
        self.setWindowTitle(f"Release {parts}")
        self.list = QListWidget()
        self.list.addItems([f"{row.name}   {row.state}, becomes revision {row.revision + 1}" for row in rows])
        self.note = QPlainTextEdit()
        self.note.setPlaceholderText("What changed and why. The note stays with each revision.")
        self.note.setMaximumHeight(84)
        self.note.setTabChangesFocus(True)
        self.note.textChanged.connect(self._enable)
        self.release = button(f"Release {parts}", self._done, main=True)
        self.release.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label("All of them are released, or none if one has blockers."))
        layout.addWidget(self.list)
        layout.addWidget(label("Release note", "head"))
        layout.addWidget(self.note)
        layout.addWidget(row(1, cancel, self.release))
        self.resize(520, 380)
        self.note.setFocus()
        self._enable()

    def _enable(self) -> None:
        self.release.setEnabled(bool(self.note.toPlainText().strip()))

    def _done(self) -> None:
        self.accept()
        self.noted.emit(self.note.toPlainText().strip())
