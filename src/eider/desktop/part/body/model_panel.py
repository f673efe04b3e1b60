"""Where the body comes from, and how a STEP file is placed: candidates, offsets, quarter turns."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFileDialog, QLineEdit, QSizePolicy, QWidget

from eider.bodies.alignment import EQUALLY_GOOD
from eider.bodies.alignment_target import target_of_sheet
from eider.bodies.model_measure import placement_of
from eider.bodies.model_placement import RigidPlacement, moved_direction, moved_place
from eider.bodies.picking import PickedItem
from eider.commands import body_edits
from eider.commands.shared_items import use_item
from eider.desktop.context import DesktopContext
from eider.desktop.part.body.candidate_list import CandidateList
from eider.desktop.part.body.near_bodies_dialog import NearBodiesDialog
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, label, row, small_button
from eider.errors import EiderError
from eider.geometry.lengths import format_length, parse_length
from eider.model.body import ImportedModel
from eider.model.wording import counted, sentence
from eider.services.model_importing import import_model, measure_again, place_again
from eider.services.near_bodies import NearBody, near_bodies, use_near_body
from eider.services.tasks import Task
from eider.views.steps.body import BodyView

GENERATED, MODEL, COMPOSED = "Generated", "STEP file", "Composed"
AXES = ("x", "y", "z")


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
        self.offsets = [QLineEdit() for _ in AXES]
        for axis, field in enumerate(self.offsets):
            field.setToolTip(f"Move along {AXES[axis]}")
            field.editingFinished.connect(partial(self._move, axis))
        fields = row(*(piece for pair in zip(map(label, AXES), self.offsets, strict=True) for piece in pair))
        turns = row(
            label("Turn 90° about", "soft"),
            *(small_button(button(name, partial(self._turn, axis))) for axis, name in enumerate(AXES)),
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
        self._context.said.emit(f"{told}; it can stand in {ways}" if self.candidates else told)

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
        self._change(f"Move the model along {AXES[axis]}", lambda m: body_edits.moved_model(m, axis, to))

    def _turn(self, axis: int) -> None:
        self._change(f"Turn the model about {AXES[axis]}", lambda m: body_edits.turned_model(m, axis))

    def seat_on(self, face: PickedItem, shown: RigidPlacement) -> None:
        """Make a flat face of the model the seating plane; `shown` is how the model stands in the picture."""
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
