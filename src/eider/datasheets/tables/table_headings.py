"""What the headings over a column say: its meaning and its unit."""

import re
import tomllib
from collections.abc import Mapping, Sequence
from functools import cache, lru_cache
from itertools import pairwise

import msgspec

from eider.datasheets.tables.table_grid import Cell, TableGrid
from eider.datasheets.tables.value_reading import UNIT_WORDS, cleaned, unit_of
from eider.model.codec import convert
from eider.packaged_data import packaged_text

# A letter of a package as datasheets write it: e, b, A1, HD, b1(2), Øb, θ2.
SYMBOL = re.compile(r"^[∅ØøΔ]?(?:[A-Za-z]{1,2}|[θαβφδ]|([a-z])\1\1)(?:\d{1,2}[a-z]{0,2})?'?$")

# What is written at a letter: `Dim. A`, `L [mm]`, `A (max)`, `A max.`.
_BEFORE_LETTER = re.compile(r"^(?:dim(?:ension)?|symbol|sym)\.?\s+(?=\S)", re.IGNORECASE)
_AT_LETTER = re.compile(
    r"(?:\s*[\[(]\s*(?:mm|mil|mils|in|inch|min|max|nom|typ|(?:note\s*)?\d{1,2})\.?\s*[\])]|\s+(?:min|max|nom|typ)\.?)\s*$",
    re.IGNORECASE,
)

# A tolerance that is written at a letter and is of all its values, perhaps in inches as well: `F ±0.1 (±.004)`.
_TOLERANCE_AT_LETTER = re.compile(r"\s*(±\s*\d*[.,]?\d+)\s*(?:mm)?(?:\s*[\[(][^\])]*[\])])?\s*$")

# What is in brackets beside a unit is the other one, as in “millimeters (inches)”.
_EAST_ASIAN = re.compile(r"[\u3040-\u30ff\u4e00-\u9fff]")
_SCRIPTS = re.compile(r"[\u3040-\u30ff\u4e00-\u9fff]+|[^\u3040-\u30ff\u4e00-\u9fff]+")
BRACKETS = re.compile(r"[\[(][^\])]*[\])]")

# A unit that stands to the right of a column counts as so many times farther.
FARTHER = 1.2


class Headings(msgspec.Struct, frozen=True):
    """The words of a column of dimensions by its meaning, those for limits, over order codes, and of captions."""

    dimensions: Mapping[str, tuple[str, ...]]
    limits: Mapping[str, tuple[str, ...]]
    orders: Mapping[str, tuple[str, ...]]
    captions: Mapping[str, tuple[str, ...]]


@cache
def headings() -> Headings:
    """The words that ship with Eider."""
    text = packaged_text("datasheets/headings.toml")
    return convert(tomllib.loads(text), Headings, "headings.toml")


@lru_cache(8192)
def plain(text: str) -> str:
    """A heading without stops, colons, brackets and units."""
    text = re.sub(r"[\[(][^\])]*[\])]", " ", cleaned(text).lower())
    words = re.sub(r"[.:;*]+", " ", text).split()
    return " ".join([word for word in words if word not in UNIT_WORDS] or words)


def meaning_of(text: str, words: Mapping[str, tuple[str, ...]]) -> str:
    """Which meaning a heading names, in one language or in two that say the same; empty where none."""
    wanted = plain(text)
    said = next((meaning for meaning, known in words.items() if wanted in known), "")
    if said or not _EAST_ASIAN.search(wanted):
        return said
    # `最小 Min.` and `記号 / Symbol`: the same word in two scripts.
    pieces = {piece.strip(" /|") for piece in _SCRIPTS.findall(wanted)}
    meanings = {meaning for meaning, known in words.items() if pieces & set(known)}
    return meanings.pop() if len(meanings) == 1 else ""


def limit_word(text: str) -> str:
    """`min`, `nom` or `max` where a cell says just that."""
    return meaning_of(text, headings().limits)


def bare_symbol(text: str) -> str:
    """A letter without what is written at it: `Dim. A`, `L [mm]`, `A (max)`, `A max.`."""
    plain_text = _TOLERANCE_AT_LETTER.sub("", _BEFORE_LETTER.sub("", cleaned(text).strip()))
    # A limit and a unit may both be at it: `t min. (mm)`.
    return _AT_LETTER.sub("", _AT_LETTER.sub("", plain_text)).strip()


def tolerance_at_letter(text: str) -> str:
    """The tolerance that is written at a letter and is of all its values, as in `F ±0.1`; empty without one."""
    found = _TOLERANCE_AT_LETTER.search(cleaned(text))
    return found[1] if found and is_symbol(text) else ""


def limit_at_letter(text: str) -> str:
    """The limit that is written at a letter, as in `A (max)` or `A max.`; empty without one."""
    last = _AT_LETTER.search(cleaned(text))
    before = _AT_LETTER.search(cleaned(text)[: last.start()]) if last else None
    words = [limit_word(found[0].strip(" ()[].")) for found in (last, before) if found]
    return next(filter(None, words), "")


def is_symbol(text: str) -> bool:
    """Whether a text can be the letter of a dimension, with what may be written at it."""
    bare = bare_symbol(text)
    return bool(SYMBOL.match(bare)) and not limit_word(bare) and not unit_of(bare)


def trailing_symbol(text: str) -> str:
    """The letter at the end of a description, as in `Overall height A`; empty without one."""
    *before, last = cleaned(text).split() or [""]
    return last.strip("()[],:") if before and len(last) < 6 and is_symbol(last.strip("()[],:")) else ""


def split_symbols(text: str) -> list[str]:
    """The letters that a cell names: `D, E` are two; without any, the cell's text."""
    bare = bare_symbol(text).replace(" ", "")
    pieces = [piece for piece in re.split(r"[,/;&]", bare) if piece]
    return pieces if len(pieces) > 1 and all(map(is_symbol, pieces)) else [bare.lstrip("∅Øø")]


def over(grid: TableGrid, column: int, header_rows: int) -> list[Cell]:
    """The heading cells over a column, the nearest to the body first."""
    found = [grid.at(row, column) for row in range(header_rows - 1, -1, -1)]
    return [cell for cell in found if cell.lines]


def _stand_at_the_left(grid: TableGrid, row: int, cells: Sequence[Cell]) -> bool:
    """Whether units stand over the first of the columns they are of: each with a limit under it, the first with none
    to its left, and the same limits under each."""
    if len(cells) < 2 or any(c.columns > 1 for c in cells):
        return False
    limits = [_limit_under(grid, row, k) for k in range(grid.columns)]
    starts = [cell.column for cell in cells]
    groups = [tuple(limits[a:b]) for a, b in pairwise([*starts, grid.columns])]
    has_none_before = not any(limits[: starts[0]])
    return has_none_before and all(group[0] for group in groups) and len({g[: len(groups[0])] for g in groups}) == 1


def _limit_under(grid: TableGrid, row: int, column: int) -> str:
    """The limit that a heading names, in its own cell or in the one under it; empty without one."""
    rows = range(row, min(row + 2, grid.rows))
    words = [word for index in rows for word in grid.at(index, column).text.split()]
    return next((limit for word in words if (limit := limit_word(word))), "")


def unit_over(grid: TableGrid, column: int, header_rows: int) -> str:
    """The unit that the headings give a column: its own, or in an open table the nearest one that is above."""
    cells = over(grid, column, header_rows)
    # Of `mm [in]` the first holds, in one cell or in two: what is in brackets is beside it.
    for text in (*(BRACKETS.sub(" ", cell.text) for cell in cells), *(cell.text for cell in cells)):
        if unit := unit_of(text):
            return unit
    middle = (grid.column_edges[column] + grid.column_edges[column + 1]) / 2
    for row in range(header_rows - 1, -1, -1):
        cells = [c for c in grid.row(row) if c.lines and unit_of(c.text)]
        if _stand_at_the_left(grid, row, cells):
            before = [c for c in cells if c.column <= column]
            return unit_of(before[-1].text) if before else ""
        named = [((c.ink[0] + c.ink[2]) / 2 - middle, unit_of(c.text)) for c in cells]
        # Of two that are equally near, the one to the left: units stand over or before their columns.
        near = [(abs(far) * (1.0 if far < 0 else FARTHER), unit) for far, unit in named if unit]
        if near:
            return min(near)[1]
    return ""
