"""A grid to a pin table: columns by their headings, wrapped lines joined, bars over names read."""

import re
from collections.abc import Mapping, Sequence
from itertools import pairwise

import msgspec

from eider.datasheets.documents.package_names import last_package, plain_package
from eider.datasheets.pages.overlines import barred_name
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.pages.ruling_lines import Ruling
from eider.datasheets.tables.table_grid import Cell, TableGrid
from eider.datasheets.tables.table_headings import meaning_of, over, plain
from eider.datasheets.tables.value_reading import cleaned, is_empty
from eider.geometry.plane import Box
from eider.symbols.conventions import conventions
from eider.symbols.pin_columns import MORE
from eider.symbols.pin_table import PinReading, guess_columns, is_pin_number, read_pins, split_numbers

ROLES = ("number", "name", "type", "description", "group", "Excluded")
# What is in the place of a number at the land under the body, or at a tab.
THERMAL_NUMBERS = frozenset({"ep", "epad", "pad", "tab", "exposed pad", "thermal pad", "die pad", "dap"})
# A number of a lead or a ball; lengths are headed by packages, too.
# Letters of names such as `IO7` as an engine may see them; so many at least make it sure.
_DIGITS_OF_IO, FEWEST_IO = re.compile(r"10(\d{1,2})"), 2
_PLAIN_NUMBER = re.compile(r"\d{1,4}|[A-Z]{1,2}\d{1,2}")
# A column headed by a package has pin numbers in so large a share of its cells.
NUMBERED = 0.8


class PinRow(msgspec.Struct, frozen=True):
    """One row of a pin table as texts by meaning; `number` may name several pins; `doubt` says what to look at."""

    cells: dict[str, str]
    box: Box
    seen: str
    doubt: str = ""


class ReadPinTable(msgspec.Struct, frozen=True):
    """The rows that were read, and what each column was taken for."""

    columns: tuple[str, ...]
    header_rows: int
    rows: tuple[PinRow, ...]
    doubt: str = ""
    packages: tuple[tuple[int, str], ...] = ()

    def columns_for(self, package: str) -> tuple[str, ...] | None:
        """The columns with the numbers of a package; None where the table has no column for it alone."""
        wanted = plain_package(package)
        named = [k for k, name in self.packages if _is_named(plain_package(name), wanted)]
        if not wanted or len(named) != 1:
            return None
        first = list(self.columns).index("number")
        swapped = {first: "Excluded", named[0]: "number"}
        return tuple(swapped.get(k, what) for k, what in enumerate(self.columns))


def _is_named(own: str, wanted: str) -> bool:
    """Whether two plain names of packages are the same, one of them perhaps without its count of leads."""
    return bool(own) and (wanted.startswith(own) or own.startswith(wanted))


def read_pin_table(
    grid: TableGrid,
    rulings: Sequence[Ruling] = (),
    *,
    columns: Sequence[str] | None = None,
    is_chosen: bool = False,
) -> ReadPinTable:
    """Read a grid as a pin table; `columns` is what each column is taken for.

    Where someone chose the column of numbers (`is_chosen`), rows with a dash there are pins of another package.
    """
    header, taken, doubt = _columns(grid) if columns is None else (_header_rows(grid, columns), tuple(columns), "")
    if "number" not in taken:
        return ReadPinTable(taken, header, (), "no column of pin numbers was found; say which it is")
    packages = _number_columns(grid, header, taken) if columns is None else ()
    if packages and not doubt:
        names = ", ".join(name for _, name in packages)
        doubt = f"several columns of pin numbers ({names}): the first was taken; say which under Columns"
    headings = [" ".join(cleaned(c.text) for c in reversed(over(grid, k, header))) for k in range(grid.columns)]
    found: list[PinRow] = []
    for places in _column_sets(taken):
        rows = [_row(grid, row, taken, rulings, headings, places) for row in range(header, grid.rows)]
        merged = _without_wraps([r for r in rows if r.seen and set(r.cells) != {"aside"}])
        if is_chosen:
            merged = [row for row in merged if not _is_of_no_lead(row)]
        found += [r for r in merged if not _is_heading(r, taken)]
    return ReadPinTable(taken, header, tuple(_doubted(found)), doubt, packages)


def _column_sets(columns: Sequence[str]) -> list[range]:
    """Where sets of columns stand side by side, each with its number and name: one set of all columns where none do."""
    numbers = [k for k, what in enumerate(columns) if what == "number"]
    if len(numbers) < 2 or columns.count("name") != len(numbers):
        return [range(len(columns))]
    # A set begins with what comes first in the first one.
    first = min(numbers[0], list(columns).index("name"))
    offset = numbers[0] - first
    starts = [number - offset for number in numbers]
    return [range(a, b) for a, b in pairwise([0, *starts[1:], len(columns)])]


def _columns(grid: TableGrid) -> tuple[int, tuple[str, ...], str]:
    """Headings first: the rows at the top that hold no pin number under a heading for numbers."""
    words = conventions().columns
    for header in range(min(4, grid.rows), 0, -1):
        found = _with_further_sets(grid, header, _by_headings(grid, header, words), words)
        if "number" in found and "name" in found:
            return _header_rows(grid, found), found, ""
    texts = [[grid.at(r, k).text for k in range(grid.columns)] for r in range(grid.rows)]
    guessed = guess_columns(texts)
    by_place = {index: what for what, index in guessed.items()}
    taken = tuple(by_place.get(k, "Excluded") for k in range(grid.columns))
    return _header_rows(grid, taken), taken, "no headings were found: columns told by what is in them"


def _number_columns(grid: TableGrid, header: int, taken: Sequence[str]) -> tuple[tuple[int, str], ...]:
    """The columns of pin numbers, each with the package that it is headed by, where a table has one for several.

    Which one is meant nobody can tell from the table. None where it has one such column, or sets side by side.
    """
    words = conventions().columns
    if taken.count("number") != 1:
        return ()
    first = list(taken).index("number")
    others = [
        k
        for k in range(grid.columns)
        if k != first
        and taken[k] == "Excluded"
        and any(_heads_numbers(grid, k, header, cell, words) for cell in over(grid, k, header))
    ]
    return tuple((k, _package_over(grid, k, header)) for k in (first, *others)) if others else ()


def _package_over(grid: TableGrid, column: int, header: int) -> str:
    """What heads a column of numbers: the package that it names, else its nearest heading."""
    texts = [cleaned(cell.text) for cell in over(grid, column, header)]
    return next((text for text in texts if last_package(text)), next(iter(texts), ""))


def _by_headings(grid: TableGrid, header: int, words: Mapping[str, tuple[str, ...]]) -> tuple[str, ...]:
    taken: list[str] = []
    for k in range(grid.columns):
        cells = over(grid, k, header)
        whole = " ".join(cell.text for cell in reversed(cells))
        texts = [whole, *(cell.text for cell in cells)]
        found = next((m for m in (meaning_of(text, words) for text in texts) if m and m not in taken), "Excluded")
        if found == "Excluded" and "number" not in taken:
            is_number = any(_heads_numbers(grid, k, header, cell, words) for cell in cells)
            found = "number" if is_number else found
        taken.append(found)
    return tuple(taken)


def _heads_numbers(grid: TableGrid, column: int, header: int, cell: Cell, words: Mapping[str, tuple[str, ...]]) -> bool:
    """Whether a heading is over pin numbers: it says so, or names the package whose numbers are under it."""
    if meaning_of(cell.text, words) == "number":
        return True
    if not last_package(cleaned(cell.text)):
        return False
    texts = [text for row in range(header, grid.rows) if not is_empty(text := cleaned(grid.at(row, column).text))]
    return bool(texts) and sum(map(_are_plain_numbers, texts)) >= NUMBERED * len(texts)


def _are_plain_numbers(text: str) -> bool:
    """Whether a cell has numbers of leads or balls, and perhaps a tab: `2, TAB`."""
    parts = [part.casefold() for part in split_numbers(text)]
    leads = [part for part in parts if part not in THERMAL_NUMBERS]
    return bool(leads) and all(_PLAIN_NUMBER.fullmatch(part.upper()) for part in leads)


def _with_further_sets(
    grid: TableGrid, header: int, taken: tuple[str, ...], words: Mapping[str, tuple[str, ...]]
) -> tuple[str, ...]:
    """The columns with those of further sets beside the first, where number and name stand as often as each other."""
    meant = [
        next((m for cell in over(grid, k, header) if (m := meaning_of(cell.text, words))), "")
        for k in range(grid.columns)
    ]
    if meant.count("number") < 2 or meant.count("number") != meant.count("name"):
        return taken
    heads = {
        next(plain(cell.text) for cell in over(grid, k, header) if meaning_of(cell.text, words) == "number")
        for k, what in enumerate(meant)
        if what == "number"
    }
    if len(heads) > 1:
        # Another table stands beside it, whose rows are numbered as well.
        return taken
    return tuple(what or role for what, role in zip(meant, taken, strict=True))


def _header_rows(grid: TableGrid, columns: Sequence[str]) -> int:
    if "number" not in columns:
        return 0
    place, words = list(columns).index("number"), conventions().columns
    for row in range(grid.rows):
        cell = grid.at(row, place)
        # A number that cannot be read, as in “1*”, is a row to look at, no heading.
        has_digit = any(c.isdigit() for c in cell.text) and not meaning_of(cell.text, words)
        if last_package(cleaned(cell.text)):
            continue
        if cell.row == row and (_numbers(cell.text) or has_digit):
            return row
    return 0


def _numbers(text: str) -> list[str]:
    """The numbers in a cell, of leads and of a tab or thermal pad beside them; none where it holds anything else."""
    numbers = split_numbers(cleaned(text))
    leads = [number for number in numbers if number.casefold() not in THERMAL_NUMBERS]
    return numbers if leads and all(map(is_pin_number, leads)) else []


def _row(
    grid: TableGrid,
    row: int,
    columns: Sequence[str],
    rulings: Sequence[Ruling],
    headings: Sequence[str],
    places: range,
) -> PinRow:
    """A row of the columns at `places`."""
    cells = [cell for cell in grid.row(row) if cell.row == row and cell.lines and cell.column in places]
    if not cells:
        return PinRow({}, (0, 0, 0, 0), "")
    box, seen = joined(*(cell.ink for cell in cells)), " | ".join(cleaned(cell.text) for cell in cells)
    if len(cells) == 1 and cells[0].columns > max(2, grid.columns // 2):
        return PinRow({"aside": seen}, box, seen)
    texts: dict[str, str] = {}
    doubt = ""
    for cell in cells:
        what = columns[cell.column]
        if what == "Excluded":
            heading = headings[cell.column]
            if heading:
                texts[f"{MORE}{heading}"] = cleaned(cell.text)
            continue
        roles = {columns[k] for k in range(cell.column, cell.column + cell.columns) if k in places} - {"Excluded"}
        if len(roles) > 1:
            doubt = f"“{cleaned(cell.text)}” stands across several columns"
        text, fault = _text(cell, rulings) if what == "name" else (cleaned(cell.text), "")
        texts[what] = f"{texts[what]} {text}" if what in texts else text
        doubt = doubt or fault
    return PinRow(texts, box, seen, doubt)


def _text(cell: Cell, rulings: Sequence[Ruling]) -> tuple[str, str]:
    """The text of a name, a bar drawn over it written as the combining overline."""
    names = [barred_name(word, rulings) for word in cell.words]
    partial = next((word.text for word, name in zip(cell.words, names, strict=True) if name.is_partial), "")
    text = cleaned(" ".join(name.text for name in names))
    return text, f"a bar stands over a part of “{partial}”" if partial else ""


def _without_wraps(rows: Sequence[PinRow]) -> list[PinRow]:
    """A line without a number goes on from the row above it: a wrapped description, or further functions."""
    found: list[PinRow] = []
    for row in rows:
        if row.cells.get("number") or not found:
            found.append(row)
            continue
        last = found[-1]
        cells = {
            what: " ".join(filter(None, (last.cells.get(what, ""), row.cells.get(what, ""))))
            for what in (*last.cells, *(k for k in row.cells if k not in last.cells))
        }
        doubt = last.doubt or row.doubt
        if row.cells.get("name"):
            doubt = doubt or f"the name continues on a separate line: “{cells['name']}”"
        found[-1] = PinRow(cells, joined(last.box, row.box), f"{last.seen} / {row.seen}", doubt)
    return found


def _is_of_no_lead(row: PinRow) -> bool:
    number = row.cells.get("number", "")
    return bool(number) and is_empty(number)


def _is_heading(row: PinRow, columns: Sequence[str]) -> bool:
    """The headings again, as on a following page."""
    words = conventions().columns
    return bool(row.cells) and all(
        meaning_of(text, words) == what for what, text in row.cells.items() if what in columns
    )


def _doubted(rows: Sequence[PinRow]) -> list[PinRow]:
    seen: set[str] = set()
    found = []
    for row in rows:
        numbers, name = _numbers(row.cells.get("number", "")), row.cells.get("name", "")
        doubt = row.doubt
        if not numbers and row.cells.get("number", "").casefold() in THERMAL_NUMBERS:
            # The exposed land goes by its name where leads go by numbers.
            numbers = [row.cells["number"]]
        if not numbers:
            doubt = doubt or f"“{row.cells.get('number', '')}” is not a pin number"
        elif repeated := [n for n in numbers if n in seen]:
            doubt = doubt or f"pin {', '.join(repeated)} is listed twice"
        elif is_empty(name):
            doubt = doubt or "no name"
        seen.update(numbers)
        found.append(msgspec.structs.replace(row, doubt=doubt))
    return found


def pins_from_table(table: ReadPinTable) -> tuple[PinReading, tuple[int, ...]]:
    """The pins of a table, and for each the index of the row in which it stands."""
    others = dict.fromkeys(what for row in table.rows for what in row.cells if what.startswith(MORE))
    wanted = (*ROLES[:-1], *others)
    places = {what: index for index, what in enumerate(wanted)}
    rows = [[row.cells.get(what, "") for what in wanted] for row in table.rows]
    reading = read_pins(rows, places)
    return reading, tuple(line - 1 for line in reading.lines)


def with_letters_for_digits(rows: Sequence[PinRow]) -> tuple[PinRow, ...]:
    """Rows read in a picture, with names `IO0`, `IO1` where the engine saw `100`, `101`: no pin is called so."""
    numbers = [row for row in rows if row.doubt and _DIGITS_OF_IO.fullmatch(row.cells.get("name", ""))]
    if len(numbers) < FEWEST_IO:
        return tuple(rows)
    return tuple(
        msgspec.structs.replace(row, cells={**row.cells, "name": _DIGITS_OF_IO.sub(r"IO\1", row.cells["name"])})
        if row in numbers
        else row
        for row in rows
    )
