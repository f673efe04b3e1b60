"""The actions of the window, each with its menu and shortcut."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from eider.desktop.app.actions import Action
from eider.desktop.settings import UNITS
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.views.step_registry import all_steps

if TYPE_CHECKING:
    from eider.desktop.app.window import MainWindow


def window_actions(window: MainWindow) -> list[Action]:
    """Everything that can be done from the menus and the search field, in the order of the menus."""
    return [*_library_actions(window), *_edit_actions(window), *_step_actions(window), *_view_actions(window)]


def _library_actions(window: MainWindow) -> Iterator[Action]:
    yield Action("library.new", "Library", "New part…", "Ctrl+N", window.tasks.new_part)
    yield Action(
        "library.shelf", "Library", "Back to the Shelf", "Ctrl+Shift+L", window.close_part, window.has_open_part
    )
    yield Action("library.find", "Library", "Find a part, step or command", "Ctrl+K", window.field.open)
    yield Action("library.rulebook", "Library", "Rulebook…", "Ctrl+Shift+R", window.open_rulebook)
    yield Action("library.open", "Library", "Open…", "Ctrl+O", window.choose_library)
    for index, path in enumerate(window.context.settings.recent_libraries):
        if path != window.library.folder:
            yield Action(f"library.recent.{index}", "Library", f"Open {path}", "", partial(window.open_library, path))
    yield Action("library.quit", "Library", "Quit", "Ctrl+Q", window.close)


def _edit_actions(window: MainWindow) -> Iterator[Action]:
    yield Action("edit.undo", "Edit", "Undo", "Ctrl+Z", window.undo, lambda: bool(window.label_of("undo")))
    yield Action("edit.redo", "Edit", "Redo", "Ctrl+Shift+Z", window.redo, lambda: bool(window.label_of("redo")))


def _step_actions(window: MainWindow) -> Iterator[Action]:
    def go(index: int) -> None:
        if window.page:
            window.page.go_to(index)

    for index, step in enumerate(all_steps().values()):
        shortcut = f"Ctrl+{index + 1}"
        yield Action(f"step.{step.key}", "Step", step.title, shortcut, partial(go, index), window.has_open_part)


def _view_actions(window: MainWindow) -> Iterator[Action]:
    def toggle_datasheet() -> None:
        if window.page:
            window.page.toggle_datasheet()

    def fit() -> None:
        for view in window.page.current.findChildren(DrawingView) if window.page else ():
            view.fit()

    is_open = window.has_open_part
    yield Action("view.datasheet", "View", "Show the datasheet beside the step", "F4", toggle_datasheet, is_open)
    yield Action("view.fit", "View", "Fit the active drawing (F in the drawing)", "", fit, is_open)
    yield Action("view.appearance", "View", "Light or dark appearance", "Ctrl+Shift+D", window.switch_appearance)
    for unit in UNITS:
        yield Action(f"view.unit.{unit}", "View", f"Lengths in {unit}", "", partial(window.set_unit, unit))
