"""The tables in which a capture is shown: dimensions with what their letters mean, and pins."""

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from typing import Any, NamedTuple

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QTableWidget, QTableWidgetItem, QWidget

from eider.datasheets.tables.dimension_columns import ROLES as DIMENSION_ROLES
from eider.datasheets.tables.dimension_columns import ColumnRole as Role
from eider.datasheets.tables.pin_tables import ROLES as PIN_ROLES
from eider.datasheets.tables.table_capture import TableCapture
from eider.desktop.context import DesktopContext
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, label
from eider.desktop.widgets.record_table import Column, RecordView
from eider.drawings.highlighting import highlighted
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.packages.letters.letter_questions import LetterQuestion
from eider.views.captured_outline import CapturedOutline, captured_outline


class LetterQuestionBar(QWidget):
    """Hidden while nothing is to be asked; `answered` gives the letter and the standard's letter, empty for none."""

    answered = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self._layout = QHBoxLayout(self)
        self._layout.setContentsMargins(0, 2, 0, 2)
        self.question: LetterQuestion | None = None
        self.hide()

    def ask(self, question: LetterQuestion | None) -> None:
        """Show a question in place of the one before; None asks nothing."""
        self.question = question
        while (item := self._layout.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        if question is not None:
            self._layout.addWidget(label(question.text))
            for answer in question.answers:
                title = answer.words[:1].upper() + answer.words[1:]
                choose = button(title, partial(self.answered.emit, question.letter, answer.standard))
                choose.setToolTip(f"{question.letter} means {answer.standard}" if answer.standard else "")
                self._layout.addWidget(choose)
            self._layout.addStretch(1)
        self.setVisible(question is not None)


class CapturedOutlineView(DrawingView):
    """Shows the newest wish; what was drawn for an older one is dropped."""

    def __init__(self, context: DesktopContext) -> None:
        super().__init__(context.theme, "The package is drawn here as these letters define it.", context.jobs)
        self._context, self._lane = context, context.jobs.owned(self)
        self._number = 0
        self._outline: CapturedOutline | None = None
        self._letter = ""

    def show_capture(self, bundle: Bundle, found: TableCapture, letters: Mapping[str, str], member: str) -> None:
        """Draw the package as these letters define it."""
        self._number += 1
        number, unit, chosen = self._number, self._context.unit, dict(letters)

        def done(made: CapturedOutline) -> None:
            if number == self._number:
                self._outline = made
                self._show()

        self._lane.run("compute", lambda: captured_outline(bundle, found, chosen, member, unit), done)

    def highlight(self, letter: str) -> None:
        """Highlight the dimension of the selected row; an empty letter highlights none."""
        self._letter = letter
        self._show()

    def _show(self) -> None:
        if self._outline is None:
            return
        if self._outline.fault:
            self.set_hint(self._outline.fault)
        drawing = self._outline.drawing_of(self._letter)
        address = DimensionAddress(self._letter) if self._letter else None
        self.show_drawing(highlighted(drawing, address) if drawing else None)


LEFT_OUT = "Excluded"


class CaptureColumns(QTableWidget):
    """`assigned` asks for the table to be read again, as its kind and with the columns that the user says."""

    assigned = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self._capture: TableCapture | None = None
        self.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)

    def show_cells(self, found: TableCapture) -> None:
        """The grid as it stands, with a choice over each column."""
        self._capture = found
        width = max((len(r) for r in found.cells), default=0)
        self.clear()
        self.setColumnCount(width)
        self.setRowCount(len(found.cells) + 1)
        roles = PIN_ROLES if found.kind == "pins" else DIMENSION_ROLES
        taken: tuple[str, ...] = found.pins.columns if found.pins else ()
        if found.dimensions:
            taken = tuple(c.role for c in found.dimensions.columns)
        for place in range(width):
            box = QComboBox()
            box.addItems(list(roles))
            box.setCurrentText(taken[place] if place < len(taken) else LEFT_OUT)
            box.activated.connect(lambda _index: self._assign())
            self.setCellWidget(0, place, box)
        for down, texts in enumerate(found.cells, start=1):
            for across, text in enumerate(texts):
                self.setItem(down, across, QTableWidgetItem(text))

    def _assign(self) -> None:
        found = self._capture
        if found is None:
            return
        chosen = []
        for place in range(self.columnCount()):
            box = self.cellWidget(0, place)
            chosen.append(box.currentText() if isinstance(box, QComboBox) else LEFT_OUT)
        before = found.dimensions.columns if found.dimensions else ()
        columns: Sequence[Any] = chosen
        if found.kind != "pins":
            columns = [
                Role(role, before[k].unit if k < len(before) else "", before[k].letter if k < len(before) else "")
                for k, role in enumerate(chosen)
            ]
        self.assigned.emit(found.kind, columns)


class CapturedDimensionRow(NamedTuple):
    """A row of the panel: its place `at` in the capture, texts, the standard's letter chosen for it, and why."""

    at: int
    letter: str
    text: str
    meaning: str
    seen: str
    standard: str
    why: str
    doubt: str


class CapturedPinRow(NamedTuple):
    """A row of the panel for a pin."""

    at: int
    number: str
    name: str
    active_low: bool
    type: str
    more: str
    doubt: str


def dimension_table(
    theme: Theme,
    set_letter: Callable[[CapturedDimensionRow, str], None],
    choices: Callable[[CapturedDimensionRow], list[str]],
) -> RecordView[CapturedDimensionRow]:
    """The table of dimensions; the column of meanings can be changed."""
    made = RecordView[CapturedDimensionRow](
        [
            Column("In sheet", lambda r: r.letter),
            Column("Read as", lambda r: r.text, fault=lambda r: r.doubt),
            Column("Meaning", lambda r: r.standard or LEFT_OUT, set_letter, choices=choices),
            Column("Doubts", lambda r: r.doubt, fault=lambda r: r.doubt),
            Column("As printed", lambda r: r.seen),
            Column("Why", lambda r: r.why),
        ],
        theme,
    )
    made.set_widths(64, 150, 84, 150, 140)
    return made


def pin_table(theme: Theme) -> RecordView[CapturedPinRow]:
    """The table of pins."""
    made = RecordView[CapturedPinRow](
        [
            Column("Pin", lambda r: r.number, number=True),
            Column("Name", lambda r: r.name),
            Column("Active low", lambda r: "yes" if r.active_low else ""),
            Column("Type", lambda r: r.type),
            Column("Description", lambda r: r.more),
            Column("Doubts", lambda r: r.doubt, fault=lambda r: r.doubt),
        ],
        theme,
    )
    made.set_widths(52, 130, 76, 130, 260)
    return made
