"""Corner lands of adjacent sides: where they come too near to each other they alone give way, at their inner corner."""

import math
from collections.abc import Iterator, Sequence
from itertools import compress
from typing import NamedTuple

import msgspec

from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.geometry.shapes import Box, cut_corner
from eider.lands.pads import RowLands
from eider.model.pattern import Pad
from eider.model.wording import named
from eider.packages.family import OpposedRows
from eider.rulebooks import Rulebook

# Cuts come in steps of this (mm), and take at most such a share of the shorter side of a land.
STEP, MOST_SHARE = 0.01, 0.6
replace = msgspec.structs.replace


class _Corner(NamedTuple):
    """A land of the sides along y and one of those along x, and how far they are apart in x and in y (mm)."""

    upright: Pad
    level: Pad
    dx: float
    dy: float

    def nearer(self, by: float) -> "_Corner":
        """The same with both lands larger, so that they are nearer by so much in x and in y (mm)."""
        return self._replace(dx=self.dx - by, dy=self.dy - by)

    @property
    def gap(self) -> float:
        """The distance of the two (mm); below zero where they overlap."""
        return math.hypot(self.dx, self.dy) if self.dx > 0 and self.dy > 0 else max(self.dx, self.dy)


def clear_corners(pairs: Sequence[OpposedRows], rows: list[RowLands], rulebook: Rulebook) -> list[RowLands]:
    """Rows whose corner lands keep the gap of neighbours, as the rulebook has it: cut, trimmed, or left.

    The other lands stay as they were computed.
    """
    for ring in sorted({pair.ring for pair in pairs}):
        of_ring = [pair.ring == ring for pair in pairs]
        cleared = iter(_clear_ring(list(compress(pairs, of_ring)), list(compress(rows, of_ring)), rulebook))
        rows = [next(cleared) if is_mine else row for row, is_mine in zip(rows, of_ring, strict=True)]
    return rows


def _clear_ring(pairs: Sequence[OpposedRows], rows: list[RowLands], rulebook: Rulebook) -> list[RowLands]:
    if {pair.axis for pair in pairs} != {"x", "y"} or rulebook.clearances.corner == "leave":
        return rows
    least = rulebook.clearances.pad_to_pad
    # Openings are larger than their lands by this in all.
    larger, web = 2 * rulebook.pads.mask_expansion, rulebook.clearances.mask_web
    near = [
        corner
        for corner in _corners(pairs, rows)
        if corner.gap < least - NOISE or corner.nearer(larger).gap < web - NOISE
    ]
    if not near:
        return rows
    is_cut = rulebook.clearances.corner == "cut"
    if is_cut:
        by = max(_cut(corner, max(least, web + larger)) for corner in near)
    else:
        by = max(max(_trim(corner, least), _trim(corner.nearer(larger), web)) for corner in near)
    by = tidy(max(round_to_step(by, STEP, "up"), STEP))
    shortest = min(min(pad.width, pad.height) for corner in near for pad in corner[:2])
    if by > MOST_SHARE * shortest:
        # So much cannot be taken off; what remains is told by the check of gaps.
        return rows
    changed = {
        pad.number: _changed(pad, by, is_cut=is_cut) for corner in near for pad in (corner.upright, corner.level)
    }
    how = f"cut by {by:g} mm at {{owner}} inner corner" if is_cut else f"shorter by {by:g} mm at {{owner}} inner end"
    return [_with_pads(row, changed, f"{how}: {least:g} mm to the corner land of the next side") for row in rows]


def _corners(pairs: Sequence[OpposedRows], rows: Sequence[RowLands]) -> Iterator[_Corner]:
    """The four places where two sides meet."""
    laid = list(zip(pairs, rows, strict=True))
    upright = [pad for pair, row in laid if pair.axis == "x" for pad in row.pads]
    level = [pad for pair, row in laid if pair.axis == "y" for pad in row.pads]
    for left in (-1, 1):
        for up in (-1, 1):
            column = [pad for pad in upright if pad.x * left > 0]
            line = [pad for pad in level if pad.y * up > 0]
            if column and line:
                a, b = max(column, key=lambda pad: pad.y * up), max(line, key=lambda pad: pad.x * left)
                yield _Corner(a, b, *_apart(a.box, b.box))


def _apart(a: Box, b: Box) -> tuple[float, float]:
    return max(a[0] - b[2], b[0] - a[2]), max(a[1] - b[3], b[1] - a[3])


def _cut(corner: _Corner, least: float) -> float:
    """The chamfer of both lands at 45° after which their cut edges are so far apart."""
    return max((least * math.sqrt(2) - corner.dx - corner.dy) / 2, 0.0)


def _trim(corner: _Corner, least: float) -> float:
    """By how much both lands must end farther outside."""
    by = 0.0
    while _Corner(corner.upright, corner.level, corner.dx + by, corner.dy + by).gap < least - NOISE:
        by += STEP
    return by


def _changed(pad: Pad, by: float, *, is_cut: bool) -> Pad:
    """A corner land cut at the corner, or shortened at the end, that faces the middle of the package."""
    half_x, half_y = pad.width / 2, pad.height / 2
    is_upright = pad.width > pad.height if abs(pad.x) > abs(pad.y) else pad.width >= pad.height
    if is_cut:
        # The long way points to the middle; across it the corner is the one away from the row's middle.
        inner = (-math.copysign(1.0, pad.x), math.copysign(1.0, pad.y))
        facing = inner if is_upright else (-inner[0], -inner[1])
        box = (-half_x, -half_y, half_x, half_y)
        return replace(pad, shape="outline", corner_radius=0.0, outline=cut_corner(box, by, facing))
    if is_upright:
        return replace(pad, width=tidy(pad.width - by), x=tidy(pad.x + math.copysign(by / 2, pad.x)))
    return replace(pad, height=tidy(pad.height - by), y=tidy(pad.y + math.copysign(by / 2, pad.y)))


def _with_pads(row: RowLands, changed: dict[str, Pad], how: str) -> RowLands:
    mine = [pad.number for pad in row.pads if pad.number in changed]
    if not mine:
        return row
    owner = "its" if len(mine) == 1 else "their"
    note = f"{named('land', mine)} {how.format(owner=owner)}"
    derivation = replace(row.derivation, notes=(*row.derivation.notes, note))
    return RowLands(tuple(changed.get(pad.number, pad) for pad in row.pads), derivation, row.lands)
