"""Where symmetry leaves several ways to place a model, what is on its top tells which end is which.

A mark is what a model has in one place and not in the places that a turn of it would give: a dimple, a chamfer, a dot
of another colour, a notch, a lead that is wider than its partners.
"""

from collections.abc import Sequence
from typing import Literal

import msgspec
import numpy as np

from eider.bodies.placement.alignment_target import AlignmentTarget
from eider.bodies.placement.contacts import turned
from eider.bodies.step_files.step_model import FaceTable, FloatArray

# How near (mm) two faces have to be to be partners of each other, and how alike in area.
NEAR, ALIKE = 0.02, 0.05
# A mark is smaller than this share of the model from above, and lies in the upper part of it.
LARGEST_SHARE, UPPER = 0.25, 0.4
# The mark is nearer to pin 1 by this factor than in any other way to place the model.
CLEARLY = 0.8


class MarkReading(msgspec.Struct, frozen=True):
    """Which placements are left (their numbers), and why; `nearest` is the terminal that the mark lies at; of
    several placements only where it is another one than pin 1."""

    chosen: tuple[int, ...]
    pin1: Literal["found", "ambiguous", "unknown"]
    reasons: tuple[str, ...] = ()
    doubts: tuple[str, ...] = ()
    nearest: str = ""


def mark_reading(
    faces: FaceTable, placements: Sequence[tuple[FloatArray, FloatArray]], target: AlignmentTarget
) -> MarkReading:
    """Decide between placements (turn and move from above) that explain the terminals equally well."""
    if len(placements) == 1:
        return MarkReading((0,), "found", ("the terminals can be in one way only",))
    everything = tuple(range(len(placements)))
    if not target.mark_tells:
        doubt = "manufacturers mark one end of such parts or the other; look at the mark and choose"
        return MarkReading(everything, "ambiguous", doubts=(doubt,))
    alike = _alike(faces, placements)
    distinct = [placements[group[0]] for group in alike]
    # What is on top tells; else anything that one end has and the other has not, such as a base that is cut.
    marks = _marks(faces, distinct, UPPER) if len(distinct) > 1 else [None]
    if len(distinct) > 1 and any(mark is None for mark in marks):
        marks = _marks(faces, distinct, 0.0)
    if any(mark is None for mark in marks):
        ways = f"the model looks the same in {len(placements)} ways, and no mark on it tells pin {target.first_pin}"
        doubt = (
            f"{ways}; choose one" if target.polarised else f"{ways}; the part has no polarity, so any of them is right"
        )
        return MarkReading(everything, "ambiguous", doubts=(doubt,))
    first = next((t.centre for t in target.terminals if t.number == target.first_pin), target.terminals[0].centre)
    away = np.array([float(np.linalg.norm(mark - np.array(first))) for mark in marks if mark is not None])
    order = np.argsort(away)
    nearest = _nearest(marks[int(order[0])], target)
    if away[order[0]] < CLEARLY * away[order[1]]:
        # Of placements in which the model looks the same one is as good as the other.
        return MarkReading(tuple(alike[int(order[0])]), "found", ("its mark lies at pin 1",), nearest=nearest)
    elsewhere = nearest if nearest != target.first_pin else ""
    doubt = (
        f"the mark on the model lies as near to {nearest} as to pin {target.first_pin}; choose how it is placed"
        if elsewhere
        else f"the mark on the model lies in the middle and does not tell pin {target.first_pin}; choose a placement"
    )
    return MarkReading(everything, "ambiguous", doubts=(doubt,), nearest=elsewhere)


def _nearest(mark: FloatArray | None, target: AlignmentTarget) -> str:
    if mark is None:
        return ""
    return min(target.terminals, key=lambda t: float(np.linalg.norm(mark - np.array(t.centre)))).number


def _alike(faces: FaceTable, placements: Sequence[tuple[FloatArray, FloatArray]]) -> list[list[int]]:
    """The placements in groups in which the model looks the same, the best of each first."""
    looks = [_features(faces, turn, move, 0.0, largest=np.inf) for turn, move in placements]
    groups: list[list[int]] = []
    for index, mine in enumerate(looks):
        for group in groups:
            other = looks[group[0]]
            if not (_lonely(mine, other).any() or _lonely(other, mine).any()):
                group.append(index)
                break
        else:
            groups.append([index])
    return groups


def _marks(
    faces: FaceTable, placements: Sequence[tuple[FloatArray, FloatArray]], above: float
) -> list[FloatArray | None]:
    return [_mark(faces, turn, move, placements, above) for turn, move in placements]


def _mark(
    faces: FaceTable,
    turn: FloatArray,
    move: FloatArray,
    placements: Sequence[tuple[FloatArray, FloatArray]],
    above: float,
) -> FloatArray | None:
    """Where the mark lies from above (mm) in one placement; None where the model looks the same in another one."""
    places = _features(faces, turn, move, above)
    lonely = np.zeros(len(places), dtype=bool)
    for other_turn, other_move in placements:
        if other_turn is turn:
            continue
        apart = _lonely(places, _features(faces, other_turn, other_move, above))
        if not apart.any():
            return None
        lonely |= apart
    area = places[lonely, 3]
    return np.asarray((places[lonely, :2] * area[:, None]).sum(axis=0) / area.sum())


def _features(
    faces: FaceTable, turn: FloatArray, move: FloatArray, above: float, largest: float = LARGEST_SHARE
) -> FloatArray:
    """Small faces of a placed model above a share of its height: x, y, z, area, colour, kind; shape (n, 6)."""
    lying = turned(faces, turn)
    low, high = lying.low.min(axis=0), lying.high.max(axis=0)
    middle = (lying.low + lying.high) / 2
    is_above = middle[:, 2] > low[2] + above * (high[2] - low[2])
    from_above = (high[0] - low[0]) * (high[1] - low[1])
    small = lying.area < largest * from_above
    kept = is_above & small & (lying.area > 0)
    places = middle[kept] - np.array([0.0, 0.0, low[2]])
    places[:, :2] += move
    return np.hstack([places, lying.area[kept, None], lying.colour[kept, None], lying.kind[kept, None]])


def _lonely(places: FloatArray, others: FloatArray) -> FloatArray:
    """Which features have no partner among those of another placement; shape (n,)."""
    if not len(others):
        return np.ones(len(places), dtype=bool)
    near = (np.abs(places[:, None, :3] - others[None, :, :3]) < NEAR).all(axis=2)
    areas, other_areas = places[:, None, 3], others[None, :, 3]
    alike = np.abs(areas - other_areas) <= ALIKE * np.maximum(areas, other_areas)
    same = (places[:, None, 4:] == others[None, :, 4:]).all(axis=2)
    return np.asarray(~(near & alike & same).any(axis=1))
