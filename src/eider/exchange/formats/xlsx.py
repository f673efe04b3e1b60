"""Reads pin tables from workbooks (XLSX): each sheet with anything in it is one table."""

import zipfile
from pathlib import Path

from eider.errors import InputError
from eider.exchange.format_spec import FormatSpec
from eider.exchange.pin_source import PinSource
from eider.symbols.pin_table import LARGEST_TABLE, read_pins

SUFFIXES = (".xlsx", ".xlsm")
# A workbook is an archive: one that unpacks to more bytes than this is refused before it is read.
LARGEST_UNPACKED = 200 * 2**20
MOST_COLUMNS, MOST_SHEETS = 60, 50


def read_workbook(path: Path) -> list[PinSource]:
    """One source for each sheet that has cells.

    Raises:
        InputError: the file is no workbook, is damaged, or unpacks to a huge size.
    """
    try:
        with zipfile.ZipFile(path) as archive:
            size = sum(entry.file_size for entry in archive.infolist())
    # A damaged archive faults in many ways: a version that is none, offsets outside of the file, broken packing.
    except Exception as fault:
        raise InputError(f"{path.name} is no workbook, or is damaged; save it again as XLSX") from fault
    if size > LARGEST_UNPACKED:
        raise InputError(
            f"{path.name} unpacks to {size >> 20} MB, more than {LARGEST_UNPACKED >> 20}; save a smaller one"
        )
    sheets = [(title, rows) for title, rows in _sheets(path) if rows]
    if not sheets:
        raise InputError(f"{path.name} has no sheet with anything in it")
    return [PinSource(title, read_pins(rows), tuple(rows)) for title, rows in sheets]


def _sheets(path: Path) -> list[tuple[str, list[tuple[str, ...]]]]:
    import openpyxl

    try:
        book = openpyxl.load_workbook(path, read_only=True, data_only=True)
        try:
            return [(sheet.title, _rows(sheet)) for sheet in book.worksheets[:MOST_SHEETS]]
        finally:
            book.close()
    # openpyxl lets every fault of the archive and the XML inside come through as it is.
    except Exception as fault:
        raise InputError(f"{path.name} is damaged: {fault}; save it again as XLSX") from fault


def _rows(sheet: object) -> list[tuple[str, ...]]:
    rows = []
    values = sheet.iter_rows(max_row=LARGEST_TABLE + 1, max_col=MOST_COLUMNS, values_only=True)  # type: ignore[attr-defined]
    for row in values:
        cells = tuple(_text(value) for value in row)
        rows.append(cells)
    while rows and not any(rows[-1]):
        rows.pop()
    width = max((i + 1 for row in rows for i, cell in enumerate(row) if cell), default=0)
    return [row[:width] for row in rows]


def _text(value: object) -> str:
    """A cell as it is shown: 1.0 is the pin 1."""
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return str(value).strip()


FORMAT = FormatSpec(
    key="xlsx",
    title="Workbook (Office Open XML)",
    suffixes=SUFFIXES,
    order=130,
    read_pins=read_workbook,
    recognises=lambda head: head.startswith(b"PK\x03\x04"),
)
