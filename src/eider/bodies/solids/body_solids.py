"""The solids of a part's body, what is known of them without a CAD kernel, and the board under them."""

import hashlib
import math
from collections.abc import Iterator, Sequence
from itertools import pairwise

import msgspec
from msgspec.structs import replace

from eider.bodies.solids.composed_solids import composed_solids
from eider.bodies.solids.materials import MaterialTable, standard_materials, with_looks
from eider.geometry.plane import Outline, bounds, box_outline, join_boxes, rotated
from eider.geometry.rounding import tidy
from eider.geometry.solids import Ball, Cylinder, Prism, Revolved, Shape, Solid, SolidPlacement, extent_fault
from eider.model.body import Body, BodyResult, Corner
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad, Pattern
from eider.packages.family import Dims, SheetError
from eider.packages.orientation import orientation_in, placed_solids
from eider.packages.pads.pad_shapes import pad_outline
from eider.packages.registry import family_of

# The class of materials that marks are made of.
INK = "ink"
# How thick copper and ink are shown under a body (mm): enough to be seen from the side.
COPPER, PRINT, BOARD = 0.035, 0.02, 0.4


def body_solids(
    sheet: PackageSheet, body: Body | None = None, materials: MaterialTable | None = None
) -> tuple[Solid, ...]:
    """The solids that the family makes of the dimensions, with the body's own choice of materials; or composed ones.

    They look as `materials` of a library says, or as the standard ones.

    Raises:
        SheetError: a dimension that the body needs is missing, or a solid would have no size.
    """
    family = family_of(sheet.family)
    dims = family.dims(sheet)
    if body is not None and body.composed:
        solids = composed_solids(body.composed, _names(dims), sheet.outlines)
    else:
        solids = tuple(family.solids(sheet, dims))
    if not solids:
        raise SheetError("the package has no terminals and no body; correct its pins or dimensions", "pins")
    for solid in solids:
        if fault := extent_fault(solid):
            raise SheetError(f"the {solid.name} of the body would have {fault}; correct the dimensions of the sheet")
    return with_looks(solids, materials or standard_materials(), body.materials if body else {})


def _names(dims: Dims) -> dict[str, float]:
    """What sums can be over: each letter at the middle of its limits, and at both of them."""
    found: dict[str, float] = {}
    for letter, limits in dims.items():
        found |= {letter: limits.middle, f"{letter}min": limits.lower, f"{letter}max": limits.upper}
    return found


def body_result(sheet: PackageSheet, body: Body) -> BodyResult:
    """The measures of a body: of its model, or of the generated solids.

    Raises:
        SheetError: the body is generated, and a dimension that it needs is missing.
    """
    if body.model is not None:
        return BodyResult(solids=body.model.measure.solids, bounds=body.model.measure.bounds)
    return measure_body(body_solids(sheet, body))


def fingerprint(solids: tuple[Solid, ...], name: str) -> str:
    """A sum over solids and name, which is in the header of the STEP file made from them."""
    # Short enough that the header's lines are not broken inside it.
    return f"solids-{hashlib.sha256(msgspec.json.encode((solids, name))).hexdigest()[:40]}"


def measure_body(solids: Sequence[Solid]) -> BodyResult:
    """Count the instances and measure the box around them, in mm; ink has no height, however thick it is drawn."""
    solid_ones = [solid for solid in solids if solid.look.kind != INK] or solids
    corners = [corner for solid in solid_ones for ends in instance_boxes(solid) for corner in ends]
    xs, ys, zs = zip(*corners, strict=True)
    low = (tidy(min(xs)), tidy(min(ys)), tidy(min(zs)))
    high = (tidy(max(xs)), tidy(max(ys)), tidy(max(zs)))
    return BodyResult(solids=sum(len(s.placements) for s in solids), bounds=(low, high))


def instance_boxes(solid: Solid) -> Iterator[tuple[Corner, Corner]]:
    """The lowest and the highest corner of the box around each instance (mm)."""
    reaches = [_reach(shape) for shape in (solid.shape, *solid.joins)]
    points = tuple(point for outline, _ in reaches for point in outline)
    low, high = min(heights[0] for _, heights in reaches), max(heights[1] for _, heights in reaches)
    boxes = {turn: bounds(rotated(points, turn)) for turn in {place.turn for place in solid.placements}}
    for place in solid.placements:
        x0, y0, x1, y1 = boxes[place.turn]
        yield (x0 + place.x, y0 + place.y, low + place.z), (x1 + place.x, y1 + place.y, high + place.z)


def _reach(shape: Shape) -> tuple[Outline, tuple[float, float]]:
    """The outline of a shape from above, and how far it reaches in z."""
    if isinstance(shape, Prism):
        return shape.outline, (shape.z0, shape.z1)
    if isinstance(shape, Cylinder):
        box = (shape.x - shape.radius, shape.y - shape.radius, shape.x + shape.radius, shape.y + shape.radius)
        return box_outline(box), (shape.z0, shape.z1)
    if isinstance(shape, Ball):
        low, high = max(shape.z0, shape.z - shape.radius), min(shape.z1, shape.z + shape.radius)
        return _square(shape.x, shape.y, _widest(shape, low, high)), (low, high)
    if isinstance(shape, Revolved):
        radii, heights = zip(*shape.profile, strict=True)
        return _square(shape.x, shape.y, max(radii)), (min(heights), max(heights))
    xs, zs = zip(*shape.profile, strict=True)
    return box_outline((min(xs), -shape.width / 2, max(xs), shape.width / 2)), (min(zs), max(zs))


def _square(x: float, y: float, half: float) -> Outline:
    return box_outline((x - half, y - half, x + half, y + half))


def _widest(ball: Ball, low: float, high: float) -> float:
    """The largest radius of a ball between two heights."""
    nearest = min(max(ball.z, low), high)
    return math.sqrt(max(ball.radius**2 - (nearest - ball.z) ** 2, 0.0))


def board_solids(pattern: Pattern) -> tuple[Solid, ...]:
    """Lands, silkscreen and a piece of board under a body, for the picture of a body on its lands."""
    boxes = [pad.box for pad in pattern.pads]
    x0, y0, x1, y1 = join_boxes([*boxes, bounds(pattern.courtyard)] if pattern.courtyard else boxes)
    edge = 0.06 * max(x1 - x0, y1 - y0)
    board = box_outline((x0 - edge, y0 - edge, x1 + edge, y1 + edge))
    ink = [
        Solid("silkscreen", "silkscreen", Prism(piece, -COPPER, -COPPER + PRINT))
        for stroke in pattern.silkscreen
        for piece in _ribbon(stroke.points, stroke.width)
    ]
    solids = (Solid("board", "board", Prism(board, -COPPER - BOARD, -COPPER)), *_land_solids(pattern), *ink)
    return with_looks(solids, standard_materials())


def _land_solids(pattern: Pattern) -> Iterator[Solid]:
    """The copper: lands of one form are one solid with many placements, so that 1,024 are meshed once."""
    alike: dict[Pad, list[SolidPlacement]] = {}
    for pad in pattern.pads:
        form = replace(pad, number="", x=0.0, y=0.0, hole=None, mask=(), paste=())
        alike.setdefault(form, []).append(SolidPlacement(pad.x, pad.y))
    for form, placements in alike.items():
        yield Solid("land", "copper", Prism(pad_outline(form), -COPPER, 0.0), tuple(placements))


def on_lands(solids: tuple[Solid, ...], pattern: Pattern | None) -> tuple[Solid, ...]:
    """A body as it stands on its lands and the board; alone where there are none."""
    return (*board_solids(pattern), *placed_solids(solids, orientation_in(pattern))) if pattern else solids


def _ribbon(points: Outline, width: float) -> Iterator[Outline]:
    """Each straight piece of a line as a rectangle of its width."""
    for (x0, y0), (x1, y1) in pairwise(points):
        length = math.dist((x0, y0), (x1, y1))
        if length > 0:
            nx, ny = (y1 - y0) / length * width / 2, (x0 - x1) / length * width / 2
            yield ((x0 + nx, y0 + ny), (x1 + nx, y1 + ny), (x1 - nx, y1 - ny), (x0 - nx, y0 - ny))
