"""Two rows of flat terminals under the edge of the body, with or without a thermal pad: SON, DFN."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
    Implausible,
    LandRecipe,
    Letter,
    Terminal,
    View,
    ViewDimension,
)
from eider.packages.forms import dual, gullwing, noleads, thermal_pad
from eider.packages.forms.fused_leads import FIELD as FUSED_FIELD
from eider.packages.forms.fused_leads import split_fused
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import clear_of_thermal, feet_apart, inside, larger, leads_fit

SHOWN = dual.Shown(span="E", width="")


def _pin_fault(pins: int) -> str:
    # An odd number stands on uneven sides, which the sheet then names.
    return "" if pins >= 2 else "two rows need 2 pins or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from feet_apart(dims, "E", "L")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from leads_fit(dims, "D", dual.positions(sheet))
    yield from inside(dims, "D2", "D", "the thermal pad lies under the body")
    yield from inside(dims, "E2", "E", "the thermal pad lies under the body")
    yield from clear_of_thermal(dims, "E", "E2")


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    # One terminal on each side has no pitch.
    pitch = dims["e"].middle if sheet.pins > 2 or "e" in dims else 0.0
    left, right = dual.two_rows(sheet, pitch)
    span = dims["E"].less(2 * noleads.pull_back(dims))
    return dual.Dual(left, right, span, dims["E"], dims["D"], dims["L"], dims["b"], pitch)


def _perimeter(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    rows = _dual(sheet, dims)
    heel = rows.span.middle / 2 - rows.foot.middle
    return tuple(t for _, part in split_fused(rows, sheet) for t in dual.flat_terminals(part, heel))


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    # D lies along the rows here, and so does D2.
    return (*_perimeter(sheet, dims), *thermal_pad.terminals(sheet, dims, turned=True))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    mark = gullwing.corner_mark(rows.body, 0.08, 0.4).outline()
    shown = SHOWN if rows.pitch else SHOWN._replace(pitch="")
    top = dual.under_body(dual.top_view(rows, _perimeter(sheet, dims), shown, (mark,)))
    tip, foot = rows.span.middle / 2, rows.foot.middle
    last = rows.left[-1].at if rows.left else 0.0
    more = [ViewDimension("L", (-tip, last), (-tip + foot, last), "bottom")]
    more += thermal_pad.dimensions(dims, 2, turned=True)
    more += noleads.pull_back_dimension(dims, rows.body[2], last)
    shapes = (*top.shapes, *thermal_pad.shapes(dims, turned=True))
    return View(top.name, shapes, (*top.dimensions, *more)), noleads.side(dims, rows.body)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _dual(sheet, dims)
    thick = dims["c"].middle
    solids = [
        *gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body, 0.08, 0.4), is_sawn=True),
        *(
            dual.terminal_solid(part, dual.flat_foot(part), thick, "terminal" if part.pitch or part is rows else group)
            for group, part in split_fused(rows, sheet)
        ),
    ]
    solids += thermal_pad.solids(dims, turned=True)
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    goals, measures = noleads.goals(dims), {"pitch": rows.pitch}
    pairs = tuple(
        replace(dual.opposed(part, goals, measures, group), remarks=noleads.remarks(sheet))
        for group, part in split_fused(rows, sheet)
    )
    return dual.dual_recipe(rows, pairs, plates=thermal_pad.plates(sheet, dims, turned=True))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SON, pitch (where there is one), body length and width, maximum height, pins with the thermal pad."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    rows = _dual(sheet, dims)
    pitch = f"{hundredths(rows.pitch)}P" if rows.pitch else ""
    return f"SON{pitch}{size}-{thermal_pad.count(sheet, dims)}"


FAMILY = Family(
    key="no-lead-dual",
    title="Dual no-lead",
    group="No leads",
    summary="SON, DFN, with thermal pad",
    letters=(
        Letter(key="E", meaning="body width across", view="top", also=("W", "B")),
        Letter(
            key="D", meaning="body length along the rows", view="top", reference="E", typical=(0.3, 4.0), also=("A",)
        ),
        Letter(
            key="e", meaning="pitch", view="top", reference="D", typical=(0.02, 0.6), also=("P", "p"), needed_from=3
        ),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.25, 0.8), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="E", typical=(0.03, 0.4), also=("L1", "K")),
        *noleads.letters(turned=True),
    ),
    fields=(
        FamilyField(key="left", title="numbers at the left", kind="numbers"),
        FamilyField(key="right", title="numbers at the right", kind="numbers"),
        FUSED_FIELD,
        noleads.WETTABLE_FIELD,
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
