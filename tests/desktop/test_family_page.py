"""Family tables driven in the window: begun from a part, rows typed, pasted and captured, kept and released."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, choose, press, settle
from eider.commands.lands import footprint_edits
from eider.demo.build import attach, connector_family
from eider.demo.parts import connector_part
from eider.demo.sheets import DATASHEETS
from eider.desktop.app.window import MainWindow
from eider.desktop.family.family_page import FamilyPage
from eider.library import open_library
from eider.library.documents.family_files import read_family, save_family
from eider.library.documents.working_copies import WorkingCopy
from eider.model.family_table import FamilyTable
from eider.model.footprint import Adjustment
from eider.services.releasing.part_releasing import release_part


def _begin(qtbot: QtBot, window: MainWindow, name: str = "LYN-C1608-100N") -> FamilyPage:
    settle(qtbot, window)
    window.shelf.table.select_where(lambda r: r.name == name)
    choose(window.shelf, "More", "Family table of this part…")
    page = window.side.page
    assert isinstance(page, FamilyPage)
    qtbot.waitUntil(lambda: bool(page.table.rows), timeout=10_000)
    _planned(qtbot, page)
    return page


def _planned(qtbot: QtBot, page: FamilyPage) -> None:
    qtbot.waitUntil(lambda: page.plan is not None and page.plan.table is page.table, timeout=20_000)


def _paste(page: FamilyPage, row: int, column: int, text: str) -> None:
    page.tabs.setCurrentIndex(0)
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(row, column))
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText(text)
    page.rows.grid.paste()


def _define(page: FamilyPage) -> None:
    """Name and capacitance in columns, description by a rule."""
    columns, rules = page.definition.columns, page.definition.rules
    add = [b for b in page.definition.findChildren(type(page.save_button)) if b.text() == "Add"]
    add[1].click()
    columns.records.setData(columns.records.index(1, 0), "Capacitance")
    columns.records.setData(columns.records.index(1, 1), "fact.Capacitance")
    add[2].click()
    rules.records.setData(rules.records.index(0, 0), "description")
    rules.records.setData(rules.records.index(0, 1), "Capacitor {Capacitance}")


def test_a_family_is_begun_from_a_part_pasted_kept_and_released(window: MainWindow, qtbot: QtBot) -> None:
    page = _begin(qtbot, window)
    assert page.tabs.currentWidget() is page.definition
    assert page.plan and [m.state for m in page.plan.members] == ["base"]
    _define(page)
    _paste(page, 1, 0, "LYN-C1608-330N\t330 nF\nLYN-C1608-680N\t680 nF\n")
    _planned(qtbot, page)
    assert page.summary.text() == "3 members: 2 new, 1 base"
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(1, 1))
    assert page.member.title.text() == "LYN-C1608-330N"
    assert not page.release_button.isEnabled(), "it has neither name nor note"
    page.name.setText("LYN-C1608")
    page.name.editingFinished.emit()
    _planned(qtbot, page)
    press(qtbot, page, "Make working copies")
    qtbot.waitUntil(lambda: page.names.currentText() == "LYN-C1608", timeout=20_000)
    settle(qtbot, window)
    assert window.library.find("LYN-C1608-330N").state == "draft"
    assert window.library.find("LYN-C1608-680N").description == "Capacitor 680 nF"
    _planned(qtbot, page)
    page.note.setText("two values more")
    press(qtbot, page, "Release members")
    qtbot.waitUntil(lambda: "2 parts released together" in window.status.message.text(), timeout=20_000)
    settle(qtbot, window)
    assert window.library.find("LYN-C1608-680N").revision == 1
    assert read_family(window.library, "LYN-C1608").rows[1].part == window.library.find("LYN-C1608-330N").id


def test_edits_are_steps_and_a_fault_is_told_at_its_row(window: MainWindow, qtbot: QtBot) -> None:
    page = _begin(qtbot, window)
    _define(page)
    press(qtbot, page, "Add a row") if page.tabs.currentIndex() == 0 else page.rows.add_row()
    _paste(page, 1, 0, "LYN-C1608-330N\t330 nF")
    _planned(qtbot, page)
    page.tabs.setCurrentIndex(0)
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(0, 0))
    page.rows.grid.selectAll()
    before = page.table
    press(qtbot, page, "Fill down")
    assert page.table.rows[1].cells == page.table.rows[0].cells
    _planned(qtbot, page)
    assert page.plan and page.plan.count("fault") == 2
    assert "rows 1, 2 make parts of one name" in page.member.state.text()
    assert not page.keep_button.isEnabled()
    assert window.steps.label_of("undo").startswith("Change ")
    window.steps.undo()
    assert page.table == before
    window.steps.redo()
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(1, 0))
    page.rows.grid.selectRow(1)
    press(qtbot, page, "Remove rows")
    assert len(page.table.rows) == 1
    page.rows.grid.selectRow(0)
    press(qtbot, page, "Fill down")
    assert "Select the cell" in page.hint.text()


def test_a_part_without_a_number_of_pins_says_so(window: MainWindow, qtbot: QtBot) -> None:
    page = _begin(qtbot, window)
    columns = page.definition.columns
    columns.records.setData(columns.records.index(0, 1), "name, colour")
    page.rows.add_row()
    _paste(page, 1, 0, "OTHER")
    _planned(qtbot, page)
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(1, 0))
    assert "“colour” is nothing that a column can set" in page.member.state.text()
    assert page.rows.cell_note(page.rows.grid.model_of_facts.table.parts[1], "Name")


@pytest.fixture
def connectors(folder: Path) -> FamilyTable:
    """The demo's connectors, of which the one with 8 ways is released, and their table."""
    library = open_library(folder / "library")
    DATASHEETS["OHC-125"](folder / "OHC-125.pdf")
    link = attach(library, folder / "OHC-125.pdf", 3)
    release_part(library, connector_part(library, 8, link), "base")
    table = connector_family(library, link)
    save_family(library, table, "connectors", replaces=None)
    library.close()
    return table


def test_rows_are_captured_from_the_datasheet(
    make_window: MakeWindow, qtbot: QtBot, connectors: FamilyTable, tmp_path: Path
) -> None:
    window = make_window()
    settle(qtbot, window)
    next(a for a in window.actions_list if a.id == "library.families").run()
    page = window.side.page
    assert isinstance(page, FamilyPage)
    qtbot.waitUntil(lambda: page.names.currentText() == "OHC-125" and bool(page.table.rows), timeout=10_000)
    _planned(qtbot, page)
    assert page.plan and page.plan.count("new") == 10
    page.rows.grid.selectAll()
    press(qtbot, page, "Remove rows")
    assert page.table.rows == ()
    page.tabs.setCurrentWidget(page.capture)
    qtbot.waitUntil(lambda: page.capture.view.source.document is not None, timeout=10_000)
    page.capture.read_box(1, (20.0, 20.0, 60.0, 60.0))
    qtbot.waitUntil(lambda: "rectangle" in page.capture.say.text() and not page.capture.use_button.isEnabled())
    page.capture.read_box(2, (40.0, 100.0, 560.0, 700.0))
    qtbot.waitUntil(lambda: "11 rows read" in page.capture.say.text(), timeout=10_000)
    press(qtbot, page.capture, "Use these rows")
    assert [row.cells["ways"] for row in page.table.rows] == [str(n) for n in range(2, 13)]
    assert page.table.rows[3].evidence["A"].page == 2
    _planned(qtbot, page)
    assert page.plan and (page.plan.count("new"), page.plan.count("base")) == (10, 1)
    (tmp_path / "rows.csv").write_text("ways,A,C\n2,1.25,5.85 max\n", encoding="utf-8")
    page.rows.read_rows(tmp_path / "rows.csv")
    qtbot.waitUntil(lambda: len(page.table.rows) == 1, timeout=10_000)
    press(qtbot, page, "Save the table")
    qtbot.waitUntil(lambda: "saved" in window.status.message.text(), timeout=10_000)
    assert len(read_family(window.library, "OHC-125").rows) == 1


def test_what_was_changed_by_hand_is_shown(make_window: MakeWindow, qtbot: QtBot, connectors: FamilyTable) -> None:
    window = make_window()
    settle(qtbot, window)
    next(a for a in window.actions_list if a.id == "library.families").run()
    page = window.side.page
    assert isinstance(page, FamilyPage)
    qtbot.waitUntil(lambda: bool(page.table.rows), timeout=10_000)
    _planned(qtbot, page)
    page.note.setText("all ways")
    press(qtbot, page, "Release members")
    qtbot.waitUntil(lambda: "10 parts released together" in window.status.message.text(), timeout=40_000)
    library = window.library
    member = library.load(library.find("OHC-125-05R").id)
    library.copies.save(WorkingCopy(bundle=footprint_edits.adjust_pad(member, Adjustment("1", "width", "0.7"))))
    page.make_plan()
    qtbot.waitUntil(lambda: page.plan is not None and bool(page.plan.members[3].by_hand), timeout=20_000)
    page.rows.grid.setCurrentIndex(page.rows.grid.model_of_facts.index(3, 0))
    shown = [page.member.changes.item(i).text() for i in range(page.member.changes.count())]  # type: ignore[union-attr]
    assert shown == ["Changed by hand, stays: Adjustment of width of pad 1"]
    qtbot.keyClick(page.rows.grid, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)


def test_a_variant_is_begun_on_the_shelf(window: MainWindow, qtbot: QtBot) -> None:
    settle(qtbot, window)
    window.shelf.table.select_where(lambda r: r.name == "LYN-C1608-100N")
    choose(window.shelf, "More", "New variant of this part…")
    qtbot.waitUntil(lambda: window.tasks.start_dialog is not None and window.tasks.start_dialog.isVisible())
    dialog = window.tasks.start_dialog
    assert dialog is not None and dialog.kind == "number"
    press(qtbot, dialog, "Create")
    qtbot.waitUntil(lambda: "its own name" in dialog._fault.text())
    dialog.name.setText("LYN-C1608-100N-T")
    press(qtbot, dialog, "Create")
    qtbot.waitUntil(lambda: window.page is not None, timeout=10_000)
    assert window.page
    made = window.page.controller.bundle
    assert made.part.name == "LYN-C1608-100N-T"
    assert made.sheet.id == window.library.load(window.library.find("LYN-C1608-100N").id).sheet.id
