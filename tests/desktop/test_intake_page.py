"""Intake in the window: looked into, renamed, compared, taken, and not taken twice."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, press, settle
from eider.desktop.app.window import MainWindow
from eider.desktop.intake.intake_page import IntakePage
from eider.exchange.formats.csv import pads_csv, pins_csv

NAME = "LYN-C1608-100N"


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> IntakePage:
    settle(qtbot, window)
    next(a for a in window.actions_list if a.id == "library.intake").run()
    page = window.side.page
    assert isinstance(page, IntakePage)
    return page


@pytest.fixture
def delivery(window: MainWindow, tmp_path: Path) -> Path:
    """Pins and pads of a part that the library has, with one pad wider, and of one that it has not."""
    part = window.library.load(window.library.find(NAME).id)
    assert part.footprint.pattern is not None
    folder = tmp_path / "delivery"
    folder.mkdir()
    pads = pads_csv(part.footprint.pattern)
    (folder / "NEW-1-pads.csv").write_text(pads)
    (folder / "NEW-1-pins.csv").write_text(pins_csv(part.symbol).replace("1,,", "1,A,").replace("2,,", "2,K,"))
    (folder / f"{NAME}-pads.csv").write_text(pads.replace(",0.9,", ",0.95,", 1))
    (folder / "notes.docx").write_bytes(b"words")
    return folder


def _drop(page: IntakePage, path: Path) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    buttons, keys = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    page.dropEvent(QDropEvent(QPointF(5, 5), Qt.DropAction.CopyAction, data, buttons, keys))


def _states(page: IntakePage) -> dict[str, str]:
    return {part.name: part.state for part in page.looked.parts} if page.looked else {}


def test_what_is_dropped_is_listed_compared_and_taken_once(
    page: IntakePage, window: MainWindow, qtbot: QtBot, delivery: Path
) -> None:
    assert not page.new_button.isEnabled()
    _drop(page, delivery)
    qtbot.waitUntil(lambda: _states(page) == {NAME: "differs", "NEW-1": "new"})
    assert page.hint.text() == "2 parts: 1 new, 1 differs; 1 thing left out"
    assert "notes.docx: its format is not known" in page.log.item(0).text()  # type: ignore[union-attr]
    page.table.select_where(lambda part: part.name == NAME)
    qtbot.waitUntil(lambda: page.part_panel.drawing_choice.currentText() == "Lands")
    assert "Wide: only in what arrived" in page.part_panel.legend.text()
    words = [page.part_panel.what.item(index).text() for index in range(page.part_panel.what.count())]  # type: ignore[union-attr]
    assert "Differs: Width of pad 1 changed from 0.9 to 0.95" in words
    press(qtbot, page, "Take all that is new")
    qtbot.waitUntil(lambda: _states(page).get("NEW-1") == "same", timeout=20_000)
    assert window.library.find("NEW-1").state == "draft" and not page.new_button.isEnabled()
    page.table.select_where(lambda part: part.name == NAME)
    press(qtbot, page, "Take the selected")
    qtbot.waitUntil(lambda: _states(page) == {NAME: "same", "NEW-1": "same"}, timeout=20_000)
    assert window.library.find(NAME).state == "changed"
    press(qtbot, page, "Take the selected")
    assert page.hint.text() == "The library has all of this already."


def test_a_part_that_arrived_gets_another_name_and_category(page: IntakePage, qtbot: QtBot, delivery: Path) -> None:
    page.look([delivery / "NEW-1-pads.csv", delivery / "NEW-1-pins.csv"])
    qtbot.waitUntil(lambda: _states(page) == {"NEW-1": "new"})
    model = page.table.model()
    assert model is not None
    model.setData(model.index(0, 0), "BEAD-2")
    qtbot.waitUntil(lambda: _states(page) == {"BEAD-2": "new"})
    model.setData(model.index(0, 0), "BEAD-3")
    qtbot.waitUntil(lambda: _states(page) == {"BEAD-3": "new"})
    page.source_panel.category.setCurrentIndex(page.source_panel.category.findData("bead"))
    page.source_panel.category.activated.emit(page.source_panel.category.currentIndex())
    qtbot.waitUntil(lambda: page.looked is not None and page.looked.parts[0].draft.part.category == "bead")
    page.take(page.table.selected())
    qtbot.waitUntil(lambda: _states(page) == {"BEAD-3": "same"}, timeout=20_000)


def test_a_delivery_without_parts_says_so(page: IntakePage, qtbot: QtBot, delivery: Path) -> None:
    page.look([delivery / "notes.docx"])
    qtbot.waitUntil(lambda: page.hint.text() == "No parts were found; 1 thing left out")
    assert page.tabs.currentWidget() is page.log
    page.look([delivery / "gone"])
    qtbot.waitUntil(lambda: "is not there" in page.hint.text())


def test_a_library_that_cannot_be_written_takes_nothing(
    make_window: MakeWindow, qtbot: QtBot, folder: Path, delivery: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.library.store.Library.read_only", "the folder is write-protected")
    window = make_window()
    next(a for a in window.actions_list if a.id == "library.intake").run()
    page = window.side.page
    assert isinstance(page, IntakePage)
    page.look([delivery])
    qtbot.waitUntil(lambda: "NEW-1" in _states(page))
    assert not page.new_button.isEnabled() and not page.take_button.isEnabled()
