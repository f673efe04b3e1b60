"""Tables of records: columns declared as data, editing as one types, copy and paste to and from spreadsheets."""

from collections.abc import Callable, Sequence
from typing import Any, Generic, TypeVar

from PyQt6.QtCore import QAbstractTableModel, QItemSelectionModel, QModelIndex, QObject, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QGuiApplication, QKeyEvent, QKeySequence, QPixmap
from PyQt6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QComboBox,
    QLineEdit,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QWidget,
)

from eider.desktop.theme import Theme, number_font
from eider.desktop.widgets.cell_clipboard import cells_of, clipboard_text, copy_cells
from eider.desktop.widgets.qt_values import present
from eider.symbols.pin_names import natural_key

Role = Qt.ItemDataRole
R = TypeVar("R")


class Column(Generic[R]):
    """One column of a table of records.

    `show` gives the text of a record; `put` takes a typed text (None: read-only); `choices` makes it a list to choose
    from, where there are any for the record; `fault` gives what is wrong with a cell. What is typed is put at each key,
    unless `at_end`: then once.
    """

    def __init__(
        self,
        title: str,
        show: Callable[[R], str],
        put: Callable[[R, str], None] | None = None,
        *,
        choices: Callable[[R], Sequence[str]] | None = None,
        fault: Callable[[R], str] | None = None,
        number: bool = False,
        at_end: bool = False,
    ) -> None:
        # The heading may change; the name is what it was at first.
        self.name = self.title = title
        self.show, self.put = show, put
        self.choices, self.fault, self.number, self.at_end = choices, fault, number, at_end
        self.picture: Callable[[R], QPixmap | None] | None = None
        self.struck: Callable[[R], bool] | None = None
        self.bold: Callable[[R], bool] | None = None

    def with_picture(self, picture: Callable[[R], QPixmap | None]) -> "Column[R]":
        """With a picture before the text."""
        self.picture = picture
        return self

    def bold_where(self, bold: Callable[[R], bool]) -> "Column[R]":
        """With the text in bold for some records."""
        self.bold = bold
        return self

    def struck_where(self, struck: Callable[[R], bool]) -> "Column[R]":
        """With the text struck through for some records."""
        self.struck = struck
        return self


class RecordModel(QAbstractTableModel, Generic[R]):
    """Records under columns; refreshed as a whole, without losing selection or an open editor."""

    def __init__(self, columns: Sequence[Column[R]], theme: Theme, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.columns, self._theme = list(columns), theme
        self.records: list[R] = []
        self.drags_rows = False
        self.sorted_by: tuple[int, bool] | None = None

    def sort_by(self, column: int) -> None:
        """Sort by a column from now on; again by the same turns the order round."""
        same = self.sorted_by is not None and self.sorted_by[0] == column
        self.sorted_by = (column, same and self.sorted_by is not None and not self.sorted_by[1])
        self.refresh(self.records)

    def _sorted(self, records: Sequence[R]) -> list[R]:
        if self.sorted_by is None:
            return list(records)
        column, backwards = self.sorted_by
        show = self.columns[column].show
        return sorted(records, key=lambda record: _sort_key(show(record)), reverse=backwards)

    def refresh(self, records: Sequence[R]) -> None:
        """Show these records."""
        records = self._sorted(records)
        if len(records) == len(self.records):
            self.records = list(records)
            if self.records:
                last = self.index(len(self.records) - 1, len(self.columns) - 1)
                self.dataChanged.emit(self.index(0, 0), last)
            return
        self.beginResetModel()
        self.records = list(records)
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.records)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.columns)

    def data(self, index: QModelIndex, role: int = Role.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self.records):
            return None
        column, record = self.columns[index.column()], self.records[index.row()]
        if role in (Role.DisplayRole, Role.EditRole):
            return column.show(record)
        fault = column.fault(record) if column.fault else ""
        if role == Role.ToolTipRole:
            return fault or column.show(record) or None
        if role == Role.ForegroundRole:
            return self._theme.colour("red") if fault else None
        if role == Role.TextAlignmentRole and column.number:
            return int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        if role == Role.DecorationRole and column.picture:
            return column.picture(record)
        if role == Role.FontRole and column.struck and column.struck(record):
            font = QFont(QGuiApplication.font())
            font.setStrikeOut(True)
            return font
        if role == Role.FontRole and column.number:
            font = number_font(QGuiApplication.font())
            font.setBold(column.bold is not None and column.bold(record))
            return font
        if role == Role.BackgroundRole and column.put is None and any(c.put for c in self.columns):
            return QColor(self._theme.colours["paper"])
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Role.DisplayRole) -> Any:
        if role == Role.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return self.columns[section].title
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if not index.isValid():
            return Qt.ItemFlag.ItemIsDropEnabled if self.drags_rows else Qt.ItemFlag.NoItemFlags
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        if self.columns[index.column()].put:
            flags |= Qt.ItemFlag.ItemIsEditable
        if self.drags_rows:
            flags |= Qt.ItemFlag.ItemIsDragEnabled | Qt.ItemFlag.ItemIsDropEnabled
        return flags

    def setData(self, index: QModelIndex, value: Any, role: int = Role.EditRole) -> bool:
        column = self.columns[index.column()]
        if role != Role.EditRole or column.put is None or index.row() >= len(self.records):
            return False
        column.put(self.records[index.row()], str(value))
        return True


def _sort_key(text: str) -> tuple[int, float, tuple[tuple[int, int, str], ...]]:
    """Lengths by their value, other texts with the numbers in them by theirs."""
    try:
        return 0, float(text.split()[0].replace("−", "-")), ()
    except (ValueError, IndexError):
        return 1, 0.0, natural_key(text)


class _Delegate(QStyledItemDelegate):
    """Editors that hand on each keystroke, so that drawings follow while one types; Escape takes all back."""

    typed = pyqtSignal(QModelIndex, str)

    def createEditor(self, parent: QWidget | None, _option: QStyleOptionViewItem, index: QModelIndex) -> QWidget | None:
        model = index.model()
        if not isinstance(model, RecordModel):
            return None
        column, record = model.columns[index.column()], model.records[index.row()]
        options = column.choices(record) if column.choices else ()
        if options:
            box = QComboBox(parent)
            box.addItems(list(options))
            box.setCurrentText(column.show(record))
            box.activated.connect(lambda: self._done(box))
            return box
        editor = QLineEdit(parent)
        editor.setFrame(False)
        editor.setProperty("before", column.show(record))
        where = QModelIndex(index)
        editor.textEdited.connect(lambda text: self.typed.emit(where, text))
        return editor

    def _done(self, box: QComboBox) -> None:
        self.commitData.emit(box)
        self.closeEditor.emit(box, QAbstractItemDelegate.EndEditHint.NoHint)

    def setEditorData(self, editor: QWidget | None, index: QModelIndex) -> None:
        # What is being typed is never replaced by what it led to.
        if isinstance(editor, QLineEdit) and not editor.isModified():
            editor.setText(str(index.data(Role.EditRole)))

    def setModelData(self, editor: QWidget | None, model: Any, index: QModelIndex) -> None:
        if isinstance(editor, QComboBox):
            model.setData(index, editor.currentText())
        elif isinstance(editor, QLineEdit) and editor.isModified():
            model.setData(index, editor.text())

    def eventFilter(self, editor: QObject | None, event: Any) -> bool:
        pressed = isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress
        if isinstance(editor, QLineEdit) and pressed and event.key() == Qt.Key.Key_Escape and editor.isModified():
            editor.setText(str(editor.property("before")))
            editor.setModified(True)
            self.commitData.emit(editor)
        return super().eventFilter(editor, event)


class RecordView(QTableView, Generic[R]):
    """A table view with copy and paste; `entered` tells which record is in hand."""

    entered_record = pyqtSignal(object)
    edited = pyqtSignal()
    rows_pasted = pyqtSignal(str)

    def __init__(self, columns: Sequence[Column[R]], theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.records = RecordModel(columns, theme, self)
        self.setModel(self.records)
        delegate = _Delegate(self)
        delegate.typed.connect(self._type)
        delegate.closeEditor.connect(lambda: self.edited.emit())
        self.setItemDelegate(delegate)
        self.setAlternatingRowColors(not any(column.put for column in columns))
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.setWordWrap(False)
        self.takes_rows = False
        # Asked before a text is pasted cell by cell; says whether it took the whole.
        self.take_whole: Callable[[str], bool] = lambda _text: False
        self._go_down = False
        # In a table where nothing can be typed Tab goes on to the next control.
        self.setTabKeyNavigation(any(column.put for column in columns))
        header, rows = present(self.horizontalHeader()), present(self.verticalHeader())
        header.setDefaultSectionSize(60)
        header.setMinimumSectionSize(30)
        header.setStretchLastSection(True)
        header.setHighlightSections(False)
        rows.hide()
        rows.setDefaultSectionSize(24)
        selection = present(self.selectionModel())
        selection.currentChanged.connect(self._current_changed)

    def show_records(self, records: Sequence[R]) -> None:
        """Show these records."""
        self.records.refresh(records)

    def column_of(self, name: str) -> int:
        """The position of the column that was made with this heading.

        Raises:
            StopIteration: there is none.
        """
        return next(place for place, column in enumerate(self.records.columns) if column.name == name)

    def hide_columns(self, *names: str, hidden: bool) -> None:
        """Hide columns, or show them again."""
        for name in names:
            self.setColumnHidden(self.column_of(name), hidden)

    def set_title(self, column: int, title: str) -> None:
        """Another title for a column."""
        if self.records.columns[column].title != title:
            self.records.columns[column].title = title
            self.records.headerDataChanged.emit(Qt.Orientation.Horizontal, column, column)

    def set_widths(self, *widths: int) -> None:
        """Widths of the first columns in pixels, no less than their headings need; the last takes what is left."""
        header = present(self.horizontalHeader())
        for index, width in enumerate(widths):
            self.setColumnWidth(index, max(width, header.sectionSizeHint(index)))
        last = header.count() - 1
        if last >= len(widths):
            self.setColumnWidth(last, header.sectionSizeHint(last))

    def set_row_height(self, height: int, picture: QSize) -> None:
        """Higher rows, for pictures of a size."""
        rows = present(self.verticalHeader())
        rows.setDefaultSectionSize(height)
        self.setIconSize(picture)

    def record(self) -> R | None:
        """The selected record; None without one."""
        row = self.currentIndex().row()
        return self.records.records[row] if 0 <= row < len(self.records.records) else None

    def selected(self) -> list[R]:
        """The records of which a cell is selected, in their order."""
        spans = present(self.selectionModel()).selection()
        rows = sorted({row for i in range(len(spans)) for row in range(spans[i].top(), spans[i].bottom() + 1)})
        return [self.records.records[row] for row in rows]

    def allow_sorting(self) -> None:
        """Let a click on a heading sort the records by that column."""
        header = present(self.horizontalHeader())
        header.setSectionsClickable(True)
        header.sectionClicked.connect(self.records.sort_by)

    def select_where(self, wanted: Callable[[R], bool]) -> None:
        """Take the first record that is wanted into hand."""
        row = next((i for i, record in enumerate(self.records.records) if wanted(record)), None)
        if row is None or row == self.currentIndex().row():
            return
        index = self.records.index(row, max(self.currentIndex().column(), 0))
        selection = present(self.selectionModel())
        flags = QItemSelectionModel.SelectionFlag
        selection.setCurrentIndex(index, flags.ClearAndSelect | flags.Rows)
        self.scrollTo(index)

    def select_rows(self, rows: Sequence[int]) -> None:
        """Select whole rows; the first is in hand."""
        selection = self.selectionModel()
        if not rows or selection is None:
            return
        flags = QItemSelectionModel.SelectionFlag
        selection.setCurrentIndex(self.records.index(rows[0], 0), flags.ClearAndSelect | flags.Rows)
        for row in rows[1:]:
            selection.select(self.records.index(row, 0), flags.Select | flags.Rows)

    def _type(self, index: QModelIndex, text: str) -> None:
        if not self.records.columns[index.column()].at_end:
            self.records.setData(index, text)

    def _current_changed(self, current: QModelIndex, _before: QModelIndex) -> None:
        if 0 <= current.row() < len(self.records.records):
            self.entered_record.emit(self.records.records[current.row()])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self._clear()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentIndex().isValid():
            # The Return that ends an editor comes by here too; it goes down instead of opening the cell again.
            if self.state() != QAbstractItemView.State.EditingState:
                self.edit(self.currentIndex())
            else:
                self._go_down = True
        else:
            super().keyPressEvent(event)

    def closeEditor(self, editor: QWidget | None, hint: QAbstractItemDelegate.EndEditHint) -> None:
        super().closeEditor(editor, hint)
        below = self.records.index(self.currentIndex().row() + 1, self.currentIndex().column())
        if self._go_down and below.isValid():
            self.setCurrentIndex(below)
        self._go_down = False

    def copy(self) -> None:
        """Put the selected cells on the clipboard, as a spreadsheet takes them."""
        copy_cells(self.selectedIndexes(), lambda row, column: str(self.records.index(row, column).data()))

    def paste(self) -> None:
        """Put the clipboard's cells in from the current one on; a table of rows may take them whole."""
        text = clipboard_text()
        if self.takes_rows:
            self.rows_pasted.emit(text)
            return
        if "\t" in text and self.take_whole(text):
            return
        start = self.currentIndex()
        seen = [c for c in range(start.column(), len(self.records.columns)) if not self.isColumnHidden(c)]
        for down, cells in enumerate(cells_of(text)):
            for place, cell in zip(seen, cells, strict=False):
                index = self.records.index(start.row() + down, place)
                if index.isValid():
                    self.records.setData(index, cell)
                    self.edited.emit()

    def _clear(self) -> None:
        for index in self.selectedIndexes():
            column = self.records.columns[index.column()]
            options = column.choices(self.records.records[index.row()]) if column.choices else ()
            # What is chosen from a list can be emptied where the list has nothing to choose, or an empty choice.
            if column.put and (not options or "" in options):
                self.records.setData(index, "")
                self.edited.emit()
