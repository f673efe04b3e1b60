"""Every cited value of the part read again in its datasheet, with one button; what is not the same is listed."""

from collections import Counter

from PyQt6.QtWidgets import QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.wording import counted
from eider.services.evidence_verification import Outcome, VerifiedValue, verify_bundle
from eider.services.tasks import Task

# How an outcome is called in a sentence, the worst first.
OUTCOMES: dict[Outcome, str] = {
    "differs": "read differently",
    "unreadable": "cannot be read",
    "moved": "moved on their page",
    "same": "same",
}
LEAST_HEIGHT = 120


class VerifyPanel(QWidget):
    """The button, the result in one line, and the values that are not the same."""

    def __init__(self, controller: PartController, context: DesktopContext, jobs: OwnedJobs) -> None:
        super().__init__()
        self._controller, self._jobs = controller, jobs
        self.act = button("Verify in the datasheets", self.verify)
        self.act.setToolTip("Read every cited value again from its place, and compare")
        self.told = label("", "soft", wrap=True)
        self.table = RecordView[VerifiedValue](
            [
                Column("Value of", lambda v: v.name),
                Column("Was", lambda v: v.was),
                Column("Reads now", lambda v: v.reads, fault=lambda v: OUTCOMES[v.outcome]),
                Column("Page", lambda v: str(v.page), number=True),
            ],
            context.theme,
        )
        self.table.setAccessibleName("Values that read differently")
        self.table.setMinimumHeight(LEAST_HEIGHT)
        self.table.hide()
        fill_widget(self, column(row(self.act, growing(self.told)), self.table, margins=0))

    def verify(self) -> None:
        """Read all cited values of the part again."""
        bundle, library = self._controller.bundle, self._controller.library
        self.act.setEnabled(False)
        self.told.setText("Reading the datasheets…")

        def work(task: Task) -> list[VerifiedValue]:
            return verify_bundle(library, bundle, task)

        self._jobs.run_long("reading", "Verifying values in the datasheets", work, self._show, self._failed)

    def _show(self, found: list[VerifiedValue]) -> None:
        counts: Counter[Outcome] = Counter(value.outcome for value in found)
        told = ", ".join(f"{counts[outcome]} {words}" for outcome, words in OUTCOMES.items() if counts[outcome])
        self.told.setText(f"{counted(len(found), 'cited value')}: {told}" if found else "No value cites a place yet.")
        odd = [value for value in found if value.outcome != "same"]
        self.table.show_records(sorted(odd, key=lambda value: list(OUTCOMES).index(value.outcome)))
        self.table.setVisible(bool(odd))
        self.act.setEnabled(True)

    def _failed(self, fault: Exception) -> None:
        self.told.setText(str(fault))
        self.act.setEnabled(True)
