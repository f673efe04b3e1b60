"""Bills of materials from a library: a design's list read, its parts found, the bill written."""

import datetime as dt
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

import msgspec

from eider.catalogue.answer_cache import AnswerCache, cache_path
from eider.catalogue.client import Catalogue
from eider.catalogue.offers import OfferChoice, best_quote, stock_of
from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.exchange.table_files import TableFile, read_table, write_table
from eider.facts.categories import spelling_key
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_DESIGNS, SHARED_LISTS
from eider.library.index.part_index import PartRow
from eider.library.settings.bill_settings import save_bill_templates
from eider.model.design import Design, DesignPart
from eider.model.library import BillColumn
from eider.reports.bill_of_materials import (
    ALTERNATES,
    PRICE_NAMES,
    PRICED_COLUMNS,
    STANDARD_COLUMNS,
    BillKnowledge,
    BillTable,
    PricedPart,
    bill_table,
    like_parts,
    names_in,
    unknown_places,
)
from eider.reports.design_lists import MEANINGS, BillLine, Meaning, PartFinder, bill_lines, design_lines, guess_meanings
from eider.services.suppliers.supplier_lookup import part_key, part_number, preferred_suppliers
from eider.services.tasks import Task

STANDARD, PRICED = "standard", "with prices"
# The templates that every library has besides its own.
BUILT_IN: Mapping[str, tuple[BillColumn, ...]] = {STANDARD: STANDARD_COLUMNS, PRICED: PRICED_COLUMNS}
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


def template_names(library: Library) -> tuple[str, ...]:
    """The templates of the library, then those that every library has."""
    return tuple(dict.fromkeys((*library.settings.bills, *BUILT_IN)))


def bill_columns(library: Library, template: str = "") -> tuple[BillColumn, ...]:
    """The columns of a template of the library; Eider's own where the library has none of that name.

    Raises:
        InputError: there is no such template, or a column speaks of a fact that no category has.
    """
    bills = library.settings.bills
    if not template:
        template = next(iter(bills), STANDARD)
    known = {**BUILT_IN, **bills}
    if template not in known:
        raise InputError(f"there is no template “{template}”; choose one of {', '.join(template_names(library))}")
    columns = known[template]
    if fault := columns_fault(library, columns):
        raise InputError(f"template {template}: {fault}")
    return columns


def columns_fault(library: Library, columns: Sequence[BillColumn]) -> str:
    """What is wrong with the columns of a template; empty where nothing is."""
    if unknown := next(unknown_places(columns, library.settings), ""):
        return f"“{unknown}” is not a fact of any category"
    try:
        bill_table((BillLine(None, (), 1, "", ""),), columns, library.settings)
    except InputError as fault:
        return str(fault)
    return ""


def save_template(library: Library, name: str, columns: Sequence[BillColumn]) -> None:
    """Keep a template with the library under its name, in place of one of this name.

    Raises:
        InputError: a column cannot be used, or the template has no name. LibraryError: nothing can be written.
    """
    if fault := columns_fault(library, columns):
        raise InputError(fault)
    bills = library.settings.bills
    made = {**bills, name.strip(): tuple(columns)}
    save_bill_templates(library, made, f"bill template {name.strip()} kept", replaces=bills)


def make_bill(
    library: Library,
    opened: OpenedList,
    columns: Sequence[BillColumn],
    boards: int = 1,
    chosen: Mapping[int, PartRow] | None = None,
    address: str = "",
) -> Bill:
    """The bill of a list for so many boards; prices are those that the catalogue at `address` last gave, if any.

    Raises:
        InputError: the number of boards is none, no column says which part is meant, or a sum cannot be worked out.
    """
    if not 1 <= boards <= MOST_BOARDS:
        raise InputError(f"{boards} boards; enter a number from 1 to {MOST_BOARDS:,}")
    said, doubts = design_lines(opened.table.rows, opened.meanings)
    rows = library.find_parts("", limit=MOST_PARTS, with_withdrawn=True).rows
    lines = bill_lines(said, PartFinder(rows, library.settings), chosen)
    wanted = [line.part for line in lines if line.part]
    named, knowledge = names_in(columns), BillKnowledge()
    if named & set(PRICE_NAMES) and address:
        choice = OfferChoice(preferred_suppliers(library), library.settings.currency)
        knowledge = knowledge._replace(price=_known_prices(wanted, address, choice))
    if ALTERNATES in named:
        knowledge = knowledge._replace(alternates=like_parts(rows, wanted, library.settings))
    table = bill_table(lines, columns, library.settings, boards, knowledge)
    return Bill(lines, table, (*opened.table.doubts, *doubts))


def _known_prices(
    rows: Sequence[PartRow], address: str, choice: OfferChoice
) -> Callable[[PartRow, int], PricedPart | None]:
    """What was last heard of these parts on this machine; nothing is asked."""
    known = AnswerCache(cache_path(address)).known_parts(map(part_key, rows))

    def price(row: PartRow, quantity: int) -> PricedPart | None:
        heard = known.get(part_key(row))
        if heard is None:
            return None
        day = dt.datetime.fromtimestamp(heard.at, dt.UTC).date().isoformat()
        return PricedPart(best_quote(heard.entry, choice, quantity), stock_of(heard.entry, choice.suppliers), day)

    return price


def ask_prices(bill: Bill, catalogue: Catalogue, task: Task) -> int:
    """Ask for the prices of all parts of a bill, so that they are known from now on; returns how many were found.

    Raises:
        CatalogueError: the service does not answer. CancelledError: the user cancelled.
    """
    numbers = list(dict.fromkeys(part_number(line.part) for line in bill.lines if line.part))
    entries = catalogue.exact_parts(numbers, lambda share: task.report(share, "asking for prices"))
    return len({entry.key[1] for entry in entries})


def write_bill(path: Path, bill: Bill) -> None:
    """Write a bill as CSV or as a workbook, by the suffix of the name.

    Raises:
        LibraryError: the file cannot be written.
    """
    write_table(path, "Bill of materials", bill.table.rows)


def keep_design(library: Library, name: str, bill: Bill, file: str) -> Design:
    """Keep the parts of a bill as those of a design, in place of what its list told before.

    Raises:
        InputError: the design has no name, or the bill no part of the library. LibraryError: nothing can be written.
    """
    parts: dict[str, DesignPart] = {}
    for line in bill.lines:
        if line.part is not None and line.part.revision:
            known = parts.get(line.part.id, DesignPart(line.part.revision))
            parts[line.part.id] = DesignPart(line.part.revision, (*known.references, *line.references))
    if not parts:
        raise InputError("the list has no released part of this library; choose what its lines mean first")
    made = Design(file, library.person().name, utc_now(), parts)
    before = SHARED_DESIGNS.read(library).get(name.strip())
    SHARED_DESIGNS.save(library, name.strip(), made, replaces=before)
    return made
