"""How the window starts, makes way for another library, and tells a fault of its own."""

import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from desktop_helpers import settle
from eider.demo.parts import LIBRARIAN
from eider.desktop.app.start import LibraryWindows, last_library
from eider.desktop.settings import DesktopSettings
from eider.library import init_library, open_library
from eider.services.tasks import BackgroundWork, Task


@pytest.fixture
def windows(folder: Path, qtbot: QtBot) -> Iterator[LibraryWindows]:
    """A window on the prepared library."""
    made = LibraryWindows()
    made.show(open_library(folder / "library"), "Welcome")
    assert made.window
    settle(qtbot, made.window)
    yield made
    made.window.close()


def test_another_library_takes_the_place_of_the_window(windows: LibraryWindows, qtbot: QtBot, tmp_path: Path) -> None:
    first = windows.window
    assert first
    assert first.status.message.text() == "Welcome"
    init_library(tmp_path / "other", "Holm boat shed", LIBRARIAN).close()
    first.open_library(tmp_path / "other")
    qtbot.waitUntil(lambda: windows.window is not first)
    assert windows.window
    settle(qtbot, windows.window)
    assert windows.window.windowTitle() == "Holm boat shed – Eider"
    assert [w for w in QApplication.topLevelWidgets() if w.isVisible()] == [windows.window]


def test_work_can_begin_with_the_window(windows: LibraryWindows, qtbot: QtBot, folder: Path) -> None:
    done: list[str] = []

    def work(task: Task) -> None:
        task.report(0.5, "halfway")
        done.append("work")

    window = windows.show(open_library(folder / "library"), background=BackgroundWork("Working", work))
    settle(qtbot, window)
    assert done == ["work"]


def test_a_fault_of_its_own_is_told_with_where_its_details_are(
    windows: LibraryWindows, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    windows.report_faults()
    try:
        raise ZeroDivisionError("by nothing")
    except ZeroDivisionError as fault:
        sys.excepthook(type(fault), fault, fault.__traceback__)
    assert windows.window
    assert "The details are in" in windows.window.status.message.text()


def test_the_last_library_is_the_newest_that_is_still_there(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings = DesktopSettings()
    (tmp_path / "older").mkdir()
    settings.remember_library(tmp_path / "older")
    settings.remember_library(tmp_path / "gone")
    assert last_library() == tmp_path / "older"
    (tmp_path / "older").rmdir()
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_a: str(tmp_path))
    assert last_library() == tmp_path
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_a: "")
    assert last_library() is None
