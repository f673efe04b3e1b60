"""Measures a model as it is placed: what its document keeps, so that checks need neither the file nor a CAD kernel."""

from collections.abc import Sequence

import msgspec
import numpy as np

from eider.bodies.placement.alignment import align_model, pairs_in_place
from eider.bodies.placement.alignment_target import AlignmentTarget
from eider.bodies.placement.contacts import scaled, standing, turned
from eider.bodies.placement.model_placement import RigidPlacement
from eider.bodies.placement.seating import seating_height
from eider.bodies.step_files.step_model import FaceTable, StepModel
from eider.geometry.rounding import tidy
from eider.model.body import Corner, ImportedModel, ModelMeasure, ModelTerminal


def placement_of(model: ImportedModel) -> RigidPlacement:
    """Where an imported model is placed."""
    return RigidPlacement(model.rotation, model.offset, model.scale)


def aligned_models(
    step: StepModel, triangles: int, target: AlignmentTarget, sha256: str, file: str
) -> tuple[ImportedModel, ...]:
    """Every way to place a model that was found, best first; where none was, as it lies in its file."""
    found = align_model(step, target)
    doubts = tuple(dict.fromkeys((*step.doubts, *found.doubts)))
    nowhere = ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0))
    lying = ImportedModel(
        sha256=sha256,
        file=file,
        unit=step.unit,
        protocol=step.protocol,
        measure=ModelMeasure(bounds=nowhere, mark_at=found.mark_at, doubts=doubts),
    )
    made = [
        msgspec.structs.replace(
            lying,
            rotation=placement.rotation,
            offset=placement.offset,
            scale=placement.scale,
            measure=msgspec.structs.replace(lying.measure, score=placement.score, pin1=placement.pin1),
        )
        for placement in found.placements
    ]
    return tuple(measured(model, step, triangles, target) for model in made or [lying])


def measured(model: ImportedModel, step: StepModel, triangles: int, target: AlignmentTarget) -> ImportedModel:
    """The model with its measures made again for the place where it is; what was said of pin 1 stays."""
    faces = _placed(step.faces, placement_of(model))
    low, high = faces.low.min(axis=0), faces.high.max(axis=0)
    contacts = standing(faces, through_hole=target.through_hole)
    pairs = pairs_in_place(contacts, target)
    terminals = tuple(
        ModelTerminal(place.number, _box(contacts.box[pair]))
        for place, pair in zip(target.terminals, pairs, strict=True)
        if pair >= 0
    )
    seat = seating_height(faces, contacts, pairs, target) if terminals or not target.through_hole else float(low[2])
    measure = msgspec.structs.replace(
        model.measure,
        bounds=(_corner(low), _corner(high)),
        seating=tidy(seat),
        terminals=terminals,
        solids=len(step.solids),
        triangles=triangles,
        colours=len(step.colours),
        unsound=tuple(solid.name for solid in step.solids if not solid.is_sound),
    )
    return msgspec.structs.replace(model, measure=measure)


def _placed(faces: FaceTable, placement: RigidPlacement) -> FaceTable:
    lying = scaled(turned(faces, np.array(placement.rotation)), placement.scale)
    offset = np.array(placement.offset)
    return msgspec.structs.replace(
        lying, low=lying.low + offset, high=lying.high + offset, centre=lying.centre + offset
    )


def _corner(values: Sequence[float]) -> Corner:
    x, y, z = (tidy(float(value)) for value in values)
    return x, y, z


def _box(values: Sequence[float]) -> tuple[float, float, float, float]:
    x0, y0, x1, y1 = (tidy(float(value)) for value in values)
    return x0, y0, x1, y1
