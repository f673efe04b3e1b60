"""The rows of a family table as a spreadsheet: typed, pasted, filled, continued, read from a file and written."""

from collections.abc import Callable, Mapping
from pathlib import Path

import msgspec
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QListWidget, QWidget

from eider.commands.facts.fact_table import FactsOfPart, FactTable, continue_series, fill_down
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.fact_grid import FactGrid
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label
from eider.errors import EiderError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.model.family_table import FamilyRow, FamilyTable
from eider.model.wording import counted
from eider.services.families.family_rows import ReadRows, entered, merged_rows, rows_from_file, write_rows
from eider.services.families.family_tables import PlannedMember

STATES = {
    "new": "new: there is no such part yet",
    "changed": "changes",
    "same": "matches the table",
    "base": "base of the other members; edit it directly",
    "fault": "cannot be made",
}


class MemberPanel(QWidget):
    """Shows the selected member."""

    def __init__(self) -> None:
        super().__init__()
        self.title, self.state = label("", "head"), label("", "", wrap=True)
        self.changes, self.findings = QListWidget(), QListWidget()
        for shown, name in ((self.changes, "What changes, and what stays"), (self.findings, "What the checks found")):
            shown.setWordWrap(True)
            shown.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            shown.setAccessibleName(name)
        fill_widget(
            self,
            column(
                self.title,
                self.state,
                label("Changes", "head"),
                growing(self.changes),
                label("Findings", "head"),
                growing(self.findings),
                margins=6,
            ),
        )

    def show_member(self, member: PlannedMember | None) -> None:
        """Show a member; nothing without one."""
        self.changes.clear()
        self.findings.clear()
        self.title.setText(member.name if member else "")
        self.state.setText(f"{STATES[member.state]}{f': {member.fault}' if member.fault else ''}" if member else "")
        self.state.setProperty("role", "wrong" if member and member.state == "fault" else "")
        style = self.state.style()
        if style is not None:
            style.polish(self.state)
        if member is None:
            return
        self.changes.addItems(list(member.changes))
        self.changes.addItems([f"Changed by hand, stays: {place}" for place in member.by_hand])
        self.changes.addItems(list(member.doubts))
        self.findings.addItems([f"{f.severity}: {f.message}" for f in member.findings])
        if member.part and not member.findings:
            self.findings.addItem(f"{counted(0, 'finding')}")


replace = msgspec.structs.replace
LISTS = "Lists (*.csv *.tsv *.txt *.xlsx *.xlsm)"
WRITTEN = "Workbook (*.xlsx);;CSV (*.csv)"


class RowsPanel(QWidget):
    """Shows the rows of a table with what each comes to, and asks for changes of them.

    Signals:
        edited: title of the step, and the change as a function from table to table.
        row_entered: another row is in hand.
        failed: why something could not be done.
    """

    edited = pyqtSignal(str, object)
    row_entered = pyqtSignal()
    failed = pyqtSignal(object)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._table = FamilyTable(name="")
        self._faults: Mapping[int, str] = {}
        self.grid = FactGrid(context.theme, self.cell_note)
        self.grid.takes_rows = True
        self.grid.setAccessibleName("Rows of the family table")
        self.grid.cells_put.connect(self.put)
        selection = self.grid.selectionModel()
        if selection is not None:
            selection.currentChanged.connect(lambda _now, _before: self.row_entered.emit())
        tools = flow(
            button("Add a row", self.add_row),
            button("Remove rows", self._drop_rows),
            button("Fill down", lambda: self._fill("Fill down", fill_down)),
            button("Continue series", lambda: self._fill("Continue series", continue_series)),
            button("Rows from a file…", self._choose_file),
            button("Write rows…", self._choose_target),
        )
        fill_widget(self, column(growing(self.grid), tools, margins=6))

    @property
    def at(self) -> int:
        """The current row, counted from 0; −1 without one."""
        return self.grid.currentIndex().row()

    def show_rows(self, table: FamilyTable, members: Mapping[int, PlannedMember], faults: Mapping[int, str]) -> None:
        """Show the rows with what they come to, as far as that is known; `faults` are those found last, by row."""
        self._table, self._faults = table, faults
        names = tuple(c.heading for c in table.definition.columns)
        parts = tuple(
            FactsOfPart(str(index), _row_title(index, members.get(index)), "", made.cells)
            for index, made in enumerate(table.rows)
        )
        self.grid.show_table(FactTable(parts, names), {part.id: part for part in parts})

    def cell_note(self, part: FactsOfPart, name: str) -> str:
        """What is said of a cell: the fault of its row, where it names the column."""
        fault = self._faults.get(int(part.id), "")
        return fault if fault.startswith(name) else ""

    def put(self, cells: Mapping[tuple[int, str], str]) -> None:
        """Ask for other texts in some cells, by row and heading; rows that are not there yet are added."""
        at, who = utc_now(), self._context.person.name

        def change(table: FamilyTable) -> FamilyTable:
            rows = list(table.rows)
            for (index, heading), text in cells.items():
                while index >= len(rows):
                    rows.append(FamilyRow({}))
                if rows[index].cells.get(heading, "") != text.strip():
                    rows[index] = entered(rows[index], heading, text, who, at)
            return replace(table, rows=tuple(rows))

        title = f"Change {next(iter(cells))[1]}" if len(cells) == 1 else f"Change {counted(len(cells), 'cell')}"
        if cells:
            self.edited.emit(title, change)

    def _fill(self, title: str, change: Callable[[FactTable, list[int], list[str]], FactTable]) -> None:
        cells = self.grid.selected_cells()
        rows, names = sorted({at for at, _ in cells}), list(dict.fromkeys(name for _, name in cells))
        if len(rows) < 2:
            self.failed.emit(EiderError("Select the cell that is filled in and those below it."))
            return
        try:
            made = change(self.grid.model_of_facts.table, rows, names)
        except EiderError as fault:
            self.failed.emit(fault)
            return
        self.put({(at, name): made.parts[at].facts.get(name, "") for at in rows for name in names})

    def add_row(self) -> None:
        """Add an empty row, and make it the current one."""
        self.edited.emit("Add a row", lambda table: replace(table, rows=(*table.rows, FamilyRow({}))))
        last = len(self._table.rows) - 1
        self.grid.setCurrentIndex(self.grid.model_of_facts.index(last, 0))

    def _drop_rows(self) -> None:
        gone = {at for at, _ in self.grid.selected_cells()}
        kept = tuple(made for at, made in enumerate(self._table.rows) if at not in gone)
        self.edited.emit(f"Remove {counted(len(gone), 'row')}", lambda table: replace(table, rows=kept))

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Rows from a file", str(self._library.folder.parent), LISTS)
        if name:
            self.read_rows(Path(name))

    def read_rows(self, path: Path) -> None:
        """The rows of a file in place of those there are; a row of the same first cell keeps its part."""
        columns = self._table.definition.columns
        self._jobs.run("library", lambda: rows_from_file(path, columns), self.use_rows, self.failed.emit)

    def use_rows(self, read: ReadRows) -> None:
        """Ask for rows that were read in place of those there are."""
        key = next((c.heading for c in self._table.definition.columns), "")

        def change(table: FamilyTable) -> FamilyTable:
            return replace(table, rows=merged_rows(table.rows, read.rows, key))

        self.edited.emit(f"Take {counted(len(read.rows), 'row')}", change)
        if read.doubts:
            self._context.said.emit("; ".join(read.doubts))

    def _choose_target(self) -> None:
        target = str(self._library.folder.parent / f"{self._table.name or 'family'}.xlsx")
        name, _ = QFileDialog.getSaveFileName(self, "Write rows", target, WRITTEN)
        if name:
            self._write(Path(name))

    def _write(self, path: Path) -> None:
        table = self._table
        self._jobs.run(
            "export",
            lambda: write_rows(path, table),
            lambda _n: self._context.said.emit(f"Rows written to {path}"),
            self.failed.emit,
        )


def _row_title(index: int, member: PlannedMember | None) -> str:
    if member is None:
        return f"row {index + 1}"
    return f"{member.name}  ·  {member.state}"
