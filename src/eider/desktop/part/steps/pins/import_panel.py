"""Pins from elsewhere before they are taken: which package or sheet, what each column is, what could not be read."""

from collections.abc import Sequence
from typing import NamedTuple

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QTableWidget, QTableWidgetItem, QTabWidget, QWidget

from eider.datasheets.tables.pin_tables import ROLES
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.exchange.pin_source import PinSource
from eider.model.symbol import Pin
from eider.model.wording import counted
from eider.symbols.pin_table import PinReading, read_pins

LEFT_OUT = ROLES[-1]
# Rows of cells that are shown for assigning columns; all are taken.
MOST_SHOWN = 200


class ImportLine(NamedTuple):
    """A pin as it would come in, or a line that does not."""

    line: int
    number: str
    name: str
    active_low: bool
    type: str
    more: str
    fault: str


class ImportPanel(QWidget):
    """Shows sources of pins; `taken` gives the reading that the user wants, with where it came from."""

    taken = pyqtSignal(object, str)
    closed = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._sources: list[PinSource] = []
        self._origin = ""
        self.reading: PinReading | None = None
        self._about = label("", "soft")
        self._choice = QComboBox()
        self._choice.activated.connect(lambda _i: self._show())
        self.table = RecordView[ImportLine](
            [
                Column("Line", lambda r: str(r.line), number=True),
                Column("Pin", lambda r: r.number, number=True),
                Column("Name", lambda r: r.name, fault=lambda r: r.fault),
                Column("Active low", lambda r: "yes" if r.active_low else ""),
                Column("Type", lambda r: r.type),
                Column("Description", lambda r: r.more, fault=lambda r: r.fault),
            ],
            theme,
        )
        self.table.set_widths(46, 52, 120, 76, 130)
        self.cells = QTableWidget()
        self.cells.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self._tabs = QTabWidget()
        self._tabs.addTab(self.table, "Pins")
        self._tabs.addTab(self.cells, "Columns")
        self.take_button = button("Use these values", self._take, main=True)
        head = row(
            label("Pins from", "head"), self._choice, self._about, 1, button("Close", self._close), self.take_button
        )
        fill_widget(self, column(head, growing(self._tabs), margins=4, spacing=4))

    def begin(self, sources: Sequence[PinSource], origin: str) -> None:
        """Show what a file, the clipboard or another part holds."""
        self._sources, self._origin = list(sources), origin
        self._choice.clear()
        self._choice.addItems([s.title for s in self._sources])
        first = next((i for i, s in enumerate(self._sources) if s.reading.pins), 0)
        self._choice.setCurrentIndex(first)
        self._show()
        self.show()

    def _show(self) -> None:
        source = self._sources[self._choice.currentIndex()]
        self._tabs.setTabVisible(1, bool(source.rows))
        self._show_cells(source)
        self._show_reading(source.reading)

    def _show_reading(self, reading: PinReading) -> None:
        self.reading = reading
        lines = [
            ImportLine(line, p.number, p.name, p.active_low, _typed(p), _about(p), "")
            for line, p in zip(reading.lines, reading.pins, strict=True)
        ]
        lines += [ImportLine(f.line, "", f.message, False, "", f.message, f.message) for f in reading.faults]
        self.table.show_records(sorted(lines, key=lambda r: (not r.fault, r.line)))
        odd = len(reading.faults)
        lost = f", {counted(odd, 'doubt')}" if odd else ""
        self._about.setText(f"{self._origin}: {counted(len(reading.pins), 'pin')}{lost}")
        self.take_button.setEnabled(bool(reading.pins))

    def _show_cells(self, source: PinSource) -> None:
        rows = source.rows[:MOST_SHOWN]
        width = max((len(r) for r in rows), default=0)
        self.cells.clear()
        self.cells.setColumnCount(width)
        self.cells.setRowCount(len(rows) + 1 if rows else 0)
        known = {index: what for what, index in source.reading.columns.items()}
        for place in range(width):
            box = QComboBox()
            box.addItems(list(ROLES))
            box.setCurrentText(known.get(place, LEFT_OUT))
            box.activated.connect(lambda _index: self._reassign())
            self.cells.setCellWidget(0, place, box)
        for down, texts in enumerate(rows, start=1):
            for across, text in enumerate(texts):
                self.cells.setItem(down, across, QTableWidgetItem(text))

    def _reassign(self) -> None:
        """Read the cells again with the columns that the user says; of two that say the same the first counts."""
        columns: dict[str, int] = {}
        for place in range(self.cells.columnCount()):
            box = self.cells.cellWidget(0, place)
            what = box.currentText() if isinstance(box, QComboBox) else LEFT_OUT
            if what != LEFT_OUT:
                columns.setdefault(what, place)
        source = self._sources[self._choice.currentIndex()]
        self._show_reading(read_pins(source.rows, columns))

    def _take(self) -> None:
        if self.reading is not None:
            self.taken.emit(self.reading, self._origin)
        self._close()

    def _close(self) -> None:
        self.hide()
        self.closed.emit()


def _typed(pin: Pin) -> str:
    return f"{pin.type} (assumed)" if pin.assumed else pin.type


def _about(pin: Pin) -> str:
    return " · ".join(filter(None, (*pin.alternatives, pin.description)))
