"""Writes solids as STEP with an older version of the kernel's bindings, called directly: `with_kernel.py JOBS.json`."""

import json
import math
import sys
from pathlib import Path
from typing import Any

from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakePolygon, BRepBuilderAPI_Transform
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder, BRepPrimAPI_MakePrism, BRepPrimAPI_MakeSphere
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.Interface import Interface_Static
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.STEPCAFControl import STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDocStd import TDocStd_Document
from OCP.TopLoc import TopLoc_Location
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool


def polygon(points: list[tuple[float, float, float]]) -> Any:
    wire = BRepBuilderAPI_MakePolygon()
    for point in points:
        wire.Add(gp_Pnt(*point))
    wire.Close()
    return BRepBuilderAPI_MakeFace(wire.Wire(), True).Face()


def cylinder(shape: dict[str, Any]) -> Any:
    foot = gp_Ax2(gp_Pnt(shape["x"], shape["y"], shape["z0"]), gp_Dir(0, 0, 1))
    return BRepPrimAPI_MakeCylinder(foot, shape["radius"], shape["z1"] - shape["z0"]).Shape()


def made(solid: dict[str, Any]) -> Any:
    """One solid, where it is defined, less what is cut out of it."""
    result = made_shape(solid["shape"])
    for cut in solid["cuts"]:
        result = BRepAlgoAPI_Cut(result, made_shape(cut)).Shape()
    return result


def made_shape(shape: dict[str, Any]) -> Any:
    """One shape, where it is defined."""
    if shape["kind"] == "ball":
        middle = gp_Ax2(gp_Pnt(shape["x"], shape["y"], shape["z"]), gp_Dir(0, 0, 1))
        low, high = (math.asin(max(-1.0, min(1.0, (shape[z] - shape["z"]) / shape["radius"]))) for z in ("z0", "z1"))
        return BRepPrimAPI_MakeSphere(middle, shape["radius"], low, high).Shape()
    if shape["kind"] == "cylinder":
        return cylinder(shape)
    if shape["kind"] == "strip":
        half = shape["width"] / 2
        return BRepPrimAPI_MakePrism(
            polygon([(x, -half, z) for x, z in shape["profile"]]), gp_Vec(0, 2 * half, 0)
        ).Shape()
    height = shape["z1"] - shape["z0"]
    block = BRepPrimAPI_MakePrism(polygon([(x, y, shape["z0"]) for x, y in shape["outline"]]), gp_Vec(0, 0, height))
    result = block.Shape()
    for pocket in shape["pockets"]:
        result = BRepAlgoAPI_Cut(result, cylinder(pocket)).Shape()
    return result


def placed(job: dict[str, Any]) -> gp_Trsf:
    """Where the whole lies."""
    values = [v for row, move in zip(job["turn"], job["move"], strict=True) for v in (*row, move)]
    transformation = gp_Trsf()
    transformation.SetValues(*values)
    return transformation


def instance(place: list[float]) -> gp_Trsf:
    x, y, z, turn = place
    turned, moved = gp_Trsf(), gp_Trsf()
    turned.SetRotation(gp_Ax1(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), turn)
    moved.SetTranslation(gp_Vec(x, y, z))
    return moved.Multiplied(turned)


def write(job: dict[str, Any]) -> None:
    """Make the document of a job, as an assembly of instances or as solids that are placed one by one."""
    document = TDocStd_Document(TCollection_ExtendedString("XCAF"))
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    tints = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
    whole = placed(job)

    def name(label: Any, text: str) -> None:
        TDataStd_Name.Set_s(label, TCollection_ExtendedString(text, True))

    root = shapes.NewShape() if job["assembly"] else None
    if root is not None:
        name(root, job["name"])
    for solid in job["solids"]:
        colour = Quantity_Color(*solid["colour"], Quantity_TypeOfColor.Quantity_TOC_sRGB)
        definition = shapes.AddShape(made(solid), False) if root is not None else None
        if definition is not None:
            name(definition, solid["called"])
            tints.SetColor(definition, colour, XCAFDoc_ColorType.XCAFDoc_ColorGen)
        for place in solid["placements"]:
            there = whole.Multiplied(instance(place))
            if root is not None:
                name(shapes.AddComponent(root, definition, TopLoc_Location(there)), solid["called"])
            else:
                copy = shapes.AddShape(BRepBuilderAPI_Transform(made(solid), there, True).Shape(), False)
                name(copy, solid["called"])
                tints.SetColor(copy, colour, XCAFDoc_ColorType.XCAFDoc_ColorSurf)
    shapes.UpdateAssemblies()
    writer = STEPCAFControl_Writer()
    Interface_Static.SetCVal_s("write.step.schema", job["schema"])
    Interface_Static.SetCVal_s("write.step.unit", job["unit"])
    writer.SetColorMode(True)
    writer.SetNameMode(True)
    writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(job["out"])


def main() -> None:
    assert math.isclose(gp_Vec(1, 0, 0).Magnitude(), 1)
    jobs = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
    # The first file of a process does not heed unit and schema: it is written twice.
    for job in [jobs[0], *jobs]:
        write(job)


if __name__ == "__main__":
    main()
