"""Pins: the pin table and the symbol that follows from it."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import msgspec
from PyQt6.QtWidgets import QButtonGroup, QComboBox, QFileDialog, QLineEdit, QMenu, QPushButton, QTabBar, QWidget

from eider.desktop.canvas import DrawingView
from eider.desktop.controller import PartController
from eider.desktop.import_panel import ImportPanel
from eider.desktop.part_dialog import PartDialog
from eider.desktop.steps.base import Shared, Step, Target
from eider.desktop.table import Column, RecordView
from eider.desktop.widgets import button, column, growing, label, panes, row
from eider.drawings.findings import with_balloons
from eider.drawings.symbol import symbol_drawing, unit_drawing
from eider.evidence.held import PIN
from eider.exchange.pins.files import PATTERNS, read_pin_file
from eider.exchange.pins.source import PinSource
from eider.model.bundle import Bundle
from eider.model.symbol import PIN_TYPES, Pin
from eider.symbols.graphics import FORMS, all_graphics, has_forms
from eider.symbols.pin_table import PinReading, make_pin, read_pins, split_table
from eider.symbols.quality import quality
from eider.workbench import edits
from eider.workbench.capturing import take_reading
from eider.workbench.pin_edits import (
    GROUPINGS,
    NUMBERINGS,
    fill_down,
    fill_series,
    group_pins,
    number_pins,
    replace_text,
    sort_pins,
)  # fmt: skip

HINT = (
    "No pins yet. Copy the pin table in a spreadsheet and press Ctrl+V in the table, import a file, or draw a "
    "rectangle round the table in the datasheet (F4)."
)
# Columns of the pin table that a click in the datasheet can fill.
TAKEN = {0: "number", 1: "name", 8: "description"}
# What each column is in the document, for changes to many rows.
FIELDS = ("number", "name", "type", "assumed", "active_low", "group", "unit", "side", "description")
SIDES = ("", "left", "right", "top", "bottom")
WAYS = {"one": "one unit", "equal": "equal units", "group": "by group", "supply": "supply apart"}


class PinsStep(Step):
    """Paste, import and edit pins; the symbol is arranged by number or by function."""

    key = "pins"

    def __init__(self, controller: PartController, shared: Shared) -> None:
        super().__init__(controller, shared)
        self.table = RecordView(
            [
                Column("Pin", lambda p: p.number, self._setter("number"), number=True),
                Column("Name", lambda p: p.name, self._setter("name")),
                Column("Type", lambda p: p.type, self._set_type, choices=lambda _p: PIN_TYPES,
                       fault=lambda p: "undecided" if p.type == "undecided" else ""),
                Column("Doubt", lambda p: "assumed" if p.assumed else "", self._set_assumed,
                       choices=lambda _p: ("", "assumed")),
                Column("Active low", lambda p: "yes" if p.active_low else "", self._set_low,
                       choices=lambda _p: ("", "yes")),
                Column("Group", lambda p: p.group, self._setter("group")),
                Column("Unit", lambda p: p.unit, self._setter("unit")),
                Column("Side", lambda p: p.side, self._set_side, choices=lambda _p: SIDES),
                Column("Description", lambda p: p.description, self._setter("description")),
            ],
            shared.theme,
        )  # fmt: skip
        self.table.takes_rows = True
        self.table.rows_pasted.connect(self.paste)
        self.table.set_widths(52, 100, 112, 66, 76, 74, 40, 52)
        header = self.table.horizontalHeader()
        if header is not None:
            header.setSectionsClickable(True)
            header.sectionDoubleClicked.connect(self._sort)
        self.table.edited.connect(controller.session.end_merge)
        self.table.entered_record.connect(lambda _pin: self._draw())
        self._count = label("", "soft")
        self.symbol = DrawingView(shared.theme, HINT)
        self.symbol.pointed.connect(shared.point)
        self.symbol.place_clicked.connect(self.show_place)
        self._by = QButtonGroup(self)
        ways = []
        for name, title in (("number", "By number"), ("function", "By function")):
            way = button(title, lambda n=name: self._arrange(n), checkable=True)
            self._by.addButton(way)
            way.setObjectName(name)
            ways.append(way)
        tools = row(
            button("Add a pin", self._add),
            button("Remove", self._remove),
            button("Confirm types", self._confirm),
            button("Import …", self._choose),
            button("From a part …", self._choose_part),
            1,
            self._count,
        )
        self.panel = ImportPanel(shared.theme)
        self.panel.hide()
        self.panel.taken.connect(self._take_reading)
        tables = panes(self.table, self.panel, sizes=(300, 240), vertical=True)
        middle = column(label("Pin table", "head"), growing(tables), tools)
        middle.layout().addWidget(self._tools_for_many())
        right = self._symbol_pane(ways)
        self.build(panes(middle, right, sizes=(700, 540)))

    def _tools_for_many(self) -> QWidget:
        """What changes many pins at once."""
        self._find, self._put = QLineEdit(), QLineEdit()
        self._find.setPlaceholderText("find")
        self._put.setPlaceholderText("put in its place")
        return row(
            button("Fill down", lambda: self._many(fill_down)),
            button("Go on counting", lambda: self._many(fill_series)),
            self._menu_button("Number", {way: partial(self._number, way) for way in NUMBERINGS}),
            self._menu_button("Group by", {rule: partial(self._group, rule) for rule in GROUPINGS}),
            self._find,
            self._put,
            button("Replace", self._replace),
        )

    def _symbol_pane(self, ways: list[QPushButton]) -> QWidget:
        """The symbol with what decides how it is drawn."""
        self.units = QTabBar()
        self.units.setExpanding(False)
        self.units.currentChanged.connect(lambda _i: self._draw())
        self._split = QComboBox()
        # A list of actions: what the units are stands in the table and on the tabs.
        self._split.addItem("split into …", "")
        for way, title in WAYS.items():
            self._split.addItem(title, way)
        self._split.activated.connect(lambda _i: self._split_units())
        self._graphic, self._form = QComboBox(), QComboBox()
        self._graphic.addItem("box", "")
        for key, graphic in all_graphics().items():
            self._graphic.addItem(graphic.title, key)
        for form in FORMS:
            self._form.addItem(form.upper(), form)
        for choice in (self._graphic, self._form):
            choice.activated.connect(lambda _i: self._set_graphic())
        self._graphic.setMaximumWidth(170)
        # Besides those of the list, keys with numbers can be typed: connector-pins/2x5, transformer/1|0,0, nor/4.
        self._graphic.setEditable(True)
        self._graphic.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self._graphic.setToolTip(
            "or type one with numbers: connector-pins/2x5, connector-sockets/1x4, transformer/1|0,0, nor/4"
        )
        typed = self._graphic.lineEdit()
        if typed is not None:
            typed.returnPressed.connect(self._set_graphic)
        self._quality = label("", "soft")
        return column(
            row(label("Symbol", "head"), self._graphic, self._form, 1, *ways),
            row(self._split, growing(self.units)),
            growing(self.symbol),
            self._quality,
        )

    def first(self) -> QWidget:
        return self.table

    def refresh(self) -> None:
        super().refresh()
        symbol = self.controller.bundle.symbol
        self.table.show_records(symbol.pins)
        wanted = self.controller.bundle.sheet.pins
        self._count.setText(f"{len(symbol.pins)} pins, the package has {wanted}")
        for way in self._by.buttons():
            way.setChecked(way.objectName() == symbol.arrangement)
            way.setEnabled(not symbol.graphic)
        index = self._graphic.findData(symbol.graphic)
        self._graphic.setCurrentIndex(index)
        if index < 0:
            self._graphic.setEditText(symbol.graphic)
        self._form.setCurrentIndex(self._form.findData(symbol.measures.form))
        self._form.setVisible(bool(symbol.graphic) and has_forms(symbol.graphic))
        self._show_units()
        self._draw()

    def _show_units(self) -> None:
        """A tab for all units and one for each, where there are several."""
        names = [unit.name for unit in self.controller.bundle.symbol.units]
        titles = ["all", *names] if len(names) > 1 else []
        if titles != [self.units.tabText(i) for i in range(self.units.count())]:
            while self.units.count():
                self.units.removeTab(0)
            for title in titles:
                self.units.addTab(title)
        self.units.setVisible(bool(titles))

    def _draw(self) -> None:
        bundle = self.controller.bundle
        symbol, name = bundle.symbol, bundle.part.name
        pin: Pin | None = self.table.record()
        lit = (pin.number,) if pin else ()
        index = self.units.currentIndex() - 1
        if 0 <= index < len(symbol.units):
            drawing = unit_drawing(symbol, index, name, lit)
        else:
            drawing = symbol_drawing(symbol, name, lit) if symbol.units else None
        self.symbol.show_drawing(with_balloons(drawing, self.controller.findings) if drawing else None)
        shown = symbol.units[max(index, 0)] if symbol.units and not symbol.graphic else None
        self._quality.setText(quality(shown, symbol.pins).words if shown else "")

    def target(self, _field: QWidget | None) -> Target | None:
        pin: Pin | None = self.table.record()
        what = TAKEN.get(self.table.currentIndex().column())
        if pin is None or what is None:
            return None
        return Target(f"{PIN}{pin.number}.{what}", f"{what} of pin {pin.number}", "text")

    def next_field(self) -> None:
        current = self.table.currentIndex()
        below = self.table.records.index(current.row() + 1, current.column())
        if below.isValid():
            self.table.setCurrentIndex(below)

    def show_place(self, place: str) -> None:
        number = place.removeprefix("symbol.pins.")
        self.table.select_where(lambda pin: pin.number == number)

    def paste(self, text: str) -> None:
        """Take a pasted table in place of the pins there are; where its headings do not say all, ask first."""
        rows = split_table(text)
        reading = read_pins(rows)
        if not reading.pins:
            self.shared.say(
                "there is no pin table on the clipboard: expected a line for each pin, with number and name"
            )
        elif reading.faults or not {"number", "name"} <= set(reading.columns):
            self.panel.begin([PinSource("clipboard", reading, tuple(tuple(r) for r in rows))], "pasted")
        else:
            self._take_reading(reading, "pasted")

    def _take_reading(self, reading: PinReading, origin: str) -> None:
        """Put pins in place of those there are."""
        title = f"Take {len(reading.pins)} pins: {origin}"
        self.controller.edit(title, lambda b: take_reading(b, reading, origin))
        faults = "; ".join(f"line {fault.line}: {fault.message}" for fault in reading.faults[:3])
        self.shared.say(f"{len(reading.pins)} pins taken over" + (f"; {faults}" if faults else ""))

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Import pins", str(self.controller.library.folder.parent), f"Pins ({PATTERNS})"
        )
        if name:
            self.import_file(Path(name))

    def import_file(self, path: Path) -> None:
        """Show what a file holds, and take it over when the user says so."""

        def done(sources: list[PinSource]) -> None:
            self.panel.begin(sources, path.name)

        self.jobs.run("compute", lambda: read_pin_file(path), done, lambda fault: self.shared.say(str(fault)))

    def _choose_part(self) -> None:
        self.dialog = PartDialog("Pins of another part", self.controller, self.shared, self._from_part, self)
        self.dialog.open()

    def _from_part(self, other: Bundle) -> None:
        pins = tuple(msgspec.structs.replace(p, evidence=None, former=None, former_text="") for p in other.symbol.pins)
        reading = PinReading(pins, (), {}, tuple(range(1, len(pins) + 1)))
        self.panel.begin([PinSource(other.part.name, reading)], f"symbol of {other.part.name}")

    def _change(self, pin: Pin, what: str, changed: Pin) -> None:
        pins = self.controller.bundle.symbol.pins
        index = next((i for i, p in enumerate(pins) if p is pin or p == pin), None)
        row_index = index if index is not None else self.table.currentIndex().row()
        self.controller.edit(
            f"Change pin {pin.number}", lambda b: edits.change_pin(b, row_index, changed), f"pin:{row_index}:{what}"
        )

    def _setter(self, what: str) -> Callable[[Any, str], None]:
        def put(pin: Pin, text: str) -> None:
            if what == "name" and pin.type == "undecided":
                # A name typed anew proposes its type, as a pasted one does.
                guess, _ = make_pin(pin.number, text)
                self._change(
                    pin, what, msgspec.structs.replace(pin, name=text.strip(), type=guess.type, assumed=guess.assumed)
                )
                return
            self._change(pin, what, msgspec.structs.replace(pin, **{what: text.strip()}))

        return put

    def _set_type(self, pin: Pin, text: str) -> None:
        if text in PIN_TYPES:
            self._change(pin, "type", msgspec.structs.replace(pin, type=text, assumed=False))
        else:
            self.shared.say(f"“{text}” is no electrical type; take one of {', '.join(PIN_TYPES)}")

    def _set_assumed(self, pin: Pin, text: str) -> None:
        self._change(pin, "assumed", msgspec.structs.replace(pin, assumed=text == "assumed"))

    def _set_low(self, pin: Pin, text: str) -> None:
        self._change(pin, "low", msgspec.structs.replace(pin, active_low=text == "yes"))

    def _set_side(self, pin: Pin, text: str) -> None:
        self._change(pin, "side", msgspec.structs.replace(pin, side=text))

    def _set_graphic(self) -> None:
        text, form = self._graphic.currentText().strip(), self._form.currentData()
        index = self._graphic.findText(text)
        graphic = str(self._graphic.itemData(index)) if index >= 0 else text
        self.controller.edit(f"Draw {self._graphic.currentText()}", lambda b: edits.set_graphic(b, graphic, form))
        self.refresh()

    def _split_units(self) -> None:
        way = str(self._split.currentData())
        self._split.setCurrentIndex(0)
        if way:
            self.controller.edit(f"Units: {WAYS[way]}", lambda b: edits.split_units(b, way))

    def _many(self, change: Callable[[Any, list[int], str], Any]) -> None:
        """A change to the selected cells of one column."""
        rows, field = self._selection()
        self.controller.edit("Change pins", lambda b: change(b, rows, field))

    def _menu_button(self, title: str, choices: dict[str, Callable[[], None]]) -> QPushButton:
        made = QPushButton(title)
        menu = QMenu(made)
        for text, run in choices.items():
            action = menu.addAction(text)
            if action is not None:
                action.triggered.connect(lambda _checked, run=run: run())
        made.setMenu(menu)
        return made

    def _all_or_selected(self) -> list[int]:
        """The selected rows; with fewer than two, all."""
        rows, _ = self._selection()
        return rows if len(rows) > 1 else list(range(len(self.controller.bundle.symbol.pins)))

    def _number(self, way: str) -> None:
        rows = self._all_or_selected()
        columns = max(round(len(rows) ** 0.5), 1)
        self.controller.edit(f"Number pins: {way}", lambda b: number_pins(b, rows, way, columns))

    def _group(self, rule: str) -> None:
        rows = self._all_or_selected()
        self.controller.edit(f"Group pins by {rule}", lambda b: group_pins(b, rows, rule))

    def _replace(self) -> None:
        rows, field = self._selection()
        find, put = self._find.text(), self._put.text()
        found: list[int] = []

        def change(bundle: Bundle) -> Bundle:
            made, count = replace_text(bundle, rows, field, find, put)
            found.append(count)
            return made

        self.controller.edit(f"Replace “{find}”", change)
        if found:
            self.shared.say(f"replaced in {found[-1]} pins")

    def _selection(self) -> tuple[list[int], str]:
        """The selected rows from the top, and the column in hand."""
        current = self.table.currentIndex()
        rows = sorted({index.row() for index in self.table.selectedIndexes()})
        return rows, FIELDS[max(current.column(), 0)]

    def _sort(self, section: int) -> None:
        self.controller.edit(f"Sort pins by {FIELDS[section]}", lambda b: sort_pins(b, FIELDS[section]))

    def _add(self) -> None:
        pins = self.controller.bundle.symbol.pins
        numbers = [int(pin.number) for pin in pins if pin.number.isdecimal()]
        pin = Pin(str(max(numbers, default=0) + 1))
        self.controller.edit(f"Add pin {pin.number}", lambda b: edits.set_pin_table(b, (*pins, pin)))

    def _remove(self) -> None:
        gone = {pin.number for pin in self.table.selected()}
        kept = [pin for pin in self.controller.bundle.symbol.pins if pin.number not in gone]
        self.controller.edit(f"Remove {len(gone)} pins", lambda b: edits.set_pin_table(b, kept))

    def _confirm(self) -> None:
        chosen = {pin.number for pin in self.table.selected()}
        pins = [
            msgspec.structs.replace(p, assumed=False) if not chosen or p.number in chosen else p
            for p in self.controller.bundle.symbol.pins
        ]
        self.controller.edit("Confirm types", lambda b: edits.set_pin_table(b, pins))

    def _arrange(self, way: Any) -> None:
        self.controller.edit(f"Arrange by {way}", lambda b: edits.set_arrangement(b, way))
