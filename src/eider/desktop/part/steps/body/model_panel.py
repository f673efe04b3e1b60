"""Where the body comes from, and how a STEP file is placed: candidates, offsets, quarter turns."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

import numpy as np
from PyQt6.QtCore import QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QImage, QPainter, QPixmap
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QLineEdit,
    QListView,
    QListWidget,
    QListWidgetItem,
    QSizePolicy,
    QWidget,
)

from eider.bodies.kernel.picked_items import PickedItem
from eider.bodies.pictures.body_camera import Camera, Framing
from eider.bodies.pictures.body_mesh import Mesh
from eider.bodies.pictures.body_scene import BodyScene, SceneModel, placement_on
from eider.bodies.pictures.scene_mesh import joined
from eider.bodies.placement.alignment import EQUALLY_GOOD
from eider.bodies.placement.alignment_target import target_of_sheet
from eider.bodies.placement.model_measure import placement_of
from eider.bodies.placement.model_placement import RigidPlacement, moved_direction, moved_place
from eider.bodies.solids.body_solids import board_solids
from eider.commands.parts import body_edits
from eider.commands.parts.shared_items import use_item
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.steps.body.near_bodies_dialog import NearBodiesDialog
from eider.desktop.widgets.body_picture import TOP
from eider.desktop.widgets.layouts import button, column, fill_widget, label, row, small_button
from eider.desktop.widgets.scene_renderer import MeshRequest, PictureWish, draw_picture
from eider.errors import EiderError
from eider.geometry.lengths import format_length, parse_length
from eider.model.body import ImportedModel
from eider.model.pattern import Pattern
from eider.model.wording import counted, sentence
from eider.services.parts.model_importing import import_model, measure_again, place_again, read_model
from eider.services.parts.near_bodies import NearBody, near_bodies, use_near_body
from eider.services.tasks import Task
from eider.views.steps.body import BodyView

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
        self.setToolTip("Equally good placements; choose the one with pin 1 in the right place")
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


GENERATED, MODEL, COMPOSED = "Generated", "STEP file", "Composed"
MODEL_AXES = ("x", "y", "z")


class ModelPanel(QWidget):
    """Origin and placement of the body; `fault` tells what could not be done."""

    fault = pyqtSignal(str)

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        self.controller, self._context = controller, context
        self._jobs = context.jobs.owned(self)
        self.near: NearBodiesDialog | None = None
        self.source = QComboBox()
        self.source.addItems([GENERATED, MODEL, COMPOSED])
        self.source.activated.connect(self._choose_source)
        self.about, self.doubts = label("", "soft", wrap=True), label("", "wrong", wrap=True)
        self.choices = CandidateList(controller, context, self._take_candidate)
        self.choices.hide()
        self.offsets = [QLineEdit() for _ in MODEL_AXES]
        for axis, field in enumerate(self.offsets):
            field.setToolTip(f"Move along {MODEL_AXES[axis]}")
            field.editingFinished.connect(partial(self._move, axis))
        fields = row(*(piece for pair in zip(map(label, MODEL_AXES), self.offsets, strict=True) for piece in pair))
        turns = row(
            label("Turn 90° about", "soft"),
            *(small_button(button(name, partial(self._turn, axis))) for axis, name in enumerate(MODEL_AXES)),
            1,
        )
        self._again = button("Place again", self._place_again)
        self.placing = column(
            label("Placement", "head"), self.doubts, self.choices, fields, turns, row(self._again, 1), margins=0
        )
        ways = row(button("STEP file…", self._choose_file), button("From the library…", self.look_in_library), 1)
        fill_widget(self, column(label("Origin", "head"), self.source, ways, self.about, self.placing, margins=0))

    def show_origin(self, view: BodyView, unit: str) -> None:
        """Show where the body comes from and how it is placed."""
        model, doubts = view.model, view.doubts
        self.about.setText(view.origin)
        self.source.setCurrentText(MODEL if model else COMPOSED if view.composed else GENERATED)
        self.placing.setVisible(model is not None)
        self.doubts.setText(sentence(doubts))
        self.doubts.setVisible(bool(doubts))
        if model is None:
            return
        if self.candidates and self.candidates[0].sha256 != model.sha256:
            self._show_candidates(())
        for field, value in zip(self.offsets, model.offset, strict=True):
            if not field.hasFocus() or not field.isModified():
                field.setText(format_length(value, unit))

    @property
    def candidates(self) -> tuple[ImportedModel, ...]:
        """The ways to place the model that the user is asked to choose from."""
        return self.choices.models

    def import_file(self, path: Path) -> None:
        """Bring a STEP file in, and place it on the lands."""
        library, sheet = self.controller.library, self.controller.bundle.sheet

        def work(task: Task) -> tuple[ImportedModel, ...]:
            return import_model(library, sheet, path, task)

        self._jobs.run_long("export", f"Reading {path.name}", work, self._imported, self._failed)

    def look_in_library(self) -> None:
        """Offer the models that the library has for packages like this one."""
        library, bundle = self.controller.library, self.controller.bundle

        def found(near: tuple[NearBody, ...]) -> None:
            self.near = NearBodiesDialog(near, self._context, self._use_near, self)
            self.near.open()

        title = "Looking for bodies"
        self._jobs.run_long("export", title, lambda task: near_bodies(library, bundle, task), found, self._failed)

    def _use_near(self, near: NearBody, shares: bool) -> None:
        if shares:
            title = f"Share the body of {near.name}"
            self.controller.edit(title, lambda bundle: use_item(bundle, "body", near.body, near.ref))
            return
        library, sheet = self.controller.library, self.controller.bundle.sheet

        def done(model: ImportedModel) -> None:
            self._imported((model,))

        self._jobs.run("drawing", lambda: use_near_body(library, near, sheet), done, self._failed)

    def _imported(self, found: tuple[ImportedModel, ...]) -> None:
        best = found[0]
        self._use(best, f"Use {best.file} as the body")
        self._show_candidates(found)
        ways = counted(len(self.candidates), "way")
        told = f"{best.file} placed: {counted(len(best.measure.terminals), 'terminal')} on lands"
        self._context.said.emit(f"{told}; it can be in {ways}" if self.candidates else told)

    def _failed(self, fault: Exception) -> None:
        self.fault.emit(str(fault))

    def _use(self, model: ImportedModel, title: str) -> None:
        self.controller.edit(title, lambda bundle: body_edits.use_model(bundle, model))

    def _show_candidates(self, found: tuple[ImportedModel, ...]) -> None:
        # Where a mark tells pin 1, all that are listed look the same.
        best = [model for model in found if model.measure.score > found[0].measure.score - EQUALLY_GOOD]
        self.choices.show_models(best if len(best) > 1 and best[0].measure.pin1 != "found" else ())

    def _take_candidate(self, index: int) -> None:
        if 0 <= index < len(self.candidates):
            chosen = body_edits.chosen_model(self.candidates[index])
            self._use(chosen, f"Place {chosen.file} in way {index + 1}")

    def _choose_source(self) -> None:
        wanted, body = self.source.currentText(), self.controller.bundle.body
        now = MODEL if body.model else COMPOSED if body.composed else GENERATED
        if wanted == now:
            return
        if wanted == GENERATED:
            self.controller.edit("Generate the body", body_edits.use_generated)
        elif wanted == COMPOSED:
            self.controller.edit("Compose the body", lambda b: body_edits.compose(b, body_edits.first_solids(b.sheet)))
        else:
            self.source.setCurrentText(now)
            self._choose_file()

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Choose a STEP file", str(self.controller.library.folder.parent), "STEP (*.step *.stp *.STEP *.STP)"
        )
        if name:
            self.import_file(Path(name))

    def _move(self, axis: int) -> None:
        model, field = self.controller.bundle.body.model, self.offsets[axis]
        if model is None or not field.isModified():
            return
        field.setModified(False)
        try:
            to = parse_length(field.text(), unit=self._context.unit)
        except EiderError as fault:
            self.fault.emit(str(fault))
            return
        self._change(f"Move the model along {MODEL_AXES[axis]}", lambda m: body_edits.moved_model(m, axis, to))

    def _turn(self, axis: int) -> None:
        self._change(f"Turn the model about {MODEL_AXES[axis]}", lambda m: body_edits.turned_model(m, axis))

    def seat_on(self, face: PickedItem, shown: RigidPlacement) -> None:
        """Make a flat face of the model the seating plane; `shown` is how the model is in the picture."""
        normal = face.direction
        if normal is not None:

            def change(model: ImportedModel) -> ImportedModel:
                here = placement_of(model)
                down = moved_direction(normal, shown, here)
                return body_edits.seated_model(model, down, moved_place(face.centre, shown, here))

            self._change("Stand the model on a face", change)

    def put_first(self, item: PickedItem, shown: RigidPlacement) -> None:
        """Move the model so that the centre of an item stands where the first terminal stands."""
        sheet = self.controller.bundle.sheet

        def change(model: ImportedModel) -> ImportedModel:
            x, y, _ = moved_place(item.centre, shown, placement_of(model))
            wanted = target_of_sheet(sheet).first_place
            return body_edits.shifted_model(model, wanted[0] - x, wanted[1] - y)

        self._change("Put a point on terminal 1", change)

    def _change(self, title: str, change: Callable[[ImportedModel], ImportedModel]) -> None:
        """Change the placement, and measure again where the terminals stand."""
        model, library, sheet = self.controller.bundle.body.model, self.controller.library, self.controller.bundle.sheet
        if model is None:
            return
        self._jobs.run(
            "drawing",
            lambda: measure_again(library, change(model), sheet),
            lambda made: self._use(made, title),
            self._failed,
        )

    def _place_again(self) -> None:
        model, library, sheet = self.controller.bundle.body.model, self.controller.library, self.controller.bundle.sheet
        if model is not None:
            self._jobs.run("drawing", lambda: place_again(library, model, sheet), self._imported, self._failed)
