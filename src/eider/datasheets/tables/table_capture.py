"""A rectangle on a page to what is in it: a table of dimensions or of pins, each value with its place."""

from collections import Counter
from collections.abc import Sequence
from typing import Literal

import msgspec

from eider.datasheets.layout.page_furniture import without_furniture
from eider.datasheets.pages.document import Datasheet, DatasheetError, PageText, turned_page
from eider.datasheets.pages.font_letters import UNREADABLE
from eider.datasheets.pages.page_frame import holds, turned
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.recognition.recognised_page import RECOGNISED, is_recognised_within
from eider.datasheets.tables.dimension_columns import LIMITS, ColumnRole
from eider.datasheets.tables.dimension_tables import ReadDimension, ReadDimensionTable, read_dimension_table
from eider.datasheets.tables.drawn_rectangles import drawn_round_table
from eider.datasheets.tables.pin_tables import PinRow, ReadPinTable, read_pin_table, with_letters_for_digits
from eider.datasheets.tables.table_continuation import (
    edges_on,
    find_continuation,
    find_in_next_column,
    repeats_rows,
)
from eider.datasheets.tables.table_grid import TableGrid, find_grid
from eider.datasheets.tables.unit_captions import unit_near
from eider.geometry.plane import Box
from eider.packages.letters.drawing_witness import DrawnSpan

CaptureKind = Literal["dimensions", "pins"]
# A table goes on over so many pages at most.
MOST_PAGES = 40


class CellLocation(msgspec.Struct, frozen=True):
    """Where a row stands: page from 1, box in PDF points."""

    page: int
    box: Box


class TableCapture(msgspec.Struct, frozen=True):
    """What was understood of a rectangle.

    `dimensions` or `pins` holds the rows, as `kind` says; `places` where each of them stands; `cells` the grid as
    texts, row by row; `continued` the pages that the table goes on over. `drawn` are the lines at which letters stand
    in the outline drawing nearby, once it was looked for.
    """

    kind: CaptureKind
    page: int
    box: Box
    is_ruled: bool
    cells: tuple[tuple[str, ...], ...]
    dimensions: ReadDimensionTable | None
    pins: ReadPinTable | None
    places: tuple[CellLocation, ...]
    continued: tuple[int, ...] = ()
    drawn: tuple[DrawnSpan, ...] = ()


class _Part(msgspec.Struct, frozen=True):
    """The table's piece on one page, in coordinates in which its text lies straight."""

    page: int
    grid: TableGrid
    rulings: tuple[Ruling, ...]
    quarters: int


def capture_table(
    datasheet: Datasheet,
    page: int,
    box: Box,
    kind: CaptureKind | None = None,
    *,
    columns: Sequence[ColumnRole] | Sequence[str] | None = None,
    unit: str = "",
    follow: bool = True,
) -> TableCapture:
    """Read the table inside a box.

    Args:
        datasheet: the open document.
        page: from 1.
        box: x0, y0, x1, y1 in PDF points.
        kind: what the table is; told by what is in it unless given.
        columns: what the user takes each column for.
        unit: what the user says the dimensions are in where their headings do not; else what a caption says.
        follow: go on over the next pages where the table does.

    Raises:
        DatasheetError: no text lies in the box, or its fonts do not say which letters they draw.
    """
    text = without_furniture(datasheet.read(page))
    if not text.is_readable:
        raise DatasheetError(f"page {page} of {datasheet.path.name} cannot be read: {UNREADABLE}")
    if text.is_picture and not text.words:
        told = "is a picture whose letters are not recognised yet; wait until they are, or type the values"
        raise DatasheetError(f"page {page} of {datasheet.path.name} {told}")
    quarters = quarters_in(text, box)
    text, lying = turned_page(text, quarters), turned(box, quarters)
    parts, left_out = [_part(text, lying, quarters)], ""
    last, last_box, places = text, lying, [(text, lying)]
    while follow and len(parts) < MOST_PAGES:
        following = last
        wanted = find_in_next_column(parts[0].grid, parts[-1].grid, last_box, last)
        if wanted is None and last.page < datasheet.pages:
            following = turned_page(without_furniture(datasheet.read(last.page + 1)), quarters)
            wanted = find_continuation(parts[0].grid, parts[-1].grid, last_box, last, following)
        if wanted is None:
            break
        further = _part(following, wanted, quarters)
        if further.grid.columns != parts[0].grid.columns:
            parts, further = _in_same_columns(parts, places, further, (following, wanted))
        if further.grid.columns != parts[0].grid.columns:
            left_out = f"page {further.page} may go on with other columns; capture what it has by itself"
            break
        if repeats_rows([part.grid for part in parts], further.grid):
            break
        parts.append(further)
        last, last_box = following, _outline(further.grid)
        places.append((following, wanted))
    unit = unit or unit_near(text, lying)
    found = _understood(parts, box, kind or _kind_of(parts[0].grid), columns, unit)
    return _with_recognised(_with_doubt(found, left_out), datasheet)


def capture_drawn(
    datasheet: Datasheet,
    page: int,
    box: Box,
    kind: CaptureKind | None = None,
    *,
    columns: Sequence[ColumnRole] | Sequence[str] | None = None,
    unit: str = "",
) -> TableCapture:
    """Read the table round which a person drew a box: words that its edges cut are taken whole, and rows and columns
    outside of it are a doubt. Arguments and errors are those of `capture_table`.
    """
    text = without_furniture(datasheet.read(page))
    quarters = quarters_in(text, box)
    whole, left_out = drawn_round_table(turned_page(text, quarters), turned(box, quarters))
    found = capture_table(datasheet, page, turned(whole, -quarters), kind, columns=columns, unit=unit)
    return _with_doubt(found, left_out)


def _in_same_columns(
    parts: list[_Part], places: Sequence[tuple[PageText, Box]], further: _Part, place: tuple[PageText, Box]
) -> tuple[list[_Part], _Part]:
    """The pieces of a table and a further one in the columns that one of them has, where no word stands across these;
    as they are where words do."""
    quarters, columns = further.quarters, parts[0].grid.columns
    again = _part(*place, quarters, edges_on(*place, parts[0].grid))
    if again.grid.columns == columns:
        return parts, again
    # A gap in the words of one page alone makes a column that is none.
    before = [_part(*each, quarters, edges_on(*each, further.grid)) for each in places]
    are_alike = further.grid.columns < columns and all(p.grid.columns == further.grid.columns for p in before)
    return (before, further) if are_alike else (parts, further)


def _with_recognised(found: TableCapture, datasheet: Datasheet) -> TableCapture:
    """The capture with a doubt about each row that was read in a picture, unless it has another."""
    replace = msgspec.structs.replace
    pages = {number: datasheet.read(number).words for number in {place.page for place in found.places}}
    if all(word.confidence >= 1 for words in pages.values() for word in words):
        return found
    seen = [is_recognised_within(pages[place.page], place.box) for place in found.places]
    pins, dimensions = found.pins, found.dimensions
    if pins:
        marked = zip(pins.rows, seen, strict=True)
        rows = tuple(replace(row, doubt=row.doubt or RECOGNISED) if is_seen else row for row, is_seen in marked)
        pins = replace(pins, rows=with_letters_for_digits(rows))
    if dimensions:
        lengths = zip(dimensions.rows, seen, strict=True)
        read = tuple(replace(row, doubt=row.doubt or RECOGNISED) if is_seen else row for row, is_seen in lengths)
        dimensions = replace(dimensions, rows=read)
    return replace(found, pins=pins, dimensions=dimensions)


def _with_doubt(found: TableCapture, doubt: str) -> TableCapture:
    """The capture with a doubt about the table as a whole, unless there is another."""
    replace = msgspec.structs.replace
    if doubt and found.pins and not found.pins.doubt:
        return replace(found, pins=replace(found.pins, doubt=doubt))
    if doubt and found.dimensions and not found.dimensions.doubt:
        return replace(found, dimensions=replace(found.dimensions, doubt=doubt))
    return found


def _understood(
    parts: Sequence[_Part],
    box: Box,
    kind: CaptureKind,
    columns: Sequence[ColumnRole] | Sequence[str] | None,
    unit: str,
) -> TableCapture:
    """Understand the pieces of one table."""
    first, page = parts[0].grid, parts[0].page
    texts = tuple(row for part in parts for row in _texts(part.grid))
    pages = tuple(part.page for part in parts[1:] if part.page != page)
    if kind == "pins":
        chosen = columns is not None
        tables = [read_pin_table(parts[0].grid, parts[0].rulings, columns=columns, is_chosen=chosen)]  # type: ignore[arg-type]
        tables += [read_pin_table(p.grid, p.rulings, columns=tables[0].columns, is_chosen=chosen) for p in parts[1:]]
        pins = msgspec.structs.replace(tables[0], rows=tuple(row for table in tables for row in table.rows))
        places = tuple(_place(part, row) for part, table in zip(parts, tables, strict=True) for row in table.rows)
        return TableCapture(kind, page, box, first.is_ruled, texts, None, pins, places, pages)
    found = [read_dimension_table(first, unit=unit, columns=columns)]  # type: ignore[arg-type]  # by kind
    found += [read_dimension_table(p.grid, unit=unit, columns=found[0].columns) for p in parts[1:]]
    rows = tuple(row for table in found for row in table.rows)
    places = tuple(_place(part, row) for part, table in zip(parts, found, strict=True) for row in table.rows)
    dimensions = msgspec.structs.replace(found[0], rows=rows)
    return TableCapture(kind, page, box, first.is_ruled, texts, dimensions, None, places, pages)


def _outline(grid: TableGrid) -> Box:
    return grid.column_edges[0], grid.row_edges[-1], grid.column_edges[-1], grid.row_edges[0]


def quarters_in(text: PageText, box: Box) -> int:
    """By how many quarters most of the letters in a box are turned."""
    inside = [word for word in text.words if holds(box, word.box)]
    return Counter(word.quarters for word in inside for _ in word.text).most_common(1)[0][0] if inside else 0


def _part(text: PageText, box: Box, quarters: int, edges: Sequence[float] = ()) -> _Part:
    """What of a table is in a box of a page that lies straight, between given edges of its columns if there are any."""
    words = [word for word in text.words if holds(box, word.box)]
    grid = find_grid(words, text.rulings, box, edges)
    if grid is None:
        why = "it has none at all: type the values" if not text.words else "draw the rectangle around the table"
        raise DatasheetError(f"no text lies in the rectangle on page {text.page}; {why}")
    return _Part(text.page, grid, text.rulings, quarters)


def _place(part: _Part, row: ReadDimension | PinRow) -> CellLocation:
    x0, y0, x1, y1 = turned(row.box, -part.quarters)
    return CellLocation(part.page, (round(x0, 2), round(y0, 2), round(x1, 2), round(y1, 2)))


def _texts(grid: TableGrid) -> list[tuple[str, ...]]:
    return [
        tuple(c.text if (c := grid.at(r, k)).column == k and c.row == r else "" for k in range(grid.columns))
        for r in range(grid.rows)
    ]


def _kind_of(grid: TableGrid) -> CaptureKind:
    """Headings decide: limits or letters of dimensions, or number and name of pins; else what can be read of both."""
    pins, dimensions = read_pin_table(grid), read_dimension_table(grid)
    if any(column.role in (*LIMITS, "limit", "letter") for column in dimensions.columns) and not dimensions.doubt:
        return "dimensions"
    if not pins.doubt:
        return "pins"
    good_pins = sum(not row.doubt for row in pins.rows)
    good_lengths = sum(row.limits is not None and not row.doubt and bool(row.letter) for row in dimensions.rows)
    return "pins" if good_pins > good_lengths else "dimensions"
