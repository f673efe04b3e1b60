"""How a page was understood, stage by stage: what is furniture, what blocks are, and why."""

from pathlib import Path

import pytest
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas

from drawn_tables import DUAL_ROWS, Row, draw
from eider.datasheets import Datasheet
from eider.datasheets.documents.block_readings import read_block
from eider.datasheets.documents.page_explanation import explain_page, explanation_lines
from eider.services.datasheets.datasheet_contents import find_in_datasheet
from eider.services.datasheets.datasheet_explanation import explain_document

PINS: list[Row] = [["Pin", "Name", "Function"]] + [[str(n), f"IO{n}", "Input and output"] for n in range(1, 9)]
RATINGS: list[Row] = [
    ["Parameter", "Symbol", "Min", "Max", "Unit"],
    ["Supply voltage", "VDD", "1.7", "3.6", "V"],
    ["Supply current", "IDD", "0.1", "2.5", "mA"],
    ["Output current", "IO", "0.2", "9.0", "mA"],
]
TAPE: list[Row] = [
    ["Tape and reel dimensions", "", ""],
    ["A0", "4.1", "4.3"],
    ["B0", "3.1", "3.3"],
    ["K0", "1.1", "1.3"],
]
ORDERS: list[Row] = [
    ["Order code", "Package", "Packing"],
    ["LYN-OP27A-SO8", "SO-8", "Tube"],
    ["LYN-OP27B-SO8", "SO-8", "Reel"],
]


@pytest.mark.parametrize(
    ("rows", "kind", "why"),
    [
        (DUAL_ROWS, "dimensions", "8 of 8 rows have a letter and a length"),
        (PINS, "pins", "8 of 8 rows have the number and the name of a pin"),
        (RATINGS, "ratings", "units of electricity, time or heat are in 100% of its rows"),
        (TAPE, None, "its heading speaks of tapes and reels"),
        (ORDERS, "ordering", "most rows have an order code"),
        ([["Date", "Change"], ["2021", "First edition"], ["2022", "New address"]], None, "too few to be either"),
    ],
)
def test_a_block_is_told_with_its_reason(tmp_path: Path, rows: list[Row], kind: str | None, why: str) -> None:
    box = draw(tmp_path / "sheet.pdf", rows)
    read = read_block(Datasheet(tmp_path / "sheet.pdf").read(1), box)
    assert (read.kind, read.rows, read.columns) == (kind, len(rows), len(rows[0]))
    assert why in read.why


def test_words_without_rows_are_no_table(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "sheet.pdf"), pagesize=A4, invariant=1)
    canvas.drawString(100, 500, "One line of text")
    canvas.save()
    read = read_block(Datasheet(tmp_path / "sheet.pdf").read(1), (90, 480, 300, 520))
    assert (read.kind, read.columns, list(read.items(1))) == (None, 0, [])


def test_head_and_foot_are_listed_as_left_out(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "sheet.pdf"), pagesize=A4, invariant=1)
    for number in (1, 2):
        canvas.drawString(60, 810, "LYN-OP27 Lynfield")
        canvas.drawString(60, 400, f"Text of page {number}, which is on no other")
        canvas.drawString(60, 30, f"Rev. C, page {number}")
        canvas.showPage()
    canvas.save()
    told = explain_page(Datasheet(tmp_path / "sheet.pdf"), 1)
    assert [line.text for line in told.left_out] == ["LYN-OP27 Lynfield", "Rev. C, page 1"]
    assert "  left out, head, foot or frame: LYN-OP27 Lynfield" in explanation_lines(told)


def test_a_document_is_told_with_its_title_and_what_belongs_to_each_package(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "sheet.pdf"), pagesize=A4, invariant=1)
    canvas.setFont("Helvetica-Bold", 20)
    canvas.drawString(60, 760, "LYN-OP27")
    canvas.setFont("Helvetica", 11)
    canvas.drawString(60, 735, "Precision operational amplifier")
    canvas.drawString(60, 650, "Packages: SOIC-8 and DIP-8")
    canvas.save()
    datasheet = Datasheet(tmp_path / "sheet.pdf")
    told = explain_document(datasheet, find_in_datasheet(tmp_path / "sheet.pdf"))
    assert (told.title.name, told.title.description) == ("LYN-OP27", "Precision operational amplifier")
    assert [found.package.name for found in told.packages] == ["SOIC-8", "DIP-8"]
    assert "title: LYN-OP27; description: Precision operational amplifier" in told.lines()
