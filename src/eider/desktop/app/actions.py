"""Actions: what menus, shortcuts and the search field offer, from one list."""

from collections.abc import Callable, Mapping, Sequence
from functools import partial

import msgspec
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QMainWindow

from eider.desktop.widgets.qt_values import present


class Action(msgspec.Struct, frozen=True):
    """One action: menu and title, shortcut (empty for none), what it does, and whether it can be done now."""

    id: str
    menu: str
    title: str
    shortcut: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = lambda: True


def fill_menus(window: QMainWindow, actions: Sequence[Action]) -> dict[str, QAction]:
    """Put actions into the window's menus; whether each can be done is asked when its menu opens."""
    made: dict[str, QAction] = {}
    menus: dict[str, list[Action]] = {}
    for entry in actions:
        menus.setdefault(entry.menu, []).append(entry)
    bar = present(window.menuBar())
    for title, entries in menus.items():
        menu = present(bar.addMenu(title))
        for entry in entries:
            action = QAction(entry.title, window)
            if entry.shortcut:
                action.setShortcut(QKeySequence(entry.shortcut))
            action.triggered.connect(lambda _checked, e=entry: e.run() if e.enabled() else None)
            menu.addAction(action)
            made[entry.id] = action
        menu.aboutToShow.connect(partial(_enable, made, entries))
        menu.aboutToHide.connect(partial(_enable, made, entries, always=True))
    return made


def _enable(made: Mapping[str, QAction], entries: Sequence[Action], *, always: bool = False) -> None:
    """Whether each can be done is asked when its menu opens; shortcuts work at any time."""
    for entry in entries:
        made[entry.id].setEnabled(always or entry.enabled())
