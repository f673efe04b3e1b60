"""The menus: what each action does, and when it can be done."""

import pytest
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QMenu
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, settle
from eider.desktop.app.window import MainWindow
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.qt_values import present


def menu_of(window: MainWindow, title: str) -> QMenu:
    return next(menu for menu in present(window.menuBar()).findChildren(QMenu) if menu.title() == title)


def action_of(window: MainWindow, menu: str, title: str) -> QAction:
    return next(action for action in menu_of(window, menu).actions() if action.text() == title)


def test_what_needs_a_part_can_be_chosen_only_while_one_is_open(window: MainWindow, qtbot: QtBot) -> None:
    menu, datasheet = menu_of(window, "View"), "Show the datasheet beside the step"
    menu.aboutToShow.emit()
    assert not action_of(window, "View", datasheet).isEnabled()
    assert action_of(window, "View", "Light or dark appearance").isEnabled()
    # A shortcut is asked when it is pressed: while no menu is open every action can be triggered.
    menu.aboutToHide.emit()
    assert action_of(window, "View", datasheet).isEnabled()
    action_of(window, "View", datasheet).trigger()
    page = open_capacitor(qtbot, window, "1608")
    menu.aboutToShow.emit()
    assert action_of(window, "View", datasheet).isEnabled()
    menu.aboutToHide.emit()
    open_step(page, 3)
    action_of(window, "View", datasheet).trigger()
    assert page.datasheet.isVisible()


def test_fit_brings_the_whole_drawing_back(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 3)
    view = page.current.view
    assert isinstance(view, DrawingView)
    fitted = view.scale
    view.zoom(3.0)
    action_of(window, "View", "Fit the active drawing (F in the drawing)").trigger()
    settle(qtbot, window)
    assert view.scale == pytest.approx(fitted)


def test_steps_and_shelf_are_reached_from_their_menus(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    action_of(window, "Step", "Body").trigger()
    settle(qtbot, window)
    assert page.current.key == "body"
    action_of(window, "Edit", "Undo").trigger()
    action_of(window, "Library", "Back to the Shelf").trigger()
    settle(qtbot, window)
    assert window.page is None
    action_of(window, "Step", "Body").trigger()
    assert window.page is None


def test_lengths_are_shown_in_the_unit_that_is_chosen(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 3)
    action_of(window, "View", "Lengths in mil").trigger()
    settle(qtbot, window)
    assert window.status.units.currentText() == "mil"
    assert "mil" in page.current.pads.records.index(0, 1).data()


def test_the_rulebook_is_undone_and_says_when_there_is_nothing(window: MainWindow, qtbot: QtBot) -> None:
    window.side.open_rulebook()
    settle(qtbot, window)
    action_of(window, "Edit", "Undo").trigger()
    assert window.status.message.text() == "Nothing to undo"
    action_of(window, "Edit", "Redo").trigger()
    assert window.status.message.text() == "Nothing to redo"
    window.side.close()
    assert window.side.rules is None
