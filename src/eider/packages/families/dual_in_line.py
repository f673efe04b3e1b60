"""Two rows of leads through the board: DIP."""

from collections.abc import Iterator

from eider.geometry.plane import box_outline
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.forms import dual, gullwing, leaded
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger, leads_fit

STAND_OFF, THICKNESS = 0.5, 0.25
Places = list[tuple[str, float, float]]


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    # Outlines of several makers in one table have bodies as wide as others' rows.
    yield from larger(dims, "E", "E1", "the rows stand outside the body", at_worst=False)
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from leads_fit(dims, "D", sheet.pins // 2)


def _rows(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    return dual.Dual(left, right, dims["E"], dims["E1"], dims["D"], dims["c"], dims["b"], dims["e"].middle)


def _places(rows: dual.Dual) -> Places:
    x = rows.span.middle / 2
    return [*((n, -x, y) for n, y in rows.left), *((n, x, y) for n, y in rows.right)]


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(_rows(sheet, dims)), dims["c"].middle, dims["b"].middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _rows(sheet, dims)
    x0, _, x1, _ = rows.body
    row = rows.span.middle / 2
    height, low, thick = dims["A"].upper, dims["A1"].middle, dims["c"].middle / 2
    mark = gullwing.corner_mark(rows.body).outline()
    top = dual.top_view(rows, _terminals(sheet, dims), dual.Shown(), (mark,))
    legs = tuple(
        ViewShape("terminal", box_outline((x - thick, -leaded.THROUGH, x + thick, (low + height) / 2)))
        for x in (-row, row)
    )
    side = View(
        "side",
        (*legs, ViewShape("body", box_outline((x0, low, x1, height)))),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left", 2),
            ViewDimension("A1", (x0, 0), (x0, low), "left"),
            ViewDimension("c", (row - thick, -leaded.THROUGH), (row + thick, -leaded.THROUGH), "bottom"),
        ),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _rows(sheet, dims)
    block = gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body))
    low, height = dims["A1"].middle, dims["A"].upper
    middle, thick, half = (low + height) / 2, dims["c"].middle, dims["b"].middle / 2
    row, edge = rows.span.middle / 2, rows.width.middle / 2
    sides = (*(SolidPlacement(y=y, turn=180.0) for _, y in rows.left), *(SolidPlacement(y=y) for _, y in rows.right))
    down = Prism(box_outline((row - thick / 2, -half, row + thick / 2, half)), -leaded.THROUGH, middle)
    out = Prism(box_outline((min(edge, row) - 0.05, -half, row, half)), middle - thick, middle)
    return (*block, Solid("lead", "tin", down, sides), Solid("shoulder", "tin", out, sides))


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _rows(sheet, dims)
    places = _places(rows)
    group = leaded.leads(places, dims["b"], dims["c"], rows.pitch, along="y")
    return LandRecipe(
        leads=(group,),
        body=rows.body,
        body_max=rows.body_max,
        first_pin=places[0][0] if places else "",
        goals="through-hole",
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7251: DIP, span, W lead width, P pitch, L length, H height, Q pins."""
    size = f"L{hundredths(dims['D'].middle)}H{hundredths(dims['A'].upper)}"
    pitch = f"W{hundredths(dims['b'].middle)}P{hundredths(dims['e'].middle)}"
    return f"DIP{hundredths(dims['E'].middle)}{pitch}{size}Q{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="dual-in-line",
    title="Dual in line",
    group="Through the board",
    summary="DIP",
    letters=(
        Letter(key="E", meaning="span between the rows", view="top", also=("eA", "e1")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.3, 1.1), also=("E", "B")),
        Letter(key="D", meaning="body length along", view="top", reference="E", typical=(0.3, 8.0), also=("A",)),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.08, 0.6), also=("P", "G")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.1, 0.6), also=("B", "F")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.15, 1.2), also=("H",)),
        Letter(
            key="A1",
            meaning="stand-off",
            view="side",
            assumed=STAND_OFF,
            reference="A",
            typical=(0.03, 0.5),
            also=("K", "S"),
        ),
        Letter(
            key="c",
            meaning="lead thickness",
            view="side",
            assumed=THICKNESS,
            reference="A",
            typical=(0.02, 0.3),
            also=("C", "t"),
        ),
    ),
    default_pins=14,
    pin_fault=dual.even_rows,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
