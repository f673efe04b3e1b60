"""The cells of a captured table as they stand, with what each column is taken for."""

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QTableWidget, QTableWidgetItem

from eider.datasheets.dimension_columns import ROLES as DIMENSION_ROLES
from eider.datasheets.dimension_columns import ColumnRole as Role
from eider.datasheets.pin_tables import ROLES as PIN_ROLES
from eider.datasheets.table_capture import TableCapture

LEFT_OUT = "Excluded"


class CaptureColumns(QTableWidget):
    """`assigned` asks for the table to be read again, as its kind and with the columns that the user says."""

    assigned = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self._capture: TableCapture | None = None
        self.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)

    def show_cells(self, found: TableCapture) -> None:
        """The grid as it stands, with a choice over each column."""
        self._capture = found
        width = max((len(r) for r in found.cells), default=0)
        self.clear()
        self.setColumnCount(width)
        self.setRowCount(len(found.cells) + 1)
        roles = PIN_ROLES if found.kind == "pins" else DIMENSION_ROLES
        taken: tuple[str, ...] = found.pins.columns if found.pins else ()
        if found.dimensions:
            taken = tuple(c.role for c in found.dimensions.columns)
        for place in range(width):
            box = QComboBox()
            box.addItems(list(roles))
            box.setCurrentText(taken[place] if place < len(taken) else LEFT_OUT)
            box.activated.connect(lambda _index: self._assign())
            self.setCellWidget(0, place, box)
        for down, texts in enumerate(found.cells, start=1):
            for across, text in enumerate(texts):
                self.setItem(down, across, QTableWidgetItem(text))

    def _assign(self) -> None:
        found = self._capture
        if found is None:
            return
        chosen = []
        for place in range(self.columnCount()):
            box = self.cellWidget(0, place)
            chosen.append(box.currentText() if isinstance(box, QComboBox) else LEFT_OUT)
        before = found.dimensions.columns if found.dimensions else ()
        columns: Sequence[Any] = chosen
        if found.kind != "pins":
            columns = [
                Role(role, before[k].unit if k < len(before) else "", before[k].letter if k < len(before) else "")
                for k, role in enumerate(chosen)
            ]
        self.assigned.emit(found.kind, columns)
