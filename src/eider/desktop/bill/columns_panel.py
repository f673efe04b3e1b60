"""The columns of a bill: headings, facts or sums, in their order; kept with the library as a template."""

from collections.abc import Callable, Sequence
from functools import partial

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.library import BillColumn

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
