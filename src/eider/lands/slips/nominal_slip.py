"""A pattern computed from nominal lengths: the tolerances of the package were left out."""

from collections.abc import Callable, Iterator, Mapping, Sequence

from eider.lands.slips.pattern_slip import ComparedPattern, PatternSlip
from eider.model.pattern import LEVELS, Level, Pad

# Lands (mm) whose edges differ by no more are the same but for rounding.
ALIKE = 0.011
# The lands of a level, None where the package cannot be computed so.
LevelLands = Callable[[Level], Sequence[Pad] | None]


def nominal_slip(compared: ComparedPattern, wanted: LevelLands, nominal: LevelLands) -> Iterator[PatternSlip]:
    """The level whose lands from nominal lengths these are, where they are those of no level as it should be."""
    own = {number: have for number, (have, _want) in compared.pairs.items()}
    if not own or any(_are_alike(own, lands) for level in LEVELS if (lands := wanted(level)) is not None):
        return
    for level in LEVELS:
        lands = nominal(level)
        if lands is not None and _are_alike(own, lands):
            message = f"The lands are those of level {level} computed from nominal lengths: tolerances were left out."
            yield PatternSlip("nominal lengths", message, "Compute them with the tolerances of the datasheet.")
            return


def _are_alike(own: Mapping[str, Pad], lands: Sequence[Pad]) -> bool:
    """Whether the pads are those of a pattern."""
    shared = [(own[land.number].box, land.box) for land in lands if land.number in own]
    return bool(shared) and all(abs(a - b) <= ALIKE for one, two in shared for a, b in zip(one, two, strict=True))
