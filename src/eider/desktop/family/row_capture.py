"""Rows captured from the datasheet's own table of members, each value with its place."""

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from eider.datasheets.tables.table_capture import capture_drawn
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row, set_choices
from eider.geometry.plane import Box
from eider.library import Library
from eider.model.family_table import FamilyColumn
from eider.model.item_ref import Ref
from eider.model.part import DatasheetLink
from eider.model.wording import counted
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.families.family_rows import ReadRows, rows_from_capture

HELP = "Draw a rectangle around the table that has a row or a column for each member."


class RowCapture(QWidget):
    """The datasheets of the bases; a rectangle around the family's table gives its rows."""

    captured = pyqtSignal(object)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self.library, self.context = library, context
        self.jobs = context.jobs.owned(self)
        self._who = context.person.name
        self._columns: tuple[FamilyColumn, ...] = ()
        self._bases: tuple[Ref, ...] = ()
        self.links: tuple[DatasheetLink, ...] = ()
        self._read: ReadRows | None = None
        self.documents, self.key = QComboBox(), QComboBox()
        self.documents.setAccessibleName("Datasheets of the bases")
        self.documents.activated.connect(lambda _i: self._open())
        self.key.setAccessibleName("The column that takes the member's designation")
        self.view = DatasheetView(context.theme, context.jobs)
        self.view.boxed.connect(self.read_box)
        self.say = label(HELP, "soft", wrap=True)
        self.use_button = button("Use these rows", self.use, main=True)
        self.use_button.setEnabled(False)
        fill_widget(
            self,
            column(
                row(self.documents, 1, label("Designation goes to", "soft"), self.key),
                growing(self.view),
                row(growing(self.say), self.use_button),
                margins=6,
            ),
        )

    def show_bases(self, bases: Sequence[Ref], columns: Sequence[FamilyColumn]) -> None:
        """Offer the datasheets of these parts; the rows go into these columns."""
        self._columns = tuple(columns)
        chosen = self.key.currentText()
        set_choices(self.key, [c.heading for c in columns])
        if chosen:
            self.key.setCurrentText(chosen)
        if tuple(bases) == self._bases:
            return
        self._bases = tuple(bases)

        def work() -> tuple[DatasheetLink, ...]:
            found: dict[str, DatasheetLink] = {}
            for base in bases:
                row = self.library.index.find(base.id or base.name)
                for link in self.library.load(row.id).part.datasheets if row else ():
                    found.setdefault(link.sha256, link)
            return tuple(found.values())

        self.jobs.run("library", work, self._offer, lambda fault: self.say.setText(str(fault)))

    def _offer(self, links: tuple[DatasheetLink, ...]) -> None:
        self.links = links
        set_choices(self.documents, [link.name for link in links])
        if links:
            self._open()
        else:
            self.view.show_nothing("The part that members begin as has no datasheet.")

    def _open(self) -> None:
        at = self.documents.currentIndex()
        if 0 <= at < len(self.links):
            link = self.links[at]
            self.view.open(DocumentToOpen(link.sha256, lambda: open_datasheet(self.library, link.sha256)))

    def read_box(self, page: int, box: Box) -> None:
        """Read the table in a rectangle."""
        document, sha256 = self.view.source.document, self.view.key
        if document is None:
            return
        self.view.show_rectangle(page, box)
        columns, key, who = self._columns, self.key.currentText(), self._who

        def work() -> ReadRows:
            return rows_from_capture(capture_drawn(document, page, box, "dimensions"), columns, key, sha256, who)

        def done(read: ReadRows) -> None:
            self._read = read
            self.use_button.setEnabled(True)
            self.say.setText("; ".join([f"{counted(len(read.rows), 'row')} read", *read.doubts]))

        def failed(fault: Exception) -> None:
            self._read = None
            self.use_button.setEnabled(False)
            self.say.setText(str(fault))

        self.jobs.run("reading", work, done, failed)

    def close_document(self) -> None:
        """Give the document back, before the page goes."""
        self.view.show_nothing("")

    def use(self) -> None:
        """Hand the rows on."""
        if self._read is not None:
            self.captured.emit(self._read)
