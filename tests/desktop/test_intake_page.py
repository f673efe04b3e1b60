"""Intake in the window: looked into, renamed, compared, taken, and not taken twice."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, press, settle
from eider.demo.parts import converter_part
from eider.desktop.app.window import MainWindow
from eider.desktop.intake.intake_page import IntakePage
from eider.exchange.formats.csv import pads_csv, pins_csv
from eider.exchange.formats.dxf.writer import dxf_text
from eider.lands.pad_faults import corrected_pads
from eider.model.part import DatasheetLink
from eider.services.parts.part_evaluation import EvaluationRun, save_part

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
    press(qtbot, page, "Import new parts")
    qtbot.waitUntil(lambda: _states(page).get("NEW-1") == "same", timeout=20_000)
    assert window.library.find("NEW-1").state == "draft" and not page.new_button.isEnabled()
    page.table.select_where(lambda part: part.name == NAME)
    press(qtbot, page, "Import selected")
    qtbot.waitUntil(lambda: _states(page) == {NAME: "same", "NEW-1": "same"}, timeout=20_000)
    assert window.library.find(NAME).state == "changed"
    press(qtbot, page, "Import selected")
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


def test_what_is_dropped_waits_over_a_restart_until_it_is_discarded(
    page: IntakePage, window: MainWindow, make_window: MakeWindow, qtbot: QtBot, delivery: Path
) -> None:
    _drop(page, delivery)
    qtbot.waitUntil(lambda: "NEW-1" in _states(page))
    for path in delivery.iterdir():
        path.unlink()
    page.source_panel.licence.setText("own use")
    page.source_panel.licence.editingFinished.emit()
    press(qtbot, page, "Import new parts")
    qtbot.waitUntil(lambda: _states(page).get("NEW-1") == "same", timeout=20_000)
    window.open_part(window.library.find("NEW-1").id)
    qtbot.waitUntil(lambda: window.page is not None and window.page.current is not None)
    assert window.page is not None
    window.page.go_to(0)
    source = window.page.current
    qtbot.waitUntil(lambda: source.elsewhere.count() > 0)
    assert source.elsewhere.item(0).text().startswith("NEW-1-pads.csv, NEW-1-pins.csv, taken by ")
    assert source.elsewhere.item(0).text().endswith("; licence: own use")
    settle(qtbot, window)
    window.close()
    again = make_window()
    next(a for a in again.actions_list if a.id == "library.intake").run()
    reopened = again.side.page
    assert isinstance(reopened, IntakePage)
    qtbot.waitUntil(lambda: _states(reopened) == {NAME: "differs", "NEW-1": "same"}, timeout=20_000)
    # What was said of the source holds again.
    assert reopened.source_panel.source.currentText() == "delivery"
    assert reopened.source_panel.licence.text() == "own use"
    press(qtbot, reopened, "Discard")
    qtbot.waitUntil(lambda: not reopened.waiting_bar.waiting.deliveries)
    qtbot.waitUntil(lambda: _states(reopened) == {})
    assert not reopened.waiting_bar.discard.isEnabled()


def test_layers_units_and_faults_are_put_right_in_the_window(
    page: IntakePage, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    made = EvaluationRun(window.library).evaluated(converter_part(window.library, DatasheetLink("0" * 64, "x.pdf")))
    save_part(window.library, made)
    pattern = made.bundle.footprint.pattern
    assert pattern is not None
    folder = tmp_path / "strange"
    folder.mkdir()
    (folder / "KEL-1-lands.dxf").write_text(dxf_text(pattern).replace("COPPER_TOP", "LAYER_1"))
    (folder / "KEL-2-pads.csv").write_text(pads_csv(replace(pattern, pads=corrected_pads(pattern.pads, "mirror"))))
    page.receive([folder])
    qtbot.waitUntil(lambda: "KEL-2" in _states(page))
    model = page.source_panel.layers.model()
    assert model is not None
    names = [record.layer for record in page.source_panel.layers.records.records]
    model.setData(model.index(names.index("LAYER_1"), 1), "top")
    qtbot.waitUntil(lambda: "KEL-1" in _states(page), timeout=20_000)
    page.table.select_where(lambda held: held.name == "KEL-2")
    mirror = next(made for made in page.part_panel.corrections if made.text() == "Mirror left to right")
    assert mirror.isVisibleTo(page.part_panel)
    mirror.click()
    qtbot.waitUntil(lambda: page.part_panel.part is not None and page.part_panel.part.faults == (), timeout=20_000)
    assert not mirror.isVisibleTo(page.part_panel) and page.part_panel.part.like.lands[1] == "NVK-1216T"
    page.part_panel.package.setText("NVK-1216T")
    page.part_panel.package.returnPressed.emit()
    qtbot.waitUntil(lambda: page.part_panel.part is not None and bool(page.part_panel.part.joints), timeout=20_000)
    words = [page.part_panel.what.item(index).text() for index in range(page.part_panel.what.count())]  # type: ignore[union-attr]
    assert "Joints: its lands reach level B" in words
    page.part_panel.package.setText("NOBODY")
    page.part_panel.package.returnPressed.emit()
    qtbot.waitUntil(lambda: "KEL-2" not in _states(page), timeout=20_000)
    assert any("no part “NOBODY”" in page.log.item(index).text() for index in range(page.log.count()))  # type: ignore[union-attr]


def test_only_what_is_ticked_is_taken(page: IntakePage, window: MainWindow, qtbot: QtBot, delivery: Path) -> None:
    page.look([delivery])
    qtbot.waitUntil(lambda: "NEW-1" in _states(page))
    for item, box in page.items.items():
        box.setChecked(item == "symbol")
    page.take([part for part in page.looked.parts if part.name == "NEW-1"] if page.looked else [])
    qtbot.waitUntil(lambda: _states(page).get("NEW-1") == "differs", timeout=20_000)
    made = window.library.load(window.library.find("NEW-1").id)
    assert [pin.name for pin in made.symbol.pins] == ["A", "K"] and made.footprint.pattern is None
    page.items["symbol"].setChecked(False)
    press(qtbot, page, "Import selected")
    assert page.hint.text() == "Choose which items to import."
