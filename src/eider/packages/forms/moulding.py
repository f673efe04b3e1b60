"""Bodies that come out of a mould: they are largest where it parts, and lean in from there."""

import math

from eider.geometry.plane import Box, box_outline
from eider.geometry.rounding import tidy
from eider.geometry.solids import Prism, Solid

# Degrees by which the sides of a moulded body lean, so that it leaves its mould.
DRAFT = 7.0


def mould_draft(low: float, high: float) -> float:
    """By how much a moulded body is smaller at bottom and top than where its mould parts, at half the height (mm)."""
    return tidy(math.tan(math.radians(DRAFT)) * (high - low) / 2)


def mould_top(box: Box, low: float, high: float) -> Box:
    """The top of a moulded block, which is smaller than the box where its mould parts."""
    less = mould_draft(low, high)
    x0, y0, x1, y1 = box
    return x0 + less, y0 + less, x1 - less, y1 - less


def moulded_block(name: str, box: Box, low: float, high: float) -> Solid:
    """A moulded block from `low` to `high` (mm), as large as the box where the mould parts."""
    return Solid(name, "mould compound", Prism(box_outline(box), low, high, draft=mould_draft(low, high)))
