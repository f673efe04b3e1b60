"""At the ends of lists, beside things and with nothing selected: what is asked for cannot be done, and is told."""

import pytest
from PyQt6.QtCore import QPointF, Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, press, settle
from eider.commands.packages import package_edits
from eider.datasheets.pages.document import Datasheet
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.facts.step import FactsStep
from eider.desktop.part.steps.package.step import AS_TYPED, PackageStep
from eider.desktop.part.steps.source.step import SourceStep
from eider.errors import EiderError
from eider.model.address import DimensionAddress, FieldAddress


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open."""
    return open_capacitor(qtbot, window, "1608")


def test_after_the_last_field_the_same_stays_in_hand(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    last = step.table.records.rowCount() - 1
    step.table.setCurrentIndex(step.table.records.index(last, step.table.column_of(AS_TYPED)))
    step.next_field()
    assert step.table.currentIndex().row() == last
    step = open_step(page, 6)
    assert isinstance(step, FactsStep)
    last = step.table.records.rowCount() - 1
    step.table.setCurrentIndex(step.table.records.index(last, 1))
    step.next_field()
    assert step.table.currentIndex().row() == last


def test_the_number_of_pins_takes_a_click_and_refuses_nonsense(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    target = step.target(step.pins)
    assert target is not None
    assert target.address == FieldAddress("sheet", "pins")
    step.pins.setText("two")
    step.pins.editingFinished.emit()
    settle(qtbot, window)
    assert "is not a number of pins" in window.status.message.text()
    assert step.pins.text() == "2"
    number = page.controller.session.number
    step.pins.editingFinished.emit()
    assert page.controller.session.number == number


def test_a_family_is_chosen_by_a_click_and_the_same_one_changes_nothing(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    keys = {step.families.item(i).data(Qt.ItemDataRole.UserRole): i for i in range(step.families.count())}
    number = page.controller.session.number
    step.families.itemClicked.emit(step.families.item(keys["chip"]))
    assert page.controller.session.number == number
    step.families.itemClicked.emit(step.families.item(keys["cylinder"]))
    settle(qtbot, window)
    assert page.controller.bundle.sheet.family == "cylinder"


def test_while_nothing_can_be_drawn_the_last_drawing_stays(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    drawn = step.top.drawing
    assert drawn is not None
    page.controller.edit("D", lambda b: package_edits.set_dimension(b, "D", "x"))
    settle(qtbot, window)
    assert step.top.drawing is not None
    step.show_address(DimensionAddress("D"))
    assert step.table.record().letter == "D"


def test_the_ruler_holds_on_to_what_is_near_and_begins_anew_with_a_third_click(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    step = open_step(page, 3)
    press(qtbot, step, "Ruler")
    pads = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    view = step.view

    def click(x: float, y: float) -> None:
        qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view.to_view((x, y)).toPoint())

    # Far from everything there is nothing to hold on to.
    far = view.to_mm(QPointF(3, 3))
    click(*far)
    assert step.ruler.measured is None
    click(pads[0].x, pads[0].y)
    click(pads[1].x, pads[1].y)
    assert step.ruler.measured is not None
    assert step.ruler.measured.distance == pytest.approx(abs(pads[1].x - pads[0].x), abs=1e-6)
    qtbot.mouseMove(view, view.to_view((pads[0].x, pads[0].y)).toPoint())
    click(pads[0].x, pads[0].y)
    assert step.ruler.measured is None
    qtbot.mouseMove(view, view.to_view((pads[1].x, pads[1].y)).toPoint())
    press(qtbot, step, "Ruler")
    step.ruler._click(0.0, 0.0)
    assert step.ruler.measured is None


def test_evidence_is_set_for_what_is_selected_only(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 0)
    assert isinstance(step, SourceStep)
    qtbot.waitUntil(lambda: page.datasheet.page > 0)
    step.values.clearSelection()
    press(qtbot, step, "Set")
    assert "Select the values" in window.status.message.text()
    press(qtbot, step, "Cite this page for the selection")
    assert "Select the values" in window.status.message.text()
    step.show_address(DimensionAddress("L"))
    press(qtbot, step, "Set")
    settle(qtbot, window)
    evidence = page.controller.bundle.sheet.dims["L"].evidence
    assert evidence is not None
    assert str(evidence.kind) == step._kind.currentText()


def test_a_page_that_cannot_be_drawn_is_told(
    window: MainWindow, page: PartPage, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_a: object, **_k: object) -> None:
        raise EiderError("its streams are damaged")

    monkeypatch.setattr(Datasheet, "picture", refuse)
    open_step(page, 0)
    page.datasheet.area.zoom(1.3)
    qtbot.waitUntil(lambda: "cannot be drawn: its streams are damaged" in page.capturing.bar.text.text())


def test_a_rulebook_without_changes_is_not_saved(window: MainWindow, qtbot: QtBot) -> None:
    window.side.open_rulebook()
    editor = window.side.rules
    assert editor
    settle(qtbot, window)
    editor.note.setText("nothing")
    qtbot.keyClick(editor.note, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert window.status.message.text() == "There are no changes to save."
    editor.names.currentTextChanged.emit("standard")
    editor.discard()
    assert editor.draft.changes == {}
    press(qtbot, editor, "← Shelf")
    assert window.side.rules is None
