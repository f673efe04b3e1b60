"""Changes to a footprint's recipe: level, rulebook, orientation, adjustments."""

from collections.abc import Sequence

import msgspec

from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment, SilkscreenOverride
from eider.model.pattern import LEVELS, Level

replace = msgspec.structs.replace


def set_also_level(bundle: Bundle, level: Level, *, on: bool) -> Bundle:
    """Whether the part has a footprint at this level besides the chosen one."""
    others = {*bundle.footprint.also_levels} - {level}
    kept = tuple(x for x in LEVELS if x in (others | {level} if on else others))
    return replace(bundle, footprint=replace(bundle.footprint, also_levels=kept))


def set_orientation(bundle: Bundle, turn: int, *, mirrored: bool) -> Bundle:
    """How the package lies in the footprint, beyond the rulebook's orientation.

    Raises:
        InputError: the turn is not a quarter.
    """
    if turn not in (0, 90, 180, 270):
        raise InputError(f"the rotation of a footprint is 0, 90, 180 or 270 degrees, not {turn}")
    footprint = replace(bundle.footprint, turn=turn, mirrored=mirrored)
    return replace(bundle, footprint=footprint)


def set_level(bundle: Bundle, level: Level) -> Bundle:
    """Another density level."""
    return replace(bundle, footprint=replace(bundle.footprint, level=level))


def set_rulebook(bundle: Bundle, name: str) -> Bundle:
    """Another rulebook for the footprint."""
    return replace(bundle, footprint=replace(bundle.footprint, rulebook=name))


def adjust_pad(bundle: Bundle, adjustment: Adjustment) -> Bundle:
    """Record a hand change on a pad; a further one of the same thing takes its place, an empty value takes it back."""
    kept = [a for a in bundle.footprint.adjustments if (a.pad, a.what) != (adjustment.pad, adjustment.what)]
    added = [adjustment] if adjustment.value.strip() else []
    return replace(bundle, footprint=replace(bundle.footprint, adjustments=(*kept, *added)))


def set_adjustments(bundle: Bundle, adjustments: Sequence[Adjustment]) -> Bundle:
    """Replace the whole list of adjustments."""
    return replace(bundle, footprint=replace(bundle.footprint, adjustments=tuple(adjustments)))


def set_silkscreen_overrides(bundle: Bundle, overrides: Sequence[SilkscreenOverride]) -> Bundle:
    """Other changes of what surrounds the lands."""
    return replace(bundle, footprint=replace(bundle.footprint, overrides=tuple(overrides)))
