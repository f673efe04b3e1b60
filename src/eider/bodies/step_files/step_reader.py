"""Reads STEP files through Open CASCADE: solids, names, colours, and the faces that alignment goes by.

Importing this module loads the kernel, which takes about a second. Files are hostile: read them through `step_process`.
"""

import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
from OCP.Bnd import Bnd_Box
from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepBndLib import BRepBndLib
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.BRepGProp import BRepGProp
from OCP.collections import Sequence_TCollection_AsciiString, Sequence_TDF_Label
from OCP.GeomAbs import GeomAbs_SurfaceType
from OCP.GeomLib import GeomLib_IsPlanarSurface
from OCP.gp import gp_Pnt, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Message import Message
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.STEPCAFControl import STEPCAFControl_Reader
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDF import TDF_Label
from OCP.TDocStd import TDocStd_Document
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Shape
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool, XCAFDoc_ShapeTool

from eider.bodies.kernel.cad_kernel import explored
from eider.bodies.step_files.step_model import FaceKind, FaceTable, FloatArray, Rgb, StepModel, StepSolid
from eider.bodies.step_files.step_text import StepError, look_at_step

_COLOUR_TYPES = (XCAFDoc_ColorType.XCAFDoc_ColorSurf, XCAFDoc_ColorType.XCAFDoc_ColorGen)
_KINDS = {
    GeomAbs_SurfaceType.GeomAbs_Plane: FaceKind.PLANE,
    GeomAbs_SurfaceType.GeomAbs_Cylinder: FaceKind.CYLINDER,
    GeomAbs_SurfaceType.GeomAbs_Sphere: FaceKind.SPHERE,
}
# How far (mm) a spline may bend and still be a plane.
FLAT = 1e-4
# How far the numbers of a turn by quarters may be from whole ones.
SQUARE = 1e-9
# How STEP names its units, and how we do.
_UNITS = {"MILLIMETRE": "mm", "METRE": "m", "INCH": "in", "CENTIMETRE": "cm", "MICROMETRE": "um", "FOOT": "ft"}


class PlacedShape(NamedTuple):
    """One instance of a shape: the shape where it is defined, where it is placed, its name and its colour."""

    shape: TopoDS_Shape
    location: TopLoc_Location
    name: str
    colour: Rgb | None


class ReadStep(NamedTuple):
    """A file as it was read: the model, and what the kernel made of it."""

    model: StepModel
    placed: list[PlacedShape]
    tints: "ColourTable"


class ColourTable:
    """The colours of a document, each once, and how those of its shapes and faces are told."""

    def __init__(self, document: TDocStd_Document) -> None:
        # Parts are placed many times: what is found for one is kept.
        self._of_parts: dict[int, Rgb | None] = {}
        # The kernel keeps the colours in the document, and Python would let go of it.
        self._document = document
        self._tool = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
        self.colours: list[Rgb] = []

    def of(self, thing: TDF_Label | TopoDS_Shape) -> Rgb | None:
        """The colour of a label or shape; None where it has none of its own."""
        colour = Quantity_Color()
        for kind in _COLOUR_TYPES:
            if isinstance(thing, TDF_Label):
                found = self._tool.GetColor_s(thing, kind, colour)
            else:
                found = self._tool.GetColor(thing, kind, colour)
            if found:
                red, green, blue = colour.Values(Quantity_TypeOfColor.Quantity_TOC_sRGB)
                return round(red, 4), round(green, 4), round(blue, 4)
        return None

    def of_part(self, label: TDF_Label, shape: TopoDS_Shape) -> Rgb | None:
        """The colour of a part that instances refer to, by its shape."""
        key = hash(shape)
        if key not in self._of_parts:
            self._of_parts[key] = self.of(label)
        return self._of_parts[key]

    def index(self, colour: Rgb | None) -> int:
        """The number of a colour; −1 for none."""
        if colour is None:
            return -1
        if colour not in self.colours:
            self.colours.append(colour)
        return self.colours.index(colour)


def read_step(path: Path) -> ReadStep:
    """Read a STEP file.

    Raises:
        StepError: as `look_at_step`, or the kernel can make nothing of it.
    """
    text = look_at_step(path)
    document, unit = transferred(path)
    tints = ColourTable(document)
    placed = placed_leaves(document, tints)
    doubts: list[str] = []
    rows, solids = _FaceRows(tints), list[StepSolid]()
    for leaf in placed:
        _take(leaf, rows, solids, tints, doubts)
    if not solids:
        raise StepError(f"{path.name} has no solid that the kernel can read; ask the manufacturer for another export")
    name = _name(_free_labels(document)[0]) or path.stem
    if len(unit.split(", ")) > 1:
        doubts.append(f"parts of the file are in different units ({unit})")
    model = StepModel(name, unit, text.protocol, tuple(solids), tuple(tints.colours), rows.table(), tuple(doubts))
    return ReadStep(model, placed, tints)


def _free_labels(document: TDocStd_Document) -> list[TDF_Label]:
    """The labels of the shapes that are part of no other."""
    free = Sequence_TDF_Label()
    XCAFDoc_DocumentTool.ShapeTool_s(document.Main()).GetFreeShapes(free)
    return [free.Value(index + 1) for index in range(free.Length())]


def placed_leaves(document: TDocStd_Document, tints: ColourTable) -> list[PlacedShape]:
    """All instances of shapes in a document."""
    return [leaf for label in _free_labels(document) for leaf in _leaves(label, tints)]


def transferred(path: Path) -> tuple[TDocStd_Document, str]:
    """The document that the kernel makes of a file, in mm, and the unit of the file.

    Raises:
        StepError: the kernel can make nothing of it.
    """
    Message.DefaultMessenger_s().ChangePrinters().Clear()
    reader = STEPCAFControl_Reader()
    reader.SetColorMode(True)
    reader.SetNameMode(True)
    if reader.ReadFile(str(path)) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise StepError(f"{path.name} cannot be read: it is damaged; fetch it again")
    names, angles, solid_angles = (Sequence_TCollection_AsciiString() for _ in range(3))
    reader.ChangeReader().FileUnits(names, angles, solid_angles)
    found = dict.fromkeys(names.Value(index + 1).ToCString() for index in range(names.Length()))
    document = TDocStd_Document(TCollection_ExtendedString("BinXCAF"))
    XCAFDoc_DocumentTool.SetLengthUnit_s(document, 0.001)
    if not reader.Transfer(document):
        raise StepError(f"the kernel can make no shape of {path.name}; ask the manufacturer for another export")
    return document, ", ".join(_UNITS.get(name.upper(), name.lower()) for name in found) or "mm"


def _leaves(
    label: TDF_Label, tints: ColourTable, location: TopLoc_Location | None = None, inherited: Rgb | None = None
) -> Iterator[PlacedShape]:
    """All instances of shapes below a label; an instance's colour holds for what is below it."""
    location = location or TopLoc_Location()
    colour = tints.of(label) or inherited
    if XCAFDoc_ShapeTool.IsReference_s(label):
        target = TDF_Label()
        XCAFDoc_ShapeTool.GetReferredShape_s(label, target)
        here = location.Multiplied(XCAFDoc_ShapeTool.GetLocation_s(label))
        if XCAFDoc_ShapeTool.IsAssembly_s(target):
            yield from _leaves(target, tints, here, colour)
        else:
            shape = XCAFDoc_ShapeTool.GetShape_s(target)
            yield PlacedShape(shape, here, _name(label) or _name(target), colour or tints.of_part(target, shape))
    elif XCAFDoc_ShapeTool.IsAssembly_s(label):
        parts = Sequence_TDF_Label()
        XCAFDoc_ShapeTool.GetComponents_s(label, parts, False)
        for index in range(parts.Length()):
            yield from _leaves(parts.Value(index + 1), tints, location, colour)
    else:
        yield PlacedShape(XCAFDoc_ShapeTool.GetShape_s(label), location, _name(label), colour)


def _name(label: TDF_Label) -> str:
    found = TDataStd_Name()
    if not label.FindAttribute(TDataStd_Name.GetID_s(), found):
        return ""
    return str(found.Get().ToExtString())


def _take(leaf: PlacedShape, rows: "_FaceRows", solids: list[StepSolid], tints: ColourTable, doubts: list[str]) -> None:
    """Enter the solids of an instance, and tell what else is in it."""
    inside, loose = rows.content(leaf.shape)
    for solid in inside:
        colour = tints.index(leaf.colour or tints.of(solid))
        rows.add(solid, leaf.location, colour, len(solids))
        solids.append(StepSolid(leaf.name, colour, rows.is_sound(solid)))
    if loose:
        what = leaf.name or "a shape"
        doubts.append(f"{what} has {loose} faces that belong to no solid; they are left out")


class MeasuredFace(NamedTuple):
    """One face where it is defined."""

    kind: FaceKind
    low: FloatArray
    high: FloatArray
    direction: FloatArray
    centre: FloatArray
    radius: float
    area: float
    colour: Rgb | None


class _Instance(NamedTuple):
    """One place of a solid: turn (3, 3) and move (3,), the colour that it inherits, and its number in the model."""

    turn: FloatArray
    move: FloatArray
    colour: int
    number: int


class _FaceRows:
    """Collects faces; those of a solid that is placed many times are measured once, and placed all together."""

    def __init__(self, tints: ColourTable) -> None:
        self._tints = tints
        self._measured: dict[int, FaceTable] = {}
        self._sound: dict[int, bool] = {}
        self._contents: dict[int, tuple[list[TopoDS_Shape], int]] = {}
        self._instances: dict[int, list[_Instance]] = {}
        self._tables: list[FaceTable] = []

    def add(self, solid: TopoDS_Shape, location: TopLoc_Location, colour: int, number: int) -> None:
        """Enter the faces of a solid at a place; `colour` is the number of the one that it inherits."""
        turn, move = matrix_of(location)
        # A box can be turned by quarters; at another angle its faces are measured where they are.
        quarters = np.round(turn)
        if np.abs(turn - quarters).max() < SQUARE:
            # The kernel's own sum over shape, place and orientation.
            key = hash(solid)
            if key not in self._measured:
                self._measured[key] = _as_table(_measure(solid, solid, self._tints), self._tints)
            self._instances.setdefault(key, []).append(_Instance(quarters, move, colour, number))
        else:
            faces = _as_table(_measure(solid.Moved(location), solid, self._tints), self._tints)
            self._tables.append(_placed(faces, [_Instance(np.eye(3), np.zeros(3), colour, number)]))

    def content(self, shape: TopoDS_Shape) -> tuple[list[TopoDS_Shape], int]:
        """The solids of a shape, and how many of its faces belong to none."""
        key = hash(shape)
        if key not in self._contents:
            loose = explored(shape, TopAbs_ShapeEnum.TopAbs_FACE, TopAbs_ShapeEnum.TopAbs_SOLID)
            self._contents[key] = list(explored(shape, TopAbs_ShapeEnum.TopAbs_SOLID)), sum(1 for _ in loose)
        return self._contents[key]

    def is_sound(self, solid: TopoDS_Shape) -> bool:
        """Whether a solid is closed and its parts fit together."""
        key = hash(solid)
        if key not in self._sound:
            self._sound[key] = bool(BRepCheck_Analyzer(solid, True, True).IsValid())
        return self._sound[key]

    def table(self) -> FaceTable:
        """All faces, in the order of the solids."""
        placed = [_placed(self._measured[key], instances) for key, instances in self._instances.items()]
        names, tables = FaceTable.__struct_fields__, [*self._tables, *placed]
        whole = {name: np.concatenate([getattr(table, name) for table in tables]) for name in names}
        order = np.argsort(whole["solid"], kind="stable")
        return FaceTable(**{name: values[order] for name, values in whole.items()})


def _as_table(faces: list[MeasuredFace], tints: ColourTable) -> FaceTable:
    kind, low, high, direction, centre, radius, area, colour = zip(*faces, strict=True)
    return FaceTable(
        np.array(kind, np.int32), np.array(low), np.array(high), np.array(direction), np.array(centre),
        np.array(radius, float), np.array(area, float), np.array([tints.index(tint) for tint in colour], np.int32),
        np.zeros(len(faces), np.int32),
    )  # fmt: skip


def _placed(faces: FaceTable, instances: list[_Instance]) -> FaceTable:
    """The faces of a solid at all places where it stands, turned by quarters and moved."""
    turns, moves = np.stack([at.turn for at in instances]), np.stack([at.move for at in instances])[:, None, :]
    colours, numbers = (np.array([getattr(at, name) for at in instances], np.int32) for name in ("colour", "number"))

    def turned(values: FloatArray) -> FloatArray:
        return np.asarray(np.einsum("kij,mj->kmi", turns, values))

    ends = turned(faces.low) + moves, turned(faces.high) + moves
    count, many = len(faces.kind), len(instances)
    of_face = np.tile(faces.colour, many)
    return FaceTable(
        kind=np.tile(faces.kind, many),
        low=np.minimum(*ends).reshape(-1, 3),
        high=np.maximum(*ends).reshape(-1, 3),
        direction=turned(faces.direction).reshape(-1, 3),
        centre=(turned(faces.centre) + moves).reshape(-1, 3),
        radius=np.tile(faces.radius, many),
        area=np.tile(faces.area, many),
        colour=np.where(of_face < 0, np.repeat(colours, count), of_face).astype(np.int32),
        solid=np.repeat(numbers, count),
    )


def _measure(solid: TopoDS_Shape, defined: TopoDS_Shape, tints: ColourTable) -> list[MeasuredFace]:
    """The faces of a solid; `defined` is the same one where its colours are found."""
    kind = TopAbs_ShapeEnum.TopAbs_FACE
    return [
        measure_face(TopoDS.Face(face), tints.of(own))
        for face, own in zip(explored(solid, kind), explored(defined, kind), strict=True)
    ]


def measure_face(face: Any, colour: Rgb | None = None) -> MeasuredFace:
    """What the kernel knows of a face where it is."""
    box = Bnd_Box()
    BRepBndLib.AddOptimal_s(face, box, False, False)
    box.SetGap(0.0)
    ends = np.zeros((2, 3)) if box.IsVoid() else np.array([_vector(box.CornerMin()), _vector(box.CornerMax())])
    properties = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, properties)
    middle = properties.CentreOfMass()
    centre, direction, radius = np.array([middle.X(), middle.Y(), middle.Z()]), np.zeros(3), 0.0
    surface = BRepAdaptor_Surface(face)
    kind = _KINDS.get(surface.GetType(), FaceKind.OTHER)
    if kind == FaceKind.OTHER and GeomLib_IsPlanarSurface(BRep_Tool.Surface_s(face), FLAT).IsPlanar():
        # A plane that someone wrote as a spline.
        kind = FaceKind.PLANE
    if kind == FaceKind.PLANE:
        direction = _normal(surface)
        if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            direction = -direction
    elif kind == FaceKind.CYLINDER:
        axis = surface.Cylinder().Axis()
        direction, radius = _vector(axis.Direction()), float(surface.Cylinder().Radius())
        foot = _vector(axis.Location())
        centre = foot + direction * float(direction @ (centre - foot))
    elif kind == FaceKind.SPHERE:
        centre, radius = _vector(surface.Sphere().Location()), float(surface.Sphere().Radius())
    return MeasuredFace(kind, ends[0], ends[1], direction, centre, radius, abs(float(properties.Mass())), colour)


def _normal(surface: BRepAdaptor_Surface) -> FloatArray:
    """The normal of a flat surface in its middle, as its two directions give it."""
    point, along, across = gp_Pnt(), gp_Vec(), gp_Vec()
    u = (surface.FirstUParameter() + surface.LastUParameter()) / 2
    v = (surface.FirstVParameter() + surface.LastVParameter()) / 2
    surface.D1(u, v, point, along, across)
    found = _vector(along.Crossed(across))
    return np.asarray(found / max(math.hypot(*found), 1e-12))


def _vector(found: Any) -> FloatArray:
    return np.array([found.X(), found.Y(), found.Z()])


def matrix_of(location: TopLoc_Location) -> tuple[FloatArray, FloatArray]:
    """Turn (3, 3) and move (3,) of a place."""
    placed = location.Transformation()
    values = np.array([[placed.Value(row, column) for column in range(1, 5)] for row in range(1, 4)])
    return values[:, :3], values[:, 3]
