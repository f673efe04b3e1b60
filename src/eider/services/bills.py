"""Bills of materials from a library: a design's list read, its parts found, the bill written."""

from collections.abc import Mapping, Sequence
from pathlib import Path

import msgspec

from eider.errors import InputError
from eider.exchange.table_files import TableFile, read_table, write_table
from eider.facts.categories import spelling_key
from eider.library import Library
from eider.library.index import PartRow
from eider.library.shared_tables import SHARED_LISTS
from eider.model.library import BillColumn
from eider.reports.bill_of_materials import (
    MEANINGS,
    STANDARD_COLUMNS,
    BillLine,
    BillTable,
    Meaning,
    PartFinder,
    bill_lines,
    bill_table,
    design_lines,
    guess_meanings,
    unknown_places,
)

STANDARD = "standard"
MOST_PARTS = 50_000
MOST_BOARDS = 10_000_000


class OpenedList(msgspec.Struct, frozen=True):
    """A design's list as it was read, and what each column is taken to mean."""

    table: TableFile
    meanings: tuple[Meaning, ...]


class Bill(msgspec.Struct, frozen=True):
    """A bill: its lines, its cells, and what is missing or in doubt."""

    lines: tuple[BillLine, ...]
    table: BillTable
    doubts: tuple[str, ...]


def open_list(library: Library, path: Path, assigned: Mapping[str, str] | None = None) -> OpenedList:
    """Read a design's list; columns mean what was kept for lists with these headings, or else what the headings say.

    `assigned` gives the meaning of single columns by their heading, which wins.

    Raises:
        InputError: the file cannot be read, or a column or meaning that is assigned does not exist.
    """
    table = read_table(path)
    kept = SHARED_LISTS.read_sound(library).get(list_key(table.header), ())
    found = list(_known(kept, len(table.header)) or guess_meanings(table.header))
    for heading, meaning in (assigned or {}).items():
        if heading not in table.header:
            raise InputError(f"{path.name} has no column “{heading}”; it has {', '.join(table.header[:12])}")
        if meaning not in MEANINGS:
            raise InputError(f"“{meaning}” is not a meaning of a column; choose one of {', '.join(MEANINGS)}")
        found[table.header.index(heading)] = next(m for m in MEANINGS if m == meaning)
    return OpenedList(table, tuple(found))


def _known(kept: Sequence[str], count: int) -> tuple[Meaning, ...]:
    by_name = {str(meaning): meaning for meaning in MEANINGS}
    found = tuple(by_name.get(name, "ignored") for name in kept)
    return found if len(found) == count else ()


def list_key(header: Sequence[str]) -> str:
    """By what lists of one kind are known: their headings."""
    return "|".join(spelling_key(heading) for heading in header)


def keep_meanings(library: Library, opened: OpenedList) -> None:
    """Remember what the columns of such lists mean; the next one with these headings is read so.

    Raises:
        LibraryError: nothing can be written here, or the file is damaged.
    """
    key = list_key(opened.table.header)
    SHARED_LISTS.save(library, key, tuple(opened.meanings), replaces=SHARED_LISTS.read(library).get(key))


def bill_columns(library: Library, template: str = "") -> tuple[BillColumn, ...]:
    """The columns of a template of the library; Eider's own where the library has none of that name.

    Raises:
        InputError: there is no such template, or a column speaks of a fact that no category has.
    """
    bills = library.settings.bills
    if not template:
        template = next(iter(bills), STANDARD)
    if template not in bills and template != STANDARD:
        raise InputError(f"there is no template “{template}”; choose one of {', '.join([*bills, STANDARD])}")
    columns = bills.get(template, STANDARD_COLUMNS)
    if unknown := next(unknown_places(columns, library.settings), ""):
        raise InputError(f"template {template}: “{unknown}” is not a fact of any category")
    return columns


def make_bill(
    library: Library,
    opened: OpenedList,
    columns: Sequence[BillColumn],
    boards: int = 1,
    chosen: Mapping[int, PartRow] | None = None,
) -> Bill:
    """The bill of a list for so many boards.

    Raises:
        InputError: the number of boards is none, no column says which part is meant, or a sum cannot be worked out.
    """
    if not 1 <= boards <= MOST_BOARDS:
        raise InputError(f"{boards} boards; enter a number from 1 to {MOST_BOARDS:,}")
    said, doubts = design_lines(opened.table.rows, opened.meanings)
    finder = PartFinder(library.find_parts("", limit=MOST_PARTS).rows, library.settings)
    lines = bill_lines(said, finder, chosen)
    return Bill(lines, bill_table(lines, columns, library.settings, boards), (*opened.table.doubts, *doubts))


def write_bill(path: Path, bill: Bill) -> None:
    """Write a bill as CSV or as a workbook, by the suffix of the name.

    Raises:
        LibraryError: the file cannot be written.
    """
    write_table(path, "Bill of materials", bill.table.rows)
