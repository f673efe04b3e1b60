"""What a model could stand on, however it lies: small faces in its lowest plane, or the ends of its leads."""

from itertools import permutations

import msgspec
import numpy as np

from eider.bodies.step_files.step_model import FaceKind, FaceTable, FloatArray, IntArray

# How far (mm) feet may lie above the lowest one and still stand; a body lies higher than the feet of its terminals.
COPLANAR = 0.012
# Cosine from which a face counts as level, and from which one that is not looks down.
LEVEL, DOWN = 0.9995, 0.2
# Two contacts whose boxes differ by less than this (mm) are one.
SAME_PLACE = 0.005


def turns() -> list[FloatArray]:
    """The 24 ways in which a model can lie along the axes: proper rotations, shape (3, 3) each."""
    found = []
    for order in permutations(range(3)):
        for signs in np.ndindex(2, 2, 2):
            matrix = np.zeros((3, 3))
            matrix[range(3), order] = 1 - 2 * np.array(signs)
            if np.linalg.det(matrix) > 0:
                found.append(matrix)
    return found


def turned(faces: FaceTable, turn: FloatArray) -> FaceTable:
    """The faces in the frame of a model that lies turned."""
    ends = np.stack([faces.low @ turn.T, faces.high @ turn.T])
    return msgspec.structs.replace(
        faces,
        low=ends.min(axis=0),
        high=ends.max(axis=0),
        direction=faces.direction @ turn.T,
        centre=faces.centre @ turn.T,
    )


def scaled(faces: FaceTable, factor: float) -> FaceTable:
    """The faces of a model that is so many times as large."""
    return msgspec.structs.replace(
        faces,
        low=faces.low * factor,
        high=faces.high * factor,
        centre=faces.centre * factor,
        radius=faces.radius * factor,
        area=faces.area * factor**2,
    )


class Contacts(msgspec.Struct, frozen=True):
    """Places at which a model could stand, m of them, in the frame in which it lies.

    `box` has shape (m, 4) (mm, from above), `solid` and `depth` (height of the place) shape (m,).
    """

    box: FloatArray
    solid: IntArray
    depth: FloatArray

    @property
    def centre(self) -> FloatArray:
        """The middles of the boxes, shape (m, 2)."""
        return (self.box[:, :2] + self.box[:, 2:]) / 2


def standing(faces: FaceTable, *, through_hole: bool) -> Contacts:
    """Where a model that lies like this could stand.

    For surface mount: what reaches its lowest plane. For leads in holes: every lower end in its lower half, as leads
    may differ in length.
    """
    bottom, top = float(faces.low[:, 2].min()), float(faces.high[:, 2].max())
    reach = (top - bottom) * 0.6 if through_hole else COPLANAR
    low = faces.low[:, 2] <= bottom + reach
    flat = (faces.kind == FaceKind.PLANE) & (faces.direction[:, 2] < -LEVEL)
    lowest_point = faces.centre[:, 2] - faces.radius
    rounded = lowest_point <= faces.low[:, 2] + COPLANAR
    ball = (faces.kind == FaceKind.SPHERE) & rounded
    roll = (faces.kind == FaceKind.CYLINDER) & rounded & (np.abs(faces.direction[:, 2]) < 1 - LEVEL)
    # A leaning facet, as of a cylinder that was made of flats, stands on its lower edge.
    leaning = (faces.kind == FaceKind.PLANE) & (faces.direction[:, 2] < -DOWN) & ~flat & ~np.array(through_hole)
    # Any other curved surface is taken by its box: its middle is right where the foot is symmetric.
    other = (faces.kind == FaceKind.OTHER) & ~np.array(through_hole)
    chosen = low & (flat | ball | roll | leaning | other)
    box = np.hstack([faces.low[:, :2], faces.high[:, :2]])
    across = faces.centre[:, :2]
    for axis in (0, 1):
        # A ball touches at one point, a roll along a line.
        at_middle = ball | (roll & (np.abs(faces.direction[:, axis]) < 1 - LEVEL))
        box[at_middle, axis] = box[at_middle, axis + 2] = across[at_middle, axis]
        # The facet rises the way that it looks.
        rising, falling = (leaning & (sign * faces.direction[:, axis] > 1 - LEVEL) for sign in (1, -1))
        box[rising, axis + 2] = box[rising, axis]
        box[falling, axis] = box[falling, axis + 2]
    return _unique(Contacts(box[chosen], faces.solid[chosen], faces.low[chosen, 2]))


def _unique(contacts: Contacts) -> Contacts:
    """Each place once: two halves of a roll touch along the same line."""
    _, first = np.unique(np.round(contacts.box / SAME_PLACE).astype(np.int64), axis=0, return_index=True)
    kept = np.sort(first)
    return Contacts(contacts.box[kept], contacts.solid[kept], contacts.depth[kept])
