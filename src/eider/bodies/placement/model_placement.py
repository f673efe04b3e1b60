"""Where a model is placed on its lands: a turn along the axes or any other, a move, and a scale."""

import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.pictures.body_mesh import Mesh, placed_block

Row = tuple[float, float, float]
UNTURNED: tuple[Row, Row, Row] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


class RigidPlacement(msgspec.Struct, frozen=True):
    """Multiply a point by `scale` and by `rotation`, then add `offset` (mm)."""

    rotation: tuple[Row, Row, Row] = UNTURNED
    offset: Row = (0.0, 0.0, 0.0)
    scale: float = 1.0


def moved_place(place: Row, was: RigidPlacement, now: RigidPlacement) -> Row:
    """Where a place of a model (mm) comes to lie when the model is placed otherwise, at the same scale."""
    x, y, z = _between(was, now) @ (np.array(place) - was.offset) + now.offset
    return float(x), float(y), float(z)


def moved_direction(direction: Row, was: RigidPlacement, now: RigidPlacement) -> Row:
    """The same for a direction."""
    x, y, z = _between(was, now) @ np.array(direction)
    return float(x), float(y), float(z)


def _between(was: RigidPlacement, now: RigidPlacement) -> npt.NDArray[np.float64]:
    """The turn from one placement to another; rotations are undone by their transpose."""
    return np.asarray(np.array(now.rotation) @ np.array(was.rotation).T)


def placed_mesh(mesh: Mesh, placement: RigidPlacement) -> Mesh:
    """The mesh as it stands on its lands."""
    turn = np.array(placement.rotation) * placement.scale
    return Mesh(placed_block(mesh.corners, turn, np.array(placement.offset)))
