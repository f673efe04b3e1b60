"""Dialogs of shared libraries: the address to share through, why a part is claimed, and how a conflict is settled."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QDialog, QLineEdit, QListWidget, QVBoxLayout, QWidget

from eider.desktop.widgets.layouts import button, label, row
from eider.services.conflicts import Choice


class LineDialog(QDialog):
    """Asks for one line; `entered` tells it, and whoever hears it closes the dialog or shows a fault."""

    entered = pyqtSignal(str)

    def __init__(self, title: str, hint: str, do: str, parent: QWidget, *, needed: bool = True) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._needed = needed
        self.line = QLineEdit()
        self.line.setAccessibleName(title)
        self.line.textChanged.connect(lambda _text: self._enable())
        self._fault = label("", "wrong", wrap=True)
        self.act = button(do, lambda: self.entered.emit(self.line.text().strip()), main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QVBoxLayout(self)
        layout.addWidget(label(hint, wrap=True))
        layout.addWidget(self.line)
        layout.addWidget(self._fault)
        layout.addWidget(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self._enable()

    def _enable(self) -> None:
        self.act.setEnabled(bool(self.line.text().strip()) or not self._needed)

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)


class SettleDialog(QDialog):
    """A part that was released by somebody else while it was worked on.

    Signals:
        chosen: what is to hold, and the name of the part that yours becomes with *both*.
        compare_asked: both are to be seen over each other first.
    """

    chosen = pyqtSignal(str, str)
    compare_asked = pyqtSignal()

    def __init__(self, name: str, differences: Sequence[str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"{name} was released meanwhile")
        self.list = QListWidget()
        self.list.setAccessibleName("What your working copy differs in from the newest revision")
        self.list.setWordWrap(True)
        self.list.addItems(list(differences))
        self.name = QLineEdit(f"{name}-2")
        self.name.setAccessibleName("Name of the part that is made of your working copy")
        self._fault = label("", "wrong", wrap=True)
        layout = QVBoxLayout(self)
        told = (
            "Somebody released a newer revision than the one that you work from. Your working copy differs from it in:"
        )
        layout.addWidget(label(told, wrap=True))
        layout.addWidget(self.list)
        layout.addWidget(self._fault)
        layout.addWidget(button("Yours: release it after theirs", lambda: self._choose("mine"), main=True))
        layout.addWidget(button("Theirs: give your working copy up", lambda: self._choose("theirs")))
        layout.addWidget(row(button("Both: yours becomes the part", lambda: self._choose("both")), self.name))
        layout.addWidget(row(button("See both over each other", self._compare), 1, button("Decide later", self.reject)))
        self.resize(520, 420)

    def _compare(self) -> None:
        self.reject()
        self.compare_asked.emit()

    def _choose(self, choice: Choice) -> None:
        self.chosen.emit(choice, self.name.text().strip())

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)
