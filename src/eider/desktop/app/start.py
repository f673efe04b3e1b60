"""Starts the window."""

import gc
import sys
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QObject
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import QApplication, QFileDialog

from eider.desktop.app.window import MainWindow, run_background
from eider.desktop.settings import DesktopSettings
from eider.desktop.theme import Theme, number_font, ui_font
from eider.errors import EiderError
from eider.library import Library, open_library
from eider.services.crash_log import crash_words, log_crash
from eider.services.tasks import BackgroundWork

GARBAGE_THRESHOLDS = (20_000, 50, 50)
ICON = Path(__file__).parent.parent / "eider.svg"


def make_application() -> QApplication:
    """The Qt application in Eider's look."""
    application = QApplication.instance()
    if not isinstance(application, QApplication):
        application = QApplication(sys.argv[:1])
    application.setApplicationName("Eider")
    # By this the desktop finds the entry in its menu, and with it the icon.
    application.setDesktopFileName("eider")
    application.setWindowIcon(QIcon(str(ICON)))
    application.setFont(number_font(ui_font()))
    Theme(DesktopSettings().appearance).apply(application)
    # Documents and drawings are many values without cycles: looking through all of them in vain held a change up for
    # 50 ms with 1,024 balls open.
    gc.set_threshold(*GARBAGE_THRESHOLDS)
    return application


def last_library() -> Path | None:
    """The library that was open last; without one the user chooses a folder, and None says that none was chosen.

    Needs the Qt application: the dialog is a widget.
    """
    known = [path for path in DesktopSettings().recent_libraries if path.is_dir()]
    if known:
        return known[0]
    folder = QFileDialog.getExistingDirectory(None, "Choose a library")
    return Path(folder) if folder else None


class LibraryWindows(QObject):
    """The one window, which makes way for another when another library is opened."""

    def __init__(self, catalogue: str = "") -> None:
        super().__init__()
        self._catalogue = catalogue
        self.window: MainWindow | None = None

    def show(self, library: Library, greeting: str = "", background: BackgroundWork | None = None) -> MainWindow:
        """Show a library in place of the one that was open."""
        before, window = self.window, MainWindow(library, self._catalogue)
        self.window = window
        window.library_opened.connect(self.show)
        window.show()
        if greeting:
            window.say(greeting)
        if background is not None:
            run_background(window, background)
        if before is not None:
            before.close()
            before.deleteLater()
        return window

    def report_faults(self) -> None:
        """A fault of Eider itself is told and logged; Qt would end the process at it, and the work with it."""

        def tell(_kind: type[BaseException], fault: BaseException, _trace: TracebackType | None) -> None:
            path = log_crash(fault)
            if self.window is not None:
                self.window.say(f"{crash_words(fault)}. The details are in {path}.")

        sys.excepthook = tell


def run(
    library: Library | None, catalogue: str = "", greeting: str = "", background: BackgroundWork | None = None
) -> int:
    """Show a library until the window is closed; returns the exit status. Without one: the library opened last.

    Raises:
        EiderError: no library was chosen, or the one that was open last cannot be opened.
    """
    # Held until the end: an application that nobody refers to is deleted, and the first widget then ends the process.
    application = make_application()
    if library is None:
        folder = last_library()
        if folder is None:
            raise EiderError(
                "no library was chosen; create one with `eider init`, or try the invented one with `eider demo`"
            )
        library = open_library(folder)
    windows = LibraryWindows(catalogue)
    windows.report_faults()
    windows.show(library, greeting, background)
    return application.exec()
