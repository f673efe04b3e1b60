"""The view of a drawing: zoom at the pointer, pan, fit, and what was pointed at leads back to the document."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.pan_tool import PanTool
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.scene import Scene, SceneRequest, paint_scene
from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.highlighting import lit
from eider.drawings.primitives import Drawing, Plain, costs_more_than
from eider.geometry.plane import Point
from eider.model.address import Address

ZOOM_STEP = 1.2
CLOSEST, FARTHEST = 1e-4, 10.0
# A press becomes a drag when the pointer has gone this many pixels.
DRAG_FROM = 6.0
# A drawing that takes longer (in corners, about 5 ms) is laid out and painted in another thread.
HEAVY = 1000


class DrawingView(QWidget):
    """Shows a drawing; without one it shows a text that says what to do first.

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
        super().__init__(parent)
        self._theme, self._hint = theme, hint
        self._jobs = jobs.owned(self) if jobs else None
        self.drawing: Drawing | None = None
        # The scene as it was painted last; while a newer one is being painted it is shown moved and scaled.
        self.scene: Scene | None = None
        self._is_painting = self._is_stale = False
        # Millimetres per pixel, and the mm at the middle of the view.
        self.scale, self._centre = 0.05, (0.0, 0.0)
        self._fitted = True
        # A small drawing is not blown up beyond this when it is fitted (mm per pixel).
        self.closest_fit = 0.0
        self._pan_tool = PanTool(self)
        self._last_address: Address | None = None
        self.draggable: Callable[[Address], bool] = lambda _address: False
        # While this is set, clicks and moves tell their place (mm) instead of what lies there.
        self.takes_points = False
        self._pressed: tuple[Address, QPointF] | None = None
        self._dragged: Address | None = None
        self._mark: tuple[Plain, ...] = ()
        self._lit: tuple[Plain, ...] = ()
        self._lit_addresses: frozenset[Address] = frozenset()
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    @property
    def plain(self) -> tuple[Plain, ...]:
        """What is shown, as plain primitives."""
        return self.scene.items if self.scene else ()

    def minimumSizeHint(self) -> QSize:
        return QSize(160, 110)

    def sizeHint(self) -> QSize:
        return QSize(360, 280)

    def show_drawing(self, drawing: Drawing | None) -> None:
        """Show a drawing; the user's zoom stays, else it is fitted."""
        if drawing is self.drawing:
            return
        self.drawing = drawing
        self._paint_anew()

    def light(self, items: tuple[Plain, ...]) -> None:
        """Show things of the drawing once more over it, as those in hand."""
        self._lit = items
        self.update()

    def light_addresses(self, addresses: frozenset[Address]) -> None:
        """The things of these addresses are in hand."""
        self._lit_addresses = addresses
        self.light(lit(self.plain, addresses) if addresses else ())

    def show_mark(self, mark: tuple[Plain, ...]) -> None:
        """Show something over the drawing for a moment, such as the place of a drop."""
        self._mark = mark
        self.update()

    def set_hint(self, hint: str) -> None:
        """What is said while there is no drawing."""
        self._hint = hint
        self.update()

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

    def to_mm(self, view_point: QPointF) -> Point:
        """The place in the drawing under a point of the view."""
        x = self._centre[0] + (view_point.x() - self.width() / 2) * self.scale
        y = self._centre[1] - (view_point.y() - self.height() / 2) * self.scale
        return x, y

    def to_view(self, point: Point) -> QPointF:
        """Where a point of the drawing lies in the view."""
        x = self.width() / 2 + (point[0] - self._centre[0]) / self.scale
        y = self.height() / 2 - (point[1] - self._centre[1]) / self.scale
        return QPointF(x, y)

    def address_at(self, view_point: QPointF) -> Address | None:
        """The address of the topmost thing under a point of the view; None where there is none."""
        return self.scene.address_at(self.to_mm(view_point), self.scale) if self.scene else None

    def _paint_anew(self) -> None:
        """Lay out and paint the drawing: at once, or if it is heavy in another thread, of the newest wish only."""
        if self.drawing is None or not self.drawing.primitives:
            self.scene = None
            self.light_addresses(self._lit_addresses)
            return
        request = self._request(self.drawing)
        if self._jobs is None or not costs_more_than(self.drawing, HEAVY):
            self._take(request, paint_scene(request))
            return
        if self._is_painting:
            self._is_stale = True
            return
        self._is_painting = True
        self._jobs.run(
            "drawing", lambda: paint_scene(request), lambda scene: self._painted(request, scene), self._unpainted
        )
        self.update()

    def _request(self, drawing: Drawing) -> SceneRequest:
        return SceneRequest(
            drawing,
            (self.width(), self.height()),
            self.devicePixelRatioF(),
            self._theme.name,
            self.font().toString(),
            None if self._fitted else (self.scale, self._centre, self.scene.size if self.scene else 1.0),
            self.closest_fit,
        )

    def _painted(self, request: SceneRequest, scene: Scene) -> None:
        self._is_painting = False
        if self.drawing is not None:
            self._take(request, scene)
            if self._jobs is not None:
                # The index is made while the scene is already seen, so that the first move of the pointer need not.
                self._jobs.run("drawing", scene.prepare)
        if self._is_stale:
            self._is_stale = False
            self._paint_anew()

    def _unpainted(self, fault: Exception) -> None:
        """The drawing cannot be shown: say so, and stay usable."""
        self._is_painting = self._is_stale = False
        self.scene, self._hint = None, f"The drawing cannot be painted: {fault}"
        self.update()

    def _take(self, request: SceneRequest, scene: Scene) -> None:
        self.scene = scene
        if self._fitted and request.zoom is None:
            self.scale, self._centre = scene.scale, scene.centre
        self.light_addresses(self._lit_addresses)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        scene = self.scene
        if scene is None:
            painter.setPen(self._theme.colour("soft"))
            area = self.rect().adjusted(24, 24, -24, -24)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self._hint)
            return
        if scene.appearance != self._theme.name and not self._is_painting:
            self._paint_anew()
            scene = self.scene or scene
        self._draw_scene(painter, scene)
        size = (float(self.width()), float(self.height()))
        ScenePainter(painter, self.scale, self._centre, size, self._theme.name).paint([*self._lit, *self._mark])
        if self.hasFocus():
            painter.setOpacity(1.0)
            painter.setPen(self._theme.colour("accent"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _draw_scene(self, painter: QPainter, scene: Scene) -> None:
        """The painted scene where it belongs at the present zoom."""
        width, height = scene.view
        zoom = scene.scale / self.scale
        middle = self.to_view(scene.centre)
        target = QRectF(middle.x() - width * zoom / 2, middle.y() - height * zoom / 2, width * zoom, height * zoom)
        if zoom != 1.0:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(target, scene.image)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._paint_anew()

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
