"""The rulebook editor: values beside the standard's, what a change would do to the library, and keeping it."""

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QLineEdit, QListWidget, QWidget

from eider.commands.lands.rulebook_draft import RulebookDraft, editor_sections, section_rows, with_change
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.stored_rulebooks import (
    STANDARD,
    new_rulebook,
    rulebook_history,
    rulebook_names,
    save_rulebook,
)
from eider.library.git.revision_trailers import ItemRevision
from eider.model.wording import counted
from eider.rulebooks import Rulebook
from eider.rulebooks.rule_rows import RuleRow
from eider.rulebooks.rulebook import standard_text
from eider.services.releasing.rulebook_effects import RulebookEffect, RulebookEffects, open_draft, rulebook_effects

# The library is looked through when nothing has been typed for so long (ms).
REST = 350


class EffectsPanel(QWidget):
    """Shows the effects of one draft at a time; what comes back for an older one is dropped."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self._library, self._context = library, context
        self._jobs = context.jobs.owned(self)
        self._draft: RulebookDraft | None = None
        self.effects: RulebookEffects | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(REST)
        self._timer.timeout.connect(self._look)
        self.summary = label("", "soft", wrap=True)
        self.found = RecordView[RulebookEffect](
            [
                Column("Part", lambda e: e.part),
                Column("Pads", lambda e: str(e.pads or ""), number=True),
                Column("Largest change, mm", lambda e: f"{e.most:.3f}" if e.pads else "", number=True),
                Column("Courtyard", lambda e: e.besides, fault=lambda e: e.fault),
            ],
            context.theme,
        )
        self.found.set_widths(82, 42, 60)
        self.examples = label("", "soft", wrap=True)
        fill_widget(
            self,
            column(label("Effect on the library", "head"), self.summary, growing(self.found), self.examples, margins=0),
        )

    def look_at(self, draft: RulebookDraft) -> None:
        """Look through the library as soon as the draft rests."""
        self._draft = draft
        self.summary.setText("Looking through the library…")
        self._timer.start()

    def _look(self) -> None:
        draft, library = self._draft, self._library
        if draft is None:
            return

        def done(found: RulebookEffects) -> None:
            if draft == self._draft:
                self._show(draft, found)

        self._jobs.run_long(
            "rules", "What the changes affect", lambda task: rulebook_effects(library, draft, task), done
        )

    def _show(self, draft: RulebookDraft, found: RulebookEffects) -> None:
        self.effects = found
        name, used = draft.name, found.looked_at
        changing = f"{len(found.changed)} of {counted(used, 'footprint')} that use {name} would change."
        self.summary.setText(
            changing if draft.changes else f"{counted(used, 'footprint uses', 'footprints use')} {name}."
        )
        self.found.show_records(found.changed)
        names = "; ".join(f"{part}: {name}" for part, name in found.examples[:3])
        self.examples.setText(f"Resulting names: {names}" if names else "")
        self._context.said.emit(self.summary.text())


class _Opened(NamedTuple):
    """A rulebook as it was read: its draft, the names of all, its revisions."""

    draft: RulebookDraft
    names: list[str]
    history: tuple[ItemRevision, ...]


class RulebookPage(SidePage):
    """One rulebook at a time; nothing is kept before *Keep*."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self._undone: list[RulebookDraft] = []
        self._done: list[RulebookDraft] = []
        # Drafts of other rulebooks with changes that are not saved, by name.
        self._drafts: dict[str, RulebookDraft] = {}
        self.draft = RulebookDraft(STANDARD, standard_text())
        self.affected = EffectsPanel(library, context)
        fill_widget(self, panes(self._left(), self._middle(), self._right(), sizes=(172, 722, 378)))
        self.sections.addItems(editor_sections())
        self.sections.setCurrentRow(0)

    def _left(self) -> QWidget:
        self.names, self.sections = QListWidget(), QListWidget()
        self.names.setAccessibleName("Rulebooks of the library")
        self.names.setMaximumHeight(120)
        self.names.currentTextChanged.connect(self._open)
        self.sections.setAccessibleName("Sections of the rulebook")
        self.sections.currentRowChanged.connect(lambda _row: self._show_rows())
        self.new_name = QLineEdit()
        self.new_name.setPlaceholderText("Name of the new rulebook")
        self.new_name.returnPressed.connect(self._begin)
        new = row(self.new_name, button("Create", self._begin))
        return column(
            button("← Shelf", self.closed.emit),
            label("Rulebook", "head"),
            self.names,
            new,
            label("Section", "head"),
            growing(self.sections),
        )

    def _middle(self) -> QWidget:
        self.title = label("", "head")
        self.table = RecordView[RuleRow](
            [
                Column("Applies to", lambda r: _group(r, self.table.records.records)),
                Column("Rule", lambda r: f"{r.title}{f', {r.unit}' if r.unit else ''}", fault=_doubt),
                *(_value_column(index, self._change) for index in range(3)),
                Column("Standard", lambda r: " / ".join(r.standard)),
                Column("Saved", self._kept),
            ],
            self.context.theme,
        )
        self.table.set_widths(180, 142, 62, 42, 42, 126)
        self.hint = label("", "soft", wrap=True)
        return column(self.title, growing(self.table), self.hint)

    def _right(self) -> QWidget:
        self.note = QLineEdit()
        self.note.setPlaceholderText("Why the rules change")
        self.note.setAccessibleName("Why the rules change")
        self.note.returnPressed.connect(self.keep)
        self.keep_button = button("Save", self.keep, main=True)
        self.history = QListWidget()
        self.history.setMaximumHeight(110)
        self.history.setAccessibleName("Saved revisions")
        return column(
            growing(self.affected),
            row(self.note, self.keep_button, button("Discard", self.discard)),
            label("Revisions", "head"),
            self.history,
        )

    def open_rulebook(self, name: str = "") -> None:
        """Show a rulebook by its name; the library's own choice without one. Unsaved changes of both stay."""
        library = self.library
        wanted = name or library.settings.rulebook

        def load() -> _Opened:
            names = rulebook_names(library)
            found = wanted if wanted in names else STANDARD
            return _Opened(open_draft(library, found), names, rulebook_history(library, found))

        self.jobs.run("library", load, self._opened)

    def _opened(self, opened: _Opened) -> None:
        self._done.clear()
        self._undone.clear()
        if self.draft.changes:
            self._drafts[self.draft.name] = self.draft
        kept = self._drafts.pop(opened.draft.name, None)
        # What was saved meanwhile is under a draft no longer.
        self.draft = kept if kept is not None and kept.text == opened.draft.text else opened.draft
        self.names.blockSignals(True)
        self.names.clear()
        self.names.addItems(opened.names)
        self.names.setCurrentRow(opened.names.index(opened.draft.name))
        self.names.blockSignals(False)
        self.history.clear()
        self.history.addItems([f"{entry.at[:10]}  {entry.by}: {entry.note}" for entry in reversed(opened.history)])
        if not opened.history:
            self.history.addItem("Standard (ships with Eider)")
        self._refresh()

    def unsaved(self) -> str:
        changes = sum(len(draft.changes) for draft in (self.draft, *self._drafts.values()))
        return f"Rulebook: {counted(changes, 'change')}" if changes else ""

    def _open(self, name: str) -> None:
        if name and name != self.draft.name:
            self.open_rulebook(name)

    def _begin(self) -> None:
        name, origin, library = self.new_name.text().strip(), self.draft.name, self.library

        def done(_rulebook: Any) -> None:
            self.new_name.clear()
            self.open_rulebook(name)
            self.kept.emit()

        self.jobs.run("library", lambda: new_rulebook(library, name, origin), done)

    def _change(self, path: str, text: str) -> None:
        try:
            made = with_change(self.draft, path, text)
        except EiderError as fault:
            self.context.said.emit(str(fault))
            self._show_rows()
            return
        if made != self.draft:
            self._put(made)

    def _put(self, draft: RulebookDraft) -> None:
        self._done.append(self.draft)
        self._undone.clear()
        self.draft = draft
        self._refresh()

    def label_of(self, _which: str) -> str:
        """What steps back and forward are taken in."""
        return self.draft.name

    def undo(self) -> bool:
        """One change back; whether there was one."""
        return self._step(self._done, self._undone)

    def redo(self) -> bool:
        """One change forward again; whether there was one."""
        return self._step(self._undone, self._done)

    def _step(self, source: list[RulebookDraft], target: list[RulebookDraft]) -> bool:
        if not source:
            return False
        target.append(self.draft)
        self.draft = source.pop()
        self._refresh()
        return True

    def discard(self) -> None:
        """Back to what is kept."""
        if self.draft.changes:
            self._put(RulebookDraft(self.draft.name, self.draft.text))

    def keep(self) -> None:
        """Keep the changes as the next revision."""
        if not self.draft.changes:
            self.context.said.emit("There are no changes to save.")
            return
        draft, note, library = self.draft, self.note.text(), self.library

        def done(rulebook: Rulebook) -> None:
            self.note.clear()
            self.draft = RulebookDraft(draft.name, draft.changed_text)
            self.open_rulebook(draft.name)
            self.kept.emit()
            self.context.said.emit(f"Rulebook {draft.name} saved as revision {rulebook.revision}")

        self.jobs.run("library", lambda: save_rulebook(library, draft.name, draft.changed_text, note), done)

    def _refresh(self) -> None:
        rulebook = self.draft.rulebook
        self._show_rows()
        for index, section in enumerate(editor_sections()):
            own = sum(r.differs for r in section_rows(rulebook, section))
            item = self.sections.item(index)
            if item is not None:
                item.setText(f"{section} ({own})" if own else section)
        count = len(self.draft.changes)
        changed = f", {counted(count, 'change')} not saved yet" if count else ""
        self.title.setText(f"{self.draft.name}, revision {self.draft.kept.revision}{changed}")
        self.keep_button.setEnabled(bool(count) and not self.library.read_only)
        self.affected.look_at(self.draft)

    def _show_rows(self) -> None:
        index = max(self.sections.currentRow(), 0)
        rows = section_rows(self.draft.rulebook, editor_sections()[index])
        self.table.show_records(rows)
        has_groups, has_levels = any(r.group for r in rows), any(len(r.values) == 3 for r in rows)
        is_changed = any(path in self.draft.changes for r in rows for path in r.paths)
        self.table.hide_columns("Applies to", hidden=not has_groups)
        self.table.hide_columns("B", "C", hidden=not has_levels)
        self.table.hide_columns("Saved", hidden=not is_changed)
        self.table.setColumnWidth(self.table.column_of("Applies to"), 180 if is_changed else 196)
        self.table.setColumnWidth(self.table.column_of("Rule"), 142 if has_groups else 290)
        value = self.table.column_of("A")
        self.table.set_title(value, "A" if has_levels else "Value")
        self.table.setColumnWidth(value, 42 if has_levels else 190)
        template = editor_sections()[index] in ("Orientation and names", "Names by family")
        self.hint.setText(TEMPLATES if template else GOAL_HINT if index == 0 else "")

    def _kept(self, record: RuleRow) -> str:
        if not any(path in self.draft.changes for path in record.paths):
            return ""
        section = editor_sections()[max(self.sections.currentRow(), 0)]
        before = next((r for r in section_rows(self.draft.kept, section) if r.paths == record.paths), None)
        return " / ".join(v or "empty" for v in before.values) if before else ""


TEMPLATES = (
    "Fields of a template: {standard}, {level} (M N L), {density} (A B C), {pins}, {family}, {kind}, and the letters "
    "of the sheet: {E} is 640 for 6.40 mm, {E:tenths} 64, {E:mm} 6.4. Examples are shown on the right."
)
GOAL_HINT = "Fillet goals per side. The first row whose limits fit a package applies. Red: a figure to check first."


def _doubt(record: RuleRow) -> str:
    return "" if record.sure else "this figure of the standard is uncertain; check it first"


def _value_column(index: int, change: Callable[[str, str], None]) -> Column[RuleRow]:
    """The value of a rule, or that of its level A, B or C, which `change` puts at its path."""

    def show(record: RuleRow) -> str:
        return record.values[index] if index < len(record.values) else ""

    def put(record: RuleRow, text: str) -> None:
        if index < len(record.paths):
            change(record.paths[index], text)

    def choices(record: RuleRow) -> tuple[str, ...]:
        return record.choices if index < len(record.paths) else ()

    def is_own(record: RuleRow) -> bool:
        context = index < len(record.values) and index < len(record.standard)
        return context and record.values[index] != record.standard[index]

    made = Column("ABC"[index], show, put, number=True, at_end=True).bold_where(is_own)
    made.choices = choices
    return made


def _group(record: RuleRow, records: Sequence[RuleRow]) -> str:
    """What a row is of, once for all rows that are of it."""
    rows = [r for r in records if r.group == record.group]
    return record.group if rows and rows[0] is record else ""
