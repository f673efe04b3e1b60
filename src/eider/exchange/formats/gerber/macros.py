"""Apertures of Gerber files as areas: standard ones, and macros of primitives with their sums worked out."""

import math
import re
from collections.abc import Callable, Sequence
from typing import Any

from shapely import Point as Place
from shapely import Polygon, affinity, box, unary_union
from shapely.geometry.base import BaseGeometry

from eider.errors import InputError
from eider.exchange.json_files import MOST_MM
from eider.geometry.expressions import evaluate_expression
from eider.geometry.plane import bounds, rotated
from eider.model.pattern import Opening

# Round forms are areas of so many chords in a quarter: within 0.2 µm of a circle of 10 mm.
ROUND = 64
MOST_PRIMITIVES, MOST_POINTS = 500, 6_000
Values = dict[str, float]


def standard_aperture(kind: str, sizes: Sequence[float]) -> Opening | BaseGeometry:
    """A circle, rectangle, oval or regular polygon (mm; of the polygon also degrees); with a hole it is an area.

    Raises:
        InputError: it has too few sizes, or none above zero.
    """
    if not sizes or min(sizes[:1]) < 0:
        raise InputError(f"the aperture {kind} has no size")
    if kind == "C":
        made: Opening | BaseGeometry = Opening(0.0, 0.0, sizes[0], sizes[0], shape="circle")
        return _with_hole(made, sizes[1:2])
    if kind in ("R", "O"):
        if len(sizes) < 2:
            raise InputError(f"the aperture {kind} has one size of two")
        is_round = kind == "O" and sizes[0] == sizes[1]
        shape = "circle" if is_round else "oval" if kind == "O" else "rectangle"
        return _with_hole(Opening(0.0, 0.0, sizes[0], sizes[1], shape=shape), sizes[2:3])  # type: ignore[arg-type]
    if kind == "P":
        count = int(sizes[1]) if len(sizes) > 1 else 0
        if not 3 <= count <= 12:
            raise InputError(f"a polygon aperture of {count} corners")
        turn = sizes[2] if len(sizes) > 2 else 0.0
        return _with_hole(_regular(sizes[0], count, turn), sizes[3:4])
    raise InputError(f"the aperture {kind} is not in the file")


def _with_hole(form: Opening | BaseGeometry, hole: Sequence[float]) -> Opening | BaseGeometry:
    if not hole or hole[0] <= 0:
        return form
    return _area(form).difference(Place(0, 0).buffer(hole[0] / 2, quad_segs=ROUND))


def _area(form: Opening | BaseGeometry) -> BaseGeometry:
    """A form about its own place as an area."""
    if not isinstance(form, Opening):
        return form
    w, h = form.width / 2, form.height / 2
    if form.shape == "rectangle":
        return box(-w, -h, w, h)
    radius = min(w, h)
    inner = box(-w + radius, -h + radius, w - radius, h - radius) if w != h else Place(0, 0)
    return inner.buffer(radius, quad_segs=ROUND)


def _regular(diameter: float, count: int, turn: float) -> BaseGeometry:
    angles = [math.radians(turn + 360.0 * index / count) for index in range(count)]
    return Polygon([(diameter / 2 * math.cos(a), diameter / 2 * math.sin(a)) for a in angles])


def macro_aperture(body: str, arguments: Sequence[float], scale: float) -> BaseGeometry:
    """The area of a macro: its primitives one after the other, those without exposure cut out.

    `scale` is mm of a length of the file.

    Raises:
        InputError: a primitive or a sum cannot be read, or nothing is left.
    """
    values: Values = {f"v{index}": value for index, value in enumerate(arguments, start=1)}
    area: BaseGeometry = Polygon()
    blocks = [block.strip() for block in body.replace("\n", "").split("*") if block.strip()]
    if len(blocks) > MOST_PRIMITIVES:
        raise InputError(f"a macro of more than {MOST_PRIMITIVES} primitives")
    for block in blocks:
        if defined := re.fullmatch(r"\$(\d+)\s*=(.*)", block):
            values[f"v{int(defined[1])}"] = _sum(defined[2], values)
        elif not block.startswith("0"):
            code, *texts = block.split(",")
            numbers = [_sum(text, values) for text in texts if text.strip()]
            made, exposure = _primitive(code.strip(), numbers)
            area = area.union(made) if exposure else area.difference(made)
    if area.is_empty:
        raise InputError("a macro that leaves no area")
    scaled = affinity.scale(area, scale, scale, origin=(0, 0))
    if max(map(abs, scaled.bounds)) > MOST_MM:
        raise InputError("a macro of more than a metre; check the unit of the file")
    return scaled


def _sum(text: str, values: Values) -> float:
    """The value of a macro expression, where `$n` is an argument (0 if not given) and `x` multiplies."""
    plain = re.sub(r"\$(\d+)", lambda found: f"({values.get(f'v{int(found[1])}', 0.0):.9f})", text)
    return evaluate_expression(re.sub(r"[xX]", "*", plain).strip(), {}, "mm")


def _primitive(code: str, numbers: Sequence[float]) -> tuple[BaseGeometry, bool]:
    """The area of a primitive about the macro's origin, and whether it adds."""
    readers: dict[str, tuple[int, Callable[[Sequence[float]], BaseGeometry]]] = {
        "1": (4, _circle),
        "20": (6, _line),
        "21": (5, _centred),
        "4": (5, _outline),
        "5": (5, _polygon),
        "7": (5, _thermal),
    }
    if code not in readers:
        raise InputError(f"the primitive {code[:10]} of a macro is not read")
    needed, read = readers[code]
    if len(numbers) < needed:
        raise InputError(f"the primitive {code} has {len(numbers)} numbers of {needed}")
    # A thermal has no exposure: it is always there.
    return (read(numbers), True) if code == "7" else (read(numbers[1:]), numbers[0] != 0)


def _turned(area: BaseGeometry, numbers: Sequence[float], place: int) -> BaseGeometry:
    turn = numbers[place] if len(numbers) > place else 0.0
    return affinity.rotate(area, turn, origin=(0, 0)) if turn else area


def _circle(n: Sequence[float]) -> BaseGeometry:
    return _turned(Place(n[1], n[2]).buffer(abs(n[0]) / 2, quad_segs=ROUND), n, 3)


def _line(n: Sequence[float]) -> BaseGeometry:
    from shapely import LineString

    line: Any = LineString([(n[1], n[2]), (n[3], n[4])])
    return _turned(line.buffer(n[0] / 2, cap_style="flat"), n, 5)


def _centred(n: Sequence[float]) -> BaseGeometry:
    w, h, x, y = n[0] / 2, n[1] / 2, n[2], n[3]
    return _turned(box(x - w, y - h, x + w, y + h), n, 4)


def _outline(n: Sequence[float]) -> BaseGeometry:
    count = int(n[0])
    if not 3 <= count <= MOST_POINTS or len(n) < 2 * count + 3:
        raise InputError(f"an outline of {count} points with {len(n) - 1} numbers")
    points = [(n[1 + 2 * index], n[2 + 2 * index]) for index in range(count + 1)]
    area = Polygon(points)
    if not area.is_valid:
        raise InputError("an outline that crosses itself")
    return _turned(area, n, 2 * count + 3)


def _polygon(n: Sequence[float]) -> BaseGeometry:
    count = int(n[0])
    if not 3 <= count <= 12:
        raise InputError(f"a polygon of {count} corners")
    moved = affinity.translate(_regular(n[3], count, 0.0), n[1], n[2])
    return _turned(moved, n, 4)


def _thermal(n: Sequence[float]) -> BaseGeometry:
    x, y, outer, inner, gap = n[:5]
    at: Any = Place(x, y)
    ring = at.buffer(outer / 2, quad_segs=ROUND).difference(at.buffer(inner / 2, quad_segs=ROUND))
    cross = unary_union([box(x - gap / 2, y - outer, x + gap / 2, y + outer),
                         box(x - outer, y - gap / 2, x + outer, y + gap / 2)])  # fmt: skip
    return _turned(ring.difference(cross), n, 5)


def placed_form(form: Opening, x: float, y: float, turn: float, *, mirror: str = "") -> Opening:
    """A form of an aperture as it is flashed: mirrored about an axis, turned, and put at its place (mm, degrees)."""
    if form.shape != "outline":
        rotation = (-form.rotation if mirror in ("X", "Y") else form.rotation) + turn
        own_x, own_y = (-form.x if "X" in mirror else form.x), (-form.y if "Y" in mirror else form.y)
        ((dx, dy),) = rotated([(own_x, own_y)], turn)
        return Opening(x + dx, y + dy, form.width, form.height, rotation % 180, form.shape, form.corner_radius)
    sx, sy = (-1.0 if "X" in mirror else 1.0), (-1.0 if "Y" in mirror else 1.0)
    points = rotated([((px + form.x) * sx, (py + form.y) * sy) for px, py in form.outline], turn)
    ring = points[::-1] if sx * sy < 0 else points
    x0, y0, x1, y1 = bounds(ring)
    mx, my = (x0 + x1) / 2, (y0 + y1) / 2
    outline = tuple((px - mx, py - my) for px, py in ring)
    return Opening(x + mx, y + my, x1 - x0, y1 - y0, shape="outline", outline=outline)
