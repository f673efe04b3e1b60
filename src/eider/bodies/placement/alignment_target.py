"""What a 3D model has to stand on: the terminals of a package sheet, or the pads of any pattern."""

import msgspec

from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, join_boxes
from eider.geometry.rounding import NOISE
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pattern
from eider.packages.family import Dims, LandRecipe, Terminal
from eider.packages.registry import family_of


class TerminalPlace(msgspec.Struct, frozen=True):
    """Where one terminal stands, seen from above (mm)."""

    number: str
    box: Box

    @property
    def centre(self) -> tuple[float, float]:
        """The middle of the box."""
        return (self.box[0] + self.box[2]) / 2, (self.box[1] + self.box[3]) / 2


class AlignmentTarget(msgspec.Struct, frozen=True, kw_only=True):
    """What a model is placed on.

    Attributes:
        terminals: where terminals stand; of a pattern, its pads.
        outline: box around body and leads from above, where the sheet tells it.
        height: limits of the height above the seating plane, where the sheet tells them.
        first_pin: the terminal at which the mark of a polarised part stands.
        polarised: whether it matters which end is which.
        through_hole: whether the leads reach below the seating plane.
        has_posts: whether pins of the body without copper reach below it as well.
        mixed: whether feet stand on the board and other leads, which are not among `terminals`, go through it.
        mark_tells: whether a mark on such a part is at its first pin.
        stand_off: how far the body stays above it (mm), where the sheet tells it.
    """

    terminals: tuple[TerminalPlace, ...]
    outline: Box | None = None
    height: Limits | None = None
    first_pin: str = "1"
    polarised: bool = True
    through_hole: bool = False
    stand_off: float = 0.0
    has_posts: bool = False
    mixed: bool = False
    mark_tells: bool = True

    @property
    def first_place(self) -> tuple[float, float]:
        """Where the first terminal stands (mm); the origin where there is none of its number."""
        return next((place.centre for place in self.terminals if place.number == self.first_pin), (0.0, 0.0))


def target_of_sheet(sheet: PackageSheet) -> AlignmentTarget:
    """The terminals of a package at nominal size.

    Raises:
        SheetError: a dimension is missing.
    """
    family = family_of(sheet.family)
    dims = family.dims(sheet)
    terminals, recipe = family.terminals(sheet, dims), family.lands(sheet, dims)
    through_hole = bool(recipe.leads) or (bool(recipe.plated_holes) and not (recipe.is_mixed or recipe.bare))
    return AlignmentTarget(
        terminals=_places(terminals, recipe),
        outline=join_boxes([recipe.body, *(terminal.whole for terminal in terminals)]),
        height=_height(sheet, dims),
        first_pin=recipe.first_pin,
        polarised=recipe.polarised,
        through_hole=through_hole,
        stand_off=dims["A1"].middle if "A1" in dims else 0.0,
        has_posts=bool(recipe.posts) or any(not manual.pad.plated for manual in recipe.manual_pads),
        mixed=recipe.is_mixed,
        mark_tells=not family.unclear_mark(sheet),
    )


def _places(terminals: tuple[Terminal, ...], recipe: LandRecipe) -> tuple[TerminalPlace, ...]:
    """Where terminals stand; pads by hand all of them, also where several bear one number, such as hold-downs."""
    by_hand = [manual.pad for manual in recipe.manual_pads if manual.pad.number and manual.pad.plated]
    if recipe.is_mixed:
        # A body is measured by its feet; where leads go through the board beside them is not looked for.
        by_hand = [pad for pad in by_hand if pad.hole is None]
    laid = recipe.laid_numbers | {plate.number for plate in recipe.plates}
    others = (terminal for terminal in terminals if terminal.number in laid)
    feet = tuple(TerminalPlace(terminal.number, terminal.foot) for terminal in others)
    return (*feet, *(TerminalPlace(pad.number, pad.box) for pad in by_hand))


def _height(sheet: PackageSheet, dims: Dims) -> Limits:
    """How high a package stands: A where the body ends at it, else as the generated body; A can be a thickness too."""
    top = measure_body(body_solids(sheet)).bounds[1][2]
    if "A" in dims and abs(dims["A"].upper - top) <= NOISE:
        return dims["A"]
    return Limits(nom=top)


def target_of_pattern(pattern: Pattern) -> AlignmentTarget:
    """The pads of a pattern; of the package above them nothing is known."""
    return AlignmentTarget(
        terminals=tuple(TerminalPlace(pad.number, pad.box) for pad in pattern.pads if pad.number),
        first_pin=pattern.pads[0].number if pattern.pads else "1",
        through_hole=any(pad.hole is not None for pad in pattern.pads),
    )
