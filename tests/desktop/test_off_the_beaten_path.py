"""What users do beside the usual: clicks where nothing lies, choices that change nothing, ways the other way round."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, beside, open_converter, open_step, settle, window_of
from eider.commands.parts import new_parts
from eider.demo.parts import captures
from eider.desktop.datasheet.page_area import PageArea
from eider.desktop.datasheet.page_stack import PageMark
from eider.desktop.part.part_dialog import PartDialog
from eider.desktop.part.part_page import PartPage
from eider.model.address import FactAddress, PadAddress, PinAddress

SOURCE, PINS, PACKAGE, LANDS, BODY, MATCH, FACTS, REVIEW = range(8)


@pytest.fixture
def page(make_window: MakeWindow, folder: Path, qtbot: QtBot) -> PartPage:
    """The converter with its datasheet, as a working copy."""
    return open_converter(qtbot, make_window, folder)


def number(page: PartPage) -> int:
    return page.controller.session.number


def test_lands_by_address_and_by_group(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, LANDS)
    settle(qtbot, window_of(page))
    assert step.target(None) is None
    step.show_address(PadAddress("3"))
    assert step.pads.record().number == "3"
    # A shape is a word, which has no unit.
    step._pad_setter("shape")(step.pads.record(), "oval")
    settle(qtbot, window_of(page))
    assert page.controller.bundle.footprint.pattern.pads[2].shape == "oval"
    step.adjusted._change("Change it", step.adjusted.table.records.records[0], value="rectangle")
    settle(qtbot, window_of(page))
    assert page.controller.bundle.footprint.pattern.pads[2].shape == "rectangle"


def test_an_input_of_the_derivation_leads_to_its_cell_or_to_the_rulebook(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, LANDS)
    settle(qtbot, window_of(page))
    inputs, panel = step.derivation.inputs, step.derivation
    inputs.setCurrentIndex(inputs.records.index(-1, -1))
    panel._go_to_input()
    with qtbot.waitSignal(page.context.rulebook_asked):
        inputs.select_where(lambda row: row.letter.startswith("rulebook"))
        panel._go_to_input()
    open_step(page, LANDS)
    with qtbot.waitSignal(page.context.step_asked):
        inputs.select_where(lambda row: row.address is not None)
        panel._go_to_input()


def test_the_suggested_lands_have_a_next_field_until_the_last(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, LANDS)
    step._tabs.setCurrentWidget(step.suggested)
    settle(qtbot, window_of(page))
    table = step.suggested.table
    last = table.records.rowCount() - 1
    table.setCurrentIndex(table.records.index(last, 1))
    step.next_field()
    assert table.currentIndex().row() == last
    table.setCurrentIndex(table.records.index(0, 1))
    step.next_field()
    assert table.currentIndex().row() == min(1, last)
    step.suggested._choose("computed")
    settle(qtbot, window_of(page))
    assert page.controller.bundle.footprint.source != "suggested"


def test_a_distance_is_kept_only_where_one_was_measured(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, LANDS)
    before = number(page)
    step.measured._show_value()
    step.measured._keep()
    settle(qtbot, window_of(page))
    assert number(page) == before


def test_pins_and_pads_are_found_from_either_side_in_match(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, MATCH)
    settle(qtbot, window_of(page))
    step._point(PadAddress("4"))
    assert step._lit_pins == {"4"}
    step._point(PinAddress("5"))
    assert step._lit_pins == {"5"}
    step._point(FactAddress("Supply voltage"))
    assert step._lit_pins == {"5"}
    step.show_address(PadAddress("6"))
    assert step.pads.record().number == "6"
    step.show_address(FactAddress("Supply voltage"))
    assert step.pads.record().number == "6"


def test_choices_that_change_nothing_make_no_step_of_undo(page: PartPage, qtbot: QtBot) -> None:
    pins = open_step(page, PINS)
    settle(qtbot, window_of(page))
    before = number(page)
    pins.pane._split.setCurrentIndex(0)
    pins.pane._split_units()
    pins.pane.mover._show_moved()
    pins.pane.mover._dropped(PinAddress("1"), 0.0, 0.0)
    pins.pane.custom._set_lengths()
    review = open_step(page, REVIEW)
    settle(qtbot, window_of(page))
    review.found._withdraw()
    review.values._restore()
    assert "changed by hand" in window_of(page).status.message.text()
    assert number(page) == before


def test_a_review_without_lands_says_when_the_proof_comes(page: PartPage, qtbot: QtBot) -> None:
    review = open_step(page, REVIEW)
    page.controller.edit(
        "Begin again", lambda _b: new_parts.new_part("NVK-NEW", "ic", page.controller.library.settings)
    )
    settle(qtbot, window_of(page))
    assert review.is_mine(None)
    assert "as soon as there are lands" in review.proof.area.hint


def test_a_value_leads_to_its_place_in_source(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, SOURCE)
    settle(qtbot, window_of(page))
    qtbot.waitUntil(lambda: step.view.source.document is not None)
    rows = step.values.records.records
    step._show_source(next(row for row in rows if row.snippet and row.snippet.box))
    qtbot.waitUntil(lambda: step.view.page > 1)
    at = step.view.page
    # A value of another document, and one without a place, lead nowhere.
    step._select("f" * 64)
    step._on_this_page()
    settle(qtbot, window_of(page))
    assert step.view.page == at


def test_another_library_is_chosen_or_not(
    page: PartPage, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    dialog = PartDialog("Which?", page.controller, page.context, lambda _bundle: None, page)
    qtbot.addWidget(dialog)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: "")
    dialog._choose_library()
    assert dialog.library is page.controller.library
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path / "none"))
    dialog._choose_library()
    settle(qtbot, window_of(page))
    assert "not an Eider library" in dialog._where.text()


def test_a_table_that_is_being_read_gives_way_to_a_newer_one(page: PartPage, qtbot: QtBot) -> None:
    open_step(page, PINS)
    panel = page.capture_panel
    pins = next(table for table in captures("NVK-1216T") if table.kind == "pins")
    panel._show(pins)
    settle(qtbot, window_of(page))
    panel._in_hand(panel.pins.records.records[0])
    # Proposals that come for a table that is no longer shown are dropped.
    panel._propose()
    panel.capture = None
    settle(qtbot, window_of(page))
    panel.cells._assign()
    panel.outline._show()
    assert panel.take_over() is None


@pytest.fixture
def area(page: PartPage, qtbot: QtBot) -> PageArea:
    """The datasheet beside Facts, its third page in view with its words."""
    return beside(page, qtbot, FACTS, 3)


def test_marks_tell_what_was_taken_and_lie_on_their_page_alone(page: PartPage, area: PageArea, qtbot: QtBot) -> None:
    area.set_marks("captured", [PageMark(3, (100, 600, 160, 620), "in hand", "E"), PageMark(4, (0, 0, 9, 9), "hit")])
    rect = area.on_screen(3, (100, 600, 160, 620))
    assert rect is not None
    qtbot.mouseMove(area.viewport(), rect.center().toPoint())
    area.grab()
    area.bring_into_view(3, (560, 20, 590, 40))
    area.zoom(4.0)
    area.bring_into_view(3, (560, 20, 590, 40))
    seen = area.on_screen(3, (560, 20, 590, 40))
    assert seen is not None
    assert 0 <= seen.center().x() <= area.viewport().width()


def test_clicks_beside_the_pages_take_nothing(page: PartPage, area: PageArea, qtbot: QtBot) -> None:
    before = number(page)
    corner = area.viewport().rect().bottomRight()
    qtbot.mouseClick(area.viewport(), Qt.MouseButton.RightButton, pos=corner)
    qtbot.mouseRelease(area.viewport(), Qt.MouseButton.LeftButton, pos=corner)
    area.zoom(0.1)
    outside = QPointF(1, area.viewport().height() - 1).toPoint()
    qtbot.mouseClick(area.viewport(), Qt.MouseButton.LeftButton, pos=outside)
    qtbot.mousePress(area.viewport(), Qt.MouseButton.LeftButton, pos=outside)
    qtbot.mouseMove(area.viewport(), corner)
    qtbot.mouseRelease(area.viewport(), Qt.MouseButton.LeftButton, pos=corner)
    settle(qtbot, window_of(page))
    assert number(page) == before
    area.scroll_to(99)
    assert area.page <= 4


def test_a_second_search_and_an_empty_one(page: PartPage, area: PageArea, qtbot: QtBot) -> None:
    search = page.datasheet.search
    for words in ("pitch", "lead", ""):
        search.field.setText(words)
        search.search()
    qtbot.waitUntil(lambda: window_of(page).jobs.is_idle)
    assert search.results.count() == 0
    page.datasheet.open(page.controller.document(page.datasheet.key), 2)
    assert page.datasheet.page == 2


def test_a_rectangle_becomes_the_evidence_of_the_value_in_hand(page: PartPage, area: PageArea, qtbot: QtBot) -> None:
    target = page.capturing.target()
    assert target is not None
    page.capturing._stands_here(3, (100, 600, 160, 620))
    settle(qtbot, window_of(page))
    assert page.controller.session.undo_label == f"{target.name} is on page 3"


def test_a_body_is_pictured_once_it_is_looked_at(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, BODY)
    settle(qtbot, window_of(page))
    open_step(page, FACTS)
    step.show_view(page.controller.views.view_of("body"))
    assert step.panel.about.text()
