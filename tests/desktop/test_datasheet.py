"""The datasheet beside the work, with real clicks and drags."""

from collections.abc import Callable
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QMenu
from pytestqt.qtbot import QtBot

from desktop_helpers import (
    MakeWindow,
    beside,
    cell,
    open_capacitor,
    open_converter,
    open_step,
    press,
    settle,
    type_into,
    window_of,
)
from drawn_tables import draw, tables_of
from eider.commands.pins import pin_edits
from eider.datasheets.tables.value_reading import cleaned
from eider.demo.parts import LIBRARIAN, converter_part
from eider.desktop.app.window import MainWindow
from eider.desktop.datasheet.page_area import PageArea
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.source.step import SourceStep
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.symbol import Pin

DIMENSIONS_PAGE = 3


@pytest.fixture
def page(make_window: MakeWindow, folder: Path, qtbot: QtBot) -> PartPage:
    """The converter with its datasheet, but without dimensions and pins."""

    def without_values(made: Bundle) -> Bundle:
        bare = replace(made, sheet=replace(made.sheet, dims={}, aliases={}))
        return pin_edits.set_pin_table(bare, ())

    return open_converter(qtbot, make_window, folder, without_values)


def point(area: PageArea, page: int, text: str) -> QPoint:
    """Where a word stands on the screen."""
    read = area.source.text(page)
    assert read
    box = next(word.box for word in read.words if cleaned(word.text) == text)
    area.bring_into_view(page, box)
    rect = area.on_screen(page, box)
    assert rect
    return rect.center().toPoint()


def click(area: PageArea, qtbot: QtBot, page: int, text: str) -> None:
    qtbot.mouseClick(area.viewport(), Qt.MouseButton.LeftButton, pos=point(area, page, text))


def drag(area: PageArea, qtbot: QtBot, a: QPointF, b: QPointF) -> None:
    viewport = area.viewport()
    qtbot.mousePress(viewport, Qt.MouseButton.LeftButton, pos=a.toPoint())
    for share in (0.3, 0.7, 1.0):
        qtbot.mouseMove(viewport, (a + (b - a) * share).toPoint())
    qtbot.mouseRelease(viewport, Qt.MouseButton.LeftButton, pos=b.toPoint())


def drag_round(area: PageArea, qtbot: QtBot, page: int, box: tuple[float, float, float, float]) -> None:
    area.bring_into_view(page, box)
    rect = area.on_screen(page, box)
    assert rect
    drag(area, qtbot, rect.topLeft(), rect.bottomRight())


def dims(page: PartPage) -> dict[str, str]:
    return {key: d.text for key, d in page.controller.bundle.sheet.dims.items()}


def wait_for(qtbot: QtBot, true: Callable[[], bool]) -> None:
    qtbot.waitUntil(true, timeout=10_000)


@pytest.mark.parametrize("button", [Qt.MouseButton.MiddleButton, Qt.MouseButton.LeftButton])
def test_the_hand_pulls_the_page_and_takes_nothing(page: PartPage, qtbot: QtBot, button: Qt.MouseButton) -> None:
    area = beside(page, qtbot, 1, DIMENSIONS_PAGE)
    tall = area.bar(Qt.Orientation.Vertical)
    before, taken = tall.value(), dims(page)
    with_space = button == Qt.MouseButton.LeftButton
    if with_space:
        qtbot.keyPress(area, Qt.Key.Key_Space)
    qtbot.mousePress(area.viewport(), button, pos=QPoint(120, 160))
    qtbot.mouseMove(area.viewport(), QPoint(120, 110))
    qtbot.mouseRelease(area.viewport(), button, pos=QPoint(120, 110))
    assert tall.value() == before + 50
    qtbot.mouseMove(area.viewport(), QPoint(120, 60))
    assert tall.value() == before + 50
    if with_space:
        qtbot.keyRelease(area, Qt.Key.Key_Space)
        drag(area, qtbot, QPointF(120, 160), QPointF(120, 110))
        assert tall.value() == before + 50
    assert dims(page) == taken


def test_a_click_fills_the_cell_in_hand_and_takes_the_next(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    table = page.current.table
    table.setCurrentIndex(cell(table, "E", 3))
    click(area, qtbot, DIMENSIONS_PAGE, "6.60")
    wait_for(qtbot, lambda: dims(page).get("E") == "6.20–6.60")
    assert table.record().letter == "E1"
    click(area, qtbot, DIMENSIONS_PAGE, "4.30")
    wait_for(qtbot, lambda: dims(page).get("E1") == "4.30–4.50")
    settle(qtbot, window_of(page))
    sheet = page.controller.bundle.sheet
    assert sheet.aliases == {"H": "E", "E": "E1"}
    evidence = sheet.dims["E"].evidence
    assert evidence is not None
    assert (evidence.page, evidence.text, evidence.by) == (DIMENSIONS_PAGE, "6.20 6.60", LIBRARIAN.name)
    assert "row H of the table" in page.capturing.bar.text.text() or "row E" in page.capturing.bar.text.text()
    page.controller.undo()
    assert set(dims(page)) == {"E"}


def test_another_reading_is_one_click_away(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    page.current.table.setCurrentIndex(cell(page.current.table, "L", 3))
    click(area, qtbot, DIMENSIONS_PAGE, "0.45")
    wait_for(qtbot, lambda: dims(page).get("L") == "0.45–0.75")
    wait_for(qtbot, lambda: all(b.isVisible() for b in page.capturing.bar._others))
    press(qtbot, page.capturing.bar, "Use 0.45")
    wait_for(qtbot, lambda: dims(page).get("L") == "0.45")
    assert page.current.table.record().letter == "A"


def test_what_is_ambiguous_is_asked(page: PartPage, qtbot: QtBot, folder: Path, tmp_path: Path) -> None:
    from reportlab.pdfgen.canvas import Canvas

    canvas = Canvas(str(tmp_path / "drawing.pdf"), pagesize=(300, 300))
    canvas.drawString(100, 212, "6.60")
    canvas.drawString(100, 200, "6.20")
    canvas.showPage()
    canvas.save()
    open_step(page, 0)
    page.current.attach(tmp_path / "drawing.pdf")
    settle(qtbot, window_of(page))
    area = beside(page, qtbot, 2, 1)
    page.current.table.setCurrentIndex(cell(page.current.table, "E", 3))
    click(area, qtbot, 1, "6.20")
    menu: QMenu = page.capturing.menu
    wait_for(qtbot, lambda: menu.isVisible())
    assert dims(page) == {}
    titles = [action.text() for action in menu.actions() if action.text()]
    assert titles[-1] == "None of these"
    chosen = next(action for action in menu.actions() if "6.20–6.60" in action.text())
    chosen.trigger()
    menu.close()
    wait_for(qtbot, lambda: dims(page) == {"E": "6.20–6.60"})


def test_without_a_cell_in_hand_nothing_is_changed(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 3, DIMENSIONS_PAGE)
    click(area, qtbot, DIMENSIONS_PAGE, "6.60")
    wait_for(qtbot, lambda: "place the cursor in a cell" in page.capturing.bar.text.text())
    area.picked.emit(DIMENSIONS_PAGE, 5.0, 5.0)
    wait_for(qtbot, lambda: "Nothing could be read there" in page.capturing.bar.text.text())
    assert dims(page) == {}


def test_a_rectangle_round_a_table_is_understood_and_taken_over(page: PartPage, qtbot: QtBot, folder: Path) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    box = tables_of(folder, "NVK-1216T")[1]["places"][0]["box"]
    drag_round(area, qtbot, DIMENSIONS_PAGE, tuple(box))
    panel: CapturePanel = page.capture_panel
    wait_for(qtbot, lambda: panel.isVisible() and len(panel.dimensions.records.records) == 9 and bool(panel.letters))
    assert panel.letters["H"] == "E"
    panel.dimensions.select_where(lambda r: r.letter == "H")
    wait_for(qtbot, lambda: panel.outline.drawing is not None)
    press(qtbot, panel, "Use these values")
    settle(qtbot, window_of(page))
    assert not panel.isVisible()
    assert dims(page)["E"] == "6.20–6.60"
    assert all(d.evidence and d.evidence.box for d in page.controller.bundle.sheet.dims.values())
    assert len({d.evidence.box for d in page.controller.bundle.sheet.dims.values() if d.evidence}) == 9


def test_letters_are_put_right_before_they_are_taken(page: PartPage, qtbot: QtBot, folder: Path) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    drag_round(area, qtbot, DIMENSIONS_PAGE, tuple(tables_of(folder, "NVK-1216T")[1]["places"][0]["box"]))
    panel = page.capture_panel
    wait_for(qtbot, lambda: bool(panel.letters))
    records = panel.dimensions.records
    panel._set_letter(next(r for r in records.records if r.letter == "E"), "E")
    assert panel.letters["E"] == "E"
    assert "H" not in panel.letters
    panel._set_letter(next(r for r in records.records if r.letter == "c"), "Excluded")
    panel.take_over()
    settle(qtbot, window_of(page))
    assert dims(page)["E"] == "4.30–4.50"
    assert {"E1", "c"}.isdisjoint(dims(page))
    # The span as it was taken is smaller than the body would be: a finding says what would make a package.
    assert any(f.severity == "blocker" for f in page.controller.findings)


def test_columns_are_assigned_by_hand(page: PartPage, qtbot: QtBot, folder: Path) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    drag_round(area, qtbot, DIMENSIONS_PAGE, tuple(tables_of(folder, "NVK-1216T")[1]["places"][0]["box"]))
    panel = page.capture_panel
    wait_for(qtbot, lambda: bool(panel.letters))
    box = panel.cells.cellWidget(0, 1)
    assert box.currentText() == "min"
    box.setCurrentText("Excluded")
    box.activated.emit(box.currentIndex())
    wait_for(qtbot, lambda: panel.dimensions.records.records[0].text == "max 6.60")


def test_a_pin_table_is_taken_over_with_a_place_for_each_pin(page: PartPage, qtbot: QtBot, folder: Path) -> None:
    area = beside(page, qtbot, 1, 2)
    drag_round(area, qtbot, 2, tuple(tables_of(folder, "NVK-1216T")[0]["places"][0]["box"]))
    panel = page.capture_panel
    wait_for(qtbot, lambda: len(panel.pins.records.records) == 16)
    press(qtbot, panel, "Use these values")
    settle(qtbot, window_of(page))
    pins = page.controller.bundle.symbol.pins
    assert [pin.number for pin in pins] == [str(n) for n in range(1, 17)]
    assert all(pin.evidence and pin.evidence.page == 2 for pin in pins)


def test_a_click_names_a_pin(page: PartPage, qtbot: QtBot) -> None:
    page.controller.edit("pins", lambda b: pin_edits.set_pin_table(b, [Pin("1"), Pin("2")]))
    settle(qtbot, window_of(page))
    area = beside(page, qtbot, 1, 2)
    table = page.current.table
    table.setCurrentIndex(table.records.index(0, 1))
    click(area, qtbot, 2, "PWRDN#")
    wait_for(qtbot, lambda: page.controller.bundle.symbol.pins[0].name == "PWRDN")
    assert page.controller.bundle.symbol.pins[0].active_low
    assert table.currentIndex().row() == 1


def test_a_rectangle_over_nothing_says_so(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    drag_round(area, qtbot, DIMENSIONS_PAGE, (5.0, 700.0, 40.0, 760.0))
    wait_for(qtbot, lambda: "no text lies in the rectangle" in page.capture_panel._doubt.text())
    assert not page.capture_panel.take_button.isEnabled()
    press(qtbot, page.capture_panel, "Close")


def test_a_typed_value_gets_its_place_from_a_page_of_pictures(page: PartPage, qtbot: QtBot, tmp_path: Path) -> None:
    from reportlab.pdfgen.canvas import Canvas

    canvas = Canvas(str(tmp_path / "scan.pdf"), pagesize=(300, 300))
    canvas.rect(80, 80, 120, 90)
    canvas.showPage()
    canvas.save()
    open_step(page, 0)
    page.current.attach(tmp_path / "scan.pdf")
    settle(qtbot, window_of(page))
    area = beside(page, qtbot, 2, 1)
    table = page.current.table
    type_into(qtbot, table, cell(table, "E", 3), "6.2–6.6")
    table.setCurrentIndex(cell(table, "E", 3))
    qtbot.mouseClick(area.viewport(), Qt.MouseButton.LeftButton, pos=area.page_rect(1).center().toPoint())
    wait_for(qtbot, lambda: "This page has no text" in page.capturing.bar.text.text())
    drag_round(area, qtbot, 1, (70.0, 70.0, 210.0, 180.0))
    wait_for(qtbot, lambda: "type the values" in page.capture_panel._doubt.text())
    press(qtbot, page.capture_panel, "E is printed here")
    settle(qtbot, window_of(page))
    evidence = page.controller.bundle.sheet.dims["E"].evidence
    assert evidence is not None
    assert (evidence.kind, evidence.page) == ("datasheet", 1)
    assert evidence.box == pytest.approx((70, 70, 210, 180), abs=2)


def test_the_unit_is_said_where_the_sheet_does_not(page: PartPage, qtbot: QtBot, tmp_path: Path) -> None:
    box = draw(tmp_path / "bare.pdf", [["Symbol", "Min", "Max"], ["E", "228", "244"], ["D", "189", "197"]])
    open_step(page, 0)
    page.current.attach(tmp_path / "bare.pdf")
    settle(qtbot, window_of(page))
    area = beside(page, qtbot, 2, 1)
    drag_round(area, qtbot, 1, box)
    panel = page.capture_panel
    wait_for(qtbot, lambda: "no unit is named" in panel._doubt.text())
    panel._unit.setCurrentText("mil")
    panel._unit.activated.emit(panel._unit.currentIndex())
    wait_for(qtbot, lambda: panel._doubt.text() == "")
    assert panel.dimensions.records.records[0].text == "228–244 mil"


def test_a_drawing_is_kept_scaled_and_laid_over(page: PartPage, qtbot: QtBot, folder: Path) -> None:
    made = converter_part(page.controller.library, page.controller.bundle.part.datasheets[0])
    page.controller.edit("dims", lambda b: replace(b, sheet=replace(b.sheet, dims=made.sheet.dims)))
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    drag_round(area, qtbot, DIMENSIONS_PAGE, (100.0, 540.0, 480.0, 745.0))
    wait_for(qtbot, lambda: page.capture_panel.isVisible() and not page.capture_panel._about.text().startswith("read"))
    press(qtbot, page.capture_panel, "Keep as a picture")
    settle(qtbot, window_of(page))
    step = page.current
    step.right.setCurrentIndex(1)
    pictures = step.pictures
    wait_for(qtbot, lambda: pictures.view._image is not None)
    pictures.letter.setCurrentText("E")
    pictures._fill_length()
    assert pictures.length.text() == "6.4"
    press(qtbot, pictures, "Set scale")
    for x in (173.5, 365.3):
        at = pictures.view.to_view((x, 700.0)).toPoint()
        qtbot.mouseClick(pictures.view, Qt.MouseButton.LeftButton, pos=at)
    settle(qtbot, window_of(page))
    (picture,) = page.controller.bundle.sheet.pictures
    assert picture.scale is not None
    assert picture.scale.length == 6.4
    assert abs(picture.scale.b[0] - picture.scale.a[0] - 191.8) < 3
    before = picture.shift
    qtbot.mousePress(pictures.view, Qt.MouseButton.LeftButton, pos=QPoint(60, 80))
    qtbot.mouseMove(pictures.view, QPoint(60, 70))
    qtbot.mouseRelease(pictures.view, Qt.MouseButton.LeftButton, pos=QPoint(60, 60))
    settle(qtbot, window_of(page))
    assert page.controller.bundle.sheet.pictures[0].shift[1] > before[1]
    press(qtbot, pictures, "Remove")
    settle(qtbot, window_of(page))
    assert page.controller.bundle.sheet.pictures == ()


def test_a_drawing_with_known_lengths_is_laid_over_without_a_click(page: PartPage, qtbot: QtBot) -> None:
    made = converter_part(page.controller.library, page.controller.bundle.part.datasheets[0])
    sheet = made.sheet
    page.controller.edit("dims", lambda b: replace(b, sheet=replace(b.sheet, dims=sheet.dims, aliases=sheet.aliases)))
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    drag_round(area, qtbot, DIMENSIONS_PAGE, (60.0, 530.0, 500.0, 750.0))
    wait_for(qtbot, lambda: page.capture_panel.isVisible() and not page.capture_panel._about.text().startswith("read"))
    press(qtbot, page.capture_panel, "Keep as a picture")
    wait_for(qtbot, lambda: bool(page.controller.bundle.sheet.pictures))
    (kept,) = page.controller.bundle.sheet.pictures
    assert kept.scale is not None
    assert (kept.scale.letter, kept.shows) == ("E", "top")
    # The same by the button, for a picture that has none; and where nothing is known the reason is told.
    pictures = page.current.pictures
    page.current.right.setCurrentIndex(1)
    pictures._change(scale=None)
    settle(qtbot, window_of(page))
    press(qtbot, pictures, "Find scale")
    wait_for(qtbot, lambda: page.controller.bundle.sheet.pictures[0].scale == kept.scale)
    page.controller.edit("dims", lambda b: replace(b, sheet=replace(b.sheet, dims={}, aliases={})))
    settle(qtbot, window_of(page))
    press(qtbot, pictures, "Find scale")
    wait_for(qtbot, lambda: "fewer than two lengths" in pictures._say.text())


def test_an_outline_that_was_found_is_kept(page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 0)
    assert isinstance(step, SourceStep)
    table, found = step.found.table, step.found
    wait_for(qtbot, lambda: any(item.kind == "outline" for item in table.records.records))
    step._tabs.setCurrentWidget(found)
    kinds = [item.kind for item in table.records.records]
    table.select_rows([kinds.index("pins")])
    assert found.act.text() == "Read this table"
    table.select_rows([kinds.index("outline")])
    press(qtbot, found, "Keep this drawing")
    wait_for(qtbot, lambda: bool(page.controller.bundle.sheet.pictures))
    (kept,) = page.controller.bundle.sheet.pictures
    assert (kept.page, kept.scale) == (DIMENSIONS_PAGE, None)


def test_text_is_selected_and_copied(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    press(qtbot, page.datasheet, "Text")
    start, stop = point(area, DIMENSIONS_PAGE, "Symbol"), point(area, DIMENSIONS_PAGE, "6.60")
    drag(area, qtbot, QPointF(start), QPointF(stop))
    area.setFocus()
    qtbot.keyClick(area, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    clipboard = QGuiApplication.clipboard()
    assert clipboard
    assert clipboard.text() == "Symbol Min Nom Max\nH 6.20 – 6.60"


def test_the_place_in_a_document_is_remembered(make_window: MakeWindow, page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, DIMENSIONS_PAGE)
    area.zoom_to(1.3)
    press(qtbot, page.datasheet, "Turn")
    page.datasheet.turn_to(2)
    window = window_of(page)
    part_id = page.controller.bundle.part.id
    window.close_part()
    settle(qtbot, window)
    window.open_part(part_id)
    qtbot.waitUntil(lambda: window.page is not None)
    assert window.page
    again = window.page.datasheet
    wait_for(qtbot, lambda: again.page == 2)
    assert (again.area.scale, again.area.quarters) == (pytest.approx(1.3), 1)


def test_pages_hits_and_paper(page: PartPage, qtbot: QtBot) -> None:
    area = beside(page, qtbot, 2, 1)
    view = page.datasheet
    press(qtbot, view, "Pages")
    assert view.strip.isVisible()
    wait_for(qtbot, lambda: bool(view.strip.visible()))
    qtbot.mouseClick(view.strip.viewport(), Qt.MouseButton.LeftButton, pos=view.strip.page_rect(2).center().toPoint())
    wait_for(qtbot, lambda: view.page == 2)
    view.search.find_text("AGND")
    wait_for(qtbot, lambda: view.search.hits >= 3)
    press(qtbot, view, "Hits")
    assert view.search.results.count() == view.search.hits
    view.search.results.itemClicked.emit(view.search.results.item(view.search.hits - 1))
    assert view.search.count.text() == f"{view.search.hits} of {view.search.hits}"
    press(qtbot, view, "Dark")
    wait_for(qtbot, lambda: area.source.picture(area.wish(view.page)) is not None and area.dark)
    image = area.source.picture(area.wish(view.page))
    assert image
    assert image.pixelColor(2, 2).lightness() < 30


def test_a_newer_datasheet_is_compared(page: PartPage, qtbot: QtBot, folder: Path, tmp_path: Path) -> None:
    window, library = window_of(page), page.controller.library
    made = converter_part(library, page.controller.bundle.part.datasheets[0])
    page.controller.edit("all", lambda b: made_into(b, made))
    rows = [["Symbol", "Min", "Max"], ["H", "6.25", "6.55"], ["D", "4.90", "5.10"]]
    draw(tmp_path / "newer.pdf", rows)
    open_step(page, 0)
    page.current.attach(tmp_path / "newer.pdf")
    step = page.current
    wait_for(qtbot, lambda: len(step.newer.checked) == 25)
    outcomes = {c.address: c.found.outcome for c in step.newer.checked}
    assert outcomes[DimensionAddress("E")] == "differs"
    assert outcomes[DimensionAddress("b")] == "gone"
    assert "no longer there" in step.newer.table.records.records[0].words
    press(qtbot, step, "Move unchanged values to the new datasheet")
    settle(qtbot, window)


def made_into(bundle: Bundle, made: Bundle) -> Bundle:
    """The values of another part in this one."""
    sheet = replace(made.sheet, id=bundle.sheet.id, name=bundle.sheet.name)
    return replace(bundle, sheet=sheet, symbol=replace(made.symbol, id=bundle.symbol.id))


def test_values_show_their_cut_outs_and_are_confirmed_by_a_second_person(
    page: PartPage, qtbot: QtBot, folder: Path
) -> None:
    window, library = window_of(page), page.controller.library
    made = converter_part(library, page.controller.bundle.part.datasheets[0])
    page.controller.edit("all", lambda b: made_into(b, made))
    open_step(page, 0)
    settle(qtbot, window)
    values = page.current.table
    wait_for(qtbot, lambda: values.snippets.of(values.table.records.records[0].snippet) is not None)
    values.table.select_where(lambda r: r.address == DimensionAddress("E"))
    press(qtbot, values, "Confirm selected")
    assert "a second person must confirm" in window.status.message.text()
    by_other = replace(page.controller.bundle.sheet.dims["E"].evidence, by="Skerry engineer")
    dim = replace(page.controller.bundle.sheet.dims["E"], evidence=by_other)
    page.controller.edit("x", lambda b: replace(b, sheet=replace(b.sheet, dims={**b.sheet.dims, "E": dim})))
    press(qtbot, values, "Confirm selected")
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["E"].evidence.confirmed_by == LIBRARIAN.name
    assert "1 confirmed" in page.current._about.text()


def test_typing_over_strikes_the_evidence_through_and_gives_it_back(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 2)
    table = page.current.table
    type_into(qtbot, table, cell(table, "E", 3), "0.85")
    settle(qtbot, window)
    record = next(r for r in table.records.records if r.letter == "E")
    assert record.is_struck
    assert record.evidence == "0.80±0.10, page 2"
    assert any(f.check == "evidence.changed-by-hand" for f in page.controller.findings)
    open_step(page, 0)
    page.current.show_address(DimensionAddress("E"))
    press(qtbot, page.current, "Restore datasheet value")
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["E"].text == "0.80±0.10"


def test_another_sheet_is_compared_and_taken_as_the_start(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 2)
    page.current.open_other()
    dialog = page.current.dialog
    dialog.search.setText("2012")
    wait_for(qtbot, lambda: dialog.list.count() == 1)
    dialog.list.setCurrentRow(0)
    wait_for(qtbot, lambda: len(dialog.table.records.records) == 4)
    assert "4 of 4 lengths differ" in dialog._about.text()
    dialog.take()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["D"].text == "2.00±0.15"
    assert page.controller.bundle.sheet.dims["D"].evidence.kind == "assumed"


def test_rows_of_a_spreadsheet_are_pasted_by_letter(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 2)
    clipboard = QGuiApplication.clipboard()
    assert clipboard
    clipboard.setText("W\t0.7\t0.9\nD\t1.5\t1.6\t1.7")
    page.current.table.setFocus()
    page.current.table.paste()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["E"].text == "min 0.7 max 0.9"
    assert page.controller.bundle.sheet.dims["D"].text == "min 1.5 nom 1.6 max 1.7"
