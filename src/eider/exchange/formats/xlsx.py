"""Workbooks (XLSX): sheets of pins, pads and facts written, and every sheet with anything in it read as a table."""

from pathlib import Path

from eider.errors import InputError
from eider.exchange.fact_rows import fact_rows
from eider.exchange.format_spec import ExportSource, FormatSpec
from eider.exchange.found_parts import FoundFile
from eider.exchange.part_tables import found_tables, pad_rows, pin_rows
from eider.exchange.pin_source import PinSource
from eider.exchange.reading_hints import ReadingHints
from eider.exchange.table_files import write_sheets
from eider.exchange.workbooks import SUFFIXES, workbook_sheets
from eider.library.item_paths import safe_name
from eider.symbols.pin_table import LARGEST_TABLE, read_pins

MOST_COLUMNS = 300


def read_workbook(path: Path) -> list[PinSource]:
    """One source for each sheet that has cells.

    Raises:
        InputError: the file is not a workbook, is damaged, or unpacks to a huge size.
    """
    sheets = workbook_sheets(path, most_rows=LARGEST_TABLE + 1, most_columns=MOST_COLUMNS)
    found = [PinSource(title, read_pins(rows), tuple(rows)) for title, rows in sheets if rows]
    if not found:
        raise InputError(f"{path.name} has no sheet with anything in it")
    return found


def _read_parts(path: Path, _hints: ReadingHints) -> FoundFile:
    """The tables of parts, pins and pads of a workbook, a part for each that is called otherwise."""
    sheets = workbook_sheets(path, most_rows=LARGEST_TABLE + 1, most_columns=MOST_COLUMNS)
    tables = [(title, rows) for title, rows in sheets if rows]
    return found_tables(path, tables)


def _write(source: ExportSource, folder: Path) -> list[Path]:
    bundle = source.bundle
    pattern = bundle.footprint.pattern
    tables = {
        "Pins": pin_rows(bundle.symbol),
        "Pads": pad_rows(pattern) if pattern else [],
        "Facts": fact_rows([bundle.part]),
    }
    path = folder / f"{safe_name(bundle.part.name)}.xlsx"
    write_sheets(path, {title: rows for title, rows in tables.items() if rows})
    return [path]


FORMAT = FormatSpec(
    key="xlsx",
    title="Pads, pins and facts as a workbook (Office Open XML)",
    suffixes=SUFFIXES,
    order=51,
    loses="drawings and body",
    is_default=False,
    write=_write,
    read_pins=read_workbook,
    read_parts=_read_parts,
    recognises=lambda head: head.startswith(b"PK\x03\x04"),
    archived="[Content_Types].xml",
)
