"""Small drawings with dimension lines for tests, in points of an A4 page."""

from typing import Literal

from reportlab.lib import colors
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

Axis = Literal["x", "y"]


def arrow(canvas: Canvas, axis: Axis, tip: float, level: float, way: int) -> None:
    """A filled arrow at a place along an axis, on a level across it; it points to higher values or to lower ones."""
    path = canvas.beginPath()
    for index, (along, across) in enumerate(((tip, level), (tip - 5 * way, level + 1.1), (tip - 5 * way, level - 1.1))):
        (path.lineTo if index else path.moveTo)(*((along, across) if axis == "x" else (across, along)))
    path.close()
    canvas.drawPath(path, stroke=0, fill=1)


def dimension(
    canvas: Canvas, axis: Axis, ends: tuple[float, float], edge: float, level: float, text: str, size: float = 7
) -> None:
    """A length along an axis at a level, with extension lines from an edge; the text stands over or beside the line."""
    low, high = ends
    beyond = 3 if level > edge else -3
    for end in ends:
        line = (end, edge, end, level + beyond) if axis == "x" else (edge, end, level + beyond, end)
        canvas.line(*line)
    canvas.line(*((low, level, high, level) if axis == "x" else (level, low, level, high)))
    arrow(canvas, axis, low, level, -1)
    arrow(canvas, axis, high, level, 1)
    canvas.setFont("Helvetica", size)
    middle = (low + high) / 2
    if axis == "x":
        canvas.drawCentredString(middle, level + 2.5, text)
    else:
        canvas.drawString(level + 3, middle - size / 3, text)


def ruled_table(canvas: Canvas, rows: list[list[str]], at: tuple[float, float]) -> None:
    """A ruled table with its lower left corner at a place."""
    grid = ("GRID", (0, 0), (-1, -1), 0.5, colors.black)
    table = Table(rows, style=[grid, ("FONT", (0, 0), (-1, -1), "Helvetica", 8)])
    table.wrapOn(canvas, 500, 500)
    table.drawOn(canvas, *at)
