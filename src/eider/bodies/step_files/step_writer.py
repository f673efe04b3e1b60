"""Writes bodies as STEP (ISO 10303-214 or -242): millimetres, colours, names; each shape once, placed n times."""

import io
import itertools
import re
from collections.abc import Iterator
from typing import Any

from eider.bodies.kernel.cad_kernel import explored, location, make_shape
from eider.bodies.kernel.kernel_mesh import face_rise
from eider.bodies.solids.body_solids import fingerprint
from eider.bodies.step_files.step_text import Protocol, StepError
from eider.geometry.solids import Look, Solid, face_side

# The time of writing would make a new file of an old body. The kernel orders colours by addresses in memory, so two
# files of one body still differ; `fingerprint` tells that they are the same.
TIME_STAMP = "2000-01-01T00:00:00"
# What the kernel calls the protocols.
SCHEMAS: dict[Protocol, str] = {"AP214": "AP214IS", "AP242": "AP242DIS"}


def step_file(solids: tuple[Solid, ...], name: str, protocol: Protocol = "AP214") -> bytes:
    """The STEP file of the solids, as an assembly called `name`.

    Raises:
        StepError: the solids make no STEP.
    """
    return written_document(_document(solids, name), name, fingerprint(solids, name), protocol)


def written_document(document: Any, name: str, remark: str, protocol: Protocol = "AP214") -> bytes:
    """An XCAF document as STEP in mm; `remark` is in the header.

    Raises:
        StepError: the kernel makes no STEP of it.
    """
    from OCP.APIHeaderSection import APIHeaderSection_MakeHeader
    from OCP.IFSelect import IFSelect_ReturnStatus
    from OCP.Interface import Interface_Static
    from OCP.Message import Message
    from OCP.STEPCAFControl import STEPCAFControl_Writer
    from OCP.STEPControl import STEPControl_StepModelType
    from OCP.TCollection import TCollection_HAsciiString

    Message.DefaultMessenger_s().ChangePrinters().Clear()
    writer = STEPCAFControl_Writer()
    Interface_Static.SetCVal_s("write.step.schema", SCHEMAS[protocol])
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    writer.SetColorMode(True)
    writer.SetNameMode(True)
    if not writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs):
        raise StepError(f"the body {name} could not be turned into STEP; look at the dimensions of its sheet")
    header = APIHeaderSection_MakeHeader(writer.ChangeWriter().Model())
    header.SetName(TCollection_HAsciiString(name))
    header.SetTimeStamp(TCollection_HAsciiString(TIME_STAMP))
    header.SetOriginatingSystem(TCollection_HAsciiString("Eider"))
    header.SetDescriptionValue(1, TCollection_HAsciiString(remark))
    stream = io.BytesIO()
    if writer.WriteStream(stream) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise StepError(f"the body {name} could not be written as STEP; look at the dimensions of its sheet")
    return _with_own_count(stream.getvalue())


def _with_own_count(data: bytes) -> bytes:
    """The kernel numbers instances through all files of a process; here they count from 1 in each."""
    count = itertools.count(1)
    return re.sub(
        rb"(NEXT_ASSEMBLY_USAGE_OCCURRENCE\(')\d+'", lambda match: match[1] + f"{next(count)}'".encode(), data
    )


def _document(solids: tuple[Solid, ...], name: str):  # type: ignore[no-untyped-def]
    """An XCAF document: one assembly whose components are the placed instances."""
    from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
    from OCP.TCollection import TCollection_ExtendedString
    from OCP.TDataStd import TDataStd_Name
    from OCP.TDocStd import TDocStd_Document
    from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool

    document = TDocStd_Document(TCollection_ExtendedString("BinXCAF"))
    XCAFDoc_DocumentTool.SetLengthUnit_s(document, 0.001)
    shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    tints = XCAFDoc_DocumentTool.ColorTool_s(document.Main())

    def call(label, text: str) -> None:  # type: ignore[no-untyped-def]
        TDataStd_Name.Set_s(label, TCollection_ExtendedString(text, True))

    def tint(look: Look) -> Quantity_Color:
        return Quantity_Color(*look.colour, Quantity_TypeOfColor.Quantity_TOC_sRGB)

    assembly = shapes.NewShape()
    call(assembly, name)
    for solid in solids:
        shape = make_shape(solid)
        definition = shapes.AddShape(shape, False)
        call(definition, solid.name)
        tints.SetColor(definition, tint(solid.look), XCAFDoc_ColorType.XCAFDoc_ColorGen)
        for face, look in _sides(solid, shape):
            tints.SetColor(shapes.AddSubShape(definition, face), tint(look), XCAFDoc_ColorType.XCAFDoc_ColorSurf)
        for index, place in enumerate(solid.placements, start=1):
            component = shapes.AddComponent(assembly, definition, location(place))
            call(component, solid.name if len(solid.placements) == 1 else f"{solid.name} {index}")
    shapes.UpdateAssemblies()
    return document


def _sides(solid: Solid, shape: Any) -> Iterator[tuple[Any, Look]]:
    """The faces of a shape that look otherwise than the rest."""
    from OCP.TopAbs import TopAbs_ShapeEnum
    from OCP.TopoDS import TopoDS

    looks = dict(solid.sides)
    for found in explored(shape, TopAbs_ShapeEnum.TopAbs_FACE) if looks else ():
        side = face_side(face_rise(TopoDS.Face(found)))
        if side in looks:
            yield found, looks[side]
