"""All lands of a package: rows, thermal pads, grids, holes, and the limits that act between rows and thermal pads."""

import sys
from collections.abc import Sequence

import msgspec

from eider.geometry.rounding import NOISE, round_to_step, tidy
from eider.lands.ball_lands import lay_grid
from eider.lands.corner_lands import clear_corners
from eider.lands.pads import RowLands, lay_rows, with_lands
from eider.lands.solver import Lands, allowance, extents, reached_joints, rounding_step
from eider.lands.thermal_lands import PlateLand, full_size, lay_plate
from eider.lands.through_hole import lay_leads, lay_posts
from eider.model.pattern import Derivation, Level, Pad, SizeDerivation
from eider.packages.family import LandRecipe, OpposedRows, Plate
from eider.rulebooks import GoalRow, Rulebook

replace = msgspec.structs.replace


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
