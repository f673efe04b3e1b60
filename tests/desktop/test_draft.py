"""A part drafted from a datasheet in the window, and its doubts worked through with keys."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, press, settle, type_text, window_of
from drawn_tables import DUAL_ROWS, draw
from eider.datasheets.documents.found_items import FoundItem
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.source.step import SourceStep
from eider.geometry.lengths import parse_limits


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    """A datasheet that names no package, and does not say how high it is."""
    draw(tmp_path / "LYN-OP1.pdf", [row for row in DUAL_ROWS if row[0] != "A"], page=2)
    return tmp_path / "LYN-OP1.pdf"


@pytest.fixture
def drafted(make_window: MakeWindow, sheet: Path, qtbot: QtBot) -> PartPage:
    window = make_window()
    window.drafting.read_through(sheet)
    qtbot.waitUntil(lambda: window.drafting.dialog is not None, timeout=20_000)
    dialog = window.drafting.dialog
    assert dialog and dialog.name.text() == "LYN-OP1"
    dialog.act.click()
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    settle(qtbot, window)
    assert window.page
    return window.page


def source(page: PartPage) -> SourceStep:
    step = page.current
    assert isinstance(step, SourceStep)
    return step


def doubts(page: PartPage) -> list[str]:
    return [row.doubt.address for row in source(page).confirming.table.records.records]


def test_a_draft_opens_at_what_is_to_be_confirmed(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    assert panel.isVisible()
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "sheet.dims.A", "source"]
    assert panel.reading.text() == "Dual gull-wing"
    view = source(drafted).view
    assert view
    qtbot.waitUntil(lambda: view.page == 2)


def test_enter_confirms_and_undo_brings_the_doubt_back(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    qtbot.keyClick(panel.table, Qt.Key.Key_Return)
    settle(qtbot, window_of(drafted))
    assert doubts(drafted) == ["sheet.pins", "sheet.dims.A", "source"]
    drafted.controller.undo()
    settle(qtbot, window_of(drafted))
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "sheet.dims.A", "source"]


def test_typing_corrects(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    panel.table.select_rows([2])
    assert panel.table.record().name == "A, height"
    qtbot.keyClick(panel.table, "1")
    assert panel.correction.text() == "1"
    type_text(panel.correction, ".55–1.75")
    qtbot.keyClick(panel.correction, Qt.Key.Key_Return)
    settle(qtbot, window_of(drafted))
    dimension = drafted.controller.bundle.sheet.dims["A"]
    assert dimension.limits == parse_limits("1.55–1.75")
    assert dimension.evidence and dimension.evidence.page == 2
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "source"]


def test_what_cannot_be_typed_here_says_where(drafted: PartPage) -> None:
    panel = source(drafted).confirming
    assert not panel.correction.isEnabled()
    assert panel.correction.placeholderText() == "Correct it in Package"


def test_the_last_doubt_takes_the_list_away(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    for _ in range(4):
        panel.confirm()
        settle(qtbot, window_of(drafted))
    assert drafted.controller.bundle.part.to_confirm == ()
    assert not panel.isVisible()


def test_what_was_found_is_listed_and_read(drafted: PartPage, qtbot: QtBot) -> None:
    found = source(drafted).found
    qtbot.waitUntil(lambda: len(found.table.records.records) == 1, timeout=20_000)
    assert found.table.records.records[0].kind == "dimensions"
    source(drafted)._tabs.setCurrentWidget(found)
    found.table.select_rows([0])
    press(qtbot, found, "Read this table")
    panel = drafted.findChild(CapturePanel)
    qtbot.waitUntil(lambda: panel.isVisible(), timeout=20_000)
    settle(qtbot, window_of(drafted))


def test_what_is_found_is_listed_while_the_rest_is_read(drafted: PartPage, qtbot: QtBot) -> None:
    found = source(drafted).found
    qtbot.waitUntil(lambda: len(found.table.records.records) == 1, timeout=20_000)
    first = FoundItem("pins", 1, (0.0, 0.0, 9.0, 9.0), "", 1.0, 8)
    found._sha, found._so_far = "a document that is still read", []
    with qtbot.waitSignal(found.listed, timeout=5_000) as told:
        found._arrived.emit("another document", replace(first, page=7))
        found._arrived.emit("a document that is still read", first)
        found._arrived.emit("a document that is still read", replace(first, page=2))
    assert [item.page for item in told.args[0]] == [1, 2]
    assert [item.page for item in found.table.records.records] == [1, 2]


def test_a_name_that_is_taken_is_told_in_the_dialog(
    drafted: PartPage, sheet: Path, qtbot: QtBot, make_window: MakeWindow
) -> None:
    window = window_of(drafted)
    settle(qtbot, window)
    window.drafting.dialog = None
    window.drafting.read_through(sheet)
    qtbot.waitUntil(lambda: window.drafting.dialog is not None, timeout=20_000)
    dialog = window.drafting.dialog
    assert dialog
    dialog.act.click()
    qtbot.waitUntil(lambda: dialog.fault.text() != "", timeout=20_000)
    assert "There is a part LYN-OP1 already" in dialog.fault.text()
    dialog.reject()
