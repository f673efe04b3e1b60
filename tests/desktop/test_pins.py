"""Pins with real widgets: dragged on the drawing, moved by keys, pasted into cells, drawn by hand."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QGuiApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import begin_part, cell, open_step, press, settle, type_into
from eider.commands.pins import pin_edits
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.pins.step import PinsStep
from eider.library import init_library
from eider.model.address import PinAddress
from eider.model.part import DatasheetLink
from eider.model.symbol import Pin, Side
from eider.services.releasing.part_releasing import release_part
from eider.symbols.pin_moves import on_side

ROWS = (
    ("1", "CLK", "input"), ("2", "DIN", "input"), ("3", "EN", "input"), ("4", "DOUT", "output"),
    ("5", "BUSY", "output"), ("6", "VDD", "power input"), ("7", "GND", "power input"),
)  # fmt: skip


@pytest.fixture
def step(window: MainWindow, qtbot: QtBot) -> PinsStep:
    page = begin_part(qtbot, window, "NVK-T7")
    pins = [Pin(number, name, kind) for number, name, kind in ROWS]
    page.controller.edit("pins", lambda b: pin_edits.set_pin_table(b, pins))
    settle(qtbot, window)
    open_step(page, 1)
    assert isinstance(page.current, PinsStep)
    return page.current


def names(step: PinsStep, side: Side) -> list[str]:
    return [pin.name for pin in on_side(step.controller.bundle.symbol.units[0], side)]


def point(step: PinsStep, number: str, dx: float = 0.0, dy: float = 0.0) -> QPoint:
    """Where a pin is drawn in the view, and so far beside it in mm."""
    pin = next(p for p in step.controller.bundle.symbol.units[0].pins if p.number == number)
    inward = {"left": 1.0, "right": -1.0}.get(pin.side, 0.0)
    return step.symbol.to_view((pin.x + inward + dx, pin.y + dy)).toPoint()


def drag(qtbot: QtBot, step: PinsStep, start: QPoint, end: QPoint) -> None:
    qtbot.mousePress(step.symbol, Qt.MouseButton.LeftButton, pos=start)
    for i in range(1, 5):
        qtbot.mouseMove(step.symbol, start + (end - start) * i / 4)
    qtbot.mouseRelease(step.symbol, Qt.MouseButton.LeftButton, pos=end)


def page_of(window: MainWindow) -> PartPage:
    assert window.page
    return window.page


def test_a_pin_is_dragged_to_the_other_side_and_taken_back(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    before = names(step, "left")
    drag(qtbot, step, point(step, "3"), point(step, "4", dx=2.0, dy=-1.2))
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "EN", "BUSY"]
    assert step.pane.mover.moves.count() == 1
    assert "EN (3): right, after DOUT (4)" in step.pane.mover.moves.item(0).text()  # type: ignore[union-attr]
    assert step.table.records.index(2, 7).data() == "right"
    step.pane.mover.moves.setCurrentRow(0)
    press(qtbot, step, "Undo move")
    settle(qtbot, window)
    assert names(step, "left") == before
    page_of(window).controller.undo()
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "EN", "BUSY"]


def test_selected_pins_are_dragged_together(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    step.table.select_rows([0, 1])
    drag(qtbot, step, point(step, "1"), point(step, "5", dx=2.0, dy=-1.2))
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "BUSY", "CLK", "DIN"]


def test_escape_gives_a_drag_up(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    start, end = point(step, "3"), point(step, "4", dx=2.0)
    qtbot.mousePress(step.symbol, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(step.symbol, (start + end) / 2)
    qtbot.mouseMove(step.symbol, end)
    assert step.symbol._mark
    qtbot.keyClick(step.symbol, Qt.Key.Key_Escape)
    assert not step.symbol._mark
    qtbot.mouseRelease(step.symbol, Qt.MouseButton.LeftButton, pos=end)
    settle(qtbot, window)
    assert step.controller.bundle.symbol.moves == ()


def test_keys_move_the_pins_in_hand(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    step.table.setCurrentIndex(cell(step.table, "2", 0))
    step.table.setFocus()
    qtbot.keyClick(step.table, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    settle(qtbot, window)
    assert names(step, "left") == ["DIN", "CLK", "EN"]
    qtbot.keyClick(step.table, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "BUSY", "DIN"]
    qtbot.keyClick(step.table, Qt.Key.Key_Home, Qt.KeyboardModifier.AltModifier)
    settle(qtbot, window)
    assert names(step, "left") == ["CLK", "DIN", "EN"]


def test_side_and_neighbour_can_be_typed(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    type_into(qtbot, step.table, cell(step.table, "3", 8), "4")
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "EN", "BUSY"]
    type_into(qtbot, step.table, cell(step.table, "3", 8), "99")
    settle(qtbot, window)
    assert names(step, "right") == ["DOUT", "EN", "BUSY"]
    assert "cannot be placed after" in window.status.message.text()


def test_cells_are_pasted_where_the_hand_is(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    clipboard = QGuiApplication.clipboard()
    assert clipboard
    clipboard.setText("serial\nserial\n")
    step.table.setCurrentIndex(cell(step.table, "1", 5))
    step.table.paste()
    settle(qtbot, window)
    assert [pin.group for pin in step.controller.bundle.symbol.pins] == ["serial", "serial", "", "", "", "", ""]
    clipboard.setText("Pin\tName\tType\n1\tA\tI\n2\tB\tO\n")
    step.table.paste()
    settle(qtbot, window)
    assert [pin.name for pin in step.controller.bundle.symbol.pins] == ["A", "B"]


def test_rows_dropped_on_a_row_take_its_group(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    type_into(qtbot, step.table, cell(step.table, "1", 5), "serial")
    settle(qtbot, window)
    step.table.select_rows([1, 3])
    step.pins.drop_rows(0, onto=True)
    settle(qtbot, window)
    assert [pin.group for pin in step.controller.bundle.symbol.pins[:4]] == ["serial", "serial", "", "serial"]
    step.table.select_rows([6])
    step.pins.drop_rows(0, onto=False)
    settle(qtbot, window)
    assert step.controller.bundle.symbol.pins[0].name == "GND"


def test_a_double_click_takes_the_whole_group(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    step.controller.edit(
        "g",
        lambda b: pin_edits.set_pin_table(
            b, [replace(p, group="ser" if p.name.startswith("D") else "") for p in b.symbol.pins]
        ),
    )
    settle(qtbot, window)
    step.pane.group_wanted.emit(PinAddress("2"))
    assert step.pins.numbers() == ["2", "4"]


def test_an_own_drawing_is_typed_beside_its_picture(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    pins = [Pin("1", "A", "passive"), Pin("2", "B", "passive")]
    step.controller.edit("pins", lambda b: pin_edits.set_pin_table(b, pins))
    settle(qtbot, window)
    step.pane._graphic.setCurrentIndex(step.pane._graphic.findData("custom"))
    step.pane._set_graphic()
    settle(qtbot, window)
    own = step.pane.custom
    assert own.isVisible()
    assert step.controller.bundle.symbol.units[0].graphic == "custom"
    own.lengths.setText("w = 6; h = w/2")
    own.lengths.editingFinished.emit()
    settle(qtbot, window)
    assert [p.x for p in step.controller.bundle.symbol.units[0].pins] == [-10.16, 10.16]
    own.table.records.setData(own.table.records.index(0, 1), "-w/2,0")
    settle(qtbot, window)
    assert "3 or more places" in own._fault.text()
    assert any(f.check == "symbol.custom-graphic" for f in step.controller.findings)
    page_of(window).controller.undo()
    settle(qtbot, window)
    assert not own._fault.isVisible()


def test_types_and_a_symbol_that_others_use_are_shown(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    press(qtbot, step, "Show types")
    settle(qtbot, window)
    assert step.symbol.drawing
    assert any(getattr(p, "role", "") == "type mark" for p in step.symbol.drawing.primitives)
    assert not step.strip.isVisible()


def test_a_shared_symbol_names_who_shares_it_and_can_become_ones_own(window: MainWindow, qtbot: QtBot) -> None:
    chips = [r for r in window.shelf.shown if r.name.startswith("LYN-C")]
    window.open_part(chips[0].id)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    page_of(window).go_to(1)
    step = page_of(window).current
    assert isinstance(step, PinsStep)
    settle(qtbot, window)
    qtbot.waitUntil(lambda: step.strip.isVisible())
    assert chips[1].name in step.strip._text.text()
    press(qtbot, step, "Make it exclusive to this part")
    settle(qtbot, window)
    qtbot.waitUntil(lambda: not step.strip.isVisible())


def test_dropping_outside_of_a_pin_pans_nothing(step: PinsStep, qtbot: QtBot) -> None:
    centre = step.symbol.to_view((0.0, 0.0)).toPoint()
    drag(qtbot, step, centre, centre + QPoint(40, 30))
    assert step.controller.bundle.symbol.moves == ()
    assert step.symbol.to_mm(QPointF(centre)) == pytest.approx((0.0, 0.0), abs=0.2)


def test_pins_come_from_a_part_of_another_library(
    window: MainWindow, step: PinsStep, qtbot: QtBot, tmp_path: Path
) -> None:
    other = init_library(tmp_path / "other", "Holm boat shed", LIBRARIAN)
    release_part(other, chip_part(other, chips(), chips().sizes[0], "22 nF", DatasheetLink("0" * 64, "x.pdf")), "first")
    other.close()
    step._choose_part()
    qtbot.waitUntil(lambda: step.dialog.list.count() > 0)
    step.dialog.open_library(tmp_path / "nowhere")
    qtbot.waitUntil(lambda: "not an Eider library" in step.dialog._where.text())
    step.dialog.open_library(tmp_path / "other")
    qtbot.waitUntil(lambda: "Holm boat shed" in step.dialog._where.text() and step.dialog.list.count() == 1)
    step.dialog.take()
    qtbot.waitUntil(lambda: step.panel.isVisible())
    press(qtbot, step.panel, "Use these values")
    settle(qtbot, window)
    assert [(p.number, p.type) for p in step.controller.bundle.symbol.pins] == [("1", "passive"), ("2", "passive")]


def test_a_whole_symbol_is_taken_with_its_graphic(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    step._choose_symbol()
    qtbot.waitUntil(lambda: step.dialog.list.count() > 0)
    step.dialog.take()
    qtbot.waitUntil(lambda: step.controller.bundle.symbol.graphic == "capacitor")
    settle(qtbot, window)
    assert [p.number for p in step.controller.bundle.symbol.pins] == ["1", "2"]
    assert step.controller.bundle.symbol.reference == "U"
