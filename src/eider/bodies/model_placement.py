"""Where a model is placed on its lands: a turn along the axes or any other, a move, and a scale."""

import msgspec
import numpy as np

from eider.bodies.body_mesh import Mesh, placed_block

Row = tuple[float, float, float]
UNTURNED: tuple[Row, Row, Row] = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


class RigidPlacement(msgspec.Struct, frozen=True):
    """Multiply a point by `scale` and by `rotation`, then add `offset` (mm)."""

    rotation: tuple[Row, Row, Row] = UNTURNED
    offset: Row = (0.0, 0.0, 0.0)
    scale: float = 1.0


def placed_mesh(mesh: Mesh, placement: RigidPlacement) -> Mesh:
    """The mesh as it stands on its lands."""
    turn = np.array(placement.rotation) * placement.scale
    return Mesh(placed_block(mesh.corners, turn, np.array(placement.offset)))
