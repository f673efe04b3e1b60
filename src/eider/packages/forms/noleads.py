"""What packages without leads share: terminals that are pulled back from the edge, the side view."""

from eider.geometry.plane import Box, box_outline
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, FamilyField, Letter, View, ViewDimension, ViewShape
from eider.packages.forms import thermal_pad

STAND_OFF, THICKNESS = 0.02, 0.20


def letters(*, turned: bool = False) -> tuple[Letter, ...]:
    """The letters besides body, pitch and terminals; where the rows are `turned`, D2 lies along them."""
    return (
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.03, 0.8), also=("H", "T")),
        Letter(key="A1", meaning="stand-off", view="side", assumed=STAND_OFF, reference="A", typical=(0.0, 0.3),
               also=("S",)),
        Letter(key="c", meaning="terminal thickness", view="side", assumed=THICKNESS, reference="A",
               typical=(0.05, 0.6), also=("A3",)),
        *thermal_pad.letters(turned=turned),
        Letter(key="pull_back", meaning="terminals pulled back from the edge", view="top", reference="D",
               typical=(0.0, 0.1), optional=True, also=("S",)),
    )  # fmt: skip


WETTABLE = "wettable_flanks"
WETTABLE_FIELD = FamilyField(
    key=WETTABLE,
    title="wettable flanks",
    kind="flag",
    help="The ends of the terminals take solder, so that the toe fillet can be inspected.",
)


def remarks(sheet: PackageSheet) -> tuple[str, ...]:
    """What the derivation says of the terminals besides their lengths."""
    if sheet.option(WETTABLE) is not True:
        return ()
    return ("wettable flanks: a toe fillet rises at the ends of the terminals and can be inspected",)


def pull_back(dims: Dims) -> float:
    """How far terminals end before the edge of the body (mm); 0 where they reach it."""
    return dims["pull_back"].middle if "pull_back" in dims else 0.0


def goals(dims: Dims) -> str:
    """Which goals of the rulebook hold."""
    return "no-lead-pulled-back" if pull_back(dims) > 0 else "no-lead"


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
