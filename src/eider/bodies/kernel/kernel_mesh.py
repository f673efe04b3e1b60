"""Triangles of shapes of Open CASCADE. Importing this module loads the kernel."""

from collections.abc import Iterator
from typing import Any

import numpy as np
import numpy.typing as npt
from OCP.BRep import BRep_Tool
from OCP.BRepMesh import BRepMesh_IncrementalMesh
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Shape

from eider.bodies.kernel.cad_kernel import explored

Triangles = npt.NDArray[np.float64]


def mesh_faces(shape: TopoDS_Shape, deflection: float, angle: float) -> Iterator[tuple[Any, Triangles]]:
    """Each face of a shape with its triangles, shape (n, 3, 3), mm, counter-clockwise seen from outside.

    `deflection` is how far a facet may be from the true surface (mm), `angle` how far two may lean (rad).
    """
    BRepMesh_IncrementalMesh(shape, deflection, False, angle, False)
    for found in explored(shape, TopAbs_ShapeEnum.TopAbs_FACE):
        face = TopoDS.Face(found)
        yield face, _triangles(face)


def _triangles(face: Any) -> Triangles:
    place = TopLoc_Location()
    facets = BRep_Tool.Triangulation_s(face, place)
    if facets is None:
        return np.zeros((0, 3, 3))
    moved = place.Transformation()
    nodes = [facets.Node(i + 1).Transformed(moved) for i in range(facets.NbNodes())]
    points = np.array([(p.X(), p.Y(), p.Z()) for p in nodes])
    corners = np.array([facets.Triangle(i + 1).Get() for i in range(facets.NbTriangles())]).reshape(-1, 3) - 1
    if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
        corners = corners[:, [0, 2, 1]]
    return np.asarray(points[corners])


def face_rise(face: Any) -> float:
    """The z of the outward normal of a face, as its triangles have it on average; it is meshed before if need be."""
    BRepMesh_IncrementalMesh(face, 0.1, False, 0.5, False)
    triangles = _triangles(face)
    total = np.cross(triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0]).sum(axis=0)
    return float(total[2] / max(float(np.linalg.norm(total)), 1e-12))
