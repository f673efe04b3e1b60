"""Two rows of leads that stand straight on the board, cut off at right angles: dual in line for soldering on."""

from collections.abc import Iterator

from eider.geometry.plane import box_outline
from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View, ViewDimension
from eider.packages.forms import dual, gullwing
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger, leads_fit

SHOWN = dual.Shown(foot="")
# How far a lead reaches up the body, as a share of its height.
SHOULDER = 0.5


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the leads are beside the body")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from leads_fit(dims, "D", dual.positions(sheet))


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    return dual.Dual(left, right, dims["E"], dims["E1"], dims["D"], dims["c"], dims["b"], dims["e"].middle)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return dual.flat_terminals(_dual(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    mark = gullwing.corner_mark(rows.body).outline()
    top = dual.top_view(rows, _terminals(sheet, dims), SHOWN, (mark,))
    tip, thick, shoulder = rows.span.middle / 2, dims["c"].middle, SHOULDER * dims["A"].upper
    side = dual.side_view(rows, dims, box_outline((tip - thick, 0.0, tip, shoulder)), SHOWN, low=dims["A1"].middle)
    thickness = ViewDimension("c", (tip - thick, 0.0), (tip, 0.0), "bottom")
    return top, View(side.name, side.shapes, (*(d for d in side.dimensions if d.letter != "c"), thickness))


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _dual(sheet, dims)
    shoulder = SHOULDER * dims["A"].upper
    return (
        *gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body)),
        dual.terminal_solid(rows, dual.flat_foot(rows), shoulder, "lead"),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    return dual.dual_recipe(rows, (dual.opposed(rows, "butt-lead", {"pitch": rows.pitch}),))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """As a small outline's, with its own prefix: pitch, nominal span, maximum height, pins."""
    size = f"{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"SOB{hundredths(dims['e'].middle)}P{size}-{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="butt-lead",
    title="Butt lead",
    group="Leads",
    summary="dual in line with leads cut off straight",
    letters=(
        Letter(key="E", meaning="span over the leads", view="top", also=("eA", "B")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.3, 0.99), also=("A", "W")),
        Letter(key="D", meaning="body length along the rows", view="top", reference="E", typical=(0.3, 7.0),
               also=("B", "L")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.05, 0.6), also=("P", "p")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.1, 0.7), also=("B", "W")),
        Letter(key="c", meaning="lead thickness", view="side", reference="b", typical=(0.2, 1.2), also=("C", "t")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.1, 1.0), also=("H", "T")),
        Letter(key="A1", meaning="stand-off", view="side", assumed=0.5, reference="A", typical=(0.0, 0.6),
               also=("K", "S")),
    ),
    default_pins=8,
    pin_fault=dual.even_rows,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
