"""One open part in the window: its history, its views computed elsewhere, and its working copy kept on disk."""

from collections.abc import Callable
from functools import partial
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from eider.checks import apply_quick_fix
from eider.commands.parts.edit_history import EditHistory
from eider.commands.parts.evaluation import EvaluationRules
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.jobs import Jobs
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.sharing.review_refs import StoredReview
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.services.parts.part_computing import PartAnswer, PartRequest, answer_part, check_answer
from eider.views.part_state import PartState, ViewOptions
from eider.views.step_registry import StepState

# Saved this long after the last change: well within the second in which it must be on disk.
SAVE_AFTER_MS = 250
# Saved this long after the first unsaved change even while changes go on.
SAVE_AT_LATEST_MS = 700


class WorkingCopySaver(QObject):
    """Saves the present state of a history; `counts` gives the findings by severity that go with it."""

    saved = pyqtSignal()

    def __init__(
        self, library: Library, session: EditHistory, jobs: Jobs, counts: Callable[[], dict[str, int]], parent: QObject
    ) -> None:
        super().__init__(parent)
        self._library, self._session, self._counts = library, session, counts
        self._jobs = jobs.owned(self)
        # Whether the part is someone's own; one that is looked at for a review is never put on disk.
        self.is_kept = True
        self._timer, self._latest = QTimer(self), QTimer(self)
        for timer in (self._timer, self._latest):
            timer.setSingleShot(True)
            timer.timeout.connect(self.save)

    def after_change(self) -> None:
        """There is something new to save."""
        self._timer.start(SAVE_AFTER_MS)
        if not self._latest.isActive():
            self._latest.start(SAVE_AT_LATEST_MS)

    def hold(self) -> None:
        """Save nothing for now: a release takes the working copy away, and it must not come back behind it."""
        self._timer.stop()
        self._latest.stop()

    def save(self) -> None:
        """Put what is not yet on disk there now."""
        self.hold()
        session, library = self._session, self._library
        if session.is_saved or session.read_only:
            return
        if not self.is_kept:
            session.is_saved = True
            self.saved.emit()
            return
        number = session.number
        copy = WorkingCopy(bundle=session.bundle, findings=self._counts())
        self._jobs.run("disk", lambda: library.copies.save(copy), lambda _: self._saved(number))

    def _saved(self, number: int) -> None:
        if number == self._session.number:
            self._session.is_saved = True
        else:
            self._timer.start(SAVE_AFTER_MS)
        self.saved.emit()


# What a view was made for that belongs to an earlier state: nothing that is ever wanted.
_OUTDATED = ViewOptions(unit="")


class PartController(QObject):
    """Holds the history of a part; every change goes through `edit`, every answer comes with `changed`.

    One request at a time goes to the computing side; of a large part the results come first, then what the checks
    find in them. When an answer comes and the state or what is to be shown has moved on, the newest request follows.
    `view_of` gives what a step shows, as far as it has been computed.
    """

    changed = pyqtSignal()
    saved = pyqtSignal()
    refused = pyqtSignal(str)

    def __init__(
        self,
        library: Library,
        state: PartState,
        jobs: Jobs,
        *,
        read_only: bool = False,
        unit: str = "mm",
        reviewing: StoredReview | None = None,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        # The review for which the part is looked at; its values can be ticked, and nothing of it is put on disk.
        self.reviewing = reviewing
        self.library, self._jobs = library, jobs.owned(self)
        self.session = EditHistory(state.bundle, read_only=read_only)
        self.state = state
        self.trail: tuple[StepState, ...] = ()
        self._unit, self._shown = unit, "source"
        self._options: dict[str, Any] = {}
        self._views: dict[str, tuple[ViewOptions, Any]] = {}
        self._answered = 0
        self._computing = self._read_rules_anew = False
        self.saver = WorkingCopySaver(library, self.session, jobs, lambda: self.state.evaluated.counts, self)
        self.saver.is_kept = reviewing is None
        self.saver.saved.connect(self.saved)

    @property
    def bundle(self) -> Bundle:
        """The present state; its results follow with the next `changed`."""
        return self.session.bundle

    @property
    def rules(self) -> EvaluationRules:
        """The rules that the part is compared with."""
        return self.state.rules

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the checks found last."""
        return self.state.findings

    @property
    def is_settled(self) -> bool:
        """Whether all that is shown belongs to the present state and everything is on disk."""
        return not self._computing and self.session.is_saved

    def view_of(self, key: str) -> Any:
        """What a step shows, as it was computed last; None before the first time."""
        known = self._views.get(key)
        return known[1] if known else None

    def show_step(self, key: str, options: Any = None) -> None:
        """A step is looked at, with what the user chose to see of it; `changed` follows when its view is there."""
        self._shown = key
        if options is not None:
            self._options[key] = options
        self._ask()

    def set_unit(self, unit: str) -> None:
        """Lengths are to be shown in another unit."""
        self._unit = unit
        self._ask()

    def edit(self, label: str, change: Callable[[Bundle], Bundle], merge: str = "") -> None:
        """Change the part; a change that cannot be made says why and changes nothing."""
        try:
            bundle = change(self.bundle)
        except EiderError as fault:
            self.refused.emit(str(fault))
            return
        if self.session.read_only:
            self.refused.emit("This is a released revision and read-only. Open the part itself to change it.")
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
        """Clear a finding by its quick fix."""
        under_check = self.state.under_check
        self.edit(finding.quick_fix, lambda _bundle: apply_quick_fix(under_check, finding))

    def undo(self) -> bool:
        """One step back; whether there was one."""
        return self._stepped(self.session.undo)

    def redo(self) -> bool:
        """One step forward again; whether there was one."""
        return self._stepped(self.session.redo)

    def _stepped(self, step: Callable[[], bool]) -> bool:
        if not step():
            return False
        self._after_change()
        return True

    def rules_changed(self) -> None:
        """The rulebook was saved again: work out the part by it."""
        self._read_rules_anew = True
        self._ask()

    def document(self, sha256: str) -> DocumentToOpen:
        """A datasheet of the library, for a view to open."""
        return DocumentToOpen(sha256, partial(open_datasheet, self.library, sha256))

    def _after_change(self) -> None:
        self.saver.after_change()
        self._ask()

    def _wanted(self) -> tuple[str, ViewOptions]:
        return self._shown, ViewOptions(self._unit, self._options.get(self._shown))

    def _ask(self) -> None:
        key, options = self._wanted()
        known = self._views.get(key)
        is_current = self._answered == self.session.number and not self._read_rules_anew
        # What is shown may belong to the present state already, in the way that is wanted.
        if self._computing or (is_current and known is not None and known[0] == options):
            return
        self._computing = True
        request = PartRequest(
            self.session.number,
            self.bundle,
            self.state,
            key,
            options,
            is_changed=self._answered != self.session.number,
            reads_rules=self._read_rules_anew,
            shown=self.view_of(key),
        )
        self._read_rules_anew = False
        library = self.library
        self._jobs.run(
            "compute",
            lambda: answer_part(request, library),
            self._receive,
            partial(self._broken, request.number, key, options),
        )

    def _check(self, answer: PartAnswer) -> None:
        """Have the results checked, once they have been painted: both at a time would make each take longer."""
        jobs = self._jobs

        def work() -> PartAnswer:
            jobs.wait_for("drawing")
            return check_answer(answer)

        jobs.run("compute", work, self._receive, partial(self._broken, answer.number, answer.key, answer.options))

    def _receive(self, answer: PartAnswer) -> None:
        self._computing = False
        if answer.number == self.session.number:
            if answer.state is not self.state:
                # Those of other steps are of the state before: shown until they are asked for again.
                self._views = {key: (_OUTDATED, view) for key, (_, view) in self._views.items()}
                self.session.settle(answer.number, answer.state.bundle)
            self.state, self.trail = answer.state, answer.trail
            self._views[answer.key] = (answer.options, answer.view)
            if not answer.state.evaluated.is_checked:
                self._computing = True
                # What is to be painted is in its lane before the checks wait for it.
                self.changed.emit()
                self._check(answer)
                return
            self._answered = answer.number
            self.changed.emit()
        self._ask()

    def _broken(self, number: int, key: str, options: ViewOptions, fault: Exception) -> None:
        self._computing = False
        if number != self.session.number:
            # The fault is of a state that is gone; it says nothing about the present one.
            self._ask()
            return
        # The same request would fail again: what is shown stays until the next change.
        self._answered = number
        self._views[key] = (options, self.view_of(key))
        self.refused.emit(str(fault))
        self.changed.emit()
