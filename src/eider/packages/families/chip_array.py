"""Arrays of chips in one body, with terminals on two sides: resistor and capacitor arrays."""

from collections.abc import Iterator

from eider.geometry.plane import box_outline
from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, larger, leads_fit

PREFIX = {"resistor": "RESCAX", "capacitor": "CAPCAX", "inductor": "INDCAX"}
SHOWN = dual.Shown(width="", foot="L")


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from feet_apart(dims, "E", "L")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from leads_fit(dims, "D", sheet.pins // 2)


def _dual(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    left, right = dual.two_rows(sheet, dims["e"].middle)
    return dual.Dual(left, right, dims["E"], dims["E"], dims["D"], dims["L"], dims["b"], dims["e"].middle)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    rows = _dual(sheet, dims)
    return dual.flat_terminals(rows, rows.span.middle / 2 - rows.foot.middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    rows = _dual(sheet, dims)
    top = dual.under_body(dual.top_view(rows, _terminals(sheet, dims), SHOWN))
    tip = rows.span.middle / 2
    profile = box_outline((tip - rows.foot.middle, 0.0, tip, dims["A"].upper))
    return top, dual.side_view(rows, dims, profile, SHOWN)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    rows, height = _dual(sheet, dims), dims["A"].upper
    body = dual.block("body", "ceramic black", rows.body, 0.0, 0.96 * height)
    return body, dual.terminal_solid(rows, dual.flat_foot(rows), height)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    rows = _dual(sheet, dims)
    return dual.dual_recipe(rows, (dual.opposed(rows, "chip-array", {"pitch": rows.pitch}),))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: class, pitch, body length and width, height maximum, pins."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"{PREFIX.get(sheet.kind, 'CHIPAX')}{hundredths(dims['e'].middle)}P{size}-{sheet.pins}"


FAMILY = Family(
    key="chip-array",
    title="Chip array",
    group="No leads",
    summary="R and C arrays",
    letters=(
        Letter(key="E", meaning="body width across", view="top", also=("W", "B")),
        Letter(key="D", meaning="body length along", view="top", reference="E", typical=(0.5, 6.0), also=("L", "A")),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.05, 0.6), also=("P", "p")),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.2, 0.9), also=("B", "H")),
        Letter(key="L", meaning="terminal length", view="side", reference="E", typical=(0.05, 0.48), also=("C", "G")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.1, 1.2), also=("T", "t", "H")),
    ),
    kinds=tuple(PREFIX),
    default_pins=8,
    pin_fault=dual.even_rows,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
