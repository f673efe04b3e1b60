"""How good an arrangement is, in figures: shape of the body, balance of its sides, groups that were torn apart."""

from collections import Counter
from collections.abc import Sequence

import msgspec

from eider.model.symbol import Pin, SymbolUnit


class Quality(msgspec.Struct, frozen=True):
    """Height over width of the body; pins on each side; groups that stand on both sides without need."""

    height_to_width: float
    left: int
    right: int
    top: int
    bottom: int
    torn_groups: tuple[str, ...]

    @property
    def words(self) -> str:
        """For a line under the drawing."""
        torn = f", torn apart: {', '.join(self.torn_groups)}" if self.torn_groups else ""
        sides = f"{self.left} left, {self.right} right, {self.top} top, {self.bottom} bottom"
        return f"height {self.height_to_width:.1f} × width; {sides}{torn}"


def quality(unit: SymbolUnit, pins: Sequence[Pin]) -> Quality:
    """The figures of one unit; `pins` are those of the table."""
    x0, y0, x1, y1 = unit.body
    by_number = {pin.number: pin for pin in pins}
    sides = Counter(placed.side for placed in unit.pins)
    where: dict[str, set[str]] = {}
    for placed in unit.pins:
        pin = by_number.get(placed.number)
        # What goes in stands left and what comes out right whatever its group; the rest should stay together.
        if pin and pin.group and placed.side in ("left", "right") and pin.type in ("bidirectional", "passive", "free"):
            where.setdefault(pin.group, set()).add(placed.side)
    torn = tuple(sorted(group for group, at in where.items() if len(at) > 1))
    ratio = (y1 - y0) / max(x1 - x0, 1e-9)
    return Quality(round(ratio, 2), sides["left"], sides["right"], sides["top"], sides["bottom"], torn)
