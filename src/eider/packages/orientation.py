"""A package turned by quarters or seen from below: its terminals, recipe and solids in the frame of the footprint.

A turn is counter-clockwise, after the mirroring, which exchanges left and right.
"""

from collections.abc import Iterable

import msgspec

from eider.errors import InputError
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, Point, bounds, box_outline, mirrored
from eider.geometry.solids import Ball, Cylinder, Prism, Revolved, Shape, Solid, SolidPlacement
from eider.model.package_sheet import Dimension, PackageSheet, Post
from eider.model.pattern import Pad, Pattern
from eider.packages.family import BallGrid, FloatArray, LandRecipe, Leads, ManualPad, OpposedRows, Plate, Terminal
from eider.packages.registry import family_of

replace = msgspec.structs.replace


class PackageOrientation(msgspec.Struct, frozen=True):
    """How a package lies in its footprint: quarters of a turn counter-clockwise, and whether it is mirrored before."""

    quarters: int = 0
    mirrored: bool = False

    @property
    def turn(self) -> int:
        """The turn in degrees, from 0 to 270."""
        return 90 * (self.quarters % 4)

    @property
    def is_plain(self) -> bool:
        """Whether the package lies as its family has it."""
        return self.quarters % 4 == 0 and not self.mirrored

    def point(self, at: Point) -> Point:
        """Where a point of the package comes to lie."""
        x, y = (-at[0], at[1]) if self.mirrored else at
        for _ in range(self.quarters % 4):
            x, y = -y, x
        return x + 0.0, y + 0.0

    def outline(self, points: Iterable[Point]) -> Outline:
        """The same for an outline."""
        return tuple(self.point(at) for at in points)

    def box(self, box: Box) -> Box:
        """The same for a box."""
        return bounds(self.outline(box_outline(box)))

    def places(self, x: FloatArray, y: FloatArray) -> tuple[FloatArray, FloatArray]:
        """The same for places as two arrays of shape (n,)."""
        x = -x if self.mirrored else x
        for _ in range(self.quarters % 4):
            x, y = -y, x
        return x + 0.0, y + 0.0

    @property
    def swaps(self) -> bool:
        """Whether what lies along x comes to lie along y."""
        return self.quarters % 2 == 1


def placed_recipe(recipe: LandRecipe, orientation: PackageOrientation) -> LandRecipe:
    """What the lands follow from, as the package lies in the footprint."""
    if orientation.is_plain:
        return recipe
    return replace(
        recipe,
        rows=tuple(_rows(rows, orientation) for rows in recipe.rows),
        plates=tuple(_plate(plate, orientation) for plate in recipe.plates),
        grids=tuple(_grid(grid, orientation) for grid in recipe.grids),
        leads=tuple(_leads(leads, orientation) for leads in recipe.leads),
        posts=tuple(_post(post, orientation) for post in recipe.posts),
        manual_pads=tuple(_placed_manual_pad(pad, orientation) for pad in recipe.manual_pads),
        keep_outs=tuple(replace(kept, outline=orientation.outline(kept.outline)) for kept in recipe.keep_outs),
        corner=orientation.point(recipe.corner),
        body=orientation.box(recipe.body),
        body_max=orientation.box(recipe.body_max),
    )


def placed_terminals(terminals: tuple[Terminal, ...], orientation: PackageOrientation) -> tuple[Terminal, ...]:
    """The terminals as they lie in the footprint."""
    if orientation.is_plain:
        return terminals
    return tuple(replace(t, foot=orientation.box(t.foot), whole=orientation.box(t.whole)) for t in terminals)


def orientation_in(pattern: Pattern) -> PackageOrientation:
    """How the package lies in a pattern."""
    return PackageOrientation(pattern.turn // 90, pattern.mirrored)


def terminals_on(sheet: PackageSheet, pattern: Pattern) -> tuple[Terminal, ...]:
    """The terminals of a package as they stand on a pattern; raises SheetError where a dimension is missing."""
    family = family_of(sheet.family)
    return placed_terminals(family.terminals(sheet, family.dims(sheet)), orientation_in(pattern))


def extreme_terminals(sheet: PackageSheet, pattern: Pattern) -> tuple[tuple[Terminal, ...], tuple[Terminal, ...]]:
    """The terminals on a pattern at the least and at the most of every length; none where these give no package."""
    found = []
    for end in ("lower", "upper"):
        dims = {key: _exactly(value, end) for key, value in sheet.dims.items()}
        try:
            found.append(terminals_on(replace(sheet, dims=dims), pattern))
        except InputError:
            found.append(())
    return found[0], found[1]


def _exactly(dimension: Dimension, end: str) -> Dimension:
    if dimension.limits is None:
        return dimension
    return Dimension(limits=Limits(nom=getattr(dimension.limits, end)))


def _rows(rows: OpposedRows, orientation: PackageOrientation) -> OpposedRows:
    """First and second keep their meaning: the first row lies left, or on top."""
    first, second = (rows.first, rows.at_first), (rows.second, rows.at_second)
    axis = rows.axis
    if orientation.mirrored:
        if axis == "x":
            first, second = second, first
        else:
            first, second = ((numbers, -at) for numbers, at in (first, second))
    for _ in range(orientation.quarters % 4):
        if axis == "x":
            # Left comes to lie at the bottom, and what was up comes to lie left.
            first, second = ((numbers, -at) for numbers, at in (second, first))
            axis = "y"
        else:
            axis = "x"
    return replace(
        rows, axis=axis, first=first[0], at_first=first[1] + 0.0, second=second[0], at_second=second[1] + 0.0
    )


def _plate(plate: Plate, orientation: PackageOrientation) -> Plate:
    x, y = orientation.point((plate.x, plate.y))
    width, height = (plate.height, plate.width) if orientation.swaps else (plate.width, plate.height)
    corner = orientation.point(plate.corner)
    return replace(plate, x=x, y=y, width=width, height=height, corner=corner)


def _grid(grid: BallGrid, orientation: PackageOrientation) -> BallGrid:
    x, y = orientation.places(grid.x, grid.y)
    if orientation.swaps and grid.height is not None:
        return replace(grid, x=x, y=y, size=grid.height, height=grid.size)
    return replace(grid, x=x, y=y)


def _leads(leads: Leads, orientation: PackageOrientation) -> Leads:
    x, y = orientation.places(leads.x, leads.y)
    along = ("y" if leads.along == "x" else "x") if orientation.swaps else leads.along
    return replace(leads, x=x, y=y, along=along)


def _post(post: Post, orientation: PackageOrientation) -> Post:
    x, y = orientation.point((post.x, post.y))
    if orientation.swaps and post.height:
        return replace(post, x=x, y=y, diameter=post.height, height=post.diameter)
    return replace(post, x=x, y=y)


def _placed_manual_pad(manual: ManualPad, orientation: PackageOrientation) -> ManualPad:
    return replace(
        manual,
        pad=placed_pad(manual.pad, orientation),
        mask_outline=_mirrored_outline(manual.mask_outline, orientation),
        paste_outline=_mirrored_outline(manual.paste_outline, orientation),
    )


def _mirrored_outline(outline: Outline, orientation: PackageOrientation) -> Outline:
    """An outline about a pad's own place, which turns with the pad."""
    return mirrored(outline) if orientation.mirrored else outline


def placed_pad(pad: Pad, orientation: PackageOrientation) -> Pad:
    """A pad as it lies in the footprint; openings that it has already are not moved."""
    x, y = orientation.point((pad.x, pad.y))
    turn = (-pad.rotation if orientation.mirrored else pad.rotation) + orientation.turn
    outline = _mirrored_outline(pad.outline, orientation)
    hole = pad.hole
    if hole is not None and hole.x and orientation.mirrored:
        hole = replace(hole, x=-hole.x)
    return replace(pad, x=x, y=y, rotation=turn % 360 + 0.0, outline=outline, hole=hole)


def placed_solids(solids: tuple[Solid, ...], orientation: PackageOrientation) -> tuple[Solid, ...]:
    """The solids as they stand on the lands."""
    if orientation.is_plain:
        return solids
    return tuple(
        replace(
            solid,
            shape=mirrored_shape(solid.shape) if orientation.mirrored else solid.shape,
            cuts=tuple(map(mirrored_shape, solid.cuts)) if orientation.mirrored else solid.cuts,
            joins=tuple(map(mirrored_shape, solid.joins)) if orientation.mirrored else solid.joins,
            placements=tuple(_placement(place, orientation) for place in solid.placements),
        )
        for solid in solids
    )


def _placement(place: SolidPlacement, orientation: PackageOrientation) -> SolidPlacement:
    x, y = orientation.point((place.x, place.y))
    turn = (-place.turn if orientation.mirrored else place.turn) + orientation.turn
    return SolidPlacement(x, y, place.z, turn % 360 + 0.0)


def mirrored_shape(shape: Shape) -> Shape:
    """The shape with left and right exchanged."""
    if isinstance(shape, Prism):
        return replace(shape, outline=mirrored(shape.outline), pockets=tuple(replace(p, x=-p.x) for p in shape.pockets))
    if isinstance(shape, Cylinder | Ball | Revolved):
        return replace(shape, x=-shape.x + 0.0)
    bends = tuple(((-x + 0.0, z), radius) for (x, z), radius in shape.bends)
    return replace(shape, profile=mirrored(shape.profile), bends=bends)
