"""A part drafted from a datasheet in the window, and its doubts worked through with keys."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

from desktop_helpers import MakeWindow, press, settle, type_text, window_of
from drawn_tables import DUAL_ROWS, draw
from eider.datasheets.documents.found_items import FoundItem
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.source.step import SourceStep
from eider.geometry.lengths import parse_limits
from eider.model.doubt import Doubt


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    """A datasheet that names no package, and does not say how high it is."""
    draw(tmp_path / "LYN-OP1.pdf", [row for row in DUAL_ROWS if row[0] != "A"], page=2)
    return tmp_path / "LYN-OP1.pdf"


@pytest.fixture
def drafted(make_window: MakeWindow, sheet: Path, qtbot: QtBot) -> PartPage:
    window = make_window()
    window.drafting.read_through(sheet)
    qtbot.waitUntil(lambda: window.drafting.dialog is not None, timeout=20_000)
    dialog = window.drafting.dialog
    assert dialog and dialog.name.text() == "LYN-OP1"
    qtbot.waitUntil(dialog.act.isEnabled, timeout=20_000)
    dialog.act.click()
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    settle(qtbot, window)
    assert window.page
    return window.page


def source(page: PartPage) -> SourceStep:
    step = page.current
    assert isinstance(step, SourceStep)
    return step


def doubts(page: PartPage) -> list[str]:
    return [row.doubt.address for row in source(page).confirming.table.records.records]


def test_a_draft_opens_at_what_is_to_be_confirmed(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    assert panel.isVisible()
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "sheet.dims.A", "source"]
    assert panel.reading.text() == "Dual gull-wing"
    view = source(drafted).view
    assert view
    qtbot.waitUntil(lambda: view.page == 2)


def test_each_reading_is_shown_beside_its_cut_out(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    panel.table.select_rows([2])
    qtbot.waitUntil(lambda: not panel.large.pixmap().isNull(), timeout=20_000)
    assert panel.large.pixmap().width() <= panel.width()
    picture = panel.table.records.columns[2].picture
    assert picture
    pictures = [picture(row) for row in panel.table.records.records]
    # Family, count and height have a place in the table; what is missing has none.
    assert [made is not None for made in pictures] == [True, True, True, False]


def test_what_agrees_with_a_reading_is_told(drafted: PartPage, qtbot: QtBot) -> None:
    controller, panel = drafted.controller, source(drafted).confirming
    pitch = Doubt("sheet.dims.e", "1.27", "told by its length alone", page=2)
    part = replace(controller.bundle.part, to_confirm=(pitch,))
    controller.edit("Doubt the pitch", lambda b: replace(b, part=part))
    settle(qtbot, window_of(drafted))
    # Four leads a side: three pitches of 1.27 are 3.81 of the body's 4.9.
    assert panel.witnesses.text() == "Agrees: 4 leads a side at 1.27 mm take 3.81 of D, 4.9 mm."
    assert panel.witnesses.isVisibleTo(panel)


def test_enter_confirms_and_undo_brings_the_doubt_back(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    qtbot.keyClick(panel.table, Qt.Key.Key_Return)
    settle(qtbot, window_of(drafted))
    assert doubts(drafted) == ["sheet.pins", "sheet.dims.A", "source"]
    drafted.controller.undo()
    settle(qtbot, window_of(drafted))
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "sheet.dims.A", "source"]


def test_typing_corrects(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    panel.table.select_rows([2])
    assert panel.table.record().name == "A, height"
    qtbot.keyClick(panel.table, "1")
    assert panel.correction.text() == "1"
    type_text(panel.correction, ".55–1.75")
    qtbot.keyClick(panel.correction, Qt.Key.Key_Return)
    settle(qtbot, window_of(drafted))
    dimension = drafted.controller.bundle.sheet.dims["A"]
    assert dimension.limits == parse_limits("1.55–1.75")
    assert dimension.evidence and dimension.evidence.page == 2
    assert doubts(drafted) == ["sheet.family", "sheet.pins", "source"]


def test_what_cannot_be_typed_here_says_where(drafted: PartPage) -> None:
    panel = source(drafted).confirming
    assert not panel.correction.isEnabled()
    assert panel.correction.placeholderText() == "Correct it in Package"


def test_the_last_doubt_takes_the_list_away(drafted: PartPage, qtbot: QtBot) -> None:
    panel = source(drafted).confirming
    for _ in range(4):
        panel.confirm()
        settle(qtbot, window_of(drafted))
    assert drafted.controller.bundle.part.to_confirm == ()
    assert not panel.isVisible()


def test_what_was_found_is_listed_and_read(drafted: PartPage, qtbot: QtBot) -> None:
    found = source(drafted).found
    qtbot.waitUntil(lambda: len(found.table.records.records) == 1, timeout=20_000)
    assert found.table.records.records[0].kind == "dimensions"
    source(drafted)._tabs.setCurrentWidget(found)
    found.table.select_rows([0])
    press(qtbot, found, "Read this table")
    panel = drafted.findChild(CapturePanel)
    qtbot.waitUntil(lambda: panel.isVisible(), timeout=20_000)
    settle(qtbot, window_of(drafted))


def test_what_is_found_is_listed_while_the_rest_is_read(drafted: PartPage, qtbot: QtBot) -> None:
    found = source(drafted).found
    qtbot.waitUntil(lambda: len(found.table.records.records) == 1, timeout=20_000)
    first = FoundItem("pins", 1, (0.0, 0.0, 9.0, 9.0), "", 1.0, 8)
    found._sha, found._so_far = "a document that is still read", []
    with qtbot.waitSignal(found.listed, timeout=5_000) as told:
        found._arrived.emit("another document", replace(first, page=7))
        found._arrived.emit("a document that is still read", first)
        found._arrived.emit("a document that is still read", replace(first, page=2))
    assert [item.page for item in told.args[0]] == [1, 2]
    assert [item.page for item in found.table.records.records] == [1, 2]


def test_a_name_that_is_taken_is_told_in_the_dialog(
    drafted: PartPage, sheet: Path, qtbot: QtBot, make_window: MakeWindow
) -> None:
    window = window_of(drafted)
    settle(qtbot, window)
    window.drafting.dialog = None
    window.drafting.read_through(sheet)
    qtbot.waitUntil(lambda: window.drafting.dialog is not None, timeout=20_000)
    dialog = window.drafting.dialog
    assert dialog
    qtbot.waitUntil(dialog.act.isEnabled, timeout=20_000)
    dialog.act.click()
    qtbot.waitUntil(lambda: dialog.fault.text() != "", timeout=20_000)
    assert "There is a part LYN-OP1 already" in dialog.fault.text()
    dialog.reject()


@pytest.fixture
def two_packages(tmp_path: Path) -> Path:
    """A datasheet with a title, order codes, and tables of two packages."""
    canvas = Canvas(str(tmp_path / "sheet.pdf"), pagesize=A4, invariant=1)
    canvas.setFont("Helvetica-Bold", 18)
    canvas.drawString(60, 790, "LYN-OP27")
    canvas.setFont("Helvetica", 10)
    canvas.drawString(60, 770, "Precision operational amplifier")
    orders = [["Order code", "Package"], ["LYN-OP27D-R7", "SOIC-8"], ["LYN-OP27M-R7", "MSOP-8"]]
    for rows, title, at in (
        (orders, "Ordering information", 680),
        (DUAL_ROWS, "SOIC-8", 440),
        (DUAL_ROWS, "MSOP-8", 200),
    ):
        table = Table(rows, style=[("GRID", (0, 0), (-1, -1), 0.5, colors.black), ("FONTSIZE", (0, 0), (-1, -1), 9)])
        _width, height = table.wrapOn(canvas, 500, 500)
        table.drawOn(canvas, 60, at)
        canvas.drawString(60, at + height + 8, title)
    canvas.save()
    return tmp_path / "sheet.pdf"


def test_the_package_is_asked_for_before_anything_is_taken(
    make_window: MakeWindow, two_packages: Path, qtbot: QtBot
) -> None:
    window = make_window()
    window.drafting.read_through(two_packages)
    dialog = window.drafting.dialog
    assert dialog
    qtbot.waitUntil(lambda: dialog.packages.count() == 2, timeout=20_000)
    assert (dialog.name.text(), dialog.description.text()) == ("LYN-OP27", "Precision operational amplifier")
    assert "In which package?" in dialog.question.text()
    assert (dialog.act.text(), dialog.act.isEnabled(), dialog.chosen_package()) == ("Choose a package", False, "")
    listed = [dialog.found.item(row).text() for row in range(dialog.found.count())]  # type: ignore[union-attr]
    assert "Page 1: table of dimensions of SOIC-8" in listed
    dialog.packages.setFocus()
    qtbot.keyClick(dialog.packages, Qt.Key.Key_Home)
    qtbot.keyClick(dialog.packages, Qt.Key.Key_Down)
    qtbot.keyClick(dialog.packages, Qt.Key.Key_Down)
    assert (dialog.act.text(), dialog.act.isEnabled()) == ("Draft in MSOP-8", True)
    qtbot.keyClick(dialog, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    settle(qtbot, window)
    assert window.page and window.page.controller.bundle.part.name == "LYN-OP27"
    assert window.page.controller.bundle.sheet.dims["E"].text == "5.80–6.20"
    # The other package stays one click away.
    found = source(window.page).found
    qtbot.waitUntil(lambda: not found.variant.isHidden(), timeout=20_000)
    menu = found.variant.menu()
    assert menu and [action.text() for action in menu.actions()] == ["Variant in SOIC-8…"]
    menu.actions()[0].trigger()
    further = window.drafting.dialog
    assert further and further is not dialog
    qtbot.waitUntil(further.act.isEnabled, timeout=20_000)
    assert (further.name.text(), further.chosen_package()) == ("LYN-OP27-SOIC-8", "SOIC-8")
    further.reject()
    settle(qtbot, window)


def test_a_datasheet_of_which_nothing_is_understood_still_becomes_a_part(
    make_window: MakeWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    canvas = Canvas(str(tmp_path / "LETTER-1.pdf"), pagesize=A4, invariant=1)
    canvas.drawString(60, 700, "A letter that holds no table at all, and no drawing")
    canvas.save()
    window = make_window()
    window.drafting.read_through(tmp_path / "LETTER-1.pdf")
    dialog = window.drafting.dialog
    assert dialog
    qtbot.waitUntil(dialog.act.isEnabled, timeout=20_000)
    assert "draw a rectangle round a table" in dialog.about.text()
    dialog.act.click()
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    settle(qtbot, window)
    assert window.page
    assert [link.name for link in window.page.controller.bundle.part.datasheets] == ["LETTER-1.pdf"]
    assert "source" in doubts(window.page)


def test_reading_is_cancelled_with_the_dialog(make_window: MakeWindow, two_packages: Path, qtbot: QtBot) -> None:
    window = make_window()
    window.drafting.read_through(two_packages)
    dialog = window.drafting.dialog
    assert dialog
    dialog.reject()
    settle(qtbot, window)
    assert dialog.packages.count() == 0


def test_how_the_page_was_read_is_shown_over_it(drafted: PartPage, qtbot: QtBot) -> None:
    step = source(drafted)
    step._tabs.setCurrentWidget(step.found)
    qtbot.waitUntil(lambda: len(step.found.table.records.records) == 1, timeout=20_000)
    assert step.view
    step.view.turn_to(2)
    press(qtbot, step.found, "How the page was read")
    qtbot.waitUntil(lambda: step.found.lines.count() > 0, timeout=20_000)
    told = [step.found.lines.item(row).text() for row in range(step.found.lines.count())]  # type: ignore[union-attr]
    assert told[0].startswith("page 2:")
    assert any("is: table of dimensions" in line for line in told)
    marks = step.view.area._marks["explained"]
    assert [mark.text for mark in marks if mark.kind == "block"] == ["table of dimensions"]
    step.view.area.grab()
    press(qtbot, step.found, "How the page was read")
    assert step.view.area._marks["explained"] == []
    assert not step.found.lines.isVisibleTo(step.found)
