"""Categories in the window: facts and templates typed, effects shown before they are kept, kept in the settings."""

import pygit2
import pytest
from pytestqt.qtbot import QtBot

from desktop_helpers import press
from eider.desktop.app.window import MainWindow
from eider.desktop.categories.categories_page import CategoriesPage
from eider.library import open_library


@pytest.fixture
def page(window: MainWindow, qtbot: QtBot) -> CategoriesPage:
    next(a for a in window.actions_list if a.id == "library.categories").run()
    page = window.side.page
    assert isinstance(page, CategoriesPage)
    qtbot.waitUntil(lambda: len(page._rows) == 3)
    take(page, "capacitor")
    return page


def take(page: CategoriesPage, key: str) -> None:
    page.names.setCurrentRow([page.names.item(i).text() for i in range(page.names.count())].index(key))


def test_a_template_is_shown_with_an_example_and_its_effects(page: CategoriesPage, qtbot: QtBot) -> None:
    page.editors["description"].setText("Capacitor {Capacitance} {Rated voltage} {Dielectric}")
    page.editors["description"].editingFinished.emit()
    qtbot.waitUntil(lambda: "Capacitor 100 nF 25 V X7R" in page.example.text())
    qtbot.waitUntil(lambda: "3 descriptions would be composed again" in page.summary.text())
    assert page.effects.count() == 3 and "→ Capacitor 100 nF" in page.effects.item(0).text()
    page.editors["description"].setText("{Colour}")
    page.editors["description"].editingFinished.emit()
    assert "“Colour” is not a fact" in page.fault.text() and not page.keep_button.isEnabled()
    # Two steps back is what it was.
    assert page.steps.undo() and page.steps.undo() and not page.steps.undo()
    assert page.categories == page.before and page.steps.redo()


def test_a_fact_of_another_kind_shows_what_would_be_wrong(page: CategoriesPage, qtbot: QtBot) -> None:
    table = page.fact_fields.table
    at = next(i for i, r in enumerate(table.records.records) if r.fact.name == "Dielectric")
    table.records.setData(table.records.index(at, 1), "number")
    qtbot.waitUntil(lambda: "3 values would be of the wrong kind" in page.summary.text())
    assert "“X7R” is not a number" in page.effects.item(0).text()
    table.records.setData(table.records.index(at, 1), "choice")
    assert "has no choices" in page.fault.text()
    table.records.setData(table.records.index(at, 5), "X7R, C0G")
    qtbot.waitUntil(lambda: page.summary.text() == "No part would change.")


def test_facts_are_added_moved_and_removed(page: CategoriesPage, qtbot: QtBot) -> None:
    press(qtbot, page, "Add a fact")
    record = page.fact_fields.table.record()
    assert record.fact.name == "Fact 1"
    press(qtbot, page, "Up")
    assert [r.fact.name for r in page.fact_fields.table.records.records][-2] == "Fact 1"
    page.fact_fields.table.select_where(lambda r: r.fact.name == "Fact 1")
    at = page.fact_fields.table.currentIndex().row()
    page.fact_fields.table.records.setData(page.fact_fields.table.records.index(at, 3), "yes")
    qtbot.waitUntil(lambda: "3 required facts would be missing" in page.summary.text())
    page.fact_fields.table.select_rows([at])
    press(qtbot, page, "Remove facts")
    assert page.categories["capacitor"] == page.before["capacitor"]


def test_a_category_that_inherits_is_saved_in_the_settings(
    page: CategoriesPage, window: MainWindow, qtbot: QtBot
) -> None:
    before = dict(page.before)
    page.new_key.setText("film-capacitor")
    press(qtbot, page, "Create")
    assert page.key == "film-capacitor" and page.categories["film-capacitor"].parent == "capacitor"
    press(qtbot, page, "Save")
    qtbot.waitUntil(lambda: "in a few words why" in page.fault.text())
    page.note.setText("film is bought from now on")
    press(qtbot, page, "Save")
    qtbot.waitUntil(lambda: "film-capacitor" in window.library.settings.categories)
    opened = open_library(window.library.folder)
    assert opened.settings == window.library.settings
    said = pygit2.Repository(str(opened.folder)).head.peel(pygit2.Commit).message
    assert "film is bought from now on" in said
    text = (window.library.folder / "eider-library.toml").read_text(encoding="utf-8")
    assert text.startswith("# Settings of an Eider library") and "[symbols]" in text
    # Nothing else of the settings has changed, and what was read before is read now.
    assert {k: c for k, c in opened.settings.categories.items() if k != "film-capacitor"} == before
