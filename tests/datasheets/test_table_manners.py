"""Manners in which tables write limits, tolerances, sizes, packages and order codes, each drawn by hand and read."""

from collections.abc import Callable
from itertools import pairwise
from pathlib import Path

import pytest
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from tests.drawn_tables import Row, draw

from eider.datasheets import Datasheet
from eider.datasheets.documents.document_survey import survey
from eider.datasheets.documents.found_items import FoundItem
from eider.datasheets.pages.page_paths import PathPiece
from eider.datasheets.pages.ruling_lines import Ruling, join_pieces, read_rulings
from eider.datasheets.tables.dimension_tables import ReadDimensionTable
from eider.datasheets.tables.table_capture import capture_table

Read = Callable[[list[Row]], ReadDimensionTable]


@pytest.fixture
def read(tmp_path: Path) -> Read:
    def made(rows: list[Row]) -> ReadDimensionTable:
        box = draw(tmp_path / "table.pdf", rows)
        found = capture_table(Datasheet(tmp_path / "table.pdf"), 1, box, "dimensions").dimensions
        assert found is not None
        return found

    return made


def found_in(path: Path) -> list[FoundItem]:
    return list(survey(Datasheet(path)))


def test_two_numbers_in_each_cell_are_limits_where_all_are_in_one_order(read: Read) -> None:
    table = read([["Unit", "A max.", "b", "D", "E", "e"], ["mm", "1.60", "0.27 0.17", "7.1 6.9", "9.2 8.8", "0.5"]])
    assert {row.letter: (row.text, row.doubt) for row in table.rows} == {
        "A": ("max 1.60", ""), "b": ("0.17–0.27", ""), "D": ("6.9–7.1", ""), "E": ("8.8–9.2", ""), "e": ("0.5", ""),
    }  # fmt: skip


def test_two_numbers_in_cells_in_either_order_are_asked_about(read: Read) -> None:
    table = read([["Unit", "A max.", "b", "D", "E", "e"], ["mm", "1.60", "0.17 0.27", "7.1 6.9", "9.2 8.8", "0.5"]])
    assert {row.letter for row in table.rows if "two values" in row.doubt} == {"b", "D", "E"}


def test_a_tolerance_at_a_letter_is_of_all_its_values(read: Read) -> None:
    rows = [["Case", "EIA code", "L", "W", "F ±0.1 (±.004)"], ["A", "3216-18", "3.2 ±0.2", "1.6 ±0.2", "1.2 (.047)"],
            ["B", "3528-21", "3.5 ±0.2", "2.8 ±0.2", "2.2 (.087)"]]  # fmt: skip
    table = read(rows)
    assert table.members == ("A", "B")
    assert [row.text for row in table.rows if row.letter == "F"] == ["1.2 ±0.1", "2.2 ±0.1"]
    assert not any(row.doubt for row in table.rows)


def test_sizes_may_stand_across_with_letters_down_the_side(read: Read) -> None:
    table = read(
        [["øD", "5", "6.3", "8", "10"], ["F ±0.5", "2.0", "2.5", "3.5", "5.0"], ["ød", "0.5", "0.5", "0.6", "0.6"]]
    )
    assert table.members == ("5", "6.3", "8", "10")
    eight = {row.letter: row.text for row in table.rows if row.member == "8"}
    assert eight == {"D": "8", "F": "3.5 ±0.5", "d": "0.6"}


def test_numbers_of_positions_across_are_the_members(read: Read) -> None:
    table = read(
        [["Positions", "2", "4", "6", "8"], ["A", "3.7", "6.3", "8.8", "11.3"], ["B", "1.27", "3.81", "6.35", "8.89"]]
    )
    assert [(row.letter, row.text) for row in table.rows if row.member == "6"] == [("A", "8.8"), ("B", "6.35")]


def test_three_columns_of_numbers_without_heads_are_limits_and_no_sizes(read: Read) -> None:
    table = read([["A", "1.0", "1.1", "1.2"], ["b", "0.2", "0.3", "0.4"], ["D", "4.8", "4.9", "5.0"]])
    assert table.members == ()
    assert [row.text for row in table.rows] == [
        "min 1.0 nom 1.1 max 1.2",
        "min 0.2 nom 0.3 max 0.4",
        "min 4.8 nom 4.9 max 5.0",
    ]


def test_sets_with_letters_across_stand_side_by_side(read: Read) -> None:
    head = ["Model No.", "Circuits", "A", "B"]
    table = read([head * 2, ["BX-02", "2", "2.5", "7.4", "BX-05", "5", "10.0", "14.9"],
                  ["BX-03", "3", "5.0", "9.9", "BX-06", "6", "12.5", "17.4"]])  # fmt: skip
    assert table.members == ("2", "3", "5", "6")
    assert [(row.letter, row.text) for row in table.rows if row.member == "6"] == [("A", "12.5"), ("B", "17.4")]


def test_a_typical_value_under_a_minimum_is_the_value(read: Read) -> None:
    table = read([["Dim", "Min (in)", "Max (in)"], ["A", "", ".200"], ["B", ".014", ".023"], ["e", ".100 TYP", ""]])
    assert {row.letter: row.limits.nom for row in table.rows if row.limits and row.limits.nom} == {
        "e": pytest.approx(2.54)
    }


def test_packages_with_their_unit_beside_them_stand_side_by_side(tmp_path: Path) -> None:
    rows = [["Ref", "SO8 (mm)", "", "MiniSO8 (mm)", ""], ["", "Min", "Max", "Min", "Max"],
            ["A", "1.35", "1.75", "0.90", "1.10"],
            ["b", "0.28", "0.48", "0.22", "0.40"], ["D", "4.80", "5.00", "2.80", "3.20"]]  # fmt: skip
    draw(tmp_path / "two.pdf", rows)
    assert [item.package for item in found_in(tmp_path / "two.pdf")] == ["SO8", "MiniSO8"]


def test_a_table_of_pins_is_found_for_each_package_over_its_columns(tmp_path: Path) -> None:
    rows = [["Symbol", "LQFP48", "LQFP64", "Type"], ["P0.0", "2", "10", "I/O"], ["P0.1", "3", "11", "I/O"],
            ["VSS", "12", "20", "P"], ["VDD", "1", "9", "P"]]  # fmt: skip
    draw(tmp_path / "pins.pdf", rows)
    found = found_in(tmp_path / "pins.pdf")
    assert [(item.kind, item.package, item.rows) for item in found] == [("pins", "LQFP48", 4), ("pins", "LQFP64", 4)]


@pytest.mark.parametrize("head", ["Part No.", "Bestellnummer", "Order code"])
def test_a_column_of_order_codes_makes_a_table_of_orders(tmp_path: Path, head: str) -> None:
    rows = [
        [head if head.isascii() else "Part No.", "L (µH)", "DCR (mΩ)"],
        ["PLN2016-1R0M", "1.0", "20"],
        ["PLN2016-2R2M", "2.2", "31"],
    ]
    draw(tmp_path / "orders.pdf", rows)
    assert [item.kind for item in found_in(tmp_path / "orders.pdf")] == ["ordering"]


def test_a_table_goes_on_in_the_next_column_of_its_page(tmp_path: Path) -> None:
    canvas = Canvas(str(tmp_path / "columns.pdf"), pagesize=A4)
    names = ["OE", "D0", "D1", "D2", "GND", "LE", "Q2", "Q1", "Q0", "VCC"]
    for left, top, first, last in ((60, 300, 1, 5), (320, 700, 6, 10)):
        lines = [["Symbol", "Description", "Pin"], *([names[n - 1], "signal", str(n)] for n in range(first, last + 1))]
        canvas.setFont("Helvetica", 9)
        for row, texts in enumerate(lines):
            y = top - 18 * row
            canvas.rect(left, y - 5, 180, 18)
            for at, text in zip((0, 60, 140), texts, strict=True):
                canvas.rect(left + at, y - 5, (60, 80, 40)[(0, 60, 140).index(at)], 18)
                canvas.drawString(left + at + 4, y, text)
    canvas.save()
    pins = [item for item in found_in(tmp_path / "columns.pdf") if item.kind == "pins"]
    assert [(item.rows, item.box[0] < 100) for item in pins] == [(10, True)]


def test_a_line_drawn_by_hand_is_a_rule() -> None:
    points = ((70.0, 500.0), (190.0, 500.6), (310.0, 499.9), (430.0, 500.5), (550.0, 500.1))
    (ruling,) = read_rulings([PathPiece(points, "mllll", False, False, True)])
    assert (ruling.across, ruling.start, ruling.stop) == (True, 70.0, 550.0)
    apart = [PathPiece(pair, "ml", False, False, True) for pair in pairwise(points)]
    assert [(r.start, r.stop) for r in read_rulings(apart)] == [(70.0, 550.0)]


def test_lines_that_lie_over_each_other_stay_apart() -> None:
    lines = [Ruling(True, 500.0, 70.0, 300.0), Ruling(True, 502.0, 70.0, 300.0), Ruling(True, 500.0, 310.0, 400.0)]
    assert len(join_pieces(lines)) == 3
