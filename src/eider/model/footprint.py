"""A footprint: the recipe of a land pattern, and its result."""

from typing import Literal

import msgspec

from eider.model.item_ref import ItemId, Ref
from eider.model.package_sheet import Dimension
from eider.model.pattern import Level, Pattern

FOOTPRINT_FORMAT = "eider-footprint/1"
# What an adjustment can set on a pad; positions and sizes in mm, `mask` and `paste` expansions or `none`.
ADJUSTABLE = (
    "x", "y", "width", "height", "rotation", "shape", "number", "corner_radius", "hole", "plated", "mask", "paste",
)  # fmt: skip

OverrideKind = Literal["hide", "mark", "line", "text", "outline", "keep-out"]
Along = Literal["x", "y", "direct", "edge to edge"]
ALONG: tuple[Along, ...] = ("x", "y", "direct", "edge to edge")


class Adjustment(msgspec.Struct, frozen=True, omit_defaults=True):
    """One recorded hand change: set `what` of the pad `pad` to the sum or word in `value`."""

    pad: str
    what: str
    value: str
    why: str = ""
    active: bool = True


class SilkscreenOverride(msgspec.Struct, frozen=True, omit_defaults=True):
    """One recorded change of what surrounds the lands; places are `x,y x,y …`, each a sum over the sheet's letters.

    Attributes:
        what: `hide` the lines of a layer or the mark, a `mark` or `line` more, a `text` (its middle), an own body
            `outline`, or a `keep-out`.
        layer: `silkscreen` or `assembly`; of an outline and of what is hidden it may be empty for both.
        text: what a text says; `mark` or `body` of what is hidden; `copper`, `vias` or `parts` of a keep-out.
        width: of a line, or the height of a text; empty as the rulebook says.
    """

    what: OverrideKind
    points: str = ""
    layer: str = ""
    text: str = ""
    width: str = ""
    why: str = ""
    active: bool = True


class SuggestedLands(msgspec.Struct, frozen=True, omit_defaults=True):
    """What the manufacturer suggests for a group of lands: the form in which the sheet gives it, and its lengths.

    Forms and letters are those of `lands.manufacturer_pattern`.
    """

    group: str
    form: str
    lengths: dict[str, Dimension] = {}


class KeptDistance(msgspec.Struct, frozen=True, omit_defaults=True):
    """A distance between two named places (`lands.measure_anchors`) that shall be what the datasheet says."""

    first: str
    second: str
    along: Along
    shall: Dimension = Dimension()

    @property
    def key(self) -> str:
        """What it is called."""
        return f"{self.first} to {self.second}, {self.along}"


class Footprint(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe (package sheet, rulebook, level, source, adjustments) and result (pattern).

    With the source `suggested` the lands are the manufacturer's, as far as these are given; both stay in the recipe.
    `turn` is in degrees counter-clockwise beyond the rulebook's orientation, after `mirrored` (left to right).
    `also_levels` are further levels at which the part has a footprint of the same recipe; `also` are their results.
    `rulebook_revision` is that of the rulebook by which the result was made.
    """

    format: str = FOOTPRINT_FORMAT
    id: ItemId
    name: str
    package: Ref
    rulebook: str = "standard"
    rulebook_revision: int = 0
    turn: Literal[0, 90, 180, 270] = 0
    mirrored: bool = False
    level: Level = "B"
    also_levels: tuple[Level, ...] = ()
    source: Literal["computed", "suggested"] = "computed"
    suggested: tuple[SuggestedLands, ...] = ()
    adjustments: tuple[Adjustment, ...] = ()
    overrides: tuple[SilkscreenOverride, ...] = ()
    distances: tuple[KeptDistance, ...] = ()
    pattern: Pattern | None = None
    also: tuple[Pattern, ...] = ()

    @property
    def has_suggestion(self) -> bool:
        """Whether lengths of the manufacturer's lands are known."""
        return any(lands.lengths for lands in self.suggested)

    @property
    def patterns(self) -> tuple[Pattern, ...]:
        """All results: that of the chosen level first."""
        return (self.pattern, *self.also) if self.pattern else ()
