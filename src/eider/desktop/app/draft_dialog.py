"""Asks what a part drafted from a datasheet is called, and which package it is of."""

from collections.abc import Mapping, Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QFormLayout, QLineEdit, QWidget

from eider.datasheets.found_items import FOUND_WORDS, TABLES_READ, FoundItem
from eider.desktop.widgets.layouts import button, label, row
from eider.model.wording import counted
from eider.services.datasheet_drafts import DraftChoice, packages_found


class DraftDialog(QDialog):
    """`asked` tells the choice; whoever hears it closes the dialog, or shows a fault."""

    asked = pyqtSignal(object)

    def __init__(self, name: str, found: Sequence[FoundItem], categories: Mapping[str, str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("New part from a datasheet")
        self.name, self.category, self.package = QLineEdit(name), QComboBox(), QComboBox()
        for key, title in categories.items():
            self.category.addItem(title, key)
        self.package.addItems(packages_found(found))
        self.fault = label("", "wrong", wrap=True)
        self.act = button("Draft", self._done, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QFormLayout(self)
        layout.addRow(label(found_words(found), wrap=True))
        layout.addRow("Name", self.name)
        layout.addRow("Category", self.category)
        if self.package.count() > 1:
            layout.addRow("Package", self.package)
        layout.addRow(self.fault)
        layout.addRow(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self.name.selectAll()

    def _done(self) -> None:
        self.fault.setText("")
        package = self.package.currentText() if self.package.count() > 1 else ""
        self.asked.emit(DraftChoice(self.name.text().strip(), str(self.category.currentData()), package))

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self.fault.setText(fault)


def found_words(found: Sequence[FoundItem]) -> str:
    """What was found in a datasheet, for whoever is about to draft a part from it."""
    counts = [(sum(item.kind == kind for item in found), FOUND_WORDS[kind]) for kind in TABLES_READ]
    told = [counted(count, words, words.replace("table", "tables", 1)) for count, words in counts if count]
    return f"Found in this datasheet: {' and '.join(told)}." if told else "No table of pins or dimensions was found."
