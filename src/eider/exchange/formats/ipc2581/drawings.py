"""The lines of silkscreen, assembly drawing and outline of an IPC-2581 package, and how wide they are; mm."""

from collections.abc import Iterator, Mapping
from xml.etree.ElementTree import Element

from eider.errors import InputError
from eider.exchange.formats.ipc2581.shapes import child, children, is_clockwise, length, read_polygon, tag
from eider.exchange.json_files import plain_number
from eider.exchange.layered_shapes import PLAIN_LINE
from eider.geometry.arcs import arc_points
from eider.geometry.plane import Outline, Point
from eider.model.pattern import PatternStroke


def drawn_strokes(
    drawing: Element, scale: float, widths: Mapping[str, float], log: list[str]
) -> Iterator[PatternStroke]:
    """The lines of a drawing; what is not a line or outline is told. `widths` are those of the file by their name."""
    for holder in (e for e in drawing.iter() if tag(e) in ("Marking", "Outline", "UserSpecial", "Features")):
        for element in holder:
            try:
                points = _points(element, scale)
            except InputError as fault:
                log.append(f"a line of {tag(drawing)} is left out: {fault}")
                continue
            if len(points) > 1:
                yield PatternStroke(points, _width(element, holder, scale, widths), "line")


def package_outline(package: Element, scale: float, log: list[str]) -> Outline:
    """The outline of the body; empty where the package has none."""
    outline = child(package, "Outline")
    polygon = child(outline, "Polygon") if outline is not None else None
    if polygon is None:
        return ()
    try:
        return read_polygon(polygon, scale)
    except InputError as fault:
        log.append(f"its outline is left out: {fault}")
        return ()


def line_widths(dictionaries: Iterator[tuple[Element, float]]) -> dict[str, float]:
    """The widths of a file's lines by their name, from its dictionaries with their units (mm)."""
    return {
        entry.get("id", ""): length(desc, "lineWidth", scale, PLAIN_LINE)
        for dictionary, scale in dictionaries
        for entry in children(dictionary, "EntryLineDesc")
        for desc in children(entry, "LineDesc")
    }


def _points(element: Element, scale: float) -> Outline:
    kind = tag(element)
    if kind == "Polyline":
        return _polyline(element, scale)
    if kind in ("Polygon", "Contour"):
        polygon = element if kind == "Polygon" else child(element, "Polygon")
        ring = read_polygon(polygon, scale) if polygon is not None else ()
        return (*ring, ring[0]) if ring else ()
    if kind == "Line":
        ends = [length(element, key, scale) for key in ("startX", "startY", "endX", "endY")]
        return (ends[0], ends[1]), (ends[2], ends[3])
    if kind == "Arc":
        start, end, centre = (
            (length(element, f"{what}X", scale), length(element, f"{what}Y", scale))
            for what in ("start", "end", "center")
        )
        return (start, *arc_points(start, end, centre, clockwise=is_clockwise(element)))
    if kind == "Circle":
        radius = length(element, "diameter", scale) / 2
        return ((radius, 0.0), *arc_points((radius, 0.0), (radius, 0.0), (0.0, 0.0), clockwise=False))
    return ()


def _polyline(element: Element, scale: float) -> Outline:
    points: list[Point] = []
    for step in element:
        if tag(step) in ("PolyBegin", "PolyStepSegment"):
            points.append((length(step, "x", scale), length(step, "y", scale)))
        elif tag(step) == "PolyStepCurve" and points:
            to = length(step, "x", scale), length(step, "y", scale)
            centre = length(step, "centerX", scale), length(step, "centerY", scale)
            points += arc_points(points[-1], to, centre, clockwise=is_clockwise(step))
    return tuple(points)


def _width(element: Element, holder: Element, scale: float, widths: Mapping[str, float]) -> float:
    """The width of a line: its own, by name, or that of what it is in."""
    for owner in (element, holder):
        own = child(owner, "LineDesc")
        if own is not None:
            return length(own, "lineWidth", scale, PLAIN_LINE) or PLAIN_LINE
        named = child(owner, "LineDescRef")
        if named is not None and named.get("id", "") in widths:
            return widths[named.get("id", "")] or PLAIN_LINE
    return PLAIN_LINE


def package_height(package: Element, scale: float) -> float:
    """The height of a package in mm; 0 where the file has none that can be read."""
    try:
        return max(plain_number(package.get("height", "0"), "height") * scale, 0.0)
    except InputError:
        return 0.0
