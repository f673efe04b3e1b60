"""How good an arrangement is, in figures: shape of the body, balance of its sides, groups, partners and crossings."""

from collections import Counter
from collections.abc import Sequence

import msgspec

from eider.model.symbol import Pin, PlacedPin, SymbolUnit
from eider.symbols.pin_pairing import pair_key


class Quality(msgspec.Struct, frozen=True):
    """Height over width of the body; pins on each side; groups that stand on both sides without need.

    `partners` are pins with a partner on the other side, `facing_partners` those of them that are at its height,
    `crossings` how often the lines from partner to partner cross.
    """

    height_to_width: float
    left: int
    right: int
    top: int
    bottom: int
    torn_groups: tuple[str, ...]
    partners: int
    facing_partners: int
    crossings: int

    @property
    def words(self) -> str:
        """For a line under the drawing."""
        torn = f", torn apart: {', '.join(self.torn_groups)}" if self.torn_groups else ""
        sides = f"{self.left} left, {self.right} right, {self.top} top, {self.bottom} bottom"
        crossings = f", {self.crossings} crossings" if self.crossings else ""
        pairs = (
            f"; {self.facing_partners} of {self.partners} partners face each other{crossings}" if self.partners else ""
        )
        return f"height {self.height_to_width:.1f} × width; {sides}{torn}{pairs}"


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
    pairs = _pairs(unit)
    facing_partners = sum(left.y == right.y for left, right in pairs)
    return Quality(
        round(ratio, 2),
        sides["left"],
        sides["right"],
        sides["top"],
        sides["bottom"],
        torn,
        len(pairs),
        facing_partners,
        _crossings(pairs),
    )


def _pairs(unit: SymbolUnit) -> list[tuple[PlacedPin, PlacedPin]]:
    """Partners on the left and on the right; those of which there is one each."""
    found: dict[tuple[str, ...], dict[str, list[PlacedPin]]] = {}
    for pin in unit.pins:
        if pin.side in ("left", "right") and (key := pair_key(pin.name)):
            found.setdefault(key, {"left": [], "right": []})[pin.side].append(pin)
    return [(s["left"][0], s["right"][0]) for s in found.values() if len(s["left"]) == len(s["right"]) == 1]


def _crossings(pairs: Sequence[tuple[PlacedPin, PlacedPin]]) -> int:
    """How many of the straight lines from partner to partner cross another."""
    return sum((a[0].y - b[0].y) * (a[1].y - b[1].y) < 0 for i, a in enumerate(pairs) for b in pairs[i + 1 :])
