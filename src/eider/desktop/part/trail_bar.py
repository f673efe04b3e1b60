"""The trail: the eight steps of a part, each with its state by shape and text."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QWidget

from eider.desktop.theme import Theme
from eider.model.wording import counted
from eider.views.step_registry import StepState, all_steps

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
