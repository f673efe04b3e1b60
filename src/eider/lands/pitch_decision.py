"""The pitch of a row drawn on another grid than the datasheet's: how far the error adds up, and for how many ways."""

import math

import msgspec

from eider.geometry.rounding import NOISE


class PitchDecision(msgspec.Struct, frozen=True):
    """A row of `count` pads at the `given` pitch of the datasheet, laid at the `chosen` one (mm).

    `margin` is what the row may be off from its first pad to its last: half of what its joints have to spare, be it
    the play of leads in their holes or the side fillet above level C.
    """

    count: int
    given: float
    chosen: float
    margin: float

    @property
    def step(self) -> float:
        """The error from one pad to the next (mm), positive where the chosen pitch is wider."""
        return self.chosen - self.given

    @property
    def over_row(self) -> float:
        """The sum of the errors from the first pad to the last (mm)."""
        return self.step * (self.count - 1)

    @property
    def at_ends(self) -> float:
        """How far the first and the last pad stand off their leads once the row is centred (mm)."""
        return self.over_row / 2

    @property
    def fits(self) -> bool:
        """Whether the error over the row is within the margin."""
        return abs(self.over_row) <= self.margin + NOISE

    @property
    def most_ways(self) -> int | None:
        """The longest row that the chosen pitch fits; None where there is no error to add up."""
        return None if abs(self.step) <= NOISE else math.floor((self.margin + NOISE) / abs(self.step)) + 1


def nearest_on_grid(given: float, grid: float) -> float:
    """The pitch on a grid (mm) that is nearest to the given one; at least one step of the grid."""
    return max(1, round(given / grid)) * grid
