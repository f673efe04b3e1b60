"""The page of one part: its trail, the step that is open, and the datasheet beside it."""

import importlib
from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QFrame,
    QHBoxLayout,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from eider.desktop.context import DesktopContext
from eider.desktop.datasheet.datasheet_view import DatasheetView
from eider.desktop.part.capture_mode import CaptureMode
from eider.desktop.part.capture_panel import CapturePanel
from eider.desktop.part.controller import PartController
from eider.desktop.part.step import PartStep
from eider.desktop.theme import Theme
from eider.desktop.widgets.elided_label import ElidedLabel
from eider.desktop.widgets.layouts import button, panes
from eider.evidence.address_table import step_of_address
from eider.library.sharing.shared_server import Claim
from eider.model.address import Address
from eider.model.wording import counted
from eider.services.datasheets.reading_positions import ReadingPositions
from eider.services.releasing.withdrawing import withdrawn_words
from eider.views.step_registry import StepSpec, StepState, all_steps

STATE_TEXT = {"empty": "empty", "begun": "begun", "complete": "complete"}


class TrailButton(QAbstractButton):
    """One step of the trail."""

    def __init__(self, title: str, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._state: StepState | None = None
        self.setText(title)
        self.setCheckable(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def sizeHint(self) -> QSize:
        return QSize(130, 44)

    @property
    def state_text(self) -> str:
        """The state in words."""
        state = self._state
        if state is None:
            return ""
        if state.state != "findings":
            return STATE_TEXT[state.state]
        return counted(state.findings, "finding")

    def show_state(self, state: StepState) -> None:
        """Show how far the step is."""
        if state != self._state:
            self._state = state
            self.setAccessibleName(f"{state.title}: {self.state_text}")
            self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(self.rect())
        accent, ink = self._theme.colour("accent"), self._theme.colour("ink")
        if self.isChecked():
            painter.fillRect(area, self._theme.colour("white"))
            painter.fillRect(QRectF(0, area.height() - 3, area.width(), 3), accent)
        if self.hasFocus():
            painter.setPen(QPen(accent, 1))
            painter.drawRect(area.adjusted(1, 1, -2, -4))
        self._mark(painter, QPointF(20, area.height() / 2))
        font = painter.font()
        font.setBold(self.isChecked())
        painter.setFont(font)
        painter.setPen(ink)
        painter.drawText(QRectF(38, 4, area.width() - 40, 19), Qt.AlignmentFlag.AlignVCenter, self.text())
        font.setBold(False)
        font.setPointSizeF(font.pointSizeF() * 0.86)
        painter.setFont(font)
        wrong = self._state is not None and self._state.state == "findings" and self._state.blockers > 0
        painter.setPen(self._theme.colour("red" if wrong else "soft"))
        painter.drawText(QRectF(38, 22, area.width() - 40, 17), Qt.AlignmentFlag.AlignVCenter, self.state_text)

    def _mark(self, painter: QPainter, at: QPointF) -> None:
        """Hollow ring: empty; half filled: begun; tick in a disc: complete; red square: findings."""
        state = self._state.state if self._state else "empty"
        accent, red = self._theme.colour("accent"), self._theme.colour("red")
        painter.setPen(QPen(red if state == "findings" else accent, 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if state == "findings":
            blocked = self._state is not None and self._state.blockers > 0
            painter.setBrush(red if blocked else self._theme.colour("paper"))
            box = QRectF(at.x() - 8, at.y() - 8, 16, 16)
            painter.drawRect(box)
            painter.setPen(self._theme.colour("paper") if blocked else red)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "!")
            return
        if state == "complete":
            painter.setBrush(accent)
        painter.drawEllipse(at, 8, 8)
        if state == "begun":
            painter.setBrush(accent)
            painter.drawPie(QRectF(at.x() - 8, at.y() - 8, 16, 16), 90 * 16, 180 * 16)
        if state == "complete":
            painter.setPen(QPen(self._theme.colour("paper"), 2))
            tick = [QPointF(at.x() + dx, at.y() + dy) for dx, dy in ((-4, 0), (-1, 3.5), (4, -3.5))]
            painter.drawPolyline(QPolygonF(tick))


class TrailBar(QWidget):
    """The row of steps; `go` is called with the index of the one that was chosen."""

    def __init__(self, theme: Theme, go: Callable[[int], None]) -> None:
        super().__init__()
        layout = QHBoxLayout(self)
        layout.setContentsMargins(8, 0, 8, 0)
        layout.setSpacing(2)
        self.buttons = [TrailButton(title, theme) for title in (step.title for step in all_steps().values())]
        for index, step in enumerate(self.buttons):
            step.clicked.connect(lambda _checked, i=index: go(i))
            step.setToolTip(f"Ctrl+{index + 1}")
            layout.addWidget(step)

    def show_states(self, states: Sequence[StepState], current: int) -> None:
        """Show how far each step is, and which one is open."""
        for step, state in zip(self.buttons, states, strict=False):
            step.show_state(state)
        for index, step in enumerate(self.buttons):
            step.setChecked(index == current)


def import_steps() -> None:
    """Import the widgets of all steps, so that nobody waits for that at a first visit; for a thread apart."""
    for spec in all_steps().values():
        importlib.import_module(spec.widget.partition(":")[0])


def _make_step(spec: StepSpec, controller: PartController, context: DesktopContext) -> PartStep:
    """The widget that a step registers."""
    module, _, name = spec.widget.partition(":")
    made: PartStep = getattr(importlib.import_module(module), name)(controller, context)
    return made


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
        # The step that was opened takes the keyboard as soon as it has something to show.
        self._wants_focus = False
        self._focus_before: QWidget | None = None
        # What is to be taken up there as soon as it is shown.
        self._wanted_address: Address | None = None
        self._specs = tuple(all_steps().values())
        self._steps: dict[int, PartStep] = {}
        self._name, self._state = ElidedLabel(role="title"), ElidedLabel(role="soft")
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
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._make_head())
        layout.addWidget(self.trail)
        self._panes = panes(self.datasheet, self._stack, sizes=(440, 840))
        layout.addWidget(panes(self._panes, self.capture_panel, sizes=(430, 250), vertical=True), 1)
        controller.changed.connect(self.refresh)
        controller.saved.connect(self._show_head)
        controller.refused.connect(context.said)
        context.step_asked.connect(self.go_to_address)
        context.address_asked.connect(self._go_to_place)
        self.go_to(0)

    def _make_head(self) -> QFrame:
        head = QFrame()
        head.setObjectName("bar")
        top = QHBoxLayout(head)
        top.setContentsMargins(10, 4, 10, 2)
        top.addWidget(button("← Shelf", self.closed.emit))
        top.addWidget(self._name)
        top.addWidget(self._state, 1)
        self._claim_button = button("Claim…", self._claim)
        top.addWidget(self._claim_button)
        self._pane_button = button("Show datasheet (F4)", self.toggle_datasheet, checkable=True)
        top.addWidget(self._pane_button)
        return head

    def step(self, index: int) -> PartStep:
        """A step's widget; made when it is first wanted."""
        if index not in self._steps:
            made = _make_step(self._specs[index], self.controller, self.context)
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
        self.controller.views.show_step(step.key, step.options())
        self._wants_focus, self._focus_before = True, QApplication.focusWidget()
        self.refresh()

    def _place_datasheet(self, step: PartStep) -> None:
        """In Source the document is in the middle; beside any other step if it is wanted there."""
        if step.holds_datasheet:
            step.hold(self.datasheet)
        elif self._panes.indexOf(self.datasheet) < 0:
            self._panes.insertWidget(0, self.datasheet)
            self._panes.setSizes([440, max(self.width() - 440, 400)])
        self.datasheet.setVisible(step.holds_datasheet or self._beside)
        self._pane_button.setChecked(self._beside)
        self._pane_button.setEnabled(not step.holds_datasheet)

    def go_to_address(self, key: str, address: Address) -> None:
        """Open a step and take a place of the document into hand."""
        index = next(i for i, spec in enumerate(self._specs) if spec.key == key)
        self._wanted_address = address
        self.go_to(index)

    def _go_to_place(self, address: Address) -> None:
        """Open the step that a place belongs to."""
        key = step_of_address(address)
        if key:
            self.go_to_address(key, address)

    @property
    def current(self) -> PartStep:
        """The step that is open."""
        return self._steps[self._current]

    def refresh(self) -> None:
        """Show the present state in trail, head and the open step; other steps follow when they are opened."""
        self.trail.show_states(self.controller.views.trail, self._current)
        self._show_head()
        self.current.refresh()
        self.capturing.refresh()
        if self._wanted_address is not None and self.controller.views.view_of(self.current.key) is not None:
            address, self._wanted_address = self._wanted_address, None
            self.current.show_address(address)
        if self._wants_focus and self.controller.views.view_of(self.current.key) is not None:
            self._wants_focus = False
            first = self.current.first()
            # Whoever turned to something else meanwhile stays there.
            if first and QApplication.focusWidget() in (None, self._focus_before):
                first.setFocus()

    def _show_head(self) -> None:
        part = self.controller.bundle.part
        self._name.setText(part.name)
        release = part.release
        if self.controller.reviewing is not None:
            asked = self.controller.reviewing.review.requested
            text = f"In review, requested by {asked.by}; your ticks are sent with the verdict"
        elif self.controller.session.read_only:
            text = f"revision {release.revision if release else 0}, released (read-only)"
        elif release is None:
            text = "Draft, not released yet"
        elif part.withdrawn is not None:
            text = withdrawn_words(self.controller.bundle).capitalize()
        else:
            text = f"revision {release.revision} released {release.at[:10]}"
        saved = "" if self.controller.session.is_saved or self.controller.session.read_only else "  ·  saving…"
        held = self.context.claims.get(part.id)
        claim = f"  ·  claimed by {'you' if self._is_mine(held) else held.by}" if held else ""
        self._state.setText(text + claim + saved)
        self._state.setToolTip(held.why if held else "")
        self._claim_button.setVisible(self.context.shares and not self.controller.session.read_only)
        self._claim_button.setText("Give the claim back" if self._is_mine(held) else "Claim…")
        self._claim_button.setEnabled(held is None or self._is_mine(held))

    def _is_mine(self, held: Claim | None) -> bool:
        return held is not None and held.email == self.context.person.email

    def _claim(self) -> None:
        part = self.controller.bundle.part
        is_mine = self._is_mine(self.context.claims.get(part.id))
        asked = self.context.give_back_asked if is_mine else self.context.claim_asked
        asked.emit(part.id, part.name)

    def show_claims(self) -> None:
        """The claims are others."""
        self._show_head()

    def close_documents(self) -> None:
        """Give open documents back, before the page goes."""
        self.capturing.leave()
        for step in self._steps.values():
            step.close_documents()
        for view in self.findChildren(DatasheetView):
            view.show_nothing("")

    def toggle_datasheet(self) -> None:
        """Open or close the datasheet beside the step."""
        if self.current.holds_datasheet:
            return
        self._beside = not self._beside
        self._place_datasheet(self.current)
        links = self.controller.bundle.part.datasheets
        if self._beside and links and not self.datasheet.key:
            self.datasheet.open(self.controller.document(links[-1].sha256))
        elif self._beside and not links:
            self.datasheet.show_nothing("No datasheet is attached yet; attach one in Source.")
