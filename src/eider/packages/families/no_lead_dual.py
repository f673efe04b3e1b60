"""Two rows of flat terminals under the edge of the body, with or without a thermal pad: SON, DFN."""

from collections.abc import Iterator

from eider.geometry.solids import Solid
from eider.model.sheet import PackageSheet
from eider.packages import dual, gullwing, noleads
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    Plate,
    SheetField,
    Terminal,
    View,
    ViewDimension,
)
from eider.packages.names import hundredths
from eider.packages.rules import feet_apart, inside, larger, leads_fit

SHOWN = dual.Shown(span="E", width="")


def _pin_fault(pins: int) -> str:
    return "" if pins >= 2 and pins % 2 == 0 else "two even rows need an even number of pins, 2 or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from feet_apart(dims, "E", "L")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from leads_fit(dims, "D", sheet.pins // 2)
    yield from inside(dims, "D2", "D", "the thermal pad lies under the body")
    yield from inside(dims, "E2", "E", "the thermal pad lies under the body")


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    span = dims["E"].less(2 * noleads.pull_back(dims))
    return dual.Dual(left, right, span, dims["E"], dims["D"], dims["L"], dims["b"], dims["e"].middle)


def _plate(sheet: PackageSheet, dims: Dims) -> tuple[Plate, ...]:
    """D lies along the rows here, and so does D2."""
    if not noleads.has_thermal(dims):
        return ()
    return (Plate(number=noleads.thermal_number(sheet), width=dims["E2"], height=dims["D2"]),)


def _thermal_box(dims: Dims) -> tuple[float, float, float, float]:
    x, y = dims["E2"].middle / 2, dims["D2"].middle / 2
    return -x, -y, x, y


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    rows = _dual(sheet, dims)
    found = dual.flat_terminals(rows, rows.span.middle / 2 - rows.foot.middle)
    if not noleads.has_thermal(dims):
        return found
    box = _thermal_box(dims)
    return (*found, Terminal(noleads.thermal_number(sheet), box, box))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    mark = gullwing.corner_mark(rows.body, 0.08, 0.4).outline()
    top = dual.under_body(dual.top_view(rows, _terminals(sheet, dims), SHOWN, (mark,)))
    tip, foot = rows.span.middle / 2, rows.foot.middle
    last = rows.left[-1].at if rows.left else 0.0
    more = [ViewDimension("L", (-tip, last), (-tip + foot, last), "bottom")]
    if noleads.has_thermal(dims):
        x0, y0, x1, y1 = _thermal_box(dims)
        more += [
            ViewDimension("E2", (x0, y0), (x1, y0), "bottom", 2),
            ViewDimension("D2", (x0, y0), (x0, y1), "left", 2),
        ]
    more += noleads.pull_back_dimension(dims, rows.body[2], last)
    return View(top.name, top.shapes, (*top.dimensions, *more)), noleads.side(dims, rows.body)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _dual(sheet, dims)
    thick = dims["c"].middle
    solids = [
        *gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body, 0.08, 0.4)),
        dual.terminal_solid(rows, dual.flat_foot(rows), thick),
    ]
    if noleads.has_thermal(dims):
        solids.append(dual.block("thermal pad", "tin", _thermal_box(dims), 0.0, thick))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    pair = dual.opposed(rows, noleads.goals(dims), {"pitch": rows.pitch})
    return dual.dual_recipe(rows, (pair,), plates=_plate(sheet, dims))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SON, pitch, body length and width, maximum height, pins with the thermal pad."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"SON{hundredths(dims['e'].middle)}P{size}-{noleads.count(sheet, dims)}"


FAMILY = Family(
    key="no-lead-dual",
    title="Dual no-lead",
    summary="SON, DFN, with thermal pad",
    letters=(
        Letter(key="E", meaning="body width across", view="top", also=("W", "B")),
        Letter(
            key="D", meaning="body length along the rows", view="top", reference="E", typical=(0.3, 4.0), also=("A",)
        ),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.02, 0.6), also=("P", "p")),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.25, 0.8), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="E", typical=(0.03, 0.4), also=("L1", "K")),
        *noleads.LETTERS,
    ),
    fields=(
        SheetField(key="left", title="numbers at the left", kind="numbers"),
        SheetField(key="right", title="numbers at the right", kind="numbers"),
    ),
    default_pins=8,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
