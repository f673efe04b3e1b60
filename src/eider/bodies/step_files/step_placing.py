"""The STEP file of someone else as it stands on its lands: written again, or as shapes.

Importing this module loads the kernel.
"""

from collections.abc import Iterator
from pathlib import Path

from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.collections import Sequence_TDF_Label
from OCP.gp import gp_Pnt, gp_Trsf
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape
from OCP.XCAFDoc import XCAFDoc_DocumentTool, XCAFDoc_Editor

from eider.bodies.kernel.cad_kernel import explored
from eider.bodies.placement.model_placement import RigidPlacement
from eider.bodies.step_files.step_reader import ColourTable, placed_leaves, transferred
from eider.bodies.step_files.step_text import Protocol
from eider.bodies.step_files.step_writer import written_document


def place_step(path: Path, placement: RigidPlacement, name: str, protocol: Protocol) -> bytes:
    """The file in mm with its solids, names and colours, placed; `name` is that of the whole.

    Raises:
        StepError: the file cannot be read, or not be written.
    """
    document, _unit = transferred(path)
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    free = Sequence_TDF_Label()
    shapes.GetFreeShapes(free)
    labels = [free.Value(index + 1) for index in range(free.Length())]
    if placement.scale != 1.0:
        for label in labels:
            XCAFDoc_Editor.RescaleGeometry_s(label, placement.scale, True)
    whole = shapes.NewShape()
    TDataStd_Name.Set_s(whole, TCollection_ExtendedString(name, True))
    for label in labels:
        shapes.AddComponent(whole, label, TopLoc_Location(_rigid(placement)))
    shapes.UpdateAssemblies()
    return written_document(document, name, f"placed by Eider from {path.name}", protocol)


def placed_shapes(path: Path, placement: RigidPlacement) -> Iterator[tuple[str, TopoDS_Shape]]:
    """Every solid of a file by its name, where it stands on its lands (mm).

    Raises:
        StepError: the file cannot be read.
    """
    document, _unit = transferred(path)
    for leaf in placed_leaves(document, ColourTable(document)):
        for solid in explored(leaf.shape, TopAbs_ShapeEnum.TopAbs_SOLID):
            shape = solid.Moved(leaf.location)
            if placement.scale != 1.0:
                larger = gp_Trsf()
                larger.SetScale(gp_Pnt(0, 0, 0), placement.scale)
                shape = BRepBuilderAPI_Transform(shape, larger, True).Shape()
            yield leaf.name, shape.Moved(TopLoc_Location(_rigid(placement)))


def _rigid(placement: RigidPlacement) -> gp_Trsf:
    """Turn and move of a placement."""
    moved = gp_Trsf()
    moved.SetValues(*(v for row, move in zip(placement.rotation, placement.offset, strict=True) for v in (*row, move)))
    return moved
