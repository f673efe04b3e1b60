"""The window in tests: on a small library, closed at the end of each, with nothing left behind."""

import shutil
import sys
import threading
import traceback
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QSettings
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from desktop_helpers import MakeWindow, settle
from eider.demo.build import attach
from eider.demo.catalogue import demo_service
from eider.demo.data import chips
from eider.demo.parts import LIBRARIAN, chip_part
from eider.demo.sheets import write_chip_datasheet, write_converter_datasheet
from eider.desktop.app.start import make_application
from eider.desktop.app.window import MainWindow
from eider.library import init_library, open_library
from eider.library.git.git_program import run_git
from eider.services.releasing.part_releasing import release_part


class KeptExecutor(Executor):
    """The kernel in a thread that outlives a window: a process for each would take seconds to start."""

    def __init__(self) -> None:
        self._pool = ThreadPoolExecutor(1)

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Any:
        return self._pool.submit(fn, *args, **kwargs)

    def shutdown(self, wait: bool = True, *, cancel_futures: bool = False) -> None:
        """Kept for the next window."""


@pytest.fixture(scope="session")
def kernel() -> KeptExecutor:
    return KeptExecutor()


@pytest.fixture(scope="session")
def prepared(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A library with three released capacitors, and the datasheets of the demo."""
    folder = tmp_path_factory.mktemp("prepared")
    write_converter_datasheet(folder / "NVK-1216T.pdf")
    write_chip_datasheet(folder / "LYN-C.pdf")
    library = init_library(folder / "library", "Skerry Fieldworks", LIBRARIAN)
    link, series = attach(library, folder / "LYN-C.pdf", 2), chips()
    for size in series.sizes:
        release_part(library, chip_part(library, series, size, "100 nF", link), "first release")
    library.close()
    # Packed, it is copied for each test in a tenth of the time.
    run_git(library.folder, ["gc", "--quiet"])
    return folder


@pytest.fixture
def folder(prepared: Path, tmp_path: Path) -> Path:
    copy = tmp_path / "desk"
    shutil.copytree(prepared, copy)
    return copy


@pytest.fixture(autouse=True)
def settings_apart(tmp_path: Path) -> None:
    """What a test changes of the settings is not the user's."""
    QSettings.setPath(QSettings.Format.NativeFormat, QSettings.Scope.UserScope, str(tmp_path / "settings"))


@pytest.fixture
def make_window(qtbot: QtBot, qapp: QApplication, folder: Path, kernel: KeptExecutor) -> Iterator[MakeWindow]:
    """Opens the window on the library; at the end it is closed and must leave no window and no thread behind."""
    make_application()
    windows: list[MainWindow] = []

    def make(catalogue: str = "", *, real_kernel: bool = False) -> MainWindow:
        window = MainWindow(open_library(folder / "library"), catalogue)
        if not real_kernel:
            window.jobs._executors["kernel"] = kernel
        windows.append(window)
        # The screen of tests is smaller than the window is meant to be.
        window.resize(1280, 800)
        window.show()
        qtbot.waitExposed(window)
        settle(qtbot, window)
        return window

    yield make
    with ExitStack() as closing:
        # One that does not settle, or has something unsaved, must not fail the tests after it.
        for window in windows:
            closing.callback(_close, window)
        for window in windows:
            settle(qtbot, window)
    qtbot.waitUntil(lambda: not [w for w in QApplication.topLevelWidgets() if w.isVisible()], timeout=3000)
    # Closing waits for nobody but who writes to the library; the others end with what they have in hand.
    try:
        qtbot.waitUntil(lambda: not _working_threads(), timeout=10_000)
    except qtbot.TimeoutError as fault:
        raise AssertionError(_where_threads_are()) from fault


def _close(window: MainWindow) -> None:
    window.discard_unsaved()
    window.close()
    window.deleteLater()


def _working_threads() -> list[threading.Thread]:
    return [thread for thread in threading.enumerate() if thread.name.startswith("eider-")]


def _where_threads_are() -> str:
    """What each thread that a window left behind is doing."""
    frames = sys._current_frames()
    told = [
        "".join([f"{thread.name} has not ended:\n", *traceback.format_stack(frames[thread.ident])])
        for thread in _working_threads()
        if thread.ident in frames
    ]
    return "\n".join(told)


@pytest.fixture
def window(make_window: MakeWindow) -> MainWindow:
    return make_window()


@pytest.fixture
def catalogue() -> Iterator[str]:
    service = demo_service()
    yield service.address
    service.close()
