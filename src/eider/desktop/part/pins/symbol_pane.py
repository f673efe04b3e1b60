"""The symbol beside its pin table: how it is drawn, its units, and pins that are dragged to another place."""

from collections.abc import Callable
from functools import partial

import msgspec
from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QButtonGroup, QComboBox, QListWidget, QMenu, QPushButton, QSizePolicy, QTabBar, QWidget

from eider.commands import symbol_edits
from eider.commands.pin_drag import PinDrag, begin_pin_drag, drop_pins
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.part.pins.custom_graphic_panel import CustomGraphicPanel
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, panes, row
from eider.drawings.finding_balloons import with_balloons
from eider.drawings.primitives import Line
from eider.drawings.symbol_drawing import symbol_drawing, unit_drawing
from eider.model.address import Address, PinAddress, pin_number
from eider.model.symbol import Arrangement, PinMove, Side
from eider.symbols.arrangement_quality import quality
from eider.symbols.custom_graphic import CUSTOM
from eider.symbols.graphics import FORMS, all_graphics, has_forms
from eider.symbols.pin_moves import arrangement_moves

# A symbol of two pins is not drawn larger than this (mm per pixel): its texts stay texts.
CLOSEST = 0.06
WAYS = {
    "one": "one unit", "equal": "equal units", "group": "by group", "bank": "by bank", "supply": "supply apart",
}  # fmt: skip
# Title, arrangement and number of sides of each way to arrange.
ARRANGEMENTS: tuple[tuple[str, Arrangement, int], ...] = (
    ("By number", "number", 2),
    ("Round four sides", "number", 4),
    ("By function", "function", 2),
)
# What the menu offers for the selected pins, with its keys: a step along the side, or a side.
STEPS = (("Up on its side", -1, "Alt+Up"), ("Down on its side", 1, "Alt+Down"))
TO_SIDES: tuple[tuple[str, Side | None, str], ...] = (
    ("To the left", "left", "Alt+Left"), ("To the right", "right", "Alt+Right"), ("To the top", "top", "Alt+PgUp"),
    ("To the bottom", "bottom", "Alt+PgDown"), ("As arranged", None, "Alt+Home"),
)  # fmt: skip
HINT = (
    "No pins yet. Copy the pin table in a spreadsheet and press Ctrl+V in the table, import a file, or draw a "
    "rectangle round the table in the datasheet (F4)."
)


class SymbolPane(QWidget):
    """The symbol, live; `selected` tells which pins are in hand."""

    pin_clicked = pyqtSignal(object)
    group_wanted = pyqtSignal(object)

    def __init__(self, controller: PartController, context: DesktopContext, selected: Callable[[], list[str]]) -> None:
        super().__init__()
        self.controller, self.context, self._selected = controller, context, selected
        self._drag: PinDrag | None = None
        self.view = DrawingView(context.theme, HINT)
        self.view.closest_fit = CLOSEST
        self.view.pointed.connect(context.pointed)
        self.view.draggable = lambda address: isinstance(address, PinAddress) and not self._is_graphic()
        self.view.address_clicked.connect(self.pin_clicked)
        self.view.address_double_clicked.connect(self.group_wanted)
        self.view.dragging.connect(self._dragging)
        self.view.dropped.connect(self._dropped)
        self.view.drag_ended.connect(self._end_drag)
        self.own = CustomGraphicPanel(controller, context.theme)
        self.own.hide()
        self._quality = label("", "soft", wrap=True)
        lower = column(self._moves_row(), self._quality, margins=0, spacing=3)
        drawing = column(growing(self.view), lower, margins=0)
        self._by = QButtonGroup(self)
        fill_widget(
            self,
            column(
                row(label("Symbol", "head"), 1, *self._arrangements()),
                row(*self._graphic_choice(), 1, self._move_menu(), self._types_button()),
                self._units_row(),
                growing(panes(drawing, self.own, sizes=(300, 300), vertical=True)),
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
        self._graphic.addItem("own drawing", CUSTOM)
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
            "or type one with numbers: connector-pins/2x5, connector-sockets/1x4, transformer/1|0,0, nor/4, "
            "op-amp/2, optocoupler/4"
        )
        typed = self._graphic.lineEdit()
        if typed is not None:
            typed.returnPressed.connect(self._set_graphic)
        return [self._graphic, self._form]

    def _units_row(self) -> QWidget:
        self.units = QTabBar()
        self.units.setExpanding(False)
        self.units.currentChanged.connect(lambda _i: self.draw())
        self._split = QComboBox()
        # A list of actions: what the units are stands in the table and on the tabs.
        self._split.addItem("split into …", "")
        for way, title in WAYS.items():
            self._split.addItem(title, way)
        self._split.activated.connect(lambda _i: self._split_units())
        self._split.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        return row(self._split, growing(self.units), 1)

    def _types_button(self) -> QPushButton:
        self._types = button("Show types", self.draw, checkable=True)
        return self._types

    def _move_menu(self) -> QPushButton:
        """Ways to move the selected pins; the keys work in the table and on the drawing."""
        made = QPushButton("Move pins")
        menu = QMenu(made)
        for title, step, keys in STEPS:
            self._add_action(menu, title, keys, partial(self._shift, step))
        menu.addSeparator()
        for title, side, keys in TO_SIDES:
            self._add_action(menu, title, keys, partial(self._to_side, side))
        made.setMenu(menu)
        return made

    def _add_action(self, menu: QMenu, title: str, keys: str, run: Callable[[], None]) -> None:
        action = menu.addAction(title)
        if action is not None:
            action.setShortcut(QKeySequence(keys))
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            action.triggered.connect(lambda _checked: run())
            self.addAction(action)

    def _moves_row(self) -> QWidget:
        """The pins that were moved by hand, each to be taken back."""
        self.moves = QListWidget()
        self.moves.setMaximumHeight(62)
        self.moves.itemSelectionChanged.connect(lambda: self._show_moved())
        take = button("Take back", self._take_back)
        every = button("Take all back", lambda: self._take_back(every=True))
        self._moves = column(label("Moved by hand", "head"), row(growing(self.moves), take, every), margins=0)
        self._moves.hide()
        return self._moves

    def refresh(self) -> None:
        """Show the present symbol."""
        symbol = self.controller.bundle.symbol
        for way in self._by.buttons():
            sides = symbol.sides if symbol.arrangement == "number" else 2
            way.setChecked(way.objectName() == f"{symbol.arrangement} {sides}")
            way.setEnabled(not symbol.graphic)
        index = self._graphic.findData(symbol.graphic)
        self._graphic.setCurrentIndex(index)
        if index < 0:
            self._graphic.setEditText(symbol.graphic)
        self._form.setCurrentIndex(self._form.findData(symbol.measures.form))
        standard = bool(symbol.graphic) and symbol.graphic != CUSTOM
        self._form.setVisible(standard and has_forms(symbol.graphic))
        self.own.setVisible(symbol.graphic == CUSTOM)
        if symbol.graphic == CUSTOM:
            self.own.refresh()
        moves = arrangement_moves(symbol, symbol.arrangement)
        names = {pin.number: pin.name or pin.number for pin in symbol.pins}
        if [self._in_words(m, names) for m in moves] != [self._words_at(i) for i in range(self.moves.count())]:
            self.moves.clear()
            self.moves.addItems([self._in_words(move, names) for move in moves])
        self._moves.setVisible(bool(moves) and not symbol.graphic)
        self._show_units()
        self.draw()

    def _words_at(self, index: int) -> str:
        item = self.moves.item(index)
        return item.text() if item else ""

    @staticmethod
    def _in_words(move: PinMove, names: dict[str, str]) -> str:
        behind = f"behind {names.get(move.after, move.after)} ({move.after})" if move.after else "first"
        apart = ", apart" if move.apart else ""
        return f"{names.get(move.pin, 'no pin')} ({move.pin}): {move.side}, {behind}{apart}"

    def _show_units(self) -> None:
        """A tab for all units and one for each, where there are several."""
        names = [unit.name for unit in self.controller.bundle.symbol.units]
        titles = ["all", *names] if len(names) > 1 else []
        if titles != [self.units.tabText(i) for i in range(self.units.count())]:
            while self.units.count():
                self.units.removeTab(0)
            for title in titles:
                self.units.addTab(title)
        self.units.setVisible(bool(titles))

    def shown_unit(self) -> int | None:
        """The unit that is shown alone; None where all are."""
        index = self.units.currentIndex() - 1
        units = self.controller.bundle.symbol.units
        return index if 0 <= index < len(units) else (0 if len(units) == 1 else None)

    def draw(self) -> None:
        """Draw the symbol, with the pins in hand lit."""
        bundle = self.controller.bundle
        symbol, name = bundle.symbol, bundle.part.name
        types, index = self._types.isChecked(), self.shown_unit()
        if not symbol.units:
            drawing = None
        elif index is not None:
            drawing = unit_drawing(symbol, index, name, types=types)
        else:
            drawing = symbol_drawing(symbol, name, types=types)
        self.view.show_drawing(with_balloons(drawing, self.controller.findings) if drawing else None)
        shown = symbol.units[index or 0] if symbol.units and not symbol.graphic else None
        self._quality.setText(quality(shown, symbol.pins).words if shown else "")
        self.light()

    def light(self) -> None:
        """Light the pins in hand, without drawing the rest again."""
        drawing = self.view.drawing
        chosen = set(self._selected())
        # Stacked pins are drawn as the first of them.
        units = self.controller.bundle.symbol.units
        at = {(i, p.x, p.y) for i, unit in enumerate(units) for p in unit.pins if p.number in chosen}
        addresses = {PinAddress(p.number) for i, unit in enumerate(units) for p in unit.pins if (i, p.x, p.y) in at}
        pins = [p for p in drawing.primitives if isinstance(p, Line) and p.role == "pin"] if drawing else []
        self.view.light(tuple(msgspec.structs.replace(p, role="lit") for p in pins if p.address in addresses))

    def _is_graphic(self) -> bool:
        units = self.controller.bundle.symbol.units
        return all(unit.graphic for unit in units)

    def _dragging(self, address: Address, x: float, y: float) -> None:
        if self._drag is None:
            number = pin_number(address)
            chosen = self._selected()
            bundle = self.controller.bundle
            numbers = chosen if number in chosen else [number]
            self._drag = begin_pin_drag(bundle.symbol, bundle.part.name, numbers, self.shown_unit())
        found = self._drag.place(x, y)
        self.view.show_mark((found.mark,) if found else ())

    def _dropped(self, _address: Address, x: float, y: float) -> None:
        drag, self._drag = self._drag, None
        found = drag.place(x, y) if drag else None
        if drag and found:
            count = len(drag.numbers)
            title = f"Move {f'{count} pins' if count > 1 else f'pin {drag.numbers[0]}'} to the {found.drop.side}"
            self.controller.edit(title, lambda b: drop_pins(b, drag.numbers, found))

    def _end_drag(self) -> None:
        self._drag = None

    def _shift(self, step: int) -> None:
        self.controller.edit("Move pins", lambda b: symbol_edits.shift_pins(b, self._selected(), step))

    def _to_side(self, side: Side | None) -> None:
        where = f"to the {side}" if side else "back"
        self.controller.edit(f"Move pins {where}", lambda b: symbol_edits.put_on_side(b, self._selected(), side))

    def _take_back(self, *, every: bool = False) -> None:
        symbol = self.controller.bundle.symbol
        moves = arrangement_moves(symbol, symbol.arrangement)
        chosen = [moves[i].pin for i in range(len(moves)) if every or self._is_chosen(i)]
        if not chosen:
            self.context.said.emit("choose the moves that are to be taken back")
            return
        self.controller.edit("Take moves back", lambda b: symbol_edits.take_moves_back(b, chosen))

    def _is_chosen(self, index: int) -> bool:
        item = self.moves.item(index)
        return item is not None and item.isSelected()

    def _show_moved(self) -> None:
        row_index = self.moves.currentRow()
        symbol = self.controller.bundle.symbol
        moves = arrangement_moves(symbol, symbol.arrangement)
        if 0 <= row_index < len(moves):
            self.pin_clicked.emit(PinAddress(moves[row_index].pin))

    def _arrange(self, way: Arrangement, sides: int) -> None:
        self.controller.edit(f"Arrange by {way}", lambda b: symbol_edits.set_arrangement(b, way, sides))

    def _set_graphic(self) -> None:
        text, form = self._graphic.currentText().strip(), self._form.currentData()
        index = self._graphic.findText(text)
        graphic = str(self._graphic.itemData(index)) if index >= 0 else text
        self.controller.edit(f"Draw {text}", lambda b: symbol_edits.set_graphic(b, graphic, form))
        self.refresh()

    def _split_units(self) -> None:
        way = str(self._split.currentData())
        self._split.setCurrentIndex(0)
        if way:
            self.controller.edit(f"Units: {WAYS[way]}", lambda b: symbol_edits.split_units(b, way))
