"""Rows of cells, however ordered, to a pin table: pasted from a spreadsheet, or from CSV."""

import csv
import io
import re
from collections.abc import Sequence

import msgspec

from eider.errors import InputError
from eider.model.symbol import PIN_TYPES, Pin
from eider.symbols.conventions import conventions
from eider.symbols.pin_columns import MORE
from eider.symbols.pin_names import guess_type, read_name, read_type

replace = msgspec.structs.replace
LARGEST_TABLE = 20_000
# No package has more; also how many pads a package sheet may have.
MOST_PINS = 5_000
TOO_MANY = f"a symbol has at most {MOST_PINS} pins; the rest was left out"
LONGEST_NUMBER = 8
LONGEST_RANGE = 400
_YES = frozenset({"yes", "y", "true", "1", "x"})
_RANGE = re.compile(r"\s*([A-Z]{0,2})(\d{1,4})\s*(?:[-–—]|to)\s*([A-Z]{0,2})(\d{1,4})\s*")
Rows = Sequence[Sequence[str]]


class RowFault(msgspec.Struct, frozen=True):
    """A line that was not taken over (counted from 1): what is wrong with it."""

    line: int
    message: str


class PinReading(msgspec.Struct, frozen=True):
    """The pins that could be read, the lines that could not, and which column was taken for what."""

    pins: tuple[Pin, ...]
    faults: tuple[RowFault, ...]
    columns: dict[str, int]
    lines: tuple[int, ...] = ()
    """For each pin the line (from 1) in which it stands."""


def split_table(text: str) -> list[list[str]]:
    """Cells of pasted text or CSV: by tabs where there are any, else by semicolons or commas.

    Raises:
        InputError: a cell has no end, or more than 131,072 characters.
    """
    first = text.lstrip().splitlines()[:1]
    delimiter = next((d for d in "\t;" if first and d in first[0]), ",")
    lines = io.StringIO(text.replace("\r\n", "\n").replace("\r", "\n"))
    # A line break in a quoted cell parts words, not rows.
    try:
        return [[" ".join(cell.split()) for cell in row] for row in csv.reader(lines, delimiter=delimiter)]
    except csv.Error as fault:
        raise InputError(f"this is not a table of cells: {fault}; look for a quotation mark without its end") from fault


def read_pins(rows: Rows, columns: dict[str, int] | None = None) -> PinReading:
    """Make pins of rows; headings are recognised, without them the columns are told by what is in them.

    With `columns` (by meaning) the rows are taken as they are, without headings. Types that the table does not give
    are proposed from the names and marked as assumed.
    """
    header = _header(rows[0]) if rows and columns is None else {}
    start = 1 if "number" in header else 0
    if columns is None:
        columns = header if start else guess_columns(rows)
    pins: list[Pin] = []
    lines: list[int] = []
    faults: list[RowFault] = []
    for line, row in enumerate(rows[start:LARGEST_TABLE], start=start + 1):
        if not any(cell.strip() for cell in row):
            continue
        cells = {what: row[index].strip() if index < len(row) else "" for what, index in columns.items()}
        numbers = split_numbers(cells.get("number", ""))
        if not numbers or any(len(number) > LONGEST_NUMBER for number in numbers):
            faults.append(RowFault(line, f"no pin number in “{' | '.join(row)[:60]}”; expected one in each line"))
            continue
        if len(pins) + len(numbers) > MOST_PINS:
            faults.append(RowFault(line, TOO_MANY))
            break
        made, fault = _pins_of(numbers, cells)
        pins.extend(made)
        lines.extend([line] * len(made))
        if fault:
            faults.append(RowFault(line, fault))
    if len(rows) > LARGEST_TABLE:
        faults.append(RowFault(LARGEST_TABLE, f"a pin table has at most {LARGEST_TABLE} lines; the rest was left out"))
    return PinReading(tuple(pins), tuple(faults), columns, tuple(lines))


_EXPLAINED = re.compile(r"(\S+)\s+\(([a-z][^()]*)\)")
# A bus with its first and last number.
_BUS = re.compile(r"^([A-Za-z_]+)\[(\d{1,3}):(\d{1,3})\]$")
# Two names that differ by their number alone: what is before it and behind it is the same.
_NAME_RANGE = re.compile(
    r"([A-Za-z_.]*(?:\d+\.)?)(\d{1,3})([A-Za-z_#]*)\s*(?:to|thru|through|[-–—…]|\.{2,3})\s*\1(\d{1,3})\3"
)
# What is written behind the number of a thermal pad.
_THERMAL = re.compile(r"(?<=\d)\s*\(?\s*(?:e?pad|ep|exposed pad|thermal pad|tab)\s*\)?$", re.IGNORECASE)
# What is written before a number to say that it is one.
_NUMBER_SIGN = re.compile(r"^\s*(?:#|no\.?|pin)\s*(?=\d)", re.IGNORECASE)


def split_numbers(text: str) -> list[str]:
    """The pin numbers that a cell names: `4, 5` or `1–4` are several; `#1` and `Pin 1` are 1."""
    found: list[str] = []
    for whole in _THERMAL.sub("", text).replace(";", ",").split(","):
        piece = _NUMBER_SIGN.sub("", whole)
        match = _RANGE.fullmatch(piece)
        if match and match[1] == match[3] and 0 < int(match[4]) - int(match[2]) < LONGEST_RANGE:
            found += [f"{match[1]}{n}" for n in range(int(match[2]), int(match[4]) + 1)]
        elif piece.strip():
            found.append(piece.strip())
    return found


def split_names(text: str) -> list[str]:
    """The names that a cell gives, in their order: `1A to 4A`, `P0.0–P0.7` and `DQ[7:0]` are several, as `A, B` are."""
    found: list[str] = []
    for piece in text.replace(";", ",").split(","):
        match = _NAME_RANGE.fullmatch(_BUS.sub(r"\1\2-\1\3", piece.strip()))
        low, high = (int(match[2]), int(match[4])) if match else (0, 0)
        if match and 0 < abs(high - low) < LONGEST_RANGE:
            step = 1 if high > low else -1
            found += [f"{match[1]}{n}{match[3]}" for n in range(low, high + step, step)]
        else:
            found += split_numbers(piece)
    return found


def make_pin(number: str, text: str, type_word: str = "", description: str = "", group: str = "") -> tuple[Pin, str]:
    """One pin from the texts of its cells, and what could not be understood of them (or nothing).

    Words in brackets behind a name, as in `E/D (enable / disable)`, describe it.
    """
    if match := _EXPLAINED.fullmatch(text.strip()):
        text, description = match[1], description or match[2]
    reading = read_name(text)
    known = read_type(type_word)
    guess = guess_type(reading.name)
    assumed = not type_word or known is None
    kind = known or "undecided"
    if assumed and guess:
        kind = guess.type
    fault = "" if known is not None else f"pin {number}: type “{type_word}” is not known; {kind} taken for now"
    pin = Pin(
        number=number,
        name=reading.name,
        type=kind,
        active_low=reading.active_low,
        group=group,
        description=description,
        alternatives=reading.alternatives,
        assumed=assumed and kind != "undecided",
    )
    return pin, fault


def _pins_of(numbers: Sequence[str], cells: dict[str, str]) -> tuple[list[Pin], str]:
    """A line may name several pins that share all else, or a name for each number in their order."""
    pins, fault = [], ""
    name = cells.get("name", "")
    names = split_names(name)
    each = names if len(names) == len(numbers) > 1 else [name] * len(numbers)
    for number, own in zip(numbers, each, strict=True):
        pin, fault = make_pin(
            number,
            own,
            cells.get("type", ""),
            cells.get("description", ""),
            cells.get("group", ""),
        )
        more = {what.removeprefix(MORE): text for what, text in cells.items() if what.startswith(MORE) and text}
        pin = replace(pin, more=more) if more else pin
        if cells.get("active_low"):
            pin = replace(pin, active_low=cells["active_low"].casefold() in _YES)
        if others := tuple(text.strip() for text in cells.get("alternatives", "").split(" / ") if text.strip()):
            pin = replace(pin, alternatives=others)
        pins.append(pin)
    if 1 < len(numbers) != len(names) > 1:
        fault = fault or f"{len(names)} names for {len(numbers)} numbers: {name}"
    return pins, fault


def _header(row: Sequence[str]) -> dict[str, int]:
    """Which column is under which heading; empty where the row is not a heading."""
    found: dict[str, int] = {}
    for index, cell in enumerate(row):
        for what, headings in conventions().columns.items():
            if cell.strip().lower() in headings and what not in found:
                found[what] = index
    if not {"number", "name"} <= set(found):
        return {}
    known = set(found.values())
    # Other columns come along under their headings; which of them are wanted says the category's template.
    others = {f"{MORE}{cell.strip()}": index for index, cell in enumerate(row) if cell.strip() and index not in known}
    return {**others, **found}


def guess_columns(rows: Rows) -> dict[str, int]:
    """Without headings: the first column that holds numbers only, the one of type words, names before texts."""
    width = max((len(row) for row in rows), default=0)
    cells = [[row[i].strip() for row in rows if i < len(row)] for i in range(width)]
    shares = [sum(map(is_pin_number, column)) / max(len(column), 1) for column in cells]
    number = next((i for i, share in enumerate(shares) if share == max(shares)), 0)
    if not shares or shares[number] < 0.5:
        return {}
    columns = {"number": number}
    rest = [i for i in range(width) if i != number]
    for index in rest:
        if cells[index] and all(read_type(c) is not None or c in PIN_TYPES for c in cells[index]):
            columns["type"] = index
            break
    for what, index in zip(("name", "description"), [i for i in rest if i != columns.get("type")], strict=False):
        columns[what] = index
    return columns


def is_pin_number(text: str) -> bool:
    """Whether a text looks like the number of a pin: 7, A12."""
    return bool(text) and len(text) <= 5 and any(c.isdigit() for c in text) and text[-1].isdigit()
