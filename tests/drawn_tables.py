"""Small ruled tables for tests, and those of the demo's datasheets."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

from eider.datasheets import Datasheet

Row = list[str]
Box = tuple[float, float, float, float]
Open = Callable[[str], Datasheet]
# The lengths of a package with two rows of leads.
DUAL_ROWS: list[Row] = [
    ["Symbol", "Min (mm)", "Nom (mm)", "Max (mm)"],
    ["A", "-", "-", "1.75"],
    ["A1", "0.10", "-", "0.25"],
    ["b", "0.31", "-", "0.51"],
    ["D", "4.80", "-", "5.00"],
    ["E", "5.80", "-", "6.20"],
    ["E1", "3.80", "-", "4.00"],
    ["e", "-", "1.27", "-"],
    ["L", "0.40", "-", "1.27"],
]


def draw(
    path: Path, rows: list[Row], *, at: tuple[float, float] = (80.0, 500.0), page: int = 1
) -> tuple[float, float, float, float]:
    """A PDF with one ruled table; returns a box around it. Pages before it are blank but for their number."""
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    for number in range(1, page):
        canvas.drawString(300, 30, f"{number}")
        canvas.showPage()
    table = Table(
        rows, style=[("GRID", (0, 0), (-1, -1), 0.5, colors.black), ("FONT", (0, 0), (-1, -1), "Helvetica", 9)]
    )
    width, height = table.wrapOn(canvas, 500, 500)
    table.drawOn(canvas, *at)
    canvas.showPage()
    canvas.save()
    return at[0] - 2, at[1] - 2, at[0] + width + 2, at[1] + height + 2


def tables_of(sheets: Path, name: str) -> list[dict[str, Any]]:
    """The tables of a datasheet as its own program drew them."""
    tables: list[dict[str, Any]] = json.loads((sheets / f"{name}.truth.json").read_text(encoding="utf-8"))["tables"]
    return tables
