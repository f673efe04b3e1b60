"""Facts across parts: the grid, what would change, and keeping it as working copies."""

from collections.abc import Callable, Collection, Mapping

from PyQt6.QtWidgets import QCheckBox, QLineEdit, QListWidget, QWidget

from eider.commands.facts.fact_table import (
    FactChange,
    FactsOfPart,
    FactTable,
    SpellingGroup,
    cell_fault,
    changes_between,
    continue_series,
    drop_facts,
    fill_down,
    merge_names,
    replace_text,
    set_cells,
    sort_parts,
    spelling_groups,
)
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.fact_grid import FactGrid
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.side_page import SidePage
from eider.desktop.widgets.undo_stack import UndoStack
from eider.errors import EiderError
from eider.library import Library
from eider.model.wording import counted, named
from eider.services.facts.fact_tables import KeptFacts, keep_fact_changes, open_fact_table

# Changes that are listed one by one.
MOST_LISTED = 500


class FactTablePage(SidePage):
    """One table at a time; nothing is kept before *Save as working copies*."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.before = FactTable((), ())
        self.table = self.before
        self._by_id: Mapping[str, FactsOfPart] = {}
        self.steps = UndoStack[FactTable](lambda: self.table, self._show)
        self._sorted = ("", False)
        self._groups: tuple[SpellingGroup, ...] = ()
        fill_widget(self, panes(self._middle(), self._right(), sizes=(910, 360)))

    def _middle(self) -> QWidget:
        self.title = label("Facts across parts", "head")
        self.grid = FactGrid(self.context.theme, cell_fault(self.library.settings))
        self.grid.cells_put.connect(self._put)
        self.grid.sort_asked.connect(self._sort)
        self.wanted, self.replacement = QLineEdit(), QLineEdit()
        self.wanted.setPlaceholderText("Find in the selection")
        self.replacement.setPlaceholderText("Replace with")
        self.whole = QCheckBox("whole cells")
        self.another = QLineEdit()
        self.another.setPlaceholderText("Name of another fact")
        self.another.returnPressed.connect(self._add)
        tools = flow(
            button("Fill down", lambda: self._fill("Fill down", fill_down)),
            button("Continue series", lambda: self._fill("Continue series", continue_series)),
            row(self.wanted, self.replacement, self.whole, button("Replace", self._replace)),
            row(self.another, button("Add this fact", self._add)),
        )
        return column(row(button("← Shelf", self.closed.emit), self.title, 1), growing(self.grid), tools)

    def _right(self) -> QWidget:
        self.summary = label("", "head")
        self.changes, self.spellings = QListWidget(), QListWidget()
        self.changes.setAccessibleName("What would change")
        self.spellings.setAccessibleName("One fact under several names")
        self.spellings.setMaximumHeight(150)
        self.merge = button("Merge into one name", self._merge)
        self.drop = button("Drop unwanted facts", self._drop)
        self.drop.setVisible(bool(self.library.settings.dropped_facts))
        self.keep_button = button("Save as working copies", self.keep, main=True)
        self.hint = label("", "soft", wrap=True)
        return column(
            self.summary,
            growing(self.changes),
            label("One fact under several names", "head"),
            self.spellings,
            row(self.merge, self.drop, 1),
            self.hint,
            self.keep_button,
        )

    def open_parts(self, part_ids: Collection[str]) -> None:
        """Show the facts of some parts."""
        wanted = frozenset(part_ids)
        self.title.setText("Reading…")

        def done(table: FactTable) -> None:
            self.before = table
            self._by_id = {part.id: part for part in table.parts}
            self.steps.clear()
            self._show(table)
            self.title.setText(f"Facts across {counted(len(table.parts), 'part')}")

        self.jobs.run("library", lambda: open_fact_table(self.library, "", wanted), done, self._say)

    def unsaved(self) -> str:
        found = self._changes()
        return f"Facts across parts: {counted(len(found), 'change')}" if found else ""

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _show(self, table: FactTable) -> None:
        self.table = table
        self.grid.show_table(table, self._by_id)
        found = self._changes()
        self.changes.clear()
        self.changes.addItems([_line(change) for change in found[:MOST_LISTED]])
        parts = len({change.part_id for change in found})
        self.summary.setText(
            f"{counted(len(found), 'change')} in {counted(parts, 'part')}" if found else "Nothing is changed yet"
        )
        self.keep_button.setEnabled(bool(found) and not self.library.read_only)
        self._ask_spellings(table)

    def _ask_spellings(self, table: FactTable) -> None:
        """Look for names that mean one fact; over thousands of parts that takes longer than a frame."""
        self.merge.setEnabled(False)
        settings = self.library.settings

        def done(groups: tuple[SpellingGroup, ...]) -> None:
            if self.table is table:
                self._show_spellings(groups)

        self.jobs.run("rules", lambda: spelling_groups(table.parts, settings), done)

    def _show_spellings(self, groups: tuple[SpellingGroup, ...]) -> None:
        self._groups = groups
        self.spellings.clear()
        for group in groups:
            others = ", ".join(f"{name} ({count})" for name, count in group.others)
            self.spellings.addItem(f"{group.meant}: also {others}")
        self.spellings.setCurrentRow(0)
        self.merge.setEnabled(bool(groups))

    def _changes(self) -> list[FactChange]:
        return list(changes_between(self.before, self.table))

    def _edit(self, title: str, change: Callable[[FactTable], FactTable]) -> None:
        """One step: what is wrong with it is said, and nothing changes then."""
        try:
            made = change(self.table)
        except EiderError as fault:
            self._say(fault)
            return
        self.hint.setText("")
        if made != self.table:
            self.steps.change(title, made)

    def _put(self, cells: Mapping[tuple[int, str], str]) -> None:
        if cells:
            title = f"Change {next(iter(cells))[1]}" if len(cells) == 1 else f"Change {counted(len(cells), 'cell')}"
            self._edit(title, lambda table: set_cells(table, cells))

    def _fill(self, title: str, change: Callable[[FactTable, list[int], list[str]], FactTable]) -> None:
        cells = self.grid.selected_cells()
        rows, names = sorted({at for at, _ in cells}), list(dict.fromkeys(name for _, name in cells))
        if len(rows) < 2:
            self.hint.setText("Select the cell that is filled in and those below it.")
            return
        self._edit(title, lambda table: change(table, rows, names))

    def _replace(self) -> None:
        cells = self.grid.selected_cells() or [
            (at, name) for at in range(len(self.table.parts)) for name in self.table.names
        ]
        counts: list[int] = []

        def change(table: FactTable) -> FactTable:
            made, count = replace_text(
                table, cells, self.wanted.text(), self.replacement.text(), whole=self.whole.isChecked()
            )
            counts.append(count)
            return made

        self._edit(f"Replace {self.wanted.text()}", change)
        if counts:
            self.hint.setText(f"{counted(counts[0], 'cell')} replaced")

    def _add(self) -> None:
        name = self.another.text().strip()
        if name and name not in self.table.names:
            self.another.clear()
            self._edit(f"Add {name}", lambda table: FactTable(table.parts, (*table.names, name)))

    def _merge(self) -> None:
        index = self.spellings.currentRow()
        if not 0 <= index < len(self._groups):
            return
        group = self._groups[index]
        left: list[str] = []

        def change(table: FactTable) -> FactTable:
            made, differing = merge_names(table, group)
            left.extend(differing)
            return made

        self._edit(f"Merge into {group.meant}", change)
        if left:
            self.hint.setText(f"Left as they are, as their values differ: {named('part', left)}.")

    def _drop(self) -> None:
        self._edit("Drop unwanted facts", lambda table: drop_facts(table, self.library.settings.dropped_facts))

    def _sort(self, name: str) -> None:
        backwards = self._sorted == (name, False)
        self._sorted = (name, backwards)
        table, settings = self.table, self.library.settings

        def done(made: FactTable) -> None:
            # The order of rows is not a change of the library, and no step.
            if self.table is table:
                self._show(made)

        self.jobs.run("rules", lambda: sort_parts(table, name, settings, backwards=backwards), done)

    def keep(self) -> None:
        """Make working copies of the parts that change, with progress; what is kept is the state from then on."""
        changes = self._changes()
        if not changes:
            return
        library, by = self.library, self.context.person.name
        self.keep_button.setEnabled(False)

        def done(kept: KeptFacts) -> None:
            told = f"{counted(len(kept.kept), 'part')} saved as working copies; release them together from the Shelf."
            if kept.left:
                part, why = kept.left[0]
                more = f" and {counted(len(kept.left) - 1, 'more part')}" if len(kept.left) > 1 else ""
                told += f" Left: {part}{more}: {why}"
            self.hint.setText(told)
            self.kept.emit()
            self.open_parts([part.id for part in self.table.parts])

        def failed(fault: Exception) -> None:
            self._say(fault)
            self.keep_button.setEnabled(True)
            self.kept.emit()

        self.jobs.run_long(
            "release", "Saving facts", lambda task: keep_fact_changes(library, changes, by, task), done, failed
        )


def _line(change: FactChange) -> str:
    return f"{change.part}  {change.name}: {change.before or '–'} → {change.after or '–'}"
