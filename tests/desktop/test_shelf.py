"""The Shelf with many parts in hand: released together, a list that is cut, filters that stay."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QTreeWidgetItem
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, press, settle
from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.desktop.app.window import MainWindow
from eider.library import Library
from eider.library.documents.working_copies import WorkingCopy


def change_all(library: Library, *, broken: str = "") -> None:
    """Change every part; the one that is named gets dimensions that keep it from being released."""
    for row in library.search():
        bundle = fact_edits.set_fact(library.load(row.id), "Compliance", "lead-free")
        if row.name == broken:
            bundle = package_edits.set_dimension(bundle, "D", "9 to 8")
        library.copies.save(WorkingCopy(bundle=bundle))


def filter_item(window: MainWindow, group: int, title: str) -> QTreeWidgetItem:
    parent = window.shelf.filters.topLevelItem(group)
    assert parent
    found = [parent.child(i) for i in range(parent.childCount())]
    return next(item for item in found if item is not None and item.text(0) == title)


def ask_release(window: MainWindow, qtbot: QtBot, note: str) -> None:
    """Select all parts, and release them with a note."""
    window.shelf.refresh()
    settle(qtbot, window)
    window.shelf.table.setFocus()
    qtbot.keyClick(window.shelf.table, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    press(qtbot, window.shelf, "Release…")
    dialog = window.tasks.release_dialog
    assert dialog
    assert not dialog.release.isEnabled(), "without a note"
    qtbot.keyClicks(dialog.note, note)
    qtbot.mouseClick(dialog.release, Qt.MouseButton.LeftButton)
    settle(qtbot, window)


def test_parts_are_released_together_in_one_commit(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    change_all(library)
    before = {row.name: row.revision for row in library.search()}
    ask_release(window, qtbot, "all lead-free now")
    settle(qtbot, window)
    assert "3 parts released together" in window.status.message.text()
    rows = library.search()
    assert {row.name: row.revision for row in rows} == {name: revision + 1 for name, revision in before.items()}
    assert {row.state for row in window.shelf.shown} == {"released"}
    newest = [library.history(row.id)[-1] for row in rows]
    assert {revision.note for revision in newest} == {"all lead-free now"}
    assert len({revision.commit for revision in newest}) == 1


def test_one_part_with_a_blocker_keeps_all_from_being_released(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    change_all(library, broken="LYN-C1608-100N")
    ask_release(window, qtbot, "all lead-free now")
    assert "LYN-C1608-100N cannot be released" in window.status.message.text()
    assert {row.state for row in library.search()} == {"changed"}


def test_what_is_released_already_is_told_to_be_so(window: MainWindow, qtbot: QtBot) -> None:
    press(qtbot, window.shelf, "Release…")
    assert "Nothing to release" in window.status.message.text()
    assert window.tasks.release_dialog is None


def test_a_list_that_is_cut_says_so_and_counts_all(
    make_window: MakeWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("eider.desktop.shelf.shelf_page.MOST_LISTED", 2)
    window = make_window()
    assert len(window.shelf.shown) == 2
    assert window.shelf._count.text().startswith("The first 2 of 3 parts")
    assert filter_item(window, 2, "Chip").text(1) == "3"


def test_a_filter_stays_while_nothing_passes_it(window: MainWindow, qtbot: QtBot) -> None:
    filter_item(window, 2, "Chip").setCheckState(0, Qt.CheckState.Checked)
    settle(qtbot, window)
    qtbot.keyClicks(window.shelf.search, "nothing like it")
    qtbot.waitUntil(lambda: window.shelf.shown == [])
    settle(qtbot, window)
    kept = filter_item(window, 2, "Chip")
    assert (kept.checkState(0), kept.text(1)) == (Qt.CheckState.Checked, "0")
    window.shelf.search.clear()
    qtbot.waitUntil(lambda: len(window.shelf.shown) == 3)


def test_a_click_on_a_heading_sorts_by_value_then_the_other_way_then_by_name(window: MainWindow, qtbot: QtBot) -> None:
    settle(qtbot, window)
    shelf = window.shelf
    place = shelf.table._keys.index("fact:Rated voltage")
    shelf.table.setColumnHidden(place, False)
    header = shelf.table.horizontalHeader()
    assert header is not None
    by_name = [row.name for row in shelf.shown]
    header.sectionClicked.emit(place)
    settle(qtbot, window)
    # 25, 50 and 100 V; as texts 100 would come first.
    assert [row.facts["Rated voltage"] for row in shelf.shown] == ["25 V", "50 V", "100 V"]
    assert header.isSortIndicatorShown()
    header.sectionClicked.emit(place)
    settle(qtbot, window)
    assert [row.facts["Rated voltage"] for row in shelf.shown] == ["100 V", "50 V", "25 V"]
    header.sectionClicked.emit(place)
    settle(qtbot, window)
    assert [row.name for row in shelf.shown] == by_name
    assert not header.isSortIndicatorShown()
