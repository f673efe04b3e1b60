"""Asks why a part is withdrawn, and what to use in its place."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QDialog, QFormLayout, QLineEdit, QWidget

from eider.desktop.widgets.layouts import button, label, row


class WithdrawDialog(QDialog):
    """`asked` tells reason and successor; whoever hears it closes the dialog, or shows a fault."""

    asked = pyqtSignal(str, str)

    def __init__(self, name: str, parent: QWidget, *, is_back: bool) -> None:
        super().__init__(parent)
        title = f"Use {name} again" if is_back else f"Withdraw {name}"
        self.setWindowTitle(title)
        self.reason, self.successor = QLineEdit(), QLineEdit()
        self.reason.setPlaceholderText("Why; it stays with the revision")
        self.reason.textChanged.connect(lambda _text: self._enable())
        self.successor.setPlaceholderText("name of a part; empty for none")
        self._fault = label("", "wrong", wrap=True)
        self.act = button("Use it again" if is_back else "Withdraw", self._done, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QFormLayout(self)
        told = "" if is_back else "It stays readable, and is found only when somebody asks for withdrawn parts."
        if told:
            layout.addRow(label(told, wrap=True))
        layout.addRow("Reason", self.reason)
        if not is_back:
            layout.addRow("Use in its place", self.successor)
        layout.addRow(self._fault)
        layout.addRow(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self._enable()

    def _enable(self) -> None:
        self.act.setEnabled(bool(self.reason.text().strip()))

    def _done(self) -> None:
        self.asked.emit(self.reason.text().strip(), self.successor.text().strip())

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self._fault.setText(fault)
