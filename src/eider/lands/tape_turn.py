"""How a part lies in its tape against its footprint: the turn that a placement machine makes (EIA-481, IEC 61188-7).

In the tape, its holes above and fed to the right, pin 1 is in a quadrant of the pocket: Q1 upper left, Q2 upper right,
Q3 lower left, Q4 lower right. Angles are degrees counter-clockwise, lengths mm.
"""

import math
from collections.abc import Iterator, Sequence
from typing import Literal

import msgspec

from eider.geometry.plane import Point, box_centre, join_boxes
from eider.geometry.rounding import tidy
from eider.packages.family import LandRecipe, Terminal

Quadrant = Literal["Q1", "Q2", "Q3", "Q4"]
# In which direction pin 1 lies from the middle of the pocket.
_CORNERS: dict[Quadrant, int] = {"Q2": 45, "Q1": 135, "Q3": 225, "Q4": 315}
# Of two terminals, which lie across the tape, pin 1 is at the holes or away from them.
_ENDS: dict[Quadrant, int] = {"Q1": 90, "Q2": 90, "Q3": 270, "Q4": 270}
# A pocket is larger than its part, by no more than lets the part turn in it (mm, EIA-481).
LEAST_PLAY, MOST_PLAY = 0.0, 1.0
# The pick-up point is the origin of the footprint within so many mm.
AT_ORIGIN = 0.05


class Pocket(msgspec.Struct, frozen=True):
    """The pocket of a tape: its two sides and its depth (mm)."""

    a0: float
    b0: float
    k0: float


class TapeLie(msgspec.Struct, frozen=True):
    """How a part lies: the zero orientation of its footprint, its quadrant in the tape, and by how much the machine
    turns it; where it is picked up from the footprint's origin, and how high it is.

    `turn` is None while the quadrant is not known. `size` is the part's width and length over its leads at most.
    """

    zero: Literal["A", "B"]
    quadrant: Quadrant | None
    turn: int | None
    pick: Point
    height: float
    size: tuple[float, float]


def tape_lie(
    recipe: LandRecipe, terminals: Sequence[Terminal], orientation: int, quadrant: Quadrant | None, height: float
) -> TapeLie:
    """How a part lies, by what its lands follow from and its terminals, both as they are in the footprint.

    Args:
        recipe: with the body and the corner of pin 1.
        terminals: with their numbers.
        orientation: the rulebook's zero orientation, 1 or 2.
        quadrant: of pin 1 in the tape; None where nobody has said it.
        height: the height of the part at most (mm).
    """
    whole = join_boxes([recipe.body_max, *(terminal.whole for terminal in terminals)])
    size = tidy(whole[2] - whole[0]), tidy(whole[3] - whole[1])
    has_ends = len({terminal.number for terminal in terminals}) == 2
    turn = None
    if quadrant is not None:
        at = _first_direction(recipe, terminals) if has_ends else _corner_direction(recipe)
        in_tape = (_ENDS if has_ends else _CORNERS)[quadrant]
        turn = round((at - in_tape) / 90) * 90 % 360
    x, y = box_centre(recipe.body)
    return TapeLie("A" if orientation == 1 else "B", quadrant, turn, (tidy(x), tidy(y)), height, size)


def _corner_direction(recipe: LandRecipe) -> float:
    """In which direction from the body's middle the corner of pin 1 lies."""
    return math.degrees(math.atan2(recipe.corner[1], recipe.corner[0])) % 360


def _first_direction(recipe: LandRecipe, terminals: Sequence[Terminal]) -> float:
    """In which direction from the body's middle the first of two terminals lies."""
    first = next((t for t in terminals if t.number == recipe.first_pin), terminals[0])
    (x, y), (u, v) = box_centre(first.whole), box_centre(recipe.body)
    return math.degrees(math.atan2(y - v, x - u)) % 360


def pocket_faults(lie: TapeLie, pocket: Pocket) -> Iterator[tuple[str, str, str]]:
    """What is wrong with a pocket for a part: in words, as measured, as required; sides may be given either way."""
    sides = zip(sorted((pocket.a0, pocket.b0)), sorted(lie.size), strict=True)
    for (given, own), name in zip(sides, ("shorter", "longer"), strict=True):
        yield from _play(f"the {name} side of the pocket", given, own)
    yield from _play("the depth of the pocket", pocket.k0, lie.height)


def _play(name: str, given: float, own: float) -> Iterator[tuple[str, str, str]]:
    play = tidy(given - own)
    if play < LEAST_PLAY:
        yield f"{name} is smaller than the part", f"{given:g} mm", f"≥ {own:g} mm"
    elif play > MOST_PLAY:
        yield f"{name} leaves the part room to turn", f"{given:g} mm", f"≤ {own + MOST_PLAY:g} mm"
