"""Changes to many pins at once: filled down, numbered on, searched and replaced, sorted."""

import re
from collections.abc import Callable, Mapping, Sequence

import msgspec

from eider.errors import InputError
from eider.evidence.evidence_changes import typed_pin
from eider.facts.fact_reading import fact_order
from eider.model.bundle import Bundle
from eider.model.symbol import PIN_TYPES, Pin
from eider.packages.forms.array import row_letter
from eider.symbols.pin_columns import MORE, column_text, with_column
from eider.symbols.pin_names import bank_of, bus_key, natural_key
from eider.symbols.pin_table import PinReading, read_pins, split_table
from eider.symbols.unit_splitting import SUPPLY_TYPES

replace = msgspec.structs.replace
# Columns of the pin table that hold plain texts.
TEXTS = ("number", "name", "shown", "group", "description", "unit")
NUMBERINGS = ("counter-clockwise", "two rows", "grid")
GROUPINGS = ("prefix", "bus", "bank", "none")
_LAST_NUMBER = re.compile(r"(\d+)(?=\D*$)")


def _by_text(text: str) -> tuple[tuple[bool, int, str], ...]:
    """Sorts texts as an index does, numbers in them by value: CLK, D1, D2, D10."""
    pieces = re.findall(r"\d+|\D+", text.lower())
    return tuple((not p.isdecimal(), int(p) if p.isdecimal() else 0, p) for p in pieces)


_SORT: Mapping[str, Callable[[Pin], object]] = {
    "number": lambda pin: natural_key(pin.number),
    "name": lambda pin: _by_text(pin.name),
    "group": lambda pin: _by_text(pin.group),
    "description": lambda pin: _by_text(pin.description),
    "unit": lambda pin: natural_key(pin.unit),
    "type": lambda pin: PIN_TYPES.index(pin.type) if pin.type in PIN_TYPES else len(PIN_TYPES),
    "shape": lambda pin: pin.shape,
    "shown": lambda pin: _by_text(pin.shown),
}


def _by_more(column: str) -> Callable[[Pin], object]:
    """Values of a further column by their size, whatever their unit; texts by letters."""
    return lambda pin: fact_order(None, column_text(pin, column))


def _holds_texts(column: str) -> bool:
    return column in TEXTS or column.startswith(MORE)


def fill_down(bundle: Bundle, rows: Sequence[int], column: str) -> Bundle:
    """The value of the first of some rows in all of them.

    Raises:
        InputError: fewer than two rows, or a column that cannot be filled.
    """
    pins = bundle.symbol.pins
    if len(rows) < 2 or not (column in Pin.__struct_fields__ or column.startswith(MORE)):
        raise InputError("select the cell to fill down from, and those below it")
    if column.startswith(MORE):
        text = column_text(pins[rows[0]], column)
        return _with(bundle, rows[1:], lambda pin, _i: with_column(pin, column, text))
    value = getattr(pins[rows[0]], column)
    return _with(bundle, rows[1:], lambda pin, _i: replace(pin, **{column: value}))


def fill_series(bundle: Bundle, rows: Sequence[int], column: str) -> Bundle:
    """Numbers that go on from the first of some rows: `D0` gives D1, D2 …; with two given their step is kept.

    Raises:
        InputError: fewer than two rows, or the first holds no number to continue from.
    """
    pins = bundle.symbol.pins
    if not _holds_texts(column) or len(rows) < 2:
        raise InputError("select a number or name that ends in a number, and the cells below it")
    first = column_text(pins[rows[0]], column)
    start = _LAST_NUMBER.search(first)
    if start is None:
        raise InputError(f"“{first}” contains no number to continue from")
    step, begin = 1, 1
    second = _LAST_NUMBER.search(column_text(pins[rows[1]], column))
    if len(rows) > 2 and second and int(second[0]) != int(start[0]):
        step, begin = int(second[0]) - int(start[0]), 2

    def on(pin: Pin, index: int) -> Pin:
        number = int(start[0]) + step * (index + begin)
        if number < 0:
            raise InputError(f"the series runs below zero at its {index + begin + 1}th cell")
        return with_column(pin, column, f"{first[: start.start()]}{number}{first[start.end() :]}")

    return _with(bundle, rows[begin:], on)


def number_grid(bundle: Bundle, rows: Sequence[int], columns: int) -> Bundle:
    """Numbers of a grid array in the order of the rows: A1, A2 … B1, B2 …

    Raises:
        InputError: the number of columns is not from 1 to 200.
    """
    if not 1 <= columns <= 200:
        raise InputError("a grid has 1 to 200 columns")
    return _with(bundle, rows, lambda pin, i: replace(pin, number=f"{row_letter(i // columns)}{i % columns + 1}"))


def number_pins(bundle: Bundle, rows: Sequence[int], way: str, columns: int = 0) -> Bundle:
    """New numbers for some rows in their order.

    `counter-clockwise` is 1, 2, 3 … as round a dual or quad package; `two rows` gives the first half odd numbers and
    the second even ones, as in a header whose rows are listed one after the other; `grid` letters rows.

    Raises:
        InputError: the way of numbering is unknown.
    """
    if way == "grid":
        return number_grid(bundle, rows, columns)
    if way not in NUMBERINGS:
        raise InputError(f"pins cannot be numbered by “{way}”; choose one of {', '.join(NUMBERINGS)}")
    count = len(rows)
    half = (count + 1) // 2
    zigzag = [2 * i + 1 if i < half else 2 * (i - half) + 2 for i in range(count)]
    order = zigzag if way == "two rows" else list(range(1, count + 1))
    return _with(bundle, rows, lambda pin, i: replace(pin, number=str(order[i])))


def group_pins(bundle: Bundle, rows: Sequence[int], rule: str) -> Bundle:
    """Groups by what is before the first underscore, by the stem of a bus or by bank; supplies stay as they are.

    Raises:
        InputError: the rule is unknown.
    """
    if rule not in GROUPINGS:
        raise InputError(f"pins cannot be grouped by “{rule}”; choose one of {', '.join(GROUPINGS)}")
    names = [bundle.symbol.pins[row].name for row in rows]
    keys = [_group_key(name, rule) for name in names]
    shared = {key for key in keys if key and keys.count(key) > 1}

    def change(pin: Pin, index: int) -> Pin:
        if pin.type in SUPPLY_TYPES:
            return pin
        return replace(pin, group=keys[index] if keys[index] in shared else "")

    return _with(bundle, rows, change)


def _group_key(name: str, rule: str) -> str:
    if rule == "prefix":
        return name.partition("_")[0] if "_" in name else ""
    if rule == "bank":
        return f"bank {bank}" if (bank := bank_of(name)) else ""
    stem, index = bus_key(name)
    return stem.rstrip("_[") if rule == "bus" and index >= 0 else ""


def join_group(bundle: Bundle, rows: Sequence[int], target: int) -> Bundle:
    """The group and the unit of one row for others.

    Raises:
        InputError: that row has neither.
    """
    host = bundle.symbol.pins[target]
    if not host.group and not host.unit:
        raise InputError(f"pin {host.number} {host.name} has no group yet; name it first, then drop others on it")
    return _with(bundle, rows, lambda pin, _i: replace(pin, group=host.group, unit=host.unit))


def move_rows(bundle: Bundle, rows: Sequence[int], before: int) -> Bundle:
    """Rows in another place of the table: before the row that had this index."""
    chosen = set(rows)
    pins = bundle.symbol.pins
    head = [pin for i, pin in enumerate(pins[:before]) if i not in chosen]
    tail = [pin for i, pin in enumerate(pins) if i >= before and i not in chosen]
    return set_pin_table(bundle, [*head, *(pins[i] for i in sorted(chosen)), *tail])


def replace_text(bundle: Bundle, rows: Sequence[int], column: str, find: str, put: str) -> tuple[Bundle, int]:
    """Another text in place of each occurrence in some rows; returns how many rows changed.

    Raises:
        InputError: the column holds no texts, or there is nothing to look for.
    """
    if not _holds_texts(column) or not find:
        raise InputError("select cells with texts, and say what to look for")
    pins = bundle.symbol.pins
    hits = [row for row in rows if find in column_text(pins[row], column)]
    changed = _with(bundle, hits, lambda pin, _i: with_column(pin, column, column_text(pin, column).replace(find, put)))
    return changed, len(hits)


def sort_pins(bundle: Bundle, column: str) -> Bundle:
    """The table sorted by a column, numbers in texts by value; a second time the other way round.

    Raises:
        InputError: the column has no order.
    """
    key = _by_more(column) if column.startswith(MORE) else _SORT.get(column)
    if key is None:
        raise InputError(f"the table cannot be sorted by {column}")
    pins = bundle.symbol.pins
    ordered = sorted(pins, key=key)  # type: ignore[arg-type]  # keys of one column compare
    if tuple(ordered) == pins:
        ordered = sorted(pins, key=key, reverse=True)  # type: ignore[arg-type]
    return set_pin_table(bundle, ordered)


def _with(bundle: Bundle, rows: Sequence[int], change: Callable[[Pin, int], Pin]) -> Bundle:
    """Some rows changed; with another number or name their evidence is the one of before."""
    pins = list(bundle.symbol.pins)
    for index, row in enumerate(rows):
        pins[row] = typed_pin(pins[row], change(pins[row], index))
    return set_pin_table(bundle, pins)


def set_pin_table(bundle: Bundle, pins: Sequence[Pin]) -> Bundle:
    """Replace the pin table."""
    return replace(bundle, symbol=replace(bundle.symbol, pins=tuple(pins)))


def change_pin(bundle: Bundle, index: int, pin: Pin) -> Bundle:
    """Another pin in a row of the table; with another number or name its evidence is the one of before.

    Where it was moved by hand, the move follows its number.
    """
    pins = list(bundle.symbol.pins)
    before = pins[index].number
    pins[index] = typed_pin(pins[index], pin)
    bundle = set_pin_table(bundle, pins)
    if pin.number == before or not bundle.symbol.moves:
        return bundle
    moves = tuple(
        replace(m, pin=pin.number if m.pin == before else m.pin, after=pin.number if m.after == before else m.after)
        for m in bundle.symbol.moves
    )
    return replace(bundle, symbol=replace(bundle.symbol, moves=moves))


def read_pin_text(text: str) -> PinReading:
    """Pins from pasted text or CSV."""
    return read_pins(split_table(text))
