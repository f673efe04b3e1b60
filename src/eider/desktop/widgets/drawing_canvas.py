"""The view of a drawing: zoom at the pointer, pan, fit, and what was pointed at leads back to the document."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.painted_drawing import PaintedDrawing
from eider.desktop.widgets.pan_tool import PanTool
from eider.desktop.widgets.qt_values import present
from eider.model.address import Address

ZOOM_STEP = 1.2
CLOSEST, FARTHEST = 1e-4, 10.0
# A press becomes a drag when the pointer has gone this many pixels.
DRAG_FROM = 6.0


class DrawingView(PaintedDrawing):
    """A drawing to zoom and pan, in which things are pointed at, clicked and dragged.

    Things whose address `draggable` accepts can be dragged: `dragging` tells where to (mm) while the button is held,
    `dropped` where it was let go; Escape gives the drag up with `drag_ended`.
    """

    address_clicked = pyqtSignal(object)
    address_double_clicked = pyqtSignal(object)
    dragging = pyqtSignal(object, float, float)
    dropped = pyqtSignal(object, float, float)
    drag_ended = pyqtSignal()
    point_clicked = pyqtSignal(float, float)
    point_moved = pyqtSignal(float, float)
    address_hovered = pyqtSignal(object)
    pointed = pyqtSignal(float, float)

    def __init__(self, theme: Theme, hint: str = "", jobs: Jobs | None = None, parent: QWidget | None = None) -> None:
        super().__init__(theme, hint, jobs, parent)
        self._pan_tool = PanTool(self)
        self._last_address: Address | None = None
        self.draggable: Callable[[Address], bool] = lambda _address: False
        # While this is set, clicks and moves tell their place (mm) instead of what lies there.
        self.takes_points = False
        self._pressed: tuple[Address, QPointF] | None = None
        self._dragged: Address | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def fit(self) -> None:
        """Bring the whole drawing into view."""
        self._fitted = True
        self._paint_anew()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom in (factor above 1) or out about a point of the view."""
        view_point = at or QPointF(self.width() / 2, self.height() / 2)
        before = self.to_mm(view_point)
        self.scale = min(max(self.scale / factor, CLOSEST), FARTHEST)
        after = self.to_mm(view_point)
        self._centre = (self._centre[0] + before[0] - after[0], self._centre[1] + before[1] - after[1])
        self._fitted = False
        self._paint_anew()

    def address_at(self, view_point: QPointF) -> Address | None:
        """The address of the topmost thing under a point of the view; None where there is none."""
        return self.scene.address_at(self.to_mm(view_point), self.scale) if self.scene else None

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        event = present(event)
        self.zoom(ZOOM_STEP ** (event.angleDelta().y() / 120), event.position())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._pan_tool.takes(event):
            return
        if self.takes_points and event.button() == Qt.MouseButton.LeftButton:
            self.point_clicked.emit(*self.to_mm(event.position()))
            return
        if event.button() == Qt.MouseButton.LeftButton and (address := self.address_at(event.position())):
            self._pressed = (address, event.position()) if self.draggable(address) else None
            self.address_clicked.emit(address)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if address := self.address_at(event.position()):
            self.address_double_clicked.emit(address)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        x, y = self.to_mm(event.position())
        self.pointed.emit(x, y)
        moved = self._pan_tool.moved(event)
        if moved is not None:
            self._pan(moved.x(), moved.y())
            return
        if self.takes_points:
            self.point_moved.emit(x, y)
            return
        if self._pressed and (event.position() - self._pressed[1]).manhattanLength() > DRAG_FROM:
            self._dragged = self._pressed[0]
        if self._dragged:
            self.dragging.emit(self._dragged, x, y)
            return
        address = self.address_at(event.position())
        if address != self._last_address:
            self._last_address = address
            self.address_hovered.emit(address)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pan_tool.let_go()
        dragged, self._dragged, self._pressed = self._dragged, None, None
        if dragged:
            self.show_mark(())
            self.dropped.emit(dragged, *self.to_mm(present(event).position()))

    def _give_up_drag(self) -> None:
        self._dragged, self._pressed = None, None
        self.show_mark(())
        self.drag_ended.emit()

    def _pan(self, dx: float, dy: float) -> None:
        self._centre = (self._centre[0] - dx * self.scale, self._centre[1] + dy * self.scale)
        self._fitted = False
        self._paint_anew()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        arrows = {
            Qt.Key.Key_Left: (40, 0),
            Qt.Key.Key_Right: (-40, 0),
            Qt.Key.Key_Up: (0, 40),
            Qt.Key.Key_Down: (0, -40),
        }
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_F:
            self.fit()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(ZOOM_STEP if key == Qt.Key.Key_Plus else 1 / ZOOM_STEP)
        elif key in arrows:
            self._pan(*arrows[key])
        elif key == Qt.Key.Key_Escape and self._dragged:
            self._give_up_drag()
        elif key == Qt.Key.Key_Space:
            self._pan_tool.put_out()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        self._pan_tool.key_released(event)
