"""A new part from a datasheet: what is in it is shown as it is found, its name and package are asked for, and the draft
is opened."""

from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.datasheets import Datasheet
from eider.datasheets.pages.page_frame import around
from eider.desktop.app.draft_dialog import DraftDialog
from eider.desktop.app.part_tasks import PartTasks
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.images import to_image
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.services.datasheets.datasheet_contents import find_in_datasheet
from eider.services.datasheets.datasheet_drafts import DatasheetDraft, DraftChoice, draft_from_datasheet
from eider.services.datasheets.draft_offer import DraftOffer, draft_offer
from eider.services.tasks import Task

# Pixels per PDF point of the outlines in the choice.
SCALE = 2.0


class DraftTask(QObject):
    """Asks for a datasheet and drafts a part from it."""

    # From the thread that reads: the dialog, and what was found or which page is read.
    _found = pyqtSignal(object, object)
    _reading = pyqtSignal(object, str)
    _outlined = pyqtSignal(object, str, QImage)

    def __init__(self, library: Library, context: DesktopContext, tasks: PartTasks, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._context, self._tasks, self._window = library, context, tasks, window
        self.dialog: DraftDialog | None = None
        self._found.connect(lambda dialog, item: self._while_open(dialog, lambda: dialog.add_found(item)))
        self._reading.connect(lambda dialog, told: self._while_open(dialog, lambda: dialog.show_page(told)))
        self._outlined.connect(lambda d, name, image: self._while_open(d, lambda: d.show_outline(name, image)))

    def choose(self) -> None:
        """Ask for the datasheet, then go on."""
        folder = str(self._library.folder.parent)
        name, _ = QFileDialog.getOpenFileName(self._window, "New part from a datasheet", folder, "Datasheets (*.pdf)")
        if name:
            self.read_through(Path(name))

    def read_through(self, path: Path, file_name: str = "", name: str = "", package: str = "") -> None:
        """Read a document through, showing what is found, then let name, category and package be chosen.

        `file_name` is what it is called, where the file itself is kept by its sum; `name` and `package` are proposed.
        """
        file_name = file_name or path.name
        categories = {key: entry.title for key, entry in self._library.settings.categories.items()}
        self.dialog = dialog = DraftDialog(file_name, name or Path(file_name).stem, categories, self._window)
        dialog.open()

        reading: list[Task] = []

        def stop() -> None:
            for task in reading:
                task.cancel()

        dialog.rejected.connect(stop)

        def work(task: Task) -> DraftOffer:
            reading.append(task)
            heard = _HeardTask(task, lambda told: self._reading.emit(dialog, told))
            return draft_offer(path, find_in_datasheet(path, heard, lambda item: self._found.emit(dialog, item)))

        def ask(offer: DraftOffer) -> None:
            self._while_open(dialog, lambda: self._ask(path, offer, name, package, dialog))

        def failed(fault: Exception) -> None:
            self._while_open(dialog, lambda: dialog.show_fault(str(fault)))

        self._context.jobs.run_long("survey", f"Reading {file_name} through", work, ask, failed)

    def draft_variant(self, sha256: str, file_name: str, name: str, package: str) -> None:
        """Draft a further part from a datasheet of the library, in another of its packages."""
        path = self._library.attachments.path(DocumentKind.DATASHEET, sha256)
        self.read_through(path, file_name, f"{name}-{package}", package)

    def _ask(self, path: Path, offer: DraftOffer, name: str, package: str, dialog: DraftDialog) -> None:
        dialog.show_offer(offer, package)
        if name:
            dialog.name.setText(name)
        dialog.asked.connect(lambda choice: self._draft(path, offer, choice, dialog))
        self._context.jobs.run("survey", lambda: self._draw_outlines(path, offer, dialog), lambda _done: None)

    def _draw_outlines(self, path: Path, offer: DraftOffer, dialog: DraftDialog) -> None:
        with closing(Datasheet(path)) as datasheet:
            for one in offer.packages:
                if one.outline is not None:
                    try:
                        pixels = datasheet.snippet(one.outline.page, around(one.outline.box), SCALE)
                    except EiderError:
                        continue
                    self._outlined.emit(dialog, one.package.name, to_image(pixels))

    def _draft(self, path: Path, offer: DraftOffer, choice: DraftChoice, dialog: DraftDialog) -> None:
        def work(task: Task) -> DatasheetDraft:
            return draft_from_datasheet(self._library, path, choice, task, offer.contents)

        def done(draft: DatasheetDraft) -> None:
            self._tasks.begin(lambda: draft.bundle, dialog.accept, dialog.show_fault)

        self._context.jobs.run_long(
            "survey", f"Drafting from {path.name}", work, done, lambda fault: dialog.show_fault(str(fault))
        )

    def _while_open(self, dialog: DraftDialog, show: Callable[[], None]) -> None:
        """Show something in a dialog that the user has not closed meanwhile."""
        if dialog is self.dialog and dialog.isVisible():
            show()


class _HeardTask(Task):
    """A task whose reports someone else hears as well."""

    def __init__(self, task: Task, hear: Callable[[str], None]) -> None:
        super().__init__()
        self._task, self._hear = task, hear

    def report(self, share: float, what: str) -> None:
        """As `Task.report`."""
        self._hear(what)
        self._task.report(share, what)
