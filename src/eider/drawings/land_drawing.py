"""The land pattern as a dimensioned drawing, package outline and leads ghosted over it."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import lru_cache

import msgspec
import numpy as np
import shapely

from eider.drawings.dimensioning import text_box
from eider.drawings.land_dimensions import land_dimensions
from eider.drawings.primitives import Area, Disc, Drawing, Line, Note, Primitive, Text, unit_note
from eider.geometry.plane import Outline, bounds, box_outline, join_boxes
from eider.lands.pads import has_copper, hole_outline
from eider.model.address import FieldAddress, PadAddress
from eider.model.pattern import Opening, Pad, Pattern
from eider.packages.family import Terminal
from eider.packages.pads.pad_shapes import pad_outline

# The angle of each hatch in degrees, and what it is called in the note under the drawing.
ANGLES = {"copper": 45.0, "mask": 0.0, "paste": 135.0}
NOTE = "hatched: copper ╱, paste ╲, mask opening ─"
# The lines of a hatch lie so far apart, as a share of the drawing's diagonal; a mask's lie wider.
SHARE, WIDER = 1 / 110, 1.7


def hatching(pattern: Pattern) -> Iterator[Primitive]:
    """The hatches of all lands, openings and paste of a pattern, and a note that explains them."""
    x0, y0, x1, y1 = join_boxes([pad.box for pad in pattern.pads])
    step = SHARE * float(np.hypot(x1 - x0, y1 - y0))
    for pad in pattern.pads:
        address = PadAddress(pad.number)
        copper = [pad_outline(pad)] if has_copper(pad) else []
        for kind, outlines in (
            ("copper", copper),
            ("mask", map(pad_outline, pad.mask)),
            ("paste", map(pad_outline, pad.paste)),
        ):
            for outline in outlines:
                apart = step * (WIDER if kind == "mask" else 1.0)
                yield from (Line(ends, f"hatch {kind}", address) for ends in hatch(outline, ANGLES[kind], apart))
    yield Note(NOTE)


def hatch(outline: Outline, degrees: float, step: float) -> list[Outline]:
    """Parallel lines inside an outline, `step` mm apart, on one grid for the whole drawing."""
    area = shapely.Polygon(outline)
    angle = np.radians(degrees)
    along, across = np.array([np.cos(angle), np.sin(angle)]), np.array([-np.sin(angle), np.cos(angle)])
    x0, y0, x1, y1 = bounds(outline)
    corners = np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
    offsets, reach = corners @ across, corners @ along
    numbers = np.arange(np.ceil(offsets.min() / step), np.floor(offsets.max() / step) + 1)
    lines = [shapely.LineString([n * step * across + t * along for t in (reach.min(), reach.max())]) for n in numbers]
    cut = shapely.intersection(lines, area) if lines else []
    return [
        tuple((float(x), float(y)) for x, y in piece.coords)
        for each in cut
        for piece in shapely.get_parts(each)
        if piece.geom_type == "LineString" and piece.length > 0
    ]


LAYERS = (
    "copper",
    "mask",
    "paste",
    "silkscreen",
    "assembly",
    "courtyard",
    "keep-out",
    "package",
    "limits",
    "hatch",
    "dimensions",
)
# What is shown at first: limits are the package at its least and most, hatch the areas as on a drawing in black.
SHOWN = frozenset(LAYERS) - {"assembly", "limits", "hatch"}


# Pad numbers are not drawn higher than this (mm), however large the pad.
LARGEST_NUMBER = 0.9


class LandOptions(msgspec.Struct, frozen=True):
    """What of a land pattern is shown: layers by name, the unit of its dimensions, pads that are lit.

    `extremes` are the terminals at the least and the most of every length, drawn as outlines.
    """

    layers: frozenset[str] = SHOWN
    unit: str = "mm"
    lit: frozenset[str] = frozenset()
    extremes: tuple[Sequence[Terminal], ...] = ()


def pattern_drawing(
    pattern: Pattern, terminals: Sequence[Terminal] = (), options: LandOptions | None = None
) -> Drawing:
    """The drawing of a pattern; `terminals` are ghosted over it at nominal size."""
    options = options or LandOptions()
    bodies = [Area(s.points[:-1], "ghost body") for s in pattern.assembly if s.role == "body"]
    painted = [
        item
        for name, paint in _PAINTED.items()
        if name in options.layers
        for item in paint(pattern, terminals, options)
    ]
    numbers = [
        Text((p.x, p.y), p.number, _number_height(p), "copper text", _address(p)) for p in pattern.pads if p.plated
    ]
    lit = [
        Line((*pad_outline(p), pad_outline(p)[0]), "lit", _address(p)) for p in pattern.pads if p.number in options.lit
    ]
    below = bodies if "package" in options.layers else []
    above = numbers if "copper" in options.layers else []
    return Drawing((*below, *painted, *above, *lit), _box(pattern))


def _paint_copper(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    for pad in pattern.pads:
        yield from _copper(pad)
    for via in pattern.vias:
        yield Disc((via.x, via.y), via.drill / 2, "hole", PadAddress(via.number))


def _paint_hatch(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from hatching(pattern)


def _paint_mask(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from (_opening(pad, opening, "mask") for pad in pattern.pads for opening in pad.mask)


def _paint_package(pattern: Pattern, terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    boxes = {pad.box for pad in pattern.pads}
    for terminal in terminals:
        # A terminal that is taken to be as its land says nothing of its own.
        if terminal.whole not in boxes:
            yield _round(terminal, "ghost") or Area(box_outline(terminal.whole), "ghost", _pad_address(terminal.number))


def _round(terminal: Terminal, role: str) -> Disc | None:
    """A round terminal as the circle that it is; None for another."""
    x0, y0, x1, y1 = terminal.whole
    if not terminal.round:
        return None
    return Disc(((x0 + x1) / 2, (y0 + y1) / 2), (x1 - x0) / 2, role, _pad_address(terminal.number))


def _paint_limits(_pattern: Pattern, _terminals: Sequence[Terminal], options: LandOptions) -> Iterator[Primitive]:
    for role, terminals in zip(("ghost least", "ghost most"), options.extremes, strict=False):
        for terminal in terminals:
            ring = box_outline(terminal.whole)
            yield _round(terminal, role) or Line((*ring, ring[0]), role, _pad_address(terminal.number))


def _paint_paste(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from (_opening(pad, opening, "paste") for pad in pattern.pads for opening in pad.paste)


def _paint_courtyard(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    if pattern.courtyard:
        yield Line((*pattern.courtyard, pattern.courtyard[0]), "courtyard", FieldAddress("lands", "courtyard"))


def _paint_silkscreen(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from (Line(s.points, "silkscreen", width=s.width) for s in pattern.silkscreen if s.points)
    yield from _texts(pattern, "silkscreen")


def _paint_assembly(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from (Line(s.points, "assembly") for s in pattern.assembly)
    yield from _texts(pattern, "assembly")


def _paint_keep_outs(pattern: Pattern, _terminals: Sequence[Terminal], _options: LandOptions) -> Iterator[Primitive]:
    yield from (
        Line((*k.outline, k.outline[0]), "keep-out", FieldAddress("lands", "keep-out")) for k in pattern.keep_outs
    )


def _paint_dimensions(pattern: Pattern, _terminals: Sequence[Terminal], options: LandOptions) -> Iterator[Primitive]:
    yield from land_dimensions(pattern, options.unit)
    yield unit_note(options.unit)


# What paints each layer, in the order in which they lie over each other.
_PAINTED: Mapping[str, Callable[[Pattern, Sequence[Terminal], LandOptions], Iterator[Primitive]]] = {
    "copper": _paint_copper, "hatch": _paint_hatch, "mask": _paint_mask, "package": _paint_package,
    "limits": _paint_limits, "paste": _paint_paste, "courtyard": _paint_courtyard, "silkscreen": _paint_silkscreen,
    "assembly": _paint_assembly, "keep-out": _paint_keep_outs, "dimensions": _paint_dimensions,
}  # fmt: skip


def _texts(pattern: Pattern, layer: str) -> list[Text]:
    return [
        Text((t.x, t.y), t.text, t.height, f"{layer} text", angle=t.angle) for t in pattern.texts if t.layer == layer
    ]


# Copper, mask, paste, number and lead of a pad all have its address, drawing after drawing.
@lru_cache(maxsize=4096)
def _pad_address(number: str) -> PadAddress:
    return PadAddress(number)


def _address(pad: Pad) -> PadAddress:
    return _pad_address(pad.number)


def _number_height(pad: Pad) -> float:
    fitting = min(0.45 * min(pad.width, pad.height), 0.7 * max(pad.width, pad.height) / max(len(pad.number), 1))
    return min(fitting, LARGEST_NUMBER)


def _opening(pad: Pad, opening: Opening, role: str) -> Line | Disc:
    """An opening; a round one as a circle, which is painted much faster than its many corners."""
    if opening.shape == "circle" and opening.width == opening.height:
        return Disc((opening.x, opening.y), opening.width / 2, role, _address(pad))
    outline = pad_outline(opening)
    return Line((*outline, outline[0]), role, _address(pad))


def _copper(pad: Pad) -> Iterator[Primitive]:
    if has_copper(pad):
        role = "copper below" if pad.layers == "bottom" else "copper"
        if pad.shape == "circle":
            yield Disc((pad.x, pad.y), pad.width / 2, role, _address(pad))
        else:
            yield Area(pad_outline(pad), role, _address(pad))
    if pad.hole is None:
        return
    role = "hole" if pad.plated else "hole bare"
    width, height = pad.hole.width, pad.hole.height
    x, y = pad.hole_centre
    if width == height:
        yield Disc((x, y), width / 2, role, _address(pad))
    else:
        yield Area(hole_outline(pad), role, _address(pad))
    if not pad.plated:
        # A hole without copper bears a cross at its centre.
        arm = 0.7 * min(width, height) / 2
        yield Line(((x - arm, y), (x + arm, y)), "hole bare", _address(pad))
        yield Line(((x, y - arm), (x, y + arm)), "hole bare", _address(pad))


def _box(pattern: Pattern) -> tuple[float, float, float, float]:
    boxes = [pad.box for pad in pattern.pads]
    if pattern.courtyard:
        boxes.append(bounds(pattern.courtyard))
    boxes += [text_box(text) for text in _texts(pattern, "silkscreen")]
    boxes += [bounds(stroke.points) for stroke in pattern.silkscreen if stroke.points]
    return join_boxes(boxes)
