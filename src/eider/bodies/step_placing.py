"""Writes the STEP file of somebody else anew, as it stands on its lands. Importing this module loads the kernel."""

from pathlib import Path

from OCP.collections import Sequence_TDF_Label
from OCP.gp import gp_Trsf
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_DocumentTool, XCAFDoc_Editor

from eider.bodies.model_placement import RigidPlacement
from eider.bodies.step_reader import transferred
from eider.bodies.step_text import Protocol
from eider.bodies.step_writer import written_document


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
    moved = gp_Trsf()
    moved.SetValues(*(v for row, move in zip(placement.rotation, placement.offset, strict=True) for v in (*row, move)))
    whole = shapes.NewShape()
    TDataStd_Name.Set_s(whole, TCollection_ExtendedString(name, True))
    for label in labels:
        shapes.AddComponent(whole, label, TopLoc_Location(moved))
    shapes.UpdateAssemblies()
    return written_document(document, name, f"placed by Eider from {path.name}", protocol)
