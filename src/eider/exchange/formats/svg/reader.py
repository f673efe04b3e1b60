"""Reads SVG outlines: closed shapes as copper by the names of their groups, or the graphic of a symbol."""

import math
import re
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace
from shapely import Polygon

from eider.errors import InputError
from eider.exchange.formats.svg.shapes import SvgDrawing, SvgShape, svg_drawing
from eider.exchange.found_parts import FoundFile, FoundPart, name_of
from eider.exchange.layered_shapes import (
    LINE_ROLES,
    LayeredShapes,
    LayerForm,
    LayerText,
    form_of_area,
    layer_role,
)
from eider.exchange.reading_hints import NO_HINTS, ReadingHints
from eider.geometry.plane import Outline, Point, bounds
from eider.model.pattern import Opening, PatternStroke
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


_IS_SYMBOL = re.compile(r"(^|[-_. ])(symbol|graphic)([-_. ]|$)", re.I)
_NUMBER = re.compile(r"(?:pad|land|pin)[-_ .]?([A-Za-z]{0,3}\d{1,4})", re.I)


def read_svg(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """The lands of a drawing, or the graphic of a symbol where the file is called so.

    Raises:
        InputError: it is not an SVG file, is damaged, too large, or nothing of it is read.
    """
    drawing = svg_drawing(path, hints)
    if _IS_SYMBOL.search(path.stem):
        graphic = symbol_graphic(drawing)
        log = (*drawing.log, *graphic.log)
        return FoundFile((FoundPart(name=name_of(path), source=path.name, graphic=graphic.rows, log=log),))
    return _lands(path, drawing, hints)


def _role(shape: SvgShape, hints: ReadingHints) -> str:
    """What a shape is for: by the innermost of its names that tells."""
    roles = (layer_role(name, hints) for name in reversed(shape.names))
    return next((role for role in roles if role not in ("none", "number")), "none")


def _lands(path: Path, drawing: SvgDrawing, hints: ReadingHints) -> FoundFile:
    shapes, log = drawing.shapes, list(drawing.log)
    roles = [_role(shape, hints) for shape in shapes]
    layers = {name: layer_role(name, hints) for shape in shapes for name in shape.names if not _NUMBER.fullmatch(name)}
    if all(role == "none" for role in roles):
        log.append("no group tells what it is: closed shapes that are filled are taken as copper")
        roles = ["top" if shape.is_filled else "none" for shape in shapes]
    forms, lines, left = list[LayerForm](), list[tuple[str, PatternStroke]](), 0
    for shape, role in zip(shapes, roles, strict=True):
        if role in LINE_ROLES:
            lines += [
                (role, PatternStroke(_ring(points, closed), shape.stroke or 0.12, "line"))
                for points, closed in shape.lines
            ]
        elif role not in ("none", "courtyard"):
            made = _form(shape)
            left += made is None
            number = next((found[1] for name in reversed(shape.names) if (found := _NUMBER.fullmatch(name))), "")
            forms += [LayerForm(role, made, number)] if made is not None else []
        else:
            left += role == "none"
    if left:
        log.append(f"{left} shapes left out: they are open, of several pieces, or on no layer of a land pattern")
    if not forms and not lines:
        raise InputError(f"{path.name} has no closed shape in a group that is called copper, pads or lands")
    drawn = LayeredShapes(tuple(forms), drawing.texts, tuple(lines))
    corners = [corner for f in forms for corner in (f.opening.box[:2], f.opening.box[2:])]
    x0, y0, x1, y1 = bounds(corners or [point for _role, stroke in lines for point in stroke.points])
    if not x0 <= 0 <= x1 or not y0 <= 0 <= y1:
        drawn = _moved(drawn, -(x0 + x1) / 2, -(y0 + y1) / 2)
        log.append("the origin lies outside of the lands: they are moved to their middle")
    part = FoundPart(name=name_of(path), source=path.name, shapes=drawn, log=tuple(log))
    return FoundFile((part,), layers=layers)


def _ring(points: Outline, closed: bool) -> Outline:
    return (*points, points[0]) if closed and points[0] != points[-1] else points


def _form(shape: SvgShape) -> Opening | None:
    if shape.circle is not None:
        return shape.circle
    if len(shape.lines) != 1 or not shape.lines[0][1] or len(shape.lines[0][0]) < 3:
        return None
    area = Polygon(shape.lines[0][0])
    return form_of_area(area) if area.is_valid else None


def _moved(drawn: LayeredShapes, dx: float, dy: float) -> LayeredShapes:
    def at(opening: Opening) -> Opening:
        return replace(opening, x=round(opening.x + dx, 6), y=round(opening.y + dy, 6))

    forms = tuple(replace(form, opening=at(form.opening)) for form in drawn.forms)
    texts = tuple(LayerText(t.text, t.x + dx, t.y + dy) for t in drawn.texts)
    lines = tuple((role, replace(s, points=tuple((x + dx, y + dy) for x, y in s.points))) for role, s in drawn.lines)
    return LayeredShapes(forms, texts, lines)
