"""All findings by step, and the waivers of those that are accepted with a reason."""

from PyQt6.QtWidgets import QLineEdit, QListWidget, QWidget

from eider.commands import review_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.findings_list import FindingsList
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.model.finding import Finding
from eider.views.step_registry import all_steps, step_of
from eider.views.steps.review import ReviewView


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
