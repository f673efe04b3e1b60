"""The grid of facts: parts down, facts across, with copy and paste both ways; a change of many cells is one."""

from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QGuiApplication, QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QAbstractItemView, QTableView, QWidget

from eider.commands.facts.fact_table import FactsOfPart, FactTable
from eider.desktop.theme import Theme
from eider.desktop.widgets.cell_clipboard import cells_of, clipboard_text, copy_cells
from eider.desktop.widgets.qt_values import present

Role = Qt.ItemDataRole
WIDTH, NAME_WIDTH = 130, 190


class FactGridModel(QAbstractTableModel):
    """The table as the view asks for it; `typed` tells what was typed into which cells."""

    typed = pyqtSignal(object)

    def __init__(self, theme: Theme, fault: Callable[[FactsOfPart, str], str], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._theme, self._fault = theme, fault
        self.table = FactTable((), ())
        self._before: Mapping[str, FactsOfPart] = {}

    def show_table(self, table: FactTable, before: Mapping[str, FactsOfPart]) -> None:
        """Show this state; `before` are the parts as the library has them, by their id."""
        is_same_size = (len(table.parts), table.names) == (len(self.table.parts), self.table.names)
        if not is_same_size:
            self.beginResetModel()
        self.table, self._before = table, before
        if not is_same_size:
            self.endResetModel()
        elif table.parts:
            self.dataChanged.emit(self.index(0, 0), self.index(len(table.parts) - 1, len(table.names) - 1))

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.table.parts)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.table.names)

    def text(self, row: int, column: int) -> str:
        """The text of a cell."""
        return self.table.parts[row].facts.get(self.table.names[column], "")

    def data(self, index: QModelIndex, role: int = Role.DisplayRole) -> Any:
        if not index.isValid():
            return None
        row, column = index.row(), index.column()
        if role in (Role.DisplayRole, Role.EditRole):
            return self.text(row, column)
        part, name = self.table.parts[row], self.table.names[column]
        if role == Role.ToolTipRole:
            return self._fault(part, name) or self._was(part, name) or part.facts.get(name) or None
        if role == Role.ForegroundRole and self._fault(part, name):
            return self._theme.colour("red")
        if role == Role.FontRole and self._was(part, name):
            font = QFont(QGuiApplication.font())
            font.setBold(True)
            return font
        return None

    def _was(self, part: FactsOfPart, name: str) -> str:
        """What a cell that was changed was before, in words; empty for the others."""
        old = self._before.get(part.id)
        before = old.facts.get(name, "") if old else ""
        return f"was {before or 'empty'}" if before != part.facts.get(name, "") else ""

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Role.DisplayRole) -> Any:
        if role == Role.DisplayRole:
            is_fact = orientation == Qt.Orientation.Horizontal
            return self.table.names[section] if is_fact else self.table.parts[section].name
        if role == Role.TextAlignmentRole and orientation == Qt.Orientation.Vertical:
            return int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        return None

    def flags(self, _index: QModelIndex) -> Qt.ItemFlag:
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEditable

    def setData(self, index: QModelIndex, value: Any, role: int = Role.EditRole) -> bool:
        if role != Role.EditRole:
            return False
        if str(value).strip() != self.text(index.row(), index.column()):
            self.typed.emit({(index.row(), self.table.names[index.column()]): str(value)})
        return True


class FactGrid(QTableView):
    """The view; `cells_put` gives texts for cells that were typed, pasted or emptied together."""

    cells_put = pyqtSignal(object)
    sort_asked = pyqtSignal(str)

    def __init__(self, theme: Theme, fault: Callable[[FactsOfPart, str], str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model_of_facts = FactGridModel(theme, fault, self)
        self.setModel(self.model_of_facts)
        self.model_of_facts.typed.connect(self.cells_put.emit)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setWordWrap(False)
        header, rows = present(self.horizontalHeader()), present(self.verticalHeader())
        header.setDefaultSectionSize(WIDTH)
        header.setHighlightSections(False)
        header.setSectionsClickable(True)
        header.sectionDoubleClicked.connect(self._ask_sort)
        header.setToolTip("Double-click to sort by value")
        # The names of the parts stay in sight, however far the facts are moved.
        rows.setFixedWidth(NAME_WIDTH)
        rows.setDefaultSectionSize(24)
        self.setAccessibleName("Facts across parts")
        # Whether what is pasted below the last row is put as further rows.
        self.takes_rows = False

    def show_table(self, table: FactTable, before: Mapping[str, FactsOfPart]) -> None:
        """Show this state."""
        self.model_of_facts.show_table(table, before)

    def _ask_sort(self, column: int) -> None:
        self.sort_asked.emit(self.model_of_facts.table.names[column])

    def selected_cells(self) -> list[tuple[int, str]]:
        """The cells of facts that are selected, row by row."""
        names = self.model_of_facts.table.names
        places = sorted((index.row(), index.column()) for index in self.selectedIndexes())
        return [(row, names[column]) for row, column in places]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.cells_put.emit(dict.fromkeys(self.selected_cells(), ""))
        else:
            super().keyPressEvent(event)

    def copy(self) -> None:
        """Put the selected cells on the clipboard, as a spreadsheet takes them."""
        copy_cells(self.selectedIndexes(), self.model_of_facts.text)

    def paste(self) -> None:
        """Put the clipboard's cells in from the current one on; a single one fills all selected cells."""
        rows = cells_of(clipboard_text())
        names, start = self.model_of_facts.table.names, self.currentIndex()
        count = len(self.model_of_facts.table.parts)
        if not rows or not (start.isValid() or self.takes_rows):
            return
        # Without a cell in hand, rows come after the last one.
        at = (start.row(), start.column()) if start.isValid() else (count, 0)
        if len(rows) == 1 and len(rows[0]) == 1:
            self.cells_put.emit(dict.fromkeys(self.selected_cells(), rows[0][0]))
            return
        cells = {
            (at[0] + down, names[at[1] + across]): cell
            for down, row in enumerate(rows)
            for across, cell in enumerate(row)
            if at[1] + across < len(names)
        }
        self.cells_put.emit({place: cell for place, cell in cells.items() if self.takes_rows or place[0] < count})
