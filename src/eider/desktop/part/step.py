"""What every step has: the open part, the shared things of the window, and a strip of its findings."""

from typing import Generic, Literal, NamedTuple, TypeVar

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from eider.datasheets import Datasheet
from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.part.controller import PartController
from eider.desktop.widgets.findings_list import FindingsList
from eider.desktop.widgets.layouts import panes
from eider.geometry.plane import Box
from eider.model.address import Address
from eider.model.finding import Finding
from eider.views.part_state import StepOptions, StepView
from eider.views.step_registry import step_of

V = TypeVar("V", bound=StepView)


class CaptureTarget(NamedTuple):
    """The selected field: its address, what it is called, and what a click in the datasheet gives it."""

    address: Address
    name: str
    kind: Literal["length", "text"]


class PartStep(QWidget):
    """One step of the open part: what the window asks of it, whatever it shows."""

    key = ""
    # Whether the step has a place for the datasheet of its own, which else is beside it.
    holds_datasheet = False
    # In a narrower place (pixels) the step folds something away.
    narrow_below = 0

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.controller, self.context = controller, context
        self.jobs = context.jobs.owned(self)
        self.datasheet: DatasheetView | None = None
        self._is_narrow: bool | None = None
        self.setObjectName("page")

    def build(self, content: QWidget, *, with_findings: bool = True) -> None:
        """Put the content in, above the strip of findings."""
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        self._strip: FindingsList | None = None
        if with_findings:
            self._strip = FindingsList(self.context.theme)
            self._strip.quick_fix_asked.connect(self.controller.apply_quick_fix)
            self._strip.chosen.connect(lambda finding: self.show_address(finding.address))
            layout.addWidget(panes(content, self._strip, sizes=(574, 80), vertical=True))
        else:
            layout.addWidget(content)

    def refresh(self) -> None:
        """Show what was computed last; before the first time there is nothing to show."""
        if self._strip:
            self._strip.show_findings(self.controller.findings, self.is_mine)

    def options(self) -> StepOptions | None:
        """What the user chose to see of the step; None where there is nothing to choose."""
        return None

    def choose(self) -> None:
        """What is to be seen was chosen again: ask for the view."""
        self.controller.views.show_step(self.key, self.options())

    def first(self) -> QWidget | None:
        """What one works with first in this step: it is given the keyboard."""
        return None

    def is_mine(self, finding: Finding) -> bool:
        """Whether a finding is mended in this step."""
        return step_of(finding) == self.key

    def show_address(self, address: Address) -> None:
        """Take the thing at a place of the document into hand."""

    def target(self, _field: QWidget | None) -> CaptureTarget | None:
        """What a click in the datasheet fills now; `field` is the widget that had the keyboard last."""
        return None

    def read_rectangle(self, _document: Datasheet, _sha256: str, _page: int, _box: Box) -> bool:
        """Read what the step needs from a rectangle of the datasheet; whether it does, or the capture panel shall."""
        return False

    def hold(self, view: DatasheetView) -> None:
        """Take the datasheet in; for steps that have a place for it."""

    def fold(self, *, is_narrow: bool) -> None:
        """The step became narrower than `narrow_below`, or wide again: it may fold something away, and says so."""

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        is_narrow = self.width() < self.narrow_below
        if is_narrow is not self._is_narrow:
            self._is_narrow = is_narrow
            self.fold(is_narrow=is_narrow)

    def close_documents(self) -> None:
        """Give open documents back, before the step goes."""

    def next_field(self) -> None:
        """Take the next field into hand, after one was filled."""


class ViewStep(PartStep, Generic[V]):
    """A step that shows the view which was computed for it, of its own type, and reports what the user does."""

    view_type: type[V]

    def refresh(self) -> None:
        view = self.controller.views.view_of(self.key)
        if isinstance(view, self.view_type):
            self.show_view(view)
        super().refresh()

    def show_view(self, view: V) -> None:
        """Show the step's view."""
