"""Pinout figures drawn by hand on a page, in the ways that datasheets draw them, and read again."""

from collections.abc import Callable, Mapping
from pathlib import Path

import pytest
from reportlab.pdfgen.canvas import Canvas

from eider.datasheets import Datasheet
from eider.datasheets.figures.pinout_figures import ReadFigure, read_pinout_figure
from eider.datasheets.pages.document import DatasheetError

BOX = (50.0, 50.0, 550.0, 750.0)
Paint = Callable[[Canvas], object]


@pytest.fixture
def read(tmp_path: Path) -> Callable[[Paint], ReadFigure]:
    def made(paint: Paint) -> ReadFigure:
        path = tmp_path / "figure.pdf"
        canvas = Canvas(str(path))
        canvas.setFont("Helvetica", 8)
        paint(canvas)
        canvas.save()
        datasheet = Datasheet(path)
        try:
            return read_pinout_figure(datasheet, 1, BOX)
        finally:
            datasheet.close()

    return made


def named(found: ReadFigure) -> Mapping[str, str]:
    return {pin.number: pin.name for pin in found.pins}


LEFT = [("1", "IN1+"), ("2", "IN1-"), ("3", "VSS"), ("4", "OUT A")]
RIGHT = [("8", "VDD"), ("7", "10"), ("6", "RESET"), ("5", "D7")]


def two_rows(canvas: Canvas, *, names_inside: bool) -> None:
    canvas.rect(250, 300, 100, 120)
    for row, ((left, left_name), (right, right_name)) in enumerate(zip(LEFT, RIGHT, strict=True)):
        y = 400 - 25 * row
        inner, outer = (
            ((left_name, left), (right_name, right)) if names_inside else ((left, left_name), (right, right_name))
        )
        canvas.drawString(254, y, inner[0] if names_inside else left)
        canvas.drawRightString(246, y, left if names_inside else left_name)
        canvas.drawRightString(346, y, outer[0] if names_inside else right)
        canvas.drawString(354, y, right if names_inside else right_name)
    canvas.drawCentredString(300, 280, "Top view")


def test_names_outside_of_two_rows_of_numbers(read: Callable[[Paint], ReadFigure]) -> None:
    found = read(lambda canvas: two_rows(canvas, names_inside=False))
    wanted = dict(LEFT + RIGHT)
    # A name that is a number cannot be told from one; it is named among what was not read.
    del wanted["7"]
    assert named(found) | {"7": ""} == wanted | {"7": ""}
    assert "Top view" in found.unread


def test_names_inside_of_two_rows_of_numbers(read: Callable[[Paint], ReadFigure]) -> None:
    found = read(lambda canvas: two_rows(canvas, names_inside=True))
    wanted = {number: name for number, name in LEFT + RIGHT if number != "7"}
    assert {number: name for number, name in named(found).items() if number != "7"} == wanted


def four_sides(canvas: Canvas) -> None:
    """Sixteen leads, the names above and below written upwards."""
    canvas.rect(240, 340, 120, 120)
    for i in range(4):
        at = 20 * i + 30
        canvas.drawString(243, 460 - at, str(i + 1))
        canvas.drawRightString(235, 460 - at, f"PA{i}")
        canvas.drawRightString(357, 340 + at, str(i + 9))
        canvas.drawString(365, 340 + at, f"PC{i}")
        canvas.drawCentredString(240 + at, 343, str(i + 5))
        canvas.drawCentredString(360 - at, 450, str(i + 13))
        for x, y, text, is_below in ((240 + at, 335, f"PB{i}", True), (360 - at, 465, f"PD{i}", False)):
            canvas.saveState()
            canvas.translate(x + 3, y)
            canvas.rotate(90)
            (canvas.drawRightString if is_below else canvas.drawString)(0, 0, text)
            canvas.restoreState()
    canvas.drawCentredString(300, 395, "TQ16")


def test_names_round_four_sides(read: Callable[[Paint], ReadFigure]) -> None:
    found = read(four_sides)
    names = [f"P{port}{i}" for port in "ABCD" for i in range(4)]
    assert named(found) == {str(n + 1): name for n, name in enumerate(names)}
    assert found.unread == ("TQ16",)


def three_leads(canvas: Canvas) -> None:
    """Names above and below the numbers, as figures of small packages have them."""
    canvas.rect(240, 380, 60, 40)
    for x, y, number, name in ((252, 385, "1", "IN"), (288, 385, "2", "GND"), (270, 410, "3", "OUT")):
        canvas.drawCentredString(x, y, number)
        canvas.drawCentredString(x, 425 if number == "3" else 370, name)
    canvas.drawString(200, 300, "Fig. 4")


def test_names_above_and_below_their_numbers(read: Callable[[Paint], ReadFigure]) -> None:
    found = read(three_leads)
    assert named(found) == {"1": "IN", "2": "GND", "3": "OUT"}
    assert set(found.unread) == {"Fig.", "4"} or found.unread == ("Fig. 4",)


def ball_map(canvas: Canvas) -> None:
    for column in range(4):
        canvas.drawCentredString(200 + 40 * column, 520, str(column + 1))
    for row, letter in enumerate("ABCD"):
        canvas.drawCentredString(170, 500 - 30 * row, letter)
        for column in range(4):
            if (row, column) != (1, 1):
                canvas.drawCentredString(200 + 40 * column, 500 - 30 * row, f"N{row}{column}")


def test_a_ball_map_with_an_empty_position(read: Callable[[Paint], ReadFigure]) -> None:
    found = read(ball_map)
    assert named(found) == {
        f"{letter}{column + 1}": f"N{row}{column}"
        for row, letter in enumerate("ABCD")
        for column in range(4)
        if (row, column) != (1, 1)
    }


def test_a_rectangle_without_a_figure_is_refused(read: Callable[[Paint], ReadFigure]) -> None:
    with pytest.raises(DatasheetError, match="no pin numbers with names"):
        read(lambda canvas: canvas.drawString(100, 500, "Ordering information"))
    with pytest.raises(DatasheetError, match="5,001 words"):
        read(lambda canvas: [canvas.drawString(60 + 7 * (n % 70), 60 + 9 * (n // 70), "x") for n in range(5001)])
    with pytest.raises(DatasheetError, match="no text in this rectangle"):
        read(lambda canvas: canvas.rect(100, 100, 50, 50))
