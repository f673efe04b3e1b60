"""The reviews that wait for somebody's word."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QDialog, QListWidget, QVBoxLayout, QWidget

from eider.desktop.widgets.layouts import button, label, row
from eider.library.review_refs import StoredReview


class WaitingDialog(QDialog):
    """`chosen` tells the review to look at."""

    chosen = pyqtSignal(object)

    def __init__(self, waiting: Sequence[StoredReview], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Waiting for review")
        self._waiting = list(waiting)
        self.list = QListWidget()
        self.list.setAccessibleName("Parts that wait for a review")
        self.list.setWordWrap(True)
        for stored in waiting:
            asked = stored.review.requested
            self.list.addItem(f"{stored.review.name}, {asked.by}, {asked.at[:10]}: {asked.note}")
        self.list.itemActivated.connect(lambda _item: self._choose())
        self.list.setCurrentRow(0)
        self.look = button("Look at it", self._choose, main=True)
        self.look.setEnabled(bool(waiting))
        self.look.setDefault(True)
        cancel = button("Close", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label("Nothing waits for a review." if not waiting else "Oldest request first.", "soft"))
        layout.addWidget(self.list)
        layout.addWidget(row(1, cancel, self.look))
        self.resize(520, 320)

    def _choose(self) -> None:
        at = self.list.currentRow()
        if 0 <= at < len(self._waiting):
            self.accept()
            self.chosen.emit(self._waiting[at])
