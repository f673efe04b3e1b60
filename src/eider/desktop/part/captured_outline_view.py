"""Draws the package that a captured table describes, with the selected row highlighted."""

from collections.abc import Mapping

from eider.datasheets.table_capture import TableCapture
from eider.desktop.context import DesktopContext
from eider.desktop.widgets.drawing_canvas import DrawingView
from eider.drawings.highlighting import highlighted
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.views.captured_outline import CapturedOutline, captured_outline


class CapturedOutlineView(DrawingView):
    """Shows the newest wish; what was drawn for an older one is dropped."""

    def __init__(self, context: DesktopContext) -> None:
        super().__init__(context.theme, "The package is drawn here as these letters define it.", context.jobs)
        self._context, self._lane = context, context.jobs.owned(self)
        self._number = 0
        self._outline: CapturedOutline | None = None
        self._letter = ""

    def show_capture(self, bundle: Bundle, found: TableCapture, letters: Mapping[str, str], member: str) -> None:
        """Draw the package as these letters define it."""
        self._number += 1
        number, unit, chosen = self._number, self._context.unit, dict(letters)

        def done(made: CapturedOutline) -> None:
            if number == self._number:
                self._outline = made
                self._show()

        self._lane.run("compute", lambda: captured_outline(bundle, found, chosen, member, unit), done)

    def highlight(self, letter: str) -> None:
        """Highlight the dimension of the selected row; an empty letter highlights none."""
        self._letter = letter
        self._show()

    def _show(self) -> None:
        if self._outline is None:
            return
        if self._outline.fault:
            self.set_hint(self._outline.fault)
        drawing = self._outline.drawing_of(self._letter)
        address = DimensionAddress(self._letter) if self._letter else None
        self.show_drawing(highlighted(drawing, address) if drawing else None)
