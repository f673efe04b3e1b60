"""Makes the pictures of a scene elsewhere: its meshes in the kernel's process, pictures in a thread of their own."""

import threading
from collections.abc import Callable
from functools import partial
from typing import Any, NamedTuple

import msgspec
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QColor, QImage

from eider.bodies.pictures.body_camera import Camera, Framing, Place
from eider.bodies.pictures.body_mesh import Mesh, make_mesh
from eider.bodies.pictures.body_scene import BodyScene
from eider.bodies.pictures.scene_mesh import joined
from eider.bodies.step_files.step_process import ImportedStep
from eider.desktop.jobs import Jobs
from eider.geometry.solids import Solid


class _Renderers(threading.local):
    """The renderer of the picture thread: an OpenGL context belongs to the thread that made it."""

    def __init__(self) -> None:
        self.renderer: Any = None
        self.shown: Any = None


_here = _Renderers()


class PictureWish(NamedTuple):
    """One picture: from where, how large in pixels, on what paper with what ink, and whether it may be rough."""

    camera: Camera
    width: int
    height: int
    paper: QColor
    ink: QColor
    is_rough: bool = False


class _Meshes(NamedTuple):
    """The mesh of a scene, a coarser one for while it is turned, and the box around it."""

    fine: Mesh
    coarse: Mesh
    box: tuple[Place, Place]


class MeshRequest(msgspec.Struct, frozen=True):
    """The request to mesh solids, in a form that another process can be handed."""

    solids: tuple[Solid, ...]

    def __call__(self) -> Mesh:
        return make_mesh(self.solids)


class SceneRenderer(QObject):
    """Pictures of one scene at a time; while one is being made, only the newest further wish is kept.

    `models` reads the STEP file of a scene by its sum.
    """

    # The scene is meshed, and pictures can be asked for.
    ready = pyqtSignal()
    drawn = pyqtSignal(QImage)
    failed = pyqtSignal(str)

    def __init__(self, jobs: Jobs, models: Callable[[str], ImportedStep] | None, parent: QObject) -> None:
        super().__init__(parent)
        self._jobs, self._models = jobs.owned(self), models
        self.scene = BodyScene()
        self._meshes: _Meshes | None = None
        self._busy = False
        self._next: PictureWish | None = None

    @property
    def is_ready(self) -> bool:
        """Whether the scene is meshed."""
        return self._meshes is not None

    def framing(self, width: float, height: float) -> Framing | None:
        """How the scene lies in a picture of this size; None while it is not meshed."""
        if self._meshes is None:
            return None
        low, high = self._meshes.box
        return Framing(low, high, width, height)

    def show_scene(self, scene: BodyScene) -> None:
        """Take up another scene; pictures can be had when `ready` tells so. An empty one has none."""
        self.scene = scene
        if scene == BodyScene():
            self._meshes = None
            return

        def meshed(solids: Mesh | None) -> None:
            if scene == self.scene:
                self._jobs.run("drawing", lambda: self._joined(scene, solids), ready, self._fail)

        def ready(meshes: _Meshes) -> None:
            if scene == self.scene:
                self._meshes = meshes
                self.ready.emit()

        if scene.solids:
            self._jobs.run("kernel", MeshRequest(scene.solids), meshed, self._fail)
        else:
            meshed(None)

    def _joined(self, scene: BodyScene, solids: Mesh | None) -> _Meshes:
        """The meshes of a scene, of which that of the solids is there; away from the Qt thread."""
        step = self._models(scene.model.sha256) if scene.model is not None and self._models is not None else None
        fine = joined(solids, scene, step.fine if step else None)
        coarse = joined(solids, scene, step.coarse) if step else fine
        return _Meshes(fine, coarse, fine.bounds)

    def ask(self, wish: PictureWish) -> None:
        """Ask for a picture; it comes by `drawn`."""
        if self._meshes is None:
            return
        if self._busy:
            self._next = wish
            return
        self._busy = True
        mesh = self._meshes.coarse if wish.is_rough else self._meshes.fine
        self._jobs.run("picture", partial(draw_picture, mesh, wish), self._show, self._fail)

    def _show(self, image: QImage) -> None:
        self._busy = False
        self.drawn.emit(image)
        wish, self._next = self._next, None
        if wish is not None:
            self.ask(wish)

    def _fail(self, fault: Exception) -> None:
        self._busy, self._next = False, None
        self.failed.emit(str(fault))


def draw_picture(mesh: Mesh, wish: PictureWish) -> QImage:
    """Draw with the renderer of this thread, which has to be that of pictures."""
    from eider.bodies.pictures.body_renderer import PictureStyle, Renderer

    if _here.renderer is None:
        _here.renderer = Renderer()
    if _here.shown is not mesh:
        _here.renderer.show(mesh)
        _here.shown = mesh
    style = PictureStyle(*((c.redF(), c.greenF(), c.blueF()) for c in (wish.paper, wish.ink)))
    picture = _here.renderer.picture(wish.camera, wish.width, wish.height, style, smooth=not wish.is_rough)
    height, width, _ = picture.shape
    return QImage(picture.tobytes(), width, height, 3 * width, QImage.Format.Format_RGB888).copy()
