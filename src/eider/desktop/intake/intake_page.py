"""Intake: what arrived, drawn and held against the library; taken part by part, and nothing by itself."""

import tempfile
import threading
from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QComboBox, QFileDialog, QListWidget, QTabWidget

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row, set_choices
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.drawings.overlaid_drawings import overlaid
from eider.library import Library
from eider.model.intake import IntakeMap
from eider.model.wording import counted
from eider.services.arrivals import Arrival, look_into
from eider.services.intake import IntakePart, chosen_parts, held_against
from eider.services.intake_taking import IntakeTaken, take_parts
from eider.services.part_comparison import ComparedDrawing, compare_bundles
from eider.services.tasks import Task


class Looked(NamedTuple):
    """What arrived, its parts held against the library, and what is no part."""

    arrival: Arrival
    parts: tuple[IntakePart, ...]
    log: tuple[str, ...]


class IntakePage(SidePage):
    """Files and folders are chosen or dropped here; names and the category are the user's before anything is taken."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        # Archives are unpacked here. It goes with the page, beside the Qt thread.
        unpacked = tempfile.TemporaryDirectory(prefix="eider-intake-", ignore_cleanup_errors=True)
        self.destroyed.connect(lambda: threading.Thread(target=unpacked.cleanup).start())
        self._unpacked, self._rounds = Path(unpacked.name), 0
        self.looked: Looked | None = None
        self.mapping = IntakeMap(category=next(iter(library.settings.categories), ""))
        self.drawings: tuple[ComparedDrawing, ...] = ()
        self.setAcceptDrops(True)
        self.hint = label(
            "Drop files, folders or archives here, or choose them. Nothing is taken by itself.", wrap=True
        )
        self.category = QComboBox()
        self.category.setAccessibleName("Category of the parts")
        for key, entry in library.settings.categories.items():
            self.category.addItem(entry.title, key)
        self.category.activated.connect(lambda _index: self._take_category())
        self.table = RecordView[IntakePart](
            [
                Column("Name", lambda p: p.name, self._rename, fault=lambda p: p.doubts[0] if p.doubts else ""),
                Column("State", lambda p: p.state),
                Column("What there is", lambda p: ", ".join(p.found.kinds)),
                Column("Differs in", lambda p: str(len(p.differences) or ""), number=True),
                Column("From", lambda p: p.found.source),
            ],
            context.theme,
        )
        self.table.set_widths(190, 80, 190, 80)
        self.table.allow_sorting()
        self.table.entered_record.connect(self._show)
        self._build()

    def _build(self) -> None:
        self.new_button = button("Take all that is new", lambda: self.take(self._of_state("new")), main=True)
        self.take_button = button("Take the selected", lambda: self.take(self.table.selected()))
        self.what = QListWidget()
        self.what.setAccessibleName("What differs, is missing or is in doubt")
        self.what.setWordWrap(True)
        self.log = QListWidget()
        self.log.setAccessibleName("What was not understood or left out")
        self.log.setWordWrap(True)
        self.drawing_choice = QComboBox()
        self.drawing_choice.setAccessibleName("Which drawing")
        self.drawing_choice.setMinimumContentsLength(24)
        self.drawing_choice.activated.connect(lambda _index: self._draw())
        self.view = DrawingView(self.context.theme, "Choose a part that arrived.", self.context.jobs)
        self.legend = label("", "soft", wrap=True)
        self.tabs = QTabWidget()
        self.tabs.addTab(self.what, "This part")
        self.tabs.addTab(self.log, "Left out")
        left = column(
            flow(
                button("← Shelf", self.closed.emit),
                label("Intake", "head"),
                button("Choose files…", self._choose_files),
                button("Choose a folder…", self._choose_folder),
                label("Category", "soft"),
                self.category,
            ),
            self.hint,
            growing(self.table),
            row(self.take_button, 1, self.new_button),
        )
        right = column(self.drawing_choice, growing(self.view), self.legend, growing(self.tabs))
        fill_widget(self, panes(left, right, sizes=(760, 500)))
        self._enable()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        data = event.mimeData() if event else None
        if event and data and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        data = event.mimeData() if event else None
        paths = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()] if data else []
        if paths:
            self.look(paths)

    def _choose_files(self) -> None:
        names, _ = QFileDialog.getOpenFileNames(self, "Files with parts", str(self.library.folder.parent))
        if names:
            self.look([Path(name) for name in names])

    def _choose_folder(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "A folder with parts", str(self.library.folder.parent))
        if name:
            self.look([Path(name)])

    def look(self, paths: Sequence[Path]) -> None:
        """Read what is in files and folders, and hold it against the library."""
        self._rounds += 1
        mapping, unpacked = self.mapping, self._unpacked / str(self._rounds)

        def work(task: Task) -> Looked:
            arrival = look_into(paths, unpacked, task)
            return Looked(arrival, *held_against(self.library, arrival, mapping, task))

        self.jobs.run_long("imports", "Looking into what arrived", work, self.show_looked, self._say)

    def look_again(self) -> None:
        """Hold what arrived against the library as it is now, under the names that were given."""
        looked, mapping = self.looked, self.mapping
        if looked is None:
            return

        def work(task: Task) -> Looked:
            return Looked(looked.arrival, *held_against(self.library, looked.arrival, mapping, task))

        self.jobs.run_long("imports", "Comparing", work, self.show_looked, self._say)

    def show_looked(self, looked: Looked) -> None:
        """Parts with their states, and what was left out."""
        self.looked = looked
        counts = [(state, len(self._of_state(state))) for state in ("new", "differs", "renamed", "same")]
        states = ", ".join(f"{count} {state}" for state, count in counts if count)
        left = [*looked.arrival.log, *looked.log]
        told = f"{counted(len(looked.parts), 'part')}: {states}" if looked.parts else "No parts were found"
        self.hint.setText(f"{told}; {counted(len(left), 'thing')} left out" if left else told)
        self.log.clear()
        self.log.addItems(left)
        self.tabs.setTabText(1, f"Left out ({len(left)})" if left else "Left out")
        self.table.show_records(looked.parts)
        self.table.select_rows([0] if looked.parts else [])
        if not looked.parts:
            self.tabs.setCurrentIndex(1)
        self._enable()

    def _of_state(self, state: str) -> list[IntakePart]:
        return [part for part in self.looked.parts if part.state == state] if self.looked else []

    def _enable(self) -> None:
        can_write = not self.library.read_only
        self.new_button.setEnabled(can_write and bool(self._of_state("new")))
        self.take_button.setEnabled(can_write and bool(self.looked and self.looked.parts))

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _take_category(self) -> None:
        self.mapping = replace(self.mapping, category=str(self.category.currentData()))
        self.look_again()

    def _rename(self, part: IntakePart, text: str) -> None:
        """Another name for what arrived, in all that follows."""
        arrived = next((old for old, new in self.mapping.names.items() if new == part.name), part.name)
        if text.strip():
            self.mapping = replace(self.mapping, names={**self.mapping.names, arrived: text.strip()})
            self.look_again()

    def _show(self, part: IntakePart | None) -> None:
        self.what.clear()
        if part is None:
            self.drawings = ()
            self._draw()
            return
        self.what.addItems([f"Differs: {words}" for words in part.differences])
        self.what.addItems([f"Missing: {words}" for words in part.missing])
        self.what.addItems([f"In doubt: {words}" for words in part.doubts])
        library, name = self.library, part.name

        def work() -> tuple[ComparedDrawing, ...]:
            there = library.load(part.against) if part.against else part.draft
            return compare_bundles(there, part.draft, "the library", "what arrived").drawings

        def done(drawings: tuple[ComparedDrawing, ...]) -> None:
            record = self.table.record()
            if record is not None and record.name == name:
                self._show_drawings(drawings, is_new=not part.against)

        self.jobs.run("imports", work, done, self._say)

    def _show_drawings(self, drawings: tuple[ComparedDrawing, ...], *, is_new: bool) -> None:
        self.drawings = drawings
        set_choices(self.drawing_choice, [d.title if is_new or not d.is_same else f"{d.title}, same" for d in drawings])
        self.drawing_choice.setCurrentIndex(next((i for i, d in enumerate(drawings) if not d.is_same), 0))
        self.legend.setText("" if is_new else "Dashed: only in the library. Wide: only in what arrived. Pale: both.")
        self._draw()

    def _draw(self) -> None:
        index = self.drawing_choice.currentIndex()
        if not 0 <= index < len(self.drawings):
            self.view.show_drawing(None)
            return
        drawn = self.drawings[index]
        self.view.show_drawing(drawn.right if drawn.is_same else overlaid(drawn.left, drawn.right))

    def take(self, parts: Sequence[IntakePart]) -> None:
        """Make drafts, or next revisions, of parts; what the library has already is not taken again."""
        looked = self.looked
        wanted = chosen_parts(parts, [part.name for part in parts])
        if looked is None or not wanted:
            self.hint.setText("The library has all of this already.")
            return

        def work(task: Task) -> IntakeTaken:
            return take_parts(self.library, looked.arrival, wanted, task)

        def done(taken: IntakeTaken) -> None:
            self.context.said.emit("; ".join([f"{counted(len(taken.taken), 'part')} taken", *taken.log[:3]]))
            self.kept.emit()
            self.look_again()

        self.jobs.run_long("imports", "Taking parts", work, done, self._say)
