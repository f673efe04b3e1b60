"""All lands of a package: rows, thermal pads, grids, holes, and the limits that act between rows and thermal pads."""

import math
import sys
from collections.abc import Iterator, Sequence
from itertools import compress
from typing import NamedTuple

import msgspec

from eider.geometry.plane import Box, cut_corner
from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.lands.ball_lands import lay_grid
from eider.lands.pads import RowLands, lay_rows, with_lands
from eider.lands.solver import Lands, allowance, extents, reached_joints, rounding_step
from eider.lands.thermal_lands import PlateLand, full_size, lay_plate
from eider.lands.through_hole import lay_leads, lay_posts
from eider.model.pattern import Derivation, Level, Pad, SizeDerivation
from eider.model.wording import named
from eider.packages.family import LandRecipe, OpposedRows, Plate
from eider.rulebooks import GoalRow, Rulebook

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


class LaidLands(msgspec.Struct, frozen=True):
    """Pads without openings in the order of their numbers, and how all of them came about."""

    pads: tuple[Pad, ...]
    derivation: tuple[Derivation, ...]
    sizes: tuple[SizeDerivation, ...]


def lay_out_lands(recipe: LandRecipe, level: Level, rulebook: Rulebook) -> LaidLands:
    """The lands of everything that a recipe names.

    Raises:
        SheetError: lengths of the sheet give no possible lands.
    """
    rows = _clear_of_low_body(recipe, [lay_rows(pair, level, rulebook) for pair in recipe.rows], rulebook)
    plates: list[PlateLand] = []
    for plate in recipe.thermal_areas:
        rows, smaller = _around_plate(recipe.rows, rows, plate, rulebook)
        if plate in recipe.plates:
            plates.append(lay_plate(plate, rulebook, smaller=smaller))
    rows = clear_corners(recipe.rows, rows, rulebook)
    grids = [lay_grid(grid, rulebook) for grid in recipe.grids]
    leads = [lay_leads(group, level, rulebook, recipe.first_pin) for group in recipe.leads]
    pads = [pad for row in rows for pad in row.pads]
    pads += [pad for grid in grids for pad in grid.pads] + [pad for group in leads for pad in group.pads]
    pads.sort(key=_number_order)
    return LaidLands(
        pads=(
            *pads,
            *(plate.pad for plate in plates),
            *lay_posts(recipe.posts, rulebook),
            *(g.pad for g in recipe.manual_pads),
        ),
        derivation=tuple(row.derivation for row in rows),
        sizes=(*(p.derivation for p in plates), *(g.derivation for g in grids), *(g.derivation for g in leads)),
    )


def _number_order(pad: Pad) -> tuple[int, str, int]:
    """Plain numbers first, by value; then grids, row by row: A before B before AA."""
    letters = pad.number.rstrip("0123456789")
    digits = pad.number[len(letters) :]
    return (len(letters), letters, int(digits) if digits else sys.maxsize)


def courtyard_goals(recipe: LandRecipe, rulebook: Rulebook) -> GoalRow:
    """The goals whose courtyard holds for the whole package."""
    if recipe.rows:
        return rulebook.goal_row(recipe.rows[0].goals, recipe.rows[0].measures)
    return rulebook.goal_row(recipe.goals, recipe.measures)


def _around_plate(
    pairs: Sequence[OpposedRows], rows: list[RowLands], plate: Plate, rulebook: Rulebook
) -> tuple[list[RowLands], tuple[float, float]]:
    """Keep the gap to a thermal land: the inner ends give way as far as the heel goal of level C allows, then the land.

    The rulebook may let the land alone give way. Returns the rows, and by how much the land must be smaller in x and y.
    """
    least = rulebook.clearances.pad_to_thermal
    smaller = {"x": 0.0, "y": 0.0}
    width, height = full_size(plate)
    trimmed = []
    for pair, row in zip(pairs, rows, strict=True):
        size, middle = (width, plate.x) if pair.axis == "x" else (height, plate.y)
        edge = abs(middle) + size / 2
        gap = row.lands.G / 2 - edge
        if gap >= least - NOISE or not _faces(pair, plate):
            trimmed.append(row)
            continue
        step = rounding_step(rulebook.goal_row(pair.goals, pair.measures), rulebook)
        wanted = round_to_step(2 * (edge + least), step, "up")
        gives = rulebook.clearances.thermal_trim == "inner-ends"
        most = _largest_gap(pair, row.lands, rulebook) if gives else row.lands.G
        lands = replace(row.lands, G=tidy(min(wanted, most)))
        trimmed.append(_with_lands(pair, row, lands, f"{least:g} mm to the thermal land", rulebook))
        left = least - (lands.G / 2 - edge)
        if left > NOISE:
            smaller[pair.axis] = max(smaller[pair.axis], tidy(2 * round_to_step(left, 0.025, "up")))
    return trimmed, (smaller["x"], smaller["y"])


def _clear_of_low_body(recipe: LandRecipe, rows: list[RowLands], rulebook: Rulebook) -> list[RowLands]:
    """Lands that do not run under a body that comes down low, as far as the heel goal of level C allows."""
    least, low = rulebook.clearances.low_body, recipe.stand_off
    if low is None or low >= least:
        return rows
    made = []
    for pair, row in zip(recipe.rows, rows, strict=True):
        first, last = (0, 2) if pair.axis == "x" else (1, 3)
        step = rounding_step(rulebook.goal_row(pair.goals, pair.measures), rulebook)
        wanted = round_to_step(2 * max(-recipe.body_max[first], recipe.body_max[last]), step, "up")
        gap = tidy(max(row.lands.G, min(wanted, _largest_gap(pair, row.lands, rulebook))))
        why = f"the body comes down to {low:g} mm above the board, below {least:g} mm"
        made.append(_with_lands(pair, row, replace(row.lands, G=gap), why, rulebook))
    return made


def _faces(pair: OpposedRows, plate: Plate) -> bool:
    """Whether a row has lands beside the thermal land, not only beyond its ends."""
    size, middle = (plate.height, plate.y) if pair.axis == "x" else (plate.width, plate.x)
    half = size.middle / 2 + pair.width.middle
    numbers = (*pair.first, *pair.second)
    places = (*pair.at_first.tolist(), *pair.at_second.tolist())
    # A lead that goes on into the thermal pad needs no gap to it.
    return any(abs(at - middle) < half and number != plate.number for number, at in zip(numbers, places, strict=True))


def _with_lands(pair: OpposedRows, row: RowLands, lands: Lands, why: str, rulebook: Rulebook) -> RowLands:
    """A row with another gap, and a note of why."""
    if lands.G == row.lands.G:
        return row
    return with_lands(pair, row, lands, f"G enlarged from {row.lands.G:g} to {lands.G:g} mm: {why}", rulebook)


def _largest_gap(pair: OpposedRows, lands: Lands, rulebook: Rulebook) -> float:
    """How far the gap can be enlarged: no limit takes the heel fillet below level C."""
    goals = rulebook.goal_row(pair.goals, pair.measures)
    heel = reached_joints(extents(pair, rulebook), lands).heel
    spare = 2 * max(0.0, heel - goals.goals("C").heel + allowance(goals, rulebook))
    return lands.G + round_to_step(spare, rounding_step(goals, rulebook), "down")
