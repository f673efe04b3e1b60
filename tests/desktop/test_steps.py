"""Every control of the steps does what it says."""

import json
import math
import threading
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QGuiApplication
from pytestqt.qtbot import QtBot
from reportlab.pdfgen.canvas import Canvas

from desktop_helpers import MakeWindow, begin_part, cell, open_capacitor, open_step, press, settle, type_into
from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import EvaluatedPart, EvaluationRules, compute_part
from eider.commands.pins import pin_edits
from eider.datasheets import Datasheet
from eider.demo.data import printed_pins
from eider.demo.scan import scan_text
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.drawings.primitives import Area
from eider.errors import InputError
from eider.library import open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.model.address import DimensionAddress, PadAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.symbol import Pin
from eider.services.datasheets.datasheet_opening import attach_datasheet


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open."""
    return open_capacitor(qtbot, window, "1608")


@pytest.fixture
def chip_page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """A new integrated circuit with four pins."""
    page = begin_part(qtbot, window, "NVK-4")
    open_step(page, 1)
    page.current.paste("1\tVDD\n2\tnCS\n3\tFOO\n4\tGND\n")
    settle(qtbot, window)
    return page


def edit(page: PartPage, window: MainWindow, qtbot: QtBot, change) -> None:  # type: ignore[no-untyped-def]
    page.controller.edit("change", change)
    settle(qtbot, window)


def test_pins_are_added_removed_confirmed_and_typed(window: MainWindow, chip_page: PartPage, qtbot: QtBot) -> None:
    step, symbol = chip_page.current, lambda: chip_page.controller.bundle.symbol
    assert [(p.name, p.type, p.assumed) for p in symbol().pins][1:3] == [
        ("CS", "input", True),
        ("FOO", "undecided", False),
    ]
    press(qtbot, step, "Confirm types")
    settle(qtbot, window)
    assert not any(p.assumed for p in symbol().pins)
    press(qtbot, step, "Add a pin")
    settle(qtbot, window)
    assert symbol().pins[-1].number == "5"
    type_into(qtbot, step.table, step.table.records.index(4, 1), "SCLK")
    settle(qtbot, window)
    assert (symbol().pins[4].name, symbol().pins[4].type, symbol().pins[4].assumed) == ("SCLK", "input", True)
    step.table.clearSelection()
    step.table.setCurrentIndex(step.table.records.index(2, 0))
    press(qtbot, step, "Remove")
    settle(qtbot, window)
    assert [p.number for p in symbol().pins] == ["1", "2", "4", "5"]


def test_types_are_chosen_from_the_list_and_nonsense_is_refused(
    window: MainWindow, chip_page: PartPage, qtbot: QtBot
) -> None:
    table = chip_page.current.table
    table.records.setData(table.records.index(2, 2), "passive")
    settle(qtbot, window)
    assert chip_page.controller.bundle.symbol.pins[2].type == "passive"
    table.records.setData(table.records.index(2, 2), "sideways")
    assert "not an electrical type" in window.status.message.text()


def test_the_arrangement_is_switched(window: MainWindow, chip_page: PartPage, qtbot: QtBot) -> None:
    press(qtbot, chip_page.current, "By number")
    settle(qtbot, window)
    sides = {p.number: p.side for p in chip_page.controller.bundle.symbol.units[0].pins}
    assert sides == {"1": "left", "2": "left", "3": "right", "4": "right"}
    press(qtbot, chip_page.current, "By function")
    settle(qtbot, window)
    assert {p.name: p.side for p in chip_page.controller.bundle.symbol.units[0].pins}["VDD"] == "top"


def test_a_clipboard_without_a_table_is_told(window: MainWindow, chip_page: PartPage, qtbot: QtBot) -> None:
    QGuiApplication.clipboard().setText("dear colleague,\nhow are you?")
    chip_page.current.table.paste()
    assert "no pin table" in window.status.message.text()
    assert len(chip_page.controller.bundle.symbol.pins) == 4


def test_another_family_is_chosen_by_a_click(window: MainWindow, chip_page: PartPage, qtbot: QtBot) -> None:
    open_step(chip_page, 2)
    families = chip_page.current.families
    row = next(i for i in range(families.count()) if "Quad gull-wing" in families.item(i).text())
    families.scrollToItem(families.item(row))
    point = families.visualItemRect(families.item(row)).center()
    qtbot.mouseClick(families.viewport(), Qt.MouseButton.LeftButton, pos=point)
    settle(qtbot, window)
    assert chip_page.controller.bundle.sheet.family == "gullwing-quad"
    assert chip_page.current.table.records.index(0, 0).data() == "D"


def test_pins_of_the_package_and_its_unit(window: MainWindow, chip_page: PartPage, qtbot: QtBot) -> None:
    open_step(chip_page, 2)
    step = chip_page.current
    step.pins.setText("many")
    step.pins.editingFinished.emit()
    assert "not a number of pins" in window.status.message.text()
    assert step.pins.text() == "16"
    step.pins.setText("8")
    step.pins.editingFinished.emit()
    step.head._unit.setCurrentText("mil")
    step.head._unit.activated.emit(step.head._unit.currentIndex())
    type_into(qtbot, step.table, cell(step.table, "e", 3), "50")
    settle(qtbot, window)
    sheet = chip_page.controller.bundle.sheet
    assert (sheet.pins, sheet.limits("e").nom) == (8, pytest.approx(1.27))  # type: ignore[union-attr]


def test_dimensions_are_cleared_and_aliased(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 2)
    step = page.current
    type_into(qtbot, step.table, cell(step.table, "E", 2), "W")
    settle(qtbot, window)
    assert page.controller.bundle.sheet.aliases["W"] == "E"
    step.table.setCurrentIndex(cell(step.table, "A", 3))
    press(qtbot, step, "Clear selection")
    settle(qtbot, window)
    assert "A" not in page.controller.bundle.sheet.dims
    assert any(f.address == DimensionAddress("A") and f.severity == "blocker" for f in page.controller.findings)


def test_evidence_is_set_from_source(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: package_edits.set_dimension(b, "E", "0.8±0.05"))
    open_step(page, 0)
    step = page.current
    qtbot.waitUntil(lambda: step.view.page == 1)
    step.view.turn_to(2)
    qtbot.waitUntil(lambda: step.view.page == 2)
    step.values.select_where(lambda r: r.address == DimensionAddress("E"))
    press(qtbot, step, "Cite this page for the selection")
    settle(qtbot, window)
    evidence = page.controller.bundle.sheet.dims["E"].evidence
    assert evidence is not None
    assert (evidence.kind, evidence.page, evidence.by) == ("datasheet", 2, "Skerry librarian")
    press(qtbot, step, "Set")
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["E"].evidence.kind == "assumed"  # type: ignore[union-attr]


def test_adjustments_are_switched_off_changed_and_removed(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: footprint_edits.adjust_pad(b, Adjustment("1", "width", "1.0")))
    open_step(page, 3)
    step = page.current
    step._tabs.setCurrentWidget(step.adjusted)
    width = lambda: page.controller.bundle.footprint.pattern.pads[0].width  # type: ignore[union-attr]  # noqa: E731
    computed = page.controller.bundle.footprint.pattern.pads[1].width  # type: ignore[union-attr]
    assert width() == 1.0
    records = step.adjusted.table.records
    records.setData(records.index(0, 0), "no")
    settle(qtbot, window)
    assert width() == computed
    records.setData(records.index(0, 0), "yes")
    settle(qtbot, window)
    records.setData(records.index(0, 3), "1.1")
    settle(qtbot, window)
    assert width() == 1.1
    records.setData(records.index(0, 4), "the assembler asks for it")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.adjustments[0].why == "the assembler asks for it"
    step.adjusted.table.setCurrentIndex(records.index(0, 1))
    press(qtbot, step, "Remove selected")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.adjustments == ()


def test_layers_are_switched_by_name(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    roles = lambda: {p.role for p in step.view.drawing.primitives if hasattr(p, "role")}  # noqa: E731
    assert "courtyard" in roles()
    step._layers["courtyard"].setChecked(False)
    step._layers["assembly"].setChecked(True)
    settle(qtbot, window)
    assert "courtyard" not in roles()
    assert "assembly" in roles()


def test_the_ruler_measures_between_two_clicks(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    pads = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    click = lambda x, y: qtbot.mouseClick(  # noqa: E731
        step.view, Qt.MouseButton.LeftButton, pos=step.view.to_view((x, y)).toPoint()
    )
    press(qtbot, step, "Ruler")
    assert step.measured.words.text().startswith("Click two points")
    click(pads[0].x, pads[0].y)
    click(pads[1].x, pads[1].y)
    measured = step.ruler.measured
    assert measured.dx == pytest.approx(pads[1].x - pads[0].x)
    gap = abs(pads[1].x - pads[0].x) - (pads[0].width + pads[1].width) / 2
    assert measured.gap == pytest.approx(gap, abs=1e-6)
    assert "edge to edge" in step.measured.words.text()
    click(pads[0].x, pads[0].y)
    assert step.measured.words.text().startswith("Click two points")
    press(qtbot, step, "Ruler")
    assert not step.measured.isVisible()
    click(pads[1].x, pads[1].y)
    assert step.pads.record().number == pads[1].number


def test_a_measured_distance_is_kept_and_checked_from_then_on(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    pads = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    press(qtbot, step, "Ruler")
    for pad in pads[:2]:
        point = step.view.to_view((pad.x, pad.y)).toPoint()
        qtbot.mouseClick(step.view, Qt.MouseButton.LeftButton, pos=point)
    step.measured.along.setCurrentText("x")
    centres = pads[1].x - pads[0].x
    assert float(step.measured.shall.text().split()[0]) == pytest.approx(centres)
    step.measured.shall.setText(f"{centres + 0.5:g} ±0.1")
    qtbot.keyClick(step.measured.shall, Qt.Key.Key_Return)
    settle(qtbot, window)
    assert [f.severity for f in page.controller.findings if f.check == "lands.kept-distance"] == ["blocker"]
    row = step.distances.table.records.records[0]
    assert (row.kept.first, row.kept.second, row.measured) == ("pad 1 centre", "pad 2 centre", pytest.approx(centres))
    type_into(qtbot, step.distances.table, step.distances.table.records.index(0, 3), f"{centres:g}")
    settle(qtbot, window)
    assert not [f for f in page.controller.findings if f.check == "lands.kept-distance"]
    step.distances.table.selectRow(0)
    press(qtbot, step.distances, "Remove selected")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.distances == ()
    page.controller.undo()
    assert len(page.controller.bundle.footprint.distances) == 1


def test_the_ruler_measures_the_package_too(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 2)
    step = page.current
    press(qtbot, step, "Ruler")
    body = max((p.outline for p in step.top.drawing.primitives if isinstance(p, Area)), key=len)
    for corner in (min(body), max(body)):
        qtbot.mouseClick(step.top, Qt.MouseButton.LeftButton, pos=step.top.to_view(corner).toPoint())
    assert step.ruler.rulers[0].measured.dx == pytest.approx(max(body)[0] - min(body)[0])
    assert "dx" in step.ruler.words.text()


def test_a_fault_of_a_state_that_is_gone_does_not_hold_up_the_present_one(
    window: MainWindow, page: PartPage, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    controller, began, go_on = page.controller, threading.Event(), threading.Event()

    def fail_once(bundle: Bundle, rules: EvaluationRules, before: EvaluatedPart) -> EvaluatedPart:
        if began.is_set():
            return compute_part(bundle, rules, before)
        began.set()
        go_on.wait(5)
        raise InputError("a fault of the first state")

    monkeypatch.setattr("eider.services.parts.part_computing.compute_part", fail_once)
    controller.edit("Level A", lambda b: footprint_edits.set_level(b, "A"))
    assert began.wait(5)
    controller.edit("Level C", lambda b: footprint_edits.set_level(b, "C"))
    go_on.set()
    settle(qtbot, window)
    pattern = controller.bundle.footprint.pattern
    assert pattern is not None
    assert pattern.level == "C"


def test_of_a_large_part_the_lands_are_shown_first_and_then_what_was_found(
    window: MainWindow, page: PartPage, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.services.parts.part_computing.MANY_PADS", 1)
    controller, shown = page.controller, []
    open_step(page, 3)
    settle(qtbot, window)
    sound = controller.findings

    def note() -> None:
        shown.append((controller.bundle.sheet.dims["e"].text, controller.state.evaluated.is_checked))

    controller.changed.connect(note)
    controller.edit("Pitch", lambda b: package_edits.set_dimension(b, "e", "0.5"))
    settle(qtbot, window)
    assert shown == [("0.5", False), ("0.5", True)]
    assert {f.check for f in controller.findings} - {f.check for f in sound}


def test_the_body_turns_and_changes_its_material(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 4)
    step = page.current
    qtbot.waitUntil(lambda: step.view.has_picture, timeout=15_000)
    before = step.view._image.copy()
    press(qtbot, step, "Top")
    settle(qtbot, window)
    assert step.view._image != before
    qtbot.mousePress(step.view, Qt.MouseButton.LeftButton, pos=step.view.rect().center())
    qtbot.mouseMove(step.view, step.view.rect().center() * 1.2)
    qtbot.keyClick(step.view, Qt.Key.Key_Left)
    settle(qtbot, window)
    step.materials.table.records.setData(step.materials.table.records.index(0, 1), "ferrite")
    settle(qtbot, window)
    assert page.controller.bundle.body.materials == {"body": "ferrite"}
    assert all(row.agrees for row in step.table.records.records)


def test_pads_are_matched_by_hand(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 5)
    step = page.current
    type_into(qtbot, step.pins, step.pins.records.index(0, 2), "2")
    type_into(qtbot, step.pins, step.pins.records.index(1, 2), "1")
    settle(qtbot, window)
    assert page.controller.bundle.part.match == {"1": ("2",), "2": ("1",)}
    type_into(qtbot, step.pins, step.pins.records.index(1, 2), "7")
    settle(qtbot, window)
    assert "pads without a pin: 1" in step._summary.text()
    step.lands.address_hovered.emit(PadAddress("2"))
    assert step._lit_pins == frozenset("1")


def test_facts_are_typed_added_renamed_and_taken_away(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 6)
    step, facts = page.current, lambda: page.controller.bundle.part.facts
    type_into(qtbot, step.table, cell(step.table, "Tolerance", 1), "5 %")
    settle(qtbot, window)
    assert facts()["Tolerance"].evidence is None
    step._new.setText("Mounting")
    press(qtbot, step, "Add this fact")
    settle(qtbot, window)
    type_into(qtbot, step.table, cell(step.table, "Mounting", 1), "surface")
    type_into(qtbot, step.table, cell(step.table, "Mounting", 0), "Mounting style")
    settle(qtbot, window)
    assert facts()["Mounting style"].value == "surface"
    step.table.setCurrentIndex(cell(step.table, "Mounting style", 1))
    qtbot.keyClick(step.table, Qt.Key.Key_Delete)
    settle(qtbot, window)
    assert "Mounting style" not in facts()
    step.name.setText(" ")
    step.name.editingFinished.emit()
    assert page.controller.bundle.part.name == "LYN-C1608-100N"


def test_a_caution_is_accepted_with_a_reason_and_taken_back(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: fact_edits.set_about(b, name="lyn c 1608"))
    open_step(page, 7)
    step = page.current
    caution = next(f for f in page.controller.findings if f.check == "facts.part-name")
    press(qtbot, step, "Accept")
    assert "Click the caution" in window.status.message.text()
    step.findings.chosen.emit(caution)
    press(qtbot, step, "Accept")
    assert "needs a reason" in window.status.message.text()
    step.found.reason.setText("the maker writes it so")
    press(qtbot, step, "Accept")
    settle(qtbot, window)
    assert caution.key not in {f.key for f in page.controller.findings}
    assert page.controller.bundle.part.waivers[0].by == "Skerry librarian"
    step.found.waivers.setCurrentRow(0)
    press(qtbot, step, "Withdraw the selected waiver")
    settle(qtbot, window)
    assert caution.key in {f.key for f in page.controller.findings}


def test_a_blocker_leads_to_its_place(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: package_edits.set_dimension(b, "L", ""))
    open_step(page, 7)
    assert "Resolve " in page.current._why_not.text()
    blocker = next(f for f in page.controller.findings if f.check == "sheet.missing-dimension")
    page.current.findings.chosen.emit(blocker)
    settle(qtbot, window)
    assert page._current == 2
    assert page.current.table.record().letter == "L"


def test_export_from_review_and_from_the_shelf(
    window: MainWindow, page: PartPage, qtbot: QtBot, tmp_path: Path
) -> None:
    open_step(page, 7)
    page.current.export(tmp_path / "one")
    qtbot.waitUntil(lambda: "10 files written" in window.status.message.text(), timeout=20_000)
    assert len(list((tmp_path / "one").iterdir())) == 10
    window.close_part()
    settle(qtbot, window)
    window.tasks.export_to(window.shelf.shown[0].id, tmp_path / "two")
    qtbot.waitUntil(lambda: str(tmp_path / "two") in window.status.message.text(), timeout=20_000)
    assert any(path.suffix == ".step" for path in (tmp_path / "two").iterdir())


def test_a_release_can_be_cancelled_and_nothing_is_written(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: fact_edits.set_fact(b, "Lifecycle", "new"))
    head = window.library.versions.head
    open_step(page, 7)
    page.current.note.setPlainText("too early")
    page.current.release()
    window.jobs.cancel()
    settle(qtbot, window)
    assert window.library.versions.head == head
    assert "cancelled" in window.status.message.text()
    assert page.current.release_button.isEnabled()
    assert not window.status._progress.isVisible()


def test_columns_are_chosen_and_kept(make_window: MakeWindow, qtbot: QtBot) -> None:
    window = make_window()
    titles = [column.title for column in window.shelf.table.records.columns]
    index = titles.index("Rated voltage")
    assert window.shelf.table.isColumnHidden(index)
    window.shelf.table._show_column(index, True)
    again = make_window()
    assert not again.shelf.table.isColumnHidden(index)
    again.shelf.table._show_column(index, False)


def test_filters_narrow_the_shelf(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: fact_edits.set_about(b, description="changed"))
    window.close_part()
    settle(qtbot, window)
    qtbot.waitUntil(lambda: any(r.state == "changed" for r in window.shelf.shown))
    group = window.shelf.filters.topLevelItem(1)
    child = next(group.child(i) for i in range(group.childCount()) if "changed" in group.child(i).text(0))  # type: ignore[union-attr]
    child.setCheckState(0, Qt.CheckState.Checked)  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: [r.name for r in window.shelf.shown] == ["LYN-C1608-100N"])


def test_a_damaged_working_copy_is_told_when_the_library_is_opened(make_window: MakeWindow, folder: Path) -> None:
    library = open_library(folder / "library")
    row = library.search("1608")[0]
    library.copies.save(WorkingCopy(bundle=library.load(row.id)))
    library.copies.path(row.id).write_text("{")
    library.close()
    window = make_window()
    assert "damaged working copy was moved aside" in window.status.message.text()
    assert [r.state for r in window.shelf.shown if r.id == row.id] == ["released"]


def test_a_library_of_a_newer_eider_is_shown_and_not_changed(
    make_window: MakeWindow, qtbot: QtBot, folder: Path
) -> None:
    path = folder / "library" / "eider-library.toml"
    path.write_text(path.read_text().replace("format = 2", "format = 9"))
    window = make_window()
    assert "newer Eider" in window.status.message.text()
    refused: list[str] = []
    window.tasks.begin(lambda: new_parts.new_part("NVK-9", "ic", window.library.settings), lambda: None, refused.append)
    settle(qtbot, window)
    assert "newer Eider" in refused[0]
    assert window.page is None
    window.open_part(window.shelf.shown[0].id)
    qtbot.waitUntil(lambda: window.page is not None)
    assert window.page
    window.page.controller.edit("x", lambda b: fact_edits.set_about(b, description="x"))
    assert window.page.controller.bundle.part.description != "x"
    open_step(window.page, 7)
    assert not window.page.current.release_button.isEnabled()


def test_a_fault_of_eider_itself_is_told_and_the_window_lives(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    import sys

    from eider.desktop.app.start import LibraryWindows

    monkeypatch.setattr("platformdirs.user_log_dir", lambda *_a, **_k: str(tmp_path))
    before = sys.excepthook
    windows = LibraryWindows()
    windows.window = window
    windows.report_faults()
    try:
        sys.excepthook(ValueError, ValueError("oh"), None)
    finally:
        sys.excepthook = before
    assert "failed unexpectedly (ValueError: oh)" in window.status.message.text()
    assert "ValueError: oh" in (tmp_path / "faults.log").read_text()


def test_work_that_breaks_is_told(window: MainWindow, qtbot: QtBot) -> None:
    def broken() -> None:
        raise RuntimeError("unforeseen")

    window.jobs.run("compute", broken)
    qtbot.waitUntil(lambda: "unforeseen" in window.status.message.text())
    assert "RuntimeError" in window.status.message.text()


def test_the_cursor_position_has_its_unit(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    settle(qtbot, window)
    view = page.current.view
    qtbot.mouseMove(view, QPointF(view.to_view((0.5, 0.25))).toPoint())
    qtbot.waitUntil(lambda: "mm" in window.status._cursor.text())
    window.set_unit("mil")
    qtbot.mouseMove(view, QPointF(view.to_view((1.0, 1.0))).toPoint())
    qtbot.waitUntil(lambda: "mil" in window.status._cursor.text())


def test_the_released_file_is_found_by_the_command_line_too(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: fact_edits.set_fact(b, "Lifecycle", "preferred"))
    open_step(page, 7)
    page.current.note.setPlainText("preferred from now on")
    page.current.release()
    qtbot.waitUntil(lambda: "revision 2" in window.status.message.text(), timeout=20_000)
    library = open_library(window.library.folder)
    assert library.find("LYN-C1608-100N").facts["Lifecycle"] == "preferred"
    assert library.history(library.find("LYN-C1608-100N").id)[1].note == "preferred from now on"


def test_pins_come_from_a_machine_readable_file(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    window.tasks.new_part()
    qtbot.keyClicks(window.tasks.dialog.name, "NVK-U100P")
    window.tasks.dialog.category.setCurrentIndex(window.tasks.dialog.category.findData("ic"))
    qtbot.mouseClick(window.tasks.dialog.make, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    (tmp_path / "NVK-U100P.bsd").write_text(scan_text())
    open_step(window.page, 1)
    step = window.page.current
    step.import_file(tmp_path / "NVK-U100P.bsd")
    qtbot.waitUntil(lambda: step.panel.isVisible() and len(step.panel.table.records.records) == 100)
    assert "100 pins" in step.panel._about.text()
    press(qtbot, step.panel, "Use these values")
    settle(qtbot, window)
    pins = window.page.controller.bundle.symbol.pins
    assert len(pins) == 100
    assert all(pin.evidence and pin.evidence.kind == "supplier" for pin in pins)
    assert not step.panel.isVisible()


def test_a_pasted_table_without_headings_asks_what_its_columns_are(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    open_step(page, 1)
    step = page.current
    step.paste("VDD\t1\tSupply\nGND\t2\tGround\nnCS\tx\tSelect\nOUT\t\tOutput")
    qtbot.waitUntil(step.panel.isVisible)
    assert any("no pin number" in line.fault for line in step.panel.table.records.records)
    before = page.controller.bundle.symbol.pins
    for place, what in enumerate(("name", "number", "Excluded")):
        step.panel.cells.cellWidget(0, place).setCurrentText(what)
    step.panel._reassign()
    assert [p.name for p in step.panel.reading.pins] == ["VDD", "GND", "CS"]
    assert page.controller.bundle.symbol.pins == before
    press(qtbot, step.panel, "Use these values")
    settle(qtbot, window)
    assert [p.number for p in page.controller.bundle.symbol.pins] == ["1", "2", "x"], page.controller.bundle.symbol


def test_pins_of_another_part_are_taken(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 1)
    step = page.current
    step._choose_part()
    qtbot.waitUntil(lambda: step.dialog.list.count() > 0)
    step.dialog.take()
    qtbot.waitUntil(step.panel.isVisible)
    assert "symbol of LYN-C" in step.panel._about.text()
    press(qtbot, step.panel, "Use these values")
    settle(qtbot, window)
    assert [p.number for p in page.controller.bundle.symbol.pins] == ["1", "2"]


def test_a_file_without_pins_says_so(window: MainWindow, page: PartPage, qtbot: QtBot, tmp_path: Path) -> None:
    open_step(page, 1)
    (tmp_path / "x.ibs").write_text("[Component] X\n")
    page.current.import_file(tmp_path / "x.ibs")
    qtbot.waitUntil(lambda: "not a buffer model with pins" in window.status.message.text())


def test_units_are_split_and_shown_one_by_one(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: replace(b, symbol=replace(b.symbol, graphic="")))
    edit(
        page,
        window,
        qtbot,
        lambda b: pin_edits.set_pin_table(b, [Pin(p.number, p.name, p.type) for p in printed_pins("nvk-4gt")]),
    )
    open_step(page, 1)
    step = page.current
    step.pane._split.setCurrentIndex(step.pane._split.findData("equal"))
    step.pane._split.activated.emit(step.pane._split.currentIndex())
    settle(qtbot, window)
    assert [step.units.tabText(i) for i in range(step.units.count())] == ["all", "A", "B", "C", "D", "E"]
    together = step.symbol.drawing
    step.units.setCurrentIndex(2)
    settle(qtbot, window)
    assert step.symbol.drawing != together
    step.table.setCurrentIndex(step.table.records.index(0, 5))
    step.table.selectAll()
    type_into(qtbot, step.table, step.table.records.index(0, 5), "gates")
    settle(qtbot, window)
    step.table.selectAll()
    step.table.selectionModel().setCurrentIndex(
        step.table.records.index(0, 5), step.table.selectionModel().SelectionFlag.NoUpdate
    )
    press(qtbot, step, "Fill down")
    settle(qtbot, window)
    assert {pin.group for pin in page.controller.bundle.symbol.pins} == {"gates"}
    step.pins._sort(1)
    settle(qtbot, window)
    assert [p.name for p in page.controller.bundle.symbol.pins][:3] == ["1A", "1B", "1Y"]


def test_the_makers_lands_are_typed_and_compared(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    panel = step.suggested
    step._tabs.setCurrentWidget(panel)
    qtbot.mouseClick(panel.suggested, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    assert [panel.table.records.index(i, 2).data() for i in range(3)] == ["Z", "G", "X"]
    for row, text in enumerate(("2.6", "0.8", "1.0")):
        type_into(qtbot, panel.table, panel.table.records.index(row, 3), text)
        settle(qtbot, window)
    pattern = page.controller.bundle.footprint.pattern
    assert pattern is not None
    assert (pattern.derivation[0].Z, pattern.pads[0].width) == (2.6, 0.9)
    assert panel.pads.records.rowCount() == 2
    panel.table.setCurrentIndex(panel.table.records.index(1, 3))
    target = step.target(None)
    assert target is not None
    assert str(target.address).endswith(".G")
    qtbot.mouseClick(panel.computed, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    assert panel._summary.text() == "2 of 2 pads would differ"


def test_pads_are_given_by_hand_with_an_outline(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: package_edits.set_family(b, "custom"))
    open_step(page, 2)
    step = page.current
    panel = step.pads
    step.right.setCurrentWidget(step.pads_tab)
    panel.letter.setText("s = 14")
    panel._add_letter()
    settle(qtbot, window)
    for _ in range(2):
        press(qtbot, panel, "Add a pad")
        settle(qtbot, window)
    type_into(qtbot, panel.table, panel.table.records.index(0, 1), "-s/2")
    settle(qtbot, window)
    type_into(qtbot, panel.table, panel.table.records.index(1, 1), "s/q")
    settle(qtbot, window)
    assert "row 2" in panel._fault.text()
    type_into(qtbot, panel.table, panel.table.records.index(1, 1), "s/2")
    settle(qtbot, window)
    editor = panel.outlines
    editor.new_name.setText("foot")
    press(qtbot, editor, "Add")
    settle(qtbot, window)
    assert editor.view.drawing is not None
    type_into(qtbot, editor.steps, editor.steps.records.index(0, 1), "3")
    settle(qtbot, window)
    # Three to the right and one back to the left leaves it open.
    assert editor.steps.records.records[0].fault.startswith("step 4: the outline is open")
    type_into(qtbot, editor.steps, editor.steps.records.index(2, 1), "3")
    settle(qtbot, window)
    assert editor.steps.records.records[0].fault == ""
    type_into(qtbot, panel.table, panel.table.records.index(0, 3), "foot")
    settle(qtbot, window)
    pattern = page.controller.bundle.footprint.pattern
    assert pattern is not None
    pads = {pad.number: pad for pad in pattern.pads}
    assert (pads["1"].x, pads["1"].width, pads["1"].shape, pads["2"].x) == (-7.0, 3.0, "outline", 7.0)
    press(qtbot, editor, "Save to library")
    settle(qtbot, window)
    assert editor.kept.itemText(1) == "foot"
    press(qtbot, editor, "Remove")
    settle(qtbot, window)
    assert "no outline" in panel._fault.text()
    editor.kept.setCurrentIndex(1)
    editor.kept.activated.emit(1)
    settle(qtbot, window)
    assert panel._fault.text() == ""


def test_parts_are_added_to_an_outline_and_cut_out(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    edit(page, window, qtbot, lambda b: package_edits.set_family(b, "custom"))
    open_step(page, 2)
    step = page.current
    step.right.setCurrentWidget(step.pads_tab)
    editor = step.pads.outlines
    editor.new_name.setText("bite")
    press(qtbot, editor, "Add")
    settle(qtbot, window)
    editor.tables.setCurrentIndex(1)
    press(qtbot, editor, "Add a part")
    settle(qtbot, window)
    editor.parts.records.setData(editor.parts.records.index(0, 0), "cut out")
    settle(qtbot, window)
    # A square of half a millimetre in the middle of one of a whole millimetre is a hole.
    assert "leaves a hole" in editor._said.text()
    type_into(qtbot, editor.parts, editor.parts.records.index(0, 2), "0.5")
    settle(qtbot, window)
    assert editor._said.text() == ""
    copper = next(p for p in editor.view.drawing.primitives if isinstance(p, Area) and p.role == "copper")
    assert len(copper.outline) == 8


def test_an_override_is_added_typed_and_removed(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    step._tabs.setCurrentWidget(step.adjusted)
    step.adjusted.surroundings._adder("text")()
    settle(qtbot, window)
    table = step.adjusted.surroundings.table
    type_into(qtbot, table, table.records.index(0, 3), "0,D")
    type_into(qtbot, table, table.records.index(0, 4), "25 V")
    settle(qtbot, window)
    (text,) = [t for t in page.controller.bundle.footprint.pattern.texts if t.layer == "silkscreen"]  # type: ignore[union-attr]
    assert (text.text, text.y) == ("25 V", page.controller.bundle.sheet.limits("D").middle)  # type: ignore[union-attr]
    type_into(qtbot, table, table.records.index(0, 3), "0;1")
    settle(qtbot, window)
    assert any("silkscreen, row 1" in f.message for f in page.controller.findings)
    table.selectRow(0)
    press(qtbot, step.adjusted.surroundings, "Remove changes")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.overrides == ()


def test_pads_are_sorted_by_a_click_and_adjusted_together(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    header = step.pads.horizontalHeader()
    header.sectionClicked.emit(1)
    assert [pad.number for pad in step.pads.records.records] == ["1", "2"]
    header.sectionClicked.emit(1)
    assert [pad.number for pad in step.pads.records.records] == ["2", "1"]
    edit(page, window, qtbot, lambda b: footprint_edits.adjust_pad(b, Adjustment("1", "width", "0.9")))
    step._tabs.setCurrentWidget(step.adjusted)
    type_into(qtbot, step.adjusted.table, step.adjusted.table.records.index(0, 1), "1, 2")
    settle(qtbot, window)
    assert [pad.width for pad in page.controller.bundle.footprint.pattern.pads] == [0.9, 0.9]  # type: ignore[union-attr]


def test_levels_turn_and_inputs_in_lands(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    step = page.current
    step.choices.also["A"].click()
    settle(qtbot, window)
    assert [p.level for p in page.controller.bundle.footprint.patterns] == ["B", "A"]
    assert not step.choices.also["B"].isEnabled()
    step.choices.turn.setCurrentIndex(1)
    step.choices._place()
    settle(qtbot, window)
    pads = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    # The lands of a chip lie above each other when it is turned.
    assert pads[0].x == pytest.approx(pads[1].x)
    assert pads[0].y < pads[1].y
    step.derivation.inputs.selectRow(0)
    step.derivation.inputs.setCurrentIndex(step.derivation.inputs.records.index(0, 0))
    step.derivation._go_to_input()
    settle(qtbot, window)
    assert page.current is not step
    assert page.current.table.record().letter == "D"


def test_what_a_family_asks_besides_lengths_is_typed_beside_its_sheet(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    edit(page, window, qtbot, lambda b: package_edits.set_family(b, "ball-grid"))
    open_step(page, 2)
    fields = page.current.fields
    assert list(fields.editors)[:4] == ["rows", "columns", "staggered", "missing"]
    for key, text in (("rows", "3"), ("columns", "4"), ("missing", "A1, B2")):
        editor = fields.editors[key]
        editor.setText(text)
        editor.editingFinished.emit()
        settle(qtbot, window)
    sheet = page.controller.bundle.sheet
    assert (sheet.rows, sheet.columns, sheet.missing) == (3, 4, ("A1", "B2"))
    fields.editors["rows"].setText("many")
    fields.editors["rows"].editingFinished.emit()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.rows == 3
    edit(page, window, qtbot, lambda b: package_edits.set_family(b, "chip"))
    assert not fields.isVisible()
    # What a chip does not ask for is gone.
    assert page.controller.bundle.sheet.rows is None


def test_the_yield_tab_simulates_the_lands_as_they_are(page: PartPage, qtbot: QtBot, window: MainWindow) -> None:
    step = open_step(page, 3)
    panel = step.joint_yield
    assert panel.summary.text() == "" and not panel.table.records.records
    step._tabs.setCurrentWidget(panel)
    qtbot.waitUntil(lambda: bool(panel.table.records.records), timeout=10_000)
    first = panel.table.records.records[0]
    assert not first.beside and panel.table.isColumnHidden(5)
    assert f"{first.pad.below['B']:,.0f} of a million" in panel.summary.text()
    # A land that is much shorter costs it and its opposite their toe; the computed ones are beside.
    page.controller.edit("x", lambda b: footprint_edits.adjust_pad(b, Adjustment("1", "width", "0.4")))
    qtbot.waitUntil(lambda: "Computed" in panel.table.records.records[0].beside, timeout=10_000)
    worst = panel.table.records.records[:2]
    assert {row.pad.number for row in worst} == {"1", "2"}
    assert worst[0].pad.toe.below["B"] > 2 * worst[0].beside["Computed"].toe.below["B"]
    assert not panel.table.isColumnHidden(5)
    panel.table.select_rows([1])
    assert panel.view.drawing is not None


def test_the_joints_of_a_pattern_from_a_file_stand_beside(
    page: PartPage, qtbot: QtBot, window: MainWindow, tmp_path: Path
) -> None:
    step = open_step(page, 3)
    panel = step.joint_yield
    step._tabs.setCurrentWidget(panel)
    qtbot.waitUntil(lambda: bool(panel.table.records.records), timeout=10_000)
    pattern = page.controller.bundle.footprint.pattern
    # The same lands, all of them 0.3 mm shorter at their toes.
    shorter = [
        {"number": p.number, "x": p.x - math.copysign(0.15, p.x), "y": p.y, "width": p.width - 0.3, "height": p.height}
        for p in pattern.pads
    ]
    file = tmp_path / "from elsewhere.json"
    file.write_text(json.dumps({"pads": shorter}))
    panel.compare_with(file)
    qtbot.waitUntil(lambda: "From file" in panel.table.records.records[0].beside, timeout=10_000)
    for row in panel.table.records.records:
        assert row.beside["From file"].toe.below["B"] > row.pad.toe.below["B"]
    assert "from elsewhere.json" in panel.summary.text() and not panel.table.isColumnHidden(7)
    assert panel.table.isColumnHidden(5) and panel.table.isColumnHidden(6)
    panel.leave.click()
    qtbot.waitUntil(lambda: panel.table.isColumnHidden(7), timeout=10_000)
    file.write_text("{}")
    panel.compare_with(file)
    qtbot.waitUntil(lambda: "is not a pattern" in panel.summary.text(), timeout=10_000)


def test_pins_and_pads_without_a_partner_are_said_to_be_so(page: PartPage, qtbot: QtBot, window: MainWindow) -> None:
    open_step(page, 5)
    step = page.current
    edit(
        page, window, qtbot, lambda b: pin_edits.set_pin_table(b, [Pin("1", "a", "passive"), Pin("X", "x", "passive")])
    )
    step.pins.select_rows([1])
    press(qtbot, step, "Internal, no pad")
    settle(qtbot, window)
    step.pads.select_rows([1])
    press(qtbot, step, "Mechanical, no pin")
    settle(qtbot, window)
    part = page.controller.bundle.part
    assert (part.internal, part.mechanical) == (("X",), ("2",))
    assert step.pins.records.index(1, 2).data() == "internal" and step.pads.records.index(1, 1).data() == "mechanical"
    assert not [f for f in page.controller.state.findings if f.check.startswith("match.")]
    # Typed pads take it back.
    type_into(qtbot, step.pins, step.pins.records.index(1, 2), "2")
    settle(qtbot, window)
    assert page.controller.bundle.part.match == {"X": ("2",)} and page.controller.bundle.part.mechanical == ()


def test_pads_are_matched_by_a_table_and_by_proposals(page: PartPage, qtbot: QtBot, window: MainWindow) -> None:
    open_step(page, 5)
    step = page.current
    edit(
        page, window, qtbot, lambda b: pin_edits.set_pin_table(b, [Pin("A", "a", "passive"), Pin("B", "b", "passive")])
    )
    assert step.proposals.isVisible() and step.proposals.found.count() == 2
    assert "in their order" in step.proposals.found.item(0).text()
    QGuiApplication.clipboard().setText("Pin\tPads\nA\t2\nZ\t1")
    step.paste_table()
    settle(qtbot, window)
    assert page.controller.bundle.part.match == {"A": ("2",)}
    assert "no pin Z" in window.status.message.text()
    assert [p.pads for p in step.proposals._proposals] == [("1",)]
    press(qtbot, step, "Use all")
    settle(qtbot, window)
    assert page.controller.bundle.part.match == {"A": ("2",), "B": ("1",)}
    assert not step.proposals.isVisible()
    QGuiApplication.clipboard().setText("nothing")
    step.paste_table()
    assert "copy two columns" in window.status.message.text()


def test_the_pinout_shows_names_and_is_seen_from_below(page: PartPage, qtbot: QtBot, window: MainWindow) -> None:
    open_step(page, 5)
    step = page.current
    step.tabs.setCurrentIndex(1)
    settle(qtbot, window)
    above = step.pinout.drawing.drawing
    step.pinout.from_below.setChecked(True)
    assert step.pinout.drawing.drawing != above
    assert step.pins.records.index(0, 3).data() == "left row, alone"
    step.pinout.drawing.address_hovered.emit(PinAddress("2"))
    assert step._lit_pins == frozenset("2")


def test_a_rectangle_around_the_pinout_figure_holds_the_part_against_it(
    page: PartPage, qtbot: QtBot, window: MainWindow, tmp_path: Path
) -> None:
    path = tmp_path / "figure.pdf"
    canvas = Canvas(str(path))
    canvas.setFont("Helvetica", 8)
    # The figure has the pins the other way round than the pattern, and one text that belongs to no pin.
    for x, number, name in ((200, "2", "A"), (260, "1", "B")):
        canvas.drawString(x, 500, number)
        canvas.drawString(x, 490, name)
    canvas.drawString(200, 440, "Fig. 3")
    canvas.save()
    open_step(page, 5)
    step = page.current
    document, link = Datasheet(path), attach_datasheet(page.controller.library, path)
    assert step.read_rectangle(document, link.sha256, 1, (100.0, 400.0, 400.0, 600.0))
    settle(qtbot, window)
    figure = page.controller.bundle.part.pinout
    assert figure is not None
    assert [(pin.number, pin.name) for pin in figure.pins] == [("2", "A"), ("1", "B")]
    assert "belongs to no pin: “Fig. 3”" in window.status.message.text()
    assert "page 1: 2 pins" in step.pinout.said.text()
    step.pinout.seen.setCurrentIndex(1)
    step.pinout.seen.activated.emit(1)
    settle(qtbot, window)
    assert page.controller.bundle.part.pinout.seen == "below"
    page.controller.undo()
    page.controller.undo()
    settle(qtbot, window)
    assert page.controller.bundle.part.pinout is None
    assert "Draw a rectangle" in step.pinout.said.text()
    document.close()
