"""Body: the 3D body on its lands."""

from functools import partial
from pathlib import Path
from typing import get_args

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QComboBox, QSlider, QWidget

from eider.bodies.materials import colours
from eider.commands import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.body.composed_panel import ComposedPanel
from eider.desktop.part.body.model_panel import ModelPanel
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import PartStep
from eider.desktop.widgets.body_picture import ANGLED, BOTTOM, END, SIDE, TOP, BodyPicture
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.solids import Solid
from eider.model.wording import sentence
from eider.services.model_importing import read_model
from eider.views.body_alignment import Agreement
from eider.views.steps.body import BodyOptions, BodyView, Shown


class BodyStep(PartStep):
    """Where the model comes from, the view on its lands, how it is aligned, what it is made of."""

    key = "body"

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.panel = ModelPanel(controller, context)
        self.panel.fault.connect(context.said)
        self.setAcceptDrops(True)
        # The name of the composed solid in hand.
        self._lit = ""
        self._materials = RecordView[Solid](
            [
                Column("Solid", lambda s: s.name),
                Column("Material", lambda s: s.material, self._set_material, choices=lambda _s: tuple(colours())),
                Column("Pieces", lambda s: str(len(s.placements)), number=True),
            ],
            context.theme,
        )
        self._materials.set_widths(80, 116)
        self._show = QComboBox()
        self._show.addItems([sentence(shown) for shown in get_args(Shown)])
        self._show.activated.connect(lambda _i: self.choose())
        self._materials_of_generated = column(label("Materials", "head"), growing(self._materials), margins=0)
        left = column(self.panel, growing(self._materials_of_generated), 0)
        models = partial(read_model, controller.library)
        self.view = BodyPicture(context.theme, context.jobs, "", models)
        looks = [("Angled", ANGLED), ("Top", TOP), ("Side", SIDE), ("End", END), ("Bottom", BOTTOM)]
        self.section = QSlider(Qt.Orientation.Horizontal)
        self.section.setRange(0, 100)
        self.section.setValue(100)
        self.section.setMaximumWidth(110)
        self.section.setToolTip("Cut the picture open along x")
        self.section.valueChanged.connect(lambda share: self.view.show_section(share / 100))
        tools = row(
            label("Section", "soft"),
            self.section,
            1,
            *(button(title, partial(self.view.look_from, at)) for title, at in looks),
        )
        self.composed = ComposedPanel(controller, context)
        self.composed.lit.connect(self._light)
        self.composed.hide()
        picture = column(row(label("Body", "head"), 1, self._show), growing(self.view), tools)
        self.table = RecordView[Agreement](
            [
                Column("Check", lambda r: r.what),
                Column("Measured", lambda r: r.measured, number=True),
                Column("Expected", lambda r: r.expected, number=True),
                Column(
                    "", lambda r: "agrees" if r.agrees else "differs", fault=lambda r: "" if r.agrees else "differs"
                ),
            ],
            context.theme,
        )
        self.table.set_widths(196, 80, 66)
        right = column(label("Alignment", "head"), growing(self.table))
        upper = panes(left, picture, right, sizes=(300, 480, 480))
        self.build(panes(upper, self.composed, sizes=(380, 200), vertical=True))

    def first(self) -> QWidget:
        return self.view

    def options(self) -> BodyOptions:
        return BodyOptions(get_args(Shown)[max(self._show.currentIndex(), 0)], self._lit)

    def _light(self, name: str) -> None:
        if name != self._lit:
            self._lit = name
            self.choose()

    def show_view(self, view: BodyView) -> None:
        self.panel.show_origin(view, self.context.unit)
        self._materials_of_generated.setVisible(view.model is None and not view.composed)
        self.composed.setVisible(bool(view.composed))
        self.composed.show_rows(view.composed)
        self._materials.show_records(view.solids)
        self.table.show_records(view.agreements)
        if self.isVisible():
            self.view.show_scene(view.scene)

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if _dropped(event) is not None:
            present(event).acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        path = _dropped(event)
        if path is not None:
            present(event).acceptProposedAction()
            self.panel.import_file(path)

    def _set_material(self, solid: Solid, material: str) -> None:
        self.controller.edit(f"Material of {solid.name}", lambda b: body_edits.set_material(b, solid.name, material))


def _dropped(event: QDropEvent | None) -> Path | None:
    """The STEP file that is dropped; None where it is anything else."""
    data = event.mimeData() if event else None
    paths = [Path(url.toLocalFile()) for url in data.urls()] if data is not None else []
    return next((path for path in paths if path.suffix.lower() in (".step", ".stp")), None)
