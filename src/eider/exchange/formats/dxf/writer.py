"""Writes land patterns as DXF: a layer for each role, closed polylines with arcs as bulges, holes as circles."""

import io
import math
from collections.abc import Sequence
from typing import Any

from eider.geometry.plane import Point, rotated
from eider.model.pattern import Opening, Pad, Pattern, PatternStroke

# The layers of a land pattern and their colours in the format's own palette.
LAYERS = {
    "COPPER_TOP": 30, "COPPER_BOTTOM": 32, "MASK_TOP": 3, "MASK_BOTTOM": 4, "PASTE_TOP": 8, "SILKSCREEN_TOP": 7,
    "ASSEMBLY": 9, "COURTYARD": 5, "HOLES": 1, "HOLES_UNPLATED": 6, "PAD_NUMBERS": 2,
}  # fmt: skip
COPPER = {"top": ("COPPER_TOP",), "bottom": ("COPPER_BOTTOM",), "all": ("COPPER_TOP", "COPPER_BOTTOM")}
MASK = {"top": ("MASK_TOP",), "bottom": ("MASK_BOTTOM",), "all": ("MASK_TOP", "MASK_BOTTOM")}
# An arc of a quarter and of a half circle, as the tangent of a quarter of its angle.
QUARTER, HALF = math.tan(math.pi / 8), 1.0
_MILLIMETRES = 4
# A point of an outline with the bulge of the arc to the next one.
BulgedPoint = tuple[float, float, float]


def dxf_text(pattern: Pattern) -> str:
    """The file of a land pattern, in mm, y up, the origin that of the pattern."""
    from ezdxf import options  # type: ignore[attr-defined]  # it is exported, without being declared
    from ezdxf.filemanagement import new

    # Without times and random marks: the same pattern gives the same file.
    options.write_fixed_meta_data_for_testing = True
    document: Any = new("R2010")
    document.header["$INSUNITS"] = _MILLIMETRES
    for name, colour in LAYERS.items():
        document.layers.add(name, color=colour)
    space = document.modelspace()
    for pad in pattern.pads:
        _pad(space, pad)
    for layer, strokes in (("SILKSCREEN_TOP", pattern.silkscreen), ("ASSEMBLY", pattern.assembly)):
        for stroke in strokes:
            _stroke(space, layer, stroke)
    if pattern.courtyard:
        _closed(space, "COURTYARD", [(x, y, 0.0) for x, y in pattern.courtyard])
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue()


def _pad(space: Any, pad: Pad) -> None:
    hole = pad.hole
    has_land = pad.plated or hole is None or (pad.width, pad.height) != (hole.width, hole.height)
    for layer in COPPER[pad.layers] if has_land else ():
        _form(space, layer, pad)
    for layers, openings in ((MASK[pad.layers], pad.mask), (("PASTE_TOP",), pad.paste)):
        for layer in layers:
            for opening in openings:
                _form(space, layer, opening)
    if hole is not None:
        x, y = pad.hole_centre
        layer = "HOLES" if pad.plated else "HOLES_UNPLATED"
        slot = Opening(x, y, hole.width, hole.height, pad.rotation, "circle" if hole.width == hole.height else "oval")
        _form(space, layer, slot)
    if pad.number:
        about = {"layer": "PAD_NUMBERS", "height": max(min(pad.width, pad.height) / 2, 0.05)}
        space.add_text(pad.number, dxfattribs=about).set_placement((pad.x, pad.y))


def _form(space: Any, layer: str, form: Pad | Opening) -> None:
    if form.shape == "circle":
        space.add_circle((form.x, form.y), form.width / 2, dxfattribs={"layer": layer})
        return
    local = _local_points(form)
    places = rotated([(x, y) for x, y, _bulge in local], form.rotation)
    points = [(x + form.x, y + form.y, bulge) for (x, y), (_x, _y, bulge) in zip(places, local, strict=True)]
    _closed(space, layer, points)


def _local_points(form: Pad | Opening) -> list[BulgedPoint]:
    """The outline of a form about its own place, counter-clockwise from its lower left."""
    if form.shape == "outline":
        return [(x, y, 0.0) for x, y in form.outline]
    w, h = form.width / 2, form.height / 2
    radius = {"rounded": form.corner_radius, "oval": min(w, h)}.get(form.shape, 0.0)
    if radius <= 0:
        return [(-w, -h, 0.0), (w, -h, 0.0), (w, h, 0.0), (-w, h, 0.0)]
    if form.shape == "oval":
        return _oval(w, h)
    x, y = w - radius, h - radius
    corners: list[BulgedPoint] = [
        (-x, -h, 0.0), (x, -h, QUARTER), (w, -y, 0.0), (w, y, QUARTER), (x, h, 0.0), (-x, h, QUARTER), (-w, y, 0.0),
        (-w, -y, QUARTER),
    ]  # fmt: skip
    return corners


def _oval(w: float, h: float) -> list[BulgedPoint]:
    if w >= h:
        return [(h - w, -h, 0.0), (w - h, -h, HALF), (w - h, h, 0.0), (h - w, h, HALF)]
    return [(w, w - h, 0.0), (w, h - w, HALF), (-w, h - w, 0.0), (-w, w - h, HALF)]


def _closed(space: Any, layer: str, points: Sequence[BulgedPoint]) -> None:
    space.add_lwpolyline(points, format="xyb", close=True, dxfattribs={"layer": layer})


def _stroke(space: Any, layer: str, stroke: PatternStroke) -> None:
    points: list[Point] = list(stroke.points)
    space.add_lwpolyline(points, format="xy", dxfattribs={"layer": layer, "const_width": stroke.width})
