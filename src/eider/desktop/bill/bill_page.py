"""Bill of materials: a design's list, what its columns mean, the part of each line, and the bill that follows."""

from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QFileDialog, QLabel, QListWidget, QSpinBox, QTabWidget, QWidget

from eider.desktop.bill.bill_panels import BillPreview, ColumnsPanel, DesignButton
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.flow_layout import FlowLayout
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.errors import EiderError, InputError
from eider.library import Library
from eider.library.index.part_index import PartRow
from eider.model.wording import counted
from eider.reports.design_lists import MEANINGS, BillLine, Meaning
from eider.services.facts.bills import (
    MOST_BOARDS,
    Bill,
    OpenedList,
    ask_prices,
    bill_columns,
    columns_fault,
    keep_meanings,
    make_bill,
    open_list,
    save_template,
    template_names,
    write_bill,
)
from eider.services.suppliers.supplier_lookup import open_catalogue
from eider.services.tasks import Task

SUFFIXES = "Lists (*.csv *.tsv *.txt *.xlsx *.xlsm)"
WRITTEN = "Workbook (*.xlsx);;CSV (*.csv)"


class BillPage(SidePage):
    """One list at a time; parts that someone chose stay chosen while columns are assigned otherwise."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.opened: OpenedList | None = None
        self.path = Path()
        self.bill: Bill | None = None
        self.chosen: dict[int, PartRow] = {}
        self._asked = 0
        self._candidates: tuple[PartRow, ...] = ()
        fill_widget(self, panes(self._middle(), self._right(), sizes=(860, 400)))

    def unsaved(self) -> str:
        return f"Bill of materials: {counted(len(self.chosen), 'chosen part')}" if self.chosen else ""

    def _middle(self) -> QWidget:
        self.title = label("Bill of materials", "head")
        self.hint = label("Open the list of references that a design program wrote (CSV or XLSX).", "soft", wrap=True)
        self.meanings = QWidget()
        self._meaning_row = FlowLayout(self.meanings)
        self.boxes: list[QComboBox] = []
        self.template, self.boards = QComboBox(), QSpinBox()
        self.template.addItems(template_names(self.library))
        self.template.activated.connect(lambda _i: self._take_template())
        self.boards.setRange(1, MOST_BOARDS)
        self.boards.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.boards.setAccessibleName("Number of boards")
        self.boards.editingFinished.connect(self.remake)
        self.table = RecordView[BillLine](
            [
                Column("References", lambda b: ", ".join(b.references)),
                Column("Qty", lambda b: str(b.quantity), number=True),
                Column("In the list", lambda b: b.said),
                Column(
                    "Part", lambda b: b.part.name if b.part else "–", fault=lambda b: "" if b.part else "no part yet"
                ),
                Column("Found by", lambda b: b.by if b.part else ""),
                Column("Doubts", lambda b: "; ".join(b.doubts)),
            ],
            self.context.theme,
        )
        self.table.set_widths(130, 44, 150, 150, 90)
        self.table.entered_record.connect(self._show_line)
        self.preview, self.middle = BillPreview(), QTabWidget()
        self.middle.addTab(self.table, "Lines of the list")
        self.middle.addTab(self.preview, "Bill")
        return column(
            row(button("← Shelf", self.closed.emit), self.title, 1, button("Open a list…", self._choose, main=True)),
            self.hint,
            self.meanings,
            row(
                label("Columns of the bill", "soft"),
                self.template,
                label("Boards", "soft"),
                self.boards,
                1,
                button("Ask for prices", self.ask_prices),
            ),
            growing(self.middle),
        )

    def _right(self) -> QWidget:
        self.line_title: QLabel = label("Part", "head")
        self.parts = QListWidget()
        self.parts.setAccessibleName("Candidates")
        self.parts.itemActivated.connect(lambda _item: self.use())
        self.use_button = button("Use this part", self.use)
        self.findings = QListWidget()
        self.findings.setAccessibleName("Problems")
        self.findings.setWordWrap(True)
        self.findings.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.summary = label("", "head")
        self.write_button = button("Write the bill…", self._choose_target, main=True)
        self.write_button.setEnabled(False)
        self.columns = ColumnsPanel(self.context)
        self.columns.changed.connect(lambda _columns: self.remake())
        self.columns.save_asked.connect(self._save_template)
        lines = column(
            self.line_title, self.parts, row(self.use_button, 1), self.summary, growing(self.findings), margins=6
        )
        self.tabs = QTabWidget()
        self.tabs.addTab(lines, "Lines")
        self.tabs.addTab(self.columns, "Columns")
        self._take_template()
        self.design_button = DesignButton(self.library, self.context)
        self.design_button.failed.connect(self._say)
        return column(growing(self.tabs), self.design_button, self.write_button)

    def _take_template(self) -> None:
        """The columns of the template that was chosen."""
        name = self.template.currentText()
        try:
            self.columns.show_columns(name, bill_columns(self.library, name))
        except EiderError as fault:
            self._say(fault)
        self.remake()

    def _save_template(self, name: str) -> None:
        columns = self.columns.columns

        def done(_none: object) -> None:
            self.template.clear()
            self.template.addItems(template_names(self.library))
            self.template.setCurrentText(name)
            self.context.said.emit(f"Template {name} saved to the library")

        self.jobs.run("library", lambda: save_template(self.library, name, columns), done, self._say)

    def ask_prices(self) -> None:
        """Ask the catalogue for the prices of all parts of the bill, and show the bill with them."""
        bill, address, token = self.bill, self.context.catalogue, self.context.settings.catalogue_token
        if bill is None:
            return

        def work(task: Task) -> int:
            return ask_prices(bill, open_catalogue(address, token, task), task)

        def done(found: int) -> None:
            self.context.said.emit(f"Prices of {counted(found, 'part')} asked for")
            self.remake()

        self.jobs.run_long("network", "Prices", work, done, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a list", str(self.library.folder.parent), SUFFIXES)
        if name:
            self.open_list(Path(name))

    def open_list(self, path: Path) -> None:
        """Read a list, and show what its columns mean and which parts its lines are."""

        def done(opened: OpenedList) -> None:
            self.path = path
            self.opened, self.chosen = opened, {}
            self.title.setText(f"Bill of materials: {path.name}")
            self._show_meanings(opened)
            self.remake()

        self.jobs.run("library", lambda: open_list(self.library, path), done, self._say)

    def _show_meanings(self, opened: OpenedList) -> None:
        while (item := self._meaning_row.takeAt(0)) is not None:
            if widget := item.widget():
                widget.deleteLater()
        self.boxes = []
        for place, (heading, meaning) in enumerate(zip(opened.table.header, opened.meanings, strict=True)):
            box = QComboBox()
            box.addItems(list(MEANINGS))
            box.setCurrentText(meaning)
            box.setAccessibleName(f"Meaning of {heading}")
            box.activated.connect(partial(self._assign, place))
            self.boxes.append(box)
            self._meaning_row.addWidget(row(label(heading or f"column {place + 1}", "soft"), box))
        self.meanings.updateGeometry()

    def _assign(self, place: int, chosen: int) -> None:
        """Another meaning of a column; it is kept for lists with these headings."""
        opened = self.opened
        if opened is None:
            return
        meanings: list[Meaning] = list(opened.meanings)
        meanings[place] = MEANINGS[chosen]
        self.opened = made = OpenedList(opened.table, tuple(meanings))
        if not self.library.read_only:
            self.jobs.run("library", lambda: keep_meanings(self.library, made), lambda _none: None, self._say)
        self.remake()

    def remake(self) -> None:
        """Find the parts and compose the bill again; a late answer is dropped."""
        opened, library, chosen = self.opened, self.library, dict(self.chosen)
        if opened is None:
            return
        self._asked += 1
        number, columns, boards = self._asked, self.columns.columns, self.boards.value()
        address = self.context.catalogue

        def work() -> Bill:
            if fault := columns_fault(library, columns):
                raise InputError(f"columns of the bill: {fault}")
            return make_bill(library, opened, columns, boards, chosen, address)

        def done(bill: Bill) -> None:
            if number == self._asked:
                self._show(bill)

        self.jobs.run("library", work, done, self._say)

    def _show(self, bill: Bill) -> None:
        self.bill = bill
        found = sum(line.part is not None for line in bill.lines)
        self.hint.setText("; ".join(bill.doubts[:3]) or "Match each line to a library part.")
        self.summary.setText(
            f"{found} of {counted(len(bill.lines), 'line')} found, {counted(len(bill.table.findings), 'finding')}"
        )
        self.preview.show_rows(bill.table.rows)
        self.findings.clear()
        self.findings.addItems([*bill.doubts, *bill.table.findings])
        in_hand = self.table.record()
        self.table.show_records(bill.lines)
        self.write_button.setEnabled(bool(bill.lines))
        self.design_button.show_bill(bill, self.path)
        place = next((i for i, line in enumerate(bill.lines) if in_hand and line.said == in_hand.said), 0)
        if bill.lines:
            self.table.select_rows([place])
            self._show_line(bill.lines[place])

    def _show_line(self, line: BillLine) -> None:
        """What a line could mean: its candidates, or what a search for its words finds."""
        where = ", ".join(line.references[:3])
        self.line_title.setText(f"Which part is {where or line.said}")
        if line.candidates:
            self._show_candidates(line.candidates)
            return
        words = line.part.name if line.part else line.said

        def done(rows: tuple[PartRow, ...]) -> None:
            if self.table.record() is line:
                self._show_candidates(rows)

        self.jobs.run("library", lambda: tuple(self.library.find_parts(words, limit=20).rows), done)

    def _show_candidates(self, rows: tuple[PartRow, ...]) -> None:
        self._candidates = rows
        self.parts.clear()
        self.parts.addItems([f"{r.name}  {r.description}" for r in rows])
        self.parts.setCurrentRow(0)
        self.use_button.setEnabled(bool(rows))

    def use(self) -> None:
        """The selected part is what the line means, in all lines of the list that say the same."""
        line, at = self.table.record(), self.parts.currentRow()
        if line is None or not 0 <= at < len(self._candidates):
            return
        self.chosen |= dict.fromkeys(line.lines, self._candidates[at])
        self.remake()

    def _choose_target(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Write the bill", str(self.library.folder.parent / "bill-of-materials.xlsx"), WRITTEN
        )
        if name:
            self.write(Path(name))

    def write(self, path: Path) -> None:
        """Write the bill as the suffix of the name says."""
        bill = self.bill
        if bill is not None:
            self.jobs.run("export", lambda: write_bill(path, bill), lambda _n: self._written(path), self._say)

    def _written(self, path: Path) -> None:
        self.context.said.emit(f"Bill of materials written to {path}")
