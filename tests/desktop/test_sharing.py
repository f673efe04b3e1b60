"""A shared library in the window: shared, synchronised, claimed, given back, a conflict settled."""

from collections.abc import Callable
from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_step, press, settle
from eider.commands.facts.fact_edits import set_fact
from eider.demo.parts import LIBRARIAN
from eider.desktop.app.window import MainWindow
from eider.desktop.compare.compare_page import ComparePage
from eider.desktop.part.steps.review.step import ReviewStep
from eider.evidence.evidence_changes import confirm_values
from eider.library import Library, open_library
from eider.model.address import FactAddress
from eider.services.releasing.part_releasing import release_part
from eider.services.sharing.claims import claim_part
from eider.services.sharing.reviews import request_review
from eider.services.sharing.synchronising import open_shared, share_library, synchronise
from shared_libraries import REVIEWER, bare_server, change_fact

NAME = "LYN-C1608-100N"


@pytest.fixture
def shared(folder: Path) -> Library:
    """The library of the window is shared; someone else has it open too."""
    address = f"file://{bare_server(folder / 'server.git')}"
    ours = open_library(folder / "library")
    share_library(ours, address)
    ours.close()
    return open_shared(address, folder / "theirs", REVIEWER)


def _run(window: MainWindow, action: str) -> None:
    next(a for a in window.actions_list if a.id == action).run()


def _until(qtbot: QtBot, check: Callable[[], bool]) -> None:
    qtbot.waitUntil(check, timeout=20_000)


def test_a_library_is_shared_in_the_window(window: MainWindow, qtbot: QtBot, folder: Path, tmp_path: Path) -> None:
    settle(qtbot, window)
    assert window.shared_state.text() == "library on this machine"
    _run(window, "library.share")
    dialog = window.sharing.dialog
    assert dialog is not None and not dialog.act.isEnabled()
    dialog.line.setText(f"file://{tmp_path}/nowhere.git")
    press(qtbot, dialog, "Share")
    _until(qtbot, lambda: "no git repository at this address" in dialog._fault.text())
    dialog.line.setText(str(bare_server(tmp_path / "server.git")))
    press(qtbot, dialog, "Share")
    _until(qtbot, lambda: "synchronised" in window.shared_state.text())
    assert not dialog.isVisible()
    _run(window, "library.sync")
    _until(qtbot, lambda: "Synchronised: 0 parts received" in window.status.message.text())
    settle(qtbot, window)


def test_a_shared_library_is_opened_by_its_address(
    window: MainWindow, qtbot: QtBot, shared: Library, tmp_path: Path
) -> None:
    opened: list[Library] = []
    window.library_opened.connect(opened.append)
    _run(window, "library.open_shared")
    dialog = window.sharing.address_dialog
    assert dialog is not None and not dialog.act.isEnabled()
    dialog.address.setText(f"file://{tmp_path}/nowhere.git")
    assert dialog.folder.text() == str(window.library.folder.parent / "nowhere")
    press(qtbot, dialog, "Open")
    _until(qtbot, lambda: "no git repository at this address" in dialog.told.text())
    dialog.address.setText(f"file://{window.library.folder.parent / 'server.git'}")
    dialog.folder.setText(str(tmp_path / "mine"))
    dialog.name.setText("Skerry reviewer")
    dialog.email.setText("reviewer@skerry.example")
    press(qtbot, dialog, "Open")
    _until(qtbot, lambda: bool(opened))
    assert opened[0].folder == tmp_path / "mine" and opened[0].has_part(NAME)
    assert opened[0].person() == REVIEWER and not dialog.isVisible()


def test_a_part_is_claimed_and_given_back(make_window: MakeWindow, qtbot: QtBot, shared: Library) -> None:
    window = make_window()
    _until(qtbot, lambda: "synchronised" in window.shared_state.text())
    window.open_part(window.library.find(NAME).id)
    _until(qtbot, lambda: window.page is not None)
    page = window.page
    assert page
    settle(qtbot, window)
    press(qtbot, page, "Claim…")
    dialog = window.sharing.dialog
    assert dialog is not None
    dialog.line.setText("wider lands")
    press(qtbot, dialog, "Claim")
    _until(qtbot, lambda: "claimed by you" in page._state.text())
    assert page._state.toolTip() == "wider lands"
    synchronise(shared)
    with pytest.raises(Exception, match="claimed by Skerry librarian"):
        release_part(shared, change_fact(shared, shared.find(NAME).id, "Shelf", "B2"), "B2")
    press(qtbot, page, "Give the claim back")
    _until(qtbot, lambda: "claimed" not in page._state.text())
    window.close_part()
    settle(qtbot, window)
    assert window.library.person() == LIBRARIAN


def test_who_holds_a_part_is_on_the_shelf_and_it_cannot_be_claimed(
    make_window: MakeWindow, qtbot: QtBot, shared: Library
) -> None:
    claim_part(shared, shared.find(NAME).id, NAME, "theirs now")
    window = make_window()
    _until(qtbot, lambda: bool(window.context.claims))
    settle(qtbot, window)
    place = window.shelf.table._keys.index("claim")
    column = window.shelf.table.records.columns[place]
    assert [column.show(row) for row in window.shelf.shown if row.name == NAME] == ["Skerry reviewer"]
    window.shelf.table._sort(place)
    assert window.shelf.table.order is None
    window.open_part(window.library.find(NAME).id)
    _until(qtbot, lambda: window.page is not None)
    settle(qtbot, window)
    assert window.page and not window.page._claim_button.isEnabled()
    assert "claimed by Skerry reviewer" in window.page._state.text()


@pytest.mark.parametrize(
    ("button", "shelf"),
    [("Yours: release it after theirs", "A7"), ("Keep theirs and discard my working copy", "B2")],
)
def test_what_others_release_comes_in_and_a_conflict_is_settled(
    make_window: MakeWindow, qtbot: QtBot, shared: Library, button: str, shelf: str
) -> None:
    window = make_window()
    _until(qtbot, lambda: "synchronised" in window.shared_state.text())
    settle(qtbot, window)
    library = window.library
    part_id = library.find(NAME).id
    change_fact(library, part_id, "Shelf", "A7")
    release_part(shared, change_fact(shared, part_id, "Shelf", "B2"), "B2")
    _run(window, "library.sync")
    _until(qtbot, lambda: window.sharing.can_settle())
    assert "Settle a conflict" in window.status.message.text()
    settle(qtbot, window)
    _run(window, "library.settle")
    _until(qtbot, lambda: window.sharing.settle_dialog is not None)
    first = window.sharing.settle_dialog
    assert first
    press(qtbot, first, "Compare")
    compare = window.side.page
    assert isinstance(compare, ComparePage)
    _until(qtbot, lambda: compare.found is not None)
    assert (compare.found.left, compare.found.right) == (f"{NAME}, revision 2", f"{NAME}, working copy")  # type: ignore[union-attr]
    window.side.close()
    _run(window, "library.settle")
    _until(qtbot, lambda: window.sharing.settle_dialog is not first)
    dialog = window.sharing.settle_dialog
    assert dialog and any("Shelf" in dialog.list.item(i).text() for i in range(dialog.list.count()))  # type: ignore[union-attr]
    press(qtbot, dialog, button)
    _until(qtbot, lambda: not window.sharing.can_settle())
    settle(qtbot, window)
    assert library.load(part_id).part.facts["Shelf"].value == shelf


def test_a_server_that_is_gone_is_told_and_work_goes_on(
    make_window: MakeWindow, qtbot: QtBot, shared: Library, folder: Path
) -> None:
    (folder / "server.git").rename(folder / "gone.git")
    window = make_window()
    _until(qtbot, lambda: "not synchronised" in window.shared_state.text())
    assert "no git repository" in window.shared_state.toolTip()
    _run(window, "library.sync")
    _until(qtbot, lambda: "no git repository" in window.status.message.text())
    assert [row.name for row in window.shelf.shown]


def test_a_review_is_requested_seen_ticked_and_approved(
    make_window: MakeWindow, qtbot: QtBot, shared: Library, folder: Path
) -> None:
    window = make_window()
    _until(qtbot, lambda: "synchronised" in window.shared_state.text())
    settle(qtbot, window)
    # The reviewer of the window looks at what the other one changed.
    part_id = shared.find(NAME).id
    change_fact(shared, part_id, "Shelf", "B2")
    request_review(shared, part_id, "it lies in B2 now")
    _run(window, "library.waiting")
    _until(qtbot, lambda: window.sharing.waiting_dialog is not None)
    dialog = window.sharing.waiting_dialog
    assert dialog is not None and "it lies in B2 now" in dialog.list.item(0).text()  # type: ignore[union-attr]
    press(qtbot, dialog, "Open")
    _until(qtbot, lambda: window.page is not None)
    page = window.page
    assert page
    settle(qtbot, window)
    assert "requested by Skerry reviewer" in page._state.text()
    step = page.current
    assert isinstance(step, ReviewStep)
    panel = step.review
    assert step.left_tabs.currentWidget() is panel and not step.release_button.isEnabled()
    assert not panel.request_button.isVisible() and panel.approve_button.isEnabled()
    panel.note.setText("too near the edge")
    panel.place.setText("nowhere at all")
    press(qtbot, panel, "Add this note")
    assert panel.say.text()
    panel.place.setText("lands.pads.1")
    press(qtbot, panel, "Add this note")
    assert any("too near" in panel.steps.item(i).text() for i in range(panel.steps.count()))  # type: ignore[union-attr]
    page.controller.edit("x", lambda b: confirm_values(b, [FactAddress("Capacitance")], "Skerry engineer"))
    settle(qtbot, window)
    assert window.library.copies.load(part_id) is None, "a part that is looked at is put on no disk"
    panel.note.setText("as in the datasheet")
    press(qtbot, panel, "Approve")
    _until(qtbot, lambda: panel.state.text().startswith("Approved by"))
    settle(qtbot, window)
    shown = [panel.steps.item(i) for i in range(panel.steps.count())]
    panel._go_to(next(item for item in shown if item and "too near" in item.text()))
    assert any(item and "Shelf added: B2" in item.text() for item in shown)
    assert page.current.key == "lands"
    window.close_part()
    settle(qtbot, window)
    synchronise(shared)
    evidence = shared.load(part_id).part.facts["Capacitance"].evidence
    assert evidence and evidence.confirmed_by == "Skerry engineer"


def test_a_review_is_requested_and_taken_back_in_the_window(
    make_window: MakeWindow, qtbot: QtBot, shared: Library
) -> None:
    window = make_window()
    _until(qtbot, lambda: "synchronised" in window.shared_state.text())
    settle(qtbot, window)
    window.open_part(window.library.find(NAME).id)
    _until(qtbot, lambda: window.page is not None)
    page = window.page
    assert page
    page.controller.edit("Shelf", lambda b: set_fact(b, "Shelf", "A7"))
    open_step(page, 7)
    step = page.current
    assert isinstance(step, ReviewStep)
    panel = step.review
    step.left_tabs.setCurrentWidget(panel)
    press(qtbot, panel, "Request review")
    _until(qtbot, lambda: "the reviewer reads it first" in panel.say.text())
    panel.note.setText("A7 now")
    press(qtbot, panel, "Request review")
    _until(qtbot, lambda: panel.state.text().startswith("In review"))
    assert not panel.request_button.isEnabled()
    part = window.library.find(NAME)
    _until(qtbot, lambda: window.shelf.table._state(part) == "in review")
    press(qtbot, panel, "Cancel the request")
    _until(qtbot, lambda: panel.state.text() == "Not in review")
    _until(qtbot, lambda: window.shelf.table._state(part) == "changed")
    settle(qtbot, window)


def test_roles_are_given_in_the_window(window: MainWindow, qtbot: QtBot) -> None:
    _run(window, "library.people")
    dialog = window.tasks.people
    assert dialog is not None and not dialog.save_button.isEnabled()
    dialog.email.setText(LIBRARIAN.email)
    press(qtbot, dialog, "Add")
    dialog.email.setText("mei@skerry.example")
    press(qtbot, dialog, "Add")
    assert dialog.people == {LIBRARIAN.email: "librarian", "mei@skerry.example": "engineer"}
    dialog.table.model().setData(dialog.table.model().index(0, 1), "reader")
    assert "nobody would be a librarian" in dialog.fault.text()
    dialog.table.model().setData(dialog.table.model().index(0, 1), "librarian")
    dialog.review.setChecked(True)
    assert not dialog.save_button.isEnabled()
    dialog.note.setText("four hands now")
    press(qtbot, dialog, "Save")
    _until(qtbot, lambda: not dialog.isVisible())
    assert window.library.settings.people["mei@skerry.example"] == "engineer"
    assert open_library(window.library.folder).settings.review == "required"
