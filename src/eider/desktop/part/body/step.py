"""Body: the 3D body on its lands."""

from functools import partial

from PyQt6.QtWidgets import QComboBox, QWidget

from eider.bodies.materials import colours
from eider.commands import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import PartStep
from eider.desktop.widgets.body_picture import ANGLED, SIDE, TOP, BodyPicture
from eider.desktop.widgets.layouts import button, column, growing, label, panes, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.solids import Solid
from eider.views.body_alignment import Agreement
from eider.views.steps.body import BodyOptions, BodyView


class BodyStep(PartStep):
    """Where the model comes from, the view on its lands, how it is aligned, what it is made of."""

    key = "body"

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__(controller, context)
        self._origin = label("", "soft", wrap=True)
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
        self._show.addItems(["On its lands", "Alone"])
        self._show.activated.connect(lambda _i: self.choose())
        left = column(label("Origin", "head"), self._origin, label("Materials", "head"), growing(self._materials))
        self.view = BodyPicture(context.theme, context.jobs, "")
        looks = [("Angled", ANGLED), ("Top", TOP), ("Side", SIDE)]
        tools = row(self._show, 1, *(button(title, partial(self.view.look_from, at)) for title, at in looks))
        middle = column(row(label("Body", "head"), 1), growing(self.view), tools)
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
        self.table.set_widths(198, 82, 82)
        right = column(label("Alignment", "head"), growing(self.table))
        self.build(panes(left, middle, right, sizes=(270, 560, 430)))

    def first(self) -> QWidget:
        return self.view

    def options(self) -> BodyOptions:
        return BodyOptions(on_lands=self._show.currentIndex() == 0)

    def show_view(self, view: BodyView) -> None:
        self._origin.setText(view.origin)
        self._materials.show_records(view.solids)
        self.table.show_records(view.agreements)
        if self.isVisible():
            self.view.show_solids(view.pictured)

    def _set_material(self, solid: Solid, material: str) -> None:
        self.controller.edit(f"Material of {solid.name}", lambda b: body_edits.set_material(b, solid.name, material))
