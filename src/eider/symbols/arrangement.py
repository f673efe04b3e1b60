"""From a pin table to a symbol: by number as on the package, or by function. Same table, same drawing."""

from collections import Counter
from collections.abc import Iterator, Sequence

import msgspec

from eider.geometry.rounding import tidy
from eider.model.symbol import Arrangement, Pin, PlacedPin, Side, Symbol, SymbolUnit
from eider.symbols.graphics import find_graphic, graphic_unit
from eider.symbols.names import bus_key, is_ground, natural_key
from eider.symbols.style import DEFAULT_STYLE, SymbolStyle, style_of
from eider.symbols.units import pins_of_unit, role_of, swap_group, unit_labels

SUPPLIES = ("power input",)
# On the left what goes in, on the right what comes out; the rest stands with its group.
SIDE_OF_TYPE: dict[str, Side] = {
    "input": "left", "output": "right", "tri-state": "right", "open collector": "right", "open emitter": "right",
    "power output": "right",
}  # fmt: skip

# So many pins that differ in their number alone are a bus, and stay together without a group of their own.
BUS = 3
# A group longer than this is shared out over both sides.
LONGEST_GROUP = 40

Slots = list[Pin | None]


class Sides(msgspec.Struct):
    """The pins of each side in order; None is a gap of one grid."""

    left: Slots
    right: Slots
    top: Slots
    bottom: Slots


def arrange(symbol: Symbol) -> Symbol:
    """The symbol with its units made anew from its pins, arrangement and graphic."""
    return msgspec.structs.replace(symbol, units=tuple(_units(symbol, style_of(symbol.measures))))


def _units(symbol: Symbol, style: SymbolStyle) -> Iterator[SymbolUnit]:
    """A box for each unit; those with the same roles can be swapped."""
    labels = unit_labels(symbol.pins)
    members = {label: pins_of_unit(symbol.pins, label, labels) for label in labels}
    swaps = Counter(swap_group(pins) for pins in members.values())
    for label, pins in members.items():
        if not pins:
            continue
        unit = _drawn_unit(symbol, pins, style) or arrange_box(pins, symbol.arrangement, style)
        group = swap_group(pins)
        swap = group if len(labels) > 1 and group and swaps[group] > 1 else ""
        yield msgspec.structs.replace(unit, name=label, swap=swap) if label else unit


def _drawn_unit(symbol: Symbol, pins: Sequence[Pin], style: SymbolStyle) -> SymbolUnit | None:
    """A unit drawn with the symbol's graphic; its pins by the graphic's names where theirs are the same, else in order.

    So four gates are four gate shapes, and their supply, which no gate shape fits, is a box.
    """
    graphic = find_graphic(symbol.graphic, symbol.measures.form) if symbol.graphic else None
    if graphic is None or len(graphic.pins) != len(pins):
        return None
    by_role = {role_of(pin.name).replace("#", ""): pin for pin in pins}
    names = [name for _, name in graphic.pins]
    ordered = [by_role[name] for name in names] if set(names) == set(by_role) else list(pins)
    return graphic_unit(symbol.graphic, ordered, style, symbol.measures.form)


def arrange_box(pins: Sequence[Pin], arrangement: Arrangement, style: SymbolStyle = DEFAULT_STYLE) -> SymbolUnit:
    """A box with the pins round it; connection ends on the grid, the box sized from pins and texts (mm)."""
    free = [pin for pin in pins if not pin.side]
    sides = _by_number(free) if arrangement == "number" else _by_function(free)
    return _place(_with_moved(sides, pins), style)


def _with_moved(sides: Sides, pins: Sequence[Pin]) -> Sides:
    """Pins that the user put on a side stand there, after those that are arranged, with a gap between."""
    found = {name: list(getattr(sides, name)) for name in ("left", "right", "top", "bottom")}
    for name, slots in found.items():
        moved = sorted((pin for pin in pins if pin.side == name), key=_order)
        if moved and slots and name in ("left", "right"):
            slots.append(None)
        slots.extend(moved)
    return Sides(**found)


def _by_number(pins: Sequence[Pin]) -> Sides:
    """Down the left and up the right, as numbers run counter-clockwise round the package."""
    ordered = sorted(pins, key=lambda pin: natural_key(pin.number))
    half = (len(ordered) + 1) // 2
    left: Slots = list(ordered[:half])
    right: Slots = list(reversed(ordered[half:]))
    padding: Slots = [None] * (half - len(right))
    return Sides(left, padding + right, [], [])


def _by_function(pins: Sequence[Pin]) -> Sides:
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
        host.extend(either)
        host.sort(key=_order)
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
    ordered = [sorted(group, key=_order) for group in groups.values()]
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


def _place(sides: Sides, style: SymbolStyle) -> SymbolUnit:
    """Size the body from the texts and set every pin on the grid, the body's middle near the origin."""
    grid = style.grid

    def widest(slots: Slots) -> float:
        return max((style.text_width(pin.name) for pin in slots if pin), default=0.0)

    margin = 2 * style.text
    width = max(
        widest(sides.left) + widest(sides.right) + 2 * margin,
        (max(len(sides.top), len(sides.bottom)) + 1) * grid,
        4 * grid,
    )
    half_width = style.on_grid(width / 2)
    above = style.on_grid(widest(sides.top) + style.text) if sides.top else grid
    below = style.on_grid(widest(sides.bottom) + style.text) if sides.bottom else grid
    rows = max(len(sides.left), len(sides.right), 1)
    height = above + (rows - 1) * grid + below
    y_top = style.on_grid(height / 2)
    first = y_top - above
    y_bottom = y_top - height
    reach = style.pin_length
    placed: list[PlacedPin] = []
    columns: tuple[tuple[Slots, float, Side], ...] = (
        (sides.left, -half_width - reach, "left"),
        (sides.right, half_width + reach, "right"),
    )
    for slots, x, side in columns:
        placed += [_pin(pin, x, first - i * grid, side) for i, pin in enumerate(slots) if pin]
    ends: tuple[tuple[Slots, float, Side], ...] = (
        (sides.top, y_top + reach, "top"),
        (sides.bottom, y_bottom - reach, "bottom"),
    )
    for slots, y, side in ends:
        start = -((len(slots) - 1) // 2) * grid
        placed += [_pin(pin, start + i * grid, y, side) for i, pin in enumerate(slots) if pin]
    body = (tidy(-half_width), tidy(y_bottom), tidy(half_width), tidy(y_top))
    return SymbolUnit(pins=tuple(placed), body=body)


def _pin(pin: Pin, x: float, y: float, side: Side) -> PlacedPin:
    return PlacedPin(pin.number, pin.name, pin.type, tidy(x), tidy(y), side, pin.active_low)
