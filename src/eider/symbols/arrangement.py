"""From a pin table to a symbol: its units, each a box with its pins or a graphic. Same table, same drawing."""

from collections import Counter
from collections.abc import Iterator, Sequence

import msgspec

from eider.geometry.rounding import tidy
from eider.model.symbol import Pin, PlacedPin, Side, Symbol, SymbolUnit
from eider.symbols.custom_graphic import graphic_of
from eider.symbols.graphics import graphic_unit
from eider.symbols.pin_moves import SIDES, arrangement_moves, with_moves
from eider.symbols.pin_pairing import Slots
from eider.symbols.pin_sides import Sides, by_function, by_number
from eider.symbols.stacked_pins import representatives, stacked, width_of_stack
from eider.symbols.symbol_style import SymbolStyle, style_of
from eider.symbols.unit_splitting import pins_of_unit, role_of, swap_group, unit_labels

replace = msgspec.structs.replace


def arrange(symbol: Symbol) -> Symbol:
    """The symbol with its units made again from its pins, arrangement, moves and graphic."""
    return replace(symbol, units=tuple(_units(symbol)))


def _units(symbol: Symbol) -> Iterator[SymbolUnit]:
    """A box for each unit; those with the same roles can be swapped."""
    labels = unit_labels(symbol.pins)
    members = {label: pins_of_unit(symbol.pins, label, labels) for label in labels}
    swaps = Counter(swap_group(pins) for pins in members.values())
    for label, pins in members.items():
        if not pins:
            continue
        unit = _drawn_unit(symbol, pins) or arrange_box(symbol, pins)
        group = swap_group(pins)
        swap = group if len(labels) > 1 and group and swaps[group] > 1 else ""
        yield replace(unit, name=label, swap=swap) if label else unit


def _drawn_unit(symbol: Symbol, pins: Sequence[Pin]) -> SymbolUnit | None:
    """A unit drawn with the symbol's graphic; its pins by the graphic's names where theirs are the same, else in order.

    So four gates are four gate shapes, and their supply, which no gate shape fits, is a box.
    """
    graphic = graphic_of(symbol, symbol.graphic)
    if graphic is None or len(graphic.pins) != len(pins):
        return None
    by_role = {role_of(pin.name).replace("#", ""): pin for pin in pins}
    names = [name for _, name in graphic.pins]
    ordered = [by_role[name] for name in names] if set(names) == set(by_role) else list(pins)
    return graphic_unit(symbol.graphic, graphic, ordered, symbol.measures.grid)


def arrange_box(symbol: Symbol, pins: Sequence[Pin]) -> SymbolUnit:
    """A box with pins of the symbol around it; connection ends on the grid, the box sized from pins and texts (mm)."""
    style = style_of(symbol.measures)
    listed = [pin for pin in pins if style.lists_unconnected and pin.type == "not connected"]
    drawn = [pin for pin in pins if pin not in listed] if listed else list(pins)
    stacks = stacked(drawn) if style.stacks else {}
    alone = representatives(drawn, stacks)
    moves = arrangement_moves(symbol, symbol.arrangement)
    if symbol.arrangement == "number":
        sides = with_moves(by_number(alone, symbol.sides), moves)
    else:
        sides = with_moves(by_function(alone), moves).faced()
    unit = _place(sides, style, stacks)
    return replace(unit, unconnected=tuple(pin.number for pin in listed))


def _place(sides: Sides, style: SymbolStyle, stacks: dict[str, list[Pin]]) -> SymbolUnit:
    """Size the body from the texts and set every pin on the grid, the body's middle near the origin."""
    box = _body(sides, style)
    x0, y0, x1, y1 = box
    first = y1 - _room(sides.top, style)
    placed: list[PlacedPin] = []
    for side in SIDES:
        slots = sides.of(side)
        start = -((len(slots) - 1) // 2) * style.grid
        for i, pin in enumerate(slots):
            if pin is None:
                continue
            out = _reach(stacks.get(pin.number, [pin]), style)
            row, column = first - i * style.grid, start + i * style.grid
            ends = {
                "left": (x0 - out, row),
                "right": (x1 + out, row),
                "top": (column, y1 + out),
                "bottom": (column, y0 - out),
            }
            placed += [_pin(each, *ends[side], side) for each in stacks.get(pin.number, [pin])]
    return SymbolUnit(pins=tuple(placed), body=box)


def _body(sides: Sides, style: SymbolStyle) -> tuple[float, float, float, float]:
    """The box that holds the pins of all sides and their texts."""
    grid = style.grid
    width = max(
        _widest(sides.left, style) + _widest(sides.right, style) + 4 * style.text,
        (max(len(sides.top), len(sides.bottom)) + 1) * grid,
        4 * grid,
    )
    half_width = style.on_grid(width / 2)
    rows = max(len(sides.left), len(sides.right), 1)
    height = _room(sides.top, style) + (rows - 1) * grid + _room(sides.bottom, style)
    top = style.on_grid(height / 2)
    return tidy(-half_width), tidy(top - height), tidy(half_width), tidy(top)


def _widest(slots: Slots, style: SymbolStyle) -> float:
    return max((style.name_width(pin.drawn, pin.shape) for pin in slots if pin), default=0.0)


def _room(slots: Slots, style: SymbolStyle) -> float:
    """The room above the first row or below the last, for the names of the pins that are there upright."""
    return style.on_grid(_widest(slots, style) + style.text) if slots else style.grid


def _reach(stack: Sequence[Pin], style: SymbolStyle) -> float:
    """How far the connection end is from the body: longer where the numbers of a stack need it."""
    if len(stack) == 1:
        return style.pin_length
    return max(style.pin_length, style.on_grid(width_of_stack(stack, style)))


def _pin(pin: Pin, x: float, y: float, side: Side) -> PlacedPin:
    return PlacedPin(pin.number, pin.name, pin.type, tidy(x), tidy(y), side, pin.active_low, pin.shape, pin.shown)
