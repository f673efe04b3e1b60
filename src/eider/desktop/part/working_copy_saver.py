"""Puts a part's working copy on disk, soon after each change and in a thread that does nothing else."""

from collections.abc import Callable

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from eider.commands.edit_history import EditHistory
from eider.desktop.jobs import Jobs
from eider.library import Library
from eider.library.working_copies import WorkingCopy

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
        # Whether the part is somebody's own; one that is looked at for a review is never put on disk.
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
