"""Starts the window."""

import sys
from types import TracebackType

from PyQt6.QtWidgets import QApplication

from eider.desktop.app.window import MainWindow
from eider.desktop.theme import Theme, number_font, ui_font
from eider.library import Library
from eider.services.crash_log import log_crash


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

    def tell(kind: type[BaseException], fault: BaseException, _trace: TracebackType | None) -> None:
        window.say(f"a fault of Eider itself ({kind.__name__}: {fault}); the details are in {log_crash(fault)}")

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
