"""Finds what a line of sight meets, and distances, on exact shapes. Importing this module loads the kernel."""

import math
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
from msgspec.structs import replace
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.BRepGProp import BRepGProp
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt
from OCP.GProp import GProp_GProps
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopoDS import TopoDS, TopoDS_Shape

from eider.bodies.kernel.cad_kernel import explored, face_edges, location, make_shape
from eider.bodies.kernel.picked_items import MeasuredGap, PickedItem, PickKind
from eider.bodies.pictures.body_camera import Place, SightLine
from eider.bodies.pictures.body_scene import BodyScene
from eider.bodies.step_files.step_model import FaceKind
from eider.bodies.step_files.step_placing import placed_shapes
from eider.bodies.step_files.step_reader import measure_face

# Farther along its line of sight (mm) nothing is looked for; how exact a hit is (mm).
FARTHEST, EXACT = 1e6, 1e-6
# Of the breadth of a face, how near to its edge a click has to be at most.
OF_FACE = 0.25
# Points along an edge that is not straight, for drawing it.
ALONG = 24
KINDS: dict[PickKind, TopAbs_ShapeEnum] = {
    "point": TopAbs_ShapeEnum.TopAbs_VERTEX,
    "edge": TopAbs_ShapeEnum.TopAbs_EDGE,
    "face": TopAbs_ShapeEnum.TopAbs_FACE,
}


class _Piece(NamedTuple):
    """One instance of a solid where it stands, and the box around it."""

    name: str
    shape: TopoDS_Shape
    low: Place
    high: Place


class _Hit(NamedTuple):
    """Where a line of sight meets a face."""

    along: float
    at: gp_Pnt
    face: Any
    piece: int


def pick(scene: BodyScene, model: str, line: SightLine, section: float) -> PickedItem | None:
    """The first item that is met: a corner or an edge where the line passes near enough to one of the face it meets."""
    hit = _first_hit(_pieces(scene, model), line, section)
    if hit is None:
        return None
    piece = _pieces(scene, model)[hit.piece]
    there = BRepBuilderAPI_MakeVertex(hit.at).Vertex()
    # The middle of a small face is to be had, too.
    _, breadth, _ = sorted(b - a for a, b in zip(*_box(hit.face), strict=True))
    reach, edges = min(line.reach, OF_FACE * breadth), face_edges(hit.face)
    # Where a circle begins is not a corner.
    open_edges = [edge for edge in edges if not BRep_Tool.IsClosed_s(edge)]
    corners = [corner for edge in open_edges for corner in explored(edge, KINDS["point"])]
    kinds: tuple[tuple[PickKind, list[Any]], ...] = (("point", corners), ("edge", edges))
    for kind, items in kinds:
        near = _nearest(there, items, reach)
        if near is not None:
            return _item(kind, piece, hit, near)
    return _item("face", piece, hit, hit.face)


def gap(scene: BodyScene, model: str, first: PickedItem, second: PickedItem) -> MeasuredGap:
    """The least distance of two items, and what else can be told of them."""
    pieces = _pieces(scene, model)
    a, b = (_shape_of(pieces[item.piece], item) for item in (first, second))
    found = BRepExtrema_DistShapeShape(a, b)
    between = tuple(q - p for p, q in zip(first.centre, second.centre, strict=True))
    angle = None
    if first.direction is not None and second.direction is not None:
        cosine = abs(sum(p * q for p, q in zip(first.direction, second.direction, strict=True)))
        angle = math.degrees(math.acos(min(cosine, 1.0)))
    start, end = _place(found.PointOnShape1(1)), _place(found.PointOnShape2(1))
    return MeasuredGap(float(found.Value()), start, end, (between[0], between[1], between[2]), angle)


@lru_cache(maxsize=2)
def _pieces(scene: BodyScene, model: str) -> tuple[_Piece, ...]:
    """All instances of a scene; those of the scene before are kept, so that a second click need not make them again."""
    return tuple(_placed_pieces(scene, model))


def _placed_pieces(scene: BodyScene, model: str) -> Iterator[_Piece]:
    for solid in scene.solids:
        shape = make_shape(solid)
        for place in solid.placements:
            yield _piece(solid.name, shape.Moved(location(place)))
    if scene.model is not None and model:
        for name, shape in placed_shapes(Path(model), scene.model.placement):
            yield _piece(name, shape)


def _piece(name: str, shape: TopoDS_Shape) -> _Piece:
    return _Piece(name, shape, *_box(shape))


def _box(shape: TopoDS_Shape) -> tuple[Place, Place]:
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(shape, box, False, False)
    box.SetGap(0.0)
    return _place(box.CornerMin()), _place(box.CornerMax())


def _first_hit(pieces: tuple[_Piece, ...], line: SightLine, section: float) -> _Hit | None:
    sight = gp_Lin(gp_Pnt(*line.start), gp_Dir(*line.direction))
    best: _Hit | None = None
    for entry, number in _entries(pieces, line):
        if best is not None and entry > best.along:
            break
        meeting = IntCurvesFace_ShapeIntersector()
        meeting.Load(pieces[number].shape, EXACT)
        meeting.Perform(sight, 0.0, FARTHEST)
        for index in range(1, meeting.NbPnt() + 1):
            along, at = float(meeting.WParameter(index)), meeting.Pnt(index)
            if at.X() <= section and (best is None or along < best.along - EXACT):
                best = _Hit(along, at, meeting.Face(index), number)
    return best


def _entries(pieces: tuple[_Piece, ...], line: SightLine) -> list[tuple[float, int]]:
    """Where the line enters the boxes that it meets, the nearest first."""
    if not pieces:
        return []
    low, high = (np.array([getattr(piece, end) for piece in pieces]) for end in ("low", "high"))
    start, direction = np.array(line.start), np.array(line.direction)
    slow = np.abs(direction) < 1e-12
    step = np.where(slow, 1.0, direction)
    ends = np.stack([(low - EXACT - start) / step, (high + EXACT - start) / step])
    inside = (low - EXACT <= start) & (start <= high + EXACT)
    near = np.where(slow, np.where(inside, -np.inf, np.inf), ends.min(axis=0)).max(axis=1)
    far = np.where(slow, np.where(inside, np.inf, -np.inf), ends.max(axis=0)).min(axis=1)
    return sorted((float(near[i]), int(i)) for i in np.flatnonzero(near <= far))


def _nearest(there: Any, items: list[Any], reach: float) -> TopoDS_Shape | None:
    best, least = None, reach
    for item in items:
        distance = float(BRepExtrema_DistShapeShape(there, item).Value())
        if distance <= least:
            best, least = item, distance
    return best


def _item(kind: PickKind, piece: _Piece, hit: _Hit, shape: TopoDS_Shape) -> PickedItem:
    index = next(i for i, found in enumerate(explored(piece.shape, KINDS[kind])) if found.IsSame(shape))
    low, high = _box(shape)
    at = _place(hit.at)
    item = PickedItem(kind=kind, piece=hit.piece, index=index, solid=piece.name, at=at, centre=at, low=low, high=high)
    if kind == "point":
        corner = _place(BRep_Tool.Pnt_s(TopoDS.Vertex(shape)))
        return replace(item, at=corner, centre=corner)
    if kind == "edge":
        return _edge(TopoDS.Edge(shape), item)
    face = measure_face(TopoDS.Face(shape))
    has_direction = face.kind in (FaceKind.PLANE, FaceKind.CYLINDER)
    return replace(
        item,
        centre=_corner(face.centre),
        direction=_corner(face.direction) if has_direction else None,
        is_flat=face.kind == FaceKind.PLANE,
        radius=face.radius,
        size=face.area,
        lines=tuple(_line(edge) for edge in face_edges(shape)),
    )


def _edge(edge: Any, item: PickedItem) -> PickedItem:
    curve = BRepAdaptor_Curve(edge)
    properties = GProp_GProps()
    BRepGProp.LinearProperties_s(edge, properties)
    item = replace(item, size=float(properties.Mass()), lines=(_line(edge),))
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        axis, middle = _place(circle.Axis().Direction()), _place(circle.Location())
        return replace(item, centre=middle, direction=axis, radius=float(circle.Radius()))
    is_straight = curve.GetType() == GeomAbs_CurveType.GeomAbs_Line
    direction = _place(curve.Line().Direction()) if is_straight else None
    return replace(item, centre=_place(properties.CentreOfMass()), direction=direction)


def _line(edge: Any) -> tuple[Place, ...]:
    """An edge as points: its two ends, or more where it is bent."""
    if BRep_Tool.Degenerated_s(edge):
        return ()
    curve = BRepAdaptor_Curve(edge)
    count = 2 if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line else ALONG
    along = np.linspace(curve.FirstParameter(), curve.LastParameter(), count)
    return tuple(_place(curve.Value(float(at))) for at in along)


def _shape_of(piece: _Piece, item: PickedItem) -> TopoDS_Shape:
    return next(shape for i, shape in enumerate(explored(piece.shape, KINDS[item.kind])) if i == item.index)


def _place(found: Any) -> Place:
    return float(found.X()), float(found.Y()), float(found.Z())


def _corner(values: Any) -> Place:
    x, y, z = (float(value) for value in values)
    return x, y, z
