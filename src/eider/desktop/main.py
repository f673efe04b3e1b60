"""Starts the window."""

import sys

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


def run(library: Library, catalogue: str = "") -> int:
    """Show a library until the window is closed; returns the exit status."""
    application = make_application()
    window = MainWindow(library, catalogue)
    window.show()
    return application.exec()
