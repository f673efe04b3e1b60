"""A row of widgets that goes on in a further line where there is too little room, rather than widening the window."""

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QSizePolicy, QWidget

GAP = 6


class FlowLayout(QLayout):
    """Lays items out from left to right, line by line."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setContentsMargins(0, 0, 0, 0)
        self._items: list[QLayoutItem] = []

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._lay(QRect(0, 0, width, 0), moves=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._lay(rect, moves=True)

    def sizeHint(self) -> QSize:
        shown = [item.sizeHint() for item in self._items if not item.isEmpty()]
        width = sum(size.width() for size in shown) + GAP * max(len(shown) - 1, 0)
        return QSize(width, max((size.height() for size in shown), default=0))

    def minimumSize(self) -> QSize:
        shown = [item.minimumSize() for item in self._items if not item.isEmpty()]
        return QSize(max((s.width() for s in shown), default=0), max((s.height() for s in shown), default=0))

    def _lay(self, rect: QRect, *, moves: bool) -> int:
        """Place the items in a rectangle, the middles of a line at one height; returns the height that they take."""
        top = rect.y()
        for line in self._lines(rect.width()):
            height = max(item.sizeHint().height() for item in line)
            x = rect.x()
            for item in line if moves else ():
                size = item.sizeHint()
                item.setGeometry(QRect(QPoint(x, top + (height - size.height()) // 2), size))
                x += size.width() + GAP
            top += height + GAP
        return max(top - GAP - rect.y(), 0)

    def _lines(self, width: int) -> list[list[QLayoutItem]]:
        """The items that are shown, line by line."""
        lines: list[list[QLayoutItem]] = []
        used = 0
        for item in self._items:
            if item.isEmpty():
                continue
            own = item.sizeHint().width()
            if not lines or used + own > width:
                lines.append([])
                used = 0
            lines[-1].append(item)
            used += own + GAP
        return lines


def flow(*widgets: QWidget) -> QWidget:
    """Widgets in a row that wraps."""
    holder = QWidget()
    layout = FlowLayout(holder)
    for widget in widgets:
        layout.addWidget(widget)
    policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    policy.setHeightForWidth(True)
    holder.setSizePolicy(policy)
    return holder
