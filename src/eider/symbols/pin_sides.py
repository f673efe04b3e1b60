"""Which side of the body each pin stands on, and in what order: by number as on the package, or by function."""

from collections import Counter
from collections.abc import Sequence

import msgspec

from eider.model.symbol import Pin, Side
from eider.symbols.pin_names import bus_key, is_ground, natural_key
from eider.symbols.pin_pairing import BUS, Slots, face, pairs_together
from eider.symbols.unit_splitting import role_of

SUPPLIES = ("power input",)
# On the left what goes in, on the right what comes out; the rest stands with its group.
SIDE_OF_TYPE: dict[str, Side] = {
    "input": "left", "output": "right", "tri-state": "right", "open collector": "right", "open emitter": "right",
    "power output": "right",
}  # fmt: skip
# A group longer than this is shared out over both sides.
LONGEST_GROUP = 40


class Sides(msgspec.Struct):
    """The pins of each side, from the top or from the left; None is a gap of one grid."""

    left: Slots
    right: Slots
    top: Slots
    bottom: Slots

    def of(self, side: Side) -> Slots:
        """The pins of one side."""
        slots: Slots = getattr(self, side)
        return slots

    def faced(self) -> "Sides":
        """The same with related pins at one height."""
        left, right = face(self.left, self.right)
        return Sides(left, right, self.top, self.bottom)


def by_number(pins: Sequence[Pin], sides: int = 2) -> Sides:
    """As numbers run counter-clockwise round the package: down the left and up the right, or round four sides.

    On four sides the pins that are over (the thermal pad of 100 + 1) are behind those at the bottom.
    """
    ordered = sorted(pins, key=lambda pin: natural_key(pin.number))
    if sides == 4 and len(ordered) >= 8:
        side = len(ordered) // 4
        runs = [list(ordered[i * side : (i + 1) * side]) for i in range(4)]
        over: Slots = list(ordered[4 * side :])
        return Sides(
            _slots(runs[0]), _slots(runs[2][::-1]), _slots(runs[3][::-1]), [*runs[1], *([None, *over] if over else [])]
        )
    half = (len(ordered) + 1) // 2
    padding: Slots = [None] * (half - len(ordered[half:]))
    return Sides(list(ordered[:half]), [*padding, *reversed(ordered[half:])], [], [])


def _slots(pins: Sequence[Pin]) -> Slots:
    return list(pins)


def by_function(pins: Sequence[Pin]) -> Sides:
    """Inputs left, outputs right, positive supplies at the top, grounds at the bottom, groups together."""
    supplies = [pin for pin in pins if pin.type in SUPPLIES]
    top = sorted((p for p in supplies if not is_ground(p.name)), key=_order)
    bottom = sorted((p for p in supplies if is_ground(p.name)), key=_order)
    left: list[list[Pin]] = []
    right: list[list[Pin]] = []
    for group in _groups([pin for pin in pins if pin.type not in SUPPLIES]):
        for side, chosen in (("left", left), ("right", right)):
            fixed = [pin for pin in group if SIDE_OF_TYPE.get(pin.type) == side]
            if fixed:
                chosen.append(fixed)
        either = [pin for pin in group if pin.type not in SIDE_OF_TYPE]
        if either:
            _join_or_balance(either, group, left, right)
    return Sides(_with_gaps(left), _with_gaps(right), list(top), list(bottom))


def _join_or_balance(either: list[Pin], group: list[Pin], left: list[list[Pin]], right: list[list[Pin]]) -> None:
    """Pins of no side of their own stand with the rest of their group, else on the shorter side."""
    hosts = [side[-1] for side in (left, right) if side and side[-1][0] in group]
    if hosts:
        host = max(hosts, key=len)
        together = {id(pin) for pin in (*host, *either)}
        host[:] = [pin for pin in group if id(pin) in together]
        return
    shorter, longer = sorted((left, right), key=lambda side: sum(_weight(len(group)) for group in side))
    if len(either) > LONGEST_GROUP:
        # A group that alone would make the body a mast is shared out, in order.
        half = (len(either) + 1) // 2
        longer.append(either[half:])
        either = either[:half]
    shorter.append(either)


def _weight(count: int) -> int:
    """The size of a group as it is balanced: up to the next power of two, so that one pin more moves no other group."""
    return 1 << max(count - 1, 0).bit_length()


def _groups(pins: Sequence[Pin]) -> list[list[Pin]]:
    """Pins by group, else by bus, in the order in which these first appear; not-connected pins come last."""
    stems = Counter(bus_key(pin.name)[0] for pin in pins if not pin.group and bus_key(pin.name)[1] >= 0)
    groups: dict[str, list[Pin]] = {}
    for pin in pins:
        stem, index = bus_key(pin.name)
        bus = f"\0{stem}" if index >= 0 and stems[stem] >= BUS else ""
        key = "~" if pin.type == "not connected" else pin.group or bus
        groups.setdefault(key, []).append(pin)
    last = groups.pop("~", [])
    ordered = [pairs_together(sorted(group, key=_order)) for group in groups.values()]
    return [*ordered, sorted(last, key=_order)] if last else ordered


def _order(pin: Pin) -> tuple[int, str, int, tuple[tuple[int, int, str], ...]]:
    """Controls and clocks before buses and data; buses in index order; then by pin number."""
    stem, index = bus_key(role_of(pin.name) if pin.unit else pin.name)
    return (0 if index < 0 else 1, stem if index >= 0 else "", index, natural_key(pin.number))


def _with_gaps(groups: list[list[Pin]]) -> Slots:
    slots: Slots = []
    for group in groups:
        if slots:
            slots.append(None)
        slots.extend(group)
    return slots
