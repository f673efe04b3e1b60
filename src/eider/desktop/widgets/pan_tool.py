"""The hand that drags a view: with the middle button, or with Space held."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QWidget

from eider.desktop.widgets.qt_values import present


class PanTool:
    """Whether the hand is out and where it last was; the view moves by what `moved` tells."""

    def __init__(self, view: QWidget) -> None:
        self._view = view
        self._is_out = False
        self._last: QPoint | None = None

    def takes(self, event: QMouseEvent) -> bool:
        """Whether a press takes hold of the view."""
        if event.button() != Qt.MouseButton.MiddleButton and not self._is_out:
            return False
        self._last = event.position().toPoint()
        return True

    def moved(self, event: QMouseEvent) -> QPoint | None:
        """How far the view was dragged since the last move, in pixels; none where it is not held."""
        if self._last is None:
            return None
        point = event.position().toPoint()
        by, self._last = point - self._last, point
        return by

    def let_go(self) -> None:
        """The button was released."""
        self._last = None

    def put_out(self) -> None:
        """Space was pressed."""
        self._is_out = True
        self._view.setCursor(Qt.CursorShape.OpenHandCursor)

    def key_released(self, event: QKeyEvent | None) -> None:
        """Draw the hand back when the released key is Space."""
        event = present(event)
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._is_out, self._last = False, None
            self._view.unsetCursor()
