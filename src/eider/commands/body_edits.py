"""Changes to the 3D body."""

from collections.abc import Sequence

import msgspec

from eider.model.body import ComposedSolid, ImportedModel
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet

replace = msgspec.structs.replace


def set_material(bundle: Bundle, solid: str, material: str) -> Bundle:
    """What a solid of the body is made of."""
    return replace(bundle, body=replace(bundle.body, materials={**bundle.body.materials, solid: material}))


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
