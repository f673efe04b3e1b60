"""The capture panel without a document, with letters that mean nothing, and with a reading that fails."""

import pytest
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, settle
from eider.demo.parts import captures
from eider.desktop.app.window import MainWindow
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.review.step import ReviewStep


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open in Package."""
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 2)
    return page


def test_without_a_document_nothing_is_read_or_used(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    panel: CapturePanel = page.capture_panel
    number = page.controller.session.number
    panel._read("dimensions", None)
    panel._propose()
    panel._show_lines()
    panel.take_over()
    settle(qtbot, window)
    assert page.controller.session.number == number
    assert list(panel.dimensions.records.records) == []


def test_letters_that_fit_no_package_are_kept_as_they_are_printed(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    panel: CapturePanel = page.capture_panel
    found = next(table for table in captures("NVK-1216T") if table.kind == "dimensions")
    panel._show(found)
    settle(qtbot, window)
    # No proposal is chosen: letters that the family knows mean themselves.
    panel._choose_proposal(-1)
    settle(qtbot, window)
    # A chip has D, E, L and A; H, e, b, A1 and c are not its letters.
    assert panel.letters == {letter: letter for letter in ("E", "D", "L", "A")}
    line = next(row for row in panel.dimensions.records.records if row.letter == "D")
    with qtbot.waitSignal(panel.place_in_hand) as told:
        panel._in_hand(line)
    assert told.args[0] == found.page


def test_a_revision_is_opened_read_only_from_review(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step = open_step(page, 7)
    assert isinstance(step, ReviewStep)
    settle(qtbot, window)
    step._history.setCurrentIndex(step._history.records.index(0, 0))
    step._open_revision()
    qtbot.waitUntil(lambda: window.page is not page)
    settle(qtbot, window)
    assert window.page is not None
    assert window.page.controller.session.read_only
