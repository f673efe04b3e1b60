"""A pinout figure in a PDF that Qt writes, with glyphs of its own and text that runs upwards, against a package."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QFont, QPageSize, QPainter, QPdfWriter
from PyQt6.QtWidgets import QApplication

from eider.datasheets import Datasheet
from eider.datasheets.figures.pinout_figures import ReadFigure, read_pinout_figure
from eider.evidence.figure_comparison import place_differences
from eider.model.part import PinoutFigure
from eider.packages.registry import family_of
from helpers import hundred_leads

COUNT, STEP, CORNER = 25, 14, 150
SIDE = COUNT * STEP + 20
NAMES = [f"{port}{i}" for port in ("PA", "PB", "VDD_", "PC0/AN") for i in range(COUNT)]


def write_text(painter: QPainter, x: float, y: float, text: str, angle: float, *, to_left: bool) -> None:
    """A text whose beginning, or end, is at a place."""
    painter.save()
    painter.translate(x, y)
    painter.rotate(angle)
    align = Qt.AlignmentFlag.AlignRight if to_left else Qt.AlignmentFlag.AlignLeft
    painter.drawText(QRectF(-80 if to_left else 0, -6, 80, 12), align | Qt.AlignmentFlag.AlignVCenter, text)
    painter.restore()


def draw_four_sides(painter: QPainter) -> None:
    """Numbers inside of the outline, round the package; names outside, those above and below written upwards."""
    painter.drawRect(CORNER, CORNER, SIDE, SIDE)
    far = CORNER + SIDE
    for number, name in enumerate(NAMES, start=1):
        side, place = divmod(number - 1, COUNT)
        down, back = CORNER + 17 + STEP * place, far - 17 - STEP * place
        x, y = ((CORNER, down), (down, far), (far, back), (back, CORNER))[side]
        inside, outside = ((3, -12), (-3, 12), (-3, 12), (3, -12))[side]
        angle = -90.0 if side % 2 else 0.0
        dx, dy = (0, 1) if side % 2 else (1, 0)
        write_text(painter, x + inside * dx, y + inside * dy, str(number), angle, to_left=side in (2, 3))
        write_text(painter, x + outside * dx, y + outside * dy, name, angle, to_left=side in (0, 1))
    middle = QRectF(CORNER, CORNER + SIDE / 2 - 10, SIDE, 20)
    painter.drawText(middle, Qt.AlignmentFlag.AlignCenter, "Top view")


@pytest.fixture
def figure(qapp: QApplication, tmp_path: Path) -> ReadFigure:
    path = tmp_path / "figure.pdf"
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setResolution(72)
    painter = QPainter(writer)
    font = QFont(qapp.font())
    font.setPointSizeF(7)
    painter.setFont(font)
    draw_four_sides(painter)
    painter.end()
    datasheet = Datasheet(path)
    try:
        return read_pinout_figure(datasheet, 1, (5, 5, 590, 837))
    finally:
        datasheet.close()


def test_a_hundred_pins_are_read_and_stand_where_the_package_has_them(figure: ReadFigure) -> None:
    assert {pin.number: pin.name for pin in figure.pins} == {str(n): name for n, name in enumerate(NAMES, start=1)}
    assert figure.unread == ("Top view",)
    sheet = hundred_leads()
    family = family_of(sheet.family)
    terminals = family.terminals(sheet, family.dims(sheet))
    held = PinoutFigure(document="", page=1, box=figure.box, pins=figure.pins, size=figure.size)
    assert place_differences(terminals, held) == ((), None, ())
    from_below = place_differences(terminals, replace(held, seen="below"))
    assert from_below is not None and from_below.whole is not None
    assert "mirrored" in from_below.whole.words
