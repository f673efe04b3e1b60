"""The shapes and texts of an SVG drawing with the names of their groups, curves as chords; mm, y up."""

import io
import math
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple
from xml.etree.ElementTree import Element, ParseError, tostring

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from eider.errors import InputError
from eider.exchange.json_files import plain_number, require_size, within_a_metre
from eider.exchange.layered_shapes import LayerText
from eider.exchange.reading_hints import ReadingHints
from eider.geometry.plane import Outline, Point
from eider.model.pattern import Opening

LARGEST, MOST_ELEMENTS, MOST_POINTS = 16 * 2**20, 50_000, 20_000
# Curves become chords that are no farther from them (mm).
CHORD = 0.0005
# A CSS pixel is 1/96 inch.
MM_PER_PIXEL = 25.4 / 96
_MM = {"mm": 1.0, "cm": 10.0, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6}


class SvgShape(NamedTuple):
    """A shape with the names of what it is in, innermost last; its lines in mm, y up."""

    names: tuple[str, ...]
    lines: tuple[tuple[Outline, bool], ...]
    is_filled: bool
    stroke: float
    circle: Opening | None


class SvgDrawing(NamedTuple):
    """The shapes and texts of a drawing, and what was assumed of it."""

    shapes: tuple[SvgShape, ...]
    texts: tuple[LayerText, ...]
    log: tuple[str, ...]


def svg_drawing(path: Path, hints: ReadingHints) -> SvgDrawing:
    """The shapes and texts of a file.

    Raises:
        InputError: it is not an SVG file, damaged, has entities, more than 50,000 elements, or no shapes.
    """
    root = _root(path)
    try:
        found = _read(root, hints)
    except InputError as fault:
        raise InputError(f"{path.name}: {fault}") from fault
    # The library lets faults of every kind through, by what is wrong with a number or a path.
    except Exception as fault:
        raise InputError(f"{path.name} cannot be read as SVG: {fault}") from fault
    if not found.shapes:
        raise InputError(f"{path.name} has no shapes that can be read")
    return found


def _read(root: Element, hints: ReadingHints) -> SvgDrawing:
    from svgelements import SVG

    # Written again: the library takes a prefix of a name space for an attribute of every element.
    drawing = SVG.parse(io.BytesIO(tostring(root)), reify=True)
    if not isinstance(drawing, SVG):
        raise InputError("it has no drawing in it")
    log: list[str] = []
    frame = _frame(drawing, root, hints, log)
    shapes, texts = list[SvgShape](), list[LayerText]()
    for element, names in _leaves(drawing, ()):
        if type(element).__name__ in ("Text", "SVGText"):
            at = element.transform.point_in_matrix_space((element.x, element.y))
            texts.append(LayerText(str(element.text or "").strip(), *frame.place(at.x, at.y)))
        elif (shape := _shape(element, names, frame)) is not None:
            shapes.append(shape)
    return SvgDrawing(tuple(shapes), tuple(texts), tuple(log))


def _root(path: Path) -> Element:
    """The root of a file that is an SVG, and no bomb.

    Raises:
        InputError: it is none, is damaged, has entities, or unfolds to too much.
    """
    require_size(path, LARGEST)
    try:
        root = fromstring(path.read_bytes(), forbid_dtd=False, forbid_entities=True, forbid_external=True)
    except DefusedXmlException as fault:
        raise InputError(f"{path.name} has entities, which are not read: {type(fault).__name__}") from fault
    except (ParseError, ValueError, LookupError) as fault:
        raise InputError(f"{path.name} is not XML, or is damaged: {fault}") from fault
    if str(root.tag).rpartition("}")[2] != "svg":
        raise InputError(f"{path.name} is XML, but no SVG")
    if root.get("data-drawing") == "eider":
        raise InputError(f"{path.name} is a drawing by Eider, made to be looked at; take the part's bundle or DXF")
    _require_count(root, path.name)
    return root


def _require_count(root: Element, name: str) -> None:
    """Refuse a drawing that unfolds, by uses of uses, to more elements than a drawing of a part has."""
    by_id = {element.get("id"): element for element in root.iter() if element.get("id")}
    counted: dict[int, int] = {}
    busy: set[int] = set()

    def count(element: Element, depth: int) -> int:
        key = id(element)
        if key in counted:
            return counted[key]
        if key in busy or depth > 200:
            raise InputError(f"{name}: a use draws itself, or groups are nested too deeply")
        busy.add(key)
        total = 1 + sum(count(child, depth + 1) for child in element)
        link = next((value for key, value in element.attrib.items() if key.rpartition("}")[2] == "href"), "")
        if str(element.tag).rpartition("}")[2] == "use" and link.startswith("#") and link[1:] in by_id:
            total += count(by_id[link[1:]], depth + 1)
        busy.discard(key)
        counted[key] = min(total, 2 * MOST_ELEMENTS)
        return counted[key]

    if count(root, 0) > MOST_ELEMENTS:
        raise InputError(f"{name} unfolds to more than {MOST_ELEMENTS:,} elements; that is not a drawing of a part")


class _Frame(NamedTuple):
    """Mm of a pixel of the parsed drawing, and the pixel that is the drawing's own origin."""

    scale: float
    x: float
    y: float

    def place(self, x: float, y: float) -> Point:
        """A place in mm, y up."""
        return (
            within_a_metre((float(x) - self.x) * self.scale, "a place"),
            within_a_metre(-(float(y) - self.y) * self.scale, "a place"),
        )


def _frame(drawing: Any, root: Element, hints: ReadingHints, log: list[str]) -> _Frame:
    """Where lengths have no unit of length, they are what the user said."""
    from svgelements import Matrix

    x, y = Matrix(drawing.viewbox_transform).point_in_matrix_space((0, 0))
    width = re.fullmatch(r"\s*([\d.]+(?:[eE][+-]?\d+)?)\s*(mm|cm|in|pt|pc)\s*", root.get("width", ""))
    if width is not None and float(drawing.width or 0) > 0:
        # The library's own pixels of a millimetre are a little off.
        return _Frame(plain_number(width[1], "the width") * _MM[width[2]] / float(drawing.width), x, y)
    if hints.unit:
        return _Frame(hints.scale, x, y)
    log.append("the file names no unit of its size: a pixel is taken as 1/96 inch; say the unit if it is another")
    return _Frame(MM_PER_PIXEL, x, y)


def _leaves(element: Any, names: tuple[str, ...]) -> Iterator[tuple[Any, tuple[str, ...]]]:
    """Shapes and texts, each with the names of its groups and its own."""
    attributes = element.values.get("attributes", element.values) if element.values else {}
    labels = [
        str(value) for key, value in attributes.items() if str(key).rpartition("}")[2] in ("id", "label", "class")
    ]
    known = (*names, *(label for label in labels if label not in names))
    if isinstance(element, list):
        for inside in element:
            yield from _leaves(inside, known)
    else:
        yield element, known


def _shape(element: Any, names: tuple[str, ...], frame: _Frame) -> SvgShape | None:
    from svgelements import Circle, Path, Shape

    if not isinstance(element, Shape) or str(element.values.get("display", "")) == "none":
        return None
    circle = None
    # Turned shapes keep their transform, as they are no shapes of their kind any more.
    left = element.transform
    if isinstance(element, Circle) and left.is_identity() and abs(element.rx - element.ry) < 1e-9:
        size = within_a_metre(2 * float(element.rx) * frame.scale, "a diameter")
        x, y = frame.place(element.cx, element.cy)
        circle = Opening(x, y, size, size, shape="circle")
    lines = tuple(line for line in _lines(abs(Path(element)), frame) if len(line[0]) > 1)
    stroke = element.stroke
    has_stroke = stroke is not None and stroke.value is not None
    grown = math.sqrt(abs(left.a * left.d - left.b * left.c))
    width = float(element.stroke_width or 0) * grown * frame.scale if has_stroke else 0.0
    width = within_a_metre(width, "a line's width")
    return SvgShape(names, lines, element.fill.value is not None, width, circle) if lines else None


def _lines(path: Any, frame: _Frame) -> Iterator[tuple[Outline, bool]]:
    """The pieces of a path as chords, each with whether it is closed."""
    points: list[Point] = []
    for segment in path:
        kind = type(segment).__name__
        if kind == "Move":
            if points:
                yield tuple(points), _is_closed(points)
            points = [frame.place(segment.end.x, segment.end.y)]
        elif kind == "Close":
            yield tuple(points), True
            points = points[:1]
        elif kind == "Line":
            points.append(frame.place(segment.end.x, segment.end.y))
        else:
            points += _curve(segment, frame)
        if len(points) > MOST_POINTS:
            raise InputError(f"a path has more than {MOST_POINTS:,} points")
    if len(points) > 1:
        yield tuple(points), _is_closed(points)


def _is_closed(points: list[Point]) -> bool:
    return len(points) > 3 and math.dist(points[0], points[-1]) < 1e-6


def _curve(segment: Any, frame: _Frame) -> list[Point]:
    """A curve as chords; twice as many until its middles lie on them."""
    count = 8
    while True:
        places = [segment.point(index / (2 * count)) for index in range(2 * count + 1)]
        points = [frame.place(p.x, p.y) for p in places]
        far = max(
            math.dist(points[i], ((points[i - 1][0] + points[i + 1][0]) / 2, (points[i - 1][1] + points[i + 1][1]) / 2))
            for i in range(1, 2 * count, 2)
        )
        if far < CHORD or count >= 256:
            return points[1:]
        count *= 2
