"""Found in this datasheet: its tables and figures, each shown at its place, and read on request."""

from collections.abc import Mapping, Sequence
from contextlib import closing

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QListWidget, QMenu, QPushButton, QWidget

from eider.datasheets.documents.found_items import FOUND_WORDS, FoundItem, FoundKind
from eider.datasheets.documents.page_explanation import PageExplanation, explain_page, explanation_lines
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.library import Library
from eider.library.documents.attachments import DocumentKind
from eider.model.wording import counted
from eider.services.datasheets.datasheet_contents import DatasheetContents, find_in_datasheet
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.tasks import Task

ACTIONS: Mapping[FoundKind, str] = {
    "outline": "Keep this drawing", "lands": "Use these lands", "pinout": "Compare with pins",
}  # fmt: skip
# While a document is read the list is shown again no more often than this.
REFRESH_MS = 250


class FoundPanel(QWidget):
    """`place_asked` tells page and box of what is in hand, `read_asked` that a table is to be captured, `figure_asked`
    the sum of the document and the figure that is to be used; `listed` tells all that is in the list, `recognised` the
    sum and the pages that were recognised, `variant_asked` the sum and the package that a further part is to have;
    `explanation_asked` of which document it is to be shown how it was read (empty: of none), `page_explained` how."""

    place_asked = pyqtSignal(int, object)
    listed = pyqtSignal(object)
    read_asked = pyqtSignal(int, object)
    figure_asked = pyqtSignal(str, object)
    recognised = pyqtSignal(str, object)
    variant_asked = pyqtSignal(str, str)
    explanation_asked = pyqtSignal(str)
    page_explained = pyqtSignal(object)
    # From the thread that reads: of which document, and what.
    _arrived = pyqtSignal(str, object)

    def __init__(self, library: Library, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__()
        self._library, self._jobs = library, jobs
        # What was found in documents that were read through, by their sums.
        self._known: dict[str, DatasheetContents] = {}
        self._sha = ""
        self._so_far: list[FoundItem] = []
        self._arrived.connect(self._add)
        self._refresh = QTimer(self)
        self._refresh.setSingleShot(True)
        self._refresh.setInterval(REFRESH_MS)
        self._refresh.timeout.connect(self._show_so_far)
        self.about = label("Open a datasheet: its tables and figures are listed here.", "soft", wrap=True)
        self.table = RecordView[FoundItem](
            [
                Column("Page", lambda f: str(f.page), number=True),
                Column("What", lambda f: FOUND_WORDS[f.kind]),
                Column("Package", lambda f: f.package),
                Column("Rows", lambda f: str(f.rows), number=True),
                Column("Confidence", lambda f: f"{f.confidence:.0%}", number=True),
            ],
            context.theme,
        )
        self.table.setAccessibleName("Found in this datasheet")
        self.table.set_widths(46, 140, 90, 50)
        self.table.entered_record.connect(self._show_place)
        self.act = button("Read this table", self._read, main=True)
        self.act.setEnabled(False)
        self.variant = QPushButton("Variant in")
        self.variant.setMenu(QMenu(self.variant))
        self.variant.hide()
        self.explained = button("How the page was read", self._ask_explanation, checkable=True)
        self.lines = QListWidget()
        self.lines.setAccessibleName("How the page was read")
        self.lines.setWordWrap(True)
        self.lines.hide()
        tools = row(self.variant, self.explained, 1, self.act)
        fill_widget(self, column(self.about, growing(self.table), growing(self.lines), tools, margins=4))

    def _ask_explanation(self) -> None:
        is_asked = self.explained.isChecked()
        self.lines.setVisible(is_asked)
        self.explanation_asked.emit(self._sha if is_asked else "")

    def explain(self, page: int) -> None:
        """Explain how a page of the open datasheet was read; `page_explained` is emitted once that is known."""
        sha = self._sha

        def work() -> PageExplanation:
            with closing(open_datasheet(self._library, sha)) as datasheet:
                return explain_page(datasheet, page)

        def done(told: PageExplanation) -> None:
            if sha == self._sha and self.explained.isChecked():
                self.lines.clear()
                self.lines.addItems(explanation_lines(told))
                self.page_explained.emit(told)

        self._jobs.run("survey", work, done, lambda fault: self.lines.addItem(str(fault)))

    def show_packages(self, packages: Sequence[str]) -> None:
        """Offer a further part in each of the other packages of the datasheet."""
        menu = present(self.variant.menu())
        menu.clear()
        for package in packages:
            action = present(menu.addAction(f"Variant in {package}…"))
            action.triggered.connect(lambda _checked, package=package: self.variant_asked.emit(self._sha, package))
        self.variant.setVisible(bool(packages))

    @property
    def sha(self) -> str:
        """The SHA-256 of the open datasheet; empty without one."""
        return self._sha

    def look_through(self, sha: str) -> None:
        """Read a datasheet of the library through in the background, unless that was done before."""
        self._sha = sha
        if sha in self._known:
            self._show(sha)
            return
        self.table.show_records(())
        self.listed.emit(())
        self._so_far = []
        self.about.setText("Scanning the datasheet…")

        def work(task: Task) -> DatasheetContents:
            path = self._library.attachments.path(DocumentKind.DATASHEET, sha)
            return find_in_datasheet(path, task, lambda item: self._arrived.emit(sha, item))

        def done(contents: DatasheetContents) -> None:
            self._known[sha] = contents
            if sha == self._sha:
                self._show(sha)

        self._jobs.run_long("survey", "Reading the datasheet through", work, done, lambda f: self.about.setText(str(f)))

    def _add(self, sha: str, item: FoundItem) -> None:
        if sha == self._sha and sha not in self._known:
            self._so_far.append(item)
            if not self._refresh.isActive():
                self._refresh.start()

    def _show_so_far(self) -> None:
        """What was found up to now, while the rest is still being read."""
        if self._sha not in self._known and self._so_far:
            self.table.show_records(tuple(self._so_far))
            self.listed.emit(tuple(self._so_far))
            self.act.setEnabled(True)

    def _show(self, sha: str) -> None:
        contents = self._known[sha]
        found = contents.found
        self.recognised.emit(sha, contents.recognised)
        self.table.show_records(found)
        self.listed.emit(found)
        self.act.setEnabled(bool(found))
        none = "No tables or figures found: draw a rectangle around a table to read it."
        told = f"{counted(len(found), 'table or figure', 'tables and figures')}." if found else none
        self.about.setText(" ".join([told, *(f"{note[:1].upper()}{note[1:]}." for note in contents.page_notes)]))

    def _show_place(self, found: FoundItem | None) -> None:
        if found is not None:
            self.act.setText(ACTIONS[found.kind] if found.is_figure else "Read this table")
            self.place_asked.emit(found.page, found.box)

    def _read(self) -> None:
        found = self.table.record()
        if found is not None and found.is_figure:
            self.figure_asked.emit(self._sha, found)
        elif found is not None:
            self.read_asked.emit(found.page, found.box)
