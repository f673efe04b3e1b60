"""The panels beside the lands: choices of the recipe, the way from a length to its cell, joints by group."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, settle, type_text
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import rerun_recipes
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.lands.step import LandsStep
from eider.library.documents.working_copies import WorkingCopy
from eider.model.bundle import Bundle
from eider.rulebooks import standard_rulebook


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> PartPage:
    """The 1608 capacitor, open in Lands."""
    page = open_capacitor(qtbot, window, "1608")
    open_step(page, 3)
    return page


def lands(page: PartPage) -> LandsStep:
    assert isinstance(page.current, LandsStep)
    return page.current


def test_an_input_of_the_derivation_leads_to_its_cell(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    inputs = lands(page).derivation.inputs
    inputs.select_where(lambda row: row.letter.startswith("D"))
    inputs.activated.emit(inputs.currentIndex())
    settle(qtbot, window)
    assert page.current.key == "package"
    assert page.current.table.record().letter == "D"


def test_an_input_of_the_rulebook_opens_it(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    inputs = lands(page).derivation.inputs
    inputs.select_where(lambda row: row.name == "F")
    inputs.activated.emit(inputs.currentIndex())
    settle(qtbot, window)
    assert window.side.rules is not None
    assert window.side.rules.draft.name == "standard"


def test_a_further_level_is_made_and_left_out_again(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    also: QCheckBox = lands(page).choices.also["A"]
    qtbot.mouseClick(also, Qt.MouseButton.LeftButton, pos=also.rect().center() - also.rect().center() / 2)
    settle(qtbot, window)
    assert [p.level for p in page.controller.bundle.footprint.also] == ["A"]
    also.click()
    settle(qtbot, window)
    assert page.controller.bundle.footprint.also == ()


def test_the_footprint_is_turned_and_mirrored(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    choices = lands(page).choices
    pads = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    choices.turn.setCurrentIndex(1)
    choices.turn.activated.emit(1)
    settle(qtbot, window)
    turned = page.controller.bundle.footprint.pattern.pads  # type: ignore[union-attr]
    # A quarter counter-clockwise: (x, y) comes to lie at (−y, x).
    assert [(p.x, p.y) for p in turned] == [(-p.y, p.x) for p in pads]
    choices.mirrored.click()
    settle(qtbot, window)
    assert page.controller.bundle.footprint.mirrored


def test_a_part_whose_origin_is_gone_says_so(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    first = library.load(window.shelf.shown[0].id)
    made = new_parts.start_from_part(first, "LYN-C1608-1P0")
    assert made.part.origin
    library.copies.save(WorkingCopy(bundle=rerun_recipes(made, standard_rulebook()), findings={}))
    for path in Path(library.folder).rglob(f"{first.part.name}.part.json"):
        path.unlink()
    window.open_part(made.part.id)
    qtbot.waitUntil(lambda: window.page is not None)
    settle(qtbot, window)
    assert window.page
    open_step(window.page, 3)
    assert lands(window.page).choices._origin.text() != ""


def test_a_length_of_the_suggested_lands_takes_the_next_in_hand(
    window: MainWindow, page: PartPage, qtbot: QtBot
) -> None:
    step = lands(page)
    step._tabs.setCurrentWidget(step.suggested)
    settle(qtbot, window)
    step.suggested.suggested.click()
    settle(qtbot, window)
    table = step.suggested.table
    table.setCurrentIndex(table.records.index(0, 3))
    target = step.target(None)
    assert target is not None
    assert target.name.startswith("suggested")
    step.next_field()
    assert table.currentIndex().row() == 1
    step.suggested.computed.click()
    settle(qtbot, window)
    assert step.target(None) is None


def test_another_pitch_is_held_against_the_play_of_the_leads(window: MainWindow, page: PartPage, qtbot: QtBot) -> None:
    step, panel = lands(page), lands(page).pitch
    step._tabs.setCurrentWidget(step._distances_tab)
    qtbot.waitUntil(lambda: "No row of pads" in panel.summary.text(), timeout=10_000)

    def as_header(bundle: Bundle) -> Bundle:
        made = package_edits.set_pins(package_edits.set_family(bundle, "header"), "6")
        for letter, text in {"e": "3.5", "b": "1.0", "L": "21", "W": "7"}.items():
            made = package_edits.set_dimension(made, letter, text)
        return made

    page.controller.edit("Make it a header", as_header)
    qtbot.waitUntil(lambda: "off by 0.000 mm over 6 ways" in panel.summary.text(), timeout=10_000)
    type_text(panel.chosen, "140 mil")
    qtbot.keyClick(panel.chosen, Qt.Key.Key_Return)
    # 140 mil is 3.556 mm: 0.056 a step, 0.28 over the five steps of the row.
    qtbot.waitUntil(lambda: "off by 0.280 mm over 6 ways" in panel.summary.text(), timeout=10_000)
    verdicts = {row.grid: row.verdict for row in panel.table.records.records}
    assert (verdicts["datasheet"], verdicts["chosen"]) == ("no error", "does not fit")
    panel.chosen.selectAll()
    type_text(panel.chosen, "wide")
    qtbot.keyClick(panel.chosen, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: "wide" in panel.summary.text(), timeout=10_000)
    assert not panel.table.records.records
