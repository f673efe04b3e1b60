"""The solids of a composed body: their sums worked out, rows laid, mirror images made, cuts put to what they cut."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Literal, cast

import msgspec

from eider.errors import InputError
from eider.geometry.expressions import evaluate_expression, evaluate_points
from eider.geometry.plane import Outline, box_outline, rotated
from eider.geometry.rounding import tidy
from eider.geometry.solids import Ball, Cylinder, EdgeTreatment, Prism, Revolved, Shape, Solid, SolidPlacement, Strip
from eider.model.body import ComposedSolid
from eider.model.outline import OutlineSpec
from eider.packages.family import SheetError
from eider.packages.orientation import mirrored_shape
from eider.packages.pads.outlines import make_outline

SHAPES = ("box", "cylinder", "ball", "prism", "strip", "revolved")
# Their mirror images are the same shape.
SYMMETRIC = frozenset({"box", "cylinder", "ball", "revolved"})
EDGES = ("", "top", "upright", "all")
MIRRORS = ("", "x", "y", "both")
MOST = 2000
replace = msgspec.structs.replace


class _Sums:
    """Works out the texts of one row."""

    def __init__(self, names: Mapping[str, float], outlines: Mapping[str, OutlineSpec]) -> None:
        self._names, self._outlines = names, outlines

    def mm(self, text: str, typical: float = 0.0) -> float:
        """A sum (mm); an empty one is the usual value."""
        return evaluate_expression(text, self._names, "mm") if text.strip() else typical

    def needed(self, text: str, what: str) -> float:
        """A sum that has to be there."""
        if not text.strip():
            raise InputError(f"{what} is missing")
        return self.mm(text)

    def outline(self, text: str) -> Outline:
        """Places, or an outline of the sheet by its name."""
        if text.strip() in self._outlines:
            return make_outline(self._outlines[text.strip()], self._names, self._outlines)
        points = evaluate_points(text, self._names)
        if len(points) < 3:
            raise InputError("an outline needs three places or more, or the name of an outline of the sheet")
        return points


def composed_solids(
    rows: Sequence[ComposedSolid], names: Mapping[str, float], outlines: Mapping[str, OutlineSpec]
) -> tuple[Solid, ...]:
    """The solids of a list, in its order; `names` are the letters of the sheet in mm.

    Raises:
        SheetError: a sum cannot be read, or gives no solid; the message names the row.
    """
    sums, found = _Sums(names, outlines), list[Solid]()
    for number, row in enumerate(rows, start=1):
        try:
            made = _combined(found, row, sums) if row.cuts or row.joins else [*found, *_solids(row, sums)]
        except InputError as fault:
            raise SheetError(f"solids, row {number} ({row.name or 'no name'}): {fault}", "composed") from fault
        found = made
    return tuple(found)


def _solids(row: ComposedSolid, sums: _Sums) -> Iterator[Solid]:
    """A row of solids, and their mirror images; those that look the same are one solid with more instances."""
    shape, edges = _shape(row, sums), _edges(row, sums)
    places = list(_places(row, sums))
    images = list[SolidPlacement]()
    if row.mirror not in MIRRORS:
        raise InputError(f"unknown mirror “{row.mirror}”; choose x, y or both")
    turned = list(places)
    if row.mirror == "both":
        turned += [_placement(-p.x, -p.y, p.z, p.turn + 180) for p in places]
    if row.mirror in ("x", "both"):
        images += [_placement(p.x, -p.y, p.z, 180 - p.turn) for p in places]
    if row.mirror in ("y", "both"):
        images += [_placement(-p.x, p.y, p.z, -p.turn) for p in places]
    if row.shape in SYMMETRIC:
        yield Solid(row.name, row.material, shape, tuple(dict.fromkeys((*turned, *images))), edges)
        return
    yield Solid(row.name, row.material, shape, tuple(turned), edges)
    if images:
        yield Solid(row.name, row.material, mirrored_shape(shape), tuple(images), edges)


def _placement(x: float, y: float, z: float, turn: float) -> SolidPlacement:
    return SolidPlacement(tidy(x), tidy(y), tidy(z), tidy(turn % 360))


def _places(row: ComposedSolid, sums: _Sums) -> Iterator[SolidPlacement]:
    count = _count(row.count)
    x, y, z = sums.mm(row.x), sums.mm(row.y), sums.mm(row.z)
    dx, dy, turn = sums.mm(row.dx), sums.mm(row.dy), _degrees(row.turn)
    for index in range(count):
        along = index - (count - 1) / 2
        yield _placement(x + along * dx, y + along * dy, z, turn)


def _count(text: str) -> int:
    if not text.strip():
        return 1
    if not text.strip().isdecimal() or not 1 <= int(text) <= MOST:
        raise InputError(f"a count is a whole number from 1 to {MOST}, not “{text[:20]}”")
    return int(text)


def _degrees(text: str) -> float:
    try:
        return float(text) % 360 if text.strip() else 0.0
    except ValueError:
        raise InputError(f"a turn is a number of degrees, not “{text[:20]}”") from None


def _shape(row: ComposedSolid, sums: _Sums) -> Shape:
    """The shape about its own middle, standing at zero."""
    if row.shape == "box":
        length, width = sums.needed(row.length, "the length"), sums.needed(row.width, "the width")
        box = (-length / 2, -width / 2, length / 2, width / 2)
        return Prism(box_outline(box), 0.0, sums.needed(row.height, "the height"))
    if row.shape == "cylinder":
        radius = sums.needed(row.length, "the length, which is the diameter,") / 2
        return Cylinder(0.0, 0.0, radius, 0.0, sums.needed(row.height, "the height"))
    if row.shape == "ball":
        radius = sums.needed(row.length, "the length, which is the diameter,") / 2
        return Ball(0.0, 0.0, radius, radius, 0.0, sums.mm(row.height, 2 * radius))
    if row.shape == "prism":
        return Prism(sums.outline(row.outline), 0.0, sums.needed(row.height, "the height"))
    if row.shape == "strip":
        return Strip(sums.outline(row.outline), sums.needed(row.width, "the width"))
    if row.shape == "revolved":
        return Revolved(sums.outline(row.outline))
    raise InputError(f"unknown shape “{row.shape[:20]}”; choose one of {', '.join(SHAPES)}")


def _edges(row: ComposedSolid, sums: _Sums) -> EdgeTreatment | None:
    if row.edges not in EDGES:
        raise InputError(f"unknown edges “{row.edges[:20]}”; choose top, upright or all")
    if not row.edges:
        return None
    size = sums.needed(row.corner, "the radius or chamfer of the edges")
    if size <= 0:
        raise InputError("the radius or chamfer of the edges must be more than 0 mm")
    return EdgeTreatment(cast(Literal["top", "upright", "all"], row.edges), size, row.chamfered)


def _combined(solids: list[Solid], row: ComposedSolid, sums: _Sums) -> list[Solid]:
    """The solid before is cut by every instance of this one, or is one with all of them, in the frame of its own."""
    if not solids:
        raise InputError("there is no solid before it that it could cut or join")
    if row.cuts and row.joins:
        raise InputError("it can cut the solid before it or join it, not both")
    if row.edges:
        raise InputError("edges are those of the solid before it; treat them there")
    (*before, first) = solids
    if len(first.placements) != 1 or first.placements[0].turn:
        raise InputError(f"{first.name} stands more than once or is turned; cut or join solids that stand once")
    home = first.placements[0]
    others = [
        moved_shape(solid.shape, place.x - home.x, place.y - home.y, place.z - home.z, place.turn)
        for solid in _solids(row, sums)
        for place in solid.placements
    ]
    if row.joins and first.cuts:
        raise InputError(f"{first.name} is cut before this one joins it; move this row up")
    field = "cuts" if row.cuts else "joins"
    return [*before, replace(first, **{field: (*getattr(first, field), *others)})]


def moved_shape(shape: Shape, x: float, y: float, z: float, turn: float) -> Shape:
    """A shape turned about the origin (degrees), then moved (mm).

    Raises:
        InputError: it is a strip, which only lies along the axes.
    """
    if isinstance(shape, Strip):
        raise InputError("a strip cannot cut or join; use a prism")
    if isinstance(shape, Prism):
        outline = tuple((tidy(px + x), tidy(py + y)) for px, py in rotated(shape.outline, turn))
        return replace(shape, outline=outline, z0=shape.z0 + z, z1=shape.z1 + z)
    if isinstance(shape, Cylinder):
        return replace(shape, x=shape.x + x, y=shape.y + y, z0=shape.z0 + z, z1=shape.z1 + z)
    if isinstance(shape, Ball):
        return replace(shape, x=shape.x + x, y=shape.y + y, z=shape.z + z, z0=shape.z0 + z, z1=shape.z1 + z)
    return Revolved(tuple((r, height + z) for r, height in shape.profile), shape.x + x, shape.y + y)
