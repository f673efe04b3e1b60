"""What the checks look at: a part, the rules it is compared with, and what follows from both, worked out once."""

from functools import cached_property

import msgspec
import numpy as np

from eider.bodies.solids.body_solids import body_result
from eider.bodies.solids.solids_measure import measure_of_body
from eider.errors import EiderError
from eider.facts.categories import category_of
from eider.geometry.shapes import FloatArray
from eider.lands.joints import GroupJoints, pattern_joints
from eider.lands.measure_anchors import Surroundings
from eider.lands.pads import has_copper
from eider.lands.pattern import footprint_pattern, make_pattern, orientation_of
from eider.lands.pattern_orientation import PatternLie, pattern_lie
from eider.lands.shape_gaps import ShapeGaps, shape_gaps
from eider.model.body import BodyResult, ModelMeasure
from eider.model.bundle import Bundle
from eider.model.library import Category, LibrarySettings
from eider.model.pattern import Pad, Pattern
from eider.model.symbol import SymbolUnit
from eider.packages.family import Dims, Family, LandRecipe, Terminal
from eider.packages.orientation import PackageOrientation, placed_recipe, placed_terminals
from eider.packages.registry import all_families
from eider.packages.sheet_parsing import ParsedSheet, parse_dimensions
from eider.rulebooks import Rulebook


class RecipeResults(msgspec.Struct, frozen=True):
    """What the recipes of a part give, or why they give nothing; they need not be run again for the checks."""

    pattern: Pattern | None
    land_fault: str
    units: tuple[SymbolUnit, ...]
    body: BodyResult | None
    body_fault: str


class PartUnderCheck:
    """A part with its rules. Whatever cannot be worked out is None; a check of its own speaks of the reason."""

    def __init__(
        self, bundle: Bundle, rulebook: Rulebook, settings: LibrarySettings, results: RecipeResults | None = None
    ) -> None:
        self.bundle, self.rulebook, self.settings = bundle, rulebook, settings
        self.results = results

    @cached_property
    def family(self) -> Family | None:
        """The package family; None where the sheet names none that is known."""
        return all_families().get(self.bundle.sheet.family)

    @cached_property
    def reading(self) -> ParsedSheet:
        """The dimensions read again, with what cannot be read."""
        return parse_dimensions(self.bundle.sheet)

    @cached_property
    def dims(self) -> Dims | None:
        """The readable dimensions."""
        return self.family.dims(self.bundle.sheet) if self.family else None

    @property
    def pattern(self) -> Pattern | None:
        """The land pattern as it is in the footprint."""
        return self.bundle.footprint.pattern

    @property
    def pads(self) -> tuple[Pad, ...]:
        """The pads of the footprint; none where it has not been computed."""
        return self.pattern.pads if self.pattern else ()

    @cached_property
    def pad_boxes(self) -> FloatArray:
        """The boxes around the pads (mm), shape (n, 4)."""
        return np.array([pad.box for pad in self.pads]).reshape(-1, 4)

    @cached_property
    def lands(self) -> tuple[Pad, ...]:
        """The pads that have copper."""
        return tuple(pad for pad in self.pads if has_copper(pad))

    @cached_property
    def land_gaps(self) -> ShapeGaps:
        """All pairs of `lands` that overlap or are nearer than the rulebook's gap."""
        return shape_gaps(self.lands, max(self.rulebook.clearances.pad_to_pad, 0.0))

    @cached_property
    def category(self) -> Category | None:
        """The part's category in the library's settings."""
        return category_of(self.settings, self.bundle.part.category)

    @property
    def orientation(self) -> PackageOrientation:
        """How the package lies in the footprint."""
        return orientation_of(self.bundle.footprint, self.rulebook)

    @cached_property
    def recipe(self) -> LandRecipe | None:
        """What the lands should follow from."""
        try:
            if self.family and self.dims:
                return placed_recipe(self.family.lands(self.bundle.sheet, self.dims), self.orientation)
            return None
        except EiderError:
            return None

    @cached_property
    def terminals(self) -> tuple[Terminal, ...]:
        """The terminals of the package; none where its sheet is not complete."""
        try:
            if self.family and self.dims:
                return placed_terminals(self.family.terminals(self.bundle.sheet, self.dims), self.orientation)
            return ()
        except EiderError:
            return ()

    @cached_property
    def surroundings(self) -> Surroundings | None:
        """What distances are measured in; None without lands."""
        return (
            Surroundings(self.pattern, self.terminals, self.recipe.body if self.recipe else None)
            if self.pads and self.pattern
            else None
        )

    @cached_property
    def fresh(self) -> tuple[Pattern | None, str]:
        """The pattern that the recipe gives now, or why it gives none."""
        if self.results is not None:
            return self.results.pattern, self.results.land_fault
        footprint = self.bundle.footprint
        try:
            return footprint_pattern(self.bundle.sheet, footprint, self.rulebook), ""
        except EiderError as fault:
            return None, str(fault)

    @cached_property
    def fresh_body(self) -> tuple[BodyResult | None, str]:
        """The measures of the body that its recipe gives now, or why it gives none."""
        if self.results is not None:
            return self.results.body, self.results.body_fault
        try:
            return body_result(self.bundle.sheet, self.bundle.body), ""
        except EiderError as fault:
            return None, str(fault)

    @cached_property
    def body_measure(self) -> ModelMeasure | None:
        """Where the body stands and what it is like, wherever it comes from; None while it cannot be made."""
        try:
            return measure_of_body(self.bundle.sheet, self.bundle.body)
        except EiderError:
            return None

    @cached_property
    def computed(self) -> Pattern | None:
        """The pattern that the equations alone would give; None where they give none."""
        try:
            return make_pattern(
                self.bundle.sheet, self.bundle.footprint.level, self.rulebook, orientation=self.orientation
            )
        except EiderError:
            return None

    @cached_property
    def pattern_lie(self) -> PatternLie | None:
        """How the pattern would have to be laid to meet its terminals; None where it lies as it should."""
        return pattern_lie(self.pads, self.terminals)

    @cached_property
    def joints(self) -> tuple[GroupJoints, ...]:
        """The solder joints of the pads as they are."""
        try:
            return pattern_joints(self.bundle.sheet, self.pads, self.rulebook, self.orientation) if self.pads else ()
        except EiderError:
            return ()
