"""Four rows of gull-wing leads: QFP and its like."""

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
)
from eider.packages.forms import gullwing, thermal_pad
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import (
    Sides,
    body_boxes,
    four_sides,
    leaded_recipe,
    leaded_side_view,
    leaded_solids,
    leaded_top_view,
    opposite,
    quad_pin_fault,
    quad_terminals,
    side_counts,
)
from eider.packages.plausibility import feet_apart, foot_outside_body, inside, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = side_counts(sheet)
    for span, body, count in (("D", "D1", along_x), ("E", "E1", along_y)):
        yield from larger(dims, span, body, "the lead span reaches beyond the body on both sides")
        yield from feet_apart(dims, span, "L")
        yield from foot_outside_body(dims, span, body, "L")
        yield from leads_fit(dims, body, count)
        yield from inside(dims, f"{span}2", body, "the thermal pad lies under the body")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    return four_sides(sheet, dims["e"].middle)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return *quad_terminals(_sides(sheet, dims), opposite(dims)), *thermal_pad.terminals(sheet, dims)


def _mark(dims: Dims) -> gullwing.CornerMark:
    body, _ = body_boxes(dims, "D1", "E1")
    return gullwing.corner_mark(body, 0.12, 1.0)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    leads = quad_terminals(_sides(sheet, dims), opposite(dims))
    top = thermal_pad.seen_through(leaded_top_view(sheet, dims, leads, _mark(dims)), dims, 2)
    return top, leaded_side_view(dims, gullwing.seen_profile(dims, dims["D"], dims["D1"]))


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return *leaded_solids(dims, _sides(sheet, dims), _mark(dims), gullwing.lead), *thermal_pad.solids(dims)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    recipe = leaded_recipe(dims, _sides(sheet, dims), "gullwing")
    return replace(recipe, plates=thermal_pad.plates(sheet, dims), stand_off=dims["A1"].lower)


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: QFP, pitch, both nominal spans, maximum height, pins."""
    spans = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}"
    pins = thermal_pad.count(sheet, dims)
    return f"QFP{hundredths(dims['e'].middle)}P{spans}X{hundredths(dims['A'].upper)}-{pins}"


FAMILY = Family(
    key="gullwing-quad",
    title="Quad gull-wing",
    group="Leads",
    summary="QFP, LQFP, TQFP, with thermal pad",
    letters=(
        Letter(key="D", meaning="lead span across", view="top", also=("HD", "A")),
        Letter(key="D1", meaning="body width", view="top", reference="D", typical=(0.5, 0.97), also=("D", "A1")),
        Letter(key="E", meaning="lead span along", view="top", reference="D", typical=(0.3, 3.0), also=("HE", "B")),
        Letter(key="E1", meaning="body length", view="top", reference="E", typical=(0.5, 0.97), also=("E", "B1")),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.008, 0.2), also=("P", "p")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("bp", "B", "W")),
        Letter(key="L", meaning="foot length", view="side", reference="D", typical=(0.01, 0.2), also=("Lp", "G", "K")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.03, 0.6), also=("H", "T")),
        Letter(
            key="A1",
            also=("K", "S"),
            meaning="stand-off",
            view="side",
            assumed=gullwing.HEIGHT_A1,
            reference="A",
            typical=(0.0, 0.6),
        ),
        Letter(
            key="c",
            also=("C", "T"),
            meaning="lead thickness",
            view="side",
            assumed=gullwing.THICKNESS_C,
            reference="A",
            typical=(0.02, 0.5),
        ),
        *thermal_pad.letters(),
    ),
    fields=(
        FamilyField(key="pins_d", title="pins at the top", kind="count"),
        FamilyField(key="pins_e", title="pins at the left", kind="count"),
    ),
    default_pins=48,
    pin_fault=quad_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
