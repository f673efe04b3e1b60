"""Categories: their facts and templates, with examples and what a change would do to the parts that are there."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import get_args

import msgspec
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLabel, QLineEdit, QListWidget, QTabWidget, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.desktop.widgets.undo_stack import UndoStack
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.library.settings.category_settings import category_fault, save_categories
from eider.model.library import Category, FactField, FactKind
from eider.model.wording import counted
from eider.views.category_effects import CategoryEffects, TemplateExample, category_effects, template_example

replace = msgspec.structs.replace
# One list of kinds: those that can be read.
KINDS = get_args(FactKind)
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


TITLE_WIDTH = 150
MOST_PARTS = 50_000
# What is typed of a category besides its facts: field, title, what is in an empty one.
FIELDS = (
    ("title", "Title", ""),
    ("reference", "Reference letter", "as the parent"),
    ("graphic", "Graphic", "as the parent"),
    ("description", "Description from facts", "{Resistance} {Tolerance} {Package}"),
    ("part_name", "Name from facts", "LYN-R{Package}-{Resistance|code}"),
    ("name_pattern", "Names follow", "a regular expression"),
    ("name_example", "Naming rule in words", ""),
)


class _Effects(msgspec.Struct, frozen=True):
    effects: CategoryEffects
    example: TemplateExample | None


class CategoriesPage(SidePage):
    """The categories of the library; nothing is kept before *Save*."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.before = dict(library.settings.categories)
        self.categories = dict(self.before)
        self.steps = UndoStack[dict[str, Category]](lambda: self.categories, self._go_to)
        self._rows: Sequence[PartRow] = ()
        self._asked = 0
        fill_widget(self, panes(self._left(), self._middle(), self._right(), sizes=(180, 760, 330)))
        self._fill_list()
        self.jobs.run("library", lambda: library.find_parts("", limit=MOST_PARTS).rows, self._know_parts)

    def _left(self) -> QWidget:
        self.names = QListWidget()
        self.names.setAccessibleName("Categories of the library")
        self.names.currentTextChanged.connect(lambda _text: self._show())
        self.new_key = QLineEdit()
        self.new_key.setPlaceholderText("Key, such as thermistor")
        self.new_key.returnPressed.connect(self._begin)
        return column(
            button("← Shelf", self.closed.emit),
            label("Categories", "head"),
            growing(self.names),
            self.new_key,
            row(button("Create", self._begin), button("Remove", self._remove), 1),
        )

    def _middle(self) -> QWidget:
        self.editors = {field: QLineEdit() for field, _, _ in FIELDS}
        for field, _title, hint in FIELDS:
            self.editors[field].setPlaceholderText(hint)
            self.editors[field].editingFinished.connect(partial(self._put_text, field))
        self.parent_box = QComboBox()
        self.parent_box.activated.connect(lambda _i: self._change("parent", str(self.parent_box.currentData() or "")))
        lines = [row(_field_title(title), self.editors[field]) for field, title, _ in FIELDS]
        lines.insert(1, row(_field_title("Inherits from"), self.parent_box, 1))
        self.fact_fields = FactFieldTable(self.context)
        self.fact_fields.changed.connect(partial(self._change, "facts"))
        self.pin_columns = FactFieldTable(self.context, "column")
        for place, column_of_table in enumerate(self.pin_columns.table.records.columns):
            # A pin has no value in the circuit, and none of its columns has to be filled in.
            self.pin_columns.table.setColumnHidden(place, column_of_table.title in ("Required", "Value", "Hidden"))
        self.pin_columns.changed.connect(partial(self._change, "pin_columns"))
        self.tabs = QTabWidget()
        self.tabs.addTab(self.fact_fields, "Facts")
        self.tabs.addTab(self.pin_columns, "Columns of the pin table")
        self.fault = label("", "wrong", wrap=True)
        return column(*lines, growing(self.tabs), self.fault)

    def _right(self) -> QWidget:
        self.example = label("", wrap=True)
        self.summary = label("", "head", wrap=True)
        self.effects = QListWidget()
        self.effects.setAccessibleName("Parts that would change")
        self.effects.setWordWrap(True)
        self.effects.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.note = QLineEdit()
        self.note.setPlaceholderText("Why the categories change")
        self.note.returnPressed.connect(self.keep)
        self.keep_button = button("Save", self.keep, main=True)
        return column(
            label("Example", "head"),
            self.example,
            self.summary,
            growing(self.effects),
            self.note,
            self.keep_button,
        )

    def unsaved(self) -> str:
        changed = [k for k in {**self.before, **self.categories} if self.before.get(k) != self.categories.get(k)]
        return f"Categories: {counted(len(changed), 'changed category', 'changed categories')}" if changed else ""

    @property
    def key(self) -> str:
        """The key of the selected category."""
        item = self.names.currentItem()
        return item.text() if item else ""

    def _fill_list(self, chosen: str = "") -> None:
        self.names.blockSignals(True)
        self.names.clear()
        self.names.addItems(list(self.categories))
        keys = list(self.categories)
        self.names.setCurrentRow(keys.index(chosen) if chosen in keys else 0)
        self.names.blockSignals(False)
        self._show()

    def _show(self) -> None:
        category = self.categories.get(self.key)
        if category is None:
            return
        for field, editor in self.editors.items():
            editor.setText(getattr(category, field))
        self.parent_box.clear()
        self.parent_box.addItem("nothing", "")
        for key, other in self.categories.items():
            if key != self.key:
                self.parent_box.addItem(other.title, key)
        self.parent_box.setCurrentIndex(max(self.parent_box.findData(category.parent), 0))
        self.fact_fields.show_facts(category.facts)
        self.pin_columns.show_facts(category.pin_columns)
        settings = replace(self.library.settings, categories=self.categories)
        fault = category_fault(settings, self.key)
        self.fault.setText(f"{category.title}: {fault}" if fault else "")
        self.keep_button.setEnabled(self.categories != self.before and not fault and not self.library.read_only)
        self._ask_effects()

    def _know_parts(self, rows: Sequence[PartRow]) -> None:
        self._rows = rows
        self._ask_effects()

    def _ask_effects(self) -> None:
        self._asked += 1
        number, settings, rows, key = self._asked, self.library.settings, self._rows, self.key
        categories, before = dict(self.categories), replace(self.library.settings, categories=self.before)

        def work() -> _Effects:
            return _Effects(
                category_effects(before, categories, rows), template_example(settings, categories, key, rows)
            )

        def done(found: _Effects) -> None:
            if number == self._asked:
                self._tell(found)

        self.jobs.run("rules", work, done)

    def _tell(self, found: _Effects) -> None:
        example = found.example
        if example is None:
            self.example.setText("No part of the library has this category yet.")
        else:
            lines = (("Description", example.description), ("Name", example.name))
            told = "\n".join(f"{title}: {text}" for title, text in lines if text)
            self.example.setText(f"{example.part}\n{told or 'Enter a template to see how it reads.'}")
        self.summary.setText(found.effects.summary if self.categories != self.before else "Nothing is changed yet.")
        self.effects.clear()
        self.effects.addItems(list(found.effects.lines))

    def _edit(self, title: str, made: dict[str, Category], chosen: str = "") -> None:
        if made != self.categories:
            self.steps.change(title, made)
            if chosen:
                self._fill_list(chosen)

    def _go_to(self, categories: dict[str, Category]) -> None:
        self.categories = categories
        self._fill_list(self.key)

    def _change(self, field: str, value: object) -> None:
        category = self.categories.get(self.key)
        if category is not None:
            self._edit(f"Change {self.key}", {**self.categories, self.key: replace(category, **{field: value})})

    def _put_text(self, field: str) -> None:
        self._change(field, self.editors[field].text().strip())

    def _begin(self) -> None:
        key = self.new_key.text().strip()
        if key and key not in self.categories:
            self.new_key.clear()
            parent = self.key
            self._edit(f"Create {key}", {**self.categories, key: Category(key.capitalize(), parent=parent)}, key)

    def _remove(self) -> None:
        self._edit(f"Remove {self.key}", {key: c for key, c in self.categories.items() if key != self.key})

    def keep(self) -> None:
        """Save the categories with the note."""
        library, categories, before, note = self.library, dict(self.categories), self.before, self.note.text()

        def done(_none: object) -> None:
            self.before = categories
            self.note.clear()
            self.context.said.emit("Categories saved")
            self._show()
            self.kept.emit()

        self.jobs.run(
            "library",
            lambda: save_categories(library, categories, note, replaces=before),
            done,
            lambda fault: self.fault.setText(str(fault)),
        )


def _field_title(text: str) -> QLabel:
    made = label(text, "soft")
    made.setFixedWidth(TITLE_WIDTH)
    return made
