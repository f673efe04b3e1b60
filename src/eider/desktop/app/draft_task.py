"""A new part from a datasheet: the document is read through, name and package are asked for, the draft is opened."""

from collections.abc import Mapping, Sequence
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QDialog, QFileDialog, QFormLayout, QLineEdit, QWidget

from eider.datasheets.documents.found_items import FOUND_WORDS, TABLES_READ, FoundItem
from eider.desktop.app.part_tasks import PartTasks
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, label, row
from eider.library import Library
from eider.model.wording import counted
from eider.services.datasheets.datasheet_contents import DatasheetContents, find_in_datasheet
from eider.services.datasheets.datasheet_drafts import (
    DatasheetDraft,
    DraftChoice,
    draft_from_datasheet,
    packages_found,
)
from eider.services.tasks import Task


class DraftDialog(QDialog):
    """`asked` tells the choice; whoever hears it closes the dialog, or shows a fault."""

    asked = pyqtSignal(object)

    def __init__(self, name: str, found: Sequence[FoundItem], categories: Mapping[str, str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("New part from a datasheet")
        self.name, self.category, self.package = QLineEdit(name), QComboBox(), QComboBox()
        for key, title in categories.items():
            self.category.addItem(title, key)
        self.package.addItems(packages_found(found))
        self.fault = label("", "wrong", wrap=True)
        self.act = button("Draft", self._done, main=True)
        self.act.setDefault(True)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout = QFormLayout(self)
        layout.addRow(label(found_words(found), wrap=True))
        layout.addRow("Name", self.name)
        layout.addRow("Category", self.category)
        if self.package.count() > 1:
            layout.addRow("Package", self.package)
        layout.addRow(self.fault)
        layout.addRow(row(1, cancel, self.act))
        self.setMinimumWidth(460)
        self.name.selectAll()

    def _done(self) -> None:
        self.fault.setText("")
        package = self.package.currentText() if self.package.count() > 1 else ""
        self.asked.emit(DraftChoice(self.name.text().strip(), str(self.category.currentData()), package))

    def show_fault(self, fault: str) -> None:
        """Say why it cannot be done."""
        self.fault.setText(fault)


def found_words(found: Sequence[FoundItem]) -> str:
    """What was found in a datasheet, for whoever is about to draft a part from it."""
    counts = [(sum(item.kind == kind for item in found), FOUND_WORDS[kind]) for kind in TABLES_READ]
    told = [counted(count, words, words.replace("table", "tables", 1)) for count, words in counts if count]
    return f"Found in this datasheet: {' and '.join(told)}." if told else "No table of pins or dimensions was found."


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
