"""Pins that are dragged on the drawing of a symbol: which unit, side and neighbour a point stands for."""

from collections.abc import Sequence

import msgspec

from eider.commands.pins.symbol_edits import put_pins
from eider.drawings.primitives import Line
from eider.drawings.symbol_drawing import unit_offsets
from eider.geometry.plane import Point
from eider.model.bundle import Bundle
from eider.model.symbol import Symbol, SymbolUnit
from eider.symbols.pin_moves import Drop, drop_at
from eider.symbols.unit_splitting import unit_labels


class DropPlace(msgspec.Struct, frozen=True):
    """Where dragged pins would go: unit, place on it, and the mark that shows it on the drawing."""

    unit: int
    drop: Drop
    mark: Line


class PinDrag(msgspec.Struct, frozen=True):
    """A drag that is going on: the symbol, what is dragged, the units that are shown and where they are drawn."""

    symbol: Symbol
    numbers: tuple[str, ...]
    shown: tuple[int, ...]
    offsets: tuple[Point, ...]

    def place(self, x: float, y: float) -> DropPlace | None:
        """The place that a point of the drawing stands for; None where only graphics are shown, which have no sides."""
        boxes = [i for i in self.shown if not self.symbol.units[i].graphic]
        if not boxes:
            return None
        nearest = min(boxes, key=lambda i: _distance(self.symbol.units[i], self._inside(i, x, y)))
        drop = drop_at(self.symbol.units[nearest], self._inside(nearest, x, y), self.symbol.measures.grid, self.numbers)
        dx, dy = self.offsets[nearest]
        mark = tuple((px + dx, py + dy) for px, py in drop.mark)
        return DropPlace(nearest, drop, Line(mark, "drop mark"))

    def _inside(self, unit: int, x: float, y: float) -> Point:
        dx, dy = self.offsets[unit]
        return x - dx, y - dy


def begin_pin_drag(symbol: Symbol, value: str, numbers: Sequence[str], unit: int | None) -> PinDrag:
    """Start to drag pins; `unit` is the one that is shown, None all of them."""
    if unit is None:
        return PinDrag(symbol, tuple(numbers), tuple(range(len(symbol.units))), tuple(unit_offsets(symbol, value)))
    return PinDrag(symbol, tuple(numbers), (unit,), ((0.0, 0.0),) * len(symbol.units))


def drop_pins(bundle: Bundle, numbers: Sequence[str], place: DropPlace) -> Bundle:
    """Let go of the pins: they are there, in another unit too if that is where they were brought."""
    drop, units = place.drop, bundle.symbol.units
    label = units[place.unit].name
    unit = label if len(unit_labels(bundle.symbol.pins)) > 1 else None
    return put_pins(bundle, numbers, drop.side, drop.after, apart=drop.apart, unit=unit)


def _distance(unit: SymbolUnit, point: Point) -> float:
    """How far a point lies outside a unit's body."""
    x0, y0, x1, y1 = unit.body
    return max(x0 - point[0], point[0] - x1, 0.0) + max(y0 - point[1], point[1] - y1, 0.0)
