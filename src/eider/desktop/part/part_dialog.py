"""Finds another part, of this library or of another one, to take something from it."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtWidgets import QDialog, QFileDialog, QLineEdit, QListWidget, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, growing, label, row
from eider.library import Library, open_library
from eider.library.index.part_index import PartRow
from eider.model.bundle import Bundle

MOST = 200


class PartDialog(QDialog):
    """Search, choose, and hand the part on."""

    def __init__(
        self,
        title: str,
        controller: PartController,
        context: DesktopContext,
        then: Callable[[Bundle], None],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.controller, self._then = controller, then
        self.library = controller.library
        self._jobs = context.jobs.owned(self)
        self._rows: list[PartRow] = []
        self.search, self.list = QLineEdit(), QListWidget()
        self.search.setPlaceholderText("Part, value or package")
        self.search.textChanged.connect(self.look)
        self.search.returnPressed.connect(self.take)
        self.list.itemActivated.connect(lambda _item: self.take())
        self._where = label("", "soft", wrap=True)
        layout = QVBoxLayout(self)
        layout.addWidget(label(title, "head"))
        other = button("Another library…", self._choose_library)
        other.setAutoDefault(False)
        layout.addWidget(row(growing(self._where), other))
        layout.addWidget(self.search)
        layout.addWidget(self.list)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout.addWidget(row(1, cancel, button("Use this part", self.take, main=True)))
        self.resize(460, 400)
        self._show_library(self.library)

    def _choose_library(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "Another library", str(self.library.folder.parent))
        if folder:
            self.open_library(Path(folder))

    def open_library(self, folder: Path) -> None:
        """Search in another library from now on; where it cannot be opened, say why and stay."""
        self._jobs.run(
            "library", lambda: open_library(folder), self._show_library, lambda fault: self._where.setText(str(fault))
        )

    def _show_library(self, library: Library) -> None:
        self.library = library
        self._where.setText(f"in {library.settings.name}, {library.folder}")
        self.look(self.search.text())

    def look(self, words: str) -> None:
        """Search the library."""
        library, me = self.library, self.controller.bundle.part.id

        def done(found: Sequence[PartRow]) -> None:
            self._rows = [r for r in found if r.id != me][:MOST]
            self.list.clear()
            self.list.addItems([f"{r.name}   {r.package}   {r.description}" for r in self._rows])
            self.list.setCurrentRow(0)

        self._jobs.run("library", lambda: library.find_parts(words, limit=MOST + 1).rows, done)

    def take(self) -> None:
        """Load the part that is chosen, and hand it on."""
        index = self.list.currentRow()
        if not 0 <= index < len(self._rows):
            return
        part_id, library = self._rows[index].id, self.library
        self._jobs.run("library", lambda: library.load(part_id), self._loaded)

    def _loaded(self, bundle: Bundle) -> None:
        self._then(bundle)
        self.accept()
