"""Tables of characteristics and of order codes to rows of a name and a value, as facts of a part are."""

from collections.abc import Iterator

import msgspec

from eider.datasheets.pages.document import PageText
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.tables.table_grid import Cell, TableGrid, find_grid
from eider.datasheets.tables.table_headings import limit_word, plain
from eider.datasheets.tables.value_reading import cleaned, is_empty
from eider.geometry.plane import Box

# What the column of units is called.
UNITS = frozenset({"unit", "units"})


class FactRow(msgspec.Struct, frozen=True):
    """A name and a value with its unit, as printed; `box` is where both are (PDF points), `seen` what is there."""

    name: str
    value: str
    box: Box
    seen: str


def characteristics_in(page: PageText, box: Box) -> tuple[FactRow, ...]:
    """The rows of a table with a name in its first column and limits or values in others; a column of units counts."""
    grid = _grid(page, box)
    return tuple(row for r in range(1, grid.rows) if (row := _characteristic(grid, r)) is not None) if grid else ()


def order_facts_in(page: PageText, box: Box, number: str) -> tuple[FactRow, ...]:
    """What a table of order codes says of the one of its rows that begins with an order code, by its headings."""
    grid = _grid(page, box)
    if grid is None:
        return ()
    row = next((r for r in range(1, grid.rows) if cleaned(grid.at(r, 0).text) == number), 0)
    return tuple(_order_facts(grid, row)) if row else ()


def order_codes_in(page: PageText, box: Box) -> tuple[str, ...]:
    """The order codes of a table: what is in its first column under the heading, where that is one word."""
    grid = _grid(page, box)
    texts = [cleaned(grid.at(row, 0).text) for row in range(1, grid.rows)] if grid else []
    return tuple(text for text in texts if text and " " not in text)


def _grid(page: PageText, box: Box) -> TableGrid | None:
    grid = find_grid([word for word in page.words if word.quarters == 0], page.rulings, box)
    return grid if grid is not None and grid.rows > 1 and grid.columns > 1 else None


def _characteristic(grid: TableGrid, row: int) -> FactRow | None:
    cells = [cell for cell in grid.row(row) if cell.lines]
    if not cells:
        return None
    name, *rest = cells
    values: dict[str, str] = {}
    unit, used = "", [name]
    for cell in rest:
        heading, text = cleaned(grid.at(0, cell.column).text), cleaned(cell.text)
        if plain(heading) in UNITS:
            unit = text
        elif is_empty(text):
            continue
        elif limit := limit_word(heading):
            values[limit] = text
        elif plain(heading) in ("value", "rating"):
            values["nom"] = text
        else:
            continue
        used.append(cell)
    value = _composed(values, unit)
    return _row(grid, row, cleaned(name.text), value, used) if value else None


def _composed(values: dict[str, str], unit: str) -> str:
    """Limits as a range, else the one value, with the unit."""
    low, typical, high = (values.get(key, "") for key in ("min", "nom", "max"))
    number = f"{low} to {high}" if low and high else typical or low or high
    return f"{number} {unit}".strip() if number else ""


def _order_facts(grid: TableGrid, row: int) -> Iterator[FactRow]:
    number = grid.at(row, 0)
    for k in range(1, grid.columns):
        cell = grid.at(row, k)
        name, value = cleaned(grid.at(0, k).text), cleaned(cell.text)
        if cell.lines and name and not is_empty(value):
            yield _row(grid, row, name, value, [number, cell])


def _row(grid: TableGrid, row: int, name: str, value: str, used: list[Cell]) -> FactRow:
    """A fact with all that is printed from the first to the last of the cells used: its box holds the cells between."""
    first, last = min(cell.column for cell in used), max(cell.column for cell in used)
    cited = [cell for cell in grid.row(row) if cell.lines and first <= cell.column <= last]
    return FactRow(name, value, joined(*(cell.ink for cell in cited)), " ".join(cleaned(cell.text) for cell in cited))
