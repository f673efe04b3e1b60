"""The timeline in the window: filters, an old state opened, and the audit as a file."""

from pathlib import Path

from pytestqt.qtbot import QtBot

from desktop_helpers import press, settle
from eider.commands.facts import fact_edits
from eider.desktop.app.window import MainWindow
from eider.desktop.timeline.timeline_page import TimelinePage
from eider.services.releasing.part_releasing import release_part

NAME = "LYN-C1608-100N"


def test_revisions_are_filtered_opened_and_saved(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    library = window.library
    part = library.load(library.find(NAME).id)
    release_part(library, fact_edits.set_fact(part, "Tolerance", "5 %"), "tolerance corrected")
    released = sum(row.revision for row in library.search())
    window.side.open_timeline()
    page = window.side.page
    assert isinstance(page, TimelinePage)
    qtbot.waitUntil(lambda: page.hint.text() == f"{released} revisions", timeout=10_000)
    page.words.setText("lyn corrected")
    qtbot.waitUntil(lambda: page.hint.text() == "1 revision", timeout=10_000)
    page.all_kinds.setChecked(True)
    page.words.setText("")
    qtbot.waitUntil(lambda: len(page.table.records.records) > released, timeout=10_000)
    page.save(tmp_path / "audit.csv")
    qtbot.waitUntil(lambda: "saved as" in page.hint.text(), timeout=10_000)
    assert len((tmp_path / "audit.csv").read_text().splitlines()) == len(page.table.records.records) + 1
    page.table.select_where(lambda r: r.kind == "symbol")
    press(qtbot, page, "Open this state (read-only)")
    assert "Where used" in page.hint.text()
    page.table.select_where(lambda r: r.kind == "part" and r.id == part.part.id and r.revision == 1)
    press(qtbot, page, "Open this state (read-only)")
    qtbot.waitUntil(lambda: window.page is not None, timeout=20_000)
    assert window.page is not None and window.page.controller.session.read_only
    assert window.page.controller.bundle.part.facts["Tolerance"].value == "10 %"
    settle(qtbot, window)
