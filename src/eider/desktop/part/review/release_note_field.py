"""The field of a release note; what is typed in it stays with the part until the part is released."""

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QPlainTextEdit

from eider.desktop.jobs import OwnedJobs
from eider.library import Library

# As a working copy: well within the second in which what was typed must be on disk.
SAVE_AFTER_MS = 250


class ReleaseNoteField(QPlainTextEdit):
    """Loads what was typed before, and saves what is typed."""

    def __init__(self, library: Library, part_id: str, jobs: OwnedJobs) -> None:
        super().__init__()
        self._library, self._part_id, self._jobs = library, part_id, jobs
        self.setPlaceholderText("What changed and why. The note stays with the revision.")
        self.setAccessibleName("Release note")
        self.setMaximumHeight(84)
        self.setTabChangesFocus(True)
        self._saved = ""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.save)
        self.textChanged.connect(lambda: self._timer.start(SAVE_AFTER_MS))
        jobs.run("disk", lambda: library.copies.note(part_id), self._loaded)

    def _loaded(self, note: str) -> None:
        if not self.toPlainText():
            self._saved = note
            self.setPlainText(note)

    def save(self) -> None:
        """Put what was typed on disk now."""
        self._timer.stop()
        note, library, part_id = self.toPlainText(), self._library, self._part_id
        if note != self._saved and not library.read_only:
            self._saved = note
            self._jobs.run("disk", lambda: library.copies.save_note(part_id, note))
