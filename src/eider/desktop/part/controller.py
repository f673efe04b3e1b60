"""One open part in the window: its history, its views computed elsewhere, and its working copy kept on disk."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from eider.checks import apply_quick_fix
from eider.commands.parts.edit_history import EditHistory
from eider.commands.parts.evaluation import EvaluationRules
from eider.desktop.datasheet.page_source import DocumentToOpen
from eider.desktop.jobs import Jobs
from eider.desktop.part.step_views import StepViews
from eider.errors import EiderError
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.sharing.review_refs import StoredReview
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.services.datasheets.datasheet_opening import open_datasheet
from eider.views.part_state import PartState

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


class PartController(QObject):
    """Holds the history of a part; every change goes through `edit`, every answer comes with `changed`."""

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
        self.views = StepViews(library, self.session, state, jobs, unit, self)
        self.views.changed.connect(self.changed)
        self.views.refused.connect(self.refused)
        self.saver = WorkingCopySaver(library, self.session, jobs, lambda: self.state.evaluated.counts, self)
        self.saver.is_kept = reviewing is None
        self.saver.saved.connect(self.saved)

    @property
    def bundle(self) -> Bundle:
        """The present state; its results follow with the next `changed`."""
        return self.session.bundle

    @property
    def state(self) -> PartState:
        """The state that was worked out last."""
        return self.views.state

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
        return not self.views.is_computing and self.session.is_saved

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

    def document(self, sha256: str) -> DocumentToOpen:
        """A datasheet of the library, for a view to open."""
        return DocumentToOpen(sha256, partial(open_datasheet, self.library, sha256))

    def _after_change(self) -> None:
        self.saver.after_change()
        self.views.follow()
