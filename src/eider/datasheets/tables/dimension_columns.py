"""What each column of a table of dimensions is: by its headings, else by what is in it."""

import re
from collections.abc import Sequence
from itertools import pairwise

import msgspec

from eider.datasheets.documents.package_names import last_package
from eider.datasheets.tables.table_grid import Cell, TableGrid
from eider.datasheets.tables.table_headings import (
    bare_symbol,
    headings,
    is_symbol,
    limit_at_letter,
    limit_word,
    meaning_of,
    over,
    split_symbols,
    tolerance_at_letter,
    trailing_symbol,
    unit_over,
)
from eider.datasheets.tables.value_reading import cleaned, is_empty, is_number, number, number_pair, read_value, unit_of

LIMITS = ("min", "nom", "max")
ROLES = ("symbol", "meaning", *LIMITS, "value", "tolerance", "limit", "unit", "letter", "member", "note", "Excluded")
# A table of sizes across has so many of them at least.
FEWEST_SIZES = 4
# Units at a heading of what is no length: masses, currents, counts.
_OTHER_UNIT = re.compile(
    r"[\[(]\s*(?:m?g|kg|[µmk]?[AVW]|[mkM]?Ω|°C|K/W|pcs|Stk)\s*[\])]|\b(?:pcs|qty|quantity)\b", re.IGNORECASE
)
# What is told by content alone needs at least this share of a column's cells.
MOST = 0.5


class ColumnRole(msgspec.Struct, frozen=True):
    """What a column is taken for: one of ROLES; its unit; for a `letter` column the letter.

    `member` is the package that it speaks of, where a table has several side by side; `tolerance` is written at the
    letter and is of all its values.
    """

    role: str
    unit: str = ""
    letter: str = ""
    member: str = ""
    tolerance: str = ""


def _has_value(cell: Cell) -> bool:
    """Whether a cell is read as a length, or holds nothing but numbers, as limits over each other."""
    text = cleaned(cell.text)
    if not any(c.isdigit() for c in text) or tolerance_at_letter(text):
        return False
    return read_value(text).limits is not None or all(is_number(word) for word in text.split()) or _has_decimals(text)


def _has_decimals(text: str) -> bool:
    """Whether a number with decimals is in a text: no heading has one."""
    return re.search(r"(?<![\w.,])\d+[.,]\d+(?![\w.,])", text) is not None


def header_rows(grid: TableGrid) -> int:
    """How many rows at the top are headings: they hold no value, nor a letter once the limits have been named."""
    words, named = headings().dimensions, False
    for row in range(grid.rows):
        cells = [cell for cell in grid.row(row) if cell.row == row and cell.lines]
        if any(_has_value(cell) for cell in cells):
            return row
        meant = [meaning_of(cell.text, words) for cell in cells]
        if named and not any(meant) and any(is_symbol(cell.text) for cell in cells):
            return row
        named = named or any(role in (*LIMITS, "value") for role in meant)
    return grid.rows


def tell_columns(grid: TableGrid, header: int) -> tuple[tuple[ColumnRole, ...], str]:
    """What each column is, by its headings, else by what is in it; and what is doubtful in that."""
    words = headings().dimensions
    roles, letters, units = [], [], []
    run_together = _limits_run_together(grid, header)
    for k in range(grid.columns):
        cells = over(grid, k, header)
        meant = [m for m in (meaning_of(c.text, words) for c in cells) if m]
        # Of a heading of several lines, as “Minimum value (mm)”, the limit says most.
        roles.append(run_together.get(k) or next((m for m in meant if m in LIMITS), next(iter(meant), "")))
        lettered = next((c for c in cells if is_symbol(c.text) and c.columns <= 3), None)
        letters.append(bare_symbol(lettered.text) if lettered else "")
        roles[-1] = roles[-1] or (limit_at_letter(lettered.text) if lettered else "")
        units.append(unit_over(grid, k, header))
    shares = [_share(grid, header, k) for k in range(grid.columns)]
    numeric = [k for k, s in enumerate(shares) if s["value"] >= MOST]
    roles = _one_symbol_column(roles, shares, numeric)
    is_across = sum(1 for k in numeric if letters[k]) >= 2 and "symbol" not in [roles[k] for k in _symbolic(shares)]
    if is_across:
        columns = _columns_across(roles, letters, units, shares, numeric)
        return _with_tolerances(grid, header, columns), _letters_run_together(grid, header)
    down = ["" if role in ("member", "ways") else role for role in roles]
    columns, doubt = _columns_down(down, units, shares, numeric)
    members = _members_over(grid, header, columns)
    columns = tuple(msgspec.structs.replace(c, member=members.get(k, "")) for k, c in enumerate(columns))
    if any(column.role == "note" and share["decimal"] >= MOST for column, share in zip(columns, shares, strict=True)):
        doubt = "numbers are in columns that could not be told apart"
    return columns, doubt


def sizes_across(grid: TableGrid) -> tuple[str, ...]:
    """The sizes over the columns of a table whose letters stand down its side; none in any other table.

    The first row has sizes that grow, as the diameters of cans do, or numbers of positions; each further row has a
    letter and what it is for these. A few columns of numbers without headings are limits.
    """
    if grid.columns < FEWEST_SIZES + 1 or grid.rows < 2:
        return ()
    first, *sides = [cleaned(grid.at(row, 0).text) for row in range(grid.rows)]
    sizes = [cleaned(grid.at(0, k).text) for k in range(1, grid.columns)]
    is_headed = is_symbol(first) or meaning_of(first, headings().dimensions) in ("ways", "member")
    if not is_headed or not all(map(is_symbol, sides)) or not all(map(is_number, sizes)):
        return ()
    numbers = [number(size) for size in sizes]
    return tuple(sizes) if numbers == sorted(set(numbers)) else ()


def _with_tolerances(grid: TableGrid, header: int, columns: Sequence[ColumnRole]) -> tuple[ColumnRole, ...]:
    """The columns with the tolerances that are written at their letters."""
    at = [
        next(filter(None, (tolerance_at_letter(c.text) for c in over(grid, k, header))), "")
        for k in range(grid.columns)
    ]
    return tuple(msgspec.structs.replace(c, tolerance=t) if t else c for c, t in zip(columns, at, strict=True))


def _members_over(grid: TableGrid, header: int, columns: Sequence[ColumnRole]) -> dict[int, str]:
    """The packages that columns speak of: headings over groups of limits that mean no limit and no unit.

    One such heading is that of the table; two and more with the same limits under each are packages side by side.
    """
    words = headings().dimensions
    groups: dict[str, list[int]] = {}
    for k, column in enumerate(columns):
        if column.role in (*LIMITS, "value"):
            heads = [c for c in over(grid, k, header) if not meaning_of(c.text, words)]
            # A package may have its unit beside it: `SO8 (mm)`.
            cells = [c for c in heads if last_package(cleaned(c.text)) or not unit_of(c.text)]
            name = cleaned(cells[-1].text) if cells else ""
            if name and (cells[-1].columns > 1 or last_package(name)):
                groups.setdefault(name, []).append(k)
    limits = {tuple(columns[k].role for k in places) for places in groups.values()}
    if len(groups) < 2 or len(limits) > 1:
        return {}
    return {k: name for name, places in groups.items() for k in places}


def _letters_run_together(grid: TableGrid, header: int) -> str:
    """What to say of letters across that are in one cell, so that their values are nobody's; empty without any."""
    cells = [cell for row in range(header) for cell in grid.row(row)]
    joined = [cell.text for cell in cells if sum(is_symbol(word.text) for word in cell.words) > 2]
    return f"the columns of {', '.join(joined)} could not be told apart" if joined else ""


def _limits_run_together(grid: TableGrid, header: int) -> dict[int, str]:
    """The limits of columns whose headings stand so near to each other that they were read as one."""
    found: dict[int, str] = {}
    for row in range(header):
        for k in range(grid.columns):
            named = [limit_word(word) for word in grid.at(row, k).text.split()]
            beside = [grid.at(row, j) for j in range(k + 1, min(k + len(named), grid.columns))]
            if len(named) > 1 and all(named) and len(beside) == len(named) - 1 and not any(c.lines for c in beside):
                found |= dict(enumerate(named, k))
    return found


def _one_symbol_column(roles: list[str], shares: list[dict[str, float]], numeric: list[int]) -> list[str]:
    """The roles with one column of letters of several that a heading calls so: the one with letters in it.

    “Dimension” can be over the letters and over the values: a column of values is told by what is in it.
    """
    named = [k for k, role in enumerate(roles) if role == "symbol"]
    lettered = [k for k in named if shares[k]["symbol"] >= MOST]
    if len(named) < 2 or not lettered or len(symbol_sets(roles)) > 1:
        return roles
    others = {k: "" if k in numeric and not shares[k]["counting"] else "note" for k in named if k != lettered[0]}
    return [others.get(k, role) for k, role in enumerate(roles)]


def symbol_sets(roles: Sequence[str]) -> list[range]:
    """Where sets of letters with their values stand side by side: one set of all columns where none do."""
    starts = [k for k, role in enumerate(roles) if role == "symbol"]
    sets = [range(a, b) for a, b in pairwise([*starts, len(roles)])]
    shapes = {tuple(roles[k] for k in places) for places in sets}
    is_whole = (
        len(sets) > 1 and starts[0] == 0 and len(shapes) == 1 and bool(set(next(iter(shapes))) & {*LIMITS, "value"})
    )
    return sets if is_whole else [range(len(roles))]


def sets_across(grid: TableGrid, header: int) -> list[range]:
    """Where tables with letters across stand side by side, each under the same heads; else one of all columns."""
    heads = [cleaned(" ".join(cell.text for cell in over(grid, k, header))).lower() for k in range(grid.columns)]
    for width in range(2, grid.columns // 2 + 1):
        if grid.columns % width == 0 and heads == heads[:width] * (grid.columns // width) and all(heads[:width]):
            return [range(start, start + width) for start in range(0, grid.columns, width)]
    return [range(grid.columns)]


def unused_columns(grid: TableGrid, header: int, columns: Sequence[ColumnRole]) -> list[int]:
    """The columns that are left out although most of their cells are numbers, and may be lengths."""
    left_out = [k for k, column in enumerate(columns) if column.role == "Excluded"]
    left_out = [k for k in left_out if not any(_OTHER_UNIT.search(cleaned(c.text)) for c in over(grid, k, header))]
    return [k for k in left_out if _share(grid, header, k)["value"] >= MOST]


def _symbolic(shares: list[dict[str, float]]) -> list[int]:
    return [k for k, share in enumerate(shares) if share["symbol"] >= MOST]


def _share(grid: TableGrid, header: int, column: int) -> dict[str, float]:
    """Of the filled cells in a column the share that are values, letters of dimensions, words for limits."""
    cells = [grid.at(row, column) for row in range(header, grid.rows)]
    texts = [cleaned(c.text) for c in cells if c.column == column and c.lines]
    filled = [text for text in texts if not is_empty(text)]
    count = max(len(filled), 1)
    return {
        "value": sum(read_value(t).limits is not None or number_pair(t) is not None for t in filled) / count,
        "symbol": sum(is_symbol(t) or len(split_symbols(t)) > 1 for t in filled) / count,
        "trailing": sum(bool(trailing_symbol(t)) for t in filled) / count,
        "limit": sum(bool(limit_word(t)) for t in filled) / count,
        "counting": float(len(filled) > 2 and filled == [str(index) for index in range(1, len(filled) + 1)]),
        "decimal": sum(_has_decimals(t) for t in filled) / count,
        "filled": float(len(filled)),
    }


def _columns_across(
    roles: list[str], letters: list[str], units: list[str], shares: list[dict[str, float]], numeric: list[int]
) -> tuple[ColumnRole, ...]:
    found: list[ColumnRole] = []
    for k, role in enumerate(roles):
        if role == "ways":
            found.append(ColumnRole("member"))
        elif k in numeric and letters[k]:
            found.append(ColumnRole("letter", units[k], letters[k] + (f" {role}" if role in LIMITS else "")))
        elif shares[k]["limit"] >= MOST:
            found.append(ColumnRole("limit"))
        elif role == "unit":
            found.append(ColumnRole("unit"))
        elif "ways" in roles or (role == "member" and any(c.role == "member" for c in found)):
            # A size by its second name, or its order code.
            found.append(ColumnRole("note"))
        else:
            taken = any(c.role == "member" for c in found)
            found.append(ColumnRole("Excluded" if taken or not shares[k]["filled"] else "member"))
    return tuple(found)


def _columns_down(
    roles: list[str], units: list[str], shares: list[dict[str, float]], numeric: list[int]
) -> tuple[tuple[ColumnRole, ...], str]:
    doubt = ""
    if "symbol" not in roles:
        symbolic = [k for k in _symbolic(shares) if roles[k] not in LIMITS]
        symbolic = symbolic or [k for k, share in enumerate(shares) if share["trailing"] >= MOST and k not in numeric]
        if symbolic:
            roles[symbolic[0]] = "symbol"
            doubt = "no heading names the column of letters: told by what is in it"
    for k, share in enumerate(shares):
        if roles[k] not in ("symbol", *LIMITS) and share["limit"] >= MOST and share["filled"] > 1:
            roles[k] = "limit"
    if roles.count("value") > 1 and not any(role in LIMITS for role in roles):
        # Several columns that are called values and nothing else are limits that nothing names.
        roles = ["" if role == "value" and k in numeric else role for k, role in enumerate(roles)]
    bare = [k for k in numeric if not roles[k] or (roles[k] == "symbol" and "symbol" in roles[:k])]
    if not any(role in (*LIMITS, "value") for role in roles) and bare:
        guess = {1: ("value",), 2: ("min", "max"), 3: LIMITS}.get(len(bare), ("value",) * len(bare))
        for k, role in zip(bare, guess, strict=True):
            roles[k] = role
        if len(bare) > 1:
            doubt = "no headings name minimum and maximum: taken in that order"
    elif len(bare) == 1 and "limit" in roles:
        roles[bare[0]] = "value"
    # Numbers that nothing names are left out, and the reader doubts every row that has some.
    named = [role or ("Excluded" if k in numeric else "note") for k, role in enumerate(roles)]
    return tuple(
        ColumnRole(role, unit if role in (*LIMITS, "value", "tolerance") else "")
        for role, unit in zip(named, units, strict=True)
    ), doubt
