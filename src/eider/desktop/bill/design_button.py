"""Keeps the parts of a bill as those of a design, by which *Where used* finds it."""

from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QInputDialog, QPushButton

from eider.desktop.context import DesktopContext
from eider.library import Library
from eider.model.wording import counted
from eider.services.bills import Bill
from eider.services.designs import keep_design


class DesignButton(QPushButton):
    """Can be pressed once there is a bill with parts; `failed` tells why a design could not be kept."""

    failed = pyqtSignal(object)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__("Keep as a design…")
        self._library, self._context, self._jobs = library, context, context.jobs.owned(self)
        self._bill: Bill | None = None
        self._path = Path()
        self.setToolTip("Where used then finds this design by its parts")
        self.setEnabled(False)
        self.clicked.connect(lambda _checked: self._ask())

    def show_bill(self, bill: Bill, path: Path) -> None:
        """The bill whose parts are kept, and the list that it was made of."""
        self._bill, self._path = bill, path
        self.setEnabled(any(line.part for line in bill.lines) and not self._library.read_only)

    def _ask(self) -> None:
        name, is_given = QInputDialog.getText(self, "Keep as a design", "Name of the design", text=self._path.stem)
        if is_given:
            self.keep(name)

    def keep(self, name: str) -> None:
        """Keep the parts under the name of a design."""
        bill, file = self._bill, self._path.name
        if bill is not None:
            self._jobs.run(
                "library",
                lambda: keep_design(self._library, name, bill, file),
                lambda made: self._context.said.emit(f"Design {name} kept with {counted(len(made.parts), 'part')}"),
                self.failed.emit,
            )
