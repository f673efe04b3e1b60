"""Supplies and passive pins of one name, drawn as one pin with several numbers."""

import re
from collections.abc import Sequence

from eider.model.symbol import Pin
from eider.symbols.pin_names import natural_key
from eider.symbols.symbol_style import SymbolStyle

STACKED_TYPES = ("power input", "power output", "passive")
# A stack says all its numbers up to so many pieces (`4`, `7–9`); of a longer one the first, the last and how many.
MOST_PIECES = 6
_NUMBER = re.compile(r"(\D*)(\d+)")


def stacked(pins: Sequence[Pin]) -> dict[str, list[Pin]]:
    """Pins that are drawn as one, by the number of the first: named pins alike in name, type and group."""
    alike: dict[tuple[object, ...], list[Pin]] = {}
    for pin in pins:
        if pin.name and pin.type in STACKED_TYPES:
            alike.setdefault((pin.drawn, pin.type, pin.group, pin.active_low), []).append(pin)
    stacks = [sorted(stack, key=lambda pin: natural_key(pin.number)) for stack in alike.values() if len(stack) > 1]
    return {stack[0].number: stack for stack in stacks}


def representatives(pins: Sequence[Pin], stacks: dict[str, list[Pin]]) -> list[Pin]:
    """The pins without those that are behind the first of their stack."""
    behind = {pin.number for stack in stacks.values() for pin in stack[1:]}
    return [pin for pin in pins if pin.number not in behind]


def stack_label(numbers: Sequence[str]) -> str:
    """The numbers of a stack in short: `4, 7–9, 12`; of many the first, the last and how many they are."""
    runs: list[list[str]] = []
    for number in sorted(numbers, key=natural_key):
        if runs and _follows(runs[-1][-1], number):
            runs[-1].append(number)
        else:
            runs.append([number])
    pieces = [piece for run in runs for piece in (run if len(run) < 3 else [f"{run[0]}–{run[-1]}"])]
    if len(pieces) > MOST_PIECES:
        return f"{runs[0][0]} … {runs[-1][-1]} ({len(numbers)})"
    return ", ".join(pieces)


def _follows(before: str, number: str) -> bool:
    a, b = _NUMBER.fullmatch(before), _NUMBER.fullmatch(number)
    return bool(a and b and a[1] == b[1] and int(b[2]) == int(a[2]) + 1)


def width_of_stack(stack: Sequence[Pin], style: SymbolStyle) -> float:
    """The length of pin over which the numbers of a stack can be written (mm)."""
    return style.number_width(stack_label([pin.number for pin in stack])) + style.text
