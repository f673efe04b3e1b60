"""A grid to the dimensions of a package: letters down the side or across the top, limits in columns or in rows."""

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence

import msgspec

from eider.datasheets.pages.page_frame import joined
from eider.datasheets.tables.cell_values import PAIR_DOUBT, cell_lines, held_against, value_of_cells, with_tolerance
from eider.datasheets.tables.dimension_columns import (
    LIMITS,
    ColumnRole,
    header_rows,
    sets_across,
    sizes_across,
    symbol_sets,
    tell_columns,
    unused_columns,
)
from eider.datasheets.tables.table_grid import Cell, TableGrid
from eider.datasheets.tables.table_headings import (
    bare_symbol,
    is_symbol,
    limit_at_letter,
    limit_word,
    split_symbols,
    tolerance_at_letter,
    trailing_symbol,
)
from eider.datasheets.tables.value_reading import (
    cleaned,
    is_empty,
    is_number,
    number,
    unit_of,
)
from eider.geometry.limits import Limits
from eider.geometry.plane import Box

# With so many letters whose limits stand so in one order, two numbers in a cell are limits: the manner of the table.
FEWEST_PAIRS = 3
NO_UNIT = "no unit is named: mm taken"


class ReadDimension(msgspec.Struct, frozen=True):
    """One dimension as it was read: the sheet's letter, a text fit for the package sheet, and its limits in mm.

    `member` is the size or variant that a family table gives it for; `box` is where its values stand (in the
    grid's coordinates), `whole` where they are in all units, `seen` what is there. `doubt` says what a person
    must look at.
    """

    letter: str
    text: str
    limits: Limits | None
    box: Box
    whole: Box
    seen: str
    member: str = ""
    meaning: str = ""
    notes: tuple[str, ...] = ()
    doubt: str = ""


class ReadDimensionTable(msgspec.Struct, frozen=True):
    """The dimensions that were read, what each column was taken for, and what is doubtful of the table as a whole."""

    columns: tuple[ColumnRole, ...]
    header_rows: int
    rows: tuple[ReadDimension, ...]
    doubt: str = ""

    @property
    def members(self) -> tuple[str, ...]:
        """The sizes of a family table, or the packages side by side, in its order."""
        return tuple(dict.fromkeys(row.member for row in self.rows if row.member))


class _Reader(msgspec.Struct, frozen=True):
    """What all steps of reading need."""

    grid: TableGrid
    columns: tuple[ColumnRole, ...]
    body: range
    unit: str
    comma: bool
    unused: tuple[int, ...] = ()

    def cell(self, row: int, column: int) -> Cell | None:
        found = self.grid.at(row, column)
        return found if found.lines else None

    def unused_doubt(self, rows: Sequence[int]) -> str:
        """What to say of numbers in these rows that no column's meaning covers; empty without any."""
        cells = [c for row in rows for k in self.unused if (c := self.cell(row, k)) and not is_empty(cleaned(c.text))]
        texts = list(dict.fromkeys(cleaned(c.text) for c in cells))
        quoted = ", ".join(f"“{text}”" for text in texts)
        return f"{quoted} in a column without a known heading is not used" if texts else ""

    def first_of(self, cell: Cell) -> int:
        """The first column with values that a cell reaches over; it may begin in another package's."""
        places = range(cell.column, cell.column + cell.columns)
        return next((k for k in places if self.columns[k].role in (*LIMITS, "value")), cell.column)

    def with_role(self, *roles: str) -> list[int]:
        return [k for k, column in enumerate(self.columns) if column.role in roles]


def read_dimension_table(
    grid: TableGrid, *, unit: str = "", columns: Sequence[ColumnRole] | None = None
) -> ReadDimensionTable:
    """Read a grid as a table of dimensions.

    Args:
        grid: the table.
        unit: what its surroundings say of the unit, where its headings do not.
        columns: what the user takes each column for, in place of what the headings say.
    """
    if columns is None and (sizes := sizes_across(grid)):
        return _of_sizes(grid, sizes, unit)
    header = header_rows(grid)
    taken, doubt = (tuple(columns), "") if columns is not None else tell_columns(grid, header)
    named = {c.unit for c in taken if c.unit and c.role in (*LIMITS, "value", "letter")}
    if not named and not unit and not any(c.role == "unit" for c in taken):
        doubt = doubt or NO_UNIT
    texts = [cleaned(cell.text) for cell in grid.cells if cell.lines]
    # What the user leaves out is left out on purpose.
    unused = () if columns is not None else tuple(unused_columns(grid, header, taken))
    reader = _Reader(grid, taken, range(header, grid.rows), unit or "mm", _decimal_comma(texts), unused)
    found = _sets_across(reader, header) if reader.with_role("letter") else _by_members(reader)
    rows = _with_sure_pairs(_without_doubles(found))
    if not rows:
        doubt = doubt or "No dimension rows recognised; assign the columns"
    return ReadDimensionTable(taken, header, rows, doubt)


def _without_doubles(rows: Iterable[ReadDimension]) -> tuple[ReadDimension, ...]:
    """The rows, those of a letter that stands more than once with a doubt: which of them holds nobody can tell."""
    found = tuple(rows)
    counts = Counter((row.letter, row.member) for row in found if row.letter)
    return tuple(
        msgspec.structs.replace(
            row, doubt=row.doubt or f"the letter {row.letter} stands {counts[row.letter, row.member]} times"
        )
        if counts[row.letter, row.member] > 1
        else row
        for row in found
    )


def _of_sizes(grid: TableGrid, sizes: Sequence[str], unit: str) -> ReadDimensionTable:
    """A table with letters down its side and a column for each size."""
    columns = (ColumnRole("symbol"), *(ColumnRole("value", member=size) for size in sizes))
    texts = [cleaned(cell.text) for cell in grid.cells if cell.lines]
    comma, rows = _decimal_comma(texts), list[ReadDimension]()
    for row in range(0 if is_symbol(grid.at(0, 0).text) else 1, grid.rows):
        side = grid.at(row, 0).text
        for k, size in enumerate(sizes, 1):
            cell = grid.at(row, k)
            if is_empty(cleaned(cell.text)):
                continue
            role = limit_at_letter(side) or "value"
            value, _cells = value_of_cells([(role, cell)], unit or "mm", comma)
            value = with_tolerance(value, [t for t in [tolerance_at_letter(side)] if t], unit or "mm")
            seen, letter = cleaned(cell.text), bare_symbol(side).lstrip("∅Øø") or bare_symbol(side)
            box = cell.ink
            rows.append(
                ReadDimension(letter, value.text, value.limits, box, box, seen, size, "", value.notes, value.doubt)
            )
    return ReadDimensionTable(columns, 0, tuple(rows), "" if unit else NO_UNIT)


def _with_sure_pairs(rows: tuple[ReadDimension, ...]) -> tuple[ReadDimension, ...]:
    """The rows without a doubt about two numbers in one cell, where a table writes all limits so and in one order."""
    pairs = [row for row in rows if row.doubt == PAIR_DOUBT]
    orders = {number(low) < number(high) for low, high in (row.seen.split() for row in pairs)}
    if len({row.letter for row in pairs}) < FEWEST_PAIRS or len(orders) > 1:
        return rows
    return tuple(msgspec.structs.replace(row, doubt="") if row.doubt == PAIR_DOUBT else row for row in rows)


def _decimal_comma(texts: Sequence[str]) -> bool:
    """Whether some number of the table shows that commas part decimals."""
    pieces = [piece for text in texts for piece in text.replace("±", " ").split()]
    return any(is_number(p) and "," in p and (p.startswith("0,") or len(p.split(",")[1]) != 3) for p in pieces)


class _Record(msgspec.Struct):
    """The rows of one letter, gathered."""

    symbol: str
    rows: list[int]
    y: float
    doubt: str = ""
    limit: str = ""


def _by_members(reader: _Reader) -> Iterator[ReadDimension]:
    """The rows of each set of letters, and of each of the packages, that stand side by side."""
    members = list(dict.fromkeys(column.member for column in reader.columns if column.member))
    for places in symbol_sets([column.role for column in reader.columns]):
        for member in members or [""]:
            mine = tuple(
                column if k in places and column.member in ("", member) else ColumnRole("Excluded")
                for k, column in enumerate(reader.columns)
            )
            for row in _down(msgspec.structs.replace(reader, columns=mine)):
                yield msgspec.structs.replace(row, member=member)


def _down(reader: _Reader) -> Iterator[ReadDimension]:
    for record in _records(reader):
        found = _of_record(reader, record)
        if found is None:
            continue
        for letter in split_symbols(record.symbol):
            yield msgspec.structs.replace(found, letter=letter)


def _records(reader: _Reader) -> list[_Record]:
    """Rows by letter; a row without a letter belongs to the one whose letter stands nearest."""
    symbols, values = reader.with_role("symbol"), reader.with_role(*LIMITS, "value")
    records: list[_Record] = []
    loose: list[int] = []
    seen: dict[tuple[int, int], _Record] = {}
    for row in reader.body:
        if _is_aside(reader, row):
            continue
        cell = next((c for k in symbols if (c := reader.cell(row, k))), None)
        has_values = any(reader.cell(row, k) for k in values)
        if cell is not None and (cell.row, cell.column) in seen:
            seen[cell.row, cell.column].rows.append(row)
        elif cell is not None and (has_values or is_symbol(cell.text)):
            letters = _letters_over_each_other(cell)
            doubt = f"letters {', '.join(letters)} share a row; check which value belongs to which" if letters else ""
            symbol = ", ".join(letters) or _symbol_of(cell.text)
            y = cell.lines[0][0].middle[1]
            record = _Record(symbol, [row], y, doubt, limit_at_letter(cell.text))
            seen[cell.row, cell.column] = record
            records.append(record)
        elif has_values:
            loose.append(row)
    _settle_loose(reader, records, loose, values)
    return records


def _letters_over_each_other(cell: Cell) -> list[str]:
    """The letters of a cell with one on each of several lines; none for any other cell."""
    lines = cell_lines(cell)
    return [bare_symbol(line) for line in lines] if len(lines) > 1 and all(map(is_symbol, lines)) else []


def _symbol_of(text: str) -> str:
    """The letter of a row, without what is written at it; several letters, and what is none, as they stand."""
    if is_symbol(text):
        return bare_symbol(text)
    return cleaned(text) if len(split_symbols(text)) > 1 else trailing_symbol(text) or cleaned(text)


def _is_aside(reader: _Reader, row: int) -> bool:
    """A sentence across the table: a note, no row of it."""
    cells = [cell for cell in reader.grid.row(row) if cell.lines]
    return len(cells) == 1 and cells[0].columns > max(2, reader.grid.columns // 2) and len(cells[0].words) > 3


def _settle_loose(reader: _Reader, records: list[_Record], loose: list[int], values: list[int]) -> None:
    for row in loose:
        y = next(c for k in values if (c := reader.cell(row, k))).lines[0][0].middle[1]
        if not reader.with_role("limit") and reader.with_role(*LIMITS):
            records.append(_Record("", [row], y, "no letter is in this row"))
        elif records:
            nearest = min((r for r in records if r.symbol), key=lambda r: abs(r.y - y), default=None)
            if nearest:
                nearest.rows = sorted([*nearest.rows, row])
    records.sort(key=lambda r: r.rows[0])


def _of_record(reader: _Reader, record: _Record) -> ReadDimension | None:
    """All values of a letter in the best unit, compared with those in the other."""
    by_unit: dict[str, list[tuple[str, Cell]]] = {}
    own = next((c.text for k in reader.with_role("unit") for r in record.rows if (c := reader.cell(r, k))), "")
    row_unit = unit_of(own) or reader.unit
    if not own and _are_angles(reader, record):
        own = "°"
    if own and not unit_of(own):
        return _of_another_unit(reader, record, cleaned(own))
    for row in record.rows:
        word = next((limit_word(c.text) for k in reader.with_role("limit") if (c := reader.cell(row, k))), "")
        for k in reader.with_role(*LIMITS, "value"):
            cell = reader.cell(row, k)
            if cell is None or reader.first_of(cell) != k or is_empty(cleaned(cell.text)):
                continue
            role = _spanned_role(reader, cell, word or record.limit or reader.columns[k].role)
            by_unit.setdefault(reader.columns[k].unit or row_unit, []).append((role, cell))
    if not by_unit:
        return None
    unit = "mm" if "mm" in by_unit else min(by_unit, key=lambda u: -len(by_unit[u]))
    value, cells = value_of_cells(by_unit[unit], unit, reader.comma)
    tolerances = _tolerance_cells(reader, record)
    value = with_tolerance(value, [cleaned(cell.text) for cell in tolerances], unit)
    cells = [*cells, *tolerances]
    for other, others in by_unit.items():
        if other != unit:
            second, _ = value_of_cells(others, other, reader.comma)
            value = held_against(value, unit, second, other)
    meaning = next((cleaned(c.text) for k in reader.with_role("meaning") if (c := reader.cell(record.rows[0], k))), "")
    doubt = record.doubt or value.doubt or reader.unused_doubt(record.rows)
    seen = " ".join(cleaned(cell.text) for cell in cells)
    box = joined(*(cell.ink for cell in cells))
    whole = joined(box, *(cell.ink for found in by_unit.values() for _, cell in found))
    return ReadDimension(record.symbol, value.text, value.limits, box, whole, seen, "", meaning, value.notes, doubt)


def _are_angles(reader: _Reader, record: _Record) -> bool:
    """Whether every value of a row has the sign of degrees."""
    cells = [c for row in record.rows for k in reader.with_role(*LIMITS, "value") if (c := reader.cell(row, k))]
    texts = [text for cell in cells if not is_empty(text := cleaned(cell.text))]
    return bool(texts) and all("°" in text for text in texts)


def _of_another_unit(reader: _Reader, record: _Record, unit: str) -> ReadDimension | None:
    """The reading of a row whose unit is not one of length, such as an angle."""
    cells = [c for row in record.rows for k in reader.with_role(*LIMITS, "value") if (c := reader.cell(row, k))]
    if not cells:
        return None
    seen, box = " ".join(cleaned(cell.text) for cell in cells), joined(*(cell.ink for cell in cells))
    note = "an angle, no length" if "°" in unit or unit.lower().startswith("deg") else f"in {unit}, no length"
    return ReadDimension(record.symbol, seen, None, box, box, seen, "", "", (note,), record.doubt)


def _tolerance_cells(reader: _Reader, record: _Record) -> list[Cell]:
    """The cells of a row that give the tolerance of its value in a column of its own."""
    cells = [c for row in record.rows for k in reader.with_role("tolerance") if (c := reader.cell(row, k))]
    return [cell for cell in cells if not is_empty(cleaned(cell.text))]


def _spanned_role(reader: _Reader, cell: Cell, role: str) -> str:
    """A cell that reaches over several limits gives the value itself."""
    roles = {reader.columns[k].role for k in range(cell.column, cell.column + cell.columns)}
    return "value" if len(roles & set(LIMITS)) > 1 else role


def _sets_across(reader: _Reader, header: int) -> Iterator[ReadDimension]:
    """The rows of each of the tables with letters across that stand side by side."""
    for places in sets_across(reader.grid, header):
        mine = tuple(c if k in places else ColumnRole("Excluded") for k, c in enumerate(reader.columns))
        yield from _across(msgspec.structs.replace(reader, columns=mine))


def _across(reader: _Reader) -> Iterator[ReadDimension]:
    """Letters across the top: a row for each member, or rows for min, nom and max."""
    limits, members = reader.with_role("limit"), reader.with_role("member")
    tolerances = {c.letter.partition(" ")[0]: (c.tolerance,) for c in reader.columns if c.tolerance}
    groups: dict[str, list[int]] = {}
    member = ""
    for row in reader.body:
        if _is_aside(reader, row):
            continue
        label = next((cleaned(c.text) for k in members if (c := reader.cell(row, k))), "")
        member = label or (member if limits else "")
        groups.setdefault(member, []).append(row)
    for name, rows in groups.items():
        by_letter: dict[str, list[tuple[str, Cell, str]]] = {}
        for row in rows:
            word = next((limit_word(c.text) for k in limits if (c := reader.cell(row, k))), "")
            for k in reader.with_role("letter"):
                cell = reader.cell(row, k)
                if cell is None or is_empty(cleaned(cell.text)):
                    continue
                letter, _, limit = reader.columns[k].letter.partition(" ")
                unit = reader.columns[k].unit or reader.unit
                by_letter.setdefault(letter, []).append((word or limit or "value", cell, unit))
        for letter, found in by_letter.items():
            distinct = list({(c.row, c.column): (role, c) for role, c, _ in found}.values())
            pairs = distinct if len(distinct) < len(found) else [(role, c) for role, c, _ in found]
            value, cells = value_of_cells(pairs, found[0][2], reader.comma)
            value = with_tolerance(value, tolerances.get(letter, ()), found[0][2])
            seen = " ".join(cleaned(cell.text) for cell in cells)
            box = joined(*(cell.ink for cell in cells))
            doubt = value.doubt or reader.unused_doubt(rows)
            yield ReadDimension(letter, value.text, value.limits, box, box, seen, name, "", value.notes, doubt)
