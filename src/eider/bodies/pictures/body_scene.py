"""What a picture of a body shows: solids, and a model of someone else as it is placed."""

import msgspec
import numpy as np

from eider.bodies.placement.model_measure import placement_of
from eider.bodies.placement.model_placement import RigidPlacement
from eider.bodies.solids.body_solids import board_solids, body_solids, on_lands
from eider.bodies.solids.materials import MaterialTable, look_of
from eider.geometry.solids import Solid
from eider.model.body import Body, ImportedModel
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pattern
from eider.packages.orientation import orientation_in

# The look in which the generated body is shown over a model.
COMPARED = "compared"


class SceneModel(msgspec.Struct, frozen=True):
    """A STEP file by its sum, and where it is in the picture."""

    sha256: str
    placement: RigidPlacement


class BodyScene(msgspec.Struct, frozen=True):
    """Solids and at most one model; empty without both.

    With `compares` the solids are what the model is compared with: what of them is seen reaches beyond it.
    """

    solids: tuple[Solid, ...] = ()
    model: SceneModel | None = None
    compares: bool = False


def body_scene(
    sheet: PackageSheet, body: Body, pattern: Pattern | None, materials: MaterialTable | None = None
) -> BodyScene:
    """A body on its lands, or alone without a pattern; `materials` are those of its library.

    Raises:
        SheetError: the body is generated, and a dimension that it needs is missing.
    """
    if body.model is None:
        return BodyScene(on_lands(body_solids(sheet, body, materials), pattern))
    board = board_solids(pattern) if pattern else ()
    return BodyScene(board, SceneModel(body.model.sha256, placement_on(body.model, pattern)))


def compared_scene(sheet: PackageSheet, body: Body) -> BodyScene:
    """A model with the generated body over it.

    Raises:
        SheetError: a dimension that the generated body needs is missing.
    """
    model = SceneModel(body.model.sha256, placement_of(body.model)) if body.model else None
    generated = body_solids(sheet)
    if model is not None:
        look = look_of(COMPARED)
        generated = tuple(msgspec.structs.replace(solid, look=look, sides=()) for solid in generated)
    return BodyScene(generated, model, compares=model is not None)


def placement_on(model: ImportedModel, pattern: Pattern | None) -> RigidPlacement:
    """The placement in a footprint in which the package lies turned or seen from below."""
    placement = placement_of(model)
    if pattern is None or orientation_in(pattern).is_plain:
        return placement
    orientation = orientation_in(pattern)
    along, across = orientation.point((1.0, 0.0)), orientation.point((0.0, 1.0))
    turn = np.array([[along[0], across[0], 0], [along[1], across[1], 0], [0, 0, 1]])
    rows = tuple(tuple(float(v) for v in row) for row in turn @ np.array(placement.rotation))
    x, y, z = (float(v) for v in turn @ np.array(placement.offset))
    return RigidPlacement(rows, (x, y, z), placement.scale)  # type: ignore[arg-type]  # three rows of three
