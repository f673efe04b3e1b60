"""The list of findings, with the numbered marks that the drawings have too."""

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QLayout, QScrollArea, QWidget

from eider.desktop.theme import Theme
from eider.desktop.widgets.layouts import button, column, fill_widget, growing, label, row
from eider.desktop.widgets.qt_values import present
from eider.model.finding import Finding
from eider.model.wording import counted

# Nobody reads more at a time, and each is a few widgets.
LISTED = 30


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
        self._listed = LISTED
        self.setWidgetResizable(True)
        self.setMinimumHeight(52)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def show_findings(self, findings: Sequence[Finding], wanted: Callable[[Finding], bool] = lambda _f: True) -> None:
        """Show those findings that are wanted; numbers are those of the whole list."""
        numbered = tuple((n, f) for n, f in enumerate(findings, start=1) if wanted(f))
        if numbered == self._shown:
            return
        self._shown, self._listed = numbered, LISTED
        self._build()

    def _build(self) -> None:
        numbered = self._shown or ()
        rows: list[QWidget | QLayout | int] = [self._row(*entry) for entry in numbered[: self._listed]]
        if len(numbered) > self._listed:
            more = counted(len(numbered) - self._listed, "more finding")
            told = label(f"{more}", "soft")
            rows.append(row(told, button("Show more", self._show_more), 1))
        if not rows:
            rows = [label("No findings here.", "soft")]
        self.setWidget(column(*rows, 1, margins=4, spacing=3))

    def _show_more(self) -> None:
        self._listed += LISTED
        at = present(self.verticalScrollBar()).value()
        self._build()
        present(self.verticalScrollBar()).setValue(at)

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
