"""What the checks look at: a part, the rules it is held against, and what follows from both, worked out once."""

from functools import cached_property

from eider.errors import EiderError
from eider.lands.joints import GroupJoints, pattern_joints
from eider.lands.measure_anchors import Surroundings
from eider.lands.pattern import footprint_pattern, make_pattern, orientation_of
from eider.model.bundle import Bundle
from eider.model.library import Category, LibrarySettings
from eider.model.pattern import Pad, Pattern
from eider.packages.family import Dims, Family, LandRecipe, Terminal
from eider.packages.orientation import PackageOrientation, placed_recipe, placed_terminals
from eider.packages.registry import all_families
from eider.packages.sheet_parsing import ParsedSheet, parse_dimensions
from eider.rulebooks import Rulebook


class PartUnderCheck:
    """A part with its rules. Whatever cannot be worked out is None; a check of its own speaks of the reason."""

    def __init__(self, bundle: Bundle, rulebook: Rulebook, settings: LibrarySettings) -> None:
        self.bundle, self.rulebook, self.settings = bundle, rulebook, settings

    @cached_property
    def family(self) -> Family | None:
        """The package family; None where the sheet names none that is known."""
        return all_families().get(self.bundle.sheet.family)

    @cached_property
    def reading(self) -> ParsedSheet:
        """The dimensions read anew, with what cannot be read."""
        return parse_dimensions(self.bundle.sheet)

    @cached_property
    def dims(self) -> Dims | None:
        """The readable dimensions."""
        return self.family.dims(self.bundle.sheet) if self.family else None

    @property
    def pattern(self) -> Pattern | None:
        """The land pattern as it stands in the footprint."""
        return self.bundle.footprint.pattern

    @property
    def pads(self) -> tuple[Pad, ...]:
        """The pads of the footprint; none where it has not been computed."""
        return self.pattern.pads if self.pattern else ()

    @cached_property
    def category(self) -> Category | None:
        """The part's category in the library's settings."""
        return self.settings.categories.get(self.bundle.part.category)

    @property
    def placing(self) -> PackageOrientation:
        """How the package lies in the footprint."""
        return orientation_of(self.bundle.footprint, self.rulebook)

    @cached_property
    def recipe(self) -> LandRecipe | None:
        """What the lands should follow from."""
        try:
            if self.family and self.dims:
                return placed_recipe(self.family.lands(self.bundle.sheet, self.dims), self.placing)
            return None
        except EiderError:
            return None

    @cached_property
    def terminals(self) -> tuple[Terminal, ...]:
        """The terminals of the package; none where its sheet is not complete."""
        try:
            if self.family and self.dims:
                return placed_terminals(self.family.terminals(self.bundle.sheet, self.dims), self.placing)
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
        footprint = self.bundle.footprint
        try:
            return footprint_pattern(self.bundle.sheet, footprint, self.rulebook), ""
        except EiderError as fault:
            return None, str(fault)

    @cached_property
    def computed(self) -> Pattern | None:
        """The pattern that the equations alone would give; None where they give none."""
        try:
            return make_pattern(self.bundle.sheet, self.bundle.footprint.level, self.rulebook, placing=self.placing)
        except EiderError:
            return None

    @cached_property
    def joints(self) -> tuple[GroupJoints, ...]:
        """The solder joints of the pads as they are."""
        try:
            return pattern_joints(self.bundle.sheet, self.pads, self.rulebook, self.placing) if self.pads else ()
        except EiderError:
            return ()
