"""The Qt thread touches no disk, no database, no git and no network while someone works."""

import sys
import threading
import traceback
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, open_step, settle
from eider.commands.packages import package_edits
from eider.demo.parts import converter_part
from eider.desktop.app.window import MainWindow
from eider.library.documents.working_copies import WorkingCopies, WorkingCopy
from eider.library.git.versions import Versions
from eider.library.index.index_reader import IndexReader
from eider.library.index.part_index import Index
from eider.library.library_files import LibraryFiles
from eider.model.part import DatasheetLink

# What Python itself tells of: files below the library's folder, folders, processes and the network.
FILES = frozenset({"open", "os.listdir", "os.scandir", "os.mkdir", "os.rename", "os.remove"})
OTHERS = frozenset({"socket.connect", "sqlite3.connect", "subprocess.Popen"})


class Watch:
    """Notes what the thread that made it does outside itself, while it is on."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.is_on, self.found = str(folder), True, []
        self._thread = threading.get_ident()
        sys.addaudithook(self._heard)

    def note(self, what: str) -> None:
        if self.is_on and threading.get_ident() == self._thread:
            self.found.append(f"{what}\n{''.join(traceback.format_stack(limit=7)[:-2])}")

    def _heard(self, event: str, details: tuple[Any, ...]) -> None:
        if not self.is_on:
            return
        if event in OTHERS or (event in FILES and str(details[0]).startswith(self.folder)):
            self.note(f"{event} {details[:1]}")


def _noting(watch: Watch, name: str, function: Callable[..., Any]) -> Callable[..., Any]:
    def called(*args: Any, **kwargs: Any) -> Any:
        watch.note(name)
        return function(*args, **kwargs)

    return called


@pytest.fixture
def watch(folder: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Watch]:
    made = Watch(folder)
    made.is_on = False
    # SQLite's statements and git tell nobody, and a file that is opened from its folder tells only its name: every way
    # to them of the library is asked instead.
    for owner in (Index, IndexReader, LibraryFiles, Versions, WorkingCopies):
        for name, function in vars(owner).items():
            # A path is put together without looking at the disk.
            if callable(function) and not name.startswith("_") and name != "path":
                monkeypatch.setattr(owner, name, _noting(made, f"{owner.__name__}.{name}", function))
    yield made
    made.is_on = False


@pytest.fixture
def window(make_window: MakeWindow, watch: Watch) -> MainWindow:
    window = make_window()
    part = converter_part(window.library, DatasheetLink("0" * 64, "NVK-1216T.pdf"))
    window.library.copies.save(WorkingCopy(bundle=part, findings={}))
    watch.is_on = True
    window.open_part(part.part.id)
    return window


def test_the_watch_sees_what_the_qt_thread_opens(window: MainWindow, watch: Watch, folder: Path) -> None:
    (folder / "library" / "eider-library.toml").read_bytes()
    window.library.index.search(())
    window.library.files.read("eider-library.toml")
    assert {"open", "IndexReader.search", "LibraryFiles.read"} <= {found.split()[0] for found in watch.found}


def test_a_walk_through_the_window_leaves_the_qt_thread_to_itself(
    window: MainWindow, watch: Watch, qtbot: QtBot
) -> None:
    settle(qtbot, window)
    page = window.page
    assert page
    for step in range(8):
        open_step(page, step)
        page.controller.edit("D", lambda b: package_edits.set_dimension(b, "D", "4.9–5.1"), "walk")
        settle(qtbot, window)
    page.toggle_datasheet()
    page.controller.undo()
    settle(qtbot, window)
    window.close_part()
    qtbot.keyClicks(window.shelf.search, "1608")
    settle(qtbot, window)
    qtbot.keyClick(window.shelf.search, Qt.Key.Key_Return)
    settle(qtbot, window)
    window.side.open_rulebook()
    settle(qtbot, window)
    assert not watch.found, "\n".join(watch.found)
