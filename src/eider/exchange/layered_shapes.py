"""Land patterns that are in files as shapes on layers: copper becomes pads, and what lies on it is theirs."""

import math
import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple, cast

import msgspec
from shapely import LineString, Polygon, affinity
from shapely.geometry.base import BaseGeometry

from eider.exchange.reading_hints import ReadingHints
from eider.geometry.plane import Box, Outline, Point, bounds, rotated
from eider.geometry.rounding import tidy
from eider.model.pattern import Hole, Opening, Pad, PadShape, PatternStroke

replace = msgspec.structs.replace
SAME = 0.0005
# A form of chords is the round one that it is this near to (mm).
CLOSE = 0.002
# What lies nearer to a straight side is on it: less than the first chord of a corner leaves it by.
ON_SIDE = 3e-6
# What a layer is for, by the words in its name; the first that fits.
_ROLES = (
    ("number", r"number|desig|text|label|name"),
    ("unplated", r"unplated|nonplated|npth|nptth"),
    ("hole", r"hole|drill|pth"),
    ("mask", r"mask|resist"),
    ("paste", r"paste|stencil|cream"),
    ("silkscreen", r"silk|legend|overlay"),
    ("assembly", r"assembly|\bassy|fab\b"),
    ("courtyard", r"courtyard|place_?bound"),
    ("bottom", r"(copper|pad|land|metal|cu).*(bot|back)|(bot|back).*(copper|pad|land|metal|cu)"),
    ("top", r"copper|pad|land|metal|\bcu\b|top_cu|cu_top"),
)
# What a layer can be for; of `none` nothing is read.
ROLES = ("top", "bottom", "mask", "paste", "hole", "unplated", "number", "silkscreen", "assembly", "courtyard", "none")
_LANDS = ("top", "bottom", "hole", "unplated")
LINE_ROLES = ("silkscreen", "assembly")
# The width of a line that has none (mm).
PLAIN_LINE = 0.12


class LayerForm(msgspec.Struct, frozen=True, omit_defaults=True):
    """A closed shape on a layer of a role; `number` and `component` where the file says whose pad it is."""

    role: str
    opening: Opening
    number: str = ""
    component: str = ""


class LayerText(NamedTuple):
    """A text and its place (mm)."""

    text: str
    x: float
    y: float


class LayeredShapes(msgspec.Struct, frozen=True, omit_defaults=True):
    """What a file has on its layers, mm; `lines` are open or closed lines of silkscreen and assembly by their role."""

    forms: tuple[LayerForm, ...] = ()
    texts: tuple[LayerText, ...] = ()
    lines: tuple[tuple[str, PatternStroke], ...] = ()

    def __bool__(self) -> bool:
        return bool(self.forms or self.lines)

    @property
    def has_lands(self) -> bool:
        """Whether any of them is copper, or a hole."""
        return any(form.role in _LANDS for form in self.forms)

    def __add__(self, other: "LayeredShapes") -> "LayeredShapes":
        """The shapes of two files of one pattern."""
        return LayeredShapes(self.forms + other.forms, self.texts + other.texts, self.lines + other.lines)


class LayeredPads(NamedTuple):
    """Pads with their openings and holes, and what lies on no pad or has no number."""

    pads: tuple[Pad, ...]
    log: tuple[str, ...]


def layer_role(layer: str, hints: ReadingHints) -> str:
    """What a layer is for: as the user said, else by its name; `none` where neither tells."""
    if layer in hints.layers:
        return hints.layers[layer]
    name = layer.lower().replace("-", "_").replace(" ", "_")
    return next((role for role, words in _ROLES if re.search(words, name)), "none")


def direction(start: Point, end: Point) -> float:
    """The direction of a side, in degrees counter-clockwise from +x."""
    return math.degrees(math.atan2(end[1] - start[1], end[0] - start[0])) % 360


def rectangle_of(points: Sequence[Point]) -> Opening | None:
    """The rectangle, at any angle, that four corners make; None if they make no rectangle."""
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = points
    width, height = math.hypot(x1 - x0, y1 - y0), math.hypot(x2 - x1, y2 - y1)
    is_right = abs((x1 - x0) * (x2 - x1) + (y1 - y0) * (y2 - y1)) < SAME * max(width, height)
    is_closed = math.hypot(x0 + x2 - x1 - x3, y0 + y2 - y1 - y3) < SAME
    if not is_right or not is_closed or min(width, height) <= 0:
        return None
    turn = direction(points[0], points[1])
    return Opening(tidy((x0 + x2) / 2), tidy((y0 + y2) / 2), tidy(width), tidy(height), tidy(turn))


def form_of_points(points: Sequence[Point]) -> Opening | None:
    """A closed line of chords as a rectangle or an outline about its middle; None where it encloses nothing."""
    open_ring = list(points)
    while len(open_ring) > 1 and math.dist(open_ring[0], open_ring[-1]) < 1e-9:
        open_ring.pop()
    if len(open_ring) < 3:
        return None
    if len(open_ring) == 4 and (rectangle := rectangle_of(open_ring)) is not None:
        return rectangle
    x0, y0, x1, y1 = bounds(open_ring)
    if x1 - x0 <= SAME or y1 - y0 <= SAME:
        return None
    x, y = tidy((x0 + x1) / 2), tidy((y0 + y1) / 2)
    outline: Outline = tuple((tidy(px - x), tidy(py - y)) for px, py in open_ring)
    return Opening(x, y, tidy(x1 - x0), tidy(y1 - y0), shape="outline", outline=outline)


def form_of_area(area: BaseGeometry) -> Opening | None:
    """An area of chords as the plainest form that it is within `CLOSE`; None for none, for pieces and for rings."""
    if area.geom_type != "Polygon" or area.is_empty or len(getattr(area, "interiors", ())):
        return None
    ring = [(float(x), float(y)) for x, y in area.exterior.coords]
    plain = form_of_points(_without_straight_points(ring))
    if plain is None or plain.shape != "outline" or len(plain.outline) < 8:
        return plain
    return _round_form(area) or plain


def _without_straight_points(ring: Sequence[Point]) -> list[Point]:
    """A closed line without the points that lie on the straight between their neighbours."""
    kept: list[Point] = []
    points = list(ring[:-1]) if ring[0] == ring[-1] else list(ring)
    for before, point, after in zip((points[-1], *points[:-1]), points, (*points[1:], points[0]), strict=True):
        ux, uy, vx, vy = point[0] - before[0], point[1] - before[1], after[0] - point[0], after[1] - point[1]
        if abs(ux * vy - uy * vx) > 1e-12 or ux * vx + uy * vy < 0:
            kept.append(point)
    return kept


def _round_form(area: BaseGeometry) -> Opening | None:
    """A circle, oval or rounded rectangle at any angle; None for any other shape."""
    frame = rectangle_of(list(area.minimum_rotated_rectangle.exterior.coords)[:4])
    x0, y0, x1, y1 = area.bounds
    upright = Opening(tidy((x0 + x1) / 2), tidy((y0 + y1) / 2), tidy(x1 - x0), tidy(y1 - y0))
    return next((form for box in (upright, frame) if box and (form := _round_in(area, box))), None)


def _round_in(area: BaseGeometry, frame: Opening) -> Opening | None:
    """The circle, oval or rounded rectangle that fills a frame; None if the area is something else."""
    level = affinity.rotate(area, -frame.rotation, origin=(frame.x, frame.y))
    points = [(abs(x - frame.x), abs(y - frame.y)) for x, y in level.exterior.coords]
    least = min(frame.width, frame.height) / 2
    # Corners of chords lie on the arc: where the straight side ends, it begins.
    straight = max((x for x, y in points if abs(y - frame.height / 2) < ON_SIDE), default=0.0)
    for radius in (least, round(frame.width / 2 - straight, 3)):
        if not SAME < radius <= least:
            continue
        w, h = frame.width / 2 - radius, frame.height / 2 - radius
        inner = Polygon([(-w, -h), (w, -h), (w, h), (-w, h)]) if min(w, h) > 0 else LineString([(-w, -h), (w, h)])
        shape = affinity.translate(inner.buffer(radius, quad_segs=64), frame.x, frame.y)
        if level.hausdorff_distance(shape) > CLOSE:
            continue
        is_oval = radius == least
        kind: PadShape = "rounded" if not is_oval else "circle" if max(w, h) < CLOSE else "oval"
        turn = 0.0 if kind == "circle" else frame.rotation % 180
        return Opening(frame.x, frame.y, frame.width, frame.height, turn, kind, 0.0 if is_oval else radius)
    return None


def pads_of_layers(shapes: LayeredShapes) -> LayeredPads:
    """Pads from copper, and bare holes; what lies on them is theirs, and texts on them are their numbers."""
    made: list[Pad] = []
    log: list[str] = []
    for role in ("top", "bottom"):
        for form in (f for f in shapes.forms if f.role == role):
            same = next((i for i, pad in enumerate(made) if role == "bottom" and _is_same(pad, form.opening)), None)
            if same is not None:
                made[same] = replace(made[same], layers="all")
            else:
                made.append(_as_pad(form.opening, role, form.number))
    for role in ("hole", "unplated", "mask", "paste"):
        for form in (f for f in shapes.forms if f.role == role):
            _put(made, role, form.opening, log)
    numbered = tuple(_numbered(pad, shapes.texts) for pad in made)
    if nameless := sum(1 for pad in numbered if not pad.number and pad.plated):
        log.append(f"{nameless} pads have no number: no text lies on them")
    components = {form.component for form in shapes.forms if form.component}
    if len(components) > 1:
        log.append(f"the file holds pads of {len(components)} components; all are taken as one pattern")
    return LayeredPads(numbered, tuple(log))


def strokes_of_layers(shapes: LayeredShapes, role: str) -> tuple[PatternStroke, ...]:
    """The lines of silkscreen or assembly."""
    return tuple(stroke for own, stroke in shapes.lines if own == role)


def _as_pad(form: Opening, layers: str, number: str = "") -> Pad:
    return Pad(
        number,
        form.x,
        form.y,
        form.width,
        form.height,
        rotation=form.rotation,
        shape=form.shape,
        corner_radius=form.corner_radius,
        layers=layers,
        outline=form.outline,
    )


def _is_same(pad: Pad, form: Opening) -> bool:
    return (
        pad.shape == form.shape
        and math.dist((pad.x, pad.y, pad.width, pad.height), (form.x, form.y, form.width, form.height)) < SAME
    )


def _put(made: list[Pad], role: str, form: Opening, log: list[str]) -> None:
    """A hole or opening on the pad on whose box its middle lies, the nearest one; a hole alone is a bare one."""
    near = [i for i, pad in enumerate(made) if _is_in(pad.box, form.x, form.y)]
    at = min(near, key=lambda i: math.dist((made[i].x, made[i].y), (form.x, form.y)), default=None)
    if at is None and role in ("mask", "paste"):
        # One opening over several pads is that of the first.
        at = next((i for i, pad in enumerate(made) if _is_in(form.box, pad.x, pad.y)), None)
    if role in ("hole", "unplated"):
        hole = Hole(form.width, form.height)
        if at is None:
            made.append(replace(_as_pad(form, "all"), hole=hole, plated=False))
            return
        pad = made[at]
        ((x, y),) = rotated([(form.x - pad.x, form.y - pad.y)], -pad.rotation)
        turned = round((form.rotation - pad.rotation) / 90) % 2 == 1
        size = (form.height, form.width) if turned else (form.width, form.height)
        placed = Hole(*size, *((tidy(x), tidy(y)) if math.hypot(x, y) > SAME else ()))
        made[at] = replace(pad, hole=placed, plated=role == "hole", layers="all" if role == "hole" else pad.layers)
    elif at is not None:
        pad, field = made[at], role
        known = cast("tuple[Opening, ...]", getattr(pad, field))
        if form not in known:
            made[at] = replace(pad, **{field: (*known, form)})
    else:
        log.append(f"an opening of {role} at {form.x:g}, {form.y:g} lies on no pad; left out")


def _is_in(box: Box, x: float, y: float) -> bool:
    x0, y0, x1, y1 = box
    return x0 - SAME <= x <= x1 + SAME and y0 - SAME <= y <= y1 + SAME


def _numbered(pad: Pad, texts: Iterable[LayerText]) -> Pad:
    on = [text for text in texts if text.text and not pad.number and _is_in(pad.box, text.x, text.y)]
    nearest = min(on, key=lambda text: math.dist((text.x, text.y), (pad.x, pad.y)), default=None)
    return replace(pad, number=nearest.text) if nearest else pad
