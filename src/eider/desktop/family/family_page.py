"""Family tables in the window: rows edited as a spreadsheet, each member compared with its part, kept or released."""

from collections.abc import Callable

import msgspec
from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QComboBox, QLineEdit, QTabWidget, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.family.definition_panel import DefinitionPanel
from eider.desktop.family.row_capture import RowCapture
from eider.desktop.family.rows_panel import MemberPanel, RowsPanel
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, set_choices
from eider.desktop.widgets.side_page import SidePage
from eider.desktop.widgets.undo_stack import UndoStack
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.family_files import family_names, read_family, save_family
from eider.library.index.part_index import PartRow
from eider.model.family_table import FamilyBase, FamilyColumn, FamilyDefinition, FamilyRow, FamilyTable
from eider.model.item_ref import Ref
from eider.model.wording import counted
from eider.services.families.family_tables import FamilyPlan, keep_members, plan_family, release_members
from eider.services.tasks import CancelledError, Task

replace = msgspec.structs.replace
# After the last key the members are made again (ms).
PAUSE_MS = 350


class FamilyPage(SidePage):
    """One table at a time. Nothing is kept before a button says so; each edit is a step that can be taken back."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.table, self.stored = FamilyTable(name=""), None
        self.plan: FamilyPlan | None = None
        self.steps = UndoStack[FamilyTable](lambda: self.table, self._show)
        self._asked = 0
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(PAUSE_MS)
        self._timer.timeout.connect(self.make_plan)
        fill_widget(self, panes(self._middle(), self._right(), sizes=(900, 370)))

    stored: FamilyTable | None

    def _middle(self) -> QWidget:
        self.names, self.name = QComboBox(), QLineEdit()
        self.names.setAccessibleName("Family tables of the library")
        self.names.activated.connect(lambda _i: self.open_table(self.names.currentText()))
        self.name.setPlaceholderText("Name of the table")
        self.name.editingFinished.connect(self._rename)
        self.hint = label("Choose a family table, or create one from a part on the Shelf.", "soft", wrap=True)
        self.rows = RowsPanel(self.library, self.context)
        self.rows.edited.connect(self._edit)
        self.rows.row_entered.connect(self._show_member)
        self.rows.failed.connect(self._say)
        self.definition = DefinitionPanel(self.context)
        self.definition.changed.connect(
            lambda title, made: self._edit(title, lambda table: replace(table, definition=made))
        )
        self.capture = RowCapture(self.library, self.context)
        self.capture.captured.connect(self.rows.use_rows)
        self.capture.captured.connect(lambda _read: self.tabs.setCurrentWidget(self.rows))
        self.tabs = QTabWidget()
        self.tabs.addTab(self.rows, "Members")
        self.tabs.addTab(self.definition, "Definition")
        self.tabs.addTab(self.capture, "Datasheet")
        return column(
            row(button("← Shelf", self.closed.emit), label("Family table", "head"), self.names, growing(self.name), 1),
            self.hint,
            growing(self.tabs),
        )

    def _right(self) -> QWidget:
        self.summary = label("", "head")
        self.doubts = label("", "soft", wrap=True)
        self.member = MemberPanel()
        self.note = QLineEdit()
        self.note.setPlaceholderText("Release note: what and why")
        self.note.textChanged.connect(lambda _text: self._enable())
        self.save_button = button("Save the table", self.save)
        self.keep_button = button("Make working copies", self.keep)
        self.release_button = button("Release members", self.release, main=True)
        return column(
            self.summary,
            self.doubts,
            growing(self.member),
            row(self.save_button, self.keep_button, 1),
            self.note,
            self.release_button,
        )

    def unsaved(self) -> str:
        is_begun = bool(self.table.rows or self.table.definition.bases)
        name = self.table.name or "new table"
        return f"Family table {name}: changes" if is_begun and self.table != self.stored else ""

    def end(self) -> None:
        self.capture.close_document()

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def open_names(self, then: str = "") -> None:
        """The tables of the library; the one that is asked for, or the first, is opened."""

        def done(names: list[str]) -> None:
            set_choices(self.names, names)
            self.names.setEnabled(bool(names))
            if names:
                self.open_table(then if then in names else names[0])

        self.jobs.run("library", lambda: family_names(self.library), done, self._say)

    def open_table(self, name: str) -> None:
        """Open a table of the library."""

        def done(table: FamilyTable) -> None:
            self.stored = table
            self.names.setCurrentText(name)
            self.steps.clear()
            self._show(table)

        self.jobs.run("library", lambda: read_family(self.library, name), done, self._say)

    def begin_from(self, part: PartRow) -> None:
        """Open the table that a part belongs to, or begin one whose members begin as this part."""

        def work() -> tuple[list[str], str]:
            names = family_names(self.library)
            return names, next((n for n in names if _speaks_of(read_family(self.library, n), part.id)), "")

        def done(found: tuple[list[str], str]) -> None:
            names, name = found
            set_choices(self.names, names)
            self.names.setEnabled(bool(names))
            if name:
                self.open_table(name)
                return
            self.stored = None
            self.steps.clear()
            self._show(_first_table(part))
            self.tabs.setCurrentWidget(self.definition)

        self.jobs.run("library", work, done, self._say)

    def _rename(self) -> None:
        name = self.name.text().strip()
        if name and name != self.table.name:
            # Under another name it is another table, which replaces none.
            self.stored = None
            self._edit("Name the table", lambda table: replace(table, name=name))

    def _edit(self, title: str, change: Callable[[FamilyTable], FamilyTable]) -> None:
        try:
            made = change(self.table)
        except EiderError as fault:
            self._say(fault)
            return
        if made != self.table:
            self.steps.change(title, made)

    def _show(self, table: FamilyTable) -> None:
        self.table = table
        self.name.setText(table.name)
        self.definition.show_definition(table.definition)
        bases = [base.part for base in table.definition.bases]
        self.capture.show_bases(bases, table.definition.columns)
        self._show_rows()
        self._enable()
        self._timer.start()

    def _show_rows(self) -> None:
        members = {m.row: m for m in self.plan.members} if self.plan and self.plan.table is self.table else {}
        faults = {m.row: m.fault for m in self.plan.members} if self.plan else {}
        self.rows.show_rows(self.table, members, faults)
        self._show_member()

    def make_plan(self) -> None:
        """Make all members and hold them against the library; what is older than the table is given up."""
        self._asked += 1
        number, table, library = self._asked, self.table, self.library
        if not table.rows or not table.definition.bases:
            self.plan = None
            self.summary.setText("No members yet" if not table.rows else "Choose the part that members begin as")
            self.doubts.setText("")
            self._show_member()
            self._enable()
            return

        def work(task: Task) -> FamilyPlan:
            def listen(share: float, what: str) -> None:
                if number != self._asked:
                    raise CancelledError(f"cancelled while {what}")
                task.report(share, what)

            return plan_family(library, table, Task(listen))

        def done(plan: FamilyPlan) -> None:
            if number == self._asked:
                self._planned(plan)

        def failed(fault: Exception) -> None:
            if number == self._asked:
                self.summary.setText("The members cannot be made")
                self._say(fault)

        self.jobs.run_long("family", "Making members", work, done, failed)

    def _planned(self, plan: FamilyPlan) -> None:
        self.plan = plan
        words = [f"{plan.count(state)} {state}" for state in ("new", "changed", "same", "base", "fault")]
        told = ", ".join(word for word in words if not word.startswith("0 "))
        self.summary.setText(f"{counted(len(plan.members), 'member')}: {told}")
        found = sum(len(member.findings) for member in plan.members)
        self.doubts.setText("; ".join([*plan.doubts, *([counted(found, "finding")] if found else [])]))
        self.hint.setText(
            "Each row is a part. Edits are saved when you save the table, make working copies or release."
        )
        self._show_rows()
        self._enable()

    def _show_member(self) -> None:
        at, plan = self.rows.at, self.plan
        known = plan is not None and plan.table is self.table and 0 <= at < len(plan.members)
        self.member.show_member(plan.members[at] if plan and known else None)

    def _enable(self) -> None:
        writable = not self.library.read_only
        is_current = self.plan is not None and self.plan.table is self.table
        is_sound = is_current and self.plan is not None and self.plan.count("fault") == 0
        self.save_button.setEnabled(writable and self.table != self.stored and bool(self.table.name))
        self.keep_button.setEnabled(writable and is_sound and self.plan is not None and bool(self.plan.to_keep))
        self.release_button.setEnabled(writable and is_sound and bool(self.note.text().strip()))

    def save(self) -> None:
        """Keep the table with the library, without making its members."""
        table, stored = self.table, self.stored

        def done(_none: object) -> None:
            _take_stored(self, table, f"Family table {table.name} saved")

        self.jobs.run(
            "library",
            lambda: save_family(self.library, table, f"family table {table.name} saved", replaces=stored),
            done,
            self._say,
        )

    def keep(self) -> None:
        """Make working copies of the members that are new or change, and keep the table."""
        plan, stored = self.plan, self.stored
        if plan is None:
            return
        count = counted(len(plan.to_keep), "working copy", "working copies")
        self.keep_button.setEnabled(False)
        self.jobs.run_long(
            "release",
            f"Making {count}",
            lambda task: keep_members(self.library, plan, stored, task),
            lambda made: _take_stored(self, made, f"{count} made"),
            self._say,
        )

    def release(self) -> None:
        """Release all members that are new or change, and the table, together."""
        plan, stored, note = self.plan, self.stored, self.note.text().strip()
        if plan is None:
            return
        self.release_button.setEnabled(False)

        def failed(fault: Exception) -> None:
            self._say(fault)
            self._enable()

        def work(task: Task) -> tuple[FamilyTable, int]:
            made, released = release_members(self.library, plan, note, stored, task)
            return made, len(released)

        def done(found: tuple[FamilyTable, int]) -> None:
            self.note.clear()
            _take_stored(self, found[0], f"{counted(found[1], 'part')} released together")

        self.jobs.run_long("release", f"Releasing {self.table.name}", work, done, failed)


def _speaks_of(table: FamilyTable, part_id: str) -> bool:
    return any(base.part.id == part_id for base in table.definition.bases) or any(
        made.part == part_id for made in table.rows
    )


def _first_table(part: PartRow) -> FamilyTable:
    """A table whose members begin as a part: by their name, with what usually differs left to be said."""
    definition = FamilyDefinition(
        bases=(FamilyBase(Ref(part.id, part.name)),),
        columns=(FamilyColumn("Name", ("name", "fact.Part number")),),
        rules=(),
    )
    return FamilyTable(name="", definition=definition, rows=(FamilyRow({"Name": part.name}, part=part.id),))


def _take_stored(page: FamilyPage, table: FamilyTable, what: str) -> None:
    """The table is that of the library from now on."""
    page.stored = table
    page._show(table)
    names = sorted({*(page.names.itemText(i) for i in range(page.names.count())), table.name})
    set_choices(page.names, names)
    page.names.setEnabled(True)
    page.names.setCurrentText(table.name)
    page.context.said.emit(what)
    page.kept.emit()
