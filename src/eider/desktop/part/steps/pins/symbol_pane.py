"""The symbol beside its pin table: how it is drawn, its units, and pins that are dragged to another place."""

from collections.abc import Callable, Sequence
from functools import partial

import msgspec
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QComboBox, QLineEdit, QPushButton, QSizePolicy, QTabBar, QWidget

from eider.commands.pins import symbol_edits
from eider.commands.pins.symbol_edits import set_custom_graphic
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.steps.pins.pin_mover import PinMover
from eider.desktop.theme import Theme
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.flow_layout import flow
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.desktop.widgets.qt_values import present
from eider.desktop.widgets.record_table import Column, RecordView
from eider.drawings.primitives import Line
from eider.model.address import PinAddress
from eider.model.symbol import STROKES, Arrangement, CustomGraphic, GraphicStroke
from eider.symbols.custom_graphic import CUSTOM
from eider.symbols.graphics import FORMS, all_graphics
from eider.views.steps.pins import CustomGraphicView, PinsOptions, PinsView, StrokeRow

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
                    "Points in grids: x,y x,y…",
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


# A symbol of two pins is not drawn larger than this (mm per pixel): its texts stay texts.
CLOSEST = 0.06
WAYS = {
    "one": "One unit", "equal": "Equal units", "group": "by group", "bank": "by bank", "supply": "Supply unit apart",
}  # fmt: skip
# Title, arrangement and number of sides of each way to arrange.
ARRANGEMENTS: tuple[tuple[str, Arrangement, int], ...] = (
    ("By number", "number", 2),
    ("Round four sides", "number", 4),
    ("By function", "function", 2),
)
HINT = (
    "No pins yet. Copy the pin table in a spreadsheet and press Ctrl+V in the table, import a file, or draw a "
    "rectangle around the table in the datasheet (F4)."
)


class SymbolPane(QWidget):
    """The symbol, live; `selected` tells which pins are in hand."""

    pin_clicked = pyqtSignal(object)
    group_wanted = pyqtSignal(object)
    options_changed = pyqtSignal()

    def __init__(self, controller: PartController, context: DesktopContext, selected: Callable[[], list[str]]) -> None:
        super().__init__()
        self.controller, self.context, self._selected = controller, context, selected
        self.view = DrawingView(context.theme, HINT, context.jobs)
        self.view.closest_fit = CLOSEST
        self.view.pointed.connect(context.pointed)
        self.view.address_clicked.connect(self.pin_clicked)
        self.view.address_double_clicked.connect(self.group_wanted)
        self.mover = PinMover(controller, context, self.view, selected, self.shown_unit)
        self.mover.pin_clicked.connect(self.pin_clicked)
        self.custom = CustomGraphicPanel(controller, context.theme)
        self.custom.hide()
        self._quality = label("", "soft", wrap=True)
        lower = column(self.mover, self._quality, margins=0, spacing=3)
        drawing = column(growing(self.view), lower, margins=0)
        self._by = QButtonGroup(self)
        fill_widget(
            self,
            column(
                flow(label("Symbol", "head"), *self._arrangements()),
                flow(*self._graphic_choice(), self.mover.menu(self), self._types_button()),
                self._units_row(),
                growing(panes(drawing, self.custom, sizes=(300, 300), vertical=True)),
            ),
        )

    def _arrangements(self) -> list[QPushButton]:
        ways = []
        for title, name, sides in ARRANGEMENTS:
            way = button(title, partial(self._arrange, name, sides), checkable=True)
            self._by.addButton(way)
            way.setObjectName(f"{name} {sides}")
            ways.append(way)
        return ways

    def _graphic_choice(self) -> list[QWidget]:
        self._graphic, self._form = QComboBox(), QComboBox()
        self._graphic.addItem("box", "")
        self._graphic.addItem("Custom graphic", CUSTOM)
        for key, graphic in all_graphics().items():
            self._graphic.addItem(graphic.title, key)
        for form in FORMS:
            self._form.addItem(form.upper(), form)
        for choice in (self._graphic, self._form):
            choice.activated.connect(lambda _i: self._set_graphic())
        self._graphic.setMinimumWidth(170)
        # Besides those of the list, keys with numbers can be typed.
        self._graphic.setEditable(True)
        self._graphic.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self._graphic.setToolTip(
            "Type one with numbers: connector-pins/2x5, connector-sockets/1x4, transformer/1|0,0, nor/4, "
            "op-amp/2, optocoupler/4"
        )
        typed = present(self._graphic.lineEdit())
        typed.returnPressed.connect(self._set_graphic)
        return [self._graphic, self._form]

    def _units_row(self) -> QWidget:
        self.units = QTabBar()
        self.units.setExpanding(False)
        self.units.currentChanged.connect(lambda _i: self.options_changed.emit())
        self._split = QComboBox()
        # A list of actions: what the units are is in the table and on the tabs.
        self._split.addItem("Split into…", "")
        for way, title in WAYS.items():
            self._split.addItem(title, way)
        self._split.activated.connect(lambda _i: self._split_units())
        self._split.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        return row(self._split, growing(self.units), 1)

    def _types_button(self) -> QPushButton:
        self._types = button("Show types", self.options_changed.emit, checkable=True)
        return self._types

    def options(self) -> PinsOptions:
        """What the user chose to see of the symbol."""
        index = self.units.currentIndex() - 1
        return PinsOptions(self._types.isChecked(), index if index >= 0 else None)

    def show_view(self, view: PinsView) -> None:
        """Show the symbol as it was computed."""
        for way in self._by.buttons():
            way.setChecked(way.objectName() == f"{view.arrangement} {view.sides}")
            way.setEnabled(not view.graphic)
        index = self._graphic.findData(view.graphic)
        self._graphic.setCurrentIndex(index)
        if index < 0:
            self._graphic.setEditText(view.graphic)
        self._form.setCurrentIndex(self._form.findData(view.form))
        self._form.setVisible(view.has_forms)
        self.custom.setVisible(view.custom is not None)
        if view.custom is not None:
            self.custom.show_view(view.custom)
        self.mover.show_view(view)
        self._show_units(view.unit_titles)
        self.view.show_drawing(view.drawing)
        self._quality.setText(view.quality)
        self.light()

    def _show_units(self, names: Sequence[str]) -> None:
        """A tab for all units and one for each, where there are several."""
        titles = ["all", *names] if names else []
        if titles != [self.units.tabText(i) for i in range(self.units.count())]:
            self.units.blockSignals(True)
            while self.units.count():
                self.units.removeTab(0)
            for title in titles:
                self.units.addTab(title)
            self.units.blockSignals(False)
        self.units.setVisible(bool(titles))

    def shown_unit(self) -> int | None:
        """The unit that is shown alone; None where all are."""
        index = self.units.currentIndex() - 1
        units = self.controller.bundle.symbol.units
        return index if 0 <= index < len(units) else (0 if len(units) == 1 else None)

    def light(self) -> None:
        """Highlight the selected pins, without drawing the rest again."""
        drawing = self.view.drawing
        chosen = set(self._selected())
        # Stacked pins are drawn as the first of them.
        units = self.controller.bundle.symbol.units
        at = {(i, p.x, p.y) for i, unit in enumerate(units) for p in unit.pins if p.number in chosen}
        addresses = {PinAddress(p.number) for i, unit in enumerate(units) for p in unit.pins if (i, p.x, p.y) in at}
        pins = [p for p in drawing.primitives if isinstance(p, Line) and p.role == "pin"] if drawing else []
        self.view.light(tuple(msgspec.structs.replace(p, role="lit") for p in pins if p.address in addresses))

    def _arrange(self, way: Arrangement, sides: int) -> None:
        self.controller.edit(f"Arrange by {way}", lambda b: symbol_edits.set_arrangement(b, way, sides))

    def _set_graphic(self) -> None:
        text, form = self._graphic.currentText().strip(), self._form.currentData()
        index = self._graphic.findText(text)
        graphic = str(self._graphic.itemData(index)) if index >= 0 else text
        self.controller.edit(f"Draw {text}", lambda b: symbol_edits.set_graphic(b, graphic, form))

    def _split_units(self) -> None:
        way = str(self._split.currentData())
        self._split.setCurrentIndex(0)
        if way:
            self.controller.edit(f"Units: {WAYS[way]}", lambda b: symbol_edits.split_units(b, way))
