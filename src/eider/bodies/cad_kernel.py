"""Neutral solids to shapes of Open CASCADE. Importing this module loads the kernel, which takes about a second."""

import math

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape

from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement, Strip


def make_shape(solid: Solid) -> TopoDS_Shape:
    """The shape of a solid, at the place where it is defined (mm)."""
    if isinstance(solid.shape, Prism):
        return _prism(solid.shape)
    return _strip(solid.shape) if isinstance(solid.shape, Strip) else _cylinder(solid.shape)


def location(place: SolidPlacement) -> TopLoc_Location:
    """Turn about z, then move."""
    turn, move = gp_Trsf(), gp_Trsf()
    turn.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), math.radians(place.turn))
    move.SetTranslation(gp_Vec(place.x, place.y, place.z))
    return TopLoc_Location(move.Multiplied(turn))


def _raise(points: list[gp_Pnt], direction: gp_Vec) -> TopoDS_Shape:
    polygon = BRepBuilderAPI_MakePolygon()
    for point in points:
        polygon.Add(point)
    polygon.Close()
    face = BRepBuilderAPI_MakeFace(polygon.Wire(), True).Face()
    return BRepPrimAPI_MakePrism(face, direction).Shape()


def _prism(prism: Prism) -> TopoDS_Shape:
    height = prism.z1 - prism.z0
    shape = _raise([gp_Pnt(x, y, prism.z0) for x, y in prism.outline], gp_Vec(0, 0, height))
    for pocket in prism.pockets:
        shape = BRepAlgoAPI_Cut(shape, _cylinder(pocket)).Shape()
    return shape


def _cylinder(cylinder: Cylinder) -> TopoDS_Shape:
    foot = gp_Ax2(gp_Pnt(cylinder.x, cylinder.y, cylinder.z0), gp_Dir(0, 0, 1))
    return BRepPrimAPI_MakeCylinder(foot, cylinder.radius, cylinder.z1 - cylinder.z0).Shape()


def _strip(strip: Strip) -> TopoDS_Shape:
    half = strip.width / 2
    return _raise([gp_Pnt(x, -half, z) for x, z in strip.profile], gp_Vec(0, strip.width, 0))
