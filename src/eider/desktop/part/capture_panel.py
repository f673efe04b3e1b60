"""What was understood of a rectangle: shown as a table, put right by the user, and taken over with its evidence."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QComboBox, QTabWidget, QWidget

from eider.commands.datasheets.captured_values import (
    family_members,
    lettered_rows,
    member_rows,
    pins_kept,
    proposals,
    use_dimensions,
    use_pins,
)
from eider.datasheets import Datasheet
from eider.datasheets.figures.drawings_nearby import with_letters_drawn
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import CaptureKind, TableCapture, capture_drawn
from eider.desktop.context import DesktopContext
from eider.desktop.part.capture_tables import (
    LEFT_OUT,
    CaptureColumns,
    CapturedDimensionRow,
    CapturedOutlineView,
    CapturedPinRow,
    LetterQuestionBar,
    dimension_table,
    pin_table,
)
from eider.desktop.part.controller import PartController
from eider.desktop.part.datasheet_figures import FigurePlace, FigureReader
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.facts.categories import pin_columns
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.plane import Box
from eider.model.wording import counted
from eider.packages.letters.letter_proposals import Proposal
from eider.packages.letters.letter_questions import deciding_question, fitting
from eider.packages.registry import family_of
from eider.services.datasheets.page_recognition import is_unread_picture, recognise_picture_in
from eider.services.tasks import Task
from eider.symbols.pin_columns import left_out_words

AS_READ = "Unit as read"


class CapturePanel(QWidget):
    """The table that was read, beside the package that it would make."""

    closed = pyqtSignal()
    place_in_hand = pyqtSignal(int, object)
    # The selected value is in the rectangle, though nothing could be read there.
    stands_here = pyqtSignal(int, object)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.setObjectName("page")
        self.controller, self.context = controller, context
        self._jobs = context.jobs.owned(self)
        self._document: Datasheet | None = None
        self._sha, self._page, self._box = "", 0, (0.0, 0.0, 0.0, 0.0)
        self.capture: TableCapture | None = None
        self.letters: dict[str, str] = {}
        self._reasons: dict[str, str] = {}
        self._proposals: tuple[Proposal, ...] = ()
        self._answered: dict[str, str] = {}
        self.question = LetterQuestionBar()
        self.question.answered.connect(self._answer)
        self._number = 0
        self._kinds = QButtonGroup(self)
        ways = []
        kinds: tuple[tuple[CaptureKind, str], ...] = (("dimensions", "Dimensions"), ("pins", "Pins"))
        for kind, title in kinds:
            way = button(title, partial(self._read, kind, None), checkable=True)
            way.setObjectName(kind)
            self._kinds.addButton(way)
            ways.append(way)
        self._about, self._doubt = label("", "soft"), label("", "wrong")
        self._member, self._proposal, self._unit = QComboBox(), QComboBox(), QComboBox()
        self._unit.addItems([AS_READ, *MM_PER_UNIT])
        self._unit.setToolTip("Unit of columns whose headings name none")
        self._unit.activated.connect(lambda _i: self._read("dimensions", None))
        self.place_button = button("", self._ask_evidence)
        self._member.activated.connect(lambda _i: self._propose())
        self._proposal.activated.connect(self._choose_proposal)
        self.take_button = button("Use these values", self.take_over, main=True)
        self.dimensions = dimension_table(context.theme, self._set_letter, self._choices)
        self.pins = pin_table(context.theme)
        self.dimensions.entered_record.connect(self._in_hand)
        self.pins.entered_record.connect(self._in_hand)
        self.cells = CaptureColumns()
        self.cells.assigned.connect(self._read)
        self.tabs = QTabWidget()
        self.outline = CapturedOutlineView(context)
        self._build(ways)

    def _build(self, ways: Sequence[QWidget]) -> None:
        self._member_label, self._proposal_label = label("of"), label("Letters")
        head = row(
            label("Captured", "head"),
            *ways,
            button("Keep as a picture", self.keep_picture),
            self._member_label,
            self._member,
            self._unit,
            self._proposal_label,
            self._proposal,
            self._about,
            1,
            self._doubt,
            self.place_button,
            button("Close", self.close_panel),
            self.take_button,
        )
        self._proposal.setMinimumContentsLength(22)
        self.tabs.addTab(self.dimensions, "Reading")
        self.tabs.addTab(self.cells, "Columns")
        below = growing(panes(self.tabs, self.outline, sizes=(860, 400)))
        fill_widget(self, column(head, self.question, below, margins=6, spacing=4))

    def begin(self, document: Datasheet, sha: str, page: int, box: Box, prefer: CaptureKind | None) -> None:
        """Read a rectangle and show what was understood."""
        self._document, self._sha, self._page, self._box = document, sha, page, box
        self.show()
        self._read(prefer, None)

    def offer_place_for(self, name: str) -> None:
        """Offer the rectangle as the place of a value that was typed; without a name there is none in hand."""
        self.place_button.setVisible(bool(name))
        self.place_button.setText(f"{name} is printed here")

    def _ask_evidence(self) -> None:
        self.stands_here.emit(self._page, self._box)
        self.close_panel()

    def close_panel(self) -> None:
        """Leave everything as it was."""
        self.capture = None
        self.hide()
        self.closed.emit()

    def _read(self, kind: CaptureKind | None, columns: Sequence[Any] | None) -> None:
        document, page, box = self._document, self._page, self._box
        if document is None:
            return
        self._number += 1
        number = self._number
        self._about.setText("Reading…")

        def done(found: TableCapture | None) -> None:
            if number == self._number and found is not None:
                self._show(found)
            elif number == self._number:
                self._recognise_first(document, read, done, failed)

        def failed(fault: Exception) -> None:
            if number == self._number:
                self.capture = None
                self._about.setText("")
                self._doubt.setText(str(fault))
                self.take_button.setEnabled(False)
                self.dimensions.show_records([])
                self.pins.show_records([])

        unit = self._unit.currentText() if self._unit.currentIndex() > 0 else ""

        def read() -> TableCapture:
            return with_letters_drawn(document, capture_drawn(document, page, box, kind, columns=columns, unit=unit))

        def look() -> TableCapture | None:
            return None if is_unread_picture(document, page, box) else read()

        self._jobs.run("reading", look, done, failed)

    def _recognise_first(
        self,
        document: Datasheet,
        read: Callable[[], TableCapture],
        done: Callable[[TableCapture | None], None],
        failed: Callable[[Exception], None],
    ) -> None:
        """Read the rectangle once the picture in it is recognised: a table that is one, on a page with text."""
        page, box, told = self._page, self._box, f"Recognising the picture on page {self._page}"
        self._about.setText(f"{told}…")

        def recognise(task: Task) -> None:
            recognise_picture_in(document, page, box, task)

        self._jobs.run_long(
            "recognition", told, recognise, lambda _none: self._jobs.run("reading", read, done, failed), failed
        )

    def _show(self, found: TableCapture) -> None:
        self.capture = found
        for way in self._kinds.buttons():
            way.setChecked(way.objectName() == found.kind)
        is_pins = found.kind == "pins"
        table = self.pins if is_pins else self.dimensions
        if self.tabs.widget(0) is not table:
            index = self.tabs.currentIndex()
            self.tabs.removeTab(0)
            self.tabs.insertTab(0, table, "Reading")
            self.tabs.setCurrentIndex(index)
        self.outline.setVisible(not is_pins)
        self.question.ask(None)
        for widget in (self._proposal, self._proposal_label, self._unit):
            widget.setVisible(not is_pins)
        sizes = family_members(found)
        for widget in (self._member, self._member_label):
            widget.setVisible(bool(sizes))
        kept = self._member.currentText()
        self._member.clear()
        self._member.addItems(sizes)
        self._member.setCurrentText(kept if kept in sizes else (sizes[0] if sizes else ""))
        over = f", goes on over page {found.continued[-1]}" if found.continued else ""
        self._about.setText(f"page {found.page}{over}")
        read = found.dimensions or found.pins
        self._doubt.setText(read.doubt if read else "")
        self.cells.show_cells(found)
        if is_pins:
            self._show_pins(found)
        else:
            # The rows at once; what their letters may mean follows.
            self._show_lines()
            self._propose()

    def _show_pins(self, found: TableCapture) -> None:
        if found.pins is None:
            return
        reading, rows = pins_from_table(found.pins)
        lines = [
            CapturedPinRow(
                index,
                pin.number,
                pin.name,
                pin.active_low,
                pin.type + (" (assumed)" if pin.assumed else ""),
                " · ".join(filter(None, (*pin.alternatives, pin.description))),
                found.pins.rows[index].doubt,
            )
            for pin, index in zip(reading.pins, rows, strict=True)
        ]
        unread = [i for i in range(len(found.pins.rows)) if i not in rows]
        lines += [
            CapturedPinRow(i, "", found.pins.rows[i].seen, False, "", "", "No pin could be read here.") for i in unread
        ]
        self.pins.show_records(lines)
        doubtful = sum(bool(line.doubt) for line in lines)
        self._about.setText(f"{self._about.text()}: {counted(len(reading.pins), 'pin')}, {counted(doubtful, 'doubt')}")
        self.take_button.setEnabled(bool(reading.pins))

    def _propose(self) -> None:
        """Ask for the possible meanings of the letters, and take the best to begin with."""
        found, bundle, member = self.capture, self.controller.bundle, self._member.currentText()
        if found is None:
            return

        def done(made: tuple[Proposal, ...]) -> None:
            if self.capture is found and found.kind == "dimensions":
                self._answered = {}
                self._offer(made)

        self._jobs.run("compute", lambda: proposals(bundle, found, member), done)

    def _offer(self, made: tuple[Proposal, ...]) -> None:
        """Offer the possible meanings, the best first, and ask what would decide between those that are as likely."""
        self._proposals = made
        self._proposal.clear()
        self._proposal.addItems([_proposal_title(p, index, len(made)) for index, p in enumerate(made)])
        self._choose_proposal(0)
        rows = (
            lettered_rows(r for _, r in member_rows(self.capture, self._member.currentText())) if self.capture else ()
        )
        self.question.ask(deciding_question(family_of(self.controller.bundle.sheet.family), made, rows))

    def _answer(self, letter: str, standard: str) -> None:
        self._answered[letter] = standard
        self._offer(fitting(self._proposals, self._answered))
        if standard:
            self._reasons[letter] = "As you answer"
            self._show_lines()

    def _choose_proposal(self, index: int) -> None:
        if 0 <= index < len(self._proposals):
            self.letters = dict(self._proposals[index].letters)
            self._reasons = dict(self._proposals[index].reasons)
        else:
            known = [letter.key for letter in family_of(self.controller.bundle.sheet.family).letters]
            rows = member_rows(self.capture, self._member.currentText()) if self.capture else []
            captured = [r.letter for _, r in rows]
            self.letters, self._reasons = {x: x for x in captured if x in known}, {}
        self._show_lines()

    def _show_lines(self) -> None:
        if self.capture is None:
            return
        lines = [
            CapturedDimensionRow(
                index,
                r.letter,
                r.text,
                r.meaning,
                r.seen,
                self.letters.get(r.letter, ""),
                self._reasons.get(r.letter, ""),
                r.doubt,
            )
            for index, r in member_rows(self.capture, self._member.currentText())
        ]
        self.dimensions.show_records(lines)
        self.take_button.setEnabled(any(line.standard for line in lines))
        self.outline.show_capture(self.controller.bundle, self.capture, self.letters, self._member.currentText())

    def _choices(self, _line: CapturedDimensionRow) -> list[str]:
        return [LEFT_OUT, *(letter.key for letter in family_of(self.controller.bundle.sheet.family).letters)]

    def _set_letter(self, line: CapturedDimensionRow, standard: str) -> None:
        kept = {
            sheet_letter: meant
            for sheet_letter, meant in self.letters.items()
            if meant != standard and sheet_letter != line.letter
        }
        chosen = {line.letter: standard} if standard in self._choices(line)[1:] else {}
        self.letters = {**kept, **chosen}
        self._reasons[line.letter] = "As you choose"
        self._show_lines()

    def _in_hand(self, line: CapturedDimensionRow | CapturedPinRow) -> None:
        if self.capture and 0 <= line.at < len(self.capture.places):
            place = self.capture.places[line.at]
            self.place_in_hand.emit(place.page, place.box)
        if isinstance(line, CapturedDimensionRow):
            self.outline.highlight(line.standard)

    def take_over(self) -> None:
        """Put what was read into the part."""
        found, sha = self.capture, self._sha
        if found is None:
            return
        who, letters, member = self.context.person.name, dict(self.letters), self._member.currentText()
        if found.kind == "pins":
            title = f"Use the pins of page {found.page}"
            columns = pin_columns(self.controller.library.settings, self.controller.bundle.part.category)
            pins = pins_from_table(found.pins)[0].pins if found.pins else ()
            kept = len(pins_kept(self.controller.bundle, found, sha))
            self.controller.edit(title, lambda b: use_pins(b, found, sha, who, columns))
            told = f"{counted(len(pins), 'pin')} captured from page {found.page}"
            told += f", added to {kept}" if kept else ""
            self.context.said.emit("; ".join([told, *left_out_words(pins, columns)]))
        else:
            title = f"Use the dimensions of page {found.page}"
            self.controller.edit(title, lambda b: use_dimensions(b, found, letters, sha, who, member))
            left = [r.letter for _, r in member_rows(found, member) if r.letter not in letters]
            rest = f"; left out: {', '.join(left)}" if left else ""
            self.context.said.emit(f"{len(letters)} dimensions captured from page {found.page}{rest}")
        self.close_panel()

    def keep_picture(self) -> None:
        """Keep the rectangle as a drawing of the datasheet beside the package sheet."""
        place = FigurePlace(self._sha, self._page, self._box)
        FigureReader(self.controller, self.context, self._jobs).keep_drawing(place)
        self.close_panel()


def _proposal_title(proposal: Proposal, index: int, count: int) -> str:
    changed = [f"{key} = {standard}" for key, standard in proposal.letters.items() if key != standard]
    missing = f"; missing {', '.join(proposal.missing)}" if proposal.missing else ""
    return f"{index + 1} of {count}: {', '.join(changed) or 'as in the standard'}{missing}"
