"""The 3D view: a plain widget that shows pictures made elsewhere, and turns and zooms by asking for another."""

from collections.abc import Callable

from msgspec.structs import replace
from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from eider.bodies.pictures.body_camera import Camera, Framing, SightLine
from eider.bodies.pictures.body_scene import BodyScene
from eider.bodies.step_files.step_process import ImportedStep
from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.picture_marks import PictureMark, paint_marks
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.scene_renderer import PictureWish, SceneRenderer

# Turn and height in degrees from which one looks.
TOP, SIDE, ANGLED, END, BOTTOM = (0.0, 90.0), (0.0, 0.0), (-35.0, 30.0), (90.0, 0.0), (0.0, -90.0)
TURN_PER_PIXEL = 0.5
# How far a key moves the scene (a share of half the picture), how much it zooms, how far it turns (degrees).
STEP, ZOOM_STEP, TURN_STEP = 0.1, 1.2, 10.0
# A press that moves less (pixels) is a click; and how near to a corner or edge is on it.
CLICK, REACH = 4.0, 6.0
ARROWS = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1),
}  # fmt: skip
SIDES = {
    Qt.Key.Key_1: ANGLED, Qt.Key.Key_2: TOP, Qt.Key.Key_3: SIDE, Qt.Key.Key_4: END, Qt.Key.Key_5: BOTTOM,
}  # fmt: skip


class BodyPicture(QWidget):
    """A body from any side: drag turns, drag with Shift or the middle button moves, the wheel zooms at the pointer.

    Keys: arrows turn, with Shift they move; + and − zoom, 1 to 5 look from a side, F shows all. A click, or Enter for
    the middle of the picture, is told by `clicked`, Escape by `left_off`. `models` reads the STEP file of a scene by
    its sum.
    """

    clicked = pyqtSignal(object)
    left_off = pyqtSignal()

    def __init__(
        self, theme: Theme, jobs: Jobs, hint: str, models: Callable[[str], ImportedStep] | None = None
    ) -> None:
        super().__init__()
        self._theme, self._hint = theme, hint
        self._renderer = SceneRenderer(jobs, models, self)
        self._renderer.ready.connect(self._ask)
        self._renderer.drawn.connect(self._show)
        self._renderer.failed.connect(self._fail)
        self._image: QImage | None = None
        self._marks: tuple[PictureMark, ...] = ()
        self.camera = Camera(*ANGLED)
        # Where the mouse was last while a button is down, and where it went down.
        self._drag: QPointF | None = None
        self._pressed = QPointF()
        self._is_moving = False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def minimumSizeHint(self) -> QSize:
        return QSize(140, 110)

    @property
    def has_picture(self) -> bool:
        """Whether a picture of the present solids is shown."""
        return self._image is not None

    @property
    def scene(self) -> BodyScene:
        """What is shown."""
        return self._renderer.scene

    def show_scene(self, scene: BodyScene) -> None:
        """Show this; the same one stays as it is."""
        if scene == self.scene:
            return
        self._renderer.show_scene(scene)
        if scene == BodyScene():
            self._image = None
            self.update()

    def show_marks(self, marks: tuple[PictureMark, ...]) -> None:
        """Draw these lines over the picture."""
        self._marks = marks
        self.update()

    def look(self, camera: Camera) -> None:
        """Look from there."""
        self.camera = camera
        self.update()
        self._ask()

    def look_from(self, side: tuple[float, float]) -> None:
        """Show the whole scene from another side: turn and height in degrees."""
        turn, height = side
        self.look(replace(self.camera, turn=turn, height=height, zoom=1.0, pan=(0.0, 0.0)))

    @property
    def framing(self) -> Framing | None:
        """How the scene lies in the picture; None while there is nothing to show."""
        return self._renderer.framing(max(self.width(), 1), max(self.height(), 1))

    def _fail(self, fault: str) -> None:
        self._hint, self._image = fault, None
        self.update()

    def _ask(self) -> None:
        if self.width() < 8 or self.height() < 8:
            return
        ratio = self.devicePixelRatioF()
        width, height = round(self.width() * ratio), round(self.height() * ratio)
        paper, ink = self._theme.colour("paper"), self._theme.colour("ink")
        self._renderer.ask(PictureWish(self.camera, width, height, paper, ink, is_rough=self._is_moving))

    def _show(self, image: QImage) -> None:
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self._image = image
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        if self._image is not None:
            painter.drawImage(0, 0, self._image)
            framing = self.framing
            if framing is not None:
                paint_marks(painter, self._marks, framing, self.camera, self._theme)
            return
        painter.setPen(self._theme.colour("soft"))
        is_waiting = self.scene != BodyScene() and not self._renderer.is_ready and not self._hint
        hint = "Computing the body…" if is_waiting else self._hint
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(self.rect().adjusted(20, 20, -20, -20), flags, hint)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._ask()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._drag = self._pressed = present(event).position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._drag is None:
            return
        if not self._is_moving and (event.position() - self._pressed).manhattanLength() < CLICK:
            return
        self._is_moving = True
        moved, self._drag = event.position() - self._drag, event.position()
        is_pan = event.buttons() & Qt.MouseButton.MiddleButton or event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        if is_pan:
            self.look(self.camera.moved(2 * moved.x() / max(self.width(), 1), -2 * moved.y() / max(self.height(), 1)))
        else:
            self.look(self.camera.orbited(-moved.x() * TURN_PER_PIXEL, moved.y() * TURN_PER_PIXEL))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        was_moving, self._drag, self._is_moving = self._is_moving, None, False
        if was_moving:
            # What was shown coarse while it moved is drawn once more.
            self._ask()
        elif event.button() == Qt.MouseButton.LeftButton:
            self._click(event.position().x(), event.position().y())

    def _click(self, x: float, y: float) -> None:
        framing = self.framing
        if framing is not None and self.has_picture:
            line: SightLine = framing.sight_line(self.camera, x, y, REACH)
            self.clicked.emit(line)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        event = present(event)
        at = event.position()
        place = 2 * at.x() / max(self.width(), 1) - 1, 1 - 2 * at.y() / max(self.height(), 1)
        self.look(self.camera.zoomed(1.2 ** (event.angleDelta().y() / 120), place))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        key, is_shifted = Qt.Key(event.key()), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in ARROWS:
            right, up = ARROWS[key]
            camera = self.camera
            self.look(
                camera.moved(STEP * right, STEP * up)
                if is_shifted
                else camera.orbited(TURN_STEP * right, TURN_STEP * up)
            )
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.look(self.camera.zoomed(ZOOM_STEP))
        elif key == Qt.Key.Key_Minus:
            self.look(self.camera.zoomed(1 / ZOOM_STEP))
        elif key in SIDES:
            self.look_from(SIDES[key])
        elif key == Qt.Key.Key_F:
            self.look_from((self.camera.turn, self.camera.height))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._click(self.width() / 2, self.height() / 2)
        elif key == Qt.Key.Key_Escape:
            self.left_off.emit()
        else:
            super().keyPressEvent(event)
