"""Comparing in the window: two states, another part, one after the other by key, and the PDF."""

from pathlib import Path

from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import press, settle
from eider.commands.facts import fact_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.compare.compare_page import ComparePage
from eider.library.documents.working_copies import WorkingCopy

NAME = "LYN-C1608-100N"


def _opened(window: MainWindow, qtbot: QtBot) -> ComparePage:
    settle(qtbot, window)
    window.shelf.table.select_where(lambda r: r.name == NAME)
    press(qtbot, window.shelf, "Compare")
    page = window.side.page
    assert isinstance(page, ComparePage)
    return page


def _texts(page: ComparePage) -> list[str]:
    return [item.text() for index in range(page.list.count()) if (item := page.list.item(index))]


def test_the_working_copy_is_compared_and_written_as_pdf(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    library = window.library
    part = library.load(library.find(NAME).id)
    library.copies.save(WorkingCopy(bundle=fact_edits.set_fact(part, "Tolerance", "5 %"), findings={}))
    page = _opened(window, qtbot)
    qtbot.waitUntil(lambda: page.found is not None, timeout=20_000)
    assert "Tolerance changed from 10 % to 5 %" in _texts(page)
    assert "Dashed" in page.legend.text()
    page.view.setFocus()
    for words in ("revision 1", "working copy", "Dashed"):
        qtbot.keyClick(page.view, Qt.Key.Key_B)
        assert words in page.legend.text()
    page.save(tmp_path / "c.pdf")
    qtbot.waitUntil(lambda: "Saved as" in page.hint.text(), timeout=10_000)
    assert (tmp_path / "c.pdf").read_bytes().startswith(b"%PDF")
    press(qtbot, page, "← Shelf")
    settle(qtbot, window)


def test_a_part_with_one_state_is_compared_with_another_part(window: MainWindow, qtbot: QtBot) -> None:
    page = _opened(window, qtbot)
    qtbot.waitUntil(lambda: "one state only" in page.hint.text(), timeout=20_000)
    page.other.setFocus()
    qtbot.keyClicks(page.other, "unheard-of")
    qtbot.keyClick(page.other, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: "unheard-of" in page.hint.text(), timeout=20_000)
    other = next(row.name for row in window.library.search() if row.name != NAME and row.revision)
    page.other.setText(other)
    qtbot.keyClick(page.other, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: page.found is not None, timeout=20_000)
    assert page.found is not None and page.found.right.startswith(other)
    assert any(words == f"Name changed from {NAME} to {other}" for words in _texts(page))
    assert not page.found.drawings[page.drawing_choice.currentIndex()].is_same
    settle(qtbot, window)
