"""One open part in the window: its session, its results computed elsewhere, and its working copy kept on disk."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from eider.checks import PartUnderCheck, apply_quick_fix
from eider.commands.edit_history import EditHistory
from eider.commands.evaluation import EvaluatedPart, EvaluationRules, evaluate_part
from eider.desktop.jobs import Jobs
from eider.errors import EiderError
from eider.library import Library
from eider.library.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.model.finding import Finding

# Saved this long after the last change: well within the second in which it must be on disk.
SAVE_AFTER_MS = 250
# Saved this long after the first unsaved change even while changes go on.
SAVE_AT_LATEST_MS = 700


class PartController(QObject):
    """Holds the session of a part; every change goes through `edit`, every result comes with `changed`."""

    changed = pyqtSignal()
    saved = pyqtSignal()
    refused = pyqtSignal(str)

    def __init__(
        self,
        library: Library,
        outcome: EvaluatedPart,
        rules: EvaluationRules,
        jobs: Jobs,
        *,
        read_only: bool = False,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self.library, self.rules, self._jobs = library, rules, jobs.owned(self)
        self.session = EditHistory(outcome.bundle, read_only=read_only)
        self.outcome = outcome
        self._view = PartUnderCheck(outcome.bundle, rules.rulebook, rules.settings)
        self._computing = self._read_rules_anew = False
        self._timer, self._latest = QTimer(self), QTimer(self)
        for timer in (self._timer, self._latest):
            timer.setSingleShot(True)
            timer.timeout.connect(self.save)

    @property
    def bundle(self) -> Bundle:
        """The present state; its results follow with the next `changed`."""
        return self.session.bundle

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the checks found last."""
        return self.outcome.findings

    @property
    def view(self) -> PartUnderCheck:
        """The part as the checks see it: what follows from a state is worked out once for all who show it."""
        seen, rules = self._view, self.rules
        if seen.bundle is not self.bundle or (seen.rulebook, seen.settings) != (rules.rulebook, rules.settings):
            seen = self._view = PartUnderCheck(self.bundle, rules.rulebook, rules.settings)
        return seen

    @property
    def is_settled(self) -> bool:
        """Whether results belong to the present state and everything is on disk."""
        return not self._computing and self.session.is_saved

    def edit(self, label: str, change: Callable[[Bundle], Bundle], merge: str = "") -> None:
        """Change the part; a change that cannot be made says why and changes nothing."""
        try:
            bundle = change(self.bundle)
        except EiderError as fault:
            self.refused.emit(str(fault))
            return
        if self.session.read_only:
            self.refused.emit("this is a released revision and read-only; open the part itself to change it")
            return
        if self.session.change(label, bundle, merge):
            self._after_change()

    def do(self, work: Callable[[Library], object], then: Callable[[], None]) -> None:
        """Something with the library rather than the part, on the disk; what cannot be done says why."""
        library = self.library
        refused = self.refused

        def failed(fault: Exception) -> None:
            refused.emit(str(fault))

        self._jobs.run("disk", lambda: work(library), lambda _result: then(), failed)

    def apply_quick_fix(self, finding: Finding) -> None:
        """Mend a finding by its own action."""
        view = self.view
        self.edit(finding.quick_fix, lambda _bundle: apply_quick_fix(view, finding))

    def undo(self) -> None:
        """One step back."""
        if self.session.undo():
            self._after_change()

    def redo(self) -> None:
        """One step forward again."""
        if self.session.redo():
            self._after_change()

    def rules_changed(self) -> None:
        """The rulebook was kept anew: work out the part by it."""
        self._read_rules_anew = True
        self._compute()

    def _after_change(self) -> None:
        self._timer.start(SAVE_AFTER_MS)
        if not self._latest.isActive():
            self._latest.start(SAVE_AT_LATEST_MS)
        self._compute()

    def _compute(self) -> None:
        """Only one computation runs at a time; when it ends and the state has moved on, the newest one follows."""
        if self._computing:
            return
        self._computing = True
        number, bundle, rules, library = self.session.number, self.bundle, self.rules, self.library
        anew, self._read_rules_anew = self._read_rules_anew, False

        def work() -> tuple[EvaluatedPart, EvaluationRules]:
            wanted = bundle.footprint.rulebook
            is_same = rules.rulebook.name == wanted and not anew
            current = rules if is_same else EvaluationRules(library.rulebook(wanted), rules.settings)
            return evaluate_part(bundle, current), current

        self._jobs.run("compute", work, lambda result: self._computed(number, *result), partial(self._broken, number))

    def _computed(self, number: int, outcome: EvaluatedPart, rules: EvaluationRules) -> None:
        self._computing = False
        if not self._read_rules_anew and self.session.settle(number, outcome.bundle):
            self.outcome, self.rules = outcome, rules
            self.changed.emit()
        else:
            self._compute()

    def _broken(self, number: int, fault: Exception) -> None:
        self._computing = False
        if number != self.session.number:
            # The fault is of a state that is gone; it says nothing about the present one.
            self._compute()
            return
        self.refused.emit(str(fault))
        self.changed.emit()

    def hold_saving(self) -> None:
        """Save nothing for now: a release takes the working copy away, and it must not come back behind it."""
        self._timer.stop()
        self._latest.stop()

    def save(self) -> None:
        """Put the working copy on disk, in a thread that does nothing else."""
        self._timer.stop()
        self._latest.stop()
        if self.session.is_saved or self.session.read_only:
            return
        number = self.session.number
        copy = WorkingCopy(bundle=self.bundle, findings=self.outcome.counts)
        self._jobs.run("disk", lambda: self.library.copies.save(copy), lambda _: self._saved(number))

    def _saved(self, number: int) -> None:
        if number == self.session.number:
            self.session.is_saved = True
        else:
            self._timer.start(SAVE_AFTER_MS)
        self.saved.emit()
