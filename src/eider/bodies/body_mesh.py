"""Triangles of solids for the 3D view, made by Open CASCADE."""

from collections.abc import Sequence

import msgspec
import numpy as np
import numpy.typing as npt

from eider.bodies.materials import colour_of
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
    blocks: list[Vertices] = []
    for solid in solids:
        triangles = _triangles(solid)
        normals = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0])
        normals /= np.linalg.norm(normals, axis=1, keepdims=True) + 1e-12
        corners, faces = triangles.reshape(-1, 3), np.repeat(normals, 3, axis=0)
        colour = np.tile(np.array(colour_of(solid.material)), (len(corners), 1))
        for place in solid.placements:
            angle = np.radians(place.turn)
            turn = np.array([[np.cos(angle), -np.sin(angle), 0], [np.sin(angle), np.cos(angle), 0], [0, 0, 1]])
            moved = corners @ turn.T + np.array([place.x, place.y, place.z])
            blocks.append(np.hstack([moved, faces @ turn.T, colour]).astype(np.float32))
    return Mesh(np.vstack(blocks))


def _triangles(solid: Solid) -> npt.NDArray[np.float64]:
    """The triangles of one shape, shape (n, 3, 3), mm, counter-clockwise seen from outside."""
    from OCP.BRep import BRep_Tool
    from OCP.BRepMesh import BRepMesh_IncrementalMesh
    from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
    from OCP.TopExp import TopExp_Explorer
    from OCP.TopLoc import TopLoc_Location
    from OCP.TopoDS import TopoDS

    from eider.bodies.cad_kernel import make_shape

    shape = make_shape(solid)
    BRepMesh_IncrementalMesh(shape, DEFLECTION, False, ANGLE, False)
    found = []
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_FACE)
    while explorer.More():
        face = TopoDS.Face_s(explorer.Current()) if hasattr(TopoDS, "Face_s") else TopoDS.Face(explorer.Current())
        place = TopLoc_Location()
        facets = BRep_Tool.Triangulation_s(face, place)
        moved = place.Transformation()
        flip = face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        nodes = [facets.Node(i + 1).Transformed(moved) for i in range(facets.NbNodes())]
        points = np.array([(p.X(), p.Y(), p.Z()) for p in nodes])
        for index in range(facets.NbTriangles()):
            a, b, c = (n - 1 for n in facets.Triangle(index + 1).Get())
            found.append(points[[a, c, b]] if flip else points[[a, b, c]])
        explorer.Next()
    return np.array(found)
