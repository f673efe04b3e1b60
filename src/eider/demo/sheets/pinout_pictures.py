"""Pinout figures of the demo's datasheets: two rows of leads with names outside, and maps of ball grids."""

from collections.abc import Sequence
from typing import Any

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable

from eider.demo.sheets.page import Truth
from eider.exchange.pdf_drawings import FONT

SIZE, STEP, CELL = 7.5, 16.0, 34.0
BODY, LEAD, OFF = 34 * mm, 12.0, 4.0
Named = Sequence[tuple[str, str]]


class PinoutPicture(Flowable):  # type: ignore[misc]  # reportlab has no types
    """A pinout figure that notes page and box in which it is drawn; `pins` are numbers and names in their order."""

    def __init__(self, truth: Truth, pins: Named, width: float, height: float) -> None:
        super().__init__()
        self.pins, self.width, self.height, self.truth = pins, width, height, truth

    def drawOn(self, canvas: Any, x: float, y: float, _sW: float = 0) -> None:  # noqa: N802, N803
        """Note where it stands, and draw it."""
        corners = [canvas.absolutePosition(x, y), canvas.absolutePosition(x + self.width, y + self.height)]
        box = [round(v, 1) for corner in corners for v in corner]
        self.truth.data["pinout"] = {"page": canvas.getPageNumber(), "box": box, "pins": dict(self.pins)}
        super().drawOn(canvas, x, y, _sW)


class TwoRowPinout(PinoutPicture):
    """Two rows of leads seen from above, numbered round the package, a notch at pin 1."""

    def __init__(self, truth: Truth, pins: Named) -> None:
        super().__init__(truth, pins, 150 * mm, (len(pins) // 2 + 1) * STEP)

    def draw(self) -> None:
        """Paint into the page."""
        canvas: Canvas = self.canv
        left, half = (self.width - BODY) / 2, len(self.pins) // 2
        canvas.setLineWidth(0.6)
        canvas.rect(left, 0, BODY, self.height)
        canvas.arc(left + BODY / 2 - 6, self.height - 6, left + BODY / 2 + 6, self.height + 6, 180, 180)
        canvas.setFont(FONT, SIZE)
        for place in range(half):
            y = self.height - (place + 1) * STEP
            (one, first), (other, second) = self.pins[place], self.pins[-1 - place]
            canvas.rect(left - LEAD, y - 3, LEAD, 6)
            canvas.rect(left + BODY, y - 3, LEAD, 6)
            low = y - SIZE / 3
            canvas.drawString(left + OFF, low, one)
            canvas.drawRightString(left - LEAD - OFF, low, first)
            canvas.drawRightString(left + BODY - OFF, low, other)
            canvas.drawString(left + BODY + LEAD + OFF, low, second)


class BallMap(PinoutPicture):
    """A ball grid seen from above: columns headed by numbers, rows by letters, each name in its cell."""

    def __init__(self, truth: Truth, pins: Named) -> None:
        self.rows = sorted({number[0] for number, _ in pins})
        self.columns = sorted({int(number[1:]) for number, _ in pins})
        super().__init__(truth, pins, (len(self.columns) + 1) * CELL, (len(self.rows) + 1) * STEP)

    def draw(self) -> None:
        """Paint into the page."""
        canvas: Canvas = self.canv
        canvas.setFont(FONT, SIZE)
        canvas.setLineWidth(0.4)
        for place, column in enumerate(self.columns):
            canvas.drawCentredString((place + 1.5) * CELL, self.height - STEP * 0.7, str(column))
        for place, row in enumerate(self.rows):
            canvas.drawCentredString(CELL / 2, self.height - (place + 1.7) * STEP, row)
        for number, name in self.pins:
            x = (self.columns.index(int(number[1:])) + 1) * CELL
            y = self.height - (self.rows.index(number[0]) + 2) * STEP
            canvas.rect(x, y, CELL, STEP)
            canvas.drawCentredString(x + CELL / 2, y + STEP * 0.3, name)
