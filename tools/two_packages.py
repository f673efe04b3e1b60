"""A datasheet of the scenario with two packages, for the picture of the choice between them."""

from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

# Lengths (mm) by their letters: those of the narrow and of the thin package of the four gates.
LENGTHS = {
    "SOIC-14": {
        "A": "1.35 1.75", "A1": "0.10 0.25", "b": "0.31 0.51", "D": "8.55 8.75", "E": "5.80 6.20",
        "E1": "3.80 4.00", "e": "1.27 1.27", "L": "0.40 1.27",
    },
    "TSSOP-14": {
        "A": "1.00 1.20", "A1": "0.05 0.15", "b": "0.19 0.30", "D": "4.90 5.10", "E": "6.30 6.50",
        "E1": "4.30 4.50", "e": "0.65 0.65", "L": "0.45 0.75",
    },
}  # fmt: skip
PINS = ("1A", "1B", "1Y", "2A", "2B", "2Y", "GND", "3Y", "3A", "3B", "4Y", "4A", "4B", "VCC")
# Points for a mm of the outlines.
SCALE = 14.0


def write_two_packages(path: Path) -> None:
    """Write the datasheet."""
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    canvas.setFont("Helvetica-Bold", 20)
    canvas.drawString(60, 770, "NVK-4GT")
    canvas.setFont("Helvetica", 11)
    canvas.drawString(60, 750, "Four gates with two inputs each")
    _table(
        canvas,
        [["Order code", "Package"], ["NVK-4GTD", "SOIC-14"], ["NVK-4GTP", "TSSOP-14"]],
        "Ordering information",
        700,
    )
    _table(canvas, [["Pin", "Name"], *([str(n), name] for n, name in enumerate(PINS, 1))], "Pins (both packages)", 590)
    canvas.showPage()
    for package, lengths in LENGTHS.items():
        canvas.setFont("Helvetica-Bold", 13)
        canvas.drawString(60, 780, f"Package outline {package}")
        _outline(canvas, {letter: sum(map(float, text.split())) / 2 for letter, text in lengths.items()})
        rows = [[letter, *text.split()] for letter, text in lengths.items()]
        _table(canvas, [["Symbol", "Min (mm)", "Max (mm)"], *rows], "", 520)
        canvas.showPage()
    canvas.save()


def _table(canvas: Canvas, rows: list[list[str]], title: str, top: float) -> None:
    canvas.setFont("Helvetica-Bold", 10)
    canvas.drawString(60, top + 6, title)
    grid = [("GRID", (0, 0), (-1, -1), 0.5, colors.black), ("FONT", (0, 0), (-1, -1), "Helvetica", 9)]
    made = Table(rows, style=grid, colWidths=80, rowHeights=16)
    _width, height = made.wrapOn(canvas, 500, 500)
    made.drawOn(canvas, 60, top - height)


def _outline(canvas: Canvas, mm: dict[str, float]) -> None:
    """The body with its leads from above, with the letters at its lines."""
    body, along, span = mm["E1"] * SCALE, mm["D"] * SCALE, mm["E"] * SCALE
    left, middle = 120.0, 650.0
    canvas.rect(left, middle - body / 2, along, body)
    for lead in range(7):
        x = left + along / 2 + (lead - 3) * mm["e"] * SCALE - mm["b"] * SCALE / 2
        for y in (middle - span / 2, middle + body / 2):
            canvas.rect(x, y, mm["b"] * SCALE, (span - body) / 2)
    canvas.setFont("Helvetica", 9)
    for letter, x, y in (
        ("D", left + along / 2, middle + span / 2 + 10),
        ("E1", left - 16, middle),
        ("e", left + along + 6, middle),
    ):
        canvas.drawString(x, y, letter)
