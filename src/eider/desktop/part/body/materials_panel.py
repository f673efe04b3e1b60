"""What the solids of a body are made of: each as a whole, and single sides of it."""

from functools import partial

from PyQt6.QtWidgets import QWidget

from eider.bodies.materials import SIDES, side_key
from eider.commands import body_edits
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.geometry.solids import FaceSide
from eider.views.steps.body import MaterialRow


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
