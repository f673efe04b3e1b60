"""What was typed and is not saved: it is there again on side pages and in the release note, and Quit asks first."""

import pytest
from PyQt6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, open_step, settle
from eider.desktop.app.window import MainWindow, fit_screen
from eider.desktop.categories.categories_page import CategoriesPage
from eider.desktop.fact_table.fact_table_page import FactTablePage
from eider.desktop.part.steps.review.step import ReviewStep
from eider.desktop.rulebook.rulebook_page import RulebookPage

REVIEW = 7


def run(window: MainWindow, action: str) -> None:
    next(a for a in window.actions_list if a.id == action).run()


@pytest.fixture
def changed_facts(window: MainWindow, qtbot: QtBot) -> FactTablePage:
    """Facts across parts with one typed fact."""
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 3)
    run(window, "library.facts")
    page = window.side.facts
    assert page
    qtbot.waitUntil(lambda: len(page.table.parts) == 3)
    page._put({(0, "Shelf"): "A1"})
    return page


def test_facts_typed_are_there_again_after_another_page_and_a_part(
    changed_facts: FactTablePage, window: MainWindow, qtbot: QtBot
) -> None:
    run(window, "library.bill")
    assert window.side.facts is None
    assert "Facts across parts: 1 change not saved" in window.status.message.text()
    open_capacitor(qtbot, window, "1608")
    window.close_part()
    run(window, "library.facts")
    assert window.side.facts is changed_facts
    assert changed_facts.table.parts[0].facts["Shelf"] == "A1"
    # Undo still takes it back, and what is as it was is not kept aside.
    window.steps.undo()
    window.side.close()
    run(window, "library.facts")
    assert window.side.facts is not changed_facts


def test_quit_asks_before_it_gives_changes_up(changed_facts: FactTablePage, window: MainWindow, qtbot: QtBot) -> None:
    window.side.close()
    assert not window.close()
    assert window.isVisible()
    dialog = window.unsaved_dialog
    assert "Facts across parts: 1 change" in [label.text() for label in dialog.findChildren(QLabel)]
    dialog.reject()
    assert window.isVisible() and window.side.unsaved()
    assert not window.close()
    window.unsaved_dialog.discard.click()
    qtbot.waitUntil(lambda: not window.isVisible())


def test_categories_and_rulebooks_stay_too(window: MainWindow, qtbot: QtBot) -> None:
    run(window, "library.categories")
    categories = window.side.page
    assert isinstance(categories, CategoriesPage)
    categories._change("title", "Chips and modules")
    run(window, "library.rulebook")
    rules = window.side.page
    assert isinstance(rules, RulebookPage)
    settle(qtbot, window)
    rules._change("tolerances.placement", "0.03")
    assert rules.unsaved() == "Rulebook: 1 change"
    run(window, "library.categories")
    assert window.side.page is categories
    run(window, "library.rulebook")
    settle(qtbot, window)
    assert window.side.page is rules and rules.draft.changes == {"tolerances.placement": "0.03"}
    assert len(window.side.unsaved()) == 2


def test_a_release_note_stays_with_the_part_until_it_is_released(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 3)
    page = open_capacitor(qtbot, window, "1608")
    step = open_step(page, REVIEW)
    assert isinstance(step, ReviewStep)
    step.note.setPlainText("Tolerance corrected")
    window.close_part()
    settle(qtbot, window)
    step = open_step(open_capacitor(qtbot, window, "1608"), REVIEW)
    assert isinstance(step, ReviewStep)
    qtbot.waitUntil(lambda: step.note.toPlainText() == "Tolerance corrected")
    part_id = page.controller.bundle.part.id
    window.library.copies.discard(part_id)
    assert window.library.copies.note(part_id) == ""


def test_a_long_name_is_elided_and_never_widens_the_window(window: MainWindow, qtbot: QtBot) -> None:
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 3)
    page = open_capacitor(qtbot, window, "1608")
    before = window.minimumSizeHint().width()
    page._name.setText("N" * 60)
    assert window.minimumSizeHint().width() <= before
    page._name.resize(120, 20)
    assert "…" in page._name.shown_text() and page._name.shown_text().startswith("N")


def test_the_window_fits_the_screen_that_it_opens_on(window: MainWindow) -> None:
    screen = window.screen()
    assert screen
    fit_screen(window)
    available, least = screen.availableSize(), window.minimumSizeHint()
    assert window.width() <= max(available.width(), least.width())
    assert window.height() <= available.height() - 40
    # What a small notebook shows below its panel, less the title of the window.
    assert least.height() <= 768 - 40 - 40
