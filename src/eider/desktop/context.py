"""What all screens of a window have in common: its look, jobs and settings, and what they tell the window."""

from collections.abc import Mapping

from PyQt6.QtCore import QObject, pyqtSignal

from eider.desktop.jobs import Jobs
from eider.desktop.settings import DesktopSettings
from eider.desktop.theme import Theme
from eider.library.git.commit_reading import Person
from eider.library.sharing.shared_server import Claim
from eider.model.review import ReviewState


class DesktopContext(QObject):
    """Handed to every screen; a screen reads from it and emits its signals, and knows no other screen.

    Signals:
        said: a line for the status bar.
        pointed: the place under the pointer (mm).
        released: a part's id and its new revision.
        revision_asked: a part's id and the revision to be opened.
        rulebook_asked: the name of the rulebook to be edited.
        materials_asked: the materials of the library are to be edited.
        step_asked: the key of a step, and the address in it that is to be taken up.
        claim_asked, give_back_asked: a part's id and name.
        reviews_changed: a review took a step.
        address_asked: a place of the open part that is to be shown in its step.
        variant_asked: the sum and file name of a datasheet, a name, and the package in which a further part is drafted.
    """

    said = pyqtSignal(str)
    pointed = pyqtSignal(float, float)
    released = pyqtSignal(str, int)
    revision_asked = pyqtSignal(str, int)
    rulebook_asked = pyqtSignal(str)
    materials_asked = pyqtSignal()
    step_asked = pyqtSignal(str, object)
    claim_asked = pyqtSignal(str, str)
    give_back_asked = pyqtSignal(str, str)
    reviews_changed = pyqtSignal()
    address_asked = pyqtSignal(object)
    variant_asked = pyqtSignal(str, str, str, str)

    def __init__(self, theme: Theme, jobs: Jobs, catalogue: str = "", parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.theme, self.jobs, self.catalogue = theme, jobs, catalogue
        self.settings = DesktopSettings()
        # Whether the library is shared, who holds which part, and what is under review, as far as this machine knows.
        self.shares = False
        self.claims: Mapping[str, Claim] = {}
        # Who works here: the window reads it once, off the way of every key.
        self.person = Person("", "")
        self.reviews: Mapping[str, ReviewState] = {}

    @property
    def unit(self) -> str:
        """The unit that lengths are shown in."""
        return self.settings.unit
