"""Pins moved by hand on the symbol: dragged, by keys, and the list of moves with the way back."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QListWidget, QMenu, QPushButton, QWidget

from eider.commands.pins import symbol_edits
from eider.commands.pins.pin_drag import PinDrag, begin_pin_drag, drop_pins
from eider.desktop.context import DesktopContext
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.model.address import Address, PinAddress, pin_number
from eider.model.symbol import Side
from eider.views.steps.pins import PinsView

# What the menu offers for the selected pins, with its keys: a step along the side, or a side.
STEPS = (("Up on its side", -1, "Alt+Up"), ("Down on its side", 1, "Alt+Down"))
TO_SIDES: tuple[tuple[str, Side | None, str], ...] = (
    ("To the left", "left", "Alt+Left"), ("To the right", "right", "Alt+Right"), ("To the top", "top", "Alt+PgUp"),
    ("To the bottom", "bottom", "Alt+PgDown"), ("As arranged", None, "Alt+Home"),
)  # fmt: skip


class PinMover(QWidget):
    """The list of moves; it takes the drags of `view` too, in which the unit `shown_unit()` is seen alone."""

    pin_clicked = pyqtSignal(object)

    def __init__(
        self,
        controller: PartController,
        context: DesktopContext,
        view: DrawingView,
        selected: Callable[[], list[str]],
        shown_unit: Callable[[], int | None],
    ) -> None:
        super().__init__()
        self._controller, self._context, self._view = controller, context, view
        self._selected, self._shown_unit = selected, shown_unit
        self._drag: PinDrag | None = None
        self._moved: list[str] = []
        view.draggable = lambda address: isinstance(address, PinAddress) and not self._is_graphic()
        view.dragging.connect(self._dragging)
        view.dropped.connect(self._dropped)
        view.drag_ended.connect(self._end_drag)
        self.moves = QListWidget()
        self.moves.setMaximumHeight(62)
        self.moves.itemSelectionChanged.connect(self._show_moved)
        take = button("Undo move", self._take_back)
        every = button("Undo all moves", lambda: self._take_back(every=True))
        fill_widget(self, column(label("Moved by hand", "head"), row(growing(self.moves), take, every), margins=0))
        self.hide()

    def menu(self, owner: QWidget) -> QPushButton:
        """Ways to move the selected pins; the keys work wherever `owner` has the keyboard."""
        made = QPushButton("Move pins")
        menu = QMenu(made)
        for title, step, keys in STEPS:
            self._add_action(owner, menu, title, keys, partial(self._shift, step))
        menu.addSeparator()
        for title, side, keys in TO_SIDES:
            self._add_action(owner, menu, title, keys, partial(self._to_side, side))
        made.setMenu(menu)
        return made

    @staticmethod
    def _add_action(owner: QWidget, menu: QMenu, title: str, keys: str, run: Callable[[], None]) -> None:
        action = present(menu.addAction(title))
        action.setShortcut(QKeySequence(keys))
        action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        action.triggered.connect(lambda _checked: run())
        owner.addAction(action)

    def show_view(self, view: PinsView) -> None:
        """Show the moves; those of a standard graphic have no meaning."""
        if list(view.move_words) != [self._words_at(i) for i in range(self.moves.count())]:
            self.moves.clear()
            self.moves.addItems(list(view.move_words))
        self._moved = list(view.moves)
        self.setVisible(bool(view.moves) and not view.graphic)

    def _words_at(self, index: int) -> str:
        item = self.moves.item(index)
        return item.text() if item else ""

    def _is_graphic(self) -> bool:
        return all(unit.graphic for unit in self._controller.bundle.symbol.units)

    def _dragging(self, address: Address, x: float, y: float) -> None:
        if self._drag is None:
            number, chosen = pin_number(address), self._selected()
            bundle = self._controller.bundle
            numbers = chosen if number in chosen else [number]
            self._drag = begin_pin_drag(bundle.symbol, bundle.part.name, numbers, self._shown_unit())
        found = self._drag.place(x, y)
        self._view.show_mark((found.mark,) if found else ())

    def _dropped(self, _address: Address, x: float, y: float) -> None:
        drag, self._drag = self._drag, None
        found = drag.place(x, y) if drag else None
        if drag and found:
            count = len(drag.numbers)
            title = f"Move {f'{count} pins' if count > 1 else f'pin {drag.numbers[0]}'} to the {found.drop.side}"
            self._controller.edit(title, lambda b: drop_pins(b, drag.numbers, found))

    def _end_drag(self) -> None:
        self._drag = None

    def _shift(self, step: int) -> None:
        self._controller.edit("Move pins", lambda b: symbol_edits.shift_pins(b, self._selected(), step))

    def _to_side(self, side: Side | None) -> None:
        where = f"to the {side}" if side else "back"
        self._controller.edit(f"Move pins {where}", lambda b: symbol_edits.put_on_side(b, self._selected(), side))

    def _take_back(self, *, every: bool = False) -> None:
        rows = {index.row() for index in self.moves.selectedIndexes()}
        chosen = [pin for i, pin in enumerate(self._moved) if every or i in rows]
        if not chosen:
            self._context.said.emit("Select the moves to undo first.")
            return
        self._controller.edit("Undo moves", lambda b: symbol_edits.take_moves_back(b, chosen))

    def _show_moved(self) -> None:
        index = self.moves.currentRow()
        if 0 <= index < len(self._moved):
            self.pin_clicked.emit(PinAddress(self._moved[index]))
