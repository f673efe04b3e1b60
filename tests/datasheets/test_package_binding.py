"""Which package a table is of: captions at drawings beside tables, and a column of pin numbers for each package."""

from pathlib import Path

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Table

from drawn_tables import Row, draw
from eider.datasheets import Datasheet
from eider.datasheets.documents.captions import package_beside
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.tables.pin_tables import pins_from_table
from eider.datasheets.tables.table_capture import capture_table

LENGTHS: list[Row] = [
    ["Dim", "Min", "Max"],
    ["A", "1.40", "1.60"],
    ["b", "0.36", "0.48"],
    ["D", "4.40", "4.60"],
    ["E", "2.29", "2.60"],
]
PINS: list[Row] = [
    ["Name", "SOT-23-5", "SOT-89-3", "SOT-223", "Function"],
    ["IN", "1", "3", "3", "Unregulated input"],
    ["GND", "2", "1", "1", "Ground"],
    ["OUT", "5", "2, TAB", "2, TAB", "Output"],
    ["EN", "3", "–", "–", "High enables"],
]


def two_tables(path: Path, captions: list[tuple[float, float, str]]) -> Path:
    """Two tables of lengths on the right, the feet at 600 and 440, and captions where they are asked for."""
    canvas = Canvas(str(path), pagesize=A4, invariant=1)
    for foot in (600, 440):
        table = Table(LENGTHS, style=[("GRID", (0, 0), (-1, -1), 0.5, colors.black), ("FONTSIZE", (0, 0), (-1, -1), 9)])
        table.wrapOn(canvas, 300, 300)
        table.drawOn(canvas, 300, foot)
    for x, y, text in captions:
        canvas.drawString(x, y, text)
    canvas.save()
    return path


def packages(path: Path) -> list[str]:
    return [item.package for item in survey(Datasheet(path)) if item.kind == "dimensions"]


def test_a_caption_under_the_drawing_beside_a_table_names_its_package(tmp_path: Path) -> None:
    """The caption of the upper drawing stands right over the lower table's heading, and is not its."""
    path = two_tables(tmp_path / "a.pdf", [(80, 602, "SOT-23-5"), (80, 442, "SOT-89-3")])
    assert packages(path) == ["SOT-23-5", "SOT-89-3"]


def test_a_heading_over_a_table_comes_before_what_stands_beside_it(tmp_path: Path) -> None:
    path = two_tables(tmp_path / "a.pdf", [(300, 700, "SOT-223"), (80, 660, "SOT-23-5"), (300, 540, "SC-70")])
    assert packages(path) == ["SOT-223", "SC-70"]


def test_a_heading_at_the_left_of_the_page_is_of_the_table_under_it(tmp_path: Path) -> None:
    path = two_tables(tmp_path / "a.pdf", [(60, 705, "SOT-223 outline"), (60, 545, "SC-70 outline")])
    assert packages(path) == ["SOT-223", "SC-70"]


def test_what_is_beside_another_table_alone_leaves_a_table_without_a_package(tmp_path: Path) -> None:
    path = two_tables(tmp_path / "a.pdf", [(80, 588, "SOT-23-5")])
    page = Datasheet(path).read(1)
    upper, lower = [item.box for item in survey(Datasheet(path)) if item.kind == "dimensions"]
    assert package_beside(page, upper, [lower]) == "SOT-23-5"
    assert package_beside(page, lower, [upper]) == ""


def test_the_column_of_a_package_gives_its_pins_a_tab_and_none_for_a_dash(tmp_path: Path) -> None:
    box = draw(tmp_path / "pins.pdf", PINS)
    datasheet = Datasheet(tmp_path / "pins.pdf")
    table = capture_table(datasheet, 1, box, "pins").pins
    assert table
    assert [name for _k, name in table.packages] == ["SOT-23-5", "SOT-89-3", "SOT-223"]
    columns = table.columns_for("SOT-223")
    read = capture_table(datasheet, 1, box, "pins", columns=columns).pins
    assert read
    assert [(pin.number, pin.name) for pin in pins_from_table(read)[0].pins] == [
        ("3", "IN"),
        ("1", "GND"),
        ("2", "OUT"),
        ("TAB", "OUT"),
    ]
    assert [row.doubt for row in read.rows] == ["", "", ""]
