"""All findings by step, and the waivers of those that are accepted with a reason."""

from collections import Counter

from PyQt6.QtWidgets import QLineEdit, QListWidget, QWidget

from eider.commands.parts import review_edits
from eider.desktop.context import DesktopContext
from eider.desktop.jobs import OwnedJobs
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.findings_list import FindingsList
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.finding import Finding
from eider.model.wording import counted
from eider.services.datasheets.evidence_verification import Outcome, VerifiedValue, verify_bundle
from eider.services.tasks import Task
from eider.views.step_registry import all_steps, step_of
from eider.views.steps.review import ReviewView

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


class FindingsPanel(QWidget):
    """A click on a blocker leads to where it is corrected, one on a caution or note to the reason for accepting it."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self._controller, self._context = controller, context
        self._chosen: Finding | None = None
        titles = {step.key: step.title for step in all_steps().values()}
        self.findings = FindingsList(context.theme, with_step=lambda f: titles[step_of(f)])
        self.findings.quick_fix_asked.connect(controller.apply_quick_fix)
        self.findings.chosen.connect(self._choose)
        self._summary = label("", "number", wrap=True)
        self.reason = QLineEdit()
        self.reason.setPlaceholderText("Click a caution or note, then give the reason for accepting it")
        self.waivers = QListWidget()
        self.waivers.setMaximumHeight(70)
        fill_widget(
            self,
            column(
                self._summary,
                growing(self.findings),
                label("Waivers", "head"),
                row(self.reason, button("Accept", self._waive)),
                self.waivers,
                row(button("Withdraw the selected waiver", self._withdraw), 1),
                margins=4,
            ),
        )

    def show_view(self, view: ReviewView) -> None:
        """Show findings and waivers."""
        self.findings.show_findings(self._controller.findings)
        self._summary.setText(view.summary)
        self.waivers.clear()
        self.waivers.addItems([f"{w.check}: {w.reason} ({w.by})" for w in view.waivers])

    def _choose(self, finding: Finding) -> None:
        self._chosen = finding
        if finding.severity == "blocker":
            self._context.step_asked.emit(step_of(finding), finding.address)
        else:
            self.reason.setFocus()
        self.reason.setPlaceholderText(f"why is “{finding.message[:48]}” accepted?")

    def _waive(self) -> None:
        finding, reason = self._chosen, self.reason.text()
        if finding is None:
            self._context.said.emit("Click the caution or note to accept")
            return
        who = self._context.person.name
        self._controller.edit("Accept a finding", lambda b: review_edits.waive(b, finding, reason, who))
        self.reason.clear()

    def _withdraw(self) -> None:
        index, waivers = self.waivers.currentRow(), self._controller.bundle.part.waivers
        if 0 <= index < len(waivers):
            self._controller.edit("Withdraw a waiver", lambda b: review_edits.withdraw_waiver(b, waivers[index].key))
