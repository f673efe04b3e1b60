"""Measures a body of simple solids as a model is measured: where it stands, on what, and where its mark is."""

import math
from bisect import bisect_left
from collections.abc import Iterator, Sequence

from eider.bodies.placement.alignment_target import AlignmentTarget, TerminalPlace, target_of_sheet
from eider.bodies.placement.contacts import COPLANAR
from eider.bodies.solids.body_solids import INK, body_solids, instance_boxes, measure_body
from eider.geometry.plane import Box, bounds, rotated
from eider.geometry.rounding import tidy
from eider.geometry.solids import Ball, Solid, SolidPlacement, Strip
from eider.model.body import Body, ModelMeasure, ModelTerminal
from eider.model.package_sheet import PackageSheet

# The class of materials that terminals are made of.
METAL = "metal"


def measure_of_body(sheet: PackageSheet, body: Body) -> ModelMeasure:
    """Where a body stands and what it is like, wherever it comes from: its model, composed solids or the sheet.

    Raises:
        SheetError: the body is generated or composed, and a dimension that it needs is missing.
    """
    if body.model is not None:
        return body.model.measure
    return measure_solids(body_solids(sheet, body), target_of_sheet(sheet))


def measure_solids(solids: Sequence[Solid], target: AlignmentTarget) -> ModelMeasure:
    """What a body of solids stands on; a terminal of the package is met by the metal whose foot lies nearest to it.

    Lengths in mm; of leads through the board the foot is their section, and they are not what the body stands on.
    """
    result = measure_body(solids)
    feet = list(_feet(solids, target))
    mark = _marked_terminal(solids, target)
    is_found = not mark or mark == target.first_pin
    return ModelMeasure(
        bounds=result.bounds,
        seating=_seating(solids, target),
        terminals=tuple(_terminals(feet, target)),
        solids=result.solids,
        colours=len({solid.look.colour for solid in solids}),
        score=1.0,
        pin1="found" if is_found else "ambiguous",
        mark_at="" if is_found else mark,
    )


def _seating(solids: Sequence[Solid], target: AlignmentTarget) -> float:
    """The height of the seating plane: of the lowest solid, or of the lowest metal beside posts.

    A body with leads through the board is carried by its stand-off.
    """
    lows = [(low, solid.look.kind == METAL) for solid in solids if solid.look.kind != INK for low, _ in _heights(solid)]
    if target.through_hole or target.mixed:
        return tidy(min((low for low, _ in lows if low > -COPLANAR), default=0.0) - target.stand_off)
    metal = [low for low, is_metal in lows if is_metal]
    return tidy(min(metal if target.has_posts and metal else [low for low, _ in lows], default=0.0))


def _heights(solid: Solid) -> Iterator[tuple[float, float]]:
    for low, high in instance_boxes(solid):
        yield low[2], high[2]


def _feet(solids: Sequence[Solid], target: AlignmentTarget) -> Iterator[Box]:
    """What of the metal stands on the board, or goes through it, seen from above."""
    metal = [solid for solid in solids if solid.look.kind == METAL]
    lows = [low for solid in metal for low, _ in _heights(solid)]
    lowest = min((low for low in lows if not target.mixed or low > -COPLANAR), default=0.0)
    for solid in metal:
        for place, (low, high) in zip(solid.placements, instance_boxes(solid), strict=True):
            stands = low[2] < -COPLANAR if target.through_hole else abs(low[2] - lowest) <= COPLANAR
            if stands:
                yield _foot(solid, place) or (low[0], low[1], high[0], high[1])


def _foot(solid: Solid, place: SolidPlacement) -> Box | None:
    """The lowest part of a bent strip or a ball; None where the whole of a shape stands."""
    shape = solid.shape
    if isinstance(shape, Ball):
        x, y = rotated(((shape.x, shape.y),), place.turn)[0]
        return x + place.x, y + place.y, x + place.x, y + place.y
    if not isinstance(shape, Strip):
        return None
    lowest = min(z for _, z in shape.profile)
    xs = [x for x, z in shape.profile if z <= lowest + COPLANAR]
    corners = tuple((x, y) for x in (min(xs), max(xs)) for y in (-shape.width / 2, shape.width / 2))
    x0, y0, x1, y1 = bounds(rotated(corners, place.turn))
    return x0 + place.x, y0 + place.y, x1 + place.x, y1 + place.y


def _terminals(feet: Sequence[Box], target: AlignmentTarget) -> Iterator[ModelTerminal]:
    """For each terminal of the package the foot that meets it, where one does."""
    by_place = _Nearest(feet)
    for place in target.terminals:
        foot = by_place.meeting(place)
        if foot is not None:
            x0, y0, x1, y1 = map(tidy, foot)
            yield ModelTerminal(place.number, (x0, y0, x1, y1))


class _Nearest:
    """Feet sorted by their place, so that that of a terminal is found without looking through all."""

    def __init__(self, feet: Sequence[Box]) -> None:
        self._feet = sorted(feet)
        self._widest = max((foot[2] - foot[0] for foot in feet), default=0.0)

    def meeting(self, place: TerminalPlace) -> Box | None:
        x0, _, x1, _ = place.box
        first = _first_at(self._feet, x0 - self._widest - COPLANAR)
        best, least = None, math.inf
        for foot in self._feet[first:]:
            if foot[0] > x1 + COPLANAR:
                break
            centre = (foot[0] + foot[2]) / 2, (foot[1] + foot[3]) / 2
            distance = math.dist(centre, place.centre)
            if distance < least and _meet(foot, place.box):
                best, least = foot, distance
        return best


def _first_at(feet: Sequence[Box], x: float) -> int:
    return bisect_left(feet, (x, -math.inf, -math.inf, -math.inf))


def _meet(a: Box, b: Box) -> bool:
    return a[0] <= b[2] + COPLANAR and b[0] <= a[2] + COPLANAR and a[1] <= b[3] + COPLANAR and b[1] <= a[3] + COPLANAR


def _marked_terminal(solids: Sequence[Solid], target: AlignmentTarget) -> str:
    """The terminal at which the ink on the body lies: the first one, or one that lies as its mirror image.

    Empty where there is no ink, or it tells nothing.
    """
    marks = [ends for solid in solids if solid.look.kind == INK for ends in instance_boxes(solid)]
    if len(marks) != 1 or not target.terminals or not target.polarised or not target.mark_tells:
        return ""
    ((low, high),) = marks
    at = (low[0] + high[0]) / 2, (low[1] + high[1]) / 2
    x, y = target.first_place
    images = [(x, y), (-x, y), (x, -y), (-x, -y)]
    # The first comes before those that are as near.
    image = min(images, key=lambda place: round(math.dist(place, at), 3))
    return min(target.terminals, key=lambda place: math.dist(place.centre, image)).number
