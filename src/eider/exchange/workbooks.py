"""The sheets of a workbook (XLSX, ECMA-376) as rows of texts, with limits on what is unpacked."""

import zipfile
from pathlib import Path

from eider.errors import InputError

SUFFIXES = (".xlsx", ".xlsm")
# A workbook is an archive: one that unpacks to more bytes than this is refused before it is read.
LARGEST_UNPACKED = 200 * 2**20
MOST_SHEETS = 50


def workbook_sheets(path: Path, *, most_rows: int, most_columns: int) -> list[tuple[str, list[tuple[str, ...]]]]:
    """Title and rows of each sheet; rows and columns beyond the limits are refused, not cut off.

    Raises:
        InputError: the file is not a workbook, is damaged, unpacks to a huge size, or a sheet has more than the limits.
    """
    try:
        with zipfile.ZipFile(path) as archive:
            size = sum(entry.file_size for entry in archive.infolist())
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    # A damaged archive faults in many ways: a version that is none, offsets outside of the file, broken packing.
    except Exception as fault:
        raise InputError(f"{path.name} is not a workbook, or is damaged; save it again as XLSX") from fault
    if size > LARGEST_UNPACKED:
        raise InputError(
            f"{path.name} unpacks to {size >> 20} MB, more than {LARGEST_UNPACKED >> 20}; save a smaller one"
        )
    return _sheets(path, most_rows, most_columns)


def _sheets(path: Path, most_rows: int, most_columns: int) -> list[tuple[str, list[tuple[str, ...]]]]:
    import openpyxl

    try:
        book = openpyxl.load_workbook(path, read_only=True, data_only=True)
        try:
            return [
                (sheet.title, _rows(sheet, path.name, most_rows, most_columns))
                for sheet in book.worksheets[:MOST_SHEETS]
            ]
        finally:
            book.close()
    except InputError:
        raise
    # openpyxl lets every fault of the archive and the XML inside come through as it is.
    except Exception as fault:
        raise InputError(f"{path.name} is damaged: {fault}; save it again as XLSX") from fault


def _rows(sheet: object, name: str, most_rows: int, most_columns: int) -> list[tuple[str, ...]]:
    rows = []
    values = sheet.iter_rows(max_row=most_rows + 1, max_col=most_columns + 1, values_only=True)  # type: ignore[attr-defined]
    for row in values:
        cells = tuple(_text(value) for value in row)
        rows.append(cells)
    while rows and not any(rows[-1]):
        rows.pop()
    width = max((i + 1 for row in rows for i, cell in enumerate(row) if cell), default=0)
    if len(rows) > most_rows or width > most_columns:
        raise InputError(f"{name} has more than {most_rows:,} rows or {most_columns} columns; save less of it")
    return [row[:width] for row in rows]


def _text(value: object) -> str:
    """A cell as it is shown: 1.0 is the pin 1."""
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer():
        return str(int(value))
    return str(value).strip()
