"""What the members of a family have in common: the parts they begin as, columns with what they set, rules."""

from collections.abc import Callable, Sequence
from typing import Any

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRule
from eider.model.item_ref import Ref

replace = msgspec.structs.replace
TARGETS = "pins, name, description, dims.A (a length), fact.Ways, sheet.columns (another input), distance.1 (kept)"
RULES = "Names in braces are columns or facts: OHC-125-{ways|02}R, LYN-R{Size}-{Resistance|code}."


class PlacedEntry(msgspec.Struct, frozen=True):
    """An entry of a list and its place there."""

    place: int
    entry: Any


class DefinitionPanel(QWidget):
    """Three lists; `changed` gives a title and the definition after each change."""

    changed = pyqtSignal(str, object)

    def __init__(self, context: DesktopContext) -> None:
        super().__init__()
        self.definition = FamilyDefinition()
        self.bases = self._table(
            context,
            [
                ("Part", lambda b: b.part.name, lambda b, text: replace(b, part=Ref("", text)), "bases"),
                ("Where the cell is", lambda b: b.when, lambda b, text: replace(b, when=text), "bases"),
            ],
        )
        self.columns = self._table(
            context,
            [
                ("Heading", lambda c: c.heading, lambda c, text: replace(c, heading=text), "columns"),
                ("Sets", lambda c: ", ".join(c.sets), lambda c, text: replace(c, sets=_targets(text)), "columns"),
            ],
        )
        self.rules = self._table(
            context,
            [
                ("Sets", lambda r: r.sets, lambda r, text: replace(r, sets=text), "rules"),
                ("Text", lambda r: r.template, lambda r, text: replace(r, template=text), "rules"),
            ],
        )
        self.chosen_by = QComboBox()
        self.chosen_by.setAccessibleName("The column whose cell chooses the base")
        self.chosen_by.activated.connect(lambda _i: self._choose())
        fill_widget(
            self,
            column(
                row(label("Members begin as", "head"), 1, label("chosen by", "soft"), self.chosen_by),
                growing(self.bases),
                self._tools("bases", self.bases, FamilyBase(Ref("", "PART"))),
                label("Columns", "head"),
                label(f"A column sets, with commas between: {TARGETS}.", "soft", wrap=True),
                growing(self.columns),
                self._tools("columns", self.columns, FamilyColumn("Column")),
                label("Rules", "head"),
                label(RULES, "soft", wrap=True),
                growing(self.rules),
                self._tools("rules", self.rules, FamilyRule("name", "")),
                margins=6,
            ),
        )

    def _table(
        self,
        context: DesktopContext,
        columns: Sequence[tuple[str, Callable[[Any], str], Callable[[Any, str], Any], str]],
    ) -> RecordView[PlacedEntry]:
        def made(
            title: str, show: Callable[[Any], str], change: Callable[[Any, str], Any], field: str
        ) -> Column[PlacedEntry]:
            return Column(
                title,
                lambda r: show(r.entry),
                lambda r, text: self._put(field, r.place, change(r.entry, text.strip())),
                at_end=True,
            )

        table = RecordView[PlacedEntry]([made(*given) for given in columns], context.theme)
        table.set_widths(220)
        return table

    def _tools(self, field: str, table: RecordView[PlacedEntry], plain: Any) -> QWidget:
        return row(
            button("Add", lambda: self._use(field, [*self._entries(field), plain])),
            button("Remove", lambda: self._drop(field, table)),
            1,
        )

    def show_definition(self, definition: FamilyDefinition) -> None:
        """Show this definition."""
        self.definition = definition
        for table, field in ((self.bases, "bases"), (self.columns, "columns"), (self.rules, "rules")):
            table.show_records([PlacedEntry(place, entry) for place, entry in enumerate(self._entries(field))])
        set_choices(self.chosen_by, ["", *(c.heading for c in definition.columns)])
        self.chosen_by.setCurrentText(definition.chosen_by)

    def _entries(self, field: str) -> list[Any]:
        return list(getattr(self.definition, field))

    def _use(self, field: str, entries: Sequence[Any]) -> None:
        made = replace(self.definition, **{field: tuple(entries)})
        if made != self.definition:
            self.changed.emit(f"Change the {field}", made)

    def _put(self, field: str, place: int, entry: Any) -> None:
        entries = self._entries(field)
        entries[place] = entry
        self._use(field, entries)

    def _drop(self, field: str, table: RecordView[PlacedEntry]) -> None:
        gone = {record.place for record in table.selected()}
        self._use(field, [entry for place, entry in enumerate(self._entries(field)) if place not in gone])

    def _choose(self) -> None:
        made = replace(self.definition, chosen_by=self.chosen_by.currentText())
        if made != self.definition:
            self.changed.emit("Choose the base by another column", made)


def _targets(text: str) -> tuple[str, ...]:
    return tuple(piece.strip() for piece in text.split(",") if piece.strip())
