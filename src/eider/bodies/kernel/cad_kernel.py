"""Neutral solids to shapes of Open CASCADE. Importing this module loads the kernel, which takes about a second."""

import math
from collections.abc import Iterator
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer, BRepFilletAPI_MakeFillet, BRepFilletAPI_MakeFillet2d
from OCP.BRepOffsetAPI import BRepOffsetAPI_ThruSections
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakePrism,
    BRepPrimAPI_MakeRevol,
    BRepPrimAPI_MakeSphere,
)
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.ShapeUpgrade import ShapeUpgrade_UnifySameDomain
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Shape

from eider.bodies.step_files.step_text import StepError
from eider.geometry.bends import inset_outline
from eider.geometry.solids import Ball, Cylinder, EdgeTreatment, Prism, Revolved, Shape, Solid, SolidPlacement, Strip

# Ends of an edge whose heights differ by less (mm) are level.
LEVEL = 1e-6


def make_shape(solid: Solid) -> TopoDS_Shape:
    """The shape of a solid, at the place where it is defined (mm).

    Raises:
        StepError: its edges cannot be rounded or chamfered by so much.
    """
    shape = _made(solid.shape)
    for joined in solid.joins:
        shape = BRepAlgoAPI_Fuse(shape, _made(joined)).Shape()
    if solid.joins:
        # Faces that continue each other over the joint become one.
        unify = ShapeUpgrade_UnifySameDomain(shape, True, True, False)
        unify.Build()
        shape = unify.Shape()
    if solid.edges is not None:
        shape = _with_edges(shape, solid.edges, solid.name)
    for cut in solid.cuts:
        shape = BRepAlgoAPI_Cut(shape, _made(cut)).Shape()
    return shape


def _made(shape: Shape) -> TopoDS_Shape:
    if isinstance(shape, Prism):
        return _prism(shape)
    if isinstance(shape, Strip):
        return _strip(shape)
    if isinstance(shape, Ball):
        return _ball(shape)
    return _revolved(shape) if isinstance(shape, Revolved) else _cylinder(shape)


def location(place: SolidPlacement) -> TopLoc_Location:
    """Turn about z, then move."""
    turn, move = gp_Trsf(), gp_Trsf()
    turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), math.radians(place.turn))
    move.SetTranslation(gp_Vec(place.x, place.y, place.z))
    return TopLoc_Location(move.Multiplied(turn))


def _wire(points: list[gp_Pnt]) -> Any:
    polygon = BRepBuilderAPI_MakePolygon()
    for point in points:
        polygon.Add(point)
    polygon.Close()
    return polygon.Wire()


def _face(points: list[gp_Pnt]) -> Any:
    return BRepBuilderAPI_MakeFace(_wire(points), True).Face()


def _raise(points: list[gp_Pnt], direction: gp_Vec) -> TopoDS_Shape:
    return BRepPrimAPI_MakePrism(_face(points), direction).Shape()


def _prism(prism: Prism) -> TopoDS_Shape:
    if prism.draft:
        shape = _drafted(prism)
    else:
        shape = _raise([gp_Pnt(x, y, prism.z0) for x, y in prism.outline], gp_Vec(0, 0, prism.z1 - prism.z0))
    for pocket in prism.pockets:
        shape = BRepAlgoAPI_Cut(shape, _cylinder(pocket)).Shape()
    return shape


def _drafted(prism: Prism) -> TopoDS_Shape:
    """Flat faces between the outline at half the height and smaller ones at bottom and top."""
    end = inset_outline(prism.outline, prism.draft)
    middle = (prism.z0 + prism.z1) / 2
    builder = BRepOffsetAPI_ThruSections(True, True)
    builder.CheckCompatibility(False)
    for outline, z in ((end, prism.z0), (prism.outline, middle), (end, prism.z1)):
        builder.AddWire(_wire([gp_Pnt(x, y, z) for x, y in outline]))
    return builder.Shape()


def _cylinder(cylinder: Cylinder) -> TopoDS_Shape:
    foot = gp_Ax2(gp_Pnt(cylinder.x, cylinder.y, cylinder.z0), gp_Dir(0, 0, 1))
    return BRepPrimAPI_MakeCylinder(foot, cylinder.radius, cylinder.z1 - cylinder.z0).Shape()


def _strip(strip: Strip) -> TopoDS_Shape:
    half = strip.width / 2
    face = _face([gp_Pnt(x, -half, z) for x, z in strip.profile])
    if strip.bends:
        face = _bent(face, {gp_Pnt(x, -half, z): radius for (x, z), radius in strip.bends})
    return BRepPrimAPI_MakePrism(face, gp_Vec(0, strip.width, 0)).Shape()


def _bent(face: Any, radii: dict[gp_Pnt, float]) -> Any:
    """A flat face with some of its corners rounded."""
    builder = BRepFilletAPI_MakeFillet2d(face)
    for corner in explored(face, TopAbs_ShapeEnum.TopAbs_VERTEX):
        at = BRep_Tool.Pnt_s(TopoDS.Vertex(corner))
        radius = next((radius for place, radius in radii.items() if place.Distance(at) < LEVEL), 0.0)
        if radius > 0:
            builder.AddFillet(TopoDS.Vertex(corner), radius)
            # Each corner comes with two edges.
            radii = {place: left for place, left in radii.items() if place.Distance(at) >= LEVEL}
    builder.Build()
    return builder.Shape() if builder.IsDone() else face


def _ball(ball: Ball) -> TopoDS_Shape:
    """A zone of a sphere, between two angles above its equator."""
    middle = gp_Ax2(gp_Pnt(ball.x, ball.y, ball.z), gp_Dir(0, 0, 1))
    low, high = (math.asin(min(max((z - ball.z) / ball.radius, -1.0), 1.0)) for z in (ball.z0, ball.z1))
    return BRepPrimAPI_MakeSphere(middle, ball.radius, low, high).Shape()


def _revolved(revolved: Revolved) -> TopoDS_Shape:
    face = _face([gp_Pnt(revolved.x + r, revolved.y, z) for r, z in revolved.profile])
    axis = gp_Ax1(gp_Pnt(revolved.x, revolved.y, 0), gp_Dir(0, 0, 1))
    return BRepPrimAPI_MakeRevol(face, axis).Shape()


def _with_edges(shape: TopoDS_Shape, edges: EdgeTreatment, name: str) -> TopoDS_Shape:
    builder = BRepFilletAPI_MakeChamfer(shape) if edges.chamfered else BRepFilletAPI_MakeFillet(shape)
    for edge in _chosen_edges(shape, edges.which):
        builder.Add(edges.size, edge)
    try:
        builder.Build()
        if builder.IsDone():
            return builder.Shape()
    except Exception as fault:  # the kernel's own exceptions have no base of their own
        raise StepError(_too_much(name, edges)) from fault
    raise StepError(_too_much(name, edges))


def _too_much(name: str, edges: EdgeTreatment) -> str:
    return f"the edges of {name} cannot be treated by {edges.size:g} mm; enter less"


def _chosen_edges(shape: TopoDS_Shape, which: str) -> Iterator[Any]:
    """Each edge of a kind once."""
    found = [(edge, _heights(edge)) for edge in _sharp_edges(shape)]
    top = max(max(heights) for _, heights in found)
    for edge, heights in found:
        is_level = max(heights) - min(heights) < LEVEL
        is_top = is_level and heights[0] > top - LEVEL
        if which == "all" or (is_top if which == "top" else not is_level):
            yield edge


def _sharp_edges(shape: TopoDS_Shape) -> list[Any]:
    """Every edge at which two faces meet; the seam of a round face, which comes twice in it, is none."""
    edges: list[Any] = []
    for face in explored(shape, TopAbs_ShapeEnum.TopAbs_FACE):
        edges += [edge for edge in face_edges(face) if not any(edge.IsSame(other) for other in edges)]
    return edges


def face_edges(face: TopoDS_Shape) -> list[Any]:
    """The edges of a face, without the seam of a round face, which the kernel lists twice."""
    found = [TopoDS.Edge(edge) for edge in explored(face, TopAbs_ShapeEnum.TopAbs_EDGE)]
    return [edge for edge in found if sum(edge.IsSame(other) for other in found) == 1]


def explored(
    shape: TopoDS_Shape, kind: TopAbs_ShapeEnum, outside: TopAbs_ShapeEnum = TopAbs_ShapeEnum.TopAbs_SHAPE
) -> Iterator[TopoDS_Shape]:
    """The parts of a shape of one kind, but for those inside parts of the kind `outside`."""
    explorer = TopExp_Explorer(shape, kind, outside)
    while explorer.More():
        yield explorer.Current()
        explorer.Next()


def _heights(edge: Any) -> tuple[float, float, float]:
    """How high an edge lies at both ends and in the middle (mm)."""
    curve = BRepAdaptor_Curve(edge)
    first, last = curve.FirstParameter(), curve.LastParameter()
    a, b, c = (float(curve.Value(at).Z()) for at in (first, (first + last) / 2, last))
    return a, b, c
