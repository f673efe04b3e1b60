"""An SVG drawing as the rows of a custom graphic, in grids; what is called `pin-NAME` ends in a pin of that name."""

import math
import re
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from eider.exchange.svg.shapes import SvgDrawing, SvgShape
from eider.geometry.shapes import Point, bounds
from eider.model.symbol import GraphicStroke

GRID = 2.54
MOST_PLACES = 200
_PIN = re.compile(r"pin[-_ .:]+(.{1,40})", re.I)


class FoundGraphic(NamedTuple):
    """The rows of a custom graphic, and what was moved or is missing."""

    rows: tuple[GraphicStroke, ...]
    log: tuple[str, ...]


def symbol_graphic(drawing: SvgDrawing) -> FoundGraphic:
    """The graphic of a drawing about its middle, which is put on a whole grid."""
    shapes, log = drawing.shapes, list[str]()
    middle = _middle(shapes)
    rows, moved = list[GraphicStroke](), 0
    for shape in shapes:
        name = next((found[1] for label in reversed(shape.names) if (found := _PIN.fullmatch(label))), "")
        rows += _graphic_rows(shape, middle, is_pin=bool(name))
        if name:
            end, off = _pin_end(shape, middle)
            moved += off > 0.01
            rows.append(GraphicStroke("pin", end, name))
    rows += [GraphicStroke("text", _grids((t.x, t.y), middle), t.text) for t in drawing.texts if t.text]
    if not any(row.kind == "pin" for row in rows):
        log.append("nothing is called pin-NAME: add the pins of the graphic")
    if moved:
        log.append(f"{moved} pins stood off the grid of 2.54 mm and were moved to it")
    return FoundGraphic(tuple(rows), tuple(log))


def _middle(shapes: Sequence[SvgShape]) -> Point:
    """The middle of the drawing, moved by less than a grid so that the first pin stands on whole ones."""
    x0, y0, x1, y1 = bounds([point for shape in shapes for line, _closed in shape.lines for point in line])
    middle = (x0 + x1) / 2, (y0 + y1) / 2
    pins = (shape for shape in shapes if any(_PIN.fullmatch(label) for label in shape.names))
    first = next((_far_end(shape, middle) for shape in pins), (0.0, 0.0))
    x, y = (at - round((at - about) / GRID) * GRID for at, about in zip(first, middle, strict=True))
    return x, y


def _far_end(shape: SvgShape, middle: Point) -> Point:
    """The end of a pin's line that lies farther out."""
    return max((p for line, _closed in shape.lines for p in line), key=lambda p: math.dist(p, middle))


def _graphic_rows(shape: SvgShape, middle: Point, *, is_pin: bool) -> Iterator[GraphicStroke]:
    if shape.circle is not None and not is_pin:
        radius = f"{shape.circle.width / 2 / GRID:.6g}"
        yield GraphicStroke("circle", f"{_grids((shape.circle.x, shape.circle.y), middle)} {radius}")
        return
    for points, closed in shape.lines:
        ring = points[:-1] if closed and len(points) > 1 and points[0] == points[-1] else points
        kind = "area" if closed and len(ring) >= 3 else "line"
        for start in range(0, len(ring), MOST_PLACES - 1):
            piece = ring[start : start + MOST_PLACES]
            if len(piece) > 1:
                yield GraphicStroke(
                    kind if len(ring) <= MOST_PLACES else "line", " ".join(_grids(p, middle) for p in piece)
                )


def _pin_end(shape: SvgShape, middle: Point) -> tuple[str, float]:
    """The outer end of a pin's line on whole grids, and how far it was off them in grids."""
    x, y = _far_end(shape, middle)
    at = (x - middle[0]) / GRID, (y - middle[1]) / GRID
    on = round(at[0]), round(at[1])
    return f"{on[0]},{on[1]}", math.dist(at, on)


def _grids(point: Point, middle: Point) -> str:
    return f"{(point[0] - middle[0]) / GRID:.6g},{(point[1] - middle[1]) / GRID:.6g}"
