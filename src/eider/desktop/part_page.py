"""The page of one part: its trail, the step that is open, and the datasheet beside it."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from eider.desktop.controller import PartController
from eider.desktop.datasheet_view import DatasheetView
from eider.desktop.steps.base import Shared, Step
from eider.desktop.steps.body import BodyStep
from eider.desktop.steps.facts import FactsStep
from eider.desktop.steps.lands import LandsStep
from eider.desktop.steps.match import MatchStep
from eider.desktop.steps.package import PackageStep
from eider.desktop.steps.pins import PinsStep
from eider.desktop.steps.review import ReviewStep
from eider.desktop.steps.source import SourceStep
from eider.desktop.trailbar import Trail
from eider.desktop.widgets import button, label, panes
from eider.workbench.trail import STEPS, StepKey, trail

STEP_CLASSES: tuple[type[Step], ...] = (
    SourceStep, PinsStep, PackageStep, LandsStep, BodyStep, MatchStep, FactsStep, ReviewStep,
)  # fmt: skip


class PartPage(QWidget):
    """One open part."""

    closed = pyqtSignal()

    def __init__(self, controller: PartController, shared: Shared) -> None:
        super().__init__()
        self.setObjectName("page")
        self.controller, self.shared = controller, shared
        self._current = 0
        self._steps: dict[int, Step] = {}
        self._name, self._state = label("", "title"), label("", "soft")
        self.trail = Trail(shared.theme, self.go_to)
        self._stack = QStackedWidget()
        self.datasheet = DatasheetView(shared.theme, shared.jobs)
        self.datasheet.setVisible(False)
        head = QFrame()
        head.setObjectName("bar")
        top = QHBoxLayout(head)
        top.setContentsMargins(10, 4, 10, 2)
        top.addWidget(button("← Shelf", self.closed.emit))
        top.addWidget(self._name)
        top.addWidget(self._state, 1)
        self._pane_button = button("Datasheet beside (F4)", self.toggle_datasheet, checkable=True)
        top.addWidget(self._pane_button)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(head)
        layout.addWidget(self.trail)
        layout.addWidget(panes(self.datasheet, self._stack, sizes=(440, 840)), 1)
        controller.changed.connect(self.refresh)
        controller.saved.connect(self._show_head)
        controller.refused.connect(lambda text: shared.say(text))
        shared.go = self.go_to_place
        self.go_to(0)

    def step(self, index: int) -> Step:
        """A step's widget; made when it is first wanted."""
        if index not in self._steps:
            made = STEP_CLASSES[index](self.controller, self.shared)
            made.datasheet = self.datasheet
            self._steps[index] = made
            self._stack.addWidget(made)
        return self._steps[index]

    def go_to(self, index: int) -> None:
        """Open a step."""
        self._current = index
        step = self.step(index)
        self._stack.setCurrentWidget(step)
        self.refresh()
        first = step.first()
        if first:
            first.setFocus()

    def go_to_place(self, key: StepKey, place: str) -> None:
        """Open a step and take a place of the document into hand."""
        index = next(i for i, (step, _) in enumerate(STEPS) if step == key)
        self.go_to(index)
        self.step(index).show_place(place)

    @property
    def current(self) -> Step:
        """The step that is open."""
        return self._steps[self._current]

    def refresh(self) -> None:
        """Show the present state in trail, head and the open step; other steps follow when they are opened."""
        self.trail.show_states(trail(self.controller.bundle, self.controller.findings), self._current)
        self._show_head()
        self.current.refresh()

    def _show_head(self) -> None:
        part = self.controller.bundle.part
        self._name.setText(part.name)
        release = part.release
        if self.controller.session.read_only:
            text = f"revision {release.revision if release else 0}, read-only as it was released"
        elif release is None:
            text = "draft, not released yet"
        else:
            text = f"revision {release.revision} released {release.at[:10]}"
        saved = "" if self.controller.session.is_saved or self.controller.session.read_only else "  ·  saving …"
        self._state.setText(text + saved)

    def close_documents(self) -> None:
        """Give open documents back, before the page goes."""
        for view in self.findChildren(DatasheetView):
            view.show_nothing("")

    def toggle_datasheet(self) -> None:
        """Open or close the datasheet beside the step."""
        show = not self.datasheet.isVisible()
        self.datasheet.setVisible(show)
        self._pane_button.setChecked(show)
        links = self.controller.bundle.part.datasheets
        if show and links:
            self.datasheet.open(self.controller.library.datasheet(links[-1].sha256))
        elif show:
            self.datasheet.show_nothing("No datasheet is attached yet; attach one in Source.")
