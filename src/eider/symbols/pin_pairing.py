"""Pins that belong to each other, such as a receive and its transmit: beside each other, or facing each other."""

import re
from collections import Counter
from collections.abc import Sequence
from functools import cache

from eider.model.symbol import Pin
from eider.symbols.conventions import conventions
from eider.symbols.pin_names import bus_key

Slots = list[Pin | None]
# So many pins that differ in their number alone are a bus, and stay together without a group of their own.
BUS = 3
_PIECES = re.compile(r"[A-Za-z]+|\d+|[^A-Za-z\d_]")


@cache
def _partners() -> dict[str, str]:
    """Each word of a pair, and the first of the pair."""
    return {word: words[0] for words in conventions().opposite.pairs for word in words}


@cache
def pair_key(name: str) -> tuple[str, ...]:
    """What a pin and its partner have in common: `UART0_RX` and `UART0_TX`, `1A` and `1Y`; empty without a partner."""
    pieces = _PIECES.findall(name.upper())
    known = _partners()
    return tuple(known.get(piece, piece) for piece in pieces) if any(piece in known for piece in pieces) else ()


def pairs_together(pins: Sequence[Pin]) -> list[Pin]:
    """Pins in their order, each followed at once by its partners; members of a bus stay where they are."""
    stems = Counter(bus_key(pin.name)[0] for pin in pins if bus_key(pin.name)[1] >= 0)
    found: dict[tuple[str, ...], list[Pin]] = {}
    for pin in pins:
        stem, index = bus_key(pin.name)
        key = () if index >= 0 and stems[stem] >= BUS else pair_key(pin.name)
        found.setdefault(key or ("", pin.number), []).append(pin)
    return [pin for together in found.values() for pin in together]


def face(left: Slots, right: Slots) -> tuple[Slots, Slots]:
    """Gaps put in so that pins of one group, and partners in it, are at one height; the body gets no higher.

    The order of the pins of a side stays as it is.
    """
    blocks = _blocks(left), _blocks(right)
    height = max(len(left), len(right))
    slack = [height - len(left), height - len(right)]
    padding: tuple[dict[int, int], dict[int, int]] = ({}, {})
    for i, j in _related(*blocks):
        starts = [_start(blocks[side], padding[side], at) for side, at in ((0, i), (1, j))]
        behind = 0 if starts[0] < starts[1] else 1
        if (missing := abs(starts[0] - starts[1])) > slack[behind]:
            continue
        padding[behind][(i, j)[behind]] = missing
        slack[behind] -= missing
        shorter = 0 if len(blocks[0][i]) < len(blocks[1][j]) else 1
        at, other = (i, j)[shorter], (j, i)[shorter]
        spread = _spread(blocks[shorter][at], blocks[1 - shorter][other])
        if (longer := len(spread) - len(blocks[shorter][at])) <= slack[shorter]:
            slack[shorter] -= longer
            blocks[shorter][at] = spread
    return _joined(blocks[0], padding[0]), _joined(blocks[1], padding[1])


def _blocks(slots: Slots) -> list[Slots]:
    """The pins between gaps."""
    blocks: list[Slots] = [[]]
    for slot in slots:
        if slot is None:
            blocks.append([])
        else:
            blocks[-1].append(slot)
    return [block for block in blocks if block]


def _joined(blocks: Sequence[Slots], padding: dict[int, int]) -> Slots:
    slots: Slots = []
    for index, block in enumerate(blocks):
        slots += [None] * ((1 if index else 0) + padding.get(index, 0)) + block
    return slots


def _start(blocks: Sequence[Slots], padding: dict[int, int], index: int) -> int:
    """The row in which a block begins."""
    before = sum(len(block) + 1 for block in blocks[:index])
    return before + sum(rows for at, rows in padding.items() if at <= index)


def _related(left: Sequence[Slots], right: Sequence[Slots]) -> list[tuple[int, int]]:
    """Blocks of one group, or with partners, in an order that both sides share."""
    found: list[tuple[int, int]] = []
    first = 0
    for i, block in enumerate(left):
        match = next((j for j in range(first, len(right)) if _ties(block) & _ties(right[j])), None)
        if match is not None:
            found.append((i, match))
            first = match + 1
    return found


def _ties(block: Slots) -> set[tuple[str, ...]]:
    """What ties a block to one on the other side: its groups and its pairs."""
    pins = [pin for pin in block if pin]
    return {("group", pin.group) for pin in pins if pin.group} | {key for pin in pins if (key := pair_key(pin.name))}


def _spread(short: Slots, long: Slots) -> Slots:
    """The shorter of two blocks over the rows of the longer, each pin beside its partner where it has one."""
    rows = {pair_key(pin.name): row for row, pin in reversed(list(enumerate(long))) if pin and pair_key(pin.name)}
    spread: Slots = []
    for index, pin in enumerate(short):
        wanted = rows.get(pair_key(pin.name), 0) if pin else 0
        last = len(long) - (len(short) - index)
        spread += [None] * (min(wanted, last) - len(spread))
        spread.append(pin)
    return spread
