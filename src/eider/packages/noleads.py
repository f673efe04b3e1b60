"""What packages without leads share: the thermal pad, terminals that are pulled back from the edge, the side view."""

from eider.geometry.shapes import Box, Outline, box_outline, cut_corner
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Letter, Plate, Terminal, View, ViewDimension, ViewShape

STAND_OFF, THICKNESS = 0.02, 0.20
LETTERS = (
    Letter(key="A", meaning="height", view="side", reference="D", typical=(0.03, 0.8), also=("H", "T")),
    Letter(key="A1", meaning="stand-off", view="side", assumed=STAND_OFF, reference="A", typical=(0.0, 0.3),
           also=("S",)),
    Letter(key="c", meaning="terminal thickness", view="side", assumed=THICKNESS, reference="A", typical=(0.05, 0.6),
           also=("A3",)),
    Letter(key="D2", meaning="thermal pad, across", view="top", reference="D", typical=(0.1, 0.95), optional=True,
           also=("J", "D1")),
    Letter(key="E2", meaning="thermal pad, along", view="top", reference="E", typical=(0.1, 0.95), optional=True,
           also=("K", "E1")),
    Letter(key="h", meaning="cut corner of the thermal pad", view="top", reference="E2", typical=(0.01, 0.5),
           optional=True, also=("C", "CH", "k")),
    Letter(key="pull_back", meaning="terminals pulled back from the edge", view="top", reference="D",
           typical=(0.0, 0.1), optional=True, also=("S",)),
)  # fmt: skip


def pull_back(dims: Dims) -> float:
    """How far terminals end before the edge of the body (mm); 0 where they reach it."""
    return dims["pull_back"].middle if "pull_back" in dims else 0.0


def goals(dims: Dims) -> str:
    """Which goals of the rulebook hold."""
    return "no-lead-pulled-back" if pull_back(dims) > 0 else "no-lead"


def has_thermal(dims: Dims) -> bool:
    """Whether there is a thermal pad."""
    return "D2" in dims and "E2" in dims


def thermal_number(sheet: PackageSheet) -> str:
    """The number of the thermal pad: the next after the last pin."""
    return str(sheet.pins + 1)


def count(sheet: PackageSheet, dims: Dims) -> int:
    """Pins, the thermal pad counted."""
    return sheet.pins - len(sheet.missing) + has_thermal(dims)


def thermal_letters(*, turned: bool = False) -> tuple[str, str]:
    """The letters of the thermal pad along x and y; where the rows are `turned`, D2 lies along y."""
    return ("E2", "D2") if turned else ("D2", "E2")


def chamfer(dims: Dims) -> float:
    """How much of the thermal pad's corner is cut off at pin 1 (mm)."""
    return dims["h"].middle if "h" in dims else 0.0


def plates(sheet: PackageSheet, dims: Dims, *, turned: bool = False) -> tuple[Plate, ...]:
    """The thermal pad."""
    if not has_thermal(dims):
        return ()
    width, height = (dims[letter] for letter in thermal_letters(turned=turned))
    return (Plate(number=thermal_number(sheet), width=width, height=height, chamfer=chamfer(dims)),)


def _box(dims: Dims, *, turned: bool) -> Box:
    x, y = (dims[letter].middle / 2 for letter in thermal_letters(turned=turned))
    return -x, -y, x, y


def _outline(dims: Dims, *, turned: bool) -> Outline:
    box = _box(dims, turned=turned)
    return cut_corner(box, chamfer(dims), (-1.0, 1.0)) if chamfer(dims) else box_outline(box)


def thermal_terminals(sheet: PackageSheet, dims: Dims, *, turned: bool = False) -> tuple[Terminal, ...]:
    """The thermal pad as a terminal."""
    if not has_thermal(dims):
        return ()
    box = _box(dims, turned=turned)
    return (Terminal(thermal_number(sheet), box, box),)


def thermal_shapes(dims: Dims, *, turned: bool = False) -> tuple[ViewShape, ...]:
    """The thermal pad as it is seen from above, through the body."""
    return (ViewShape("terminal", _outline(dims, turned=turned)),) if has_thermal(dims) else ()


def thermal_solids(dims: Dims, *, turned: bool = False) -> tuple[Solid, ...]:
    """The thermal pad, as thick as the terminals."""
    if not has_thermal(dims):
        return ()
    return (Solid("thermal pad", "tin", Prism(_outline(dims, turned=turned), 0.0, dims["c"].middle)),)


def thermal_dimensions(dims: Dims, row: int, *, turned: bool = False) -> tuple[ViewDimension, ...]:
    """Where the size of the thermal pad is shown from above."""
    if not has_thermal(dims):
        return ()
    x0, y0, x1, y1 = _box(dims, turned=turned)
    across, along = thermal_letters(turned=turned)
    cut = chamfer(dims)
    corner = (ViewDimension("h", (x0, y1 - cut), (x0, y1), "left"),) if cut else ()
    return (
        ViewDimension(across, (x0, y0), (x1, y0), "bottom", row),
        ViewDimension(along, (x0, y0), (x0, y1), "left", row),
        *corner,
    )


def pull_back_dimension(dims: Dims, edge: float, y: float) -> tuple[ViewDimension, ...]:
    """Where the distance of the terminals from the edge is shown."""
    if "pull_back" not in dims:
        return ()
    return (ViewDimension("pull_back", (edge - pull_back(dims), y), (edge, y), "bottom"),)


def side(dims: Dims, body: Box) -> View:
    """The package from the side: body above its stand-off, a terminal at each edge."""
    x0, _, x1, _ = body
    height, back, foot, thick = dims["A"].upper, pull_back(dims), dims["L"].middle, dims["c"].middle
    ends = ((x0 + back, x0 + back + foot), (x1 - back - foot, x1 - back))
    return View(
        "side",
        (
            ViewShape("body", box_outline((x0, dims["A1"].middle, x1, height))),
            *(ViewShape("terminal", box_outline((a, 0.0, b, thick))) for a, b in ends),
        ),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left", 2),
            ViewDimension("A1", (x0, 0), (x0, dims["A1"].middle), "left"),
            ViewDimension("c", (x1, 0), (x1, thick), "right"),
        ),
    )
