"""The package drawn to scale as in its datasheet."""

from collections.abc import Collection

from eider.drawings.primitives import Area, DimensionLine, Drawing, Line, Primitive, unit_note
from eider.geometry.lengths import format_limits
from eider.geometry.plane import bounds
from eider.model.address import DimensionAddress
from eider.model.package_sheet import PackageSheet
from eider.packages.family import View
from eider.packages.letters.typical_dimensions import with_typical
from eider.packages.registry import family_of


def package_drawings(sheet: PackageSheet, *, unit: str = "mm", wrong: Collection[str] = ()) -> tuple[Drawing, ...]:
    """The views of a package at nominal size; letters in `wrong` are red.

    Raises:
        SheetError: a dimension that the views need is missing.
    """
    family = family_of(sheet.family)
    dims = family.dims(sheet)
    return tuple(_view(view, sheet, unit, wrong) for view in family.views(sheet, dims))


def begun_drawings(sheet: PackageSheet, *, unit: str = "mm", wrong: Collection[str] = ()) -> tuple[Drawing, ...]:
    """The same for a sheet that is only begun: lengths that are missing are drawn as they usually are, without value.

    So a length under the wrong letter shows as soon as there is another to compare it with.

    Raises:
        SheetError: no length is given that the others can be worked out from.
    """
    typical = with_typical(sheet)
    dims = family_of(sheet.family).dims(typical)
    return tuple(_view(v, sheet, unit, wrong) for v in family_of(sheet.family).views(typical, dims))


def _view(view: View, sheet: PackageSheet, unit: str, wrong: Collection[str]) -> Drawing:
    box = bounds(point for shape in view.shapes for point in shape.outline)
    primitives: list[Primitive] = [Area(shape.outline, shape.role) for shape in view.shapes]
    x0, y0, x1, y1 = box
    reach = 0.06 * (x1 - x0)
    if view.name == "side":
        primitives.insert(0, Line(((x0 - reach, 0.0), (x1 + reach, 0.0)), "board"))
    else:
        primitives.append(Line(((x0 - reach, 0.0), (x1 + reach, 0.0)), "centre"))
        primitives.append(Line(((0.0, y0 - reach), (0.0, y1 + reach)), "centre"))
    for dimension in view.dimensions:
        limits = sheet.limits(dimension.letter)
        letter = dimension.letter
        role = "wrong" if letter in wrong else "dimension"
        text = format_limits(limits, unit, with_unit=False) if limits else "not given"
        own = sheet.datasheet_letter(letter)
        primitives.append(
            DimensionLine(
                dimension.a,
                dimension.b,
                dimension.side,
                letter,
                text,
                dimension.row,
                role,
                DimensionAddress(letter),
                detail=f"(sheet: {own})" if own else "",
            )
        )
    return Drawing((*primitives, unit_note(unit)), box)
