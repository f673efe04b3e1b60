"""Hatches that tell copper, mask openings and paste apart where there is no colour: on paper, or for an eye without."""

from collections.abc import Iterator

import numpy as np
import shapely

from eider.drawings.primitives import Line, Note, Primitive
from eider.geometry.shapes import Outline, bounds, join_boxes
from eider.lands.pads import has_copper
from eider.model.address import PadAddress
from eider.model.pattern import Pattern
from eider.packages.pad_shapes import pad_outline

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
