"""Splits a symbol into units that can be placed apart: equal ones, by group, supplies on their own."""

import re
from collections.abc import Callable, Mapping, Sequence

import msgspec

from eider.model.symbol import Pin
from eider.symbols.pin_names import bank_of, natural_key

SUPPLY_TYPES = ("power input", "power output")
# More units than this are a mistake of the rule, not a part.
MOST_UNITS = 200
_FRONT = re.compile(r"^(\d+)([A-Za-z_+\-].*)$")
_INSIDE = re.compile(r"^([A-Za-z_+\-]+?)(\d+)([A-Za-z_+\-]*)$")


class Member(msgspec.Struct, frozen=True):
    """A pin name taken apart: which of several equal units it belongs to, and its part in that."""

    unit: int
    role: str


def split_none(pins: Sequence[Pin]) -> list[Pin]:
    """All pins in one unit."""
    return [_in_unit(pin, "") for pin in pins]


def split_equal(pins: Sequence[Pin]) -> list[Pin]:
    """A unit for each set of pins whose names repeat: `1A 1B 1Y 2A 2B 2Y` are two equal gates.

    Pins of no set are a unit of their own, the last; without two equal sets all stay in one.
    """
    for read in (_front, _inside):
        sets = _sets(pins, read)
        if len(sets) > 1:
            labels = {unit: unit_label(i) for i, unit in enumerate(sorted(sets))}
            rest = unit_label(len(sets))
            members = {number: labels[unit] for unit, roles in sets.items() for number in roles.values()}
            return [_in_unit(pin, members.get(pin.number, rest)) for pin in pins]
    return split_none(pins)


def split_by_group(pins: Sequence[Pin]) -> list[Pin]:
    """A unit for each group, in the order in which groups first appear; supplies without a group come last."""
    names = dict.fromkeys(_group_of(pin) for pin in pins)
    ordered = [name for name in names if name != _SUPPLY] + [name for name in names if name == _SUPPLY]
    if len(ordered) < 2 or len(ordered) > MOST_UNITS:
        return split_none(pins)
    labels = {name: unit_label(i) for i, name in enumerate(ordered)}
    return [_in_unit(pin, labels[_group_of(pin)]) for pin in pins]


def split_by_bank(pins: Sequence[Pin]) -> list[Pin]:
    """A unit for each bank that the names tell, its own supplies with it; what belongs to no bank comes last."""
    banks = {bank for pin in pins if (bank := bank_of(pin.name))}
    if not banks or len(banks) > MOST_UNITS:
        return split_none(pins)
    labels = {bank: unit_label(i) for i, bank in enumerate(sorted(banks, key=natural_key))}
    return [_in_unit(pin, labels.get(bank_of(pin.name), unit_label(len(labels)))) for pin in pins]


def split_supply(pins: Sequence[Pin]) -> list[Pin]:
    """Supplies in a unit of their own, after all else."""
    is_supply = [pin.type in SUPPLY_TYPES for pin in pins]
    if all(is_supply) or not any(is_supply):
        return split_none(pins)
    return [_in_unit(pin, "B" if supply else "A") for pin, supply in zip(pins, is_supply, strict=True)]


Splitting = Callable[[Sequence[Pin]], list[Pin]]
SPLITTINGS: Mapping[str, Splitting] = {
    "one": split_none, "equal": split_equal, "group": split_by_group, "bank": split_by_bank, "supply": split_supply,
}  # fmt: skip


def unit_label(index: int) -> str:
    """A, B … Z, AA, AB … for units counted from 0."""
    label = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        label = chr(ord("A") + rest) + label
    return label


def unit_labels(pins: Sequence[Pin]) -> list[str]:
    """The units that the pins name, in order; pins that name none are in the first."""
    return sorted({pin.unit for pin in pins if pin.unit}, key=lambda label: (len(label), natural_key(label))) or [""]


def pins_of_unit(pins: Sequence[Pin], label: str, labels: Sequence[str]) -> list[Pin]:
    """The pins of a unit."""
    return [pin for pin in pins if pin.unit == label or (not pin.unit and label == labels[0])]


def swap_group(pins: Sequence[Pin]) -> str:
    """What tells equal units: the roles and types of their pins, the unit's own number left out; empty for supplies."""
    if not pins or all(pin.type in SUPPLY_TYPES for pin in pins):
        return ""
    return " ".join(sorted(f"{role_of(pin.name)}:{pin.type}" for pin in pins))


def role_of(name: str) -> str:
    """A name without the number of its unit."""
    member = _front(name) or _inside(name)
    return member.role if member else name


_SUPPLY = "\0supply"


def _group_of(pin: Pin) -> str:
    return _SUPPLY if pin.type in SUPPLY_TYPES and not pin.group else pin.group


def _in_unit(pin: Pin, label: str) -> Pin:
    return pin if pin.unit == label else msgspec.structs.replace(pin, unit=label)


def _front(name: str) -> Member | None:
    match = _FRONT.match(name)
    return Member(int(match[1]), match[2]) if match else None


def _inside(name: str) -> Member | None:
    match = _INSIDE.match(name)
    return Member(int(match[2]), f"{match[1]}#{match[3]}") if match else None


def _sets(pins: Sequence[Pin], read: Callable[[str], Member | None]) -> dict[int, dict[str, str]]:
    """The pin number of each role, by unit; only units that have the roles that most have, two or more of them."""
    found: dict[int, dict[str, str]] = {}
    for pin in pins:
        member = read(pin.name) if pin.type not in SUPPLY_TYPES else None
        if member is not None:
            found.setdefault(member.unit, {}).setdefault(member.role, pin.number)
    kinds = [frozenset(roles) for roles in found.values() if len(roles) > 1]
    if not kinds:
        return {}
    typical = max(kinds, key=lambda kind: (kinds.count(kind), len(kind)))
    return {unit: roles for unit, roles in found.items() if frozenset(roles) == typical}
