"""Changes to how a symbol is drawn: arrangement, moved pins, units, standard and custom graphics."""

from collections.abc import Sequence

import msgspec

from eider.commands.pins.pin_edits import set_pin_table
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.symbol import Arrangement, CustomGraphic, Side, Symbol
from eider.symbols.custom_graphic import CUSTOM, custom_from_graphic, graphic_of
from eider.symbols.graphic_builders import Form
from eider.symbols.graphics import find_graphic, graphic_pins
from eider.symbols.pin_moves import move_pins, on_side, take_back
from eider.symbols.pin_names import read_name
from eider.symbols.unit_splitting import SPLITTINGS

replace = msgspec.structs.replace


def set_arrangement(bundle: Bundle, arrangement: Arrangement, sides: int = 2) -> Bundle:
    """By number, on two sides or on four, or by function."""
    return replace(bundle, symbol=replace(bundle.symbol, arrangement=arrangement, sides=4 if sides == 4 else 2))


def split_units(bundle: Bundle, way: str) -> Bundle:
    """Units again by one of the ways of `symbols.unit_splitting`: one, equal, group, bank, supply.

    Raises:
        InputError: the way of splitting is unknown.
    """
    if way not in SPLITTINGS:
        raise InputError(f"units cannot be split by “{way}”; choose one of {', '.join(SPLITTINGS)}")
    return set_pin_table(bundle, SPLITTINGS[way](bundle.symbol.pins))


def set_graphic(bundle: Bundle, graphic: str, form: Form = "iec") -> Bundle:
    """A standard graphic in place of the box, `custom` for a custom one, or none; without pins it begins with its own.

    A custom graphic begins with what was drawn before.

    Raises:
        InputError: there is no such graphic, or pins with names are there that it has no place for.
    """
    symbol = bundle.symbol
    if not graphic:
        return _with(bundle, replace(symbol, graphic=""))
    if graphic == CUSTOM:
        custom = symbol.custom or custom_from_graphic(graphic_of(symbol, symbol.graphic))
        return _with(bundle, replace(symbol, graphic=CUSTOM, custom=custom))
    known = find_graphic(graphic)
    if known is None:
        raise InputError(f"there is no standard graphic “{graphic}”")
    pins = symbol.pins
    if len(pins) != len(known.pins) and not any(pin.unit for pin in pins):
        if any(pin.name for pin in pins):
            raise InputError(
                f"a {known.title} has {len(known.pins)} pins, the table {len(pins)}; correct the table first"
            )
        pins = graphic_pins(graphic)
    measures = replace(symbol.measures, form=form)
    return _with(bundle, replace(symbol, graphic=graphic, measures=measures, pins=pins))


def set_custom_graphic(bundle: Bundle, custom: CustomGraphic) -> Bundle:
    """Another state of the custom graphic."""
    return _with(bundle, replace(bundle.symbol, graphic=CUSTOM, custom=custom))


def put_pins(
    bundle: Bundle, numbers: Sequence[str], side: Side, after: str = "", *, apart: bool = False, unit: str | None = None
) -> Bundle:
    """Move pins on the drawing: to a side, behind pin `after` (empty: first), and into another unit where one is named.

    Kept for the present arrangement alone, until it is taken back.
    """
    if unit is not None:
        chosen = set(numbers)
        bundle = set_pin_table(bundle, [replace(p, unit=unit) if p.number in chosen else p for p in bundle.symbol.pins])
    return _with(bundle, move_pins(bundle.symbol, numbers, side, after, apart=apart))


def put_on_side(bundle: Bundle, numbers: Sequence[str], side: Side | None) -> Bundle:
    """Put pins behind all others of a side, in a gap of their own; None arranges them again."""
    if side is None:
        return _with(bundle, take_back(bundle.symbol, numbers))
    symbol = bundle.symbol
    chosen = set(numbers)
    unit = next((u for u in symbol.units if any(p.number in chosen for p in u.pins)), None)
    there = [p.number for p in on_side(unit, side) if p.number not in chosen] if unit else []
    moved = {m.pin for m in symbol.moves if m.arrangement == symbol.arrangement}
    # Pins that are put on a side one by one stand together.
    apart = bool(there) and there[-1] not in moved
    return _with(bundle, move_pins(symbol, numbers, side, there[-1] if there else "", apart=apart))


def put_behind(bundle: Bundle, number: str, after: str) -> Bundle:
    """Put a pin behind another, on that one's side; `first` puts it first on its own, an empty text takes it back.

    Raises:
        InputError: there is no such pin on a drawn side.
    """
    if not after:
        return take_moves_back(bundle, [number])
    wanted = number if after == "first" else after
    side = next((p.side for u in bundle.symbol.units for p in u.pins if p.number == wanted), None)
    if side is None or after == number:
        raise InputError(f"pin {number} cannot be placed after “{after}”; type the number of another pin, or “first”")
    return put_pins(bundle, [number], side, "" if after == "first" else after)


def shift_pins(bundle: Bundle, numbers: Sequence[str], step: int) -> Bundle:
    """Move pins one place up (−1) or down (+1) among those of their side.

    Raises:
        InputError: the pins are not on one side of one unit.
    """
    chosen = set(numbers)
    unit = next((u for u in bundle.symbol.units if any(p.number in chosen for p in u.pins)), None)
    sides = {p.side for p in unit.pins if p.number in chosen} if unit else set()
    if unit is None or unit.graphic or len(sides) != 1 or not chosen <= {p.number for p in unit.pins}:
        raise InputError("select pins of one side of one box to move them up or down")
    side = sides.pop()
    order = [p.number for p in on_side(unit, side)]
    moving = [n for n in order if n in chosen]
    rest = [n for n in order if n not in chosen]
    first = next(i for i, n in enumerate(order) if n in chosen)
    place = max(0, min(sum(n not in chosen for n in order[:first]) + step, len(rest)))
    return put_pins(bundle, moving, side, rest[place - 1] if place else "")


def take_moves_back(bundle: Bundle, numbers: Sequence[str] | None = None) -> Bundle:
    """Let pins (all, unless named) stand where the present arrangement puts them."""
    wanted = [m.pin for m in bundle.symbol.moves] if numbers is None else numbers
    return _with(bundle, take_back(bundle.symbol, wanted))


def split_alternatives(bundle: Bundle, rows: Sequence[int], separator: str) -> Bundle:
    """Names such as `PB3/SPI_SCK/TIM2_CH2` taken apart: the first is the name, the others are alternative functions.

    Raises:
        InputError: no name of the rows holds the separator.
    """
    pins = list(bundle.symbol.pins)
    found = [row for row in rows if separator and separator in pins[row].name.strip(separator)]
    if not found:
        raise InputError(
            f"none of the selected pins' names contains “{separator}”; type the character between the functions"
        )
    for row in found:
        first, *others = [piece.strip() for piece in pins[row].name.split(separator) if piece.strip()]
        reading = read_name(first)
        pins[row] = replace(
            pins[row],
            name=reading.name,
            active_low=pins[row].active_low or reading.active_low,
            alternatives=(*others, *pins[row].alternatives),
        )
    return set_pin_table(bundle, pins)


def take_symbol(bundle: Bundle, other: Symbol) -> Bundle:
    """Pins, arrangement, moves and graphic of another symbol; evidence, identity and reference letter stay behind."""
    pins = tuple(replace(p, evidence=None, former=None, former_text="") for p in other.pins)
    taken = {name: getattr(other, name) for name in ("arrangement", "sides", "moves", "graphic", "custom")}
    return _with(bundle, replace(bundle.symbol, pins=pins, **taken))


def _with(bundle: Bundle, symbol: Symbol) -> Bundle:
    return replace(bundle, symbol=symbol)
