"""Further columns of the pin table in the window: shown by the category, typed, imported; edited as a template."""

from pathlib import Path

from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_converter, open_step, press, settle, type_into, window_of
from eider.commands.facts import fact_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.categories.categories_page import CategoriesPage
from eider.desktop.part.steps.pins.pin_table import FIELDS
from eider.desktop.part.steps.pins.step import PinsStep


def test_columns_of_the_category_are_typed_sorted_and_imported(
    make_window: MakeWindow, qtbot: QtBot, folder: Path, tmp_path: Path
) -> None:
    page = open_converter(qtbot, make_window, folder)
    window = window_of(page)
    step = open_step(page, 1)
    assert isinstance(step, PinsStep)
    table = step.table
    titles = [column.title for column in table.records.columns]
    place = titles.index("Package length")
    assert place >= len(FIELDS) and not table.isColumnHidden(place)
    type_into(qtbot, table, table.records.index(2, place), "2.5 mm")
    settle(qtbot, window)
    assert page.controller.bundle.symbol.pins[2].more == {"Package length": "2.5 mm"}
    type_into(qtbot, table, table.records.index(3, place), "long")
    settle(qtbot, window)
    assert any(f.check == "symbol.column-wrong-kind" for f in page.controller.findings)
    page.controller.undo()
    settle(qtbot, window)
    step.pins._sort(place)
    settle(qtbot, window)
    assert page.controller.bundle.symbol.pins[0].number == "3"
    text = "Pin,Name,Pin length,Colour\n1,A,1 mm,red\n2,B,2 mm,blue\n"
    (tmp_path / "pins.csv").write_text(text, encoding="utf-8")
    step.import_file(tmp_path / "pins.csv")
    qtbot.waitUntil(lambda: step.panel.isVisible(), timeout=10_000)
    press(qtbot, step.panel, "Use these values")
    settle(qtbot, window)
    assert [pin.more for pin in page.controller.bundle.symbol.pins] == [
        {"Package length": "1 mm"},
        {"Package length": "2 mm"},
    ]
    assert "left out, as the category has no such column: Colour" in window.status.message.text()
    page.controller.edit("x", lambda b: fact_edits.set_about(b, category="resistor"))
    settle(qtbot, window)
    assert not table.isColumnHidden(place), "what a pin has is shown in any category"
    assert table.isColumnHidden(titles.index("Bank voltage"))


def test_the_template_is_edited_with_the_categories(window: MainWindow, qtbot: QtBot) -> None:
    next(a for a in window.actions_list if a.id == "library.categories").run()
    page = window.side.page
    assert isinstance(page, CategoriesPage)
    page.tabs.setCurrentWidget(page.pin_columns)
    press(qtbot, page.pin_columns, "Add a column")
    table = page.pin_columns.table
    last = len(table.records.records) - 1
    table.records.setData(table.records.index(last, 0), "Speed grade")
    page.note.setText("the speed of a pin")
    press(qtbot, page, "Save")
    settle(qtbot, window)
    names = [column.name for column in window.library.settings.categories["ic"].pin_columns]
    assert names[-1] == "Speed grade" and names[0] == "Package length"
