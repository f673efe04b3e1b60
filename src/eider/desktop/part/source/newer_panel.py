"""Newer datasheet: what a newer document says of the values that were captured from the one before."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label
from eider.desktop.widgets.record_table import Column, RecordView
from eider.services.datasheet_opening import open_datasheet
from eider.services.datasheet_rechecking import ValueRecheck, move_evidence, recheck_values
from eider.services.tasks import Task

WORST_FIRST = ("gone", "differs", "elsewhere", "same")


class NewerPanel(QWidget):
    """`place_asked` tells document, page and box of the value in hand; `compared` how many were found, and are odd."""

    place_asked = pyqtSignal(str, int, object)
    compared = pyqtSignal(int, int)

    def __init__(self, controller: PartController, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__()
        self.controller, self.context, self._jobs = controller, context, jobs
        self.checked: list[ValueRecheck] = []
        self._sha = ""
        self.table = RecordView[ValueRecheck](
            [
                Column("Value of", lambda r: r.name),
                Column("As typed", lambda r: r.value),
                Column(
                    "In the newer datasheet",
                    lambda r: r.words,
                    fault=lambda r: r.words if r.found.outcome in ("differs", "gone") else "",
                ),
            ],
            context.theme,
        )
        self.table.set_widths(90, 100)
        self.table.entered_record.connect(self._show_found)
        about = label("What happened to the values captured before:", "soft", wrap=True)
        move = button("Move unchanged values to the new datasheet", self._move)
        fill_widget(self, column(about, growing(self.table), move, margins=4))

    def compare(self, old_sha: str, new_sha: str) -> None:
        """Look for what was captured from the older datasheet in the newer one."""
        bundle, library = self.controller.bundle, self.controller.library

        def work(task: Task) -> list[ValueRecheck]:
            old, new = open_datasheet(library, old_sha), open_datasheet(library, new_sha)
            try:
                return recheck_values(bundle, old_sha, old, new, task.report)
            finally:
                old.close()
                new.close()

        def done(found: list[ValueRecheck]) -> None:
            self.checked, self._sha = found, new_sha
            self.table.show_records(sorted(found, key=lambda c: WORST_FIRST.index(c.found.outcome)))
            self.compared.emit(len(found), sum(c.found.outcome in ("differs", "gone") for c in found))

        self._jobs.run_long("reading", "Comparing with the newer datasheet", work, done)

    def _move(self) -> None:
        who, checked, sha = self.context.person.name, self.checked, self._sha
        if checked:
            self.controller.edit(
                "Move unchanged values to the new datasheet", lambda b: move_evidence(b, checked, sha, who)
            )

    def _show_found(self, record: ValueRecheck | None) -> None:
        if record is not None and record.found.box:
            self.place_asked.emit(self._sha, record.found.page, record.found.box)
