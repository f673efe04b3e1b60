"""Small widgets that several places share."""

from collections.abc import Callable, Mapping, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from eider.desktop.widgets.qt_values import present


def label(text: str, role: str = "", *, wrap: bool = False) -> QLabel:
    """A label; `role` is title, head, soft, wrong or number."""
    made = QLabel(text)
    if role:
        made.setProperty("role", role)
    made.setWordWrap(wrap)
    if wrap:
        made.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    return made


def button(text: str, run: Callable[[], object], *, main: bool = False, checkable: bool = False) -> QPushButton:
    """A button in words; the main one of a page is filled."""
    made = QPushButton(text)
    if main:
        made.setProperty("role", "main")
    made.setCheckable(checkable)
    made.clicked.connect(lambda _checked: run())
    return made


def menu_button(text: str, choices: Mapping[str, Callable[[], object]]) -> QPushButton:
    """A button that opens a menu of actions in words."""
    made = QPushButton(text)
    menu = QMenu(made)
    for title, run in choices.items():
        action = present(menu.addAction(title))
        action.triggered.connect(lambda _checked, run=run: run())
    made.setMenu(menu)
    return made


def small_button(made: QPushButton) -> QPushButton:
    """A button that takes little room, for a row of many."""
    made.setProperty("role", "small")
    return made


def column(*widgets: QWidget | QLayout | int, margins: int = 8, spacing: int = 6) -> QWidget:
    """Widgets one below the other; an int is stretch."""
    return _box(QVBoxLayout(), widgets, margins, spacing)


def row(*widgets: QWidget | QLayout | int, margins: int = 0, spacing: int = 6) -> QWidget:
    """Widgets side by side; an int is stretch."""
    return _box(QHBoxLayout(), widgets, margins, spacing)


def _box(
    layout: QHBoxLayout | QVBoxLayout, widgets: Sequence[QWidget | QLayout | int], margins: int, spacing: int
) -> QWidget:
    layout.setContentsMargins(margins, margins, margins, margins)
    layout.setSpacing(spacing)
    for widget in widgets:
        if isinstance(widget, QWidget):
            layout.addWidget(widget, 1 if _grows(widget) else 0)
        elif isinstance(widget, QLayout):
            layout.addLayout(widget)
        else:
            layout.addStretch(widget)
    holder = QWidget()
    holder.setLayout(layout)
    return holder


def _grows(widget: QWidget) -> bool:
    return widget.property("grows") is True


def fill_widget(parent: QWidget, content: QWidget) -> None:
    """Let one widget fill another."""
    layout = QVBoxLayout(parent)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(0)
    layout.addWidget(content)


def set_choices(choice: QComboBox, names: Sequence[str]) -> bool:
    """Let some names be chosen from; whether they are others than before."""
    if [choice.itemText(i) for i in range(choice.count())] == list(names):
        return False
    choice.clear()
    choice.addItems(names)
    return True


def growing(widget: QWidget) -> QWidget:
    """The widget, marked to take the room that is left in a column or row."""
    widget.setProperty("grows", True)
    return widget


def scrolled(widget: QWidget) -> QScrollArea:
    """The widget in an area that scrolls where there is too little room for it, rather than widening the window."""
    area = QScrollArea()
    area.setWidget(widget)
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    return area


def panes(*widgets: QWidget, sizes: Sequence[int], vertical: bool = False) -> QSplitter:
    """Panes that the user can resize; `sizes` in pixels to begin with."""
    splitter = QSplitter(Qt.Orientation.Vertical if vertical else Qt.Orientation.Horizontal)
    for widget in widgets:
        splitter.addWidget(widget)
    splitter.setChildrenCollapsible(False)
    splitter.setSizes(list(sizes))
    largest = max(range(len(sizes)), key=lambda i: sizes[i])
    for index in range(len(sizes)):
        splitter.setStretchFactor(index, 3 if index == largest else 1)
    splitter.setHandleWidth(5)
    return splitter
