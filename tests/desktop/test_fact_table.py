"""Facts across parts in the window: typed, filled, pasted, replaced, undone, and kept."""

import pytest
from PyQt6.QtCore import QItemSelectionModel, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from desktop_helpers import press
from eider.commands.facts.fact_table import set_cells
from eider.desktop.app.window import MainWindow
from eider.desktop.fact_table.fact_table_page import FactTablePage

Flag = QItemSelectionModel.SelectionFlag


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> FactTablePage:
    qtbot.waitUntil(lambda: len(window.shelf.table.records.records) == 3)
    next(a for a in window.actions_list if a.id == "library.facts").run()
    page = window.side.facts
    assert page
    qtbot.waitUntil(lambda: len(page.table.parts) == 3)
    return page


def select(page: FactTablePage, name: str, *rows: int) -> None:
    column = page.table.names.index(name)
    model, selection = page.grid.model_of_facts, page.grid.selectionModel()
    selection.clear()
    for row in rows:
        selection.select(model.index(row, column), Flag.Select)
    selection.setCurrentIndex(model.index(rows[0], column), Flag.NoUpdate)


def values(page: FactTablePage, name: str) -> list[str]:
    return [part.facts.get(name, "") for part in page.table.parts]


def test_a_cell_is_typed_with_real_keys_and_taken_back(page: FactTablePage, window: MainWindow, qtbot: QtBot) -> None:
    select(page, "Dielectric", 0)
    before = values(page, "Dielectric")
    page.grid.edit(page.grid.currentIndex())
    editor = page.grid.viewport().findChild(QLineEdit)
    qtbot.keyClicks(editor, "C0G")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: values(page, "Dielectric")[0] == "C0G")
    assert page.summary.text() == "1 change in 1 part"
    assert "Dielectric" in page.changes.item(0).text()
    window.steps.undo()
    assert values(page, "Dielectric") == before and page.summary.text() == "Nothing is changed yet"
    window.steps.redo()
    assert values(page, "Dielectric")[0] == "C0G"


def test_cells_are_filled_down_and_series_go_on(page: FactTablePage, qtbot: QtBot) -> None:
    page.another.setText("Shelf")
    press(qtbot, page, "Add this fact")
    page._put({(0, "Shelf"): "A1"})
    select(page, "Shelf", 0, 1, 2)
    press(qtbot, page, "Continue series")
    assert values(page, "Shelf") == ["A1", "A2", "A3"]
    press(qtbot, page, "Fill down")
    assert values(page, "Shelf") == ["A1", "A1", "A1"]
    # One step each, whatever it changed.
    assert page.steps.undo() and values(page, "Shelf") == ["A1", "A2", "A3"]
    select(page, "Shelf", 0)
    press(qtbot, page, "Fill down")
    assert "Select the cell" in page.hint.text()
    select(page, "Manufacturer", 0, 1)
    press(qtbot, page, "Continue series")
    assert "has no number" in page.hint.text()


def test_cells_go_to_a_spreadsheet_and_come_back(page: FactTablePage) -> None:
    select(page, "Tolerance", 0, 1, 2)
    page.grid.copy()
    clipboard = QGuiApplication.clipboard()
    assert clipboard and clipboard.text().count("\n") == 2
    clipboard.setText("1 %\tx\n2 %\ty\n3 %\tz\n4 %\tlost")
    select(page, "Tolerance", 0)
    page.grid.paste()
    assert values(page, "Tolerance") == ["1 %", "2 %", "3 %"]
    after = page.table.names[page.table.names.index("Tolerance") + 1]
    assert values(page, after) == ["x", "y", "z"]
    # One text fills all that is selected; Delete empties it.
    clipboard.setText("5 %")
    select(page, "Tolerance", 0, 2)
    page.grid.paste()
    assert values(page, "Tolerance") == ["5 %", "2 %", "5 %"]
    page.grid.cells_put.emit(dict.fromkeys(page.grid.selected_cells(), ""))
    assert values(page, "Tolerance") == ["", "2 %", ""]
    assert page.steps.count == 3


def test_texts_are_found_and_replaced_in_the_selection(page: FactTablePage, qtbot: QtBot) -> None:
    select(page, "Manufacturer", 0, 1)
    page.wanted.setText("lyng passive")
    page.replacement.setText("Brimfall")
    press(qtbot, page, "Replace")
    assert values(page, "Manufacturer") == ["Brimfall", "Brimfall", "Lyng Passive"]
    assert page.hint.text() == "2 cells replaced"
    page.wanted.clear()
    press(qtbot, page, "Replace")
    assert "nothing to find" in page.hint.text()


def test_two_spellings_are_merged(page: FactTablePage, qtbot: QtBot) -> None:
    table = set_cells(page.table, {(0, "maker"): values(page, "Manufacturer")[0], (1, "maker"): "Someone"})
    page._edit("x", lambda _table: table)
    qtbot.waitUntil(lambda: page.merge.isEnabled())
    assert page.spellings.item(0).text() == "Manufacturer: also maker (2)"
    press(qtbot, page, "Merge into one name")
    assert values(page, "maker") == ["", "Someone", ""]
    assert page.table.parts[1].name in page.hint.text()


def test_cells_tell_what_is_wrong_and_what_they_were(page: FactTablePage) -> None:
    page._put({(0, "Rated voltage"): "a lot"})
    model = page.grid.model_of_facts
    index = model.index(0, page.table.names.index("Rated voltage"))
    assert "is not a number" in model.data(index, Qt.ItemDataRole.ToolTipRole)
    assert model.data(index, Qt.ItemDataRole.ForegroundRole) == page.context.theme.colour("red")
    assert model.data(index, Qt.ItemDataRole.FontRole).bold()
    page._put({(0, "Rated voltage"): "25 V"})
    assert model.data(index, Qt.ItemDataRole.ForegroundRole) is None


def test_a_double_click_on_a_heading_sorts_by_value(page: FactTablePage, qtbot: QtBot) -> None:
    page._put({(0, "Rated voltage"): "1 kV", (1, "Rated voltage"): "500 mV", (2, "Rated voltage"): "25 V"})
    header = page.grid.horizontalHeader()
    column = page.table.names.index("Rated voltage")
    header.sectionDoubleClicked.emit(column)
    qtbot.waitUntil(lambda: values(page, "Rated voltage") == ["500 mV", "25 V", "1 kV"])
    header.sectionDoubleClicked.emit(column)
    qtbot.waitUntil(lambda: values(page, "Rated voltage") == ["1 kV", "25 V", "500 mV"])


def test_what_is_kept_is_a_working_copy(page: FactTablePage, window: MainWindow, qtbot: QtBot) -> None:
    page._put({(0, "Shelf"): "A7", (1, "Shelf"): "A8"})
    press(qtbot, page, "Save as working copies")
    qtbot.waitUntil(lambda: "2 parts saved as working copies" in page.hint.text(), timeout=20_000)
    qtbot.waitUntil(lambda: page.summary.text() == "Nothing is changed yet")
    assert values(page, "Shelf")[:2] == ["A7", "A8"]
    states = {row.name: row.state for row in window.library.search("")}
    assert sorted(states.values()) == ["changed", "changed", "released"]
    press(qtbot, page, "← Shelf")
    assert window.side.facts is None and window._stack.currentWidget() is window.shelf
    qtbot.waitUntil(lambda: "changed" in {record.state for record in window.shelf.table.records.records})
