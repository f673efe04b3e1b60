"""What all pages have in common that lie over the Shelf or a part."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from eider.desktop.context import DesktopContext
from eider.library import Library


class SidePage(QWidget):
    """A page on one library; what it does in the background ends with it.

    Signals:
        closed: the user wants back to what lies beneath.
        kept: something was saved in the library.
    """

    closed = pyqtSignal()
    kept = pyqtSignal()

    def __init__(self, library: Library, context: DesktopContext) -> None:
        super().__init__()
        self.library, self.context = library, context
        self.jobs = context.jobs.owned(self)
        self.setObjectName("page")

    def unsaved(self) -> str:
        """What was changed here and is not saved, in words such as `3 changes`; empty where nothing is."""
        return ""

    def end(self) -> None:
        """Give back what is open, such as documents, before the page goes."""
