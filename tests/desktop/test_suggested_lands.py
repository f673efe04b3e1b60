"""The lands that a datasheet suggests, read in the window: from the list of what was found, and from a rectangle."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_capacitor, open_converter, open_step, press, settle, window_of
from eider.demo.build import attach
from eider.demo.parts import front_end_part
from eider.demo.sheets.brief import write_front_end
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.lands.step import LandsStep
from eider.desktop.part.steps.source.step import SourceStep
from eider.library import open_library
from eider.library.documents.working_copies import WorkingCopy

PRINTED = {"row 1 and row 3": {"Z": "5.60", "Y": "0.80", "X": "0.35"},
           "row 2 and row 4": {"Z": "5.60", "Y": "0.80", "X": "0.35"},
           "thermal pad 25": {"width": "3.00", "height": "3.00"}}  # fmt: skip
DRAWING = (60.0, 500.0, 420.0, 810.0)


@pytest.fixture
def page(make_window: MakeWindow, qtbot: QtBot, folder: Path) -> PartPage:
    """The microphone front end, before the lands of its datasheet were read."""
    write_front_end(folder / "NVK-3301Q.pdf")
    library = open_library(folder / "library")
    made = front_end_part(library, attach(library, folder / "NVK-3301Q.pdf", 3))
    library.copies.save(WorkingCopy(bundle=replace(made, footprint=replace(made.footprint, suggested=()))))
    library.close()
    window = make_window()
    qtbot.waitUntil(lambda: any(r.name == "NVK-3301Q" for r in window.shelf.shown))
    return open_capacitor(qtbot, window, "NVK-3301Q")


def suggested(page: PartPage) -> dict[str, dict[str, str]]:
    lands = page.controller.bundle.footprint.suggested
    return {given.group: {key: length.text for key, length in given.lengths.items()} for given in lands}


def suggested_tab(page: PartPage, qtbot: QtBot) -> LandsStep:
    step = open_step(page, 3)
    assert isinstance(step, LandsStep)
    step._tabs.setCurrentWidget(step.suggested)
    settle(qtbot, window_of(page))
    return step


def use_found(page: PartPage, qtbot: QtBot, kind: str, action: str) -> None:
    """Wait until a figure is listed in Source, and press what is done with it."""
    source = open_step(page, 0)
    assert isinstance(source, SourceStep)
    table = source.found.table
    qtbot.waitUntil(lambda: any(item.kind == kind for item in table.records.records), timeout=20_000)
    source._tabs.setCurrentWidget(source.found)
    table.select_where(lambda item: item.kind == kind)
    press(qtbot, source.found, action)
    settle(qtbot, window_of(page))


def test_found_lands_are_used_in_one_step_that_can_be_undone(page: PartPage, qtbot: QtBot) -> None:
    use_found(page, qtbot, "lands", "Use these lands")
    assert suggested(page) == PRINTED
    page.controller.undo()
    settle(qtbot, window_of(page))
    assert suggested(page) == {}


def test_a_rectangle_is_read_as_lands_where_these_are_looked_at(page: PartPage, qtbot: QtBot) -> None:
    step = suggested_tab(page, qtbot)
    assert step.suggested._summary.text().startswith("Draw a rectangle around the suggested lands")
    (link,) = page.controller.bundle.part.datasheets
    assert step.read_rectangle(None, link.sha256, 3, DRAWING)  # type: ignore[arg-type]  # the open document is not used
    settle(qtbot, window_of(page))
    assert suggested(page) == PRINTED
    assert "thermal pad 25: width 3.00, height 3.00" in window_of(page).status.message.text()
    assert step.suggested._summary.text() == "24 of 25 pads would differ"
    assert page.controller.bundle.footprint.source == "computed"


def test_a_rectangle_beside_the_lands_says_what_is_wrong_and_changes_nothing(page: PartPage, qtbot: QtBot) -> None:
    step = suggested_tab(page, qtbot)
    (link,) = page.controller.bundle.part.datasheets
    step.read_rectangle(None, link.sha256, 3, (60.0, 100.0, 420.0, 300.0))  # type: ignore[arg-type]  # as above
    settle(qtbot, window_of(page))
    assert suggested(page) == {}
    assert "0 lands drawn in this rectangle; two or more needed" in window_of(page).status.message.text()


def test_on_another_tab_a_rectangle_goes_to_the_tables(page: PartPage, qtbot: QtBot) -> None:
    step = suggested_tab(page, qtbot)
    step._tabs.setCurrentWidget(step.joint)
    assert not step.read_rectangle(None, "", 3, DRAWING)  # type: ignore[arg-type]  # as above


def test_a_found_pinout_figure_is_held_against_the_pins(make_window: MakeWindow, qtbot: QtBot, folder: Path) -> None:
    page = open_converter(qtbot, make_window, folder, lambda b: replace(b, part=replace(b.part, pinout=None)))
    use_found(page, qtbot, "pinout", "Compare with pins")
    figure = page.controller.bundle.part.pinout
    assert figure is not None
    assert len(figure.pins) == 16
