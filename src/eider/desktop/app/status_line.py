"""The line at the foot of the window: what happened, long work with its progress, the pointer, the unit."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QLabel, QProgressBar, QPushButton, QStatusBar

from eider.desktop.context import DesktopContext
from eider.desktop.settings import UNITS
from eider.desktop.widgets.layouts import label
from eider.geometry.lengths import format_length

# So many letters are shown.
LONGEST = 52


class SharedStateLabel(QLabel):
    """What is long is elided, and whole in the tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.setProperty("role", "soft")

    def show_state(self, text: str) -> None:
        """Show the state."""
        self.setText(text if len(text) <= LONGEST else f"{text[:LONGEST]}…")
        self.setToolTip(text)


class StatusLine(QStatusBar):
    """Tells what the screens say by the context, and offers to cancel what takes long."""

    def __init__(self, context: DesktopContext) -> None:
        super().__init__()
        self._context = context
        self.message, self._told = label("", "soft"), ""
        self._progress, self._cancel = QProgressBar(), QPushButton("Cancel")
        self._progress.setFixedWidth(160)
        self._progress.setMaximumHeight(16)
        self._cancel.clicked.connect(lambda _c: context.jobs.cancel())
        self._cursor = label("", "soft")
        self._cursor.setMinimumWidth(190)
        self._cursor.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.units = QComboBox()
        self.units.addItems(list(UNITS))
        self.units.setCurrentText(context.unit)
        self.units.setToolTip("unit in which lengths are shown")
        self.addWidget(self.message, 1)
        for widget in (self._progress, self._cancel, self._cursor, label("Lengths in", "soft"), self.units):
            self.addPermanentWidget(widget)
        self._hide_progress()
        context.said.connect(self.say)
        context.pointed.connect(self._point)
        context.jobs.progressed.connect(self._show_progress)
        context.jobs.ended.connect(self._hide_progress)
        context.jobs.failed.connect(self.say)

    def say(self, text: str) -> None:
        """Tell the user something."""
        self.message.setText(text)
        self.message.setToolTip(text)

    def _point(self, x: float, y: float) -> None:
        unit = self._context.unit
        self._cursor.setText(f"x {format_length(x, unit)}   y {format_length(y, unit)}")

    def _show_progress(self, text: str, share: float) -> None:
        self._progress.setValue(round(100 * share))
        self._progress.show()
        self._cancel.show()
        self.say(text)
        self._told = text

    def _hide_progress(self) -> None:
        self._progress.hide()
        self._cancel.hide()
        if self.message.text() == self._told:
            self.say("")
