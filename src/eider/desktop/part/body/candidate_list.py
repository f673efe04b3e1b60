"""The ways in which a model can stand, each as a picture, for the user to choose from."""

from collections.abc import Callable, Sequence
from functools import partial

import numpy as np
from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QIcon, QImage, QPainter, QPixmap
from PyQt6.QtWidgets import QListView, QListWidget, QListWidgetItem

from eider.bodies.body_camera import Camera, Framing
from eider.bodies.body_mesh import Mesh
from eider.bodies.body_scene import BodyScene, SceneModel, placement_on
from eider.bodies.body_solids import board_solids
from eider.bodies.scene_mesh import joined
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.body_picture import TOP
from eider.desktop.widgets.scene_renderer import MeshRequest, PictureWish, draw_picture
from eider.model.body import ImportedModel
from eider.model.pattern import Pattern
from eider.services.model_importing import read_model

WIDTH, HEIGHT = 128, 96
MARK = 7.0
AXES = ("x", "y", "z")


class CandidateList(QListWidget):
    """Pictures from above, with the place of pin 1 marked on the lands; a click or Enter chooses."""

    def __init__(self, controller: PartController, context: DesktopContext, choose: Callable[[int], None]) -> None:
        super().__init__()
        self._controller, self._context = controller, context
        self._jobs = context.jobs.owned(self)
        self.models: tuple[ImportedModel, ...] = ()
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setIconSize(QSize(WIDTH, HEIGHT))
        self.setMovement(QListView.Movement.Static)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setWordWrap(True)
        self.setGridSize(QSize(WIDTH + 8, HEIGHT + 28))
        self.setFixedHeight(HEIGHT + 40)
        self.setToolTip("All ways in which the model stands equally well; choose the one with pin 1 at its place")
        self.itemActivated.connect(lambda _item: choose(self.currentRow()))
        self.itemClicked.connect(lambda _item: choose(self.currentRow()))

    def show_models(self, models: Sequence[ImportedModel]) -> None:
        """Offer these; the pictures follow."""
        self.models = tuple(models)
        self.clear()
        self.setVisible(bool(models))
        for number, model in enumerate(models, start=1):
            self.addItem(QListWidgetItem(f"{number}: {_words(model)}"))
        pattern, library, in_kernel = (
            self._controller.bundle.footprint.pattern,
            self._controller.library,
            self._context.jobs.in_kernel,
        )
        if not models or pattern is None:
            return
        shown = self.models

        def work() -> list[Mesh]:
            board = in_kernel(MeshRequest(board_solids(pattern)))
            coarse = read_model(library, shown[0].sha256).coarse
            scenes = (BodyScene(model=SceneModel(m.sha256, placement_on(m, pattern))) for m in shown)
            return [joined(board, scene, coarse) for scene in scenes]

        def meshed(meshes: list[Mesh]) -> None:
            for index, mesh in enumerate(meshes):
                wish = PictureWish(
                    Camera(*TOP), WIDTH, HEIGHT, self._context.theme.colour("paper"), self._context.theme.colour("ink")
                )
                done = partial(self._show_picture, shown, index, mesh, pattern)
                self._jobs.run("picture", partial(draw_picture, mesh, wish), done)

        self._jobs.run("picking", work, meshed, lambda fault: self._context.said.emit(str(fault)))

    def _show_picture(
        self, shown: tuple[ImportedModel, ...], index: int, mesh: Mesh, pattern: Pattern, image: QImage
    ) -> None:
        if shown is not self.models:
            return
        low, high = mesh.bounds
        pad = pattern.pads[0]
        at = Framing(low, high, WIDTH, HEIGHT).in_picture(Camera(*TOP), np.array([[pad.x, pad.y, 0.0]]))[0]
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(self._context.theme.colour("accent"))
        painter.setBrush(self._context.theme.colour("paper"))
        painter.drawEllipse(QPointF(*at.tolist()), MARK, MARK)
        box = painter.boundingRect(0, 0, WIDTH, HEIGHT, Qt.AlignmentFlag.AlignLeft, pad.number)
        painter.drawText(QPointF(at[0] - box.width() / 2, at[1] + box.height() / 3), pad.number)
        painter.end()
        item = self.item(index)
        if item is not None:
            item.setIcon(QIcon(QPixmap.fromImage(image)))


def _words(model: ImportedModel) -> str:
    """How a candidate lies: which axis of the file is up, and which to the right."""
    ups = [axis for axis in range(3) if abs(model.rotation[2][axis]) > 0.5]
    up = f"{'+' if model.rotation[2][ups[0]] > 0 else '−'}{AXES[ups[0]]} up" if ups else "up"
    along = next((axis for axis in range(3) if abs(model.rotation[0][axis]) > 0.5), 0)
    return f"{up}, {'+' if model.rotation[0][along] > 0 else '−'}{AXES[along]} right"
