"""Four rows of J-leads, pin 1 in the middle of the top: PLCC."""

from collections.abc import Iterator

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
from eider.packages.forms import gullwing, jlead
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import (
    Sides,
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
from eider.packages.plausibility import feet_apart, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = side_counts(sheet)
    for span, body, count in (("D", "D1", along_x), ("E", "E1", along_y)):
        yield from larger(dims, span, body, "the leads stand outside the body")
        yield from feet_apart(dims, span, "L")
        yield from leads_fit(dims, body, count)
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    return four_sides(sheet, dims["e"].middle, first_at_top=True)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return quad_terminals(_sides(sheet, dims), opposite(dims), inner=True)


def _mark(dims: Dims) -> gullwing.CornerMark:
    """On the body before pin 1, in the middle of the top."""
    size = min(0.1 * dims["E1"].middle, 1.2)
    return gullwing.CornerMark(0.0, dims["E1"].middle / 2 - 1.2 * size, size / 2)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    top = leaded_top_view(sheet, dims, _terminals(sheet, dims), _mark(dims), leads_over=True)
    return top, leaded_side_view(dims, jlead.profile(dims, dims["D"], dims["D1"]))


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return leaded_solids(dims, _sides(sheet, dims), _mark(dims), jlead.strip)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return leaded_recipe(dims, _sides(sheet, dims), "j-lead")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: PLCC, pitch, both nominal spans, maximum height, pins."""
    spans = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}"
    pins = sheet.pins - len(sheet.missing)
    return f"PLCC{hundredths(dims['e'].middle)}P{spans}X{hundredths(dims['A'].upper)}-{pins}"


FAMILY = Family(
    key="j-lead-quad",
    title="Quad J-lead",
    group="Leads",
    summary="PLCC",
    letters=(
        Letter(key="D", meaning="lead span across", view="top", also=("A",)),
        Letter(key="D1", meaning="body width", view="top", reference="D", typical=(0.7, 0.99), also=("D",)),
        Letter(key="E", meaning="lead span along", view="top", reference="D", typical=(0.3, 3.0), also=("B",)),
        Letter(key="E1", meaning="body length", view="top", reference="E", typical=(0.7, 0.99), also=("E",)),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.02, 0.3), also=("P",)),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("B", "W")),
        Letter(key="L", meaning="contact length", view="side", reference="D", typical=(0.02, 0.4), also=("K",)),
        *jlead.LETTERS,
    ),
    fields=(
        FamilyField(key="pins_d", title="pins at the top", kind="count"),
        FamilyField(key="pins_e", title="pins at the left", kind="count"),
    ),
    default_pins=20,
    pin_fault=quad_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
