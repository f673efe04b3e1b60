"""Rows of a family table from files and from captured tables of a datasheet."""

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

from eider.commands.datasheets.captured_values import datasheet_evidence
from eider.datasheets.tables.table_capture import TableCapture
from eider.errors import InputError
from eider.exchange.table_files import read_table, write_table
from eider.facts.categories import spelling_key
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.family_table import FamilyColumn, FamilyRow, FamilyTable


class ReadRows(NamedTuple):
    """Rows that were read, and what of their source was not understood."""

    rows: tuple[FamilyRow, ...]
    doubts: tuple[str, ...]


def rows_from_file(path: Path, columns: Sequence[FamilyColumn]) -> ReadRows:
    """The rows of a CSV or a workbook; its headings are those of the table, in any spelling and order.

    Raises:
        InputError: the file cannot be read, or has none of the columns.
    """
    table = read_table(path)
    found = rows_of_cells(table.rows, columns)
    return ReadRows(found.rows, (*table.doubts, *found.doubts))


def rows_of_cells(cells: Sequence[Sequence[str]], columns: Sequence[FamilyColumn]) -> ReadRows:
    """The rows below a line of headings; columns that the table does not have are told and left out.

    Raises:
        InputError: none of the headings is a column of the table.
    """
    headings = {spelling_key(column.heading): column.heading for column in columns}
    header = cells[0] if cells else ()
    places = [headings.get(spelling_key(text), "") for text in header]
    if not any(places):
        known = ", ".join(headings.values()) or "no columns"
        raise InputError(f"none of the headings {', '.join(header[:8])} is a column of the table; it has {known}")
    rows = []
    for line in cells[1:]:
        made = {name: text.strip() for name, text in zip(places, line, strict=False) if name and text.strip()}
        if made:
            rows.append(FamilyRow(made))
    unknown = [text for text, name in zip(header, places, strict=True) if text.strip() and not name]
    doubts = (f"not columns of the table: {', '.join(unknown)}",) if unknown else ()
    return ReadRows(tuple(rows), doubts)


def rows_from_capture(
    capture: TableCapture, columns: Sequence[FamilyColumn], key: str, document: str, who: str
) -> ReadRows:
    """The rows of a table of dimensions that has one row or column for each member, with where each value stands.

    The column `key` takes the member's own designation; the others are found by the datasheet's letters in their
    headings or targets (`dims.A`).

    Raises:
        InputError: the captured table speaks of no members.
    """
    read = capture.dimensions
    members = list(dict.fromkeys(row.member for row in read.rows if row.member)) if read else []
    if read is None or not members:
        raise InputError("the captured table has no column for members; draw the rectangle around the family's table")
    by_letter: dict[str, str] = {}
    for column in columns:
        for letter in (column.heading, *(t.removeprefix("dims.") for t in column.sets if t.startswith("dims."))):
            by_letter.setdefault(letter, column.heading)
    cells: dict[str, dict[str, str]] = {member: {key: member} for member in members}
    proofs: dict[str, dict[str, Evidence]] = {member: {} for member in members}
    unknown: dict[str, None] = {}
    for place, row in zip(capture.places, read.rows, strict=True):
        heading = by_letter.get(row.letter, "")
        if not row.member or not heading:
            unknown |= {row.letter or row.text: None}
            continue
        cells[row.member][heading] = row.text
        proofs[row.member][heading] = datasheet_evidence(document, place.page, place.box, row.seen, who)
    rows = tuple(FamilyRow(cells[member], proofs[member]) for member in members)
    doubts = (f"no column takes {', '.join(unknown)}",) if unknown else ()
    return ReadRows(rows, doubts)


def write_rows(path: Path, table: FamilyTable) -> None:
    """The rows as CSV or as a workbook, by the suffix of the name.

    Raises:
        LibraryError: the file cannot be written.
    """
    headings = [column.heading for column in table.definition.columns]
    rows = [[row.cells.get(heading, "") for heading in headings] for row in table.rows]
    write_table(path, "Family", [headings, *rows])


def merged_rows(before: Sequence[FamilyRow], read: Sequence[FamilyRow], key: str) -> tuple[FamilyRow, ...]:
    """Rows that were read in place of those there are: a row whose cell under `key` is the same keeps its part.

    Cells that are as they were keep where they came from.
    """
    known = {row.cells.get(key, ""): row for row in before}
    made = []
    for row in read:
        old = known.get(row.cells.get(key, ""))
        if old is None:
            made.append(row)
            continue
        stays = {h: proof for h, proof in old.evidence.items() if row.cells.get(h) == old.cells.get(h)}
        made.append(FamilyRow(row.cells, {**row.evidence, **stays}, old.part))
    return tuple(made)


def entered(row: FamilyRow, heading: str, text: str, who: str, at: str) -> FamilyRow:
    """A row with a cell that someone typed."""
    cells = {name: value for name, value in {**row.cells, heading: text.strip()}.items() if value}
    proofs = {name: proof for name, proof in row.evidence.items() if name != heading}
    if text.strip():
        proofs[heading] = Evidence(EvidenceKind.ENTERED, by=who, at=at)
    return FamilyRow(cells, proofs, row.part)
