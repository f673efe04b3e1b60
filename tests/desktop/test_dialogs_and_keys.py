"""What opens a dialog of the desktop does what was chosen there; keys, wheel and pointer reach what lies under them."""

from pathlib import Path
from types import SimpleNamespace

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtWidgets import QApplication, QFileDialog, QMenu
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, choose, open_capacitor, open_step, press, settle, wheel
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.facts.step import FactsStep
from eider.desktop.part.steps.match.step import MatchStep
from eider.model.address import FactAddress, PadAddress, PinAddress


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open."""
    return open_capacitor(qtbot, window, "1608")


@pytest.fixture
def chosen(monkeypatch: pytest.MonkeyPatch) -> SimpleNamespace:
    """What the user chooses in every dialog for files and folders; empty for cancel."""
    answer = SimpleNamespace(path="")
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_a: str(answer.path))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_a: (str(answer.path), ""))
    return answer


def test_a_part_is_exported_from_the_shelf_into_the_chosen_folder(
    window: MainWindow, qtbot: QtBot, chosen: SimpleNamespace, tmp_path: Path
) -> None:
    part = window.shelf.shown[0].id
    window.tasks.export_part(part)
    assert window.jobs.is_idle
    chosen.path = tmp_path / "out"
    window.tasks.export_part(part)
    settle(qtbot, window)
    assert list((tmp_path / "out").glob("*.step"))


def test_the_open_part_is_exported_from_review(
    window: MainWindow, page: PartPage, qtbot: QtBot, chosen: SimpleNamespace, tmp_path: Path
) -> None:
    open_step(page, 7)
    press(qtbot, page.current, "Export…")
    assert not (tmp_path / "out").exists()
    chosen.path = tmp_path / "out"
    press(qtbot, page.current, "Export…")
    settle(qtbot, window)
    assert list((tmp_path / "out").glob("*.step"))


def test_another_library_is_chosen(window: MainWindow, qtbot: QtBot, chosen: SimpleNamespace, tmp_path: Path) -> None:
    window.choose_library()
    assert window.jobs.is_idle
    chosen.path = tmp_path
    window.choose_library()
    settle(qtbot, window)
    assert "not an Eider library" in window.status.message.text()


def test_pins_are_imported_from_the_chosen_file(
    window: MainWindow, page: PartPage, qtbot: QtBot, chosen: SimpleNamespace, tmp_path: Path
) -> None:
    open_step(page, 1)
    step = page.current
    press(qtbot, step, "Import…")
    settle(qtbot, window)
    assert not step.panel.isVisible()
    chosen.path = tmp_path / "pins.csv"
    chosen.path.write_text("Pin,Name\n1,A\n2,B\n")
    press(qtbot, step, "Import…")
    settle(qtbot, window)
    assert step.panel.isVisible()
    chosen.path.write_bytes(b"\x00\x01")
    press(qtbot, step, "Import…")
    settle(qtbot, window)
    assert "pins.csv" in window.status.message.text()


def test_a_datasheet_is_attached_from_the_chosen_file(
    window: MainWindow, page: PartPage, qtbot: QtBot, chosen: SimpleNamespace, folder: Path
) -> None:
    open_step(page, 0)
    before = len(page.controller.bundle.part.datasheets)
    press(qtbot, page.current, "Attach datasheet…")
    settle(qtbot, window)
    assert len(page.controller.bundle.part.datasheets) == before
    chosen.path = folder / "NVK-1216T.pdf"
    press(qtbot, page.current, "Attach datasheet…")
    settle(qtbot, window)
    assert len(page.controller.bundle.part.datasheets) == before + 1


def test_the_pins_of_another_part_are_copied_from_its_dialog(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 1)
    choose(page.current, "From a part", "Copy its whole symbol…")
    settle(qtbot, window)
    assert page.current.dialog.isVisible()
    page.current.dialog.reject()
    choose(page.current, "From a part", "Copy its pins…")
    settle(qtbot, window)
    assert page.current.dialog.isVisible()
    page.current.dialog.reject()


def test_columns_are_chosen_from_the_menu_of_the_shelf(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def toggle_last(menu: QMenu, _at: QPoint) -> None:
        menu.actions()[-1].trigger()

    monkeypatch.setattr(QMenu, "exec", toggle_last)
    last = len(window.shelf.table.records.columns) - 1
    hidden = window.shelf.table.isColumnHidden(last)
    window.shelf.table._choose_columns(QPoint(5, 5))
    assert window.shelf.table.isColumnHidden(last) is not hidden
    assert window.context.settings.shelf_columns is not None


def test_facts_are_the_fields_that_a_click_fills_one_after_the_other(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    open_step(page, 6)
    step = page.current
    assert isinstance(step, FactsStep)
    names = [row.name for row in step.table.records.records]
    step.show_address(FactAddress(names[0]))
    target = step.target(step.table)
    assert target is not None
    assert (target.address, target.kind) == (FactAddress(names[0]), "text")
    step.next_field()
    target = step.target(step.table)
    assert target is not None
    assert target.address == FactAddress(names[1])
    assert step.target(step.description) is None


def test_a_supplier_that_does_not_answer_is_told_in_its_place(make_window: MakeWindow, qtbot: QtBot) -> None:
    # Port 9 of this machine: nobody listens there.
    window = make_window("http://127.0.0.1:9")
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 6)
    page.current.suppliers.look_up()
    qtbot.waitUntil(lambda: "did not answer" in page.current.suppliers.say.text(), timeout=10_000)
    assert "127.0.0.1" in page.current.suppliers.say.text()
    assert not page.current.suppliers.take_button.isEnabled()


def test_a_pin_under_the_pointer_lights_its_pads_and_a_pad_its_pins(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    open_step(page, 5)
    step = page.current
    assert isinstance(step, MatchStep)
    step.symbol.address_hovered.emit(PinAddress("2"))
    assert step.lands._lit_addresses == {PadAddress("2")}
    step.lands.address_hovered.emit(PadAddress("1"))
    assert step.symbol._lit_addresses == {PinAddress("1")}
    step.show_address(PadAddress("2"))
    assert step.pads.record().number == "2"
    step.show_address(PinAddress("1"))
    assert step.pins.record().number == "1"


def test_the_wheel_zooms_drawing_and_page(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    view = page.current.view
    before = view.scale
    QApplication.sendEvent(view, wheel(view, 1))
    assert view.scale == pytest.approx(before / 1.2)
    qtbot.keyClick(view, Qt.Key.Key_Minus)
    assert view.scale == pytest.approx(before)
    left = view.to_mm(QPointF(0, 0))[0]
    qtbot.keyClick(view, Qt.Key.Key_Left)
    assert view.to_mm(QPointF(0, 0))[0] == pytest.approx(left - 40 * view.scale)
    open_step(page, 0)
    area = page.datasheet.area
    qtbot.waitUntil(lambda: page.datasheet.page > 0)
    before = area.scale
    control = Qt.KeyboardModifier.ControlModifier
    QApplication.sendEvent(area.viewport(), wheel(area.viewport(), 1, control))
    assert area.scale > before
    qtbot.keyClick(area, Qt.Key.Key_F)
    assert area.fits_width
    qtbot.keyClick(area, Qt.Key.Key_Plus)
    assert not area.fits_width
    qtbot.keyClick(area, Qt.Key.Key_End)
    assert area.bar(Qt.Orientation.Vertical).value() == area.bar(Qt.Orientation.Vertical).maximum()
    qtbot.keyClick(area, Qt.Key.Key_Home)
    assert area.bar(Qt.Orientation.Vertical).value() == 0


def test_the_body_turns_by_drag_and_keys_and_comes_nearer_by_the_wheel(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    open_step(page, 4)
    view = page.current.view
    qtbot.waitUntil(lambda: view.has_picture, timeout=20_000)
    turn, zoom = view.camera.turn, view.camera.zoom
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(100, 100))
    qtbot.mouseMove(view, QPoint(130, 100))
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=QPoint(130, 100))
    assert view.camera.turn != turn
    turn = view.camera.turn
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert view.camera.turn == pytest.approx((turn + 10) % 360)
    QApplication.sendEvent(view, wheel(view, 1))
    assert view.camera.zoom == pytest.approx(zoom * 1.2)
    settle(qtbot, window)
