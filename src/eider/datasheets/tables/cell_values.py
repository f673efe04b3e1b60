"""The cells of a row to one length: limits under their headings, a tolerance beside, the same in another unit."""

from collections.abc import Sequence

import msgspec

from eider.datasheets.tables.dimension_columns import LIMITS
from eider.datasheets.tables.table_grid import Cell
from eider.datasheets.tables.value_reading import (
    AGREES,
    ReadValue,
    cleaned,
    compose,
    is_number,
    last_place,
    number,
    number_pair,
    read_value,
)
from eider.geometry.expressions import MM_PER_UNIT
from eider.geometry.limits import Limits

# What is said of two numbers in a cell: nothing in the cell tells which of them is which limit.
PAIR_DOUBT = "two values in one cell: taken as limits"


def with_tolerance(value: ReadValue, texts: Sequence[str], unit: str) -> ReadValue:
    """A value with the tolerance that is in a column of its own."""
    if not texts or value.limits is None:
        return value
    tolerance = texts[0] if texts[0][:1] in "±+-" else f"±{texts[0]}"
    made = read_value(f"{value.text.removesuffix(f' {unit}')} {tolerance}", unit)
    if len(texts) > 1 or made.limits is None or not value.limits.is_exact:
        doubt = value.doubt or f"the tolerance {', '.join(texts)} could not be put to {value.text}"
        return msgspec.structs.replace(value, doubt=doubt)
    return msgspec.structs.replace(made, notes=(*value.notes, *made.notes), doubt=value.doubt or made.doubt)


def value_of_cells(found: Sequence[tuple[str, Cell]], unit: str, comma: bool) -> tuple[ReadValue, list[Cell]]:
    """One value of the cells for min, nom and max, or of one with all in it."""
    cells = [cell for _, cell in found]
    marks = tuple(f"footnote {w.marks} left aside" for c in cells for w in c.words if w.marks)
    if len(found) == 1 or all(role == "value" for role, _ in found):
        value = _lone(found, unit)
    else:
        value = _limits_of(found, unit)
    doubt = value.doubt
    if comma and doubt.startswith("the comma"):
        doubt = ""
    if not doubt and value.limits is not None:
        doubt = _order_fault(value.limits)
    return ReadValue(value.text, value.limits, (*marks, *value.notes), doubt), cells


def _lone(found: Sequence[tuple[str, Cell]], unit: str) -> ReadValue:
    role = found[0][0]
    lines = [line_value for _, cell in found for line_value in cell_lines(cell)]
    if pair := number_pair(" ".join(lines)):
        low, high = sorted(pair, key=number)
        return msgspec.structs.replace(read_value(compose(low, "", high, unit), unit), doubt=PAIR_DOUBT)
    value = read_value(" ".join(lines), unit)
    if role in LIMITS and role != "nom" and value.limits is not None and _is_bare(lines[0]):
        return _limits_of(found, unit)
    return value


def _is_bare(text: str) -> bool:
    """Whether a text is one number that does not say of itself which limit it is, as `.100 TYP` does."""
    value = read_value(text)
    limits = value.limits
    is_one = limits is not None and limits.is_exact and limits.min is None and limits.max is None
    return is_one and _remark(text) == "" and " nom" not in f" {value.text}"


def _remark(text: str) -> str:
    # A unit may be behind it.
    return next((word for word in read_value(text).text.split()[-2:] if word in ("BSC", "REF")), "")


def cell_lines(cell: Cell) -> list[str]:
    """The lines of a cell as texts."""
    return [cleaned(" ".join(word.text for word in line)) for line in cell.lines]


def _limits_of(found: Sequence[tuple[str, Cell]], unit: str) -> ReadValue:
    """Texts under min, nom and max; each must be one number."""
    texts: dict[str, str] = {}
    notes: list[str] = []
    doubt, own_units = "", set[str]()
    for role, cell in found:
        value = read_value(cell.text, "mm")
        notes += value.notes
        plain, own_unit = _without_unit(value.text)
        if not own_unit and any(note.startswith(AGREES) for note in value.notes):
            # Of the same length in two units the one in millimetres was taken.
            own_unit = "mm"
        plain = plain.removesuffix(" BSC").removesuffix(" REF")
        own_units.add(own_unit)
        place = "nom" if role == "value" else role
        if value.limits is None or not is_number(plain):
            doubt = doubt or f"“{cleaned(cell.text)}” under {role} is not one number"
        elif place in texts:
            doubt = doubt or f"two values for {place}"
        else:
            texts[place] = plain
        doubt = doubt or value.doubt
    if own_units not in ({""}, set()):
        doubt = doubt or ("" if len(own_units) == 1 else "its limits are in different units")
        unit = max(own_units)
    text = compose(texts.get("min", ""), texts.get("nom", ""), texts.get("max", ""), unit)
    if not text:
        return ReadValue(" ".join(cleaned(cell.text) for _, cell in found), None, tuple(notes), doubt)
    return ReadValue(text, read_value(text, unit).limits, tuple(notes), doubt)


def _without_unit(text: str) -> tuple[str, str]:
    """A number without the unit behind it, and that unit; empty where it has none."""
    number_text, _, unit = text.rpartition(" ")
    return (number_text, unit) if unit in MM_PER_UNIT and number_text else (text, "")


def _order_fault(limits: Limits) -> str:
    values = [v for v in (limits.min, limits.nom, limits.max) if v is not None]
    return "" if values == sorted(values) else "maximum, nominal and minimum are not in order"


def held_against(value: ReadValue, unit: str, second: ReadValue, other: str) -> ReadValue:
    """The same length in another unit must agree within the rounding of both."""
    if value.doubt or value.limits is None:
        return value
    if second.limits is None:
        return msgspec.structs.replace(value, doubt=f"the value in {other} could not be read beside it")
    allowed = 0.51 * (last_place(value.text) * MM_PER_UNIT[unit] + last_place(second.text) * MM_PER_UNIT[other]) + 1e-6
    # Two columns of inches beside three of millimetres leave the nominal value out.
    ends_agree = second.limits.nom is None and None not in (second.limits.min, second.limits.max)
    for name in ("min", "max") if ends_agree else LIMITS:
        one, two = getattr(value.limits, name), getattr(second.limits, name)
        if (one is None) != (two is None) or (one is not None and two is not None and abs(one - two) > allowed):
            return msgspec.structs.replace(value, doubt=f"{unit} and {other} do not agree: {value.text}, {second.text}")
    return msgspec.structs.replace(value, notes=(*value.notes, f"{AGREES}{second.text}"))
