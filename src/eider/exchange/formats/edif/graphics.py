"""What an EDIF symbol draws, as the rows of a custom graphic in grids, with a pin at each port's place."""

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import NamedTuple

from eider.exchange.formats.edif.expressions import Form, Node, name_of
from eider.geometry.arcs import arc_through
from eider.geometry.plane import Point, bounds
from eider.model.symbol import GRIDS, GraphicStroke

MOST_PLACES = 200
# A grid of a drawing without a known one is at least so many of its units.
LEAST_GRID = 1e-3
# A box that takes so much of what is drawn is the symbol, if it has so many pins.
BOX_SHARE, LEAST_BOX_PINS = 0.8, 4


class EdifGraphic(NamedTuple):
    """The rows of a graphic, the pins' names being those of their ports, and what was left out or moved."""

    rows: tuple[GraphicStroke, ...]
    log: tuple[str, ...]


def symbol_graphic(symbol: Form, unit: float) -> EdifGraphic | None:
    """The graphic of a symbol; None where it is a plain box, which Eider draws better by itself.

    `unit` is mm of a unit of the file.
    """
    figures = [shape for figure in symbol.forms("figure", "commentgraphics") for shape in _shapes(figure)]
    pins = dict(_pin_places(symbol))
    if not pins or _is_box(figures, len(pins)):
        return None
    stubs = [shape for port in symbol.forms("portimplementation") for f in port.forms("figure") for shape in _shapes(f)]
    grid, log = _grid(pins, unit), list[str]()
    rows = [row for shape in (*figures, *stubs) for row in shape.rows(grid)]
    moved = 0
    for name, (x, y) in pins.items():
        at = round(x / grid), round(y / grid)
        moved += math.dist((x / grid, y / grid), at) > 0.01
        rows.append(GraphicStroke("pin", f"{at[0]},{at[1]}", name))
    if moved:
        log.append(f"{moved} pins stand off the grid of the symbol and were moved to it")
    if not any(math.isclose(grid * unit, known, rel_tol=1e-3) for known in GRIDS):
        log.append("the symbol's grid is not in use here: one of its grids becomes one of the library's")
    return EdifGraphic(tuple(rows), tuple(log))


class _Drawn(NamedTuple):
    """A shape in units of the file: box, area, line, circle (its middle and a place on it) or dot."""

    kind: str
    points: tuple[Point, ...]

    def rows(self, grid: float) -> Iterator[GraphicStroke]:
        """Its rows in grids."""
        if self.kind in ("circle", "dot"):
            radius = math.dist(*self.points) / grid
            if radius > 0:
                yield GraphicStroke(self.kind, f"{_place(self.points[0], grid)} {radius:.6g}")
            return
        kind = "area" if self.kind == "box" else self.kind
        for start in range(0, len(self.points), MOST_PLACES - 1):
            piece = self.points[start : start + MOST_PLACES]
            if len(piece) > 1:
                whole = kind if len(self.points) <= MOST_PLACES else "line"
                yield GraphicStroke(whole, " ".join(_place(point, grid) for point in piece))


def _is_box(figures: Sequence[_Drawn], pins: int) -> bool:
    """Whether a symbol is a box with marks in it; of a part of few pins the box itself is its graphic."""
    if not figures:
        return True
    boxes = [bounds(shape.points) for shape in figures if shape.kind == "box"]
    x0, y0, x1, y1 = bounds([point for shape in figures for point in shape.points])
    whole = (x1 - x0) * (y1 - y0)
    return pins >= LEAST_BOX_PINS and any((b[2] - b[0]) * (b[3] - b[1]) >= BOX_SHARE * whole for b in boxes)


def _place(point: Point, grid: float) -> str:
    return f"{point[0] / grid:.6g},{point[1] / grid:.6g}"


def _shapes(figure: Form) -> Iterator[_Drawn]:
    for form in figure.forms():
        if form.keyword == "figure":
            yield from _shapes(form)
        elif form.keyword in _READERS:
            made = _READERS[form.keyword](form)
            if made is not None:
                yield made


def _rectangle(form: Form) -> _Drawn | None:
    ends = _points(form)
    if len(ends) != 2:
        return None
    (x0, y0), (x1, y1) = ends
    return _Drawn("box", ((x0, y0), (x1, y0), (x1, y1), (x0, y1)))


def _circle(form: Form) -> _Drawn | None:
    """A circle by two ends of a diameter."""
    ends = _points(form)
    if len(ends) != 2:
        return None
    middle = (ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2
    return _Drawn("circle", (middle, ends[0]))


def _path(form: Form) -> _Drawn | None:
    found = [point for inner in form.forms("pointlist") for point in _points(inner)] or _points(form)
    return _box_or(found, "area" if form.keyword == "polygon" else "line") if len(found) > 1 else None


def _curved(form: Form) -> _Drawn | None:
    found = [point for curve in form.forms("curve") for point in _curve(curve)]
    return _Drawn("area" if form.keyword == "shape" else "line", tuple(found)) if len(found) > 1 else None


_READERS: Mapping[str, Callable[[Form], _Drawn | None]] = {
    "rectangle": _rectangle, "circle": _circle, "path": _path, "polygon": _path, "openshape": _curved, "shape": _curved,
}  # fmt: skip


def _box_or(points: list[Point], kind: str) -> _Drawn:
    """A closed line of four right corners is a box."""
    ring = points[:-1] if points[0] == points[-1] else points
    xs, ys = {x for x, _y in ring}, {y for _x, y in ring}
    is_box = len(ring) == 4 and len(xs) == len(ys) == 2 and (points[0] == points[-1] or kind == "area")
    return _Drawn("box", tuple(ring)) if is_box else _Drawn(kind, tuple(ring if kind == "area" else points))


def _curve(curve: Form) -> Iterator[Point]:
    for item in curve.forms():
        if item.keyword == "pt":
            yield from _points_of(item)
        elif item.keyword == "arc":
            ends = _points(item)
            if len(ends) == 3:
                yield ends[0]
                yield from arc_through(ends[0], ends[1], ends[2])


def _points(form: Form) -> list[Point]:
    return [point for inner in form.forms("pt") for point in _points_of(inner)]


def _points_of(form: Form) -> Iterator[Point]:
    try:
        x, y = (_number(item) for item in form.items[:2])
    except ValueError:
        return
    if math.isfinite(x) and math.isfinite(y) and max(abs(x), abs(y)) < 1e9:
        yield x, y


def _number(node: Node) -> float:
    """A number as it stands, or `(e mantissa exponent)`."""
    if isinstance(node, Form) and node.keyword == "e" and len(node.items) == 2:
        mantissa, exponent = (float(str(item)) for item in node.items)
        return float(mantissa * 10.0 ** max(-30.0, min(exponent, 30.0)))
    return float(node) if isinstance(node, str) else math.nan


def _pin_places(symbol: Form) -> Iterator[tuple[str, Point]]:
    """Where each port of a symbol connects, by the port's name in the file."""
    for port in symbol.forms("portimplementation"):
        name = name_key(port.items[0] if port.items else None)
        place = next((p for form in port.forms("connectlocation") for p in _dots(form)), None)
        if name and place is not None:
            yield name, place


def name_key(node: Node | None) -> str:
    """By what a port is known within its cell: its identifier, not what it is renamed to."""
    if isinstance(node, Form):
        return name_key(node.items[0]) if node.items else ""
    return node.lower() if isinstance(node, str) else name_of(node).lower()


def _dots(form: Form) -> Iterator[Point]:
    for inner in form.forms():
        if inner.keyword == "dot":
            yield from _points(inner)
        else:
            yield from _dots(inner)


def _grid(pins: Mapping[str, Point], unit: float) -> float:
    """Units of the file in a grid: of a grid in use on which all pins stand, else the largest on which they do."""
    values = [value for point in pins.values() for value in point]
    for known in GRIDS:
        size = known / unit
        if size > LEAST_GRID and all(abs(v / size - round(v / size)) < 0.01 for v in values):
            return size
    largest = 0
    for value in values:
        largest = math.gcd(largest, round(abs(value)))
    return float(largest or 1)


def unit_of(technology: Form | None) -> float:
    """Mm of a unit of distance, by the technology of a library; a hundredth of an inch where it does not say."""
    scales = [
        scale
        for definition in (technology.forms("numberdefinition") if technology is not None else ())
        for scale in definition.forms("scale")
        if (kind := scale.form("unit")) is not None and [str(i).lower() for i in kind.items[:1]] == ["distance"]
    ]
    for scale in scales:
        numbers = [i for i in scale.items if isinstance(i, str) or (isinstance(i, Form) and i.keyword == "e")]
        try:
            units, metres = (_number(item) for item in numbers[:2])
        except ValueError:
            continue
        if units > 0 and 1e-9 <= metres / units < 1:
            return metres / units * 1000
    return 0.254
