"""Two rows of gull-wing leads: SO, SSOP, TSSOP, MSOP and their like."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual, gullwing, thermal_pad
from eider.packages.forms.fused_leads import FIELD as FUSED_FIELD
from eider.packages.forms.fused_leads import split_fused
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, foot_outside_body, inside, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the lead span reaches beyond the body on both sides")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from feet_apart(dims, "E", "L")
    yield from foot_outside_body(dims, "E", "E1", "L")
    yield from leads_fit(dims, "D", dual.positions(sheet))
    yield from inside(dims, "D2", "D", "the thermal pad lies under the body")
    yield from inside(dims, "E2", "E1", "the thermal pad lies under the body")


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    return dual.Dual(left, right, dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"], dims["e"].middle)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return *_leads(sheet, dims), *thermal_pad.terminals(sheet, dims, turned=True)


def _leads(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return tuple(t for _, part in split_fused(_dual(sheet, dims), sheet) for t in dual.flat_terminals(part))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    shown = dual.Shown()
    top = dual.top_view(rows, _leads(sheet, dims), shown, (gullwing.corner_mark(rows.body).outline(),))
    top = thermal_pad.seen_through(top, dims, 2, turned=True)
    profile = gullwing.seen_profile(dims, dims["E"], dims["E1"])
    return top, dual.side_view(rows, dims, profile, shown, low=dims["A1"].middle)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows = _dual(sheet, dims)
    body, dot = gullwing.marked_body(dims, rows.body, gullwing.corner_mark(rows.body))
    profile = gullwing.lead_profile(dims, dims["E"], dims["E1"])
    leads = (
        Solid(
            "lead" if part.pitch else group,
            "tin",
            gullwing.lead_strip(profile, dims["c"].middle, part.lead.middle),
            dual.lead_places(part),
        )
        for group, part in split_fused(rows, sheet)
    )
    return body, dot, *leads, *thermal_pad.solids(dims, turned=True)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    measures = {"pitch": rows.pitch}
    pairs = tuple(dual.opposed(part, "gullwing", measures, group) for group, part in split_fused(rows, sheet))
    recipe = dual.dual_recipe(rows, pairs, plates=thermal_pad.plates(sheet, dims, turned=True))
    return replace(recipe, stand_off=dims["A1"].lower)


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SOIC at 1.27 pitch, else SOP; pitch, nominal span, maximum height, pins with the thermal pad."""
    pitch = hundredths(dims["e"].middle)
    prefix = "SOIC" if pitch == "127" else "SOP"
    size = f"{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"{prefix}{pitch}P{size}-{thermal_pad.count(sheet, dims)}"


FAMILY = Family(
    key="gullwing-dual",
    first_for="many terminals",
    title="Dual gull-wing",
    group="Leads",
    summary="SO, SSOP, TSSOP, MSOP, with thermal pad",
    letters=(
        Letter(key="E", meaning="lead span, tip to tip", view="top", also=("H", "HE", "C", "D1")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.3, 0.97), also=("E", "A", "W")),
        Letter(
            key="D",
            meaning="body length along the rows",
            view="top",
            reference="E",
            typical=(0.15, 6.0),
            also=("B", "A", "L"),
        ),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.02, 0.6), also=("P", "p")),
        Letter(
            key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("B", "bp", "W", "F")
        ),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.02, 0.35), also=("Lp", "G", "K")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.04, 1.0), also=("H", "T")),
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
        *thermal_pad.letters(turned=True),
    ),
    fields=(FUSED_FIELD,),
    default_pins=16,
    pin_fault=dual.even_rows,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
