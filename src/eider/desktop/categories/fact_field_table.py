"""The facts of a category, one a row: their kinds, units, names and what else they are called."""

from collections.abc import Callable, Sequence
from functools import partial

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.library import FactField

replace = msgspec.structs.replace
KINDS = ("text", "number", "range", "choice", "link", "date", "yes/no")
YES_NO = ("", "yes")


class FactRow(msgspec.Struct, frozen=True):
    """A line of the table: a fact and its place; of a parent's facts the place is −1."""

    place: int
    fact: FactField


class FactFieldTable(QWidget):
    """Edits the facts of one category, or what else is described alike; `changed` tells all after each change."""

    changed = pyqtSignal(object)

    def __init__(self, context: DesktopContext, what: str = "fact") -> None:
        super().__init__()
        self._facts: tuple[FactField, ...] = ()
        self._what = what
        self.table = RecordView[FactRow](self._columns(), context.theme)
        self.table.set_widths(150, 80, 52, 66, 50, 130, 150)
        tools = flow(
            button(f"Add a {what}", self._add),
            button(f"Remove {what}s", self._drop),
            button("Up", partial(self._move, -1)),
            button("Down", partial(self._move, 1)),
        )
        fill_widget(self, column(growing(self.table), tools, margins=0))

    def _columns(self) -> list[Column[FactRow]]:
        def text(title: str, field: str, choices: tuple[str, ...] = ()) -> Column[FactRow]:
            def put(record: FactRow, typed: str) -> None:
                self._put(record, field, typed)

            made = Column(title, lambda r: _shown(getattr(r.fact, field)), put, at_end=True)
            made.choices = (lambda _r: choices) if choices else None
            return made

        return [
            text(self._what.capitalize(), "name"),
            text("Kind", "kind", KINDS),
            text("Unit", "unit"),
            text("Required", "required", YES_NO),
            text("Value", "is_value", YES_NO),
            text("Choices", "choices"),
            text("Also called", "also"),
            text("Hidden", "hidden", YES_NO),
        ]

    def show_facts(self, facts: Sequence[FactField]) -> None:
        """Show these facts, in their order."""
        self._facts = tuple(facts)
        self.table.show_records([FactRow(place, fact) for place, fact in enumerate(facts)])

    def _put(self, record: FactRow, field: str, typed: str) -> None:
        facts = list(self._facts)
        facts[record.place] = replace(facts[record.place], **{field: _read(field, typed)})
        self.changed.emit(tuple(facts))

    def _add(self) -> None:
        taken = {fact.name for fact in self._facts}
        word = self._what.capitalize()
        name = next(f"{word} {n}" for n in range(1, len(self._facts) + 2) if f"{word} {n}" not in taken)
        self.changed.emit((*self._facts, FactField(name)))
        self.table.select_where(lambda r: r.fact.name == name)

    def _drop(self) -> None:
        gone = {record.place for record in self.table.selected()}
        self.changed.emit(tuple(fact for place, fact in enumerate(self._facts) if place not in gone))

    def _move(self, by: int) -> None:
        record: FactRow | None = self.table.record()
        facts = list(self._facts)
        if record is None or not 0 <= record.place + by < len(facts):
            return
        facts.insert(record.place + by, facts.pop(record.place))
        self.changed.emit(tuple(facts))
        self.table.select_where(lambda r: r.fact == record.fact)


def _shown(value: object) -> str:
    if isinstance(value, tuple):
        return ", ".join(value)
    return ("yes" if value else "") if isinstance(value, bool) else str(value)


_READERS: dict[str, Callable[[str], object]] = {
    "required": lambda text: text == "yes",
    "is_value": lambda text: text == "yes",
    "hidden": lambda text: text == "yes",
    "choices": lambda text: tuple(piece.strip() for piece in text.split(",") if piece.strip()),
    "also": lambda text: tuple(piece.strip() for piece in text.split(",") if piece.strip()),
}


def _read(field: str, text: str) -> object:
    return _READERS[field](text) if field in _READERS else text.strip()
