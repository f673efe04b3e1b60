"""Changes to the 3D body."""

import msgspec

from eider.model.body import ImportedModel
from eider.model.bundle import Bundle

replace = msgspec.structs.replace


def set_material(bundle: Bundle, solid: str, material: str) -> Bundle:
    """What a solid of the body is made of."""
    return replace(bundle, body=replace(bundle.body, materials={**bundle.body.materials, solid: material}))


def use_model(bundle: Bundle, model: ImportedModel | None) -> Bundle:
    """The STEP file that is the body from now on; None for the generated body."""
    return replace(bundle, body=replace(bundle.body, model=model))


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
