"""The tools of the pin table: what changes many pins at once."""

from collections.abc import Callable
from functools import partial

import msgspec
from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.commands.pins import pin_edits, symbol_edits
from eider.commands.pins.pin_cells import draw_next_function
from eider.commands.pins.pin_edits import (
    GROUPINGS,
    NUMBERINGS,
    fill_down,
    fill_series,
    group_pins,
    number_pins,
    replace_text,
)
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.steps.pins.pin_table import PinTablePanel
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, menu_button, row
from eider.model.bundle import Bundle
from eider.model.symbol import Pin
from eider.model.wording import counted

SEPARATORS = {"Split names at /": "/", "Split names at ,": ",", "Split names at |": "|", "Split names at a space": " "}


class PinTools:
    """Acts on the selected rows of a table; with fewer than two selected, some act on all."""

    def __init__(self, table: PinTablePanel, controller: PartController, context: DesktopContext) -> None:
        self._table, self._controller, self._context = table, controller, context

    def buttons(self) -> QWidget:
        """A button or menu for each."""
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

    @property
    def _pins(self) -> tuple[Pin, ...]:
        return self._controller.bundle.symbol.pins

    def _all_or_selected(self) -> list[int]:
        """The selected rows; with fewer than two, all."""
        rows = self._table.rows()
        return rows if len(rows) > 1 else list(range(len(self._pins)))

    def _fill_down(self) -> None:
        if self._table.field() not in ("side", "behind"):
            self._many(fill_down)
            return
        rows = self._table.rows()
        move = self._table.move_of(self._pins[rows[0]].number) if rows else None
        numbers = [self._pins[i].number for i in rows[1:]]
        if move is None:
            self._controller.edit("Undo moves", lambda b: symbol_edits.take_moves_back(b, numbers))
        else:
            self._controller.edit("Move pins", lambda b: symbol_edits.put_pins(b, numbers, move.side, move.pin))

    def _many(self, change: Callable[[Bundle, list[int], str], Bundle]) -> None:
        """A change to the selected cells of one column."""
        rows, field = self._table.rows(), self._table.field()
        self._controller.edit("Change pins", lambda b: change(b, rows, field))

    def _number(self, way: str) -> None:
        rows = self._all_or_selected()
        columns = max(round(len(rows) ** 0.5), 1)
        self._controller.edit(f"Number pins: {way}", lambda b: number_pins(b, rows, way, columns))

    def _group(self, rule: str) -> None:
        rows = self._all_or_selected()
        self._controller.edit(f"Group pins by {rule}", lambda b: group_pins(b, rows, rule))

    def _split_names(self, separator: str) -> None:
        rows = self._all_or_selected()
        self._controller.edit("Split names", lambda b: symbol_edits.split_alternatives(b, rows, separator))

    def _next_function(self) -> None:
        rows = self._all_or_selected()
        self._controller.edit("Draw another function", lambda b: draw_next_function(b, rows))

    def _replace(self) -> None:
        rows, field = self._table.rows(), self._table.field()
        find, put = self.wanted_text.text(), self.replacement.text()
        found: list[int] = []

        def change(bundle: Bundle) -> Bundle:
            made, count = replace_text(bundle, rows, field, find, put)
            found.append(count)
            return made

        self._controller.edit(f"Replace “{find}”", change)
        if found:
            self._context.said.emit(f"Replaced in {counted(found[-1], 'pin')}")

    def add(self) -> None:
        """A pin more, with the next number."""
        numbers = [int(pin.number) for pin in self._pins if pin.number.isdecimal()]
        pin = Pin(str(max(numbers, default=0) + 1))
        self._controller.edit(f"Add pin {pin.number}", lambda b: pin_edits.set_pin_table(b, (*b.symbol.pins, pin)))

    def remove(self) -> None:
        """The selected rows go."""
        gone = set(self._table.rows())
        kept = [pin for i, pin in enumerate(self._pins) if i not in gone]
        self._controller.edit(f"Remove {counted(len(gone), 'pin')}", lambda b: pin_edits.set_pin_table(b, kept))

    def confirm(self) -> None:
        """The types of the selected pins, or of all, are right."""
        chosen = set(self._all_or_selected())
        pins = [msgspec.structs.replace(p, assumed=False) if i in chosen else p for i, p in enumerate(self._pins)]
        self._controller.edit("Confirm types", lambda b: pin_edits.set_pin_table(b, pins))
