"""Two rows of J-leads: SOJ."""

from collections.abc import Iterator

from eider.geometry.solids import Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual, gullwing, jlead
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the leads stand outside the body")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from feet_apart(dims, "E", "L")
    yield from leads_fit(dims, "D", dual.positions(sheet))


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    return dual.Dual(left, right, dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"], dims["e"].middle)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    rows = _dual(sheet, dims)
    return dual.flat_terminals(rows, rows.span.middle / 2 - rows.foot.middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    mark = gullwing.corner_mark(rows.body).outline()
    top = dual.under_body(dual.top_view(rows, _terminals(sheet, dims), dual.Shown(), (mark,)))
    profile = jlead.profile(dims, dims["E"], dims["E1"])
    return top, dual.side_view(rows, dims, profile, dual.Shown(), low=dims["A1"].middle)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _dual(sheet, dims)
    block = gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body))
    places = (*(SolidPlacement(y=y, turn=180.0) for _, y in rows.left), *(SolidPlacement(y=y) for _, y in rows.right))
    return (*block, Solid("lead", "tin", jlead.strip(dims, dims["E"], dims["E1"]), places))


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    return dual.dual_recipe(rows, (dual.opposed(rows, "j-lead", {"pitch": rows.pitch}),))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SOJ, pitch, nominal span, maximum height, pins."""
    size = f"{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"SOJ{hundredths(dims['e'].middle)}P{size}-{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="j-lead-dual",
    title="Dual J-lead",
    group="Leads",
    summary="SOJ",
    letters=(
        Letter(key="E", meaning="lead span", view="top", also=("H", "C")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.6, 0.99), also=("E", "A")),
        Letter(key="D", meaning="body length along", view="top", reference="E", typical=(0.3, 6.0), also=("B",)),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.02, 0.5), also=("P",)),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("B", "W")),
        Letter(key="L", meaning="contact length", view="side", reference="E", typical=(0.03, 0.4), also=("K",)),
        *jlead.LETTERS,
    ),
    default_pins=20,
    pin_fault=dual.even_rows,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
