"""Houses in the window: what is confirmed teaches, and what was learned is switched off and taken back."""

from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from desktop_helpers import MakeWindow, press, settle
from eider.desktop.app.window import MainWindow
from eider.desktop.houses.houses_page import HousesPage
from eider.desktop.part.steps.source.step import SourceStep
from eider.services.datasheets.houses import known_houses


@pytest.fixture
def sheet(tmp_path: Path) -> Path:
    """A datasheet of a house with a title, from which its description is taken with a doubt."""
    canvas = Canvas(str(tmp_path / "LYN-OP27.pdf"), pagesize=A4, invariant=1)
    for number in (1, 2):
        canvas.setFont("Helvetica", 8)
        canvas.drawString(60, 810, "Lynmouth Analogue")
        if number == 1:
            canvas.setFont("Helvetica", 20)
            canvas.drawString(60, 760, "LYN-OP27")
            canvas.setFont("Helvetica", 11)
            canvas.drawString(60, 738, "For the bench and for the field")
        canvas.showPage()
    canvas.save()
    return tmp_path / "LYN-OP27.pdf"


@pytest.fixture
def taught(make_window: MakeWindow, sheet: Path, qtbot: QtBot) -> MainWindow:
    """A window in which all readings of the sheet were confirmed by Enter."""
    window = make_window()
    window.drafting.read_through(sheet)
    dialog = window.drafting.dialog
    assert dialog
    qtbot.waitUntil(dialog.act.isEnabled, timeout=20_000)
    dialog.act.click()
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    settle(qtbot, window)
    assert window.page
    step = window.page.current
    assert isinstance(step, SourceStep)
    while window.page.controller.bundle.part.to_confirm:
        step.confirming.confirm()
        settle(qtbot, window)
    return window


def houses_page(window: MainWindow, qtbot: QtBot) -> HousesPage:
    window.close_part()
    settle(qtbot, window)
    window.side.open_houses()
    page = window.side.page
    assert isinstance(page, HousesPage)
    settle(qtbot, window)
    return page


def test_what_was_confirmed_is_known_of_the_house(taught: MainWindow, qtbot: QtBot) -> None:
    (name,) = known_houses(taught.library)
    assert name == "Lynmouth Analogue"
    page = houses_page(taught, qtbot)
    rows = page.table.records.records
    assert [row.rule.sheet for row in rows] == ["LYN-OP27.pdf"] * len(rows)
    assert any("taken from the title" in row.rule.key for row in rows)
    assert page.about.text() == f"{len(rows)} rule{'s' if len(rows) > 1 else ''} of 1 house."


def test_a_rule_is_switched_off_on_and_taken_back(taught: MainWindow, qtbot: QtBot) -> None:
    page = houses_page(taught, qtbot)
    before = len(page.table.records.records)
    for title, is_active in (("Switch off", False), ("Switch on", True)):
        press(qtbot, page, title)
        settle(qtbot, taught)
        assert page.table.records.records[0].rule.active is is_active
    press(qtbot, page, "Remove")
    settle(qtbot, taught)
    assert len(page.table.records.records) == before - 1


def test_without_anything_learned_the_page_says_how_to_begin(make_window: MakeWindow, qtbot: QtBot) -> None:
    window = make_window()
    page = houses_page(window, qtbot)
    assert "Source › To confirm" in page.about.text()
    assert not page.switch.isEnabled()
    assert not page.remove.isEnabled()
