"""Pads given by hand: their sums worked out, rows, grids, circles and mirror images laid."""

import math
import re
from collections.abc import Iterator, Mapping
from typing import NamedTuple, Protocol, cast

import msgspec

from eider.errors import InputError
from eider.geometry.expressions import evaluate_expression
from eider.geometry.plane import Outline, bounds
from eider.geometry.rounding import tidy
from eider.model.outline import OutlineSpec, PadSpec
from eider.model.pattern import Hole, Pad, PadShape
from eider.packages.family import ManualPad, SheetError
from eider.packages.pads.outlines import make_outline
from eider.packages.pads.pad_shapes import cornered, corners_of, d_shape

SHAPES = ("rectangle", "rounded", "oval", "circle", "chamfered", "D", "outline")
SIDES = ("top", "bottom", "all")
NONE, WINDOWS = "none", "windows"
MOST = 5_000
_ENDING = re.compile(r"^(.*?)(\d+)$")
replace = msgspec.structs.replace


class Sum(Protocol):
    """How a text of a pad is worked out: an empty one gives the usual value (mm)."""

    def __call__(self, text: str, typical: float = 0.0) -> float:
        """The value in mm."""


class _Place(NamedTuple):
    x: float
    y: float
    turn: float
    flip_x: bool = False
    flip_y: bool = False


def make_manual_pads(
    pads: tuple[PadSpec, ...], outlines: Mapping[str, OutlineSpec], names: Mapping[str, float]
) -> tuple[ManualPad, ...]:
    """All pads of a list, in its order, mirror images after their originals.

    Raises:
        SheetError: a sum cannot be read, or gives no pad; the message names the row.
    """
    shapes = {name: _outline(name, spec, names, outlines) for name, spec in outlines.items() if _is_used(name, pads)}
    found: list[ManualPad] = []
    for row, spec in enumerate(pads, start=1):
        try:
            found += _pads_of(spec, shapes, names)
        except InputError as fault:
            raise SheetError(f"pads, row {row} ({spec.number or 'no number'}): {fault}", "pads") from fault
        if len(found) > MOST:
            raise SheetError(f"more than {MOST} pads; check the count", "pads")
    return tuple(found)


def _is_used(name: str, pads: tuple[PadSpec, ...]) -> bool:
    return any(name in (pad.outline, *pad.mask.split()[:1], *pad.paste.split()[:1]) for pad in pads)


def _outline(name: str, spec: OutlineSpec, names: Mapping[str, float], others: Mapping[str, OutlineSpec]) -> Outline:
    try:
        return make_outline(spec, names, others)
    except InputError as fault:
        raise SheetError(f"outline {name}: {fault}", f"outlines.{name}") from fault


def _pads_of(spec: PadSpec, shapes: Mapping[str, Outline], names: Mapping[str, float]) -> Iterator[ManualPad]:
    def mm(text: str, typical: float = 0.0) -> float:
        return evaluate_expression(text, names, "mm") if text.strip() else typical

    pad = _pad(spec, shapes, mm)
    openings = {what: _opening(getattr(spec, what), shapes, mm) for what in ("mask", "paste")}
    opening = ManualPad(
        pad=pad,
        mask=openings["mask"].grown,
        paste=openings["paste"].grown,
        mask_outline=openings["mask"].outline,
        paste_outline=openings["paste"].outline,
        no_mask=spec.mask.strip() == NONE,
        no_paste=spec.paste.strip() == NONE,
        windows=spec.paste.strip() == WINDOWS,
    )
    for index, place in enumerate(_places(spec, mm)):
        placed = replace(
            pad,
            number=_counted(spec.number, index),
            x=tidy(place.x),
            y=tidy(place.y),
            rotation=tidy((pad.rotation + place.turn) % 360),
        )
        if place.flip_x or place.flip_y:
            placed = _flipped(placed, place)
        yield replace(
            opening,
            pad=placed,
            mask_outline=_image(opening.mask_outline, place),
            paste_outline=_image(opening.paste_outline, place),
        )


def _pad(spec: PadSpec, shapes: Mapping[str, Outline], mm: Sum) -> Pad:
    """The pad about its own place."""
    if spec.shape not in SHAPES:
        raise InputError(f"unknown shape “{spec.shape}”; choose one of {', '.join(SHAPES)}")
    if spec.layers not in SIDES:
        raise InputError(f"unknown side “{spec.layers}”; choose one of {', '.join(SIDES)}")
    hole = _hole(spec, mm)
    if spec.outline:
        if spec.outline not in shapes:
            raise InputError(f"there is no outline “{spec.outline}”")
        outline = shapes[spec.outline]
        x0, y0, x1, y1 = bounds(outline)
        width, height, shape = x1 - x0, y1 - y0, "outline"
    else:
        width, height = _size(spec, hole, mm)
        # A bare hole is as round as it is drilled.
        is_bare = hole is not None and not spec.plated and (width, height) == (hole.width, hole.height)
        outline = () if is_bare else _cut(spec, width, height, mm)
        shape = ("circle" if width == height else "oval") if is_bare else "outline" if outline else spec.shape
    return Pad(
        spec.number,
        0,
        0,
        tidy(width),
        tidy(height),
        rotation=_degrees(spec.rotation),
        shape=cast(PadShape, shape),
        corner_radius=0.0 if outline else mm(spec.corner_radius),
        hole=hole,
        plated=spec.plated,
        layers=spec.layers,
        outline=outline,
    )


def _size(spec: PadSpec, hole: Hole | None, mm: Sum) -> tuple[float, float]:
    """Width and height of a land without an outline: as given, or by the ring round its hole."""
    ring = mm(spec.ring)
    typical = (hole.width + 2 * ring, hole.height + 2 * ring) if hole and (ring or not spec.plated) else (0.0, 0.0)
    width = mm(spec.width, typical[0])
    height = mm(spec.height, typical[1] or width)
    if hole and not spec.plated and width == 0:
        # No land at all round a post.
        width, height = hole.width, hole.height
    if width <= 0 or height <= 0:
        raise InputError(f"size {width:g} × {height:g} mm. Enter a width and a height, or an outline")
    return width, height


def _cut(spec: PadSpec, width: float, height: float, mm: Sum) -> Outline:
    """The outline of a land whose corners are cut or rounded one by one, or of a D; empty for plain shapes."""
    if spec.shape == "D":
        return d_shape(width, height, spec.corners.strip() or "right")
    if spec.shape == "chamfered" or (spec.shape == "rounded" and spec.corners.strip()):
        size = mm(spec.corner_radius, min(width, height) / 4)
        return cornered(width, height, size, corners_of(spec.corners), round_off=spec.shape == "rounded")
    return ()


def _hole(spec: PadSpec, mm: Sum) -> Hole | None:
    if not spec.hole.strip():
        return None
    width = mm(spec.hole)
    height = mm(spec.slot, width)
    if width <= 0 or height <= 0:
        raise InputError(f"hole size {width:g} × {height:g} mm. Enter a width and a height.")
    off = tidy(mm(spec.hole_x)), tidy(mm(spec.hole_y))
    # A hole in the middle is written without its place, as every other.
    return Hole(tidy(width), tidy(height), *(off if any(off) else ()))


def _degrees(text: str) -> float:
    try:
        return float(text) if text.strip() else 0.0
    except ValueError:
        raise InputError(f"“{text}” is not an angle; enter degrees") from None


class _Opening(NamedTuple):
    grown: float | None
    outline: Outline = ()


def _opening(text: str, shapes: Mapping[str, Outline], mm: Sum) -> _Opening:
    """An expansion, or an outline of its own and the expansion of that."""
    words = text.split(maxsplit=1)
    if not words or words in ([NONE], [WINDOWS]):
        return _Opening(None)
    if words[0] in shapes:
        return _Opening(mm(words[1]) if len(words) > 1 else 0.0, shapes[words[0]])
    return _Opening(mm(text))


def _image(outline: Outline, place: _Place) -> Outline:
    """An outline about its own place, mirrored as that place is."""
    sx, sy = (-1.0 if place.flip_x else 1.0), (-1.0 if place.flip_y else 1.0)
    flipped = tuple((tidy(sx * x), tidy(sy * y)) for x, y in outline)
    return flipped[::-1] if sx * sy < 0 else flipped


def _count(text: str) -> int:
    if not text.strip():
        return 1
    if not text.strip().isdecimal() or not 1 <= int(text) <= MOST:
        raise InputError(f"“{text}” is not a count; enter a whole number")
    return int(text)


def _places(spec: PadSpec, mm: Sum) -> Iterator[_Place]:
    """Rows, grids and circles about their middle, then the mirror images."""
    x, y = mm(spec.x), mm(spec.y)
    count, rows = _count(spec.count), _count(spec.rows)
    own: list[_Place] = []
    if spec.radius.strip():
        radius, start = mm(spec.radius), _degrees(spec.start)
        for i in range(count):
            at = start + 360.0 * i / count
            turned = math.radians(at)
            own.append(_Place(x + radius * math.cos(turned), y + radius * math.sin(turned), at - start))
    else:
        dx, dy, row_dx, row_dy = (mm(text) for text in (spec.dx, spec.dy, spec.row_dx, spec.row_dy))
        for r in range(rows):
            for i in range(count):
                along, across = i - (count - 1) / 2, r - (rows - 1) / 2
                own.append(_Place(x + along * dx + across * row_dx, y + along * dy + across * row_dy, 0.0))
    yield from own
    if spec.mirror not in ("", "x", "y", "both"):
        raise InputError(f"“{spec.mirror}” is not an axis to mirror about; enter x, y or both")
    images = {"": (), "x": ((1, -1),), "y": ((-1, 1),), "both": ((1, -1), (-1, 1), (-1, -1))}[spec.mirror]
    for sx, sy in images:
        for place in own:
            yield _Place(sx * place.x, sy * place.y, place.turn, sx < 0, sy < 0)


def _flipped(pad: Pad, place: _Place) -> Pad:
    """The mirror image of a pad about its own place."""
    sx, sy = (-1.0 if place.flip_x else 1.0), (-1.0 if place.flip_y else 1.0)
    turned = -pad.rotation if place.flip_x != place.flip_y else pad.rotation
    hole = pad.hole
    if hole is not None and (hole.x or hole.y):
        hole = replace(hole, x=sx * hole.x + 0.0, y=sy * hole.y + 0.0)
    return replace(pad, rotation=tidy(turned % 360), outline=_image(pad.outline, place), hole=hole)


def _counted(number: str, index: int) -> str:
    """The number of the pad so many places on; one that does not end in a number is shared by all."""
    match = _ENDING.match(number)
    return f"{match[1]}{int(match[2]) + index}" if match else number
