"""The search field at the top (Ctrl+K): parts, steps and commands from anywhere."""

from collections.abc import Callable, Sequence

import msgspec
from PyQt6.QtCore import QEvent, QObject, QPoint, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QWidget

from eider.desktop.widgets.qt_values import present

LONGEST = 12


class CommandOffer(msgspec.Struct, frozen=True):
    """One thing that can be gone to or done."""

    title: str
    kind: str
    run: Callable[[], object]


class CommandField(QLineEdit):
    """A line to type in, with what fits below it; Enter takes the chosen one."""

    def __init__(
        self, offers: Callable[[str, Callable[[Sequence[CommandOffer]], None]], None], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._offers = offers
        self._asked = ""
        self.setPlaceholderText("Go to a part, step or command   Ctrl+K")
        self.list = QListWidget(parent.window())
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.hide()
        self.list.itemClicked.connect(self._take)
        self.textEdited.connect(self._ask)
        self.installEventFilter(self)

    def open(self) -> None:
        """Take the keyboard."""
        self.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.selectAll()
        self._ask(self.text())

    def _ask(self, text: str) -> None:
        self._asked = text
        self._offers(text, lambda found: self._show(found) if text == self._asked and self.hasFocus() else None)

    def _show(self, found: Sequence[CommandOffer]) -> None:
        self.list.clear()
        for offer in found[:LONGEST]:
            item = QListWidgetItem(f"{offer.title}   ·   {offer.kind}")
            item.setData(Qt.ItemDataRole.UserRole, offer)
            self.list.addItem(item)
        if not found:
            self.list.addItem(QListWidgetItem("Nothing with that name"))
        self.list.setCurrentRow(0)
        self.list.resize(max(self.width(), 420), min(self.list.count(), LONGEST) * 24 + 8)
        self.list.move(self.mapTo(self.window(), QPoint(0, self.height() + 2)))
        self.list.raise_()
        self.list.show()

    def _take(self, item: QListWidgetItem | None) -> None:
        offer: CommandOffer | None = item.data(Qt.ItemDataRole.UserRole) if item else None
        self.list.hide()
        if offer:
            self.clear()
            self.clearFocus()
            offer.run()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and self.list.isVisible():
            row, key = self.list.currentRow(), event.key()
            if key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
                step = 1 if key == Qt.Key.Key_Down else -1
                self.list.setCurrentRow((row + step) % max(self.list.count(), 1))
                return True
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._take(self.list.currentItem())
                return True
            if key == Qt.Key.Key_Escape:
                self.list.hide()
                return True
        event = present(event)
        if event.type() == QEvent.Type.FocusOut:
            self.list.hide()
        return super().eventFilter(watched, event)
