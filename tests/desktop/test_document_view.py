"""The datasheet view at its limits: documents in quick succession, little memory, pages that cannot be read."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, document_at, open_capacitor, open_step, press, settle, wheel
from eider.commands.packages import package_edits
from eider.datasheets.pages.document import Datasheet
from eider.desktop.app.window import MainWindow
from eider.desktop.datasheet import page_source, snippets
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.jobs import Jobs
from eider.desktop.part.steps.package.step import PackageStep
from eider.desktop.part.steps.review.step import ReviewStep
from eider.desktop.theme import Theme
from eider.errors import EiderError
from eider.model.package_sheet import DatasheetPicture


@pytest.fixture
def view(qtbot: QtBot, prepared: Path) -> Iterator[DatasheetView]:
    """A view of the converter's datasheet."""
    jobs = Jobs()
    made = DatasheetView(Theme("light"), jobs)
    qtbot.addWidget(made)
    made.resize(500, 600)
    made.show()
    made.open(document_at(prepared / "NVK-1216T.pdf"))
    qtbot.waitUntil(lambda: made.page == 1)
    yield made
    made.show_nothing("")
    qtbot.waitUntil(lambda: jobs.is_idle)
    jobs.close()


def test_the_same_document_is_turned_to_a_page(view: DatasheetView, qtbot: QtBot, prepared: Path) -> None:
    path = prepared / "NVK-1216T.pdf"
    view.open(document_at(path), page=3)
    assert view.page == 3
    view.open(document_at(path))
    assert view.page == 3
    # While it is being opened, the page that was asked for last counts.
    view.open(document_at(prepared / "LYN-C.pdf"))
    view.open(document_at(prepared / "LYN-C.pdf"), page=2)
    qtbot.waitUntil(lambda: view.page == 2)


def test_of_two_documents_in_quick_succession_the_last_is_shown(
    view: DatasheetView, qtbot: QtBot, prepared: Path
) -> None:
    view.open(document_at(prepared / "LYN-C.pdf"))
    view.open(document_at(prepared / "NVK-1216T.pdf"), page=4)
    qtbot.waitUntil(lambda: view.page == 4)
    assert view.key == "NVK-1216T"


def test_places_that_are_not_there_move_nothing(view: DatasheetView) -> None:
    view.turn_to(2)
    view.area.bring_into_view(99, (0, 0, 10, 10))
    view.area.bring_into_view(0, (0, 0, 10, 10))
    assert view.page == 2


def test_with_little_memory_pages_come_and_go(
    view: DatasheetView, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(page_source, "MOST_BYTES", 1)
    monkeypatch.setattr(page_source, "MOST_TEXTS", 1)
    for page in (2, 3, 4, 1):
        view.turn_to(page)
        qtbot.waitUntil(lambda page=page: view.source.text(page) is not None)
    assert view.source.text(1) is not None
    assert view.source.text(3) is None


def test_a_page_that_cannot_be_read_is_told(view: DatasheetView, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    def refuse(*_a: object) -> None:
        raise EiderError("page 4 is damaged")

    monkeypatch.setattr(Datasheet, "read", refuse)
    with qtbot.waitSignal(view.source.unread) as told:
        view.read_click(4, 10, 10, "length", lambda _click: None)
    assert told.args == ["page 4 is damaged"]
    view.show_nothing("nothing")
    view.read_click(1, 10, 10, "length", lambda _click: None)
    view.search.find_text("anything")
    assert view.search.hits == 0


def test_the_plain_wheel_scrolls(view: DatasheetView) -> None:
    port = view.area.viewport()
    scale = view.area.scale
    QApplication.sendEvent(port, wheel(port, -2))
    assert view.area.bar(Qt.Orientation.Vertical).value() > 0
    assert view.area.scale == scale


def test_pictures_of_values_come_and_go_with_little_memory(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    page = open_capacitor(qtbot, window, "1608")
    monkeypatch.setattr(snippets, "MOST_KEPT", 2)
    kept = snippets.DatasheetSnippets(window.jobs, window.library, window)
    evidence = [d.evidence for d in page.controller.bundle.sheet.dims.values()]
    assert len(evidence) == 4
    for each in evidence:
        assert kept.of(each) is None
    settle(qtbot, window)
    # The last two are there; those before had to make room, and what came for them later is dropped.
    assert [picture is not None for picture in kept._kept.values()] == [True, True]
    assert kept.of(evidence[-1]) is not None
    kept.close()
    settle(qtbot, window)


def test_the_proof_says_why_it_is_not_there(make_window: MakeWindow, qtbot: QtBot) -> None:
    window = make_window()
    page = open_capacitor(qtbot, window, "1608")
    page.controller.edit("L", lambda b: package_edits.set_family(b, "gullwing-quad"))
    settle(qtbot, window)
    step = open_step(page, 7)
    assert isinstance(step, ReviewStep)
    step._no_proof(EiderError("the kernel gave up"))
    assert step.proof.area.hint == "no proof: the kernel gave up"
    # Nothing is selected among the revisions.
    step._history.clearSelection()
    press(qtbot, step, "Open this revision (read-only)")
    settle(qtbot, window)
    assert window.page is page


def test_a_picture_without_a_scale_or_a_length_says_what_to_do(window: MainWindow, qtbot: QtBot) -> None:
    page = open_capacitor(qtbot, window, "1608")
    sha = page.controller.bundle.part.datasheets[0].sha256
    step = open_step(page, 2)
    assert isinstance(step, PackageStep)
    pictures = step.pictures
    # Without a picture there is no place in a page.
    assert pictures.view.to_page(QPointF(5, 5)) == (0.0, 0.0)
    qtbot.mousePress(pictures.view, Qt.MouseButton.LeftButton, pos=QPoint(5, 5))
    picture = DatasheetPicture(sha, 1, (50.0, 50.0, 300.0, 300.0))
    page.controller.edit("picture", lambda b: package_edits.add_picture(b, picture))
    settle(qtbot, window)
    step.right.setCurrentIndex(1)
    settle(qtbot, window)
    pictures.over_button.setChecked(True)
    pictures._draw()
    assert "Set the scale first" in pictures._say.text()
    pictures.length.setText("wide")
    pictures._measured((0.0, 0.0), (10.0, 0.0))
    assert pictures._say.text().startswith("Length between the two points")
    pictures.letter.setCurrentText("D")
    pictures._fill_length()
    assert pictures.length.text() == "1.6"
