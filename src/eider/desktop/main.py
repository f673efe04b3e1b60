"""Starts the window."""

import sys
import traceback
from pathlib import Path
from types import TracebackType

import platformdirs
from PyQt6.QtWidgets import QApplication

from eider.desktop.theme import Theme, number_font, ui_font
from eider.desktop.window import MainWindow
from eider.library import Library


def make_application() -> QApplication:
    """The Qt application in Eider's look."""
    application = QApplication.instance()
    if not isinstance(application, QApplication):
        application = QApplication(sys.argv[:1])
    application.setApplicationName("Eider")
    application.setFont(number_font(ui_font()))
    Theme("light").apply(application)
    return application


def report_faults(window: MainWindow) -> None:
    """A fault of Eider itself is told and logged; Qt would end the process at it, and the work with it."""

    def tell(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        path = Path(platformdirs.user_log_dir("eider", ensure_exists=True)) / "faults.log"
        with path.open("a", encoding="utf-8") as file:
            file.write("".join(traceback.format_exception(kind, fault, trace)) + "\n")
        window.say(f"a fault of Eider itself ({kind.__name__}: {fault}); the details are in {path}")

    sys.excepthook = tell


def run(library: Library, catalogue: str = "", greeting: str = "") -> int:
    """Show a library until the window is closed; returns the exit status."""
    application = make_application()
    window = MainWindow(library, catalogue)
    report_faults(window)
    if greeting:
        window.say(greeting)
    window.show()
    return application.exec()
