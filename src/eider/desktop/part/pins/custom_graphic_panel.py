"""The rows of a custom graphic, beside the drawing that they give."""

import msgspec
from PyQt6.QtWidgets import QLineEdit, QWidget

from eider.commands.symbol_edits import set_custom_graphic
from eider.desktop.part.controller import PartController
from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.record_table import Column, RecordView
from eider.model.symbol import STROKES, CustomGraphic, GraphicStroke
from eider.views.steps.pins import CustomGraphicView, StrokeRow

replace = msgspec.structs.replace


class CustomGraphicPanel(QWidget):
    """Named lengths, and a table of lines, areas, circles, arcs, texts and pins on the symbol's grid."""

    def __init__(self, controller: PartController, theme: Theme) -> None:
        super().__init__()
        self.controller = controller
        self.lengths = QLineEdit()
        self.lengths.setPlaceholderText("Named lengths in grids: w = 4; h = w/2")
        self.lengths.editingFinished.connect(self._set_lengths)
        self.table = RecordView[StrokeRow](
            [
                Column(
                    "Draw",
                    lambda r: r.stroke.kind,
                    lambda r, text: self._change(r, kind=text),
                    choices=lambda _r: STROKES,
                    fault=lambda r: r.fault,
                ),
                Column(
                    "Points in grids: x,y x,y …",
                    lambda r: r.stroke.points,
                    lambda r, text: self._change(r, points=text.strip()),
                    fault=lambda r: r.fault,
                ),
                Column("Pin or text", lambda r: r.stroke.text, lambda r, text: self._change(r, text=text.strip())),
            ],
            theme,
        )
        self.table.set_widths(62, 220)
        self.table.edited.connect(controller.session.end_merge)
        self._fault = label("", "wrong", wrap=True)
        fill_widget(
            self,
            column(
                row(label("Custom graphic", "head"), growing(self.lengths)),
                growing(self.table),
                self._fault,
                row(button("Add a row", self._add), button("Remove", self._remove), 1),
                margins=0,
            ),
        )

    def _custom(self) -> CustomGraphic:
        return self.controller.bundle.symbol.custom or CustomGraphic()

    def show_view(self, view: CustomGraphicView) -> None:
        """Show the rows, and what is wrong with them."""
        self.table.show_records(view.rows)
        if not self.lengths.hasFocus():
            self.lengths.setText(view.lengths)
        self._fault.setText(view.fault)
        self._fault.setVisible(bool(view.fault))

    def _set_lengths(self) -> None:
        pieces = [piece.partition("=") for piece in self.lengths.text().split(";") if piece.strip()]
        lengths = {name.strip(): text.strip() for name, _, text in pieces}
        if lengths != self._custom().lengths:
            custom = replace(self._custom(), lengths=lengths)
            self.controller.edit("Change lengths of the custom graphic", lambda b: set_custom_graphic(b, custom))

    def _change(self, record: StrokeRow, **changes: str) -> None:
        strokes = list(self._custom().strokes)
        strokes[record.index - 1] = replace(strokes[record.index - 1], **changes)
        self._put(strokes, f"Change row {record.index} of the custom graphic", f"custom:{record.index}:{min(changes)}")

    def _add(self) -> None:
        self._put([*self._custom().strokes, GraphicStroke("line", "0,0 1,0")], "Add a row to the custom graphic")

    def _remove(self) -> None:
        gone = {record.index for record in self.table.selected()}
        kept = [stroke for i, stroke in enumerate(self._custom().strokes, start=1) if i not in gone]
        self._put(kept, "Remove rows of the custom graphic")

    def _put(self, strokes: list[GraphicStroke], title: str, merge: str = "") -> None:
        custom = replace(self._custom(), strokes=tuple(strokes))
        self.controller.edit(title, lambda b: set_custom_graphic(b, custom), merge)
