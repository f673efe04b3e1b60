"""The 3D view: a plain widget that shows pictures made elsewhere, and turns and zooms by asking for another."""

import threading
from collections.abc import Callable
from functools import partial
from typing import Any, NamedTuple

import msgspec
from PyQt6.QtCore import QPoint, QSize, Qt
from PyQt6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from eider.bodies.body_camera import Camera
from eider.bodies.body_mesh import make_mesh
from eider.bodies.body_scene import BodyScene
from eider.bodies.scene_mesh import joined
from eider.bodies.step_process import ImportedStep
from eider.desktop.jobs import Jobs
from eider.desktop.theme import Theme
from eider.desktop.widgets.qt_values import present
from eider.geometry.solids import Solid

# Turn and height in degrees from which one looks.
TOP, SIDE, ANGLED, END, BOTTOM = (0.0, 90.0), (0.0, 0.0), (-35.0, 30.0), (90.0, 0.0), (0.0, -90.0)
TURN_PER_PIXEL = 0.5
# How far a key moves the scene (a share of half the picture), and how much it zooms.
STEP, ZOOM_STEP = 0.1, 1.2
ARROWS = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1),
}  # fmt: skip
SIDES = {
    Qt.Key.Key_1: ANGLED, Qt.Key.Key_2: TOP, Qt.Key.Key_3: SIDE, Qt.Key.Key_4: END, Qt.Key.Key_5: BOTTOM,
}  # fmt: skip


class _Renderers(threading.local):
    """The renderer of the picture thread: an OpenGL context belongs to the thread that made it."""

    def __init__(self) -> None:
        self.renderer: Any = None
        self.shown: Any = None


_here = _Renderers()


def _picture(mesh: Any, camera: Camera, size: tuple[int, int], paper: Any, *, fast: bool) -> Any:
    from eider.bodies.body_renderer import Renderer

    if _here.renderer is None:
        _here.renderer = Renderer()
    if _here.shown is not mesh:
        _here.renderer.show(mesh)
        _here.shown = mesh
    return _here.renderer.picture(camera, *size, paper, smooth=not fast)


class _Meshes(NamedTuple):
    """The mesh of a scene, and a coarser one for while it is turned."""

    fine: Any
    coarse: Any


class BodyPicture(QWidget):
    """A body from any side: drag turns, drag with Shift or the middle button moves, the wheel zooms at the pointer.

    Keys: arrows turn, with Shift they move; + and − zoom, 1 to 5 look from a side, F shows all. `models` reads the STEP
    file of a scene by its sum.
    """

    def __init__(
        self, theme: Theme, jobs: Jobs, hint: str, models: Callable[[str], ImportedStep] | None = None
    ) -> None:
        super().__init__()
        self._theme, self._jobs, self._hint, self._models = theme, jobs.owned(self), hint, models
        self._scene = BodyScene()
        self._meshes: _Meshes | None = None
        self._image: QImage | None = None
        self._turn, self._height, self._zoom = *ANGLED, 1.0
        # The scene moved to the right and up, and how much of it along x is shown.
        self._pan, self._section = (0.0, 0.0), 1.0
        self._drag: QPoint | None = None
        self._busy, self._stale = False, False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def minimumSizeHint(self) -> QSize:
        return QSize(140, 110)

    @property
    def has_picture(self) -> bool:
        """Whether a picture of the present solids is shown."""
        return self._image is not None

    def show_scene(self, scene: BodyScene) -> None:
        """Show this; the same one stays as it is."""
        if scene == self._scene:
            return
        self._scene = scene
        if scene == BodyScene():
            self._meshes = self._image = None
            self.update()
            return

        def meshed(solids: Any) -> None:
            if scene == self._scene:
                self._jobs.run("drawing", lambda: self._joined(scene, solids), ready, self._failed)

        def ready(meshes: _Meshes) -> None:
            if scene == self._scene:
                self._meshes = meshes
                self._ask()

        if scene.solids:
            self._jobs.run("kernel", _Meshing(scene.solids), meshed, self._failed)
        else:
            meshed(None)

    def _joined(self, scene: BodyScene, solids: Any) -> _Meshes:
        """The meshes of a scene, of which that of the solids is there; away from the Qt thread."""
        if scene.model is None or self._models is None:
            return _Meshes(solids, solids)
        step = self._models(scene.model.sha256)
        return _Meshes(joined(solids, scene, step.fine), joined(solids, scene, step.coarse))

    def look_from(self, side: tuple[float, float]) -> None:
        """Look from above, from the side, or aslant."""
        self._turn, self._height = side
        self._zoom, self._pan = 1.0, (0.0, 0.0)
        self._ask()

    def show_section(self, share: float) -> None:
        """Cut away what lies farther along x than this share of the scene; 1 shows all."""
        self._section = share
        self._ask()

    def _failed(self, fault: Exception) -> None:
        self._hint, self._image = str(fault), None
        self.update()

    def _ask(self) -> None:
        """Ask for a picture; while one is being made, only the newest further wish is kept."""
        if self._meshes is None or self.width() < 8 or self.height() < 8:
            return
        if self._busy:
            self._stale = True
            return
        self._busy = True
        ratio = self.devicePixelRatioF()
        size = (round(self.width() * ratio), round(self.height() * ratio))
        paper = self._theme.colour("paper")
        background = (paper.redF(), paper.greenF(), paper.blueF())
        camera = Camera(self._turn, self._height, self._zoom, self._pan, self._section)
        fast = self._drag is not None
        mesh = self._meshes.coarse if fast else self._meshes.fine
        work = partial(_picture, mesh, camera, size, background, fast=fast)
        self._jobs.run("picture", work, self._show, self._unable)

    def _unable(self, fault: Exception) -> None:
        self._busy = False
        self._failed(fault)

    def _show(self, picture: Any) -> None:
        self._busy = False
        height, width, _ = picture.shape
        image = QImage(picture.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888)
        image.setDevicePixelRatio(self.devicePixelRatioF())
        self._image = image.copy()
        self.update()
        if self._stale:
            self._stale = False
            self._ask()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._theme.colour("paper"))
        if self._image is not None:
            painter.drawImage(0, 0, self._image)
            return
        painter.setPen(self._theme.colour("soft"))
        is_waiting = self._scene != BodyScene() and self._meshes is None and not self._hint
        hint = "Computing the body…" if is_waiting else self._hint
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(self.rect().adjusted(20, 20, -20, -20), flags, hint)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._ask()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        self._drag = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        event = present(event)
        if self._drag is None:
            return
        moved = event.position().toPoint() - self._drag
        self._drag = event.position().toPoint()
        is_pan = event.buttons() & Qt.MouseButton.MiddleButton or event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        if is_pan:
            self._move(2 * moved.x() / max(self.width(), 1), -2 * moved.y() / max(self.height(), 1))
        else:
            self._orbit(-moved.x() * TURN_PER_PIXEL, moved.y() * TURN_PER_PIXEL)

    def mouseReleaseEvent(self, _event: QMouseEvent | None) -> None:
        self._drag = None
        # What was shown coarse while it moved is drawn once more.
        self._ask()

    def _orbit(self, turn: float, height: float) -> None:
        self._turn = (self._turn + turn) % 360
        self._height = min(max(self._height + height, -90.0), 90.0)
        self._ask()

    def _move(self, right: float, up: float) -> None:
        self._pan = self._pan[0] + right, self._pan[1] + up
        self._ask()

    def _zoom_by(self, factor: float, at: tuple[float, float] = (0.0, 0.0)) -> None:
        """Zoom, so that what lies at a place of the picture (shares of half of it, from the middle) stays there."""
        zoom = min(max(self._zoom * factor, 0.3), 20.0)
        grown = zoom / self._zoom
        self._pan = at[0] - (at[0] - self._pan[0]) * grown, at[1] - (at[1] - self._pan[1]) * grown
        self._zoom = zoom
        self._ask()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        event = present(event)
        at = event.position()
        place = 2 * at.x() / max(self.width(), 1) - 1, 1 - 2 * at.y() / max(self.height(), 1)
        self._zoom_by(1.2 ** (event.angleDelta().y() / 120), place)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        event = present(event)
        key, is_shifted = Qt.Key(event.key()), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in ARROWS:
            right, up = ARROWS[key]
            if is_shifted:
                self._move(STEP * right, STEP * up)
            else:
                self._orbit(10 * right, 10 * up)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self._zoom_by(ZOOM_STEP)
        elif key == Qt.Key.Key_Minus:
            self._zoom_by(1 / ZOOM_STEP)
        elif key in SIDES:
            self.look_from(SIDES[key])
        elif key == Qt.Key.Key_F:
            self.look_from((self._turn, self._height))
        else:
            super().keyPressEvent(event)


class _Meshing(msgspec.Struct, frozen=True):
    """The request to mesh solids, in a form that another process can be handed."""

    solids: tuple[Solid, ...]

    def __call__(self) -> Any:
        return make_mesh(self.solids)
