"""Another number of pins of a whole part: package, pads by hand, pin table, graphic and kept distances together."""

import re
from collections.abc import Iterator, Sequence
from contextlib import suppress
from typing import NamedTuple

import msgspec

from eider.commands.packages import package_edits
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.footprint import KeptDistance
from eider.model.symbol import Pin
from eider.packages.registry import family_of

replace = msgspec.structs.replace
MOST_PINS = 5000
_ROWS_AND_WAYS = re.compile(r"^(.*/)(\d+)x(\d+)(.*)$")
_ENDING = re.compile(r"^(.*?)(\d+)$")


class RecountedPart(NamedTuple):
    """The part with so many numbered pins, and what could not be told: names that new pins do not have."""

    bundle: Bundle
    doubts: tuple[str, ...]


def numbered_pins(bundle: Bundle) -> int:
    """How many pins are numbered 1, 2, 3 …; pins with other numbers, such as a shield, are not counted."""
    numbers = {pin.number for pin in bundle.symbol.pins}
    count = 0
    while str(count + 1) in numbers:
        count += 1
    return count


def with_pin_count(bundle: Bundle, count: int) -> RecountedPart:
    """The part with `count` numbered pins; pins with other numbers stay as they are.

    Raises:
        InputError: the number is not from 1 to 5000, the part has no numbered pins, or its family has not so many.
    """
    before = numbered_pins(bundle)
    if not 1 <= count <= MOST_PINS:
        raise InputError(f"{count} is not a number of pins; enter one from 1 to {MOST_PINS}")
    if not before:
        raise InputError(f"{bundle.part.name} has no pins numbered 1, 2, 3 …; their number cannot be changed")
    if count == before:
        return RecountedPart(bundle, ())
    pins, doubts = _pins(bundle.symbol.pins, before, count)
    graphic = _graphic(bundle.symbol.graphic, before, count)
    distances = tuple(_distance(kept, before, count) for kept in bundle.footprint.distances)
    made = replace(
        bundle,
        symbol=replace(bundle.symbol, pins=pins, graphic=graphic),
        footprint=replace(bundle.footprint, distances=distances),
    )
    return RecountedPart(_with_package_pins(made, before, count), doubts)


def _pins(pins: Sequence[Pin], before: int, count: int) -> tuple[tuple[Pin, ...], tuple[str, ...]]:
    kept = [pin for pin in pins if not (pin.number.isdecimal() and count < int(pin.number) <= before)]
    last = next(pin for pin in pins if pin.number == str(before))
    at = 1 + max(index for index, pin in enumerate(kept) if pin.number.isdecimal() and int(pin.number) <= count)
    added = [_next_pin(last, before, number) for number in range(before + 1, count + 1)]
    unnamed = [pin.number for pin in added if last.name and not pin.name]
    doubts = (f"pins {unnamed[0]} to {unnamed[-1]} have no name; the base ends with {last.name}",) if unnamed else ()
    return (*kept[:at], *added, *kept[at:]), doubts


def _next_pin(last: Pin, before: int, number: int) -> Pin:
    """A further pin like the last one: a name that ends in its number, or in a counter, goes on."""
    match = _ENDING.match(last.name)
    name = f"{match[1]}{int(match[2]) + number - before}" if match else ""
    kind = last.type if name or not last.name else "undecided"
    return replace(last, number=str(number), name=name, type=kind, evidence=None, former=None, former_text="")


def _graphic(key: str, before: int, count: int) -> str:
    match = _ROWS_AND_WAYS.match(key)
    if match is None or int(match[2]) * int(match[3]) != before or count % int(match[2]):
        return key
    return f"{match[1]}{match[2]}x{count // int(match[2])}{match[4]}"


def _distance(kept: KeptDistance, before: int, count: int) -> KeptDistance:
    """A distance to the last pad is one to the new last pad."""
    pattern = re.compile(rf"^pad {before} ")
    return replace(
        kept, first=pattern.sub(f"pad {count} ", kept.first), second=pattern.sub(f"pad {count} ", kept.second)
    )


def _with_package_pins(bundle: Bundle, before: int, count: int) -> Bundle:
    sheet = bundle.sheet
    family = family_of(sheet.family)
    pads = tuple(replace(p, count=str(count)) if p.count.strip() == str(before) else p for p in sheet.pads)
    if family.any_letters:
        return package_edits.set_pads(bundle, pads)
    made = replace(bundle, sheet=replace(sheet, pads=pads))
    for key, value in _grid(sheet.rows, sheet.columns, before, count):
        made = replace(made, sheet=made.sheet.with_option(key, value))
    fault = family.pin_fault(sheet.pins + count - before)
    if fault:
        raise InputError(f"{count} is not a number of pins of this family: {fault}")
    return package_edits.set_pins(made, str(sheet.pins + count - before))


def _grid(rows: int | None, columns: int | None, before: int, count: int) -> Iterator[tuple[str, int]]:
    """Rows stay, columns follow."""
    with suppress(ZeroDivisionError):
        if columns and (rows or 1) * columns == before and count % (rows or 1) == 0:
            yield "columns", count // (rows or 1)
