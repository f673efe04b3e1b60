"""Where used, and moving parts to a newer revision, in the window; a part withdrawn and used again on the Shelf."""

from pytestqt.qtbot import QtBot

from desktop_helpers import choose, press, settle
from eider.commands.lands.footprint_edits import adjust_pad
from eider.commands.parts.evaluation import rerun_recipes
from eider.commands.parts.variants import new_variant
from eider.desktop.app.window import MainWindow
from eider.desktop.impact.impact_page import ImpactPage
from eider.model.footprint import Adjustment
from eider.services.releasing.part_releasing import release_part

NAME, TWIN = "LYN-C1608-100N", "LYN-C1608-100N-T"


def _take(window: MainWindow, qtbot: QtBot, name: str) -> None:
    window.shelf.refresh()
    settle(qtbot, window)
    window.shelf.table.select_where(lambda r: r.name == name)


def test_parts_that_want_another_look_are_listed_and_moved(window: MainWindow, qtbot: QtBot) -> None:
    library = window.library
    part = library.load(library.find(NAME).id)
    twin = new_variant(part, "number", TWIN, {}, library.settings, "x", "2026-11-28T00:00:00Z")
    release_part(library, twin, "on reels")
    wide = adjust_pad(adjust_pad(part, Adjustment("1", "height", "1.0")), Adjustment("2", "height", "1.0"))
    release_part(library, rerun_recipes(wide, library.rulebook()), "wider")
    _take(window, qtbot, NAME)
    choose(window.shelf, "More", "Where used…")
    page = window.side.page
    assert isinstance(page, ImpactPage)
    qtbot.waitUntil(lambda: bool(page.uses), timeout=10_000)
    first = page.table.records.records[0]
    assert (first.part.name, first.part.is_behind, first.use.kind) == (TWIN, True, "footprint")
    assert "1 need review" in page.hint.text()
    press(qtbot, page, "Show what would change")
    qtbot.waitUntil(lambda: bool(page.impacts), timeout=20_000)
    assert any("of pad 1 changed" in page.changes.item(i).text() for i in range(page.changes.count()))  # type: ignore[union-attr]
    page.table.select_rows([len(page.table.records.records) - 1])
    press(qtbot, page, "Move the selected parts to the newest revision")
    assert "None of the selected" in page.hint.text()
    page.table.select_rows([0])
    press(qtbot, page, "Move the selected parts to the newest revision")
    qtbot.waitUntil(lambda: "1 working copy made" in page.hint.text(), timeout=20_000)
    assert library.load(library.find(TWIN).id).part.footprint.revision == 2
    press(qtbot, page, "← Shelf")
    settle(qtbot, window)


def test_a_part_is_withdrawn_and_used_again(window: MainWindow, qtbot: QtBot) -> None:
    _take(window, qtbot, NAME)
    choose(window.shelf, "More", "Withdraw this part…")
    dialog = window.tasks.withdraw_dialog
    assert dialog is not None and not dialog.act.isEnabled()
    dialog.reason.setText("the maker stopped")
    dialog.successor.setText("unheard-of")
    press(qtbot, dialog, "Withdraw")
    qtbot.waitUntil(lambda: "no part “unheard-of”" in dialog._fault.text(), timeout=10_000)
    dialog.successor.setText("LYN-C2012-100N")
    press(qtbot, dialog, "Withdraw")
    qtbot.waitUntil(lambda: "is withdrawn, revision 2" in window.status.message.text(), timeout=10_000)
    settle(qtbot, window)
    assert NAME not in [row.name for row in window.shelf.shown]
    window.open_part(window.library.find(NAME).id)
    qtbot.waitUntil(lambda: window.page is not None, timeout=10_000)
    assert window.page and "the maker stopped" in window.page._state.text()
    settle(qtbot, window)
    window.tasks.withdraw_part(window.library.find(NAME))
    again = window.tasks.withdraw_dialog
    assert again is not None
    again.reason.setText("a stock was found")
    press(qtbot, again, "Use it again")
    qtbot.waitUntil(lambda: "is used again, revision 3" in window.status.message.text(), timeout=10_000)
    settle(qtbot, window)
