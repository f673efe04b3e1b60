"""Reads pin tables from workbooks (XLSX): each sheet with anything in it is one table."""

from pathlib import Path

from eider.errors import InputError
from eider.exchange.format_spec import FormatSpec
from eider.exchange.found_parts import FoundFile
from eider.exchange.part_tables import found_tables
from eider.exchange.pin_source import PinSource
from eider.exchange.reading_hints import ReadingHints
from eider.exchange.workbooks import SUFFIXES, workbook_sheets
from eider.symbols.pin_table import LARGEST_TABLE, read_pins

MOST_COLUMNS = 300


def read_workbook(path: Path) -> list[PinSource]:
    """One source for each sheet that has cells.

    Raises:
        InputError: the file is no workbook, is damaged, or unpacks to a huge size.
    """
    sheets = workbook_sheets(path, most_rows=LARGEST_TABLE + 1, most_columns=MOST_COLUMNS)
    found = [PinSource(title, read_pins(rows), tuple(rows)) for title, rows in sheets if rows]
    if not found:
        raise InputError(f"{path.name} has no sheet with anything in it")
    return found


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """The pin tables and pad tables of a workbook, a part for each that is called otherwise."""
    sheets = workbook_sheets(path, most_rows=LARGEST_TABLE + 1, most_columns=MOST_COLUMNS)
    tables = [(title, rows) for title, rows in sheets if rows]
    return found_tables(path, tables)


FORMAT = FormatSpec(
    key="xlsx",
    title="Workbook (Office Open XML)",
    suffixes=SUFFIXES,
    order=130,
    read_pins=read_workbook,
    read_parts=_read_parts,
    recognises=lambda head: head.startswith(b"PK\x03\x04"),
    archived="[Content_Types].xml",
)
