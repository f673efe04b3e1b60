"""Pins: the pin table and the symbol that follows from it."""

from pathlib import Path

import msgspec
from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.commands.datasheets.captured_values import use_pin_reading
from eider.commands.pins.symbol_edits import take_symbol
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.part_dialog import PartDialog
from eider.desktop.part.shared_item_strip import SharedItemStrip
from eider.desktop.part.step import CaptureTarget, ViewStep
from eider.desktop.part.steps.pins.import_panel import ImportPanel
from eider.desktop.part.steps.pins.pin_table import PinTablePanel
from eider.desktop.part.steps.pins.pin_tools import PinTools
from eider.desktop.part.steps.pins.symbol_pane import SymbolPane
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, growing, label, menu_button, panes
from eider.exchange.pin_source import PinSource
from eider.facts.categories import pin_columns
from eider.model.address import Address, PinAddress, pin_number
from eider.model.bundle import Bundle
from eider.model.wording import counted
from eider.services.publishing.format_registry import pin_file_patterns, read_pin_file
from eider.symbols.pin_columns import left_out_words
from eider.symbols.pin_table import PinReading, read_pins, split_table
from eider.views.steps.pins import PinsOptions, PinsView

# Columns of the pin table that a click in the datasheet can fill.
TAKEN = ("number", "name", "description")


class PinsStep(ViewStep[PinsView]):
    """Paste, import and edit pins; the symbol is arranged by number or by function."""

    key = "pins"
    view_type = PinsView

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.pins = PinTablePanel(controller, context)
        self.table = self.pins.view
        self.tools = PinTools(self.pins, controller, context)
        self.pins.whole_pasted.connect(self.paste)
        self._count = label("", "soft")
        self.pane = SymbolPane(controller, context, self.pins.numbers)
        self.symbol, self.units = self.pane.view, self.pane.units
        self.pane.pin_clicked.connect(self.show_address)
        self.pane.options_changed.connect(self.choose)
        self.pane.group_wanted.connect(lambda address: self.pins.take_group(pin_number(address)))
        self.pins.chosen.connect(self.pane.light)
        # The keys that move pins work in the table too.
        self.addActions(self.pane.actions())
        self.strip = SharedItemStrip("symbol", controller, context.jobs)
        tools = flow(
            button("Add a pin", self.tools.add),
            button("Remove", self.tools.remove),
            button("Confirm types", self.tools.confirm),
            button("Import…", self._choose),
            menu_button(
                "From a part", {"Copy its pins…": self._choose_part, "Copy its whole symbol…": self._choose_symbol}
            ),
        )
        self.panel = ImportPanel(context.theme)
        self.panel.hide()
        self.panel.taken.connect(self._take_reading)
        pins = column(growing(self.pins), self.tools.buttons(), margins=0)
        tables = panes(pins, self.panel, sizes=(300, 240), vertical=True)
        head = flow(label("Pin table", "head"), self._count, self.tools.search_row())
        middle = column(head, growing(tables), tools)
        self.build(column(self.strip, growing(panes(middle, self.pane, sizes=(700, 540))), margins=0))

    def first(self) -> QWidget:
        return self.table

    def show_view(self, view: PinsView) -> None:
        self.pins.show_pins(view)
        self.strip.refresh()
        self._count.setText(view.count_words)
        self.pane.show_view(view)

    def options(self) -> PinsOptions:
        return self.pane.options()

    def target(self, _field: QWidget | None) -> CaptureTarget | None:
        pin, what = self.pins.pin(), self.pins.field()
        if pin is None or what not in TAKEN:
            return None
        return CaptureTarget(PinAddress(pin.number, what), f"{what} of pin {pin.number}", "text")

    def next_field(self) -> None:
        current = self.table.currentIndex()
        below = self.table.records.index(current.row() + 1, current.column())
        if below.isValid():
            self.table.setCurrentIndex(below)

    def show_address(self, address: Address) -> None:
        number = pin_number(address)
        # A pin that is selected with others stays so: they may be dragged together.
        if number not in self.pins.numbers():
            self.table.select_where(lambda pin: pin.number == number)

    def paste(self, text: str) -> None:
        """Take a pasted table in place of the pins there are; where its headings do not say all, ask first."""
        rows = split_table(text)
        reading = read_pins(rows)
        if not reading.pins:
            self.context.said.emit("The clipboard holds no pin table. Copy one line per pin, with its number and name.")
        elif reading.faults or not {"number", "name"} <= set(reading.columns):
            self.panel.begin([PinSource("clipboard", reading, tuple(tuple(r) for r in rows))], "pasted")
        else:
            self._take_reading(reading, "pasted")

    def _take_reading(self, reading: PinReading, origin: str) -> None:
        """Put pins in place of those there are."""
        title = f"Import {counted(len(reading.pins), 'pin')}: {origin}"
        columns = pin_columns(self.controller.library.settings, self.controller.bundle.part.category)
        self.controller.edit(title, lambda b: use_pin_reading(b, reading, origin, columns))
        told = [f"{counted(len(reading.pins), 'pin')} imported"]
        told += [f"line {fault.line}: {fault.message}" for fault in reading.faults[:3]]
        told += left_out_words(reading.pins, columns)
        self.context.said.emit("; ".join(told))

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Import pins", str(self.controller.library.folder.parent), f"Pins ({pin_file_patterns()})"
        )
        if name:
            self.import_file(Path(name))

    def import_file(self, path: Path) -> None:
        """Show what a file holds, and take it over when the user says so."""

        def done(sources: list[PinSource]) -> None:
            self.panel.begin(sources, path.name)

        self.jobs.run("compute", lambda: read_pin_file(path), done, lambda fault: self.context.said.emit(str(fault)))

    def _choose_part(self) -> None:
        self.dialog = PartDialog("Copy the pins of another part", self.controller, self.context, self._from_part, self)
        self.dialog.open()

    def _choose_symbol(self) -> None:
        def take(other: Bundle) -> None:
            self.controller.edit(f"Copy the symbol of {other.part.name}", lambda b: take_symbol(b, other.symbol))

        self.dialog = PartDialog("Copy the symbol of another part", self.controller, self.context, take, self)
        self.dialog.open()

    def _from_part(self, other: Bundle) -> None:
        pins = tuple(msgspec.structs.replace(p, evidence=None, former=None, former_text="") for p in other.symbol.pins)
        reading = PinReading(pins, (), {}, tuple(range(1, len(pins) + 1)))
        self.panel.begin([PinSource(other.part.name, reading)], f"symbol of {other.part.name}")
