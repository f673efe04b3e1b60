"""Small widgets that several places share."""

from collections.abc import Callable, Mapping, Sequence
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from eider.desktop.theme import Theme
from eider.model.finding import Finding


def label(text: str, role: str = "", *, wrap: bool = False) -> QLabel:
    """A label; `role` is title, head, soft, wrong or number."""
    made = QLabel(text)
    if role:
        made.setProperty("role", role)
    made.setWordWrap(wrap)
    if wrap:
        made.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    return made


def button(text: str, run: Callable[[], object], *, main: bool = False, checkable: bool = False) -> QPushButton:
    """A button in words; the main one of a page is filled."""
    made = QPushButton(text)
    if main:
        made.setProperty("role", "main")
    made.setCheckable(checkable)
    made.clicked.connect(lambda _checked: run())
    return made


def menu_button(text: str, choices: Mapping[str, Callable[[], object]]) -> QPushButton:
    """A button that opens a menu of actions in words."""
    made = QPushButton(text)
    menu = QMenu(made)
    for title, run in choices.items():
        action = menu.addAction(title)
        if action is not None:
            action.triggered.connect(lambda _checked, run=run: run())
    made.setMenu(menu)
    return made


def small_button(made: QPushButton) -> QPushButton:
    """A button that takes little room, for a row of many."""
    made.setProperty("role", "small")
    return made


def column(*widgets: QWidget | QLayout | int, margins: int = 8, spacing: int = 6) -> QWidget:
    """Widgets one below the other; an int is stretch."""
    return _box(QVBoxLayout(), widgets, margins, spacing)


def row(*widgets: QWidget | QLayout | int, margins: int = 0, spacing: int = 6) -> QWidget:
    """Widgets side by side; an int is stretch."""
    return _box(QHBoxLayout(), widgets, margins, spacing)


def _box(
    layout: QHBoxLayout | QVBoxLayout, widgets: Sequence[QWidget | QLayout | int], margins: int, spacing: int
) -> QWidget:
    layout.setContentsMargins(margins, margins, margins, margins)
    layout.setSpacing(spacing)
    for widget in widgets:
        if isinstance(widget, QWidget):
            layout.addWidget(widget, 1 if _grows(widget) else 0)
        elif isinstance(widget, QLayout):
            layout.addLayout(widget)
        else:
            layout.addStretch(widget)
    holder = QWidget()
    holder.setLayout(layout)
    return holder


def _grows(widget: QWidget) -> bool:
    return widget.property("grows") is True


def fill_widget(parent: QWidget, content: QWidget) -> None:
    """Let one widget fill another."""
    layout = QVBoxLayout(parent)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(0)
    layout.addWidget(content)


def set_choices(choice: QComboBox, names: Sequence[str]) -> bool:
    """Let some names be chosen from; whether they are others than before."""
    if [choice.itemText(i) for i in range(choice.count())] == list(names):
        return False
    choice.clear()
    choice.addItems(names)
    return True


def growing(widget: QWidget) -> QWidget:
    """The widget, marked to take the room that is left in a column or row."""
    widget.setProperty("grows", True)
    return widget


def scrolled(widget: QWidget) -> QScrollArea:
    """The widget in an area that scrolls where there is too little room for it, rather than widening the window."""
    area = QScrollArea()
    area.setWidget(widget)
    area.setWidgetResizable(True)
    area.setFrameShape(QFrame.Shape.NoFrame)
    return area


def panes(*widgets: QWidget, sizes: Sequence[int], vertical: bool = False) -> QSplitter:
    """Panes that the user can resize; `sizes` in pixels to begin with."""
    splitter = QSplitter(Qt.Orientation.Vertical if vertical else Qt.Orientation.Horizontal)
    for widget in widgets:
        splitter.addWidget(widget)
    splitter.setChildrenCollapsible(False)
    splitter.setSizes(list(sizes))
    largest = max(range(len(sizes)), key=lambda i: sizes[i])
    for index in range(len(sizes)):
        splitter.setStretchFactor(index, 3 if index == largest else 1)
    splitter.setHandleWidth(5)
    return splitter


class BalloonMark(QWidget):
    """The numbered red-pen balloon of a finding, as on the drawing."""

    def __init__(self, number: int, severity: str, theme: Theme) -> None:
        super().__init__()
        self._number, self._severity, self._theme = number, severity, theme
        self.setFixedSize(QSize(24, 24))
        self.setToolTip(severity)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        red, paper = self._theme.colour("red"), self._theme.colour("paper")
        filled = self._severity == "blocker"
        pen = QPen(red, 1.6)
        if self._severity == "note":
            pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        painter.setBrush(red if filled else QColor(paper))
        painter.drawEllipse(QPointF(12, 12), 10, 10)
        painter.setPen(paper if filled else red)
        painter.drawText(QRectF(0, 0, 24, 24), Qt.AlignmentFlag.AlignCenter, str(self._number))


class _Clickable(QWidget):
    """A widget that calls `run` where it is clicked beside what is in it."""

    def __init__(self, content: QWidget, run: Callable[[], object]) -> None:
        super().__init__()
        self._run = run
        fill_widget(self, content)

    def mousePressEvent(self, _event: QMouseEvent | None) -> None:
        self._run()


class FindingsList(QScrollArea):
    """Findings with their numbers, what was measured and required, and the action that corrects each."""

    quick_fix_asked = pyqtSignal(object)
    chosen = pyqtSignal(object)

    def __init__(self, theme: Theme, *, with_step: Callable[[Finding], str] | None = None) -> None:
        super().__init__()
        self._theme, self._with_step = theme, with_step
        self._shown: tuple[tuple[int, Finding], ...] | None = None
        self.setWidgetResizable(True)
        self.setMinimumHeight(52)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def show_findings(self, findings: Sequence[Finding], wanted: Callable[[Finding], bool] = lambda _f: True) -> None:
        """Show those findings that are wanted; numbers are those of the whole list."""
        numbered = tuple((n, f) for n, f in enumerate(findings, start=1) if wanted(f))
        if numbered == self._shown:
            return
        self._shown = numbered
        rows: list[QWidget | QLayout | int] = [self._row(number, finding) for number, finding in numbered]
        if not rows:
            rows = [label("No findings here.", "soft")]
        self.setWidget(column(*rows, 1, margins=4, spacing=3))

    def _row(self, number: int, finding: Finding) -> QWidget:
        place = f"{self._with_step(finding)}: " if self._with_step else ""
        text = label(f"<b>{finding.severity}</b> {place}{_escaped(finding.message)}", wrap=True)
        text.setToolTip(finding.check)
        texts: list[QWidget | QLayout | int] = [text]
        if finding.figures:
            texts.append(label(finding.figures, "soft", wrap=True))
        parts: list[QWidget | QLayout | int] = [
            BalloonMark(number, finding.severity, self._theme),
            growing(column(*texts, margins=0, spacing=0)),
        ]
        if finding.quick_fix:
            parts.append(button(finding.quick_fix, lambda: self.quick_fix_asked.emit(finding)))
        return _Clickable(row(*parts, margins=2), partial(self.chosen.emit, finding))


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;")
