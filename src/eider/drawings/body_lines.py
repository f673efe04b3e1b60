"""The edges of a body in isometric view, as lines: laid over each other, two bodies show what differs."""

import math
from collections.abc import Iterator, Sequence
from typing import TypeAlias

from eider.drawings.primitives import Drawing, Line
from eider.geometry.bends import inset_outline
from eider.geometry.plane import Outline, bounds, box_outline, circle
from eider.geometry.rounding import tidy
from eider.geometry.solids import Ball, Cylinder, Prism, Revolved, Shape, Solid, SolidPlacement, Strip

Place: TypeAlias = tuple[float, float, float]
Path: TypeAlias = list[Place]
# A corner that turns by less (degrees) is part of a curve and has no edge.
SMOOTH = 25.0
ROUND = 24
_COS, _SIN = math.cos(math.radians(30)), math.sin(math.radians(30))


def body_drawing(solids: Sequence[Solid]) -> Drawing:
    """The edges of all solids, seen from above the corner at −x, −y, hidden ones too; empty without solids."""
    lines = []
    for solid in solids:
        paths = [path for shape in (solid.shape, *solid.joins, *solid.cuts) for path in _edges(shape)]
        for placement in solid.placements:
            lines += [Line(tuple(_seen(at, placement) for at in path), "assembly") for path in paths]
    points = [point for line in lines for point in line.points]
    return Drawing(tuple(lines), bounds(points) if points else (0.0, 0.0, 0.0, 0.0))


def box_drawing(low: Place, high: Place) -> Drawing:
    """The edges of the box around a body whose own edges are not known here."""
    outline = box_outline((low[0], low[1], high[0], high[1]))
    return body_drawing([Solid("box", "", Prism(outline, low[2], high[2]))])


def _seen(at: Place, placement: SolidPlacement) -> tuple[float, float]:
    cos, sin = math.cos(math.radians(placement.turn)), math.sin(math.radians(placement.turn))
    x = at[0] * cos - at[1] * sin + placement.x
    y = at[0] * sin + at[1] * cos + placement.y
    return tidy((x - y) * _COS), tidy((x + y) * _SIN + at[2] + placement.z)


def _edges(shape: Shape) -> Iterator[Path]:
    """The edges of a shape, each as a path in space (mm)."""
    if isinstance(shape, Prism):
        yield from _prism_edges(shape)
    elif isinstance(shape, Cylinder):
        yield from (_level(circle(shape.x, shape.y, shape.radius, ROUND), z) for z in (shape.z0, shape.z1))
    elif isinstance(shape, Ball):
        low, high = max(shape.z0, shape.z - shape.radius), min(shape.z1, shape.z + shape.radius)
        for z in {low, min(max(shape.z, low), high), high}:
            radius = math.sqrt(max(shape.radius**2 - (z - shape.z) ** 2, 0.0))
            yield _level(circle(shape.x, shape.y, radius, ROUND), z)
    elif isinstance(shape, Revolved):
        yield from (_level(circle(shape.x, shape.y, r, ROUND), z) for r, z in shape.profile)
    else:
        yield from _strip_edges(shape)


def _prism_edges(prism: Prism) -> Iterator[Path]:
    ends = inset_outline(prism.outline, prism.draft) if prism.draft else prism.outline
    rings = [(ends, prism.z0), *([(prism.outline, (prism.z0 + prism.z1) / 2)] if prism.draft else []), (ends, prism.z1)]
    yield from (_level(outline, z) for outline, z in rings)
    for index in _corners(prism.outline):
        yield [(*outline[index], z) for outline, z in rings]
    for pocket in prism.pockets:
        yield from _edges(pocket)


def _strip_edges(strip: Strip) -> Iterator[Path]:
    half = strip.width / 2
    for y in (-half, half):
        yield [(x, y, z) for x, z in (*strip.profile, strip.profile[0])]
    for index in _corners(strip.profile):
        x, z = strip.profile[index]
        yield [(x, -half, z), (x, half, z)]


def _level(outline: Outline, z: float) -> Path:
    return [(x, y, z) for x, y in (*outline, outline[0])]


def _corners(outline: Outline) -> Iterator[int]:
    """The points at which an outline turns by more than a curve does."""
    for index, at in enumerate(outline):
        before, after = outline[index - 1], outline[(index + 1) % len(outline)]
        turn = math.atan2(after[1] - at[1], after[0] - at[0]) - math.atan2(at[1] - before[1], at[0] - before[0])
        if abs(math.remainder(turn, math.tau)) > math.radians(SMOOTH):
            yield index
