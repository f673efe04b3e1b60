"""Which pads belong to which pin."""

from collections.abc import Mapping, Sequence

import msgspec

from eider.model.bundle import Bundle

replace = msgspec.structs.replace


def set_match(bundle: Bundle, pin: str, pads: Sequence[str]) -> Bundle:
    """Which pads belong to a pin; its own number alone is the rule and needs no entry."""
    match: Mapping[str, tuple[str, ...]] = {**bundle.part.match, pin: tuple(pads)}
    kept = {key: value for key, value in match.items() if value and value != (key,)}
    return replace(bundle, part=replace(bundle.part, match=kept))
