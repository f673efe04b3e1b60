"""Tables of texts from and to files: CSV in the encodings and with the delimiters that are met, workbooks (XLSX)."""

import csv
import io
import re
import stat
from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import Any

import msgspec

from eider.errors import InputError
from eider.exchange.workbooks import SUFFIXES, workbook_sheets
from eider.library.atomic_files import write_atomic

LARGEST_FILE = 64 * 2**20
MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 200_000, 300, 32_767
DELIMITERS = ",;\t|"
# Lines of the beginning by which a delimiter is told.
_LOOKED_AT = 50
_BYTE_ORDER = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
# Widths of a workbook's columns, in letters.
_NARROWEST, _WIDEST = 8, 60
# What a spreadsheet would take for a formula.
_FORMULA = re.compile(r"^[=+\-@\t\r]")

Cell = str | float | int
Row = tuple[str, ...]


class TableFile(msgspec.Struct, frozen=True):
    """A table as it was read: its rows with the headings first, and what about its form was a guess."""

    rows: tuple[Row, ...]
    doubts: tuple[str, ...] = ()
    title: str = ""

    @property
    def header(self) -> Row:
        """The first row."""
        return self.rows[0] if self.rows else ()


def read_tables(path: Path) -> list[TableFile]:
    """The tables of a file: one of a CSV, one for each sheet of a workbook that holds anything.

    Raises:
        InputError: the file cannot be read, is empty, damaged or too large.
    """
    if path.suffix.lower() in SUFFIXES:
        sheets = workbook_sheets(path, most_rows=MOST_ROWS, most_columns=MOST_COLUMNS)
        found = [TableFile(tuple(rows), (), title) for title, rows in sheets if rows]
    else:
        found = [read_csv_bytes(_bytes(path), path.name)]
    found = [table for table in found if table.rows]
    if not found:
        raise InputError(f"{path.name} has no rows")
    return found


def read_table(path: Path) -> TableFile:
    """The one table of a file; of a workbook with several sheets the first, which is told as a doubt.

    Raises:
        InputError: the file cannot be read, is empty, damaged or too large.
    """
    first, *others = read_tables(path)
    if not others:
        return first
    told = f"the sheet “{first.title}” was read; {path.name} has {len(others)} more"
    return msgspec.structs.replace(first, doubts=(*first.doubts, told))


def _bytes(path: Path) -> bytes:
    try:
        status = path.stat()
        if not stat.S_ISREG(status.st_mode):
            raise InputError(f"{path} is not a regular file; save what it gives into one, and name that")
        if status.st_size > LARGEST_FILE:
            raise InputError(f"{path} is larger than {LARGEST_FILE >> 20} MB; that is not a table of this kind")
        return path.read_bytes()
    except FileNotFoundError:
        raise InputError(f"{path} is not there; check the name") from None
    except (OSError, ValueError) as fault:
        raise InputError(f"{str(path)[:120]} cannot be read: {getattr(fault, 'strerror', fault)}") from fault


def read_csv_bytes(data: bytes, name: str) -> TableFile:
    """A table of text; encoding and delimiter are told from the data, and said where they are a guess.

    Raises:
        InputError: the data is not text, or more rows or columns than a table has.
    """
    text, doubts = _decoded(data, name)
    delimiter, doubt = _delimiter(text)
    # The module limits a cell to 128 KB by itself, and says so in its own words.
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    rows: list[Row] = []
    try:
        for cells in reader:
            if len(rows) >= MOST_ROWS or len(cells) > MOST_COLUMNS:
                raise InputError(
                    f"{name} has more than {MOST_ROWS:,} rows or {MOST_COLUMNS} columns; split it, or save less of it"
                )
            rows.append(tuple(" ".join(cell.split()) for cell in cells))
    except csv.Error as fault:
        raise InputError(f"{name}, line {reader.line_num}: {fault}; check the quotes there") from fault
    while rows and not any(rows[-1]):
        rows.pop()
    rows = [row for row in rows if any(row)]
    return TableFile(tuple(rows), (*doubts, *((doubt,) if doubt else ())))


def _decoded(data: bytes, name: str) -> tuple[str, tuple[str, ...]]:
    for mark, encoding in _BYTE_ORDER:
        if data.startswith(mark):
            try:
                return data.decode(encoding), ()
            except UnicodeDecodeError as fault:
                raise InputError(f"{name} is damaged: {fault.reason} at byte {fault.start}; save it again") from fault
    if data[:200].count(0) > len(data[:200]) // 4 and len(data) > 1:
        # Every other byte is zero: UTF-16 whose mark was lost.
        encoding = "utf-16-le" if data[1] == 0 else "utf-16-be"
        try:
            return data.decode(encoding), (f"{name} was read as {encoding.upper()}, which it does not say",)
        except UnicodeDecodeError as fault:
            raise InputError(f"{name} is not text; save it as CSV in UTF-8") from fault
    if 0 in data:
        raise InputError(f"{name} is not text; save it as CSV in UTF-8")
    try:
        return data.decode("utf-8"), ()
    except UnicodeDecodeError as fault:
        line = data[: fault.start].count(b"\n") + 1
        text = data.decode("cp1252", errors="replace")
        return text, (f"{name} is not UTF-8 (line {line}) and was read as Windows-1252; check Ω, µ and ±",)


def _delimiter(text: str) -> tuple[str, str]:
    """What separates cells: the sign by which most of the first lines have the same number of cells."""
    lines = [line for line in text.splitlines()[: 2 * _LOOKED_AT] if line.strip()][:_LOOKED_AT]
    best, score, second = ",", 0.0, 0.0
    for sign in DELIMITERS:
        try:
            counts = [len(row) for row in csv.reader(lines, delimiter=sign)]
        except csv.Error:
            # What is wrong is said with its line when the whole is read.
            continue
        usual = max(set(counts), key=counts.count, default=1)
        share = counts.count(usual) / len(counts) if counts and usual > 1 else 0.0
        # Of two that would do the one with more cells is meant: a comma also stands inside of numbers.
        value = share * (1 + usual / 1000)
        if value > score:
            best, score, second = sign, value, score
        else:
            second = max(second, value)
    if score and second > 0.9 * score:
        shown = {"\t": "tab"}.get(best, best)
        return best, f"cells are taken to be separated by {shown}; another sign would do as well"
    return best, ""


def write_csv(path: Path, rows: Iterable[Sequence[Cell]]) -> None:
    """A table as CSV (RFC 4180) in UTF-8, with the mark by which spreadsheets know it; atomically.

    A text that a spreadsheet would run as a formula gets an apostrophe before it.

    Raises:
        LibraryError: the file cannot be written.
    """
    out = io.StringIO()
    csv.writer(out).writerows([_csv_cell(cell) for cell in row] for row in rows)
    write_atomic(path, b"\xef\xbb\xbf" + out.getvalue().encode("utf-8"))


def _csv_cell(cell: Cell) -> str:
    if isinstance(cell, str):
        return f"'{cell}" if _FORMULA.match(cell) and not _is_plain_number(cell) else cell
    return f"{cell:.10g}" if isinstance(cell, float) else str(cell)


def _is_plain_number(text: str) -> bool:
    # A sign before a number, also one with a unit or a range behind it, is not a formula.
    return re.match(r"^[+-]\s?[\d.,]+[^=@(]*$", text) is not None


def write_workbook(path: Path, title: str, rows: Sequence[Sequence[Cell]]) -> None:
    """A table as a workbook of one sheet: see `write_sheets`.

    Raises:
        LibraryError: the file cannot be written.
    """
    write_sheets(path, {title: rows})


def write_sheets(path: Path, tables: Mapping[str, Sequence[Sequence[Cell]]]) -> None:
    """Tables by their titles as the sheets of a workbook (ECMA-376): the first row stays in sight, numbers are numbers.

    Raises:
        LibraryError: the file cannot be written.
    """
    import openpyxl

    book = openpyxl.Workbook()
    book.remove(book.active)
    for title, rows in tables.items():
        _fill_sheet(book.create_sheet(re.sub(r"[\[\]:*?/\\]", " ", title)[:31].strip() or "Table"), rows)
    out = io.BytesIO()
    book.save(out)
    write_atomic(path, out.getvalue())


def _fill_sheet(sheet: Any, rows: Sequence[Sequence[Cell]]) -> None:
    from openpyxl.styles import Alignment, Font
    from openpyxl.utils import get_column_letter

    for row_at, row in enumerate(rows, start=1):
        for column_at, value in enumerate(row, start=1):
            cell = sheet.cell(row_at, column_at)
            if isinstance(value, str):
                # As a text, whatever it looks like: no formula, no date.
                cell.value = _CONTROL.sub("", value)[:LONGEST_CELL]
                cell.data_type = "s"
                if len(value) > _WIDEST:
                    cell.alignment = Alignment(wrap_text=True, vertical="top")
            else:
                cell.value = value
            if row_at == 1:
                cell.font = Font(bold=True)
    for column_at in range(1, max((len(row) for row in rows), default=0) + 1):
        longest = max(len(str(row[column_at - 1])) for row in rows if len(row) >= column_at)
        sheet.column_dimensions[get_column_letter(column_at)].width = min(max(longest + 2, _NARROWEST), _WIDEST)
    sheet.freeze_panes = "A2"


# Signs that XML cannot hold.
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f]")


def write_table(path: Path, title: str, rows: Sequence[Sequence[Cell]]) -> None:
    """A table as what the name of the file says: a workbook, or else CSV.

    Raises:
        LibraryError: the file cannot be written.
    """
    if path.suffix.lower() in SUFFIXES:
        write_workbook(path, title, rows)
    else:
        write_csv(path, rows)
