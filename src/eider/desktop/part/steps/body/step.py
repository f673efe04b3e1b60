"""Body: the 3D body on its lands."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import get_args

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QCheckBox, QComboBox, QSlider, QWidget

from eider.bodies.kernel.picked_items import PickedItem
from eider.bodies.placement.model_placement import RigidPlacement
from eider.bodies.solids.materials import SIDES, side_key
from eider.commands.parts import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.shared_item_strip import SharedItemStrip
from eider.desktop.part.step import ViewStep
from eider.desktop.part.steps.body.composed_panel import ComposedPanel
from eider.desktop.part.steps.body.model_panel import ModelPanel
from eider.desktop.part.steps.body.pick_panel import PickPanel
from eider.desktop.widgets.body_picture import ANGLED, BOTTOM, END, SIDE, TOP, BodyPicture
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.qt_values import dropped_files, present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.solids import FaceSide
from eider.model.wording import sentence
from eider.services.parts.model_importing import read_model
from eider.views.body_alignment import Agreement
from eider.views.steps.body import BodyOptions, BodyView, MaterialRow, Shown


class MaterialsPanel(QWidget):
    """A row for each solid; an empty side is of the material of the whole."""

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller = controller
        self._known: tuple[str, ...] = ()
        self.table = RecordView[MaterialRow](
            [
                Column("Solid", lambda r: r.solid),
                Column("Material", lambda r: r.material, self._set_whole, choices=lambda _r: self._known),
                *(self._side(side) for side in SIDES),
                Column("Pieces", lambda r: str(r.pieces), number=True),
            ],
            context.theme,
        )
        self.table.set_widths(80, 116, 60, 60, 60)
        edit = button("Materials of the library…", context.materials_asked.emit)
        fill_widget(self, column(label("Materials", "head"), growing(self.table), row(edit, 1), margins=0))

    def _side(self, side: FaceSide) -> Column[MaterialRow]:
        return Column(
            side.capitalize(),
            lambda r: r.sides[side],
            partial(self._set_side, side),
            choices=lambda _r: ("", *self._known),
        )

    def show_rows(self, rows: tuple[MaterialRow, ...], known: tuple[str, ...]) -> None:
        """Show what the solids are made of; `known` are the materials that can be chosen."""
        self._known = known
        self.table.show_records(rows)

    def _set_whole(self, record: MaterialRow, material: str) -> None:
        self._put(record.solid, f"Material of {record.solid}", material)

    def _set_side(self, side: FaceSide, record: MaterialRow, material: str) -> None:
        self._put(side_key(record.solid, side), f"Material of {record.solid}, {side}", material)

    def _put(self, key: str, title: str, material: str) -> None:
        self.controller.edit(title, lambda bundle: body_edits.set_material(bundle, key, material))


class BodyStep(ViewStep[BodyView]):
    """Where the model comes from, the view on its lands, how it is aligned, what it is made of."""

    key = "body"
    view_type = BodyView

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self.panel = ModelPanel(controller, context)
        self.panel.fault.connect(context.said)
        self.setAcceptDrops(True)
        # The name of the composed solid in hand.
        self._lit = ""
        self.materials = MaterialsPanel(controller, context)
        self._show = QComboBox()
        self._show.addItems([sentence(shown) for shown in get_args(Shown)])
        self._show.activated.connect(lambda _i: self.choose())
        left = column(self.panel, growing(self.materials), 0)
        models = partial(read_model, controller.library)
        self.view = BodyPicture(context.theme, context.jobs, "", models)
        looks = [("Angled", ANGLED), ("Top", TOP), ("Side", SIDE), ("End", END), ("Bottom", BOTTOM)]
        self.section = QSlider(Qt.Orientation.Horizontal)
        self.section.setRange(0, 100)
        self.section.setValue(100)
        self.section.setMaximumWidth(84)
        self.section.setToolTip("Cut the picture open along x")
        self.section.valueChanged.connect(self._cut_open)
        self.see_through = QCheckBox("See-through")
        self.see_through.toggled.connect(self._see_through)
        tools = flow(
            row(label("Section", "soft"), self.section, self.see_through),
            row(*(button(title, partial(self.view.look_from, at)) for title, at in looks)),
        )
        self.composed = ComposedPanel(controller, context)
        self.composed.lit.connect(self._light)
        self.composed.hide()
        self.picks = PickPanel(self.view, controller, context)
        self.picks.seating.connect(lambda face: self._place_by(self.panel.seat_on, face))
        self.picks.first_terminal.connect(lambda item: self._place_by(self.panel.put_first, item))
        picture = column(row(label("Body", "head"), 1, self._show), growing(self.view), self.picks, tools)
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
        self.table.set_widths(200, 82, 66)
        right = column(label("Alignment", "head"), growing(self.table))
        upper = panes(left, picture, right, sizes=(296, 536, 448))
        self.strip = SharedItemStrip("body", controller, context.jobs)
        whole = panes(upper, self.composed, sizes=(380, 200), vertical=True)
        self.build(column(self.strip, growing(whole), margins=0))

    def first(self) -> QWidget:
        return self.view

    def options(self) -> BodyOptions:
        return BodyOptions(get_args(Shown)[max(self._show.currentIndex(), 0)], self._lit)

    def _cut_open(self, percent: int) -> None:
        self.view.look(replace(self.view.camera, section=percent / 100))

    def _see_through(self, is_on: bool) -> None:
        self.view.look(replace(self.view.camera, see_through=is_on))

    def _place_by(self, change: Callable[[PickedItem, RigidPlacement], None], item: PickedItem) -> None:
        """Place the model by an item that was picked in the picture."""
        shown = self.view.scene.model
        if shown is not None:
            change(item, shown.placement)

    def _light(self, name: str) -> None:
        if name != self._lit:
            self._lit = name
            self.choose()

    def show_view(self, view: BodyView) -> None:
        self.panel.show_origin(view, self.context.unit)
        self.materials.setVisible(view.model is None)
        self.materials.show_rows(view.materials, view.known_materials)
        self.composed.setVisible(bool(view.composed))
        self.composed.show_rows(view.composed, view.known_materials)
        self.table.show_records(view.agreements)
        self.strip.refresh()
        if self.isVisible():
            self.view.show_scene(view.scene)
            self.picks.scene_changed()

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        if _dropped(event) is not None:
            present(event).acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        path = _dropped(event)
        if path is not None:
            present(event).acceptProposedAction()
            self.panel.import_file(path)


def _dropped(event: QDropEvent | None) -> Path | None:
    """The STEP file that is dropped; None where it is anything else."""
    return next((path for path in dropped_files(event) if path.suffix.lower() in (".step", ".stp")), None)
