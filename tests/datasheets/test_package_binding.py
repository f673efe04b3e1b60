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
from eider.datasheets.tables.value_reading import unit_of
from eider.services.datasheets.datasheet_contents import find_in_datasheet

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


def grid_of(rows: list[Row], canvas: Canvas, x: float, y: float, *, dotted: bool = False) -> None:
    """A ruled table; dotted ones are drawn as browsers do, of small squares."""
    style = [("FONTSIZE", (0, 0), (-1, -1), 9)] + ([] if dotted else [("GRID", (0, 0), (-1, -1), 0.5, colors.black)])
    table = Table(rows, style=style, colWidths=60, rowHeights=16)
    width, height = table.wrapOn(canvas, 500, 500)
    table.drawOn(canvas, x, y)
    if dotted:
        for row in range(len(rows) + 1):
            for dot in range(int(width / 1.5)):
                canvas.rect(x + 1.5 * dot, y + 16 * row, 0.75, 0.75, stroke=0, fill=1)
        for column in range(len(rows[0]) + 1):
            for dot in range(int(height / 1.5)):
                canvas.rect(x + 60 * column, y + 1.5 * dot, 0.75, 0.75, stroke=0, fill=1)


def test_rules_of_dots_are_rules(tmp_path: Path) -> None:
    """Two tables side by side with level rows, which nothing but their dotted frames tells apart."""
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    pins: list[Row] = [["Pin", "Name", "Function"], ["1-3", "S", "Source"], ["4", "G", "Gate"], ["5-8", "D", "Drain"]]
    grid_of([["", "SO-8"], ["VDS (V)", "60"], ["ID (A)", "14"], ["QG (nC)", "19"]], canvas, 60, 600, dotted=True)
    grid_of(pins, canvas, 300, 600, dotted=True)
    canvas.save()
    datasheet = Datasheet(tmp_path / "a.pdf")
    across = [ruling for ruling in datasheet.read(1).rulings if ruling.across]
    assert sorted({round(ruling.at) for ruling in across}) == [600, 616, 632, 648, 664]
    assert [item.rows for item in survey(datasheet) if item.kind == "pins"] == [3]


def test_a_few_dots_are_no_rule(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    canvas.drawString(60, 700, "dots")
    for dot in range(7):
        canvas.rect(60 + 1.5 * dot, 600, 0.75, 0.75, stroke=0, fill=1)
    canvas.save()
    assert Datasheet(tmp_path / "a.pdf").read(1).rulings == ()


def test_the_same_head_over_the_same_rows_is_another_table(tmp_path: Path) -> None:
    """Tables of two packages on pages that follow each other go by one head; that of a long pin table goes on."""
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    for _page in range(2):
        grid_of(LENGTHS, canvas, 60, 600)
        canvas.showPage()
    for first in (1, 9):
        grid_of([["Pin", "Name"], *([str(n), f"IO{n}"] for n in range(first, first + 8))], canvas, 60, 600)
        canvas.showPage()
    canvas.save()
    found = [(item.kind, item.page, item.rows) for item in survey(Datasheet(tmp_path / "a.pdf"))]
    assert found == [("dimensions", 1, 4), ("dimensions", 2, 4), ("pins", 3, 16)]


def test_a_head_broken_into_other_lines_on_the_next_page_is_the_same(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    grid_of([["Pin number", "Name"], *([str(n), f"IO{n}"] for n in range(1, 9))], canvas, 60, 600)
    canvas.showPage()
    grid_of([["Pin\nnumber", "Name"], *([str(n), f"IO{n}"] for n in range(9, 17))], canvas, 60, 600)
    canvas.save()
    assert [item.rows for item in survey(Datasheet(tmp_path / "a.pdf"))] == [16]


def test_limits_named_again_under_rows_of_numbers_begin_another_table(tmp_path: Path) -> None:
    """A table of voltages by letters that are those of a package, right under the table of lengths, without a rule."""
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    levels: list[Row] = [["Level", "Min", "Max"], ["H", "2.4", "5.5"], ["L", "0.1", "0.8"], ["A", "4.5", "18.0"]]
    canvas.setFont("Helvetica", 9)
    for line, row in enumerate([*LENGTHS, *levels]):
        for column, text in enumerate(row):
            canvas.drawString(60 + 70 * column, 700 - 12 * line, text)
    canvas.save()
    (first, *_rest) = [item for item in survey(Datasheet(tmp_path / "a.pdf")) if item.kind == "dimensions"]
    assert first.rows == 4
    read = capture_table(Datasheet(tmp_path / "a.pdf"), 1, first.box, "dimensions").dimensions
    assert read
    assert [row.letter for row in read.rows] == ["A", "b", "D", "E"]


def test_an_inch_behind_a_limit_is_a_unit() -> None:
    assert [unit_of(text) for text in ("Min in", "Max. in", "Min mm", "min in free air", "in")] == [
        "in",
        "in",
        "mm",
        "",
        "in",
    ]


def test_a_house_code_in_the_order_table_binds_the_tables_under_it(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    orders: list[Row] = [
        ["Order code", "Package", "Drawing"],
        ["LYN27CS", "SO-8", "KS-08C"],
        ["LYN27CM", "MSOP-8", "KM-08B"],
    ]
    canvas.drawString(60, 700, "Ordering")
    grid_of(orders, canvas, 60, 600)
    canvas.showPage()
    for code in ("KS-08C", "KM-08B"):
        canvas.drawString(60, 780, code)
        grid_of(LENGTHS, canvas, 60, 500)
        canvas.showPage()
    canvas.save()
    contents = find_in_datasheet(tmp_path / "a.pdf")
    assert [(item.page, item.package) for item in contents.found if item.kind == "dimensions"] == [
        (2, "SO-8"),
        (3, "MSOP-8"),
    ]


def test_a_table_right_under_the_drawing_of_a_package_is_its(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    canvas.drawString(60, 790, "Package outline SO-8")
    canvas.rect(80, 660, 90, 60)
    for lead in range(4):
        canvas.rect(90 + 20 * lead, 640, 8, 20)
        canvas.rect(90 + 20 * lead, 720, 8, 20)
    for letter, x, y in (("D", 120, 750), ("E", 176, 690), ("b", 72, 645)):
        canvas.drawString(x, y, letter)
    grid_of(LENGTHS, canvas, 60, 520)
    canvas.save()
    assert packages(tmp_path / "a.pdf") == ["SO-8"]


def test_a_gap_in_the_words_of_one_page_alone_is_no_column(tmp_path: Path) -> None:
    """On the first page the functions have two words far apart, on the second their words run over that gap."""
    canvas = Canvas(str(tmp_path / "a.pdf"), pagesize=A4, invariant=1)
    for first, texts in ((1, ("Input", "low")), (13, ("Input of the second stage, high", ""))):
        canvas.setFont("Helvetica", 9)
        for column, text in enumerate(("Pin", "Name", "Function")):
            canvas.drawString(60 + 70 * column, 700, text)
        for row in range(12):
            y = 688 - 12 * row
            canvas.drawString(60, y, str(first + row))
            canvas.drawString(130, y, f"IO{first + row}")
            canvas.drawString(200, y, texts[0])
            canvas.drawString(290, y, texts[1])
        canvas.showPage()
    canvas.save()
    assert [item.rows for item in survey(Datasheet(tmp_path / "a.pdf")) if item.kind == "pins"] == [24]
