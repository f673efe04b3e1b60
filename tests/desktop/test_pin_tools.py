"""What changes many pins at once: filled, numbered, grouped, replaced, split; and the whole table sorted."""

import pytest
from PyQt6.QtCore import QItemSelectionModel, QMimeData, QObject, QPointF, Qt
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QComboBox
from pytestqt.qtbot import QtBot

from desktop_helpers import begin_part, choose, open_step, press, settle
from eider.commands.pins import pin_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.part.steps.pins.step import PinsStep
from eider.desktop.widgets.qt_values import present
from eider.drawings.primitives import Text
from eider.model.symbol import Pin

ROWS = (("1", "D0/RX", "P0"), ("2", "D1/TX", "P0"), ("3", "PB0", "P1"), ("4", "VDD", ""))


@pytest.fixture
def step(window: MainWindow, qtbot: QtBot) -> PinsStep:
    """Four pins, two with an alternative function."""
    page = begin_part(qtbot, window, "NVK-T4")
    pins = [Pin(number, name, "bidirectional", group=group) for number, name, group in ROWS]
    page.controller.edit("pins", lambda b: pin_edits.set_pin_table(b, pins))
    settle(qtbot, window)
    open_step(page, 1)
    assert isinstance(page.current, PinsStep)
    return page.current


def column_of(step: PinsStep, title: str) -> int:
    return [column.title for column in step.table.records.columns].index(title)


def select(step: PinsStep, column: int, *rows: int) -> None:
    """Select cells of one column, the first of them in hand."""
    model = step.table.selectionModel()
    model.clearSelection()
    for row in rows:
        model.select(step.table.records.index(row, column), QItemSelectionModel.SelectionFlag.Select)
    model.setCurrentIndex(step.table.records.index(rows[0], column), QItemSelectionModel.SelectionFlag.NoUpdate)


def pins(step: PinsStep) -> tuple[Pin, ...]:
    return step.controller.bundle.symbol.pins


def test_numbers_go_on_and_round_the_package(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    select(step, 0, 0, 1, 2)
    press(qtbot, step, "Continue numbering")
    settle(qtbot, window)
    assert [p.number for p in pins(step)] == ["1", "2", "3", "4"]
    # Fewer than two rows are selected: all four are numbered, as a grid of two by two.
    select(step, 0, 0)
    choose(step, "Number", "grid")
    settle(qtbot, window)
    assert [p.number for p in pins(step)] == ["A1", "A2", "B1", "B2"]


def test_functions_are_split_and_the_next_is_drawn(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    select(step, 0, 0, 1)
    choose(step, "Functions", "Split names at /")
    settle(qtbot, window)
    assert [(p.name, p.alternatives) for p in pins(step)][:2] == [("D0", ("RX",)), ("D1", ("TX",))]
    select(step, 0, 0, 1)
    choose(step, "Functions", "Draw the next function")
    settle(qtbot, window)
    assert [p.shown for p in pins(step)] == ["RX", "TX", "", ""]
    assert {"RX", "TX"} <= {p.text for p in step.symbol.drawing.primitives if isinstance(p, Text)}  # type: ignore[union-attr]
    # D0 and D1 are a bus, PB0 stands alone.
    select(step, 0, 3)
    choose(step, "Group by", "bus")
    settle(qtbot, window)
    assert [p.group for p in pins(step)] == ["D", "D", "", ""]


def test_a_text_is_replaced_in_the_selected_cells_and_counted(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    select(step, column_of(step, "Name"), 0, 1, 2)
    step.tools.wanted_text.setText("D")
    step.tools.replacement.setText("GPIO")
    press(qtbot, step, "Replace")
    settle(qtbot, window)
    assert [p.name for p in pins(step)] == ["GPIO0/RX", "GPIO1/TX", "PB0", "VDD"]
    assert window.status.message.text() == "Replaced in 2 pins"


def test_a_side_is_filled_down_and_taken_back(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    side = column_of(step, "Side")
    step.table.records.setData(step.table.records.index(0, side), "right")
    settle(qtbot, window)
    select(step, side, 0, 1, 2)
    press(qtbot, step, "Fill down")
    settle(qtbot, window)
    assert [step.table.records.index(i, side).data() for i in range(4)] == ["right", "right", "right", ""]
    # From a row without a move, those below lose theirs.
    select(step, side, 0)
    step.table.records.setData(step.table.records.index(0, side), "")
    settle(qtbot, window)
    select(step, side, 0, 1, 2)
    press(qtbot, step, "Fill down")
    settle(qtbot, window)
    assert [step.table.records.index(i, side).data() for i in range(4)] == ["", "", "", ""]


def test_a_double_click_on_a_heading_sorts(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    header = step.table.horizontalHeader()
    assert header
    header.sectionDoubleClicked.emit(column_of(step, "Name"))
    settle(qtbot, window)
    # They are in that order already: a second time is the other way round.
    assert [p.name for p in pins(step)] == ["VDD", "PB0", "D1/TX", "D0/RX"]
    header.sectionDoubleClicked.emit(column_of(step, "Pin"))
    settle(qtbot, window)
    assert [p.number for p in pins(step)] == ["1", "2", "3", "4"]


def test_the_keys_move_the_selected_pin(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    select(step, 0, 2)
    choose(step, "Move pins", "To the top")
    settle(qtbot, window)
    placed = {p.number: p.side for p in step.controller.bundle.symbol.units[0].pins}
    assert placed["3"] == "top"
    assert step.pane.mover.isVisible()
    # Nothing is selected in the list of moves.
    press(qtbot, step, "Undo move")
    assert "Select the moves" in window.status.message.text()
    press(qtbot, step, "Undo all moves")
    settle(qtbot, window)
    assert {p.number: p.side for p in step.controller.bundle.symbol.units[0].pins}["3"] != "top"
    assert not step.pane.mover.isVisible()


class Drop(QDropEvent):
    """A drop as Qt makes it at the end of a drag inside the table, which a test cannot begin."""

    def __init__(self, source: QObject | None, at: QPointF, data: QMimeData) -> None:
        held, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        super().__init__(at, Qt.DropAction.MoveAction, data, held, none)
        self._source = source

    def source(self) -> QObject | None:
        return self._source


def test_rows_dropped_from_elsewhere_or_below_the_last_are_told_by_their_place(step: PinsStep, qtbot: QtBot) -> None:
    dropped: list[tuple[int, bool]] = []
    step.pins.view.rows_dropped.connect(lambda target, onto: dropped.append((target, onto)))
    data, below = QMimeData(), QPointF(20, present(step.table.viewport()).height() - 4)
    step.table.dropEvent(Drop(None, below, data))
    assert dropped == []
    step.table.dropEvent(Drop(step.table, below, data))
    assert dropped == [(4, False)]


def test_a_type_is_chosen_from_the_list_in_its_cell(window: MainWindow, step: PinsStep, qtbot: QtBot) -> None:
    index = step.table.records.index(2, column_of(step, "Type"))
    step.table.setCurrentIndex(index)
    step.table.edit(index)
    box = present(step.table.viewport()).findChild(QComboBox)
    assert box is not None
    box.setCurrentText("output")
    box.activated.emit(box.currentIndex())
    settle(qtbot, window)
    assert pins(step)[2].type == "output"
