"""Parts with their facts from a table, a row for each, and the same table written."""

import re
from collections.abc import Mapping, Sequence

from eider.errors import InputError
from eider.exchange.found_parts import FoundPart
from eider.model.part import Part

# Headings by which the column of names is known, best first, in small letters without punctuation.
NAMES = (
    "name", "part", "part name", "item", "internal part number", "company part number", "part number",
    "manufacturer part number", "mpn", "order code",
)  # fmt: skip
DESCRIPTIONS = ("description", "part description", "comment")
# A heading beside a name that tells a table of parts from one of pins.
TELLING = (
    "manufacturer", "maker", "value", "package", "category", "tolerance", "rated voltage", "supplier",
    "temperature range", "datasheet", "height", "status", "voltage", "current", "power", "capacitance",
    "resistance", "inductance",
    *NAMES[4:], *DESCRIPTIONS,
)  # fmt: skip
_PIN_HEADINGS = frozenset({"pin", "pin number", "pin name", "number", "pad", "type", "ball", "signal"})
MOST_PARTS = 100_000
NAME, CATEGORY, DESCRIPTION = "Name", "Category", "Description"


def is_fact_table(rows: Sequence[Sequence[str]]) -> bool:
    """Whether the first row names the columns of parts: one for their names, and one that no table of pins has."""
    headings = [_plain(heading) for heading in rows[0]] if rows else []
    return (
        _name_column(headings) is not None
        and any(heading in TELLING for index, heading in enumerate(headings) if index != _name_column(headings))
        and not _PIN_HEADINGS & set(headings)
    )


def found_rows(rows: Sequence[Sequence[str]], source: str) -> tuple[tuple[FoundPart, ...], tuple[str, ...]]:
    """A part for each row, its facts by their headings; rows without a name and second rows of a name are told.

    Raises:
        InputError: there are more than 100,000 rows, or no column of names.
    """
    header = [" ".join(heading.split()) for heading in rows[0]] if rows else []
    plain = [_plain(heading) for heading in header]
    at = _name_column(plain)
    if at is None:
        raise InputError("the table has no column of names; call one “Name” or “Part number”")
    if len(rows) > MOST_PARTS:
        raise InputError(f"the table has more than {MOST_PARTS:,} rows")
    found, log = dict[str, FoundPart](), list[str]()
    log += [f"column {index + 1} has no heading; left out" for index, heading in enumerate(header)
            if not heading and any(index < len(row) and row[index].strip() for row in rows[1:])]  # fmt: skip
    for line, row in enumerate(rows[1:], start=2):
        cells = {index: row[index].strip() for index in range(min(len(row), len(header))) if row[index].strip()}
        name = cells.get(at, "")
        if not name:
            log += [f"line {line} has no name; left out"] if cells else []
        elif name.casefold() in found:
            log.append(f"line {line}: {name} is there twice; the first counts")
        else:
            found[name.casefold()] = _part(name, cells, header, plain, at, f"{source}, line {line}")
    return tuple(found.values()), tuple(log)


def _part(
    name: str, cells: Mapping[int, str], header: Sequence[str], plain: Sequence[str], at: int, source: str
) -> FoundPart:
    description = next((text for index, text in cells.items() if plain[index] in DESCRIPTIONS), "")
    category = next((text for index, text in cells.items() if plain[index] == "category"), "")
    # A part number is a name here, and a fact as well.
    is_fact = plain[at] not in NAMES[:4]
    facts = {
        header[index]: text
        for index, text in cells.items()
        if header[index] and plain[index] not in (*DESCRIPTIONS, "category") and (index != at or is_fact)
    }
    return FoundPart(name=name, source=source, facts=facts, description=description, category=category)


def _name_column(headings: Sequence[str]) -> int | None:
    return next((headings.index(name) for name in NAMES if name in headings), None)


def _plain(heading: str) -> str:
    return " ".join(re.sub(r"[^\w]+", " ", heading.casefold().replace("_", " ")).split())


def fact_rows(parts: Sequence[Part]) -> list[tuple[str, ...]]:
    """The table of some parts with their facts, headings first; what a reader takes in again."""
    names = tuple(dict.fromkeys(name for part in parts for name in part.facts))
    rows = [(NAME, CATEGORY, DESCRIPTION, *names)]
    for part in parts:
        facts = (part.facts[name].value if name in part.facts else "" for name in names)
        rows.append((part.name, part.category, part.description, *facts))
    return rows
