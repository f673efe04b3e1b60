"""What the window does with parts that are not open: begin one, compare its revisions, export its newest release."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from eider.commands import new_parts
from eider.commands.evaluation import EvaluationRules
from eider.desktop.app.dialogs import DifferencesDialog, NameDialog
from eider.desktop.context import DesktopContext
from eider.desktop.part import export_job as exports
from eider.library import Library
from eider.library.revision_compare import Difference
from eider.model.bundle import Bundle
from eider.services.exporting import documents_of
from eider.services.part_opening import begin_part, newest_differences
from eider.services.releasing import rules_for
from eider.views.part_state import PartState


class PartTasks(QObject):
    """Asks what has to be asked and does the work elsewhere; `begun` gives a new part that is to be opened."""

    begun = pyqtSignal(object)

    def __init__(self, library: Library, context: DesktopContext, window: QWidget) -> None:
        super().__init__(window)
        self._library, self._context, self._window = library, context, window
        self.dialog: NameDialog | None = None
        self.differences: DifferencesDialog | None = None

    def new_part(self) -> None:
        """Ask for name and category, and begin a part."""
        settings = self._library.settings
        self._ask("New part", lambda name, category: new_parts.new_part(name, category, settings), category=True)

    def copy_part(self, part_id: str) -> None:
        """Begin a new part as a copy of one that is there."""

        def loaded(bundle: Bundle) -> None:
            title = f"Start from {bundle.part.name}"
            self._ask(title, lambda name, _category: new_parts.start_from_part(bundle, name), category=False)

        self._context.jobs.run("library", lambda: self._library.load(part_id), loaded)

    def _ask(self, title: str, make: Callable[[str, str], Bundle], *, category: bool) -> None:
        """Ask for the name of a new part, and begin it; what is wrong with the name is told in the dialog."""
        self.dialog = dialog = NameDialog(title, self._library.settings, self._window, category=category)
        dialog.named.connect(lambda name, key: self.begin(lambda: make(name, key), dialog.accept, dialog.show_fault))
        dialog.open()

    def begin(self, make: Callable[[], Bundle], then: Callable[[], object], refuse: Callable[[str], object]) -> None:
        """Make a part; `refuse` is told why it cannot be, for instance that its name is taken."""

        def done(state: PartState) -> None:
            then()
            self.begun.emit(state)

        def failed(fault: Exception) -> None:
            refuse(str(fault))

        self._context.jobs.run("library", lambda: begin_part(self._library, make), done, failed)

    def compare_part(self, part_id: str) -> None:
        """Compare the newest revision of a part with the one before, or with what is being worked on."""

        def done(found: tuple[str, list[Difference]]) -> None:
            self.differences = DifferencesDialog(*found, self._window)
            self.differences.open()

        self._context.jobs.run("library", lambda: newest_differences(self._library, part_id), done)

    def export_part(self, part_id: str) -> None:
        """Export the newest release of a part into a folder that the user chooses."""
        folder = QFileDialog.getExistingDirectory(self._window, "Export into this folder")
        if folder:
            self.export_to(part_id, Path(folder))

    def export_to(self, part_id: str, folder: Path) -> None:
        """Export the newest release of a part; what is not released cannot be taken."""

        def load() -> tuple[Bundle, EvaluationRules, dict[str, str]]:
            bundle = self._library.load_release(part_id)
            return bundle, rules_for(self._library, bundle), documents_of(self._library, bundle)

        exports.run_export(self._context.jobs, "Exporting", load, folder, self._context.said.emit)
