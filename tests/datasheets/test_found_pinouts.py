"""Pinout figures and tables of pins told apart: leads stand in rows and columns, too."""

from pathlib import Path

import pytest
from reportlab.pdfgen.canvas import Canvas

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.found_items import FoundItem

LEFT, RIGHT = ["OUT A", "IN A-", "IN A+", "V-"], ["V+", "OUT B", "IN B-", "IN B+"]
STEP = 14.0


def found_on(canvas: Canvas, path: Path) -> list[FoundItem]:
    canvas.save()
    return list(survey(Datasheet(path)))


def paint_package(canvas: Canvas, leads: int) -> None:
    """A package from above with so many leads, numbered round, a line at each."""
    rows = leads // 2
    canvas.setFont("Helvetica", 7)
    canvas.rect(250, 500 - STEP * rows, 60, STEP * rows)
    for row in range(rows):
        y = 500 - STEP * (row + 0.7)
        for number, name, inner, outer, align in (
            (row + 1, f"A{row}", 254, 236, canvas.drawRightString),
            (leads - row, f"B{row}", 306, 324, canvas.drawString),
        ):
            canvas.line(250 if inner < 280 else 310, y + 2, 240 if inner < 280 else 320, y + 2)
            (canvas.drawString if inner < 280 else canvas.drawRightString)(inner, y, str(number))
            align(outer, y, name)


@pytest.mark.parametrize("leads", [8, 16, 48])
def test_leads_round_a_package_are_a_figure_and_no_table(tmp_path: Path, leads: int) -> None:
    canvas = Canvas(str(tmp_path / "figure.pdf"))
    paint_package(canvas, leads)
    found = found_on(canvas, tmp_path / "figure.pdf")
    assert [(item.kind, item.rows) for item in found] == [("pinout", leads)]


def test_a_ruled_table_in_two_halves_stays_a_table(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "halves.pdf"))
    canvas.setFont("Helvetica", 8)
    rows = [("Pin", "Name", "Pin", "Name"), *((str(k + 1), LEFT[k], str(k + 5), RIGHT[k]) for k in range(4))]
    for row, texts in enumerate(rows):
        for column, text in enumerate(texts):
            canvas.rect(100 + 60 * column, 600 - 16 * row, 60, 16)
            canvas.drawString(104 + 60 * column, 604 - 16 * row, text)
    found = found_on(canvas, tmp_path / "halves.pdf")
    assert [(item.kind, item.rows) for item in found] == [("pins", 8)]


def test_a_map_of_balls_is_a_figure(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "balls.pdf"))
    canvas.setFont("Helvetica", 6)
    canvas.rect(190, 440, 120, 120)
    for column in range(5):
        canvas.drawCentredString(202 + 24 * column, 564, str(column + 1))
    for row, letter in enumerate("ABCDE"):
        canvas.drawString(178, 537 - 24 * row, letter)
        for column in range(5):
            canvas.circle(202 + 24 * column, 540 - 24 * row, 6)
            canvas.drawCentredString(202 + 24 * column, 526 - 24 * row, "NC" if (row + column) % 2 else f"DQ{row}")
    canvas.drawString(190, 580, "BGA25 ball assignment, top view")
    found = found_on(canvas, tmp_path / "balls.pdf")
    assert [(item.kind, item.package, item.rows) for item in found] == [("pinout", "BGA25", 25)]
