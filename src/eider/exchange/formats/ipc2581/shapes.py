"""Shapes of IPC-2581: standard primitives and contours, to and from the forms of lands."""

import math
from collections.abc import Iterator
from typing import NamedTuple
from xml.etree.ElementTree import Element, SubElement

from eider.errors import InputError
from eider.exchange.json_files import plain_number, within_a_metre
from eider.geometry.arcs import arc_points
from eider.geometry.plane import Outline, Point, bounds
from eider.geometry.rounding import plain_digits, tidy
from eider.model.pattern import Opening, Pad, PadShape

# An arc is drawn as so many degrees a step.
STEP_DEGREES = 7.5
MM = {"MILLIMETER": 1.0, "MICRON": 0.001, "INCH": 25.4}


class LandShape(NamedTuple):
    """The form of a land or an opening about its own place (mm)."""

    shape: PadShape
    width: float
    height: float
    corner_radius: float = 0.0
    outline: Outline = ()


def shape_of(pad: Pad | Opening) -> LandShape:
    """The form of a pad or an opening."""
    return LandShape(pad.shape, pad.width, pad.height, pad.corner_radius, pad.outline)


def write_shape(parent: Element, shape: LandShape) -> None:
    """Put the primitive of a shape into an element."""
    size = {"width": plain_digits(shape.width), "height": plain_digits(shape.height)}
    if shape.shape == "outline":
        write_polygon(SubElement(SubElement(parent, "Contour"), "Polygon"), shape.outline)
    elif shape.shape == "circle":
        SubElement(parent, "Circle", {"diameter": plain_digits(shape.width)})
    elif shape.shape == "oval":
        SubElement(parent, "Oval", size)
    elif shape.shape == "rounded":
        corners = dict.fromkeys(("upperRight", "upperLeft", "lowerRight", "lowerLeft"), "true")
        SubElement(parent, "RectRound", {**size, "radius": plain_digits(shape.corner_radius), **corners})
    else:
        SubElement(parent, "RectCenter", size)


def write_polygon(parent: Element, outline: Outline) -> None:
    """The points of a closed outline."""
    (x, y), *rest = outline
    SubElement(parent, "PolyBegin", {"x": plain_digits(x), "y": plain_digits(y)})
    for x, y in (*rest, outline[0]):
        SubElement(parent, "PolyStepSegment", {"x": plain_digits(x), "y": plain_digits(y)})


def tag(element: Element) -> str:
    """The name of an element without its namespace."""
    return str(element.tag).rpartition("}")[2]


def children(element: Element, *names: str) -> Iterator[Element]:
    """The elements in another one that are called so, whatever their namespace; all without a name."""
    return (child for child in element if not names or tag(child) in names)


def child(element: Element, *names: str) -> Element | None:
    """The first of them."""
    return next(children(element, *names), None)


def length(element: Element, name: str, scale: float, typical: float | None = None) -> float:
    """A length of an element in mm.

    Raises:
        InputError: it is missing, is not a number, or more than a metre.
    """
    text = element.get(name)
    if text is None:
        if typical is None:
            raise InputError(f"{tag(element)} has no {name}")
        return typical
    what = f"{name} of {tag(element)}"
    return within_a_metre(plain_number(text, what) * scale, what)


def read_shape(element: Element, scale: float) -> LandShape | None:
    """The shape that an element is; None for one that is not a shape.

    Raises:
        InputError: it is one that Eider does not read, or its lengths are wrong.
    """
    name = tag(element)
    if name in ("RectCenter", "Oval"):
        width, height = length(element, "width", scale), length(element, "height", scale)
        shape: PadShape = "rectangle" if name == "RectCenter" else "oval"
        return LandShape(shape, width, height)
    if name == "Circle":
        diameter = length(element, "diameter", scale)
        return LandShape("circle", diameter, diameter)
    if name in ("RectRound", "RectCham"):
        return _cornered(element, scale)
    if name == "RectCorner":
        corners = [length(element, key, scale) for key in ("lowerLeftX", "lowerLeftY", "upperRightX", "upperRightY")]
        x0, y0, x1, y1 = corners
        return _outlined(((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
    if name == "Contour":
        polygon = child(element, "Polygon")
        if polygon is None:
            raise InputError("a Contour has no Polygon")
        if child(element, "Cutout") is not None:
            raise InputError("a Contour with a Cutout is not a land of one outline")
        return _outlined(read_polygon(polygon, scale))
    if name in ("Donut", "Thermal", "Butterfly", "Diamond", "Ellipse", "Hexagon", "Moire", "Octagon", "Triangle"):
        raise InputError(f"the shape {name} is not read")
    return None


def _outlined(outline: Outline) -> LandShape:
    x0, y0, x1, y1 = bounds(outline)
    return LandShape("outline", tidy(x1 - x0), tidy(y1 - y0), outline=outline)


def _cornered(element: Element, scale: float) -> LandShape:
    """A rectangle with rounded or cut corners, of which some may stay."""
    width, height = length(element, "width", scale), length(element, "height", scale)
    is_round = tag(element) == "RectRound"
    size = length(element, "radius" if is_round else "chamfer", scale)
    names = ("upperRight", "upperLeft", "lowerLeft", "lowerRight")
    treated = [element.get(name, "true") in ("true", "1") for name in names]
    if not any(treated) or size == 0:
        return LandShape("rectangle", width, height)
    if is_round and all(treated):
        return LandShape("rounded", width, height, size)
    signs = ((1, 1), (-1, 1), (-1, -1), (1, -1))
    points: list[Point] = []
    for index, ((sx, sy), is_treated) in enumerate(zip(signs, treated, strict=True)):
        x, y = sx * width / 2, sy * height / 2
        if not is_treated:
            points.append((tidy(x), tidy(y)))
            continue
        centre = (x - sx * size, y - sy * size)
        angles = [90.0 * index + step for step in _steps(90.0)] if is_round else [90.0 * index, 90.0 * index + 90]
        points += [_on_circle(centre, size, angle) for angle in angles]
    return _outlined(tuple(points))


def _steps(sweep: float) -> list[float]:
    count = max(1, math.ceil(abs(sweep) / STEP_DEGREES))
    return [sweep * index / count for index in range(count + 1)]


def _on_circle(centre: Point, radius: float, angle: float) -> Point:
    at = math.radians(angle)
    return tidy(centre[0] + radius * math.cos(at)), tidy(centre[1] + radius * math.sin(at))


def read_polygon(polygon: Element, scale: float) -> Outline:
    """The outline of a polygon; its arcs as chords of 7.5 degrees.

    Raises:
        InputError: it has no beginning, fewer than three points, or an arc without a radius.
    """
    points: list[Point] = []
    for step in polygon:
        name = tag(step)
        if name in ("PolyBegin", "PolyStepSegment"):
            points.append((length(step, "x", scale), length(step, "y", scale)))
        elif name == "PolyStepCurve":
            points += _arc(points, step, scale)
    while len(points) > 1 and points[0] == points[-1]:
        points.pop()
    if len(points) < 3:
        raise InputError("a Polygon has fewer than three points")
    return tuple(points)


def is_clockwise(element: Element) -> bool:
    """Whether an arc of a file goes clockwise."""
    return element.get("clockwise", "false") in ("true", "1")


def _arc(points: list[Point], step: Element, scale: float) -> list[Point]:
    if not points:
        raise InputError("a Polygon begins with an arc")
    to = length(step, "x", scale), length(step, "y", scale)
    centre = length(step, "centerX", scale), length(step, "centerY", scale)
    if points[-1] == centre:
        raise InputError("an arc of a Polygon has no radius")
    return arc_points(points[-1], to, centre, clockwise=is_clockwise(step), step=STEP_DEGREES)
