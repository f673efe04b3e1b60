"""Triangles of solids for the 3D view, made by Open CASCADE."""

from collections.abc import Sequence

import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.materials import Colour, colour_of
from eider.geometry.rounding import tidy
from eider.geometry.solids import Solid

# How far a facet may be from the true surface (mm), and the angle between facets (rad).
DEFLECTION, ANGLE = 0.02, 0.3
Vertices = npt.NDArray[np.float32]


class Mesh(msgspec.Struct, frozen=True):
    """Triangles with shape (3·n, 9): position, normal and colour of each corner, mm and 0 to 1."""

    corners: Vertices

    @property
    def bounds(self) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """The lowest and the highest corner of the box round it."""
        low, high = self.corners[:, :3].min(axis=0), self.corners[:, :3].max(axis=0)
        return tuple(tidy(v) for v in low.tolist()), tuple(tidy(v) for v in high.tolist())


def make_mesh(solids: Sequence[Solid]) -> Mesh:
    """Mesh each shape once and place it n times."""
    from eider.bodies.cad_kernel import make_shape
    from eider.bodies.kernel_mesh import mesh_faces

    blocks: list[Vertices] = []
    for solid in solids:
        triangles = np.concatenate([found for _face, found in mesh_faces(make_shape(solid), DEFLECTION, ANGLE)])
        block = mesh_block(triangles, colour_of(solid.material))
        for place in solid.placements:
            angle = np.radians(place.turn)
            turn = np.array([[np.cos(angle), -np.sin(angle), 0], [np.sin(angle), np.cos(angle), 0], [0, 0, 1]])
            blocks.append(placed_block(block, turn, np.array([place.x, place.y, place.z])))
    return Mesh(np.vstack(blocks))


def mesh_block(triangles: npt.NDArray[np.float64], colour: Colour) -> Vertices:
    """Triangles of one colour, shape (n, 3, 3), as corners of a mesh."""
    normals = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    normals /= np.linalg.norm(normals, axis=1, keepdims=True) + 1e-12
    corners = triangles.reshape(-1, 3)
    tint = np.tile(np.array(colour), (len(corners), 1))
    return np.hstack([corners, np.repeat(normals, 3, axis=0), tint]).astype(np.float32)


def placed_block(block: Vertices, turn: npt.NDArray[np.float64], move: npt.NDArray[np.float64]) -> Vertices:
    """Corners turned (3, 3), which may scale as well, and moved (3,)."""
    straight = turn / np.cbrt(np.linalg.det(turn))
    placed = np.hstack([block[:, :3] @ turn.T + move, block[:, 3:6] @ straight.T, block[:, 6:]])
    return placed.astype(np.float32)
