"""The actions of the window, each with its menu and shortcut."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Protocol

from eider.desktop.app.actions import Action
from eider.desktop.app.command_field import CommandField
from eider.desktop.app.dialogs import ask_to_print
from eider.desktop.app.draft_task import DraftTask
from eider.desktop.app.part_tasks import PartTasks
from eider.desktop.app.sharing_tasks import SharingTasks
from eider.desktop.app.side_pages import SidePages, UndoSteps
from eider.desktop.context import DesktopContext
from eider.desktop.part.part_page import PartPage
from eider.desktop.settings import UNITS
from eider.desktop.shelf.shelf_page import Shelf
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.library import Library
from eider.views.step_registry import all_steps


class ActionTarget(Protocol):
    """The window, as far as its actions need to know it."""

    page: PartPage | None
    tasks: PartTasks
    drafting: DraftTask
    field: CommandField
    context: DesktopContext
    library: Library
    shelf: Shelf
    side: SidePages
    sharing: SharingTasks
    steps: UndoSteps

    def has_open_part(self) -> bool:
        """Whether a part is open."""

    def close_part(self) -> None:
        """Back to the Shelf."""

    def choose_library(self) -> None:
        """Ask for another library."""

    def open_library(self, folder: Path) -> None:
        """Open another library."""

    def close(self) -> bool:
        """Close the window."""

    def switch_appearance(self) -> None:
        """Light to dark, or back."""

    def set_unit(self, unit: str) -> None:
        """Show lengths in another unit."""


def window_actions(window: ActionTarget) -> list[Action]:
    """Everything that can be done from the menus and the search field, in the order of the menus."""
    return [*_library_actions(window), *_edit_actions(window), *_step_actions(window), *_view_actions(window)]


def _library_actions(window: ActionTarget) -> Iterator[Action]:
    def rulebook() -> str:
        return window.page.controller.bundle.footprint.rulebook if window.page else ""

    def over_shelf(show: Callable[[], None]) -> Callable[[], None]:
        """Show a page in place of the part that is open."""

        def run() -> None:
            window.close_part()
            show()

        return run

    side = window.side
    facts = over_shelf(lambda: side.open_facts(window.shelf.chosen_ids()))
    refresh = over_shelf(lambda: side.open_refresh(window.shelf.chosen_ids()))
    yield Action("library.new", "Library", "New part…", "Ctrl+N", window.tasks.new_part)
    yield Action("library.draft", "Library", "New part from a datasheet…", "Ctrl+Shift+N", window.drafting.choose)
    yield Action(
        "library.shelf", "Library", "Back to the Shelf", "Ctrl+Shift+L", window.close_part, window.has_open_part
    )
    yield Action("library.find", "Library", "Find a part, step or command", "Ctrl+K", window.field.open)
    yield Action("library.facts", "Library", "Facts across parts…", "Ctrl+Shift+F", facts)
    yield Action("library.families", "Library", "Family tables…", "", over_shelf(side.open_families))
    yield Action("library.refresh", "Library", "Lifecycle and stock from suppliers…", "", refresh)
    yield Action("library.intake", "Library", "Intake…", "Ctrl+I", over_shelf(side.open_intake))
    yield Action("library.houses", "Library", "Houses…", "", over_shelf(side.open_houses))
    yield Action("library.health", "Library", "Health…", "", over_shelf(side.open_health))
    yield Action("library.timeline", "Library", "Timeline…", "", over_shelf(side.open_timeline))
    yield Action("library.bill", "Library", "Bill of materials…", "", window.side.open_bill)
    yield Action("library.categories", "Library", "Categories…", "", window.side.open_categories)
    yield Action(
        "library.rulebook", "Library", "Rulebook…", "Ctrl+Shift+R", lambda: window.side.open_rulebook(rulebook())
    )
    yield Action("library.materials", "Library", "Materials…", "", window.tasks.edit_materials)
    yield Action("library.publish", "Library", "Publish…", "", window.tasks.publish)
    yield Action("library.print", "Library", "Print land patterns 1:1…", "Ctrl+P", partial(_print_lands, window))
    yield Action("library.people", "Library", "People and reviews…", "", window.tasks.edit_people)
    sharing = window.sharing
    yield Action("library.sync", "Library", "Synchronise", "F5", sharing.synchronise)
    yield Action("library.share", "Library", "Share…", "", sharing.share, lambda: not sharing.is_shared)
    yield Action("library.waiting", "Library", "Waiting for review…", "", sharing.waiting)
    yield Action("library.settle", "Library", "Settle a conflict…", "", sharing.settle, sharing.can_settle)
    yield Action("library.open", "Library", "Open…", "Ctrl+O", window.choose_library)
    yield Action("library.open_shared", "Library", "Open by address…", "", sharing.open_shared)
    for index, path in enumerate(window.context.settings.recent_libraries):
        if path != window.library.folder:
            yield Action(f"library.recent.{index}", "Library", f"Open {path}", "", partial(window.open_library, path))
    yield Action("library.quit", "Library", "Quit", "Ctrl+Q", window.close)


def _print_lands(window: ActionTarget) -> None:
    """The land patterns of the part that is open, or of those that are selected on the Shelf."""
    selected = [record.id for record in window.shelf.table.selected()]
    ids = [window.page.controller.bundle.part.id] if window.page else selected
    if ids:
        ask_to_print(window.library, window.context, ids, window.shelf.window() or window.shelf)
    else:
        window.context.said.emit("Choose parts on the Shelf, or open one: their land patterns are printed.")


def _edit_actions(window: ActionTarget) -> Iterator[Action]:
    yield Action("edit.undo", "Edit", "Undo", "Ctrl+Z", window.steps.undo, lambda: bool(window.steps.label_of("undo")))
    yield Action(
        "edit.redo", "Edit", "Redo", "Ctrl+Shift+Z", window.steps.redo, lambda: bool(window.steps.label_of("redo"))
    )


def _step_actions(window: ActionTarget) -> Iterator[Action]:
    def go(index: int) -> None:
        if window.page:
            window.page.go_to(index)

    for index, step in enumerate(all_steps().values()):
        shortcut = f"Ctrl+{index + 1}"
        yield Action(f"step.{step.key}", "Step", step.title, shortcut, partial(go, index), window.has_open_part)


def _view_actions(window: ActionTarget) -> Iterator[Action]:
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
