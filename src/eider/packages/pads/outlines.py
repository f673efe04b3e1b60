"""Outlines from steps: worked out, mirrored, rounded, and refused with the place where they cross or stay open."""

import math
from collections.abc import Mapping, Sequence
from typing import NamedTuple

import shapely
import shapely.affinity
from shapely.geometry import LineString, Polygon

from eider.errors import InputError
from eider.geometry.expressions import evaluate_expression
from eider.geometry.plane import Outline, Point, circle
from eider.geometry.rounding import tidy
from eider.model.outline import STEPS, OutlinePart, OutlineSpec, Step

# Straight pieces of an arc are no longer than this many degrees.
ARC_STEP = 7.5
# A start that is reached again within this is closed (mm).
CLOSED = 1e-6
_AHEAD: Mapping[str, Point] = {"right": (1.0, 0.0), "left": (-1.0, 0.0), "up": (0.0, 1.0), "down": (0.0, -1.0)}


class OutlineError(InputError):
    """An outline that is none; `at` is where it goes wrong (mm), `step` the step (from 1; 0: the whole)."""

    def __init__(self, message: str, step: int = 0, at: Point | None = None) -> None:
        super().__init__(message, step, at)
        self.message, self.step, self.at = message, step, at

    def __str__(self) -> str:
        place = f" at ({self.at[0]:g}, {self.at[1]:g}) mm" if self.at else ""
        return f"{f'step {self.step}: ' if self.step else ''}{self.message}{place}"


class Walked(NamedTuple):
    """The points of an outline before it is closed, and for each step the index of its last point."""

    points: list[Point]
    ends: list[int]


def walk(spec: OutlineSpec, names: Mapping[str, float]) -> Walked:
    """Go the steps; a length is a sum of letters, in mm.

    Raises:
        OutlineError: a step cannot be read.
    """
    points = [(_length(spec.start_x, names, 0), _length(spec.start_y, names, 0))]
    heading, ends = 0.0, []
    for index, step in enumerate(spec.steps, start=1):
        heading = _go(step, index, points, heading, names)
        ends.append(len(points) - 1)
    return Walked(points, ends)


def _length(text: str, names: Mapping[str, float], step: int) -> float:
    try:
        return evaluate_expression(text, names, "mm")
    except InputError as fault:
        raise OutlineError(str(fault), step) from fault


def _angle(text: str, step: int) -> float:
    try:
        return float(text)
    except ValueError:
        raise OutlineError(f"“{text}” is not an angle; enter degrees", step) from None


def _go(step: Step, index: int, points: list[Point], heading: float, names: Mapping[str, float]) -> float:
    """Add a step's points; returns the direction of the way after it, in degrees."""
    x, y = points[-1]
    if step.kind not in STEPS:
        raise OutlineError(f"unknown step “{step.kind}”; choose one of {', '.join(STEPS)}", index)
    length = _length(step.length, names, index)
    if step.kind == "arc":
        return _arc(points, heading, length, _angle(step.across, index), index)
    if step.kind == "by":
        dx, dy = length, _length(step.across or "0", names, index)
    elif step.kind == "turn":
        angle = math.radians(_angle(step.across, index))
        dx, dy = length * math.cos(angle), length * math.sin(angle)
    else:
        ux, uy = _AHEAD[step.kind]
        dx, dy = ux * length, uy * length
    if math.hypot(dx, dy) <= CLOSED:
        raise OutlineError("the step has no length", index, points[-1])
    points.append((tidy(x + dx), tidy(y + dy)))
    return math.degrees(math.atan2(dy, dx))


def _arc(points: list[Point], heading: float, radius: float, degrees: float, index: int) -> float:
    """An arc that goes on in the direction of the way: a positive radius turns left, a negative one right."""
    if abs(radius) <= CLOSED or not 0 < degrees <= 360:
        raise OutlineError("an arc needs a radius, and 0 to 360 degrees", index, points[-1])
    x, y = points[-1]
    side = math.copysign(1.0, radius)
    towards = math.radians(heading + 90 * side)
    cx, cy = x + abs(radius) * math.cos(towards), y + abs(radius) * math.sin(towards)
    begin = math.atan2(y - cy, x - cx)
    count = max(1, math.ceil(degrees / ARC_STEP))
    for i in range(1, count + 1):
        at = begin + side * math.radians(degrees) * i / count
        points.append((tidy(cx + abs(radius) * math.cos(at)), tidy(cy + abs(radius) * math.sin(at))))
    return heading + side * degrees


def make_outline(
    spec: OutlineSpec, names: Mapping[str, float], others: Mapping[str, OutlineSpec] | None = None
) -> Outline:
    """The closed outline of a spec, counter-clockwise, in mm; its parts may name `others`.

    Raises:
        OutlineError: a step or part cannot be read, the outline is open, crosses itself, encloses nothing, falls into
            pieces or has a hole.
    """
    shape = _walked_shape(spec, names) if spec.steps or not spec.parts else Polygon()
    for index, part in enumerate(spec.parts, start=1):
        shape = _with_part(shape, part, index, names, others or {})
    if spec.corner:
        shape = _cornered(shape, _length(spec.corner, names, 0), chamfered=spec.chamfered)
    ring = shapely.geometry.polygon.orient(shape).exterior.coords
    return tuple((tidy(px), tidy(py)) for px, py in list(ring)[:-1])


def _with_part(
    shape: Polygon, part: OutlinePart, index: int, names: Mapping[str, float], others: Mapping[str, OutlineSpec]
) -> Polygon:
    """An outline with a simple shape added or cut out."""
    own = _part(part, index, names, others)
    made = shape.difference(own) if part.cut else shape.union(own)
    made = made.simplify(0.0) if isinstance(made, Polygon) else made
    middle = own.centroid
    if made.is_empty or made.area <= CLOSED:
        raise OutlineError(f"part {index} leaves nothing of the outline", 0, (middle.x, middle.y))
    if not isinstance(made, Polygon):
        raise OutlineError(f"with part {index} the outline falls into pieces", 0, (middle.x, middle.y))
    if made.interiors:
        raise OutlineError(f"part {index} leaves a hole inside; let it reach the edge", 0, (middle.x, middle.y))
    return made


def _part(part: OutlinePart, index: int, names: Mapping[str, float], others: Mapping[str, OutlineSpec]) -> Polygon:
    x, y = _length(part.x, names, 0), _length(part.y, names, 0)
    if part.shape in others:
        if others[part.shape].parts:
            raise OutlineError(f"part {index}: outline {part.shape} is made of parts itself; take a plain one")
        return shapely.affinity.translate(_walked_shape(others[part.shape], names), x, y)
    width = _length(part.width or "0", names, 0)
    height = _length(part.height, names, 0) if part.height.strip() else width
    if width <= 0 or height <= 0:
        raise OutlineError(f"part {index}: size {width:g} × {height:g} mm. Enter a width and a height.")
    if part.shape == "circle":
        return Polygon(circle(x, y, width / 2, round(360 / ARC_STEP)))
    if part.shape != "rectangle":
        raise OutlineError(f"part {index}: “{part.shape}” is not a rectangle, circle or outline of the sheet")
    return shapely.box(x - width / 2, y - height / 2, x + width / 2, y + height / 2)


def _walked_shape(spec: OutlineSpec, names: Mapping[str, float]) -> Polygon:
    """What the steps enclose."""
    points = walk(spec, names).points
    if spec.mirror:
        points = _mirrored(points, spec.mirror)
    elif math.dist(points[0], points[-1]) > CLOSED:
        raise OutlineError("the outline is open: its last point is not its first", len(spec.steps), points[-1])
    if math.dist(points[0], points[-1]) <= CLOSED:
        points = points[:-1]
    return _valid(points)


def _mirrored(points: Sequence[Point], axis: str) -> list[Point]:
    """A half or a quarter and its mirror images, joined; ends that lie on the axis are not doubled."""
    if axis not in ("x", "y", "both"):
        raise OutlineError(f"“{axis}” is not an axis to mirror about; enter x, y or both")
    if axis == "both":
        return _mirrored(_joined(points, (1.0, -1.0)), "y")
    return _joined(points, (1.0, -1.0) if axis == "x" else (-1.0, 1.0))


def _joined(points: Sequence[Point], signs: Point) -> list[Point]:
    """The way and its image, joined at the end that lies on the axis; where both do, the outline is closed."""
    images = [(tidy(x * signs[0]), tidy(y * signs[1])) for x, y in reversed(points)]
    ends_on_axis = math.dist(points[-1], images[0]) <= CLOSED
    way = [*points, *images] if ends_on_axis else [*images, *points]
    return [point for i, point in enumerate(way) if i == 0 or math.dist(point, way[i - 1]) > CLOSED]


def _valid(points: Sequence[Point]) -> Polygon:
    if len(points) < 3:
        raise OutlineError("an outline needs three corners or more")
    shape = Polygon(points)
    if not shape.is_valid:
        ring = LineString([*points, points[0]])
        reason = shapely.is_valid_reason(shape)
        numbers = reason.partition("[")[2].rstrip("]").split()
        at = (float(numbers[0]), float(numbers[1])) if len(numbers) == 2 else None
        what = "crosses itself" if not ring.is_simple or "intersection" in reason else "is not valid"
        raise OutlineError(f"the outline {what}", 0, at)
    if shape.area <= CLOSED:
        raise OutlineError("the outline encloses no area", 0, points[0])
    return shape


def _cornered(shape: Polygon, size: float, *, chamfered: bool) -> Polygon:
    """Corners rounded by a radius, or cut off by as much on both sides."""
    if size <= 0:
        raise OutlineError(f"corners of {size:g} mm cannot be cut; enter a length greater than zero")
    if not chamfered:
        inner = shape.buffer(-size, join_style="mitre")
        rounded = inner.buffer(2 * size, quad_segs=12).buffer(-size, quad_segs=12)
        if inner.is_empty or not isinstance(rounded, Polygon):
            raise OutlineError(f"a corner radius of {size:g} mm is too large for the outline")
        return rounded
    corners = list(shape.exterior.coords)[:-1]
    cut: list[Point] = []
    for i, (x, y) in enumerate(corners):
        for other in (corners[i - 1], corners[(i + 1) % len(corners)]):
            side = math.dist((x, y), other)
            if 2 * size > side + CLOSED:
                raise OutlineError(f"a chamfer of {size:g} mm is too large for a side of {side:g} mm", 0, (x, y))
            cut.append((x + (other[0] - x) * size / side, y + (other[1] - y) * size / side))
    return Polygon(cut)
