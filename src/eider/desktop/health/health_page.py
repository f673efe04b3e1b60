"""How the library is: each figure leads to its parts, and what is in it twice is merged."""

from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QListWidget, QListWidgetItem

from eider.desktop.context import DesktopContext
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.desktop.widgets.side_page import SidePage
from eider.library import Library
from eider.library.index.item_reader import ItemHead
from eider.model.wording import counted
from eider.reports.health_figures import FoundTwice, LibraryHealth
from eider.reports.health_page import share_words
from eider.services.checking.duplicates import merge_items, merged_words
from eider.services.checking.library_health import library_health, save_report
from eider.services.tasks import Task


class HealthRow(NamedTuple):
    """One figure of the table: what, how many, of what group, and the parts it speaks of."""

    group: str
    what: str
    number: int
    parts: tuple[str, ...]
    twice: FoundTwice | None = None


class HealthPage(SidePage):
    """Measured in the background; double-clicking a part opens it."""

    part_asked = pyqtSignal(str)

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__(library, context)
        self.health: LibraryHealth | None = None
        self.sums = label("", "number")
        self.hint = label("", "soft", wrap=True)
        self.table = RecordView[HealthRow](
            [
                Column("Of", lambda r: r.group),
                Column("What", lambda r: r.what),
                Column("How many", lambda r: str(r.number), number=True),
            ],
            context.theme,
        )
        self.table.set_widths(120, 560, 90)
        self.table.allow_sorting()
        self.table.entered_record.connect(self._show)
        self.chosen = label("", "head", wrap=True)
        self.parts = QListWidget()
        self.parts.setAccessibleName("Affected parts")
        self.parts.itemActivated.connect(self._open)
        self.merge_button = button("Merge into the first", self.merge)
        self.merge_button.setEnabled(False)
        self.save_button = button("Save as a page…", self._choose_file)
        self.save_button.setEnabled(False)
        left = column(
            row(button("← Shelf", self.closed.emit), label("Health of the library", "head"), 1, self.save_button),
            self.sums,
            self.hint,
            growing(self.table),
        )
        right = column(self.chosen, growing(self.parts), row(1, self.merge_button))
        fill_widget(self, panes(left, right, sizes=(880, 390)))

    def measure(self) -> None:
        """Look at all parts, with progress."""

        def work(task: Task) -> LibraryHealth:
            return library_health(self.library, task)

        self.hint.setText("Looking at all parts…")
        self.jobs.run_long("library", "Health", work, self.show_health, self._say)

    def _say(self, fault: Exception) -> None:
        self.hint.setText(str(fault))

    def show_health(self, health: LibraryHealth) -> None:
        """The figures that say something; those of which there are none are left out."""
        self.health = health
        self.sums.setText(f"{share_words(health.covered, health.values)} of the values have evidence")
        confirmed = share_words(health.confirmed, health.values)
        told = [f"{counted(health.parts, 'part')}, {counted(health.values, 'value')}; {confirmed} confirmed"]
        if len(health.days) > 1:
            day = health.days[-2]
            told.append(f"on {day.day}: {share_words(day.covered, day.values)} with evidence, {_words(day.findings)}")
        told += [f"not read: {line}" for line in health.unreadable]
        self.hint.setText("; ".join(told))
        rows = [HealthRow("Parts", f.title, f.count, f.parts) for f in health.figures if f.count]
        rows += [HealthRow(c.severity.capitalize(), f"Failed: {c.title}", c.count, c.parts) for c in health.checks]
        rows += [HealthRow("Duplicates", d.words, len(d.names), _users(d), d) for d in health.duplicates]
        self.table.show_records(rows)
        self.save_button.setEnabled(True)
        self.table.select_rows([0] if rows else [])

    def _show(self, record: HealthRow | None) -> None:
        self.parts.clear()
        self.chosen.setText(record.what if record else "")
        for name in record.parts if record else ():
            self.parts.addItem(QListWidgetItem(name))
        twice = record.twice if record else None
        self.merge_button.setEnabled(twice is not None and twice.kind != "part" and not self.library.read_only)
        self.merge_button.setToolTip(
            f"Parts that use {', '.join(twice.names[1:])} will use {twice.names[0]}, as working copies"
            if twice and twice.kind != "part"
            else ""
        )

    def _open(self, item: QListWidgetItem) -> None:
        name = item.text()
        self.jobs.run("library", lambda: self.library.find(name).id, self.part_asked.emit, self._say)

    def merge(self) -> None:
        """Make working copies of the parts that use the other items, so that all use the first."""
        record = self.table.record()
        if record is None or record.twice is None:
            return
        kind = record.twice.kind
        heads = [ItemHead(i, kind, name) for i, name in zip(record.twice.ids, record.twice.names, strict=True)]

        def work(task: Task) -> list[str]:
            return [merged_words(heads[0], o, merge_items(self.library, heads[0], o, task)) for o in heads[1:]]

        def done(told: list[str]) -> None:
            self.hint.setText("; ".join(told))
            self.kept.emit()

        self.jobs.run_long("disk", "Merging", work, done, self._say)

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Save the report", "health.html", "Page (*.html);;Data (*.json)")
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write what is shown as a page or as data, by the suffix of the name."""
        if (health := self.health) is not None:
            self.jobs.run(
                "disk",
                lambda: save_report(path, health),
                lambda _done: self.hint.setText(f"Saved as {path}"),
                self._say,
            )


def _users(twice: FoundTwice) -> tuple[str, ...]:
    if twice.kind == "part":
        return twice.names
    return tuple(name for users in twice.users for name in users)


def _words(findings: dict[str, int]) -> str:
    return ", ".join(counted(count, severity) for severity, count in findings.items())
