"""Pins that the user put elsewhere: kept with the recipe, and applied after the arrangement."""

from collections.abc import Sequence

import msgspec

from eider.geometry.plane import Point
from eider.model.symbol import Arrangement, PinMove, PlacedPin, Side, Symbol, SymbolUnit
from eider.symbols.pin_pairing import Slots
from eider.symbols.pin_sides import Sides

SIDES: tuple[Side, ...] = ("left", "right", "top", "bottom")


def with_moves(sides: Sides, moves: Sequence[PinMove]) -> Sides:
    """The sides with pins moved, one move after the other; one whose pin is not there changes nothing.

    A pin whose neighbour is gone from the side stands last on it.
    """
    found: dict[Side, Slots] = {side: list(sides.of(side)) for side in SIDES}
    for move in moves:
        pin = next((slot for slots in found.values() for slot in slots if slot and slot.number == move.pin), None)
        if pin is None:
            continue
        for side, slots in found.items():
            found[side] = _without(slots, move.pin)
        slots = found[move.side]
        index = _behind(slots, move.after) if move.after else 0
        if not move.apart:
            slots.insert(index, pin)
            continue
        before: Slots = [None] if index > 0 and slots[index - 1] else []
        behind: Slots = [None] if index < len(slots) and slots[index] else []
        slots[index:index] = [*before, pin, *behind]
    return Sides(found["left"], found["right"], found["top"], found["bottom"])


def _behind(slots: Slots, number: str) -> int:
    """The place right behind a pin; the end of the side where it is not there."""
    return next((i + 1 for i, slot in enumerate(slots) if slot and slot.number == number), len(slots))


def _without(slots: Slots, number: str) -> Slots:
    """A side without one pin; two gaps that meet become one."""
    kept = [slot for slot in slots if slot is None or slot.number != number]
    if len(kept) == len(slots):
        return slots
    return [s for i, s in enumerate(kept) if s or (0 < i < len(kept) - 1 and kept[i - 1])]


def lost_moves(symbol: Symbol) -> list[tuple[PinMove, str]]:
    """Moves of the present arrangement that find their pin or their neighbour no more, each with what is missing."""
    placed = {pin.number: (index, pin.side) for index, unit in enumerate(symbol.units) for pin in unit.pins}
    found = []
    for move in symbol.moves:
        if move.arrangement != symbol.arrangement:
            continue
        if move.pin not in placed:
            found.append((move, f"pin {move.pin}"))
        elif move.after and placed.get(move.after) != placed[move.pin]:
            found.append((move, f"pin {move.after} on the {move.side}"))
    return found


def move_pins(symbol: Symbol, numbers: Sequence[str], side: Side, after: str = "", *, apart: bool = False) -> Symbol:
    """Put pins on a side behind pin `after` (empty: first), in the order given; former moves of them are replaced.

    Moves that name one of these pins as their neighbour name the one before it instead.
    """
    moved = set(numbers)
    kept = [
        msgspec.structs.replace(m, after=_neighbour(symbol, m.after, moved)) if _mine(symbol, m) else m
        for m in symbol.moves
        if not (_mine(symbol, m) and m.pin in moved)
    ]
    after = _neighbour(symbol, after, moved)
    made = []
    for index, number in enumerate(numbers):
        made.append(PinMove(number, symbol.arrangement, side, after, apart and index == 0))
        after = number
    return msgspec.structs.replace(symbol, moves=(*kept, *made))


def _mine(symbol: Symbol, move: PinMove) -> bool:
    return move.arrangement == symbol.arrangement


def _neighbour(symbol: Symbol, number: str, gone: set[str]) -> str:
    """The pin itself, or where it goes away the nearest one before it on its side."""
    while number in gone:
        number = pin_before(symbol, number)
    return number


def pin_before(symbol: Symbol, number: str) -> str:
    """The pin before one on its side of the drawn unit; empty where it is the first or not drawn."""
    for unit in symbol.units:
        pin = next((p for p in unit.pins if p.number == number), None)
        if pin:
            before = [p for p in on_side(unit, pin.side) if _along(p) < _along(pin)]
            return before[-1].number if before else ""
    return ""


def on_side(unit: SymbolUnit, side: Side) -> list[PlacedPin]:
    """The pins of a side in order: from the top down, or from the left."""
    return sorted((pin for pin in unit.pins if pin.side == side), key=_along)


def _along(pin: PlacedPin) -> float:
    return -pin.y if pin.side in ("left", "right") else pin.x


def take_back(symbol: Symbol, numbers: Sequence[str]) -> Symbol:
    """The symbol without the moves of some pins in the present arrangement."""
    kept = tuple(m for m in symbol.moves if not (_mine(symbol, m) and m.pin in numbers))
    return msgspec.structs.replace(symbol, moves=kept)


class Drop(msgspec.Struct, frozen=True):
    """Where pins would be put: side, the pin before them, and the mark that shows the place (mm)."""

    side: Side
    after: str
    apart: bool
    mark: tuple[Point, Point]


def drop_at(unit: SymbolUnit, point: Point, grid: float, gone: Sequence[str] = ()) -> Drop:
    """The place on a unit that a point is nearest to; `gone` are the pins that are being moved."""
    x0, y0, x1, y1 = unit.body
    x, y = point
    distances: dict[Side, float] = {
        "left": abs(x - x0),
        "right": abs(x - x1),
        "top": abs(y - y1),
        "bottom": abs(y - y0),
    }
    beyond: dict[Side, bool] = {"left": x < x0, "right": x > x1, "top": y > y1, "bottom": y < y0}
    outside = [side for side in SIDES if beyond[side]]
    side = max(outside, key=lambda s: distances[s]) if outside else min(SIDES, key=lambda s: distances[s])
    at = -y if side in ("left", "right") else x
    pins = [pin for pin in on_side(unit, side) if pin.number not in gone]
    before = [pin for pin in pins if _along(pin) <= at]
    last = _along(before[-1]) if before else None
    following = next((_along(pin) for pin in pins if _along(pin) > at), None)
    # More than a grid away from both neighbours, the pins are in a gap of their own.
    apart = (last is not None and at - last > 1.5 * grid) and (following is None or following - at > 0.5 * grid)
    place = _place_of_mark(last, following, grid, at, apart=apart)
    reach = 1.5 * grid
    if side in ("left", "right"):
        edge = x0 if side == "left" else x1
        mark = ((edge - reach, -place), (edge + reach, -place))
    else:
        edge = y1 if side == "top" else y0
        mark = ((place, edge - reach), (place, edge + reach))
    return Drop(side, before[-1].number if before else "", apart, mark)


def _place_of_mark(last: float | None, following: float | None, grid: float, at: float, *, apart: bool) -> float:
    """Where along the side the mark stands: half a grid behind the pin before, or before the one that follows."""
    if apart:
        return round(at / grid) * grid
    if last is not None:
        return last + grid / 2
    return following - grid / 2 if following is not None else at


def arrangement_moves(symbol: Symbol, arrangement: Arrangement) -> tuple[PinMove, ...]:
    """The moves that belong to one of the two arrangements."""
    return tuple(move for move in symbol.moves if move.arrangement == arrangement)
