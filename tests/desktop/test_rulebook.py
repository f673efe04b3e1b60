"""The rulebook editor: values, their effect on the library, keeping, undo; and what the open part sees of it."""

import pytest
from pytestqt.qtbot import QtBot

from desktop_helpers import open_capacitor, press, settle, type_into
from eider.commands.lands.rulebook_draft import with_change
from eider.desktop.app.window import MainWindow
from eider.desktop.rulebook.rulebook_page import RulebookPage
from eider.desktop.widgets.record_table import RecordView
from eider.library.documents.stored_rulebooks import rulebook_history


@pytest.fixture
def editor(window: MainWindow, qtbot: QtBot) -> RulebookPage:
    window.side.open_rulebook()
    assert window.side.rules
    qtbot.waitUntil(lambda: window.side.rules is not None and window.side.rules.affected.effects is not None)
    return window.side.rules


def row_of(table: RecordView, path: str) -> int:
    return next(i for i, r in enumerate(table.records.records) if path in r.paths)


def change(qtbot: QtBot, editor: RulebookPage, section: str, path: str, text: str) -> None:
    editor.sections.setCurrentItem(next(i for i in map(editor.sections.item, range(20)) if i and section in i.text()))
    editor.affected.effects = None
    row = row_of(editor.table, path)
    column = 2 + editor.table.records.records[row].paths.index(path)
    type_into(qtbot, editor.table, editor.table.records.index(row, column), text)
    qtbot.waitUntil(lambda: editor.affected.effects is not None)


def test_a_change_shows_its_effect_before_it_is_kept(editor: RulebookPage, window: MainWindow, qtbot: QtBot) -> None:
    change(qtbot, editor, "Lands, mask", "pads.mask_expansion", "0.07")
    assert editor.affected.effects
    assert len(editor.affected.effects.changed) == 3
    assert "would change" in editor.affected.summary.text()
    assert "1 change not saved" in editor.title.text()
    assert window.library.rulebook("standard").pads.mask_expansion == 0.05
    editor.note.setText("our mask wanders")
    press(qtbot, editor, "Save")
    settle(qtbot, window)
    assert window.library.rulebook("standard").pads.mask_expansion == 0.07
    assert [h.note for h in rulebook_history(window.library, "standard")] == ["our mask wanders"]
    first = editor.history.item(0)
    assert first and "our mask wanders" in first.text()


def test_without_a_note_nothing_is_kept(editor: RulebookPage, window: MainWindow, qtbot: QtBot) -> None:
    change(qtbot, editor, "Gaps", "clearances.mask_web", "0.1")
    press(qtbot, editor, "Save")
    settle(qtbot, window)
    assert "few words" in window.status.message.text()
    assert editor.draft.changes == {"clearances.mask_web": "0.1"}


def test_a_value_that_is_none_is_told_and_left(editor: RulebookPage, window: MainWindow, qtbot: QtBot) -> None:
    index = editor.table.records.index(0, 2)
    type_into(qtbot, editor.table, index, "much")
    assert "takes a number" in window.status.message.text()
    assert index.data() == "0.55"


def test_changes_are_undone_and_done_again(editor: RulebookPage, window: MainWindow, qtbot: QtBot) -> None:
    change(qtbot, editor, "Goals", "goals.0.outer.1", "0.4")
    window.steps.undo()
    assert editor.draft.changes == {}
    window.steps.redo()
    assert editor.draft.changes == {"goals.0.outer.1": "0.4"}
    press(qtbot, editor, "Discard")
    assert editor.draft.changes == {}


def test_a_new_rulebook_is_begun_and_a_bad_name_told(editor: RulebookPage, window: MainWindow, qtbot: QtBot) -> None:
    editor.new_name.setText("a/b")
    press(qtbot, editor, "Create")
    settle(qtbot, window)
    assert "not a name for a rulebook" in window.status.message.text()
    editor.new_name.setText("dense")
    press(qtbot, editor, "Create")
    qtbot.waitUntil(lambda: editor.draft.name == "dense")
    names = [item.text() for item in map(editor.names.item, range(editor.names.count())) if item]
    assert names == ["standard", "dense"]


def test_the_open_part_is_made_anew_by_what_is_kept(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    before = page.controller.bundle.footprint.pattern
    window.side.open_rulebook()
    editor = window.side.rules
    assert editor and before
    qtbot.waitUntil(lambda: editor.affected.effects is not None)
    change(qtbot, editor, "Lands, mask", "pads.mask_expansion", "0.1")
    editor.note.setText("wider mask")
    press(qtbot, editor, "Save")
    settle(qtbot, window)
    press(qtbot, editor, "← Shelf")
    assert window.page is page
    after = page.controller.bundle.footprint
    assert after.pattern and after.pattern.pads[0].mask != before.pads[0].mask
    assert after.rulebook_revision == 2


def test_effects_of_a_draft_that_has_changed_since_are_dropped(
    editor: RulebookPage, window: MainWindow, qtbot: QtBot
) -> None:
    panel, kept = editor.affected, editor.draft
    first, second = (with_change(kept, "pads.mask_expansion", text) for text in ("0.06", "0.05"))
    panel.effects = None
    panel.look_at(first)
    panel._look()
    # Typed back to what it was, before the library has been looked through.
    panel._draft = second
    settle(qtbot, window)
    assert panel.effects is None
    panel._draft = None
    panel._look()
    settle(qtbot, window)
    assert panel.effects is None
    panel._draft = kept
