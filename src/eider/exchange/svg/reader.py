"""Reads SVG outlines: closed shapes as copper by the names of their groups, or the graphic of a symbol."""

import re
from pathlib import Path

from msgspec.structs import replace
from shapely import Polygon

from eider.errors import InputError
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
from eider.exchange.svg.shapes import SvgDrawing, SvgShape, svg_drawing
from eider.exchange.svg.symbol_graphic import symbol_graphic
from eider.geometry.shapes import Outline, bounds
from eider.model.pattern import Opening, PatternStroke

_IS_SYMBOL = re.compile(r"(^|[-_. ])(symbol|graphic)([-_. ]|$)", re.I)
_NUMBER = re.compile(r"(?:pad|land|pin)[-_ .]?([A-Za-z]{0,3}\d{1,4})", re.I)


def read_svg(path: Path, hints: ReadingHints = NO_HINTS) -> FoundFile:
    """The lands of a drawing, or the graphic of a symbol where the file is called so.

    Raises:
        InputError: it is no SVG, is damaged, too large, or nothing of it is read.
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
