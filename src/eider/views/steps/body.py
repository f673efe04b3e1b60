"""Body: the 3D body on its lands."""

import re
from collections.abc import Mapping
from typing import Literal

import msgspec
from msgspec.structs import replace

from eider.bodies.pictures.body_scene import BodyScene, body_scene, compared_scene
from eider.bodies.solids.body_solids import body_solids
from eider.bodies.solids.materials import SIDES, look_of, side_key
from eider.errors import EiderError
from eider.geometry.solids import FaceSide, Solid
from eider.model.body import ComposedSolid, ImportedModel
from eider.model.wording import counted
from eider.views.body_alignment import Agreement, body_alignment
from eider.views.part_state import PartState, StepOptions, StepView, ViewOptions
from eider.views.step_registry import StepSpec

# The colour in which the selected solid is shown.
LIT = "lit"
Shown = Literal["on its lands", "alone", "with the generated body"]


class BodyOptions(StepOptions, frozen=True):
    """What is in the picture with the body, and the name of the composed solid that is lit."""

    shown: Shown = "on its lands"
    lit: str = ""


class ComposedRow(msgspec.Struct, frozen=True):
    """One row of a composed body: where it is in the list, and what is wrong with it."""

    index: int
    value: ComposedSolid
    fault: str = ""


class MaterialRow(msgspec.Struct, frozen=True):
    """A solid of the body: what it is made of, the materials of sides that are of another, and how many there are."""

    solid: str
    material: str
    sides: Mapping[FaceSide, str]
    pieces: int


class BodyView(StepView, frozen=True):
    """What Body shows: where the body comes from, its solids, the picture, and what must agree.

    `model` is the STEP file in place of the generated body, `doubts` what was not decided when it was placed.
    """

    origin: str
    solids: tuple[Solid, ...]
    scene: BodyScene
    agreements: tuple[Agreement, ...]
    model: ImportedModel | None = None
    doubts: str = ""
    composed: tuple[ComposedRow, ...] = ()
    materials: tuple[MaterialRow, ...] = ()
    known_materials: tuple[str, ...] = ()


def body_view(state: PartState, options: ViewOptions) -> BodyView:
    """The body of a part; without a picture while its sheet is not complete."""
    bundle = state.bundle
    sheet, body = bundle.sheet, bundle.body
    pattern = bundle.footprint.pattern if options.of(BodyOptions).shown == "on its lands" else None
    materials = state.rules.all_materials
    agreements = tuple(body_alignment(bundle, options.unit))
    try:
        compares = options.of(BodyOptions).shown == "with the generated body"
        scene = compared_scene(sheet, body) if compares else body_scene(sheet, body, pattern, materials)
        solids = () if body.model else body_solids(sheet, body, materials)
    except EiderError as fault:
        rows = _rows(body.composed, str(fault))
        about = str(fault) if rows else f"The package sheet is not complete: {fault}"
        return BodyView(about, (), BodyScene(), (), body.model, composed=rows, known_materials=tuple(materials))
    names, chosen = tuple(materials), _material_rows(solids, body.materials)
    if body.composed and body.model is None:
        lit = replace(scene, solids=_lit(scene.solids, options.of(BodyOptions).lit))
        about = f"Composed of {counted(len(body.composed), 'row')} of simple solids over the letters of {sheet.name}."
        rows = _rows(body.composed, "")
        return BodyView(about, solids, lit, agreements, composed=rows, materials=chosen, known_materials=names)
    if body.model is None:
        origin = (
            f"Generated from the package sheet {sheet.name}. Each length of the sheet is true in it; the STEP file "
            "is written at release and by Export."
        )
        return BodyView(origin, solids, scene, agreements, materials=chosen, known_materials=names)
    return BodyView(_about(body.model), solids, scene, agreements, body.model, "\n".join(body.model.measure.doubts))


def _rows(composed: tuple[ComposedSolid, ...], fault: str) -> tuple[ComposedRow, ...]:
    """The rows; a fault is that of the row which it names."""
    said = re.match(r"solids, row (\d+)", fault)
    wrong = int(said[1]) - 1 if said else -1
    return tuple(ComposedRow(i, row, fault if i == wrong else "") for i, row in enumerate(composed))


def _material_rows(solids: tuple[Solid, ...], chosen: Mapping[str, str]) -> tuple[MaterialRow, ...]:
    """A row for each name of a solid; mirror images bear that of the first."""
    pieces: dict[str, int] = {}
    for solid in solids:
        pieces[solid.name] = pieces.get(solid.name, 0) + len(solid.placements)
    materials = {solid.name: solid.material for solid in solids}
    return tuple(
        MaterialRow(name, materials[name], {side: chosen.get(side_key(name, side), "") for side in SIDES}, count)
        for name, count in pieces.items()
    )


def _lit(solids: tuple[Solid, ...], name: str) -> tuple[Solid, ...]:
    """The solids, with those of a name in the colour of what is in hand."""
    look = look_of(LIT)
    return tuple(replace(s, look=look, sides=()) if name and s.name == name else s for s in solids)


def _about(model: ImportedModel) -> str:
    measure = model.measure
    pieces = [model.protocol, f"unit {model.unit}", counted(measure.solids, "solid")]
    pieces += [counted(measure.triangles, "triangle"), counted(measure.colours, "colour")]
    mark = {"found": "pin 1 found", "ambiguous": "pin 1 not certain", "unknown": "pin 1 unknown"}[measure.pin1]
    return f"{model.file}: {', '.join(filter(None, pieces))}; {'placed by hand' if model.chosen else mark}."


STEP = StepSpec(
    key="body",
    title="Body",
    order=50,
    areas=("body",),
    is_begun=lambda bundle: bundle.body.result is not None,
    view=body_view,
    widget="eider.desktop.part.steps.body.step:BodyStep",
)
