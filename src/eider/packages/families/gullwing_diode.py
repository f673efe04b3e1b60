"""Two gull-wing leads, one at each end of a moulded body: SOD-123, SOD-323 and their like."""

from collections.abc import Iterator

import msgspec

from eider.geometry.solids import Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual, gullwing, two_ends
from eider.packages.forms.moulding import mould_top, moulded_block
from eider.packages.forms.name_codes import hundredths, tenths
from eider.packages.plausibility import feet_apart, foot_outside_body, larger


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the lead span reaches beyond the body on both sides")
    yield from larger(dims, "D", "b", "a lead is narrower than the body")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from feet_apart(dims, "E", "L")
    yield from foot_outside_body(dims, "E", "E1", "L")


def _part(dims: Dims) -> dual.Dual:
    return two_ends.ends(dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"])


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return dual.flat_terminals(_part(dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    part = _part(dims)
    letters = {"span": "E", "width": "E1", "length": "D", "lead": "b"}
    marks = (two_ends.cathode_band(part.body),) if two_ends.is_polar(sheet) else ()
    top = two_ends.top_view(part, dual.flat_terminals(part), letters, marks)
    profile = gullwing.seen_profile(dims, dims["E"], dims["E1"])
    return top, dual.side_view(part, dims, profile, dual.Shown(), low=dims["A1"].middle)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    part, low, height = _part(dims), dims["A1"].middle, dims["A"].upper
    solids = [
        moulded_block("body", part.body, low, height),
        Solid(
            "lead", "tin", gullwing.lead(dims, dims["E"], dims["E1"]), (SolidPlacement(turn=180.0), SolidPlacement())
        ),
    ]
    if two_ends.is_polar(sheet):
        solids.append(two_ends.band_solid(mould_top(part.body, low, height), height))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    part = _part(dims)
    # A lead that has no neighbour has the whole side of the body for its pitch.
    rows = two_ends.pair(part, "gullwing", {"pitch": dims["D"].middle})
    recipe = two_ends.recipe(part, rows, polarised=two_ends.is_polar(sheet))
    return msgspec.structs.replace(recipe, stand_off=dims["A1"].lower)


def _name(_sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SOD, span and body in tenths, height maximum: SOD2512X110."""
    return f"SOD{tenths(dims['E'].middle)}{tenths(dims['D'].middle)}X{hundredths(dims['A'].upper)}"


FAMILY = Family(
    key="gullwing-diode",
    title="Gull-wing diode",
    group="Two terminals",
    summary="SOD-123, SOD-323",
    letters=(
        Letter(key="E", meaning="lead span, tip to tip", view="top", also=("HE", "H", "L")),
        Letter(key="E1", meaning="body across", view="top", reference="E", typical=(0.4, 0.97), also=("D", "A")),
        Letter(key="D", meaning="body along", view="top", reference="E", typical=(0.2, 1.5), also=("E", "B")),
        Letter(key="b", meaning="lead width", view="top", reference="D", typical=(0.1, 0.95), also=("bp", "C")),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.04, 0.35), also=("Lp", "K")),
        *gullwing.HEIGHT_LETTERS,
    ),
    kinds=("diode",),
    default_pins=2,
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
