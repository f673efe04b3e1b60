"""Triangles of solids for the 3D view, made by Open CASCADE."""

from collections.abc import Sequence

import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.pictures.body_camera import Place
from eider.geometry.rounding import tidy
from eider.geometry.solids import RISING, Look, Solid

# How far a facet may be from the true surface (mm), and the angle between facets (rad).
DEFLECTION, ANGLE = 0.02, 0.3
Vertices = npt.NDArray[np.float32]
COLUMNS = 10


class Mesh(msgspec.Struct, frozen=True):
    """Triangles with shape (3·n, 10): position, normal, colour and shine of each corner, mm and 0 to 1.

    The first `opaque_corners` stay solid where the body is shown see-through: board, lands and terminals.
    """

    corners: Vertices
    opaque_corners: int = 0

    @property
    def triangles(self) -> int:
        """How many triangles it has."""
        return len(self.corners) // 3

    @property
    def bounds(self) -> tuple[Place, Place]:
        """The lowest and the highest corner of the box around it; the origin where there are no triangles."""
        if not len(self.corners):
            return (0.0, 0.0, 0.0), (0.0, 0.0, 0.0)
        low, high = self.corners[:, :3].min(axis=0), self.corners[:, :3].max(axis=0)
        (x0, y0, z0), (x1, y1, z1) = (map(tidy, corner.tolist()) for corner in (low, high))
        return (x0, y0, z0), (x1, y1, z1)


def make_mesh(solids: Sequence[Solid]) -> Mesh:
    """Mesh each shape once and place it n times; what is opaque comes first."""
    from eider.bodies.kernel.cad_kernel import make_shape
    from eider.bodies.kernel.kernel_mesh import mesh_faces

    opaque: list[Vertices] = []
    others: list[Vertices] = []
    for solid in solids:
        triangles = np.concatenate([found for _face, found in mesh_faces(make_shape(solid), DEFLECTION, ANGLE)])
        block = mesh_block(triangles, solid.look)
        _colour_sides(block, solid)
        for place in solid.placements:
            angle = np.radians(place.turn)
            turn = np.array([[np.cos(angle), -np.sin(angle), 0], [np.sin(angle), np.cos(angle), 0], [0, 0, 1]])
            made = placed_block(block, turn, np.array([place.x, place.y, place.z]))
            (opaque if solid.look.is_opaque else others).append(made)
    return Mesh(np.vstack([*opaque, *others]), sum(map(len, opaque)))


def mesh_block(triangles: npt.NDArray[np.float64], look: Look) -> Vertices:
    """Triangles of one look, shape (n, 3, 3), as corners of a mesh."""
    normals = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
    normals /= np.linalg.norm(normals, axis=1, keepdims=True) + 1e-12
    corners = triangles.reshape(-1, 3)
    tint = np.tile(np.array([*look.colour, look.shine]), (len(corners), 1))
    return np.hstack([corners, np.repeat(normals, 3, axis=0), tint]).astype(np.float32)


def _colour_sides(block: Vertices, solid: Solid) -> None:
    """Give sides that look otherwise their own colours."""
    rise = block[:, 5]
    for side, look in solid.sides:
        of_side = {"top": rise > RISING, "bottom": rise < -RISING, "sides": np.abs(rise) <= RISING}[side]
        block[of_side, 6:] = (*look.colour, look.shine)


def placed_block(block: Vertices, turn: npt.NDArray[np.float64], move: npt.NDArray[np.float64]) -> Vertices:
    """Corners turned (3, 3), which may scale as well, and moved (3,)."""
    straight = turn / np.cbrt(np.linalg.det(turn))
    placed = np.hstack([block[:, :3] @ turn.T + move, block[:, 3:6] @ straight.T, block[:, 6:]])
    return placed.astype(np.float32)
