"""Asks before unsaved changes are given up: on Quit, and when another library is opened."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QDialog, QVBoxLayout, QWidget

from eider.desktop.widgets.layouts import button, label, row


class UnsavedDialog(QDialog):
    """Names what is not saved; `discarded` tells that it is not wanted."""

    discarded = pyqtSignal()

    def __init__(self, unsaved: Sequence[str], discard: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Unsaved changes")
        layout = QVBoxLayout(self)
        layout.addWidget(label("These changes are not saved:", "head"))
        for words in unsaved:
            layout.addWidget(label(words, wrap=True))
        stay = button("Keep working", self.reject, main=True)
        stay.setDefault(True)
        self.discard = button(discard, self._discard)
        self.discard.setAutoDefault(False)
        layout.addWidget(row(1, self.discard, stay))
        self.setMinimumWidth(420)

    def _discard(self) -> None:
        self.accept()
        self.discarded.emit()
