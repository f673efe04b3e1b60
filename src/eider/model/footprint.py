"""A footprint: the recipe of a land pattern, and its result."""

import msgspec

from eider.model.pattern import Level, Pattern
from eider.model.ref import Ref

FOOTPRINT_FORMAT = "eider-footprint/1"
# What an adjustment can set on a pad; positions and sizes in mm.
ADJUSTABLE = ("x", "y", "width", "height", "rotation", "shape", "number")


class Adjustment(msgspec.Struct, frozen=True, omit_defaults=True):
    """One recorded hand change: set `what` of the pad `pad` to the sum or word in `value`."""

    pad: str
    what: str
    value: str
    why: str = ""
    active: bool = True


class Footprint(msgspec.Struct, frozen=True, omit_defaults=True, kw_only=True):
    """Recipe (package sheet, rulebook, level, adjustments) and result (pattern)."""

    format: str = FOOTPRINT_FORMAT
    id: str
    name: str
    package: Ref
    rulebook: str = "standard"
    level: Level = "B"
    adjustments: tuple[Adjustment, ...] = ()
    pattern: Pattern | None = None
