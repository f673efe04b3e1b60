"""Review reads every cited value again from its datasheet, with one button."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_converter, open_step, press, settle, window_of
from eider.desktop.part.part_page import PartPage
from eider.desktop.part.steps.review.findings_panel import VerifyPanel
from eider.desktop.part.steps.review.step import ReviewStep
from eider.model.bundle import Bundle


@pytest.fixture
def page(make_window: MakeWindow, folder: Path, qtbot: QtBot) -> PartPage:
    """The converter as it was captured, in Review."""
    page = open_converter(qtbot, make_window, folder, lambda made: made)
    open_step(page, 7)
    return page


def panel_of(page: PartPage) -> VerifyPanel:
    step = page.current
    assert isinstance(step, ReviewStep)
    step.left_tabs.setCurrentIndex(1)
    return step.verifying


def verified(page: PartPage, qtbot: QtBot) -> VerifyPanel:
    panel = panel_of(page)
    press(qtbot, panel, "Verify in the datasheets")
    qtbot.waitUntil(panel.act.isEnabled, timeout=20_000)
    settle(qtbot, window_of(page))
    return panel


def test_values_that_stand_where_they_stood_are_counted(page: PartPage, qtbot: QtBot) -> None:
    panel = verified(page, qtbot)
    count = int(panel.told.text().split()[0])
    assert count > 20
    assert panel.told.text() == f"{count} cited values: {count} same"
    assert panel.table.isHidden()


def with_another_place(bundle: Bundle) -> Bundle:
    """The lead span with the place of the body width as its evidence."""
    dims = bundle.sheet.dims
    span, width = dims["E"].evidence, dims["E1"].evidence
    assert span and width
    moved = replace(dims["E"], evidence=replace(span, box=width.box))
    return replace(bundle, sheet=replace(bundle.sheet, dims={**dims, "E": moved}))


def test_a_value_that_reads_otherwise_is_listed(page: PartPage, qtbot: QtBot) -> None:
    page.controller.edit("Another place", with_another_place)
    settle(qtbot, window_of(page))
    panel = verified(page, qtbot)
    assert "1 read differently" in panel.told.text()
    (odd,) = panel.table.records.records
    assert (odd.name, odd.was, odd.reads) == ("E", "6.20 6.60", "4.30 – 4.50")
