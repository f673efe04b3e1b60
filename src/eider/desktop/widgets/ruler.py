"""The ruler over a drawing: two clicks that snap, and the exact distances between them."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.desktop.widgets.layouts import button, fill_widget, growing, label, row
from eider.drawings.primitives import Disc, Line, Plain
from eider.drawings.ruler_snapping import Measured, Snap, measure_between, nearest

# It holds on to what is within this many pixels.
REACH = 9.0
HINT = "Click two points; the ruler snaps to corners, centres and edges."


class RulerBar(QWidget):
    """A button that takes the ruler up over some views, and the words of what was measured last."""

    def __init__(self, views: Sequence[DrawingView], unit: Callable[[], str]) -> None:
        super().__init__()
        self._unit = unit
        self.rulers = [Ruler(view, self._tell) for view in views]
        self.button = button("Ruler", self._switch, checkable=True)
        self.words = label("", "soft", wrap=True)
        fill_widget(self, row(self.button, growing(self.words)))

    def _switch(self) -> None:
        for ruler in self.rulers:
            ruler.switch(on=self.button.isChecked())

    def _tell(self, measured: Measured | None) -> None:
        hint = HINT if self.button.isChecked() else ""
        self.words.setText(measured.words(self._unit()) if measured else hint)


class Ruler(QObject):
    """Measures on a view while it is on; `tell` gets what was measured."""

    def __init__(self, view: DrawingView, tell: Callable[[Measured | None], None]) -> None:
        super().__init__(view)
        self.view, self._tell = view, tell
        self.is_on = False
        self._first: Snap | None = None
        self.measured: Measured | None = None
        view.point_clicked.connect(self._click)
        view.point_moved.connect(self._move)

    def switch(self, *, on: bool) -> None:
        """Take the ruler up, or put it away."""
        self.is_on = on
        self.view.takes_points = on
        self._first, self.measured = None, None
        self.view.show_mark(())
        self._tell(None)

    def _snap(self, x: float, y: float) -> Snap | None:
        return nearest(self.view.plain, (x, y), REACH * self.view.scale)

    def _click(self, x: float, y: float) -> None:
        """The first click sets the beginning, the second the end; a third begins again."""
        snap = self._snap(x, y)
        if not self.is_on or snap is None:
            return
        if self._first is None or self.measured is not None:
            self._first, self.measured = snap, None
            self._tell(None)
        else:
            self.measured = measure_between(self._first, snap)
            self._tell(self.measured)
        self._draw(snap)

    def _move(self, x: float, y: float) -> None:
        if self.is_on and self.measured is None:
            self._draw(self._snap(x, y))

    def _draw(self, end: Snap | None) -> None:
        """The places held on to, and the way between them."""
        dot = 3.5 * self.view.scale
        mark: list[Plain] = [Disc(snap.at, dot, "drop mark") for snap in (self._first, end) if snap]
        if self._first and end:
            mark.append(Line((self._first.at, end.at), "drop mark"))
        self.view.show_mark(tuple(mark))
