"""The timeline of the library: who released what, when and why; every state can be opened, and all written down."""

from pathlib import Path

from PyQt6.QtCore import QDate, QTimer
from PyQt6.QtWidgets import QCheckBox, QDateEdit, QFileDialog, QLineEdit

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.library.git.revision_trailers import ItemRevision
from eider.model.wording import counted
from eider.services.releasing.library_history import TimelineFilter, item_name, library_timeline, write_audit

# So long after the last key (ms) the filters are followed.
PAUSE = 200


class TimelinePage(SidePage):
    """Filters over the revisions, the newest first."""

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.words, self.by = QLineEdit(), QLineEdit()
        self.words.setPlaceholderText("Words of name or note")
        self.words.setMinimumWidth(230)
        self.by.setPlaceholderText("Who")
        self.since = QDateEdit(QDate(2000, 1, 1))
        self.since.setDisplayFormat("yyyy-MM-dd")
        self.since.setCalendarPopup(True)
        self.since.setAccessibleName("From date")
        self.all_kinds = QCheckBox("Items too, not only parts")
        self.hint = label("", "soft", wrap=True)
        self.table = RecordView[ItemRevision](
            [
                Column("When", lambda r: r.at[:16].replace("T", " ")),
                Column("Who", lambda r: r.by),
                Column("Kind", lambda r: r.kind),
                Column("What", item_name),
                Column("Rev.", lambda r: str(r.revision), number=True),
                Column("Note", lambda r: r.note),
            ],
            context.theme,
        )
        self.table.set_widths(124, 160, 84, 230, 46)
        self.table.allow_sorting()
        self.table.doubleClicked.connect(lambda _index: self.open_state())
        self.open_button = button("Open this state (read-only)", self.open_state)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(PAUSE)
        self._timer.timeout.connect(self.load)
        for field in (self.words, self.by):
            field.textChanged.connect(lambda _text: self._timer.start())
        self.since.dateChanged.connect(lambda _date: self._timer.start())
        self.all_kinds.toggled.connect(lambda _on: self._timer.start())
        fill_widget(
            self,
            column(
                row(
                    button("← Shelf", self.closed.emit),
                    label("Timeline", "head"),
                    1,
                    button("Save for an audit…", self._choose_file),
                ),
                flow(self.words, self.by, label("since"), self.since, self.all_kinds),
                self.hint,
                growing(self.table),
                row(1, self.open_button),
            ),
        )

    def _wanted(self) -> TimelineFilter:
        kinds = () if self.all_kinds.isChecked() else ("part",)
        day = self.since.date().toString("yyyy-MM-dd")
        return TimelineFilter(kinds, self.by.text().strip(), day, self.words.text())

    def load(self) -> None:
        """Follow the filters."""
        wanted = self._wanted()
        self.jobs.run("library", lambda: library_timeline(self.library, wanted), self._show, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def _show(self, revisions: tuple[ItemRevision, ...]) -> None:
        self.hint.setText(counted(len(revisions), "revision"))
        self.table.show_records(revisions)

    def open_state(self) -> None:
        """Open the selected revision of a part to be read."""
        chosen: ItemRevision | None = self.table.record()
        if chosen is None:
            return
        if chosen.kind == "part":
            self.context.revision_asked.emit(chosen.id, chosen.revision)
        else:
            self.hint.setText(
                f"Open a part that uses {chosen.kind} {item_name(chosen)}; Where used… on the Shelf lists them."
            )

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Save the timeline", "audit.csv", "CSV (*.csv);;Workbook (*.xlsx)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write what is shown as CSV or as a workbook."""
        shown = tuple(self.table.records.records)
        self.jobs.run(
            "disk",
            lambda: write_audit(path, shown),
            lambda _done: self.hint.setText(f"{counted(len(shown), 'revision')} saved as {path}"),
            self._say,
        )
