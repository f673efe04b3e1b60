"""From a maker's datasheet to a released part, in the real window with real keys: whatever the sheet looks like."""

from collections.abc import Callable
from pathlib import Path

import pypdfium2
import pytest
from PIL import Image
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

from desktop_helpers import MakeWindow, cell, open_step, settle, type_into
from drawn_tables import DUAL_ROWS, Row
from eider.desktop.app.window import MainWindow
from eider.desktop.part.part_page import PartPage

PINS: list[Row] = [
    ["Pin", "Name", "Type"], ["1", "OUTA", "output"], ["2", "INA-", "input"], ["3", "INA+", "input"],
    ["4", "VSS", "power"], ["5", "INB+", "input"], ["6", "INB-", "input"], ["7", "OUTB", "output"],
    ["8", "VDD", "power"],
]  # fmt: skip
NARROW: list[Row] = [
    ["Symbol", "Min", "Max"], ["A", "-", "1.10"], ["A1", "0.05", "0.15"], ["b", "0.25", "0.38"],
    ["D", "2.90", "3.10"], ["E", "4.75", "5.05"], ["E1", "2.90", "3.10"], ["e", "0.65", "0.65"], ["L", "0.40", "0.70"],
]  # fmt: skip
# Points for a millimetre in drawings.
SCALE = 16.0
SOURCE, FACTS, REVIEW = 0, 6, 7
# A draft has no more to confirm than this.
MOST_DOUBTS = 40


def begin(path: Path) -> Canvas:
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    canvas.setFont("Helvetica-Bold", 18)
    canvas.drawString(60, 790, "LYN-OP27")
    canvas.setFont("Helvetica", 10)
    canvas.drawString(60, 770, "Precision dual operational amplifier")
    return canvas


def put(canvas: Canvas, rows: list[Row], title: str, at: tuple[float, float]) -> None:
    table = Table(rows, style=[("GRID", (0, 0), (-1, -1), 0.6, colors.black), ("FONTSIZE", (0, 0), (-1, -1), 10)])
    _width, height = table.wrapOn(canvas, 500, 500)
    table.drawOn(canvas, *at)
    canvas.drawString(at[0], at[1] + height + 8, title)


def plain(path: Path) -> Path:
    canvas = begin(path)
    put(canvas, PINS, "Pin description", (60, 540))
    put(canvas, DUAL_ROWS, "SOIC-8 package dimensions, all lengths in mm", (60, 300))
    canvas.save()
    return path


def two_packages(path: Path) -> Path:
    canvas = begin(path)
    put(canvas, PINS, "Pin description", (60, 560))
    put(canvas, DUAL_ROWS, "SOIC-8 package dimensions, all lengths in mm", (60, 300))
    put(canvas, NARROW, "MSOP-8 package dimensions, all lengths in mm", (60, 60))
    canvas.save()
    return path


def scanned(path: Path) -> Path:
    """The plain sheet as a scanner gives it: a picture at 200 dpi, a little askew."""
    picture = (
        pypdfium2.PdfDocument(plain(path.with_name("printed.pdf")))[0].render(scale=200 / 72).to_pil().convert("L")
    )
    askew = picture.rotate(0.6, Image.Resampling.BICUBIC, fillcolor=255)
    askew.save(path, "PDF", resolution=200)
    return path


def across(canvas: Canvas, x0: float, x1: float, y: float, foot: float, text: str) -> None:
    """A dimension line from `x0` to `x1` at `y`, its extension lines from near `foot` on, and its text over it."""
    for x, way in ((x0, 1), (x1, -1)):
        canvas.line(x, foot + (2 if y > foot else -2), x, y + 3 if y > foot else y - 3)
        arrow(canvas, (x, y), (way, 0))
    canvas.line(x0, y, x1, y)
    canvas.drawCentredString((x0 + x1) / 2, y + 3, text)


def upright(canvas: Canvas, y0: float, y1: float, x: float, foot: float, text: str) -> None:
    """The same from `y0` to `y1` at `x`, its text beside it."""
    for y, way in ((y0, 1), (y1, -1)):
        canvas.line(foot + (2 if x > foot else -2), y, x + 3 if x > foot else x - 3, y)
        arrow(canvas, (x, y), (0, way))
    canvas.line(x, y0, x, y1)
    canvas.drawString(x + 3, (y0 + y1) / 2 - 3, text)


def arrow(canvas: Canvas, tip: tuple[float, float], way: tuple[int, int]) -> None:
    (x, y), (dx, dy) = tip, way
    path = canvas.beginPath()
    path.moveTo(x, y)
    path.lineTo(x + 5 * dx + 1.5 * dy, y + 5 * dy + 1.5 * dx)
    path.lineTo(x + 5 * dx - 1.5 * dy, y + 5 * dy - 1.5 * dx)
    path.close()
    canvas.drawPath(path, fill=1, stroke=0)


def drawn_lengths(path: Path) -> Path:
    """The pins in a table, and the package in a drawing with its lengths at the lines."""
    canvas = begin(path)
    put(canvas, PINS, "Pin description", (60, 560))
    canvas.drawString(60, 520, "SOIC-8 outline drawing, dimensions in mm")
    canvas.setFont("Helvetica", 8)
    x, y, half_span, half_body, half_length = 200.0, 400.0, 3.0 * SCALE, 1.95 * SCALE, 2.45 * SCALE
    canvas.rect(x - half_body, y - half_length, 2 * half_body, 2 * half_length)
    for lead in range(4):
        level = y + (1.5 - lead) * 1.27 * SCALE
        for side in (-1, 1):
            left = min(x + side * half_body, x + side * half_span)
            canvas.rect(left, level - 0.21 * SCALE, half_span - half_body, 0.42 * SCALE)
    across(canvas, x - half_span, x + half_span, y + 70, y + 1.8 * 1.27 * SCALE, "6.00±0.20")
    across(canvas, x - half_body, x + half_body, y + 54, y + half_length, "3.90±0.10")
    upright(canvas, y - half_length, y + half_length, x + 80, x + half_body, "4.90±0.10")
    upright(canvas, y + 0.5 * 1.27 * SCALE, y + 1.5 * 1.27 * SCALE, x - 80, x - half_span, "1.27")
    low = y - 1.5 * 1.27 * SCALE
    upright(canvas, low - 0.21 * SCALE, low + 0.21 * SCALE, x - 62, x - half_span, "0.42±0.06")
    # From the side, on the board.
    x, y, top = 420.0, 380.0, 1.55 * SCALE
    canvas.rect(x - half_body, y + 0.15 * SCALE, 2 * half_body, 1.4 * SCALE)
    for side in (-1, 1):
        foot, knee = x + side * half_span, x + side * (half_span - 0.7 * SCALE)
        canvas.line(foot, y, knee, y)
        canvas.line(knee, y, x + side * half_body, y + 0.8 * SCALE)
    upright(canvas, y, y + top, x + 80, x + half_body, "1.55±0.15")
    across(canvas, x - half_span, x - half_span + 0.7 * SCALE, y - 20, y, "0.70±0.30")
    canvas.save()
    return path


def draft(window: MainWindow, qtbot: QtBot, path: Path) -> PartPage:
    """Draft a part through the dialog; of several packages the last is chosen with the keyboard."""
    window.drafting.read_through(path)
    qtbot.waitUntil(lambda: window.drafting.dialog is not None, timeout=20_000)
    dialog = window.drafting.dialog
    assert dialog
    # Recognising a scan takes its seconds.
    qtbot.waitUntil(lambda: dialog.act.isEnabled() or dialog.packages.count() > 1, timeout=60_000)
    if dialog.packages.count() > 1:
        dialog.packages.setFocus()
        qtbot.keyClick(dialog.packages, Qt.Key.Key_End)
    qtbot.waitUntil(dialog.act.isEnabled, timeout=60_000)
    qtbot.keyClick(dialog, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.page is not None, timeout=60_000)
    settle(qtbot, window)
    assert window.page
    return window.page


def confirm_all(qtbot: QtBot, window: MainWindow, page: PartPage) -> int:
    """Confirm each reading with Enter; how many there were."""
    panel = open_step(page, SOURCE).confirming
    for confirmed in range(MOST_DOUBTS):
        if not page.controller.bundle.part.to_confirm:
            return confirmed
        qtbot.keyClick(panel.table, Qt.Key.Key_Return)
        settle(qtbot, window)
    raise AssertionError("no end of doubts")


@pytest.mark.parametrize(
    ("make", "span", "fewest"),
    [
        (plain, (5.8, 6.2), 0),
        (two_packages, (4.75, 5.05), 0),
        (drawn_lengths, (5.8, 6.2), 5),
        (scanned, (5.8, 6.2), 8),
    ],
)
def test_a_datasheet_becomes_a_released_part(
    make_window: MakeWindow,
    qtbot: QtBot,
    tmp_path: Path,
    make: Callable[[Path], Path],
    span: tuple[float, float],
    fewest: int,
) -> None:
    window = make_window()
    page = draft(window, qtbot, make(tmp_path / "sheet.pdf"))
    bundle = page.controller.bundle
    assert (bundle.part.name, bundle.sheet.family, bundle.sheet.pins) == ("LYN-OP27", "gullwing-dual", 8)
    assert [pin.name for pin in bundle.symbol.pins] == [row[1] for row in PINS[1:]]
    limits = bundle.sheet.dims["E"].limits
    assert limits
    assert (limits.lower, limits.upper) == span
    # What is read in a picture or told by a line alone is asked about; what a table says is not.
    assert confirm_all(qtbot, window, page) >= fewest
    facts = open_step(page, FACTS)
    type_into(qtbot, facts.table, cell(facts.table, "Manufacturer", 1), "Lyng Semi")
    settle(qtbot, window)
    review = open_step(page, REVIEW)
    qtbot.keyClicks(review.note, "first release, read from the datasheet")
    assert review.release_button.isEnabled(), [f.message for f in page.controller.findings]
    qtbot.mouseClick(review.release_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: "released as revision 1" in window.status.message.text(), timeout=30_000)
