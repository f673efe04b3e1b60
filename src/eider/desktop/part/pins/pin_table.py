"""The pin table: editing, pasting, filling, numbering, grouping by rule or by drag."""

from collections.abc import Callable, Mapping
from functools import partial

import msgspec
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QAbstractItemView, QLineEdit, QWidget

from eider.commands import pin_edits, symbol_edits
from eider.commands.pin_cells import PIN_CELLS, PinCell, draw_next_function, paste_cells
from eider.commands.pin_edits import (
    GROUPINGS,
    NUMBERINGS,
    fill_down,
    fill_series,
    group_pins,
    join_group,
    move_rows,
    number_pins,
    replace_text,
    sort_pins,
)
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, menu_button, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.bundle import Bundle
from eider.model.symbol import Pin, PinMove
from eider.model.wording import counted
from eider.symbols.pin_moves import SIDES as MOVE_SIDES
from eider.symbols.pin_table import read_pins, split_table
from eider.views.steps.pins import PinsView

SIDES = ("", *MOVE_SIDES)
# Columns of moves by hand stand behind the one of units.
MOVED_AT = 7
FIELDS = (*(c.field for c in PIN_CELLS[:MOVED_AT]), "side", "behind", *(c.field for c in PIN_CELLS[MOVED_AT:]))
SEPARATORS = {"Split names at /": "/", "Split names at ,": ",", "Split names at |": "|", "Split names at a space": " "}
WIDTHS = (52, 100, 112, 92, 76, 74, 40, 52, 70, 80, 110, 72)


class PinView(RecordView[Pin]):
    """The table itself; rows can be dragged onto a row, or between two."""

    rows_dropped = pyqtSignal(int, bool)

    def dropEvent(self, event: QDropEvent | None) -> None:
        if event is None or event.source() is not self:
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
        columns: list[Column[Pin]] = [self._column(cell) for cell in PIN_CELLS]
        columns[MOVED_AT:MOVED_AT] = [
            Column("Side", self._side_of, self._put_side, choices=lambda _p: SIDES),
            Column("After pin", self._behind_of, self._put_behind, at_end=True),
        ]
        self.view = PinView(columns, context.theme)
        self.view.takes_rows = True
        self.view.records.drags_rows = True
        self.view.rows_pasted.connect(self.paste)
        self.view.set_widths(*WIDTHS)
        self.view.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.view.setDragDropOverwriteMode(False)
        self.view.rows_dropped.connect(self.drop_rows)
        header = self.view.horizontalHeader()
        if header is not None:
            header.setSectionsClickable(True)
            header.sectionDoubleClicked.connect(self._sort)
        self.view.edited.connect(controller.session.end_merge)
        selection = self.view.selectionModel()
        if selection is not None:
            selection.selectionChanged.connect(lambda _now, _before: self.chosen.emit())
        fill_widget(self, column(growing(self.view), self._tools(), margins=0))

    def _column(self, cell: PinCell) -> Column[Pin]:
        return Column(
            cell.title,
            cell.show,
            partial(self._put, cell),
            choices=(lambda _p: cell.choices) if cell.choices else None,
            fault=(lambda p: "undecided" if p.type == "undecided" else "") if cell.field == "type" else None,
            number=cell.field == "number",
        )

    def _tools(self) -> QWidget:
        """What changes many pins at once."""
        functions: dict[str, Callable[[], None]] = {
            title: partial(self._split_names, separator) for title, separator in SEPARATORS.items()
        }
        functions["Draw the next function"] = self._next_function
        return flow(
            button("Fill down", self._fill_down),
            button("Continue numbering", lambda: self._many(fill_series)),
            menu_button("Number", {way: partial(self._number, way) for way in NUMBERINGS}),
            menu_button("Group by", {rule: partial(self._group, rule) for rule in GROUPINGS}),
            menu_button("Functions", functions),
        )

    def search_row(self) -> QWidget:
        """Search and replace over the selected cells."""
        self.wanted_text, self.replacement = QLineEdit(), QLineEdit()
        self.wanted_text.setPlaceholderText("Find in selected cells")
        self.replacement.setPlaceholderText("Replace with")
        return row(self.wanted_text, self.replacement, button("Replace", self._replace))

    def show_pins(self, view: PinsView) -> None:
        """Show the pins, and the moves by hand."""
        self._moves = view.moves
        self.view.show_records(view.pins)

    def pin(self) -> Pin | None:
        """The pin in hand."""
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
        """The field of the column in hand."""
        return FIELDS[max(self.view.currentIndex().column(), 0)]

    def rows(self) -> list[int]:
        """The selected rows from the top."""
        return sorted({index.row() for index in self.view.selectedIndexes()})

    def _all_or_selected(self) -> list[int]:
        """The selected rows; with fewer than two, all."""
        rows = self.rows()
        return rows if len(rows) > 1 else list(range(len(self.controller.bundle.symbol.pins)))

    def paste(self, text: str) -> None:
        """Put cells in from the one in hand on; a text that is a table of pins takes the place of all."""
        cells = split_table(text)
        pins = self.controller.bundle.symbol.pins
        index = self.view.currentIndex()
        if not pins or not index.isValid() or self._is_whole(cells, index.column(), len(pins)):
            self.whole_pasted.emit(text)
            return
        fields = FIELDS[index.column() :]
        self.controller.edit("Paste cells", lambda b: paste_cells(b, index.row(), fields, cells))

    @staticmethod
    def _is_whole(cells: list[list[str]], at_column: int, count: int) -> bool:
        if len(cells) < 2 or max(map(len, cells)) < 2:
            return False
        has_headings = bool(read_pins(cells[:1]).columns.get("name")) and not read_pins(cells[:1]).pins
        return has_headings or (at_column == 0 and len(cells) >= count)

    def drop_rows(self, target: int, onto: bool) -> None:
        """Rows were dragged: onto a row they take its group, between two they stand there."""
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

    def _side_of(self, pin: Pin) -> str:
        return self._moves[pin.number].side if pin.number in self._moves else ""

    def _behind_of(self, pin: Pin) -> str:
        move = self._moves.get(pin.number)
        return "" if move is None else move.after or "first"

    def _put_side(self, pin: Pin, text: str) -> None:
        side = next((side for side in MOVE_SIDES if side == text), None)
        self.controller.edit(f"Move pin {pin.number}", lambda b: symbol_edits.put_on_side(b, [pin.number], side))

    def _put_behind(self, pin: Pin, text: str) -> None:
        self.controller.edit(f"Move pin {pin.number}", lambda b: symbol_edits.put_behind(b, pin.number, text.strip()))

    def _fill_down(self) -> None:
        if self.field() not in ("side", "behind"):
            self._many(fill_down)
            return
        pins = self.controller.bundle.symbol.pins
        rows = self.rows()
        move = self._moves.get(pins[rows[0]].number) if rows else None
        numbers = [pins[i].number for i in rows[1:]]
        if move is None:
            self.controller.edit("Undo moves", lambda b: symbol_edits.take_moves_back(b, numbers))
        else:
            self.controller.edit("Move pins", lambda b: symbol_edits.put_pins(b, numbers, move.side, move.pin))

    def _many(self, change: Callable[[Bundle, list[int], str], Bundle]) -> None:
        """A change to the selected cells of one column."""
        rows, field = self.rows(), self.field()
        self.controller.edit("Change pins", lambda b: change(b, rows, field))

    def _number(self, way: str) -> None:
        rows = self._all_or_selected()
        columns = max(round(len(rows) ** 0.5), 1)
        self.controller.edit(f"Number pins: {way}", lambda b: number_pins(b, rows, way, columns))

    def _group(self, rule: str) -> None:
        rows = self._all_or_selected()
        self.controller.edit(f"Group pins by {rule}", lambda b: group_pins(b, rows, rule))

    def _split_names(self, separator: str) -> None:
        rows = self._all_or_selected()
        self.controller.edit("Split names", lambda b: symbol_edits.split_alternatives(b, rows, separator))

    def _next_function(self) -> None:
        rows = self._all_or_selected()
        self.controller.edit("Draw another function", lambda b: draw_next_function(b, rows))

    def _replace(self) -> None:
        rows, field = self.rows(), self.field()
        find, put = self.wanted_text.text(), self.replacement.text()
        found: list[int] = []

        def change(bundle: Bundle) -> Bundle:
            made, count = replace_text(bundle, rows, field, find, put)
            found.append(count)
            return made

        self.controller.edit(f"Replace “{find}”", change)
        if found:
            self.context.said.emit(f"Replaced in {counted(found[-1], 'pin')}")

    def _sort(self, section: int) -> None:
        self.controller.edit(f"Sort pins by {FIELDS[section]}", lambda b: sort_pins(b, FIELDS[section]))

    def add(self) -> None:
        """A pin more, with the next number."""
        pins = self.controller.bundle.symbol.pins
        numbers = [int(pin.number) for pin in pins if pin.number.isdecimal()]
        pin = Pin(str(max(numbers, default=0) + 1))
        self.controller.edit(f"Add pin {pin.number}", lambda b: pin_edits.set_pin_table(b, (*pins, pin)))

    def remove(self) -> None:
        """The selected rows go."""
        gone = set(self.rows())
        kept = [pin for i, pin in enumerate(self.controller.bundle.symbol.pins) if i not in gone]
        self.controller.edit(f"Remove {counted(len(gone), 'pin')}", lambda b: pin_edits.set_pin_table(b, kept))

    def confirm(self) -> None:
        """The types of the selected pins, or of all, are right."""
        chosen = set(self._all_or_selected())
        pins = [
            msgspec.structs.replace(p, assumed=False) if i in chosen else p
            for i, p in enumerate(self.controller.bundle.symbol.pins)
        ]
        self.controller.edit("Confirm types", lambda b: pin_edits.set_pin_table(b, pins))
