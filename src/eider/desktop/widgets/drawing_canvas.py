"""The view of a drawing: zoom at the pointer, pan, fit, and what was pointed at leads back to the document."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPixmap, QPolygonF, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from eider.desktop.theme import Theme
from eider.desktop.widgets.pan_tool import PanTool
from eider.desktop.widgets.scene_painter import ScenePainter
from eider.drawings.drawing_layout import fit_view, resolve_primitives
from eider.drawings.primitives import Area, Disc, Drawing, Line, Plain, Text
from eider.geometry.shapes import Point
from eider.model.address import Address

ZOOM_STEP = 1.2
CLOSEST, FARTHEST = 1e-4, 10.0
# A line is hit within this many pixels.
REACH = 5.0
# A press becomes a drag when the pointer has gone this many pixels.
DRAG_FROM = 6.0


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
    spot_clicked = pyqtSignal(float, float)
    spot_moved = pyqtSignal(float, float)
    address_hovered = pyqtSignal(object)
    pointed = pyqtSignal(float, float)

    def __init__(self, theme: Theme, hint: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme, self._hint = theme, hint
        self._drawing: Drawing | None = None
        self._plain: list[Plain] = []
        self._scale, self._centre, self._size = 0.05, (0.0, 0.0), 1.0
        self._fitted = True
        # A small drawing is not blown up beyond this when it is fitted (mm per pixel).
        self.closest_fit = 0.0
        self._hand = PanTool(self)
        self._last_address: Address | None = None
        self.draggable: Callable[[Address], bool] = lambda _address: False
        # While this is set, clicks and moves tell their place (mm) instead of what lies there.
        self.takes_spots = False
        self._pressed: tuple[Address, QPointF] | None = None
        self._dragged: Address | None = None
        self._mark: tuple[Plain, ...] = ()
        self._lit: tuple[Plain, ...] = ()
        # The scene as it was painted last: marks and focus change far more often than it does.
        self._painted: QPixmap | None = None
        self._painted_in = ""
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    @property
    def drawing(self) -> Drawing | None:
        """What is shown."""
        return self._drawing

    @property
    def plain(self) -> list[Plain]:
        """What is shown, as plain primitives."""
        return self._plain

    @property
    def scale(self) -> float:
        """Millimetres per pixel."""
        return self._scale

    def minimumSizeHint(self) -> QSize:
        return QSize(160, 110)

    def sizeHint(self) -> QSize:
        return QSize(360, 280)

    def show_drawing(self, drawing: Drawing | None) -> None:
        """Show a drawing; the user's zoom stays, else it is fitted."""
        if drawing == self._drawing:
            return
        self._drawing = drawing
        if self._fitted:
            self.fit()
        else:
            self._resolve()

    def light(self, lit: tuple[Plain, ...]) -> None:
        """Show things of the drawing once more over it, as those in hand."""
        self._lit = lit
        self.update()

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
        if self._drawing and self._drawing.primitives:
            view = max(self.width(), 60), max(self.height(), 60)
            self._scale, self._centre, self._size = fit_view(self._drawing, *view)
            self._scale = max(self._scale, self.closest_fit)
        self._resolve()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Zoom in (factor above 1) or out about a point of the view."""
        spot = at or QPointF(self.width() / 2, self.height() / 2)
        before = self.to_mm(spot)
        self._scale = min(max(self._scale / factor, CLOSEST), FARTHEST)
        after = self.to_mm(spot)
        self._centre = (self._centre[0] + before[0] - after[0], self._centre[1] + before[1] - after[1])
        self._fitted = False
        self._resolve()

    def to_mm(self, spot: QPointF) -> Point:
        """The address in the drawing under a point of the view."""
        x = self._centre[0] + (spot.x() - self.width() / 2) * self._scale
        y = self._centre[1] - (spot.y() - self.height() / 2) * self._scale
        return x, y

    def to_view(self, point: Point) -> QPointF:
        """Where a point of the drawing lies in the view."""
        x = self.width() / 2 + (point[0] - self._centre[0]) / self._scale
        y = self.height() / 2 - (point[1] - self._centre[1]) / self._scale
        return QPointF(x, y)

    def address_at(self, spot: QPointF) -> Address | None:
        """The address of the topmost thing under a point of the view; None where there is none."""
        at = self.to_mm(spot)
        for item in reversed(self._plain):
            if item.address is not None and self._is_hit(item, at):
                return item.address
        return None

    def _is_hit(self, item: Plain, at: Point) -> bool:
        if isinstance(item, Disc):
            return (at[0] - item.centre[0]) ** 2 + (at[1] - item.centre[1]) ** 2 <= item.radius**2
        if isinstance(item, Text):
            across = len(item.text) * item.height * 0.5
            return abs(at[0] - item.at[0]) <= across + item.height and abs(at[1] - item.at[1]) <= item.height
        points = item.points if isinstance(item, Line) else item.outline
        polygon = QPolygonF([QPointF(x, y) for x, y in points])
        if isinstance(item, Area):
            return polygon.containsPoint(QPointF(*at), Qt.FillRule.OddEvenFill)
        reach = REACH * self._scale
        box = polygon.boundingRect().adjusted(-reach, -reach, reach, reach)
        return len(points) == 2 and box.contains(QPointF(*at)) and min(box.width(), box.height()) <= 3 * reach

    def _resolve(self) -> None:
        self._plain = list(resolve_primitives(self._drawing, self._scale, self._size)) if self._drawing else []
        self._repaint()

    def _repaint(self) -> None:
        """Paint the scene anew, with the next event."""
        self._painted = None
        self.update()

    def _scene(self) -> QPixmap:
        """The scene as a picture of the view's size."""
        ratio = self.devicePixelRatioF()
        fresh = self._painted is not None and self._painted_in == self._theme.name
        if self._painted is None or not fresh or self._painted.size() != self.size() * ratio:
            self._painted_in = self._theme.name
            self._painted = QPixmap(self.size() * ratio)
            self._painted.setDevicePixelRatio(ratio)
            self._painted.fill(self._theme.colour("paper"))
            painter = QPainter(self._painted)
            self._pen(painter).paint(self._plain)
            painter.end()
        return self._painted

    def _pen(self, painter: QPainter) -> ScenePainter:
        size = (float(self.width()), float(self.height()))
        return ScenePainter(painter, self._scale, self._centre, size, self._theme.name)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        if not self._plain:
            painter.setPen(self._theme.colour("soft"))
            area = self.rect().adjusted(24, 24, -24, -24)
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self._hint)
            return
        painter.drawPixmap(0, 0, self._scene())
        self._pen(painter).paint([*self._lit, *self._mark])
        if self.hasFocus():
            painter.setOpacity(1.0)
            painter.setPen(self._theme.colour("accent"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if self._fitted:
            self.fit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self.zoom(ZOOM_STEP ** (event.angleDelta().y() / 120), event.position())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._hand.takes(event):
            return
        if self.takes_spots and event.button() == Qt.MouseButton.LeftButton:
            self.spot_clicked.emit(*self.to_mm(event.position()))
            return
        if event.button() == Qt.MouseButton.LeftButton and (address := self.address_at(event.position())):
            self._pressed = (address, event.position()) if self.draggable(address) else None
            self.address_clicked.emit(address)

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and (address := self.address_at(event.position())):
            self.address_double_clicked.emit(address)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        x, y = self.to_mm(event.position())
        self.pointed.emit(x, y)
        moved = self._hand.moved(event)
        if moved is not None:
            self._pan(moved.x(), moved.y())
            return
        if self.takes_spots:
            self.spot_moved.emit(x, y)
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
        self._hand.let_go()
        dragged, self._dragged, self._pressed = self._dragged, None, None
        if dragged and event is not None:
            self.show_mark(())
            self.dropped.emit(dragged, *self.to_mm(event.position()))

    def _give_up_drag(self) -> None:
        self._dragged, self._pressed = None, None
        self.show_mark(())
        self.drag_ended.emit()

    def _pan(self, dx: float, dy: float) -> None:
        self._centre = (self._centre[0] - dx * self._scale, self._centre[1] + dy * self._scale)
        self._fitted = False
        self._repaint()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
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
            self._hand.put_out()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        self._hand.key_released(event)
