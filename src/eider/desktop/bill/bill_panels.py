"""Beside a list of parts: the bill as it will be written, its columns, and the design that it is kept as."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import Any

import msgspec
from PyQt6.QtCore import QAbstractTableModel, QModelIndex, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QInputDialog, QLineEdit, QPushButton, QTableView, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.cell_clipboard import copy_cells
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.model.library import BillColumn
from eider.model.wording import counted
from eider.services.facts.bills import Bill, keep_design

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


YES_NO = ("", "yes")
HINT = (
    "A value holds facts and other names in braces, such as {Part number} or {quantity}, or a sum after =, "
    "such as = total * 1.05. A required column that is empty is a finding."
)


class ColumnRow(msgspec.Struct, frozen=True):
    """A line of the table: a column and its place."""

    place: int
    column: BillColumn


class ColumnsPanel(QWidget):
    """Edits the columns of one template; the bill follows each change, and *Save* keeps them."""

    changed = pyqtSignal(object)
    save_asked = pyqtSignal(str)

    def __init__(self, context: DesktopContext) -> None:
        super().__init__()
        self.columns: tuple[BillColumn, ...] = ()

        def text(title: str, field: str) -> Column[ColumnRow]:
            return Column(
                title, lambda r: str(getattr(r.column, field)), lambda r, typed: self._put(r, field, typed), at_end=True
            )

        def tick(title: str, field: str) -> Column[ColumnRow]:
            return Column(
                title,
                lambda r: "yes" if getattr(r.column, field) else "",
                lambda r, typed: self._put(r, field, typed == "yes"),
                choices=lambda _r: YES_NO,
            )

        self.table = RecordView[ColumnRow](
            [
                text("Heading", "heading"),
                text("Value", "value"),
                tick("Number", "number"),
                tick("Required", "required"),
            ],
            context.theme,
        )
        self.table.set_widths(112, 124, 56)
        self.name = QLineEdit()
        self.name.setPlaceholderText("Name of the template")
        self.name.returnPressed.connect(self._save)
        tools = flow(
            button("Add a column", self._add),
            button("Remove columns", self._drop),
            button("Up", partial(self._move, -1)),
            button("Down", partial(self._move, 1)),
        )
        fill_widget(
            self,
            column(
                label(HINT, "soft", wrap=True),
                growing(self.table),
                tools,
                row(growing(self.name), button("Save to library", self._save)),
                margins=6,
            ),
        )

    def show_columns(self, name: str, columns: Sequence[BillColumn]) -> None:
        """Show the columns of a template."""
        self.name.setText(name)
        self._show(tuple(columns))

    def _show(self, columns: tuple[BillColumn, ...]) -> None:
        self.columns = columns
        self.table.show_records([ColumnRow(place, made) for place, made in enumerate(columns)])

    def _use(self, change: Callable[[list[BillColumn]], None]) -> None:
        columns = list(self.columns)
        change(columns)
        self._show(tuple(columns))
        self.changed.emit(self.columns)

    def _put(self, record: ColumnRow, field: str, value: str | bool) -> None:
        made = msgspec.structs.replace(record.column, **{field: value.strip() if isinstance(value, str) else value})
        if made != record.column:
            self._use(lambda columns: columns.__setitem__(record.place, made))

    def _add(self) -> None:
        record: ColumnRow | None = self.table.record()
        place = record.place + 1 if record else len(self.columns)
        self._use(lambda columns: columns.insert(place, BillColumn("Column", "")))
        self.table.select_rows([place])

    def _drop(self) -> None:
        gone = {record.place for record in self.table.selected()}
        kept = [made for place, made in enumerate(self.columns) if place not in gone]
        self._use(lambda columns: columns.__setitem__(slice(None), kept))

    def _move(self, by: int) -> None:
        record: ColumnRow | None = self.table.record()
        if record is not None and 0 <= record.place + by < len(self.columns):
            self._use(lambda columns: columns.insert(record.place + by, columns.pop(record.place)))
            self.table.select_rows([record.place + by])

    def _save(self) -> None:
        self.save_asked.emit(self.name.text().strip())
