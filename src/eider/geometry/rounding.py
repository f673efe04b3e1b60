"""Rounding to a step, once, at the end of a computation."""

import math
from collections.abc import Iterable
from typing import Literal

Direction = Literal["nearest", "up", "down"]

# Sums of floats in millimetres are off by less than this; a tie or a whole multiple is recognised within it.
NOISE = 1e-9


def round_to_step(value: float, step: float, direction: Direction = "nearest") -> float:
    """Round a length to a multiple of `step` (both in mm); a tie goes up. A step of 0 leaves it as it is."""
    if step <= 0:
        return value
    ratio = value / step
    if direction == "up":
        count = math.ceil(ratio - NOISE)
    elif direction == "down":
        count = math.floor(ratio + NOISE)
    else:
        count = math.floor(ratio + 0.5 + NOISE)
    return tidy(count * step)


def tidy(value: float) -> float:
    """A length without float noise: 6 decimals of a millimetre, and no negative zero."""
    return round(value, 6) + 0.0


def plain_digits(value: float) -> str:
    """A length (mm) or an angle (degrees) in six decimals, without a tail of noughts, as files and sums have it."""
    return f"{value:.6f}".rstrip("0").rstrip(".") if tidy(value) else "0"


def median(values: Iterable[float]) -> float:
    """The middle of some numbers, or the mean of the two in the middle.

    Raises:
        IndexError: there are none.
    """
    ordered = sorted(values)
    return (ordered[(len(ordered) - 1) // 2] + ordered[len(ordered) // 2]) / 2
