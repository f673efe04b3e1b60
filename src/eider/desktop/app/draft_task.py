"""A new part from a datasheet: the document is read through, name and package are asked for, the draft is opened."""

from pathlib import Path

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.desktop.app.draft_dialog import DraftDialog
from eider.desktop.app.part_tasks import PartTasks
from eider.desktop.context import DesktopContext
from eider.library import Library
from eider.services.datasheet_drafts import (
    DatasheetContents,
    DatasheetDraft,
    DraftChoice,
    draft_from_datasheet,
    find_in_datasheet,
)
from eider.services.tasks import Task


class DraftTask(QObject):
    """Asks for a datasheet and drafts a part from it."""

    def __init__(self, library: Library, context: DesktopContext, tasks: PartTasks, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._context, self._tasks, self._window = library, context, tasks, window
        self.dialog: DraftDialog | None = None

    def choose(self) -> None:
        """Ask for the datasheet, then go on."""
        folder = str(self._library.folder.parent)
        name, _ = QFileDialog.getOpenFileName(self._window, "New part from a datasheet", folder, "Datasheets (*.pdf)")
        if name:
            self.read_through(Path(name))

    def read_through(self, path: Path) -> None:
        """Read a document through, then ask for name, category and package."""

        def work(task: Task) -> DatasheetContents:
            return find_in_datasheet(path, task)

        def ask(contents: DatasheetContents) -> None:
            categories = {key: entry.title for key, entry in self._library.settings.categories.items()}
            self.dialog = dialog = DraftDialog(path.stem, contents.found, categories, self._window)
            dialog.asked.connect(lambda choice: self._draft(path, contents, choice, dialog))
            dialog.open()

        self._context.jobs.run_long("survey", f"Reading {path.name} through", work, ask)

    def _draft(self, path: Path, contents: DatasheetContents, choice: DraftChoice, dialog: DraftDialog) -> None:
        def work(task: Task) -> DatasheetDraft:
            return draft_from_datasheet(self._library, path, choice, task, contents)

        def done(draft: DatasheetDraft) -> None:
            self._tasks.begin(lambda: draft.bundle, dialog.accept, dialog.show_fault)

        self._context.jobs.run_long(
            "survey", f"Drafting from {path.name}", work, done, lambda fault: dialog.show_fault(str(fault))
        )
