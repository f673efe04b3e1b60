"""A label whose text never widens the window: what has no room is left out in the middle, and in the tooltip whole."""

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel

# Room for a few letters on each side of what is left out.
LEAST_WIDTH = 60


class ElidedLabel(QLabel):
    """One line of plain text; `role` is that of `layouts.label`."""

    def __init__(self, text: str = "", role: str = "") -> None:
        super().__init__(text)
        if role:
            self.setProperty("role", role)

    def minimumSizeHint(self) -> QSize:
        hint = super().minimumSizeHint()
        return QSize(min(hint.width(), LEAST_WIDTH), hint.height())

    def shown_text(self) -> str:
        """The text as far as there is room for it."""
        return self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideMiddle, self.contentsRect().width())

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        shown = self.shown_text()
        if not self.toolTip() or self.toolTip() == self.text():
            self.setToolTip(self.text() if shown != self.text() else "")
        painter = QPainter(self)
        painter.setPen(self.palette().windowText().color())
        painter.drawText(self.contentsRect(), self.alignment(), shown)
