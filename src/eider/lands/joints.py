"""Which solder joint each pad of any pattern gives: computed, suggested by the maker, imported or by hand."""

import math
from collections.abc import Iterator, Mapping, Sequence

import msgspec
from msgspec.structs import replace

from eider.geometry.plane import box_centre
from eider.geometry.rounding import median
from eider.lands.pattern import zero_orientation
from eider.lands.solver import Extents, Lands, extents, level_reached, reached_joints
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import LEVELS, Goals, Level, Pad
from eider.packages.family import OpposedRows
from eider.packages.orientation import PackageOrientation, placed_recipe
from eider.packages.registry import family_of
from eider.packages.sheet_parsing import refuse_reversed
from eider.rulebooks import GoalRow, Rulebook


class PadJoint(msgspec.Struct, frozen=True):
    """The fillets of one pad in mm, and the level they reach; None is below C."""

    number: str
    toe: float
    heel: float
    side: float
    level: Level | None
    group: str

    @property
    def reached(self) -> Goals:
        """The three fillets as one value."""
        return Goals(self.toe, self.heel, self.side)


class GroupJoints(msgspec.Struct, frozen=True):
    """The joints of two opposing rows, with the terminals and goals they are compared with."""

    rows: OpposedRows
    terminals: Extents
    goals: GoalRow
    pads: tuple[PadJoint, ...]


def pattern_joints(
    sheet: PackageSheet, pads: Sequence[Pad], rulebook: Rulebook, orientation: PackageOrientation | None = None
) -> tuple[GroupJoints, ...]:
    """The joints of every pad that belongs to a terminal of the package, by group of opposing rows.

    The package lies as `orientation` says, or in the rulebook's zero orientation.

    A pad is measured together with its opposite, since the part settles between the two; where there is no pad
    opposite, it is measured from the origin. Along its row it is measured where it is: what the whole pattern is moved
    by counts for nothing, but a land that lies beside its own terminal loses that much of the side fillet.

    Raises:
        SheetError: a dimension is missing, or a maximum is below its minimum.
    """
    refuse_reversed(sheet)
    family = family_of(sheet.family)
    plain = family.lands(sheet, family.dims(sheet))
    recipe = placed_recipe(plain, zero_orientation(rulebook) if orientation is None else orientation)
    groups = []
    by_rows = [(rows, pads_of_rows(rows, pads)) for rows in recipe.rows]
    shift = _pattern_shift(by_rows)
    for rows, by_number in by_rows:
        terminals = extents(rows, rulebook)
        goal_row = rulebook.goal_row(rows.goals, rows.measures)
        opposite, found = opposites(rows), []
        along, centres = (1 if rows.axis == "x" else 0), dict(_terminal_centres(rows))
        for number in (*rows.first, *rows.second):
            if number in by_number:
                lands = opposed_lands(rows, number, by_number, opposite)
                beside = box_centre(by_number[number].box)[along] - centres[number][along] - shift[along]
                reached = reached_joints(terminals, lands)
                reached = replace(reached, side=reached.side - abs(beside))
                level = level_reached(reached, goal_row, rulebook)
                found.append(PadJoint(number, reached.toe, reached.heel, reached.side, level, rows.group))
        groups.append(GroupJoints(rows, terminals, goal_row, tuple(found)))
    return tuple(groups)


def _pattern_shift(by_rows: Sequence[tuple[OpposedRows, Mapping[str, Pad]]]) -> tuple[float, float]:
    """By how much in x and y the pattern as a whole lies beside the terminals: what most of its pads agree on (mm)."""
    moved: tuple[list[float], list[float]] = ([], [])
    for rows, by_number in by_rows:
        along, across = (1, 0) if rows.axis == "x" else (0, 1)
        sides: dict[int, list[float]] = {-1: [], 1: []}
        for number, centre in _terminal_centres(rows):
            if (pad := by_number.get(number)) is not None:
                middle = box_centre(pad.box)
                moved[along].append(middle[along] - centre[along])
                sides[_sign(rows, number)].append(middle[across] - centre[across])
        if sides[-1] and sides[1]:
            # Lands reach beyond their terminals alike on both sides; the middle of the two has only moved.
            both = (median(sides[-1]) + median(sides[1])) / 2
            moved[across].extend([both] * (len(sides[-1]) + len(sides[1])))
    dx, dy = (median(offsets) if offsets else 0.0 for offsets in moved)
    return dx, dy


def _terminal_centres(rows: OpposedRows) -> Iterator[tuple[str, tuple[float, float]]]:
    """Each terminal of two rows by number, and a place on it, half of the lead span from the middle (mm)."""
    for numbers, places in ((rows.first, rows.at_first), (rows.second, rows.at_second)):
        for number, at in zip(numbers, places.tolist(), strict=True):
            across = _sign(rows, number) * rows.length.middle / 2
            yield number, ((across, at) if rows.axis == "x" else (at, across))


def lowest_level(groups: Sequence[GroupJoints]) -> Level | None:
    """The level that all pads reach together; None is below C, or no pad at all."""
    levels = [joint.level for group in groups for joint in group.pads]
    if not levels or None in levels:
        return None
    return max((level for level in levels if level), key=LEVELS.index)


def opposites(rows: OpposedRows) -> Mapping[str, str]:
    """For each terminal the one across the package, at the same place along the row."""
    across: dict[str, str] = {}
    for number, at in zip(rows.first, rows.at_first, strict=True):
        for other, other_at in zip(rows.second, rows.at_second, strict=True):
            if abs(at - other_at) < 1e-6:
                across[number], across[other] = other, number
    return across


def pads_of_rows(rows: OpposedRows, pads: Sequence[Pad]) -> dict[str, Pad]:
    """The pad of each terminal of two rows; of several pads with its number the one that lies nearest to it.

    A tab may share the number of a lead at the other side.
    """
    numbered: dict[str, list[Pad]] = {}
    for pad in pads:
        numbered.setdefault(pad.number, []).append(pad)
    found: dict[str, Pad] = {}
    for number, centre in _terminal_centres(rows):
        mine = numbered.get(number)
        if mine:
            found[number] = min(mine, key=lambda pad: math.dist((pad.x, pad.y), centre)) if mine[1:] else mine[0]
    return found


def opposed_lands(rows: OpposedRows, number: str, pads: Mapping[str, Pad], opposite: Mapping[str, str]) -> Lands:
    """Z, G and X of a pad together with its opposite, or about the origin where it has none (mm)."""
    across = pads.get(opposite.get(number, ""))
    return _lands(pads[number], across, rows.axis, _sign(rows, number))


def _sign(rows: OpposedRows, number: str) -> int:
    """On which side of the middle a pad lies: the first row at negative x or at positive y."""
    return -1 if (number in rows.first) == (rows.axis == "x") else 1


def _lands(pad: Pad, opposite: Pad | None, axis: str, sign: int) -> Lands:
    low, high = (0, 2) if axis == "x" else (1, 3)
    box = pad.box
    width = box[3] - box[1] if axis == "x" else box[2] - box[0]
    if opposite is None:
        outer, inner = (box[high], box[low]) if sign > 0 else (-box[low], -box[high])
        return Lands(Z=2 * outer, G=2 * inner, X=width)
    other = opposite.box
    outer = max(box[high], other[high]) - min(box[low], other[low])
    inner = max(box[low], other[low]) - min(box[high], other[high])
    return Lands(Z=outer, G=inner, X=width)
