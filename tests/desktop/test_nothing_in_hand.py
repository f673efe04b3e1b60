"""Controls that are used with nothing in hand, or with what is there already: nothing happens, or it is told."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QTableView
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, press, settle, type_into
from eider.commands.packages import package_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.lands.step import LandsStep
from eider.desktop.part.steps.package.step import PackageStep
from eider.desktop.part.steps.source.step import SourceStep
from eider.model.address import FactAddress, OutlineStepAddress, PinAddress


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open."""
    return open_capacitor(qtbot, window, "1608")


def test_the_joint_shows_reached_and_required_fillets_and_each_group(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    step = open_step(page, 3)
    assert isinstance(step, LandsStep)
    step._tabs.setCurrentWidget(step.joint)
    settle(qtbot, window)
    table = step.joint._joints
    assert isinstance(table, QTableView)
    rows = [[table.records.index(row, column).data() for column in range(5)] for row in range(3)]
    assert [row[0].lower() for row in rows] == ["toe", "heel", "side"]
    # The goals of chips of 1608 and larger by IPC-7351 at A, B and C: toe 0.55, 0.35, 0.15.
    assert rows[0][2:] == ["0.55", "0.35", "0.15"]
    step.joint.pad_asked.emit("2")
    assert step.pads.record().number == "2"
    step.joint.groups.addItem("both", "1")
    step.joint.groups.setCurrentText("both")
    step.joint.groups.activated.emit(step.joint.groups.currentIndex())
    assert step.pads.record().number == "1"


def test_an_outline_editor_without_outlines_does_nothing(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    page.controller.edit("by hand", lambda b: package_edits.set_family(b, "custom"))
    settle(qtbot, window)
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    step.right.setCurrentWidget(step.pads_tab)
    editor, number = step.pads.outlines, page.controller.session.number
    for title in ("Remove", "Add a step", "Remove steps", "Save to library"):
        press(qtbot, editor, title)
    editor.whole["corner"].setText("0.2")
    editor.whole["corner"].editingFinished.emit()
    editor.view.address_clicked.emit(OutlineStepAddress(0))
    settle(qtbot, window)
    assert page.controller.session.number == number
    assert page.controller.bundle.sheet.outlines == {}


def test_dialogs_with_nothing_selected_stay_open(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    step.open_other()
    settle(qtbot, window)
    step.dialog._open(99)
    step.dialog.take()
    assert step.dialog.isVisible()
    step.dialog.reject()
    pins = open_step(page, 1)
    pins._choose_part()
    settle(qtbot, window)
    pins.dialog.list.setCurrentRow(-1)
    pins.dialog.take()
    assert pins.dialog.isVisible()
    pins.dialog.reject()


def test_a_datasheet_that_is_not_there_or_too_large_is_told(
    window: MainWindow, page: PartPage, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    step = open_step(page, 0)
    assert isinstance(step, SourceStep)
    step.attach(tmp_path / "nowhere.pdf")
    settle(qtbot, window)
    assert "nowhere.pdf" in window.status.message.text()
    monkeypatch.setattr("eider.services.datasheets.datasheet_opening.LARGEST_PDF", 10)
    (tmp_path / "large.pdf").write_bytes(b"%PDF-1.7 and more")
    step.attach(tmp_path / "large.pdf")
    settle(qtbot, window)
    assert "large.pdf is larger than" in window.status.message.text()
    number = page.controller.session.number
    step.newer._move()
    assert page.controller.session.number == number
    assert not step._select("0" * 64)


def test_a_length_typed_in_mil_is_adjusted_in_mil(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    window.set_unit("mil")
    step = open_step(page, 3)
    assert isinstance(step, LandsStep)
    step._tabs.setCurrentIndex(3)
    type_into(qtbot, step.pads, step.pads.records.index(0, 3), "40")
    settle(qtbot, window)
    # 40 mil are 1.016 mm.
    assert page.controller.bundle.footprint.pattern.pads[0].width == pytest.approx(1.016)  # type: ignore[union-attr]
    step.show_address(PinAddress("1"))
    assert step.distances.target() is None


def test_facts_without_a_name_or_a_hit_change_nothing(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 6)
    number = page.controller.session.number
    step._add()
    step.suppliers.take()
    step.suppliers._show_comparison()
    assert step.suppliers.comparison.records.records == []
    step.alternates._compare()
    assert step.tabs.currentWidget() is step.suppliers
    step.show_address(FactAddress("Unheard of"))
    step.name.setFocus()
    type_name = step.name.text()
    page.controller.undo()
    settle(qtbot, window)
    assert step.name.text() == type_name
    assert page.controller.session.number == number


def test_rulebooks_are_changed_in_the_list_and_a_value_as_it_is_changes_nothing(
    window: MainWindow, qtbot: QtBot
) -> None:
    window.side.open_rulebook()
    editor = window.side.rules
    assert editor
    settle(qtbot, window)
    editor._change("pads.stencil", "0.125")
    assert editor.draft.changes == {}
    editor.new_name.setText("dense")
    press(qtbot, editor, "Create")
    qtbot.waitUntil(lambda: editor.draft.name == "dense")
    editor.names.setCurrentRow(0)
    qtbot.waitUntil(lambda: editor.draft.name == "standard")
    # A rule with one value has nothing in the columns of the other levels.
    index = next(i for i, r in enumerate(editor.table.records.records) if len(r.paths) == 1)
    editor.table.records.setData(editor.table.records.index(index, 4), "1")
    assert editor.draft.changes == {}
    settle(qtbot, window)
