"""The window's parts, driven as a person drives them."""

import os
import signal
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QApplication, QLabel, QLineEdit, QWidget
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, cell, open_capacitor, open_step, press, settle, type_into, type_text
from eider.commands.parts.new_parts import start_from_part
from eider.demo.parts import LIBRARIAN
from eider.desktop.app.window import MainWindow, run_background
from eider.desktop.jobs import Jobs
from eider.desktop.part.part_page import PartPage
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.findings_list import FindingsList
from eider.library import open_library
from eider.library.documents.working_copies import WorkingCopy
from eider.library.library_opening import init_library
from eider.model.address import DimensionAddress, PadAddress, PinAddress
from eider.model.finding import Finding, Severity
from eider.services.tasks import BackgroundWork, Task


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 2012 capacitor, open."""
    return open_capacitor(qtbot, window, "2012")


def sheet_cell(page: PartPage, letter: str, column: int = 3):  # type: ignore[no-untyped-def]
    open_step(page, 2)
    return page.current.table, cell(page.current.table, letter, column)


def test_the_shelf_searches_as_one_types_and_filters_with_counts(window: MainWindow, qtbot: QtBot) -> None:
    assert len(window.shelf.shown) == 3
    qtbot.keyClicks(window.shelf.search, "0.1u 25v")
    qtbot.waitUntil(lambda: [r.name for r in window.shelf.shown] == ["LYN-C1005-100N"])
    window.shelf.search.clear()
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 3)
    group = window.shelf.filters.topLevelItem(2)
    assert group and [group.child(0).text(i) for i in (0, 1)] == ["Chip", "3"]  # type: ignore[union-attr]
    qtbot.keyClicks(window.shelf.search, "nothing like it")
    qtbot.waitUntil(lambda: window.shelf.empty.isVisible())
    assert "Nothing found" in window.shelf.empty.text()


def test_the_card_shows_the_selected_part(window: MainWindow, qtbot: QtBot) -> None:
    window.shelf.select(next(r.id for r in window.shelf.shown if "1608" in r.name))
    qtbot.waitUntil(lambda: window.shelf.card.name.text() == "LYN-C1608-100N")
    assert "Capacitance: 100 nF" in window.shelf.card.facts.text()
    qtbot.waitUntil(lambda: window.shelf.card.body.has_picture, timeout=15_000)
    assert window.shelf.card.lands.drawing is not None


def test_undo_and_redo_go_through_steps_with_real_keys(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    table, index = sheet_cell(page, "L")
    type_into(qtbot, table, index, "0.40–0.60")
    open_step(page, 3)
    press_level = next(r for r in page.current.choices.radios.buttons() if r.objectName() == "A")
    qtbot.mouseClick(press_level, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    assert page.controller.bundle.footprint.level == "A"
    window.steps.undo()
    settle(qtbot, window)
    assert page.controller.bundle.footprint.level == "B"
    assert page.controller.bundle.sheet.dims["L"].text == "0.40–0.60"
    window.steps.undo()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["L"].text == "0.50±0.25"
    assert window.status.message.text() == "Undone: Change L"
    window.steps.redo()
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["L"].text == "0.40–0.60"


def test_looking_at_every_step_changes_nothing(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    before = page.controller.bundle
    for index in (*range(8), 2, 0):
        open_step(page, index)
        settle(qtbot, window)
        for _ in range(3):
            qtbot.keyClick(window.focusWidget() or window, Qt.Key.Key_Tab)
    assert page.controller.session.undo_label == ""
    assert page.controller.bundle == before


def test_the_drawing_follows_while_one_types(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    table, index = sheet_cell(page, "D")
    before = page.current.top.drawing
    table.setCurrentIndex(index)
    table.edit(index)
    viewport = table.viewport()
    editor = next(e for e in reversed(viewport.findChildren(QLineEdit)) if e.isVisible())
    editor.selectAll()
    type_text(editor, "2.4")
    settle(qtbot, window)
    assert page.current.top.drawing != before
    assert page.current.top.drawing.box[2] == 1.2
    assert editor.isVisible() and editor.text() == "2.4"
    # Escape takes all of it back.
    qtbot.keyClick(editor, Qt.Key.Key_Escape)
    settle(qtbot, window)
    assert page.controller.bundle.sheet.dims["D"].text == "2.00±0.15"


def test_what_cannot_be_read_is_marked_and_the_last_good_drawing_stays(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    table, index = sheet_cell(page, "D")
    type_into(qtbot, table, index, "2.1 ± x")
    settle(qtbot, window)
    # What stood before, or “2” or “2.1”, which could be read while it was typed: whichever was computed last.
    assert page.controller.bundle.footprint.pattern.derivation[0].inputs["Lmin"] in (1.85, 2.0, 2.1)  # type: ignore[union-attr]
    assert "at character 7" in table.records.index(index.row(), 3).data(Qt.ItemDataRole.ToolTipRole)
    assert page.trail.buttons[2].state_text == "1 finding"
    unreadable = next(f for f in page.controller.findings if f.check == "sheet.unreadable")
    assert unreadable.severity == "blocker"


def test_units_change_what_is_shown_not_what_is_kept(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    table, index = sheet_cell(page, "E", 5)
    assert index.data() == "1.25"
    window.set_unit("mil")
    settle(qtbot, window)
    assert table.records.index(index.row(), 5).data() == "49.213"
    assert table.records.columns[5].title == "Nom, mil"
    assert page.controller.bundle.sheet.dims["E"].text == "1.25±0.15"


def test_a_pad_changed_by_hand_is_an_adjustment_that_survives(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    page.current._tabs.setCurrentIndex(3)
    type_into(qtbot, page.current.pads, cell(page.current.pads, "1", 3), "1.5")
    settle(qtbot, window)
    assert page.current.pads.records.index(0, 3).data() == "1.5 mm"
    assert page.current._tabs.tabText(4) == "Adjustments (1)"
    table, index = sheet_cell(page, "E")
    type_into(qtbot, table, index, "1.2±0.1")
    settle(qtbot, window)
    assert page.controller.bundle.footprint.pattern.pads[0].width == 1.5  # type: ignore[union-attr]


def test_cells_are_pasted_from_and_copied_to_a_spreadsheet(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    table, index = sheet_cell(page, "D")
    QGuiApplication.clipboard().setText("2.1±0.1\n1.3±0.1\n")
    table.setCurrentIndex(index)
    qtbot.keyClick(table, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    settle(qtbot, window)
    dims = page.controller.bundle.sheet.dims
    assert (dims["D"].text, dims["E"].text) == ("2.1±0.1", "1.3±0.1")
    table.clearSelection()
    table.selectionModel().select(index, table.selectionModel().SelectionFlag.Select)
    qtbot.keyClick(table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text() == "2.1±0.1"


def test_pointing_at_a_pin_lights_its_pad(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 5)
    page.current.pins.setCurrentIndex(page.current.pins.records.index(1, 0))
    for view, place in ((page.current.symbol, PinAddress("2")), (page.current.lands, PadAddress("2"))):
        assert [p.address for p in view._lit] == [place]


def test_a_click_on_a_dimension_takes_its_row_into_hand(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 2)
    view: DrawingView = page.current.top
    middle = view.to_view((0.0, 0.0))
    scan = [QPointF(middle.x(), y) for y in range(0, int(middle.y()), 2)]
    view_point = next(point for point in scan if view.address_at(point) == DimensionAddress("D"))
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view_point.toPoint())
    assert page.current.table.record().letter == "D"


def test_zoom_keeps_the_point_under_the_pointer_and_f_fits_again(page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 3)
    view: DrawingView = page.current.view
    view_point, fitted = QPointF(120, 90), view.scale
    before = view.to_mm(view_point)
    view.zoom(2.0, view_point)
    assert view.to_mm(view_point) == pytest.approx(before)
    assert view.scale == pytest.approx(fitted / 2)
    qtbot.keyClick(view, Qt.Key.Key_F)
    qtbot.waitUntil(lambda: view.scale == pytest.approx(fitted))


def test_a_name_is_taken_though_the_shelf_does_not_show_it(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.keyClicks(window.shelf.search, "1005")
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 1)
    window.tasks.new_part()
    qtbot.keyClicks(window.tasks.dialog.name, "LYN-C1608-100N")
    qtbot.mouseClick(window.tasks.dialog.make, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    assert "already" in window.tasks.dialog._fault.text()
    window.tasks.dialog.reject()


def test_enter_in_the_search_opens_the_hit(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.keyClicks(window.shelf.search, "1608")
    qtbot.keyClick(window.shelf.search, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.page is not None)
    assert window.page
    assert window.page.controller.bundle.part.name == "LYN-C1608-100N"


@pytest.mark.parametrize("beside", [False, True])
def test_every_step_fits_1180_by_700_pixels(window: MainWindow, page: PartPage, qtbot: QtBot, beside: bool) -> None:
    if beside:
        page.toggle_datasheet()
        open_step(page, 2)
        page.toggle_datasheet()
    for index in range(8):
        open_step(page, index)
        QApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest.value)  # else a stale minimum is measured
        assert window.minimumSizeHint().width() <= 1180, index
        assert window.minimumSizeHint().height() <= 700, index


def test_a_narrow_step_folds_and_says_so_and_a_wide_one_unfolds(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    open_step(page, 7)
    review = page.current
    assert review._proof_column.isVisible()
    page.toggle_datasheet()
    qtbot.waitUntil(lambda: not review._proof_column.isVisible() and review._folded.isVisible())
    package = open_step(page, 2)
    qtbot.waitUntil(package._folded.isVisible)
    assert package.table.isColumnHidden(4)
    # The window becomes wider while the datasheet stays beside.
    window.resize(1900, 800)
    qtbot.waitUntil(lambda: not package._folded.isVisible() and not package.table.isColumnHidden(4))
    open_step(page, 7)
    qtbot.waitUntil(lambda: review._proof_column.isVisible() and not review._folded.isVisible())


def test_settings_are_remembered(make_window: MakeWindow, qtbot: QtBot) -> None:
    window = make_window()
    window.set_unit("mil")
    window.switch_appearance()
    window.close()
    again = make_window()
    assert (again.context.unit, again.status.units.currentText(), again.theme.name) == ("mil", "mil", "dark")
    assert again.context.settings.recent_libraries == (again.library.folder,)


def test_another_library_is_opened_in_its_place(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    init_library(tmp_path / "other", "Holm boat shed", LIBRARIAN).close()
    with qtbot.waitSignal(window.library_opened, timeout=5000) as opened:
        window.open_library(tmp_path / "other")
    assert opened.args[0].settings.name == "Holm boat shed"  # type: ignore[index]
    window.open_library(tmp_path / "nowhere")
    qtbot.waitUntil(lambda: "nowhere" in window.status.message.text())


def test_work_in_the_background_fills_the_shelf(window: MainWindow, qtbot: QtBot) -> None:
    def work(task: Task) -> None:
        task.report(0.5, "making LYN-C1608-33N")
        library = open_library(window.library.folder)
        bundle = start_from_part(library.load(library.find("LYN-C1608-100N").id), "LYN-C1608-33N")
        library.copies.save(WorkingCopy(bundle=bundle, findings={}))
        library.close()

    run_background(window, BackgroundWork("Building", work))
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 4, timeout=5000)


def test_a_second_long_job_does_not_orphan_the_first(window: MainWindow, qtbot: QtBot) -> None:
    told: list[str] = []
    window.jobs.progressed.connect(lambda text, _share: told.append(text))
    go_on, ended = threading.Event(), list[str]()

    def long(task: Task) -> None:
        while not go_on.wait(0.01):
            task.report(0.5, "working")

    window.jobs.run_long(
        "export", "First", long, lambda _n: ended.append("First"), lambda _f: ended.append("cancelled")
    )
    window.jobs.run_long("rules", "Second", lambda task: task.report(1.0, "done"), lambda _n: ended.append("Second"))
    qtbot.waitUntil(lambda: ended == ["Second"])
    qtbot.waitUntil(lambda: told[-1].startswith("First"))
    window.jobs.cancel()
    qtbot.waitUntil(lambda: ended == ["Second", "cancelled"])


def test_the_field_at_the_top_goes_to_steps_and_parts(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    window.activateWindow()
    window.field.open()
    qtbot.keyClicks(window.field, "lands")
    qtbot.waitUntil(lambda: window.field.list.isVisible() and "Lands" in window.field.list.item(0).text())
    qtbot.keyClick(window.field, Qt.Key.Key_Return)
    assert page._current == 3
    window.field.open()
    qtbot.keyClicks(window.field, "1005-100n")
    qtbot.waitUntil(lambda: window.field.list.count() == 1 and "LYN-C1005" in window.field.list.item(0).text())
    qtbot.keyClick(window.field, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.page is not None and window.page is not page, timeout=5000)
    assert window.page.controller.bundle.part.name == "LYN-C1005-100N"  # type: ignore[union-attr]


def test_every_action_has_a_title_and_no_shortcut_stands_twice(window: MainWindow) -> None:
    ids = [a.id for a in window.actions_list]
    shortcuts = [a.shortcut for a in window.actions_list if a.shortcut]
    assert len(set(ids)) == len(ids)
    assert len(set(shortcuts)) == len(shortcuts)
    assert all(a.title and len(a.shortcut) != 1 for a in window.actions_list)


def test_a_name_that_is_taken_is_refused_in_place(window: MainWindow, qtbot: QtBot) -> None:
    window.tasks.new_part()
    qtbot.keyClicks(window.tasks.dialog.name, "LYN-C1608-100N")
    qtbot.mouseClick(window.tasks.dialog.make, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    assert "already" in window.tasks.dialog._fault.text()
    assert window.page is None
    window.tasks.dialog.reject()


def test_search_in_the_datasheet_turns_to_the_hit(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    page.toggle_datasheet()
    page.datasheet.search.find_text("dimensions in mm")
    qtbot.waitUntil(lambda: page.datasheet.search.hits > 0 and page.datasheet.page == 2, timeout=5000)


def test_a_damaged_datasheet_is_told_in_its_place(
    window: MainWindow, page: PartPage, qtbot: QtBot, tmp_path: Path
) -> None:
    bad = tmp_path / "bad.pdf"
    bad.write_bytes(b"not a pdf")
    page.step(0).attach(bad)
    settle(qtbot, window)
    assert "damaged or no PDF" in window.status.message.text()
    assert len(page.controller.bundle.part.datasheets) == 1


@pytest.mark.parametrize("size", [(1280, 800), (2560, 800)])
@pytest.mark.parametrize("dark", [False, True])
def test_every_step_paints_at_both_widths_and_appearances(
    window: MainWindow, page: PartPage, qtbot: QtBot, size: tuple[int, int], dark: bool
) -> None:
    window.resize(*size)
    if dark:
        window.switch_appearance()
    for index in range(8):
        open_step(page, index)
        settle(qtbot, window)
        image = window.grab().toImage()
        assert (image.width(), image.height()) == size
        corner = image.pixelColor(QPoint(4, size[1] - 60))
        assert (corner.lightness() < 90) == dark
    assert page.width() <= size[0]


def test_no_button_text_is_cut_at_1280(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    from PyQt6.QtWidgets import QPushButton

    for index in range(8):
        open_step(page, index)
        settle(qtbot, window)
        for made in page.current.findChildren(QPushButton):
            if made.isVisible():
                assert made.width() >= made.fontMetrics().horizontalAdvance(made.text()) + 8, (index, made.text())


def test_tab_goes_through_the_controls_of_a_step(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    open_step(page, 7)
    page.current.note.setFocus()
    assert page.current.note.hasFocus()
    seen: list[QWidget | None] = []
    for _ in range(6):
        qtbot.keyClick(window.focusWidget() or window, Qt.Key.Key_Tab)
        seen.append(window.focusWidget())
    assert len(set(seen)) >= 4


TYPING = """
import sys
from pathlib import Path
from PyQt6.QtTest import QTest
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow, run_background
from eider.library import open_library
from eider.commands.facts import fact_edits
application = make_application()
window = MainWindow(open_library(Path(sys.argv[1])))
window.show()
while not window.shelf.shown:
    QTest.qWait(10)
window.open_part(window.shelf.shown[0].id)
while window.page is None:
    QTest.qWait(10)
controller, text = window.page.controller, ""
copies = controller.library.copies
save = copies.save
def save_and_tell(copy):
    save(copy)
    print(len(copy.bundle.part.description), flush=True)
copies.save = save_and_tell
for count in range(100_000):
    text += "x"
    controller.edit("type", lambda b: fact_edits.set_about(b, description=text), "typing")
    QTest.qWait(15)
"""


def test_killed_while_typing_what_was_saved_last_is_whole(folder: Path) -> None:
    """Typing never pauses here, and still is saved again and again; how soon is measured in the benchmarks."""
    environment = {**os.environ, "PYTHONPATH": "src", "QT_QPA_PLATFORM": "offscreen"}
    command = [sys.executable, "-c", TYPING, str(folder / "library")]
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)
    assert process.stdout
    saved = [int(process.stdout.readline()) for _ in range(3)]
    process.send_signal(signal.SIGKILL)
    process.wait()
    process.stdout.close()
    assert 0 < saved[0] < saved[1] < saved[2]
    library = open_library(folder / "library")
    (changed,) = [r for r in library.search() if r.state == "changed"]
    assert len(changed.description) >= saved[-1]
    assert set(changed.description) == {"x"}


def test_what_was_left_unreleased_is_found_again(make_window: MakeWindow, qtbot: QtBot) -> None:
    window = make_window()
    part_id = window.shelf.shown[0].id
    window.open_part(part_id)
    qtbot.waitUntil(lambda: window.page is not None)
    assert window.page
    open_step(window.page, 6)
    window.page.current.description.setText("a better word")
    window.page.current.description.editingFinished.emit()
    settle(qtbot, window)
    press(qtbot, window.page, "← Shelf")
    settle(qtbot, window)
    qtbot.waitUntil(lambda: any(r.state == "changed" for r in window.shelf.shown))
    again = make_window()
    again.open_part(part_id)
    qtbot.waitUntil(lambda: again.page is not None)
    assert again.page
    assert again.page.controller.bundle.part.description == "a better word"


def test_the_window_bears_the_eider(window: MainWindow) -> None:
    assert not window.windowIcon().pixmap(64, 64).isNull()


def test_more_findings_than_anybody_reads_are_counted(window: MainWindow, qtbot: QtBot) -> None:
    findings = [
        Finding("lands.pitch", Severity.CAUTION, "X", PadAddress(str(i)), f"Pad {i} is off") for i in range(1, 1001)
    ]
    shown = FindingsList(window.context.theme)
    qtbot.addWidget(shown)
    shown.show_findings(findings)
    texts = [text.text() for text in shown.findChildren(QLabel)]
    assert any("Pad 30 is off" in text for text in texts)
    assert not any("Pad 31 is off" in text for text in texts)
    assert any(text.startswith("970 more findings") for text in texts)
    shown._show_more()
    texts = [text.text() for text in shown.widget().findChildren(QLabel)]  # type: ignore[union-attr]
    assert any("Pad 60 is off" in text for text in texts)
    assert any(text.startswith("940 more findings") for text in texts)


def test_a_library_that_was_never_read_is_read_with_its_progress_shown(
    make_window: MakeWindow, folder: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    for path in (folder / "library/.eider").glob("index.sqlite*"):
        path.unlink()
    monkeypatch.setattr("eider.library.index.part_index.READ_TOGETHER", 1)
    told: list[tuple[str, float]] = []
    tell = Jobs._tell

    def note(jobs: Jobs) -> None:
        told.extend((job.what, job.share) for job in jobs._long)
        tell(jobs)

    monkeypatch.setattr(Jobs, "_tell", note)
    window = make_window()
    assert len(window.shelf.shown) == 3
    shares = [share for what, share in told if what == "for the first time"]
    assert len(shares) > 3
    assert shares == sorted(shares)
