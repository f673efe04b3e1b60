"""The page of one part: its trail, the step that is open, and the datasheet beside it."""

from PyQt6.QtCore import QSize, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QStackedWidget, QVBoxLayout, QWidget

from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.part.body.step import BodyStep
from eider.desktop.part.capture_mode import CaptureMode
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.controller import PartController
from eider.desktop.part.facts.step import FactsStep
from eider.desktop.part.lands.step import LandsStep
from eider.desktop.part.match.step import MatchStep
from eider.desktop.part.package.step import PackageStep
from eider.desktop.part.pins.step import PinsStep
from eider.desktop.part.review.step import ReviewStep
from eider.desktop.part.source.step import SourceStep
from eider.desktop.part.step import PartStep
from eider.desktop.part.trail_bar import TrailBar
from eider.desktop.widgets.layouts import button, label, panes
from eider.model.address import Address
from eider.services.reading_positions import ReadingPositions
from eider.views.trail import STEPS, StepKey, trail

STEP_CLASSES: tuple[type[PartStep], ...] = (
    SourceStep, PinsStep, PackageStep, LandsStep, BodyStep, MatchStep, FactsStep, ReviewStep,
)  # fmt: skip


class _Steps(QStackedWidget):
    """The steps, of which the one that is open alone decides how small the window can be."""

    def minimumSizeHint(self) -> QSize:
        current = self.currentWidget()
        return current.minimumSizeHint() if current else super().minimumSizeHint()


class PartPage(QWidget):
    """One open part."""

    closed = pyqtSignal()

    def __init__(self, controller: PartController, context: DesktopContext) -> None:
        super().__init__()
        self.setObjectName("page")
        self.controller, self.context = controller, context
        self._current = 0
        self._steps: dict[int, PartStep] = {}
        self._name, self._state = label("", "title"), label("", "soft")
        self.trail = TrailBar(context.theme, self.go_to)
        self._stack = _Steps()
        self.datasheet = DatasheetView(context.theme, context.jobs, ReadingPositions(controller.library.folder))
        self.datasheet.setVisible(False)
        self._beside = False
        self.capture_panel = CapturePanel(controller, context)
        self.capture_panel.hide()
        self.capturing = CaptureMode(
            controller, context, self.datasheet, self.capture_panel, lambda: self.current, self
        )
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
        self._panes = panes(self.datasheet, self._stack, sizes=(440, 840))
        layout.addWidget(panes(self._panes, self.capture_panel, sizes=(430, 250), vertical=True), 1)
        controller.changed.connect(self.refresh)
        controller.saved.connect(self._show_head)
        controller.refused.connect(context.said)
        context.step_asked.connect(self.go_to_address)
        self.go_to(0)

    def step(self, index: int) -> PartStep:
        """A step's widget; made when it is first wanted."""
        if index not in self._steps:
            made = STEP_CLASSES[index](self.controller, self.context)
            made.datasheet = self.datasheet
            self._steps[index] = made
            self._stack.addWidget(made)
        return self._steps[index]

    def go_to(self, index: int) -> None:
        """Open a step."""
        self._current = index
        step = self.step(index)
        self._stack.setCurrentWidget(step)
        self._stack.updateGeometry()
        self._place_datasheet(step)
        self.refresh()
        first = step.first()
        if first:
            first.setFocus()

    def _place_datasheet(self, step: PartStep) -> None:
        """In Source the document stands in the middle; beside any other step if it is wanted there."""
        if isinstance(step, SourceStep):
            step.hold(self.datasheet)
        elif self._panes.indexOf(self.datasheet) < 0:
            self._panes.insertWidget(0, self.datasheet)
            self._panes.setSizes([440, max(self.width() - 440, 400)])
        self.datasheet.setVisible(isinstance(step, SourceStep) or self._beside)
        self._pane_button.setChecked(self._beside)
        self._pane_button.setEnabled(not isinstance(step, SourceStep))

    def go_to_address(self, key: StepKey, address: Address) -> None:
        """Open a step and take a place of the document into hand."""
        index = next(i for i, (step, _) in enumerate(STEPS) if step == key)
        self.go_to(index)
        self.step(index).show_address(address)

    @property
    def current(self) -> PartStep:
        """The step that is open."""
        return self._steps[self._current]

    def refresh(self) -> None:
        """Show the present state in trail, head and the open step; other steps follow when they are opened."""
        self.trail.show_states(trail(self.controller.bundle, self.controller.findings), self._current)
        self._show_head()
        self.current.refresh()
        self.capturing.refresh()

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
        self.capturing.leave()
        for step in self._steps.values():
            step.close_documents()
        for view in self.findChildren(DatasheetView):
            view.show_nothing("")

    def toggle_datasheet(self) -> None:
        """Open or close the datasheet beside the step."""
        if isinstance(self.current, SourceStep):
            return
        self._beside = not self._beside
        self._place_datasheet(self.current)
        links = self.controller.bundle.part.datasheets
        if self._beside and links and self.datasheet.path is None:
            self.datasheet.open(self.controller.library.datasheet(links[-1].sha256))
        elif self._beside and not links:
            self.datasheet.show_nothing("No datasheet is attached yet; attach one in Source.")
