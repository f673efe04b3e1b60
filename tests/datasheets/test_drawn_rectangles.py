"""Rectangles as hands draw them round a table: what they cut is read whole, what they leave out is said."""

from pathlib import Path

import pytest

from drawn_tables import DUAL_ROWS, Box, draw
from eider.datasheets import Datasheet
from eider.datasheets.tables.table_capture import TableCapture, capture_drawn, capture_table

LETTERS = ["A", "A1", "b", "D", "E", "E1", "e", "L"]


@pytest.fixture
def table(tmp_path: Path) -> tuple[Datasheet, Box]:
    box = draw(tmp_path / "table.pdf", DUAL_ROWS)
    return Datasheet(tmp_path / "table.pdf"), box


def read_of(found: TableCapture) -> tuple[list[str], str]:
    assert found.dimensions is not None
    return [row.letter for row in found.dimensions.rows], found.dimensions.doubt


@pytest.mark.parametrize("move", [(-15, -8, 15, 8), (3, 7, -3, -4), (6, -4, 6, -4), (0, 0, 0, 0)])
def test_a_careless_rectangle_reads_the_whole_table(
    table: tuple[Datasheet, Box], move: tuple[float, float, float, float]
) -> None:
    datasheet, box = table
    x0, y0, x1, y1 = (edge + off for edge, off in zip(box, move, strict=True))
    found = capture_drawn(datasheet, 1, (x0, y0, x1, y1))
    assert read_of(found) == (LETTERS, "")
    exact = capture_table(datasheet, 1, box)
    assert found.dimensions is not None
    assert exact.dimensions is not None
    assert [row.limits for row in found.dimensions.rows] == [row.limits for row in exact.dimensions.rows]


def test_rows_under_the_rectangle_are_said(table: tuple[Datasheet, Box]) -> None:
    datasheet, (x0, y0, x1, y1) = table
    letters, doubt = read_of(capture_drawn(datasheet, 1, (x0, y0 + 20, x1, y1)))
    assert letters == LETTERS[:-1]
    assert doubt == "the rectangle leaves out a row of the table: “L 0.40 - 1.27”"
    letters, doubt = read_of(capture_drawn(datasheet, 1, (x0, y0 + 60, x1, y1)))
    assert letters == LETTERS[:-3]
    assert doubt.startswith("the rectangle leaves out rows of the table: “E1 3.80")


def test_a_column_beside_the_rectangle_is_said(table: tuple[Datasheet, Box]) -> None:
    datasheet, (x0, y0, x1, y1) = table
    _letters, doubt = read_of(capture_drawn(datasheet, 1, (x0, y0, x1 - 60, y1)))
    assert doubt == "the rectangle leaves out a column of the table: “Max (mm)”"


def test_a_rectangle_in_the_middle_of_nowhere_stays_as_it_is(table: tuple[Datasheet, Box]) -> None:
    datasheet, (x0, y0, _x1, y1) = table
    letters, doubt = read_of(capture_drawn(datasheet, 1, (x0 - 300, y0, x0 + 40, y1)))
    assert letters == []
    assert doubt
