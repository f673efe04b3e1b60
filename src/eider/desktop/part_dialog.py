"""Finds another part of the library, to take something from it."""

from collections.abc import Callable

from PyQt6.QtWidgets import QDialog, QLineEdit, QListWidget, QVBoxLayout, QWidget

from eider.desktop.controller import PartController
from eider.desktop.steps.base import Shared
from eider.desktop.widgets import button, label, row
from eider.library.index import PartRow
from eider.model.bundle import Bundle

MOST = 200


class PartDialog(QDialog):
    """Search, choose, and hand the part on."""

    def __init__(
        self, title: str, controller: PartController, shared: Shared, then: Callable[[Bundle], None], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.controller, self._then = controller, then
        self._jobs = shared.jobs.owned(self)
        self._rows: list[PartRow] = []
        self.search, self.list = QLineEdit(), QListWidget()
        self.search.setPlaceholderText("part, value or package")
        self.search.textChanged.connect(self.look)
        self.search.returnPressed.connect(self.take)
        self.list.itemActivated.connect(lambda _item: self.take())
        layout = QVBoxLayout(self)
        layout.addWidget(label(title, "head"))
        layout.addWidget(self.search)
        layout.addWidget(self.list)
        cancel = button("Cancel", self.reject)
        cancel.setAutoDefault(False)
        layout.addWidget(row(1, cancel, button("Take this part", self.take, main=True)))
        self.resize(460, 380)
        self.look("")

    def look(self, words: str) -> None:
        """Search the library."""
        library, me = self.controller.library, self.controller.bundle.part.id

        def done(found: list[PartRow]) -> None:
            self._rows = [r for r in found if r.id != me][:MOST]
            self.list.clear()
            self.list.addItems([f"{r.name}   {r.package}   {r.description}" for r in self._rows])
            self.list.setCurrentRow(0)

        self._jobs.run("library", lambda: library.search(words), done)

    def take(self) -> None:
        """Load the part that is chosen, and hand it on."""
        index = self.list.currentRow()
        if not 0 <= index < len(self._rows):
            return
        part_id = self._rows[index].id
        self._jobs.run("library", lambda: self.controller.library.load(part_id), self._loaded)

    def _loaded(self, bundle: Bundle) -> None:
        self._then(bundle)
        self.accept()
