"""The pin table: editing, pasting, filling, numbering, grouping by rule or by drag."""

from collections.abc import Mapping
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QAbstractItemView, QWidget

from eider.commands.pins import pin_edits, symbol_edits
from eider.commands.pins.pin_cells import PIN_CELLS, PinCell, more_cell, paste_cells
from eider.commands.pins.pin_edits import (
    join_group,
    move_rows,
    sort_pins,
)
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import fill_widget
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.facts.categories import pin_columns
from eider.model.bundle import Bundle
from eider.model.symbol import Pin, PinMove
from eider.symbols.pin_moves import SIDES as MOVE_SIDES
from eider.symbols.pin_table import read_pins, split_table
from eider.views.steps.pins import PinsView

SIDES = ("", *MOVE_SIDES)
# Columns of moves by hand are behind the one of units.
MOVED_AT = 7
FIELDS = (*(c.field for c in PIN_CELLS[:MOVED_AT]), "side", "behind", *(c.field for c in PIN_CELLS[MOVED_AT:]))
MORE_WIDTH = 110
WIDTHS = (52, 100, 112, 92, 76, 74, 40, 52, 70, 80, 110, 72)


class PinView(RecordView[Pin]):
    """The table itself; rows can be dragged onto a row, or between two."""

    rows_dropped = pyqtSignal(int, bool)

    def dropEvent(self, event: QDropEvent | None) -> None:
        event = present(event)
        if event.source() is not self:
            return
        index = self.indexAt(event.position().toPoint())
        where = self.dropIndicatorPosition()
        onto = where == QAbstractItemView.DropIndicatorPosition.OnItem
        below = where == QAbstractItemView.DropIndicatorPosition.BelowItem
        target = index.row() + below if index.isValid() else len(self.records.records)
        # The rows are changed in the document; the view must not take them away by itself.
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        self.rows_dropped.emit(target, onto and index.isValid())


class PinTablePanel(QWidget):
    """The pins of the part as rows; `whole_pasted` hands on a text that is a pin table of its own."""

    whole_pasted = pyqtSignal(str)
    chosen = pyqtSignal()

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self._moves: Mapping[str, PinMove] = {}
        # The further columns of all categories: a part can be given another one.
        settings = controller.library.settings
        further = {c.name: c for key in settings.categories for c in pin_columns(settings, key)}
        self._further = tuple(further.values())
        more = [more_cell(c) for c in self._further]
        self._fields = (*FIELDS, *(cell.field for cell in more))
        columns: list[Column[Pin]] = [self._column(cell) for cell in (*PIN_CELLS, *more)]
        columns[MOVED_AT:MOVED_AT] = [
            Column("Side", self._side_of, self._put_side, choices=lambda _p: SIDES),
            Column("After pin", self._behind_of, self._put_behind, at_end=True),
        ]
        self.view = PinView(columns, context.theme)
        self.view.takes_rows = True
        self.view.records.drags_rows = True
        self.view.rows_pasted.connect(self.paste)
        self.view.set_widths(*WIDTHS, *(MORE_WIDTH for _ in (PIN_CELLS[-1], *more)))
        self.view.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.view.setDragDropOverwriteMode(False)
        self.view.rows_dropped.connect(self.drop_rows)
        header = present(self.view.horizontalHeader())
        header.setSectionsClickable(True)
        header.sectionDoubleClicked.connect(self._sort)
        self.view.edited.connect(controller.session.end_merge)
        selection = present(self.view.selectionModel())
        selection.selectionChanged.connect(lambda _now, _before: self.chosen.emit())
        fill_widget(self, self.view)

    def _column(self, cell: PinCell) -> Column[Pin]:
        return Column(
            cell.title,
            cell.show,
            partial(self._put, cell),
            choices=(lambda _p: cell.choices) if cell.choices else None,
            fault=(lambda p: "undecided" if p.type == "undecided" else "") if cell.field == "type" else None,
            number=cell.field == "number",
        )

    def show_pins(self, view: PinsView) -> None:
        """Show the pins, and the moves by hand."""
        self._moves = view.moves
        names = {column.name for column in view.columns} | {name for pin in view.pins for name in pin.more}
        for place, column in enumerate(self._further, start=len(FIELDS)):
            self.view.setColumnHidden(place, column.name not in names)
        self.view.show_records(view.pins)

    def pin(self) -> Pin | None:
        """The selected pin."""
        return self.view.record()

    def numbers(self) -> list[str]:
        """The numbers of the selected pins."""
        chosen = [pin.number for pin in self.view.selected()]
        pin = self.pin()
        return chosen or ([pin.number] if pin else [])

    def take_group(self, number: str) -> None:
        """Select the pin and all others of its group and unit; without a group those of its bus stay as they are."""
        pins = self.controller.bundle.symbol.pins
        pin = next((p for p in pins if p.number == number), None)
        if pin and pin.group:
            self.view.select_rows([i for i, p in enumerate(pins) if (p.group, p.unit) == (pin.group, pin.unit)])

    def field(self) -> str:
        """The field of the selected column."""
        return self._fields[max(self.view.currentIndex().column(), 0)]

    def rows(self) -> list[int]:
        """The selected rows from the top."""
        return sorted({index.row() for index in self.view.selectedIndexes()})

    def paste(self, text: str) -> None:
        """Put cells in from the selected one on; a text that is a table of pins takes the place of all."""
        cells = split_table(text)
        pins = self.controller.bundle.symbol.pins
        index = self.view.currentIndex()
        if not pins or not index.isValid() or self._is_whole(cells, index.column(), len(pins)):
            self.whole_pasted.emit(text)
            return
        fields = [f for c, f in enumerate(self._fields) if c >= index.column() and not self.view.isColumnHidden(c)]
        self.controller.edit("Paste cells", lambda b: paste_cells(b, index.row(), fields, cells))

    @staticmethod
    def _is_whole(cells: list[list[str]], at_column: int, count: int) -> bool:
        if len(cells) < 2 or max(map(len, cells)) < 2:
            return False
        has_headings = bool(read_pins(cells[:1]).columns.get("name")) and not read_pins(cells[:1]).pins
        return has_headings or (at_column == 0 and len(cells) >= count)

    def drop_rows(self, target: int, onto: bool) -> None:
        """Rows were dragged: onto a row they take its group, between two they are there."""
        rows = self.rows()
        if onto:
            name = self.controller.bundle.symbol.pins[target].group or "unit"
            self.controller.edit(f"Group with {name}", lambda b: join_group(b, rows, target))
        else:
            self.controller.edit("Move rows", lambda b: move_rows(b, rows, target))

    def _index(self, pin: Pin) -> int:
        pins = self.controller.bundle.symbol.pins
        found = next((i for i, p in enumerate(pins) if p is pin or p == pin), None)
        return found if found is not None else self.view.currentIndex().row()

    def _put(self, cell: PinCell, pin: Pin, text: str) -> None:
        at = self._index(pin)

        def change(bundle: Bundle) -> Bundle:
            return pin_edits.change_pin(bundle, at, cell.put(bundle.symbol.pins[at], text))

        self.controller.edit(f"Change pin {pin.number}", change, f"pin:{at}:{cell.field}")

    def move_of(self, number: str) -> PinMove | None:
        """How a pin was moved by hand; None where it stands as arranged."""
        return self._moves.get(number)

    def _side_of(self, pin: Pin) -> str:
        move = self.move_of(pin.number)
        return move.side if move else ""

    def _behind_of(self, pin: Pin) -> str:
        move = self.move_of(pin.number)
        return "" if move is None else move.after or "first"

    def _put_side(self, pin: Pin, text: str) -> None:
        side = next((side for side in MOVE_SIDES if side == text), None)
        self.controller.edit(f"Move pin {pin.number}", lambda b: symbol_edits.put_on_side(b, [pin.number], side))

    def _put_behind(self, pin: Pin, text: str) -> None:
        self.controller.edit(f"Move pin {pin.number}", lambda b: symbol_edits.put_behind(b, pin.number, text.strip()))

    def _sort(self, section: int) -> None:
        self.controller.edit(
            f"Sort pins by {self.view.records.columns[section].title}", lambda b: sort_pins(b, self._fields[section])
        )
