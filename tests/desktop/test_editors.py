"""Outlines, pads by hand and custom graphics: every control of their editors."""

import pytest
from msgspec.structs import replace
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from desktop_helpers import choose, open_capacitor, open_step, press, settle, type_into
from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.pins import symbol_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.package.outline_editor import OutlineEditor
from eider.desktop.part.steps.package.step import PackageStep
from eider.model.bundle import Bundle
from eider.model.outline import OutlineSpec, PadSpec, Step
from eider.model.symbol import Pin

TEE = OutlineSpec("-1", "-1", (Step("right", "2"), Step("up", "2"), Step("left", "2"), Step("down", "2")))


def by_hand(bundle: Bundle) -> Bundle:
    """Two pads, one of them of an outline."""
    made = package_edits.set_family(bundle, "custom")
    for letter, text in (("D", "10"), ("E", "6"), ("A", "max 2")):
        made = package_edits.set_dimension(made, letter, text)
    made = package_edits.set_outline(made, "tee", TEE)
    pads = [PadSpec("1", x="-3", outline="tee"), PadSpec("2", x="3", width="1", height="2")]
    return package_edits.set_pads(made, pads)


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """A part whose pads are given by hand, open in Package."""
    page = open_capacitor(qtbot, window, "1608")
    page.controller.edit("by hand", by_hand)
    settle(qtbot, window)
    open_step(page, 2)
    assert isinstance(page.current, PackageStep)
    page.current.right.setCurrentWidget(page.current.pads_tab)
    return page


def outline(page: PartPage) -> OutlineSpec:
    return page.controller.bundle.sheet.outlines["tee"]


def editor_of(page: PartPage) -> OutlineEditor:
    assert isinstance(page.current, PackageStep)
    return page.current.pads.outlines


def test_the_whole_outline_is_moved_mirrored_and_its_corners_cut(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    editor = editor_of(page)
    editor.whole["corner"].setText("0.2")
    editor.whole["corner"].editingFinished.emit()
    settle(qtbot, window)
    editor.chamfered.click()
    settle(qtbot, window)
    editor.mirror.setCurrentText("x")
    editor.mirror.activated.emit(1)
    settle(qtbot, window)
    assert (outline(page).corner, outline(page).chamfered, outline(page).mirror) == ("0.2", True, "x")
    # A value as it is changes nothing.
    number = page.controller.session.number
    editor.whole["corner"].editingFinished.emit()
    assert page.controller.session.number == number


def test_steps_and_parts_are_added_changed_and_removed(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    editor = editor_of(page)
    press(qtbot, editor, "Add a step")
    settle(qtbot, window)
    assert len(outline(page).steps) == 5
    type_into(qtbot, editor.steps, editor.steps.records.index(4, 1), "0.5")
    settle(qtbot, window)
    assert outline(page).steps[4].length == "0.5"
    editor.steps.select_where(lambda row: row.index == 4)
    press(qtbot, editor, "Remove steps")
    settle(qtbot, window)
    assert outline(page).steps == TEE.steps
    editor.tables.setCurrentIndex(1)
    press(qtbot, editor, "Add a part")
    settle(qtbot, window)
    editor.parts.select_where(lambda row: row.index == 0)
    press(qtbot, editor, "Remove parts")
    settle(qtbot, window)
    assert outline(page).parts == ()


def test_an_outline_is_saved_to_the_library_and_used_again(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    editor = editor_of(page)
    press(qtbot, editor, "Save to library")
    settle(qtbot, window)
    press(qtbot, editor, "Remove")
    settle(qtbot, window)
    assert "tee" not in page.controller.bundle.sheet.outlines
    editor.kept.setCurrentText("tee")
    editor.kept.activated.emit(editor.kept.currentIndex())
    settle(qtbot, window)
    assert outline(page) == TEE
    assert editor.names.currentText() == "tee"
    # The first entry of the list only says what it is for.
    editor.kept.activated.emit(0)
    settle(qtbot, window)
    assert outline(page) == TEE


def test_pads_are_added_changed_and_removed(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    assert isinstance(page.current, PackageStep)
    panel = page.current.pads
    press(qtbot, panel, "Add a pad")
    settle(qtbot, window)
    assert [pad.number for pad in page.controller.bundle.sheet.pads] == ["1", "2", "3"]
    plated = next(i for i, c in enumerate(panel.table.records.columns) if c.title.lower() == "plated")
    panel.table.records.setData(panel.table.records.index(2, plated), "no")
    settle(qtbot, window)
    assert not page.controller.bundle.sheet.pads[2].plated
    panel.table.select_where(lambda row: row.index == 2)
    press(qtbot, panel, "Remove pads")
    settle(qtbot, window)
    assert [pad.number for pad in page.controller.bundle.sheet.pads] == ["1", "2"]
    panel.letter.setText("w = 2.4")
    panel._add_letter()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["w"].text == "2.4"
    # Neither a name without a value nor one that no sum could use is taken.
    for text in ("w", "2w = 1"):
        panel.letter.setText(text)
        panel._add_letter()
    settle(qtbot, window)
    assert set(page.controller.bundle.sheet.dims) >= {"w"}
    assert "2w" not in page.controller.bundle.sheet.dims


def test_rows_of_a_custom_graphic_are_added_and_removed(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    page.controller.edit("custom", lambda b: symbol_edits.set_graphic(b, "custom"))
    settle(qtbot, window)
    open_step(page, 1)
    panel = page.current.pane.custom
    strokes = page.controller.bundle.symbol.custom.strokes  # type: ignore[union-attr]
    press(qtbot, panel, "Add a row")
    settle(qtbot, window)
    assert len(page.controller.bundle.symbol.custom.strokes) == len(strokes) + 1  # type: ignore[union-attr]
    panel.table.select_where(lambda row: row.index == len(strokes) + 1)
    press(qtbot, panel, "Remove")
    settle(qtbot, window)
    assert page.controller.bundle.symbol.custom.strokes == strokes  # type: ignore[union-attr]
    panel.lengths.setText("w = 2; h = 1")
    panel.lengths.editingFinished.emit()
    settle(qtbot, window)
    assert dict(page.controller.bundle.symbol.custom.lengths) == {"w": "2", "h": "1"}  # type: ignore[union-attr]


def test_pins_are_copied_from_a_part_of_another_library(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = open_capacitor(qtbot, window, "1608")
    page.controller.edit("pins", lambda b: replace(b, symbol=replace(b.symbol, graphic="", pins=(Pin("7", "X"),))))
    settle(qtbot, window)
    open_step(page, 1)
    choose(page.current, "From a part", "Copy its pins…")
    dialog = page.current.dialog
    settle(qtbot, window)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_a: "/nowhere")
    press(qtbot, dialog, "Another library…")
    qtbot.waitUntil(lambda: "/nowhere" in dialog._where.text())
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_a: str(window.library.folder))
    press(qtbot, dialog, "Another library…")
    qtbot.waitUntil(lambda: str(window.library.folder) in dialog._where.text())
    settle(qtbot, window)
    dialog.search.setText("2012")
    qtbot.waitUntil(lambda: dialog.list.count() == 1)
    press(qtbot, dialog, "Use this part")
    settle(qtbot, window)
    # They are shown first, to be taken over by the columns that the user says.
    assert page.current.panel.isVisible()
    assert [p.number for p in page.controller.bundle.symbol.pins] == ["7"]


def test_a_release_that_is_refused_leaves_the_draft(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    page.controller.edit("fact", lambda b: fact_edits.set_fact(b, "Tolerance", "5 %"))
    settle(qtbot, window)
    open_step(page, 7)
    review = page.current
    (window.library.folder / ".git" / "HEAD").unlink()
    review.note.setPlainText("wider")
    qtbot.waitUntil(review.release_button.isEnabled)
    press(qtbot, review, review.release_button.text())
    settle(qtbot, window)
    assert page.controller.bundle.part.facts["Tolerance"].value == "5 %"
    assert "released as" not in window.status.message.text()
    assert review.release_button.isEnabled()
