"""The thermal pad under a body, as all families that can have one share it: letters, land, solid, drawing.

Of families whose rows stand along y the pad is `turned`: D2 lies along the rows.
"""

from eider.geometry.plane import Box, Outline, box_outline, cut_corner
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Letter, Plate, Terminal, View, ViewDimension, ViewShape
from eider.packages.pads.further_pads import further_count


def letters(*, turned: bool = False) -> tuple[Letter, ...]:
    """The letters of the thermal pad; where the rows are `turned`, D2 lies along them as the body's D does."""
    d2, e2 = ("along the rows", "across the rows") if turned else ("across", "along")
    return (
        Letter(key="D2", meaning=f"thermal pad, {d2}", view="top", reference="D", typical=(0.1, 0.95),
               optional=True, by_name=True, also=("J", "D1")),
        Letter(key="E2", meaning=f"thermal pad, {e2}", view="top", reference="E", typical=(0.1, 0.95),
               optional=True, by_name=True, also=("K", "E1")),
        Letter(key="h", meaning="cut corner of the thermal pad", view="top", reference="E2", typical=(0.01, 0.5),
               optional=True, by_name=True, also=("C", "CH", "k")),
    )  # fmt: skip


def has_thermal(dims: Dims) -> bool:
    """Whether there is a thermal pad."""
    return "D2" in dims and "E2" in dims


def number(sheet: PackageSheet) -> str:
    """The number of the thermal pad: the next after the last pin."""
    return str(sheet.pins + 1)


def count(sheet: PackageSheet, dims: Dims) -> int:
    """Pins, the thermal pad and terminals of pads by hand counted."""
    own = (*sheet.left, *sheet.right) or tuple(str(i + 1) for i in range(sheet.pins))
    further = further_count(sheet, dims, (*own, *((number(sheet),) if has_thermal(dims) else ())))
    return sheet.pins - len(sheet.missing) + has_thermal(dims) + further


def letters_across_along(*, turned: bool = False) -> tuple[str, str]:
    """The letters of the thermal pad along x and y; where the rows are `turned`, D2 lies along y."""
    return ("E2", "D2") if turned else ("D2", "E2")


def chamfer(dims: Dims) -> float:
    """How much of the thermal pad's corner is cut off at pin 1 (mm)."""
    return dims["h"].middle if "h" in dims else 0.0


def plates(sheet: PackageSheet, dims: Dims, *, turned: bool = False) -> tuple[Plate, ...]:
    """The thermal pad."""
    if not has_thermal(dims):
        return ()
    width, height = (dims[letter] for letter in letters_across_along(turned=turned))
    return (Plate(number=number(sheet), width=width, height=height, chamfer=chamfer(dims)),)


def _box(dims: Dims, *, turned: bool) -> Box:
    x, y = (dims[letter].middle / 2 for letter in letters_across_along(turned=turned))
    return -x, -y, x, y


def _outline(dims: Dims, *, turned: bool) -> Outline:
    box = _box(dims, turned=turned)
    return cut_corner(box, chamfer(dims), (-1.0, 1.0)) if chamfer(dims) else box_outline(box)


def terminals(sheet: PackageSheet, dims: Dims, *, turned: bool = False) -> tuple[Terminal, ...]:
    """The thermal pad as a terminal."""
    if not has_thermal(dims):
        return ()
    box = _box(dims, turned=turned)
    return (Terminal(number(sheet), box, box),)


def shapes(dims: Dims, *, turned: bool = False) -> tuple[ViewShape, ...]:
    """The thermal pad as it is seen from above, through the body."""
    return (ViewShape("terminal", _outline(dims, turned=turned)),) if has_thermal(dims) else ()


def solids(dims: Dims, *, turned: bool = False) -> tuple[Solid, ...]:
    """The thermal pad, as thick as the terminals, or up to a body that stands higher."""
    if not has_thermal(dims):
        return ()
    thick = max(dims["c"].middle, dims["A1"].middle)
    return (Solid("thermal pad", "tin", Prism(_outline(dims, turned=turned), 0.0, thick)),)


def dimensions(dims: Dims, row: int, *, turned: bool = False) -> tuple[ViewDimension, ...]:
    """Where the size of the thermal pad is shown from above."""
    if not has_thermal(dims):
        return ()
    x0, y0, x1, y1 = _box(dims, turned=turned)
    across, along = letters_across_along(turned=turned)
    cut = chamfer(dims)
    corner = (ViewDimension("h", (x0, y1 - cut), (x0, y1), "left"),) if cut else ()
    return (
        ViewDimension(across, (x0, y0), (x1, y0), "bottom", row),
        ViewDimension(along, (x0, y0), (x0, y1), "left", row),
        *corner,
    )


def seen_through(view: View, dims: Dims, row: int, *, turned: bool = False) -> View:
    """A view from above with the thermal pad, as it is seen through the body, and its size."""
    pads, sizes = shapes(dims, turned=turned), dimensions(dims, row, turned=turned)
    return View(view.name, (*view.shapes, *pads), (*view.dimensions, *sizes)) if pads else view
