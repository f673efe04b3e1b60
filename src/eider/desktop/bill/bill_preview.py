"""The bill as it will be written: headings and cells."""

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QTableView, QWidget

from eider.desktop.widgets.cell_clipboard import copy_cells
from eider.desktop.widgets.qt_values import present

Cells = Sequence[str | float | int]


class _CellModel(QAbstractTableModel):
    def __init__(self) -> None:
        super().__init__()
        self.rows: Sequence[Cells] = ((),)

    def show_rows(self, rows: Sequence[Cells]) -> None:
        self.beginResetModel()
        self.rows = rows or ((),)
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.rows) - 1

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.rows[0])

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid():
            return None
        cell = self.rows[index.row() + 1][index.column()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return f"{cell:.10g}" if isinstance(cell, float) else str(cell)
        if role == Qt.ItemDataRole.TextAlignmentRole and not isinstance(cell, str):
            return int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return str(self.rows[0][section])
        return None


class BillPreview(QTableView):
    """Read-only; cells are copied as a spreadsheet takes them."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.cells = _CellModel()
        self.setModel(self.cells)
        self.setAlternatingRowColors(True)
        self.setWordWrap(False)
        self.setTabKeyNavigation(False)
        self.setAccessibleName("The bill as it will be written")
        rows = present(self.verticalHeader())
        rows.hide()
        rows.setDefaultSectionSize(24)

    def show_rows(self, rows: Sequence[Cells]) -> None:
        """Show these rows, the first as headings; columns keep their widths while their number stays."""
        is_other = len(rows[0]) != self.cells.columnCount() if rows else True
        self.cells.show_rows(rows)
        if is_other:
            self.resizeColumnsToContents()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.matches(QKeySequence.StandardKey.Copy):
            copy_cells(self.selectedIndexes(), lambda row, column: str(self.cells.index(row, column).data()))
        else:
            super().keyPressEvent(event)
