"""Changes to the 3D body."""

from collections.abc import Sequence

import msgspec
import numpy as np
import numpy.typing as npt

from eider.model.body import ComposedSolid, Corner, ImportedModel
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet

replace = msgspec.structs.replace
FloatArray = npt.NDArray[np.float64]
# Decimals of a placement, and how near to −1 a cosine is that of half a turn.
DIGITS, NEARLY = 9, 1e-9


def set_material(bundle: Bundle, solid: str, material: str) -> Bundle:
    """What a solid of the body, or one side of it (`body/top`), is made of; without a name it is as it was."""
    chosen = {key: value for key, value in bundle.body.materials.items() if key != solid}
    if material:
        chosen[solid] = material
    return replace(bundle, body=replace(bundle.body, materials=chosen))


def use_generated(bundle: Bundle) -> Bundle:
    """The body that the package sheet gives."""
    return replace(bundle, body=replace(bundle.body, model=None, composed=()))


def use_model(bundle: Bundle, model: ImportedModel) -> Bundle:
    """The STEP file that is the body from now on."""
    return replace(bundle, body=replace(bundle.body, model=model, composed=()))


def compose(bundle: Bundle, rows: Sequence[ComposedSolid]) -> Bundle:
    """The simple solids that are the body from now on."""
    return replace(bundle, body=replace(bundle.body, model=None, composed=tuple(rows)))


def first_solids(sheet: PackageSheet) -> tuple[ComposedSolid, ...]:
    """What a composition begins with: a block, with two end caps where the package has two terminals on a chip."""
    known = set(sheet.dims)
    wanted = (("D", "D"), ("E", "E"), ("A", "Amax"))
    length, width, height = (name if letter in known else "1" for letter, name in wanted)
    if sheet.pins == 2 and {"D", "E", "L"} <= known:
        cap = ComposedSolid(
            name="end cap", material="tin", x="(D-L)/2", length="L", width=width, height=height, mirror="y"
        )
        return ComposedSolid(name="body", material="ceramic tan", length="D-2*L", width=width, height=height), cap
    return (ComposedSolid(name="body", length=length, width=width, height=height),)


def chosen_model(model: ImportedModel) -> ImportedModel:
    """A model that stands where a person said."""
    return replace(model, chosen=True)


def moved_model(model: ImportedModel, axis: int, to: float) -> ImportedModel:
    """A model at another place along x, y or z (0 to 2, mm); its measures are those of before."""
    offset = tuple(to if index == axis else value for index, value in enumerate(model.offset))
    return replace(model, offset=offset, chosen=True)


def seated_model(model: ImportedModel, normal: Corner, at: Corner) -> ImportedModel:
    """A model that is on one of its flat faces, whose outward normal and one place are told as it is placed now.

    It makes the least turn after which the normal looks down, and moves up or down until the face lies at zero.
    """
    turn = _turn_down(np.array(normal))
    height = float((turn @ np.array(at))[2])
    rotation, offset = turn @ np.array(model.rotation), turn @ np.array(model.offset)
    return replace(model, rotation=_rows(rotation), offset=_corner(offset - (0.0, 0.0, height)), chosen=True)


def _turn_down(normal: FloatArray) -> FloatArray:
    """The least turn that makes a normal look down, shape (3, 3); Rodrigues' formula."""
    down = np.array([0.0, 0.0, -1.0])
    axis, cosine = np.cross(normal, down), float(normal @ down)
    if cosine < -1 + NEARLY:
        # Upside down: half a turn about x.
        return np.diag([1.0, -1.0, -1.0])
    skew = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    return np.asarray(np.eye(3) + skew + skew @ skew / (1 + cosine))


def _rows(matrix: FloatArray) -> tuple[Corner, Corner, Corner]:
    first, second, third = (_corner(row) for row in matrix)
    return first, second, third


def _corner(values: FloatArray) -> Corner:
    x, y, z = (round(float(value), DIGITS) + 0.0 for value in values)
    return x, y, z


def shifted_model(model: ImportedModel, dx: float, dy: float) -> ImportedModel:
    """A model moved along the board (mm)."""
    x, y, z = model.offset
    return replace(model, offset=_corner(np.array([x + dx, y + dy, z])), chosen=True)


def turned_model(model: ImportedModel, axis: int) -> ImportedModel:
    """A model turned by a quarter about x, y or z (0 to 2) through the origin, counter-clockwise from its tip."""
    first, second = (axis + 1) % 3, (axis + 2) % 3

    def turned(values: tuple[float, float, float]) -> tuple[float, float, float]:
        made = list(values)
        made[first], made[second] = -values[second] + 0.0, values[first] + 0.0
        x, y, z = made
        return x, y, z

    columns = [turned((column[0], column[1], column[2])) for column in zip(*model.rotation, strict=True)]
    rows = tuple(tuple(column[row] for column in columns) for row in range(3))
    return replace(model, rotation=rows, offset=turned(model.offset), chosen=True)
