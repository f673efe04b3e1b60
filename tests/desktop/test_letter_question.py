"""The capture panel asks what a letter means where nothing else can decide."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_converter, open_step, settle, window_of
from drawn_tables import draw
from eider.commands.pins import pin_edits
from eider.datasheets import Datasheet
from eider.datasheets.tables.table_capture import capture_table
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.part_page import PartPage
from eider.model.bundle import Bundle

# Under letters that no house uses, K can be the span over the leads and J the length of the body, or the other way.
ROWS = [
    ["Symbol", "Min (mm)", "Nom (mm)", "Max (mm)"],
    ["K", "6.20", "-", "6.60"],
    ["J", "6.00", "-", "6.20"],
    ["F", "4.30", "-", "4.50"],
    ["P", "-", "0.65", "-"],
    ["N", "0.19", "-", "0.30"],
    ["R", "0.45", "-", "0.75"],
    ["M", "-", "-", "1.20"],
]


@pytest.fixture
def page(make_window: MakeWindow, folder: Path, qtbot: QtBot) -> PartPage:
    """The converter without dimensions and pins, in Package."""

    def without_values(made: Bundle) -> Bundle:
        return pin_edits.set_pin_table(replace(made, sheet=replace(made.sheet, dims={}, aliases={})), ())

    page = open_converter(qtbot, make_window, folder, without_values)
    open_step(page, 2)
    return page


def test_an_answer_decides_what_the_letters_mean(page: PartPage, qtbot: QtBot, tmp_path: Path) -> None:
    box = draw(tmp_path / "a.pdf", ROWS)
    document = Datasheet(tmp_path / "a.pdf")
    panel: CapturePanel = page.capture_panel
    panel.show()
    panel._show(capture_table(document, 1, box, "dimensions"))
    document.close()
    settle(qtbot, window_of(page))
    assert panel.question.question
    assert panel.question.question.text.startswith("Is K (6.2–6.6 mm) the ")
    answers = {button.text(): button for button in panel.question.findChildren(QPushButton)}
    qtbot.mouseClick(answers["Lead span, tip to tip"], Qt.MouseButton.LeftButton)
    settle(qtbot, window_of(page))
    assert (panel.letters["K"], panel.letters["J"]) == ("E", "D")
    assert next(row.why for row in panel.dimensions.records.records if row.letter == "K") == "As you answer"
    assert panel.question.isHidden()


def test_pins_ask_nothing(page: PartPage, qtbot: QtBot, tmp_path: Path) -> None:
    box = draw(tmp_path / "a.pdf", [["Pin", "Name", "Type"], ["1", "VDD", "P"], ["2", "GND", "P"]])
    document = Datasheet(tmp_path / "a.pdf")
    page.capture_panel._show(capture_table(document, 1, box, "pins"))
    document.close()
    settle(qtbot, window_of(page))
    assert page.capture_panel.question.isHidden()
