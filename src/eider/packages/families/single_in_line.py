"""One row of leads through the board: SIP, resistor networks."""

from collections.abc import Iterator

from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Solid
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

STAND_OFF, THICKNESS = 0.3, 0.25


def _pin_fault(pins: int) -> str:
    return "" if pins >= 2 else "a row has 2 leads or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from leads_fit(dims, "D", sheet.pins)


def _places(sheet: PackageSheet, dims: Dims) -> list[tuple[str, float, float]]:
    return [(n, x, 0.0) for n, x in leaded.in_line(sheet.pins, dims["e"].middle, sheet.missing)]


def _body(dims: Dims, *, largest: bool = False) -> Box:
    d, e = ((dims[k].upper if largest else dims[k].middle) / 2 for k in ("D", "E1"))
    return -d, -e, d, e


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(sheet, dims), dims["b"].middle, dims["c"].middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = _body(dims)
    places, half = _places(sheet, dims), dims["b"].middle / 2
    first, pitch = places[0][1], dims["e"].middle
    thick, height, low = dims["c"].middle / 2, dims["A"].upper, dims["A1"].middle
    top = View(
        "top",
        (
            ViewShape("body", box_outline((x0, y0, x1, y1))),
            *(ViewShape("terminal", dual.box_of(t)) for t in _terminals(sheet, dims)),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E1", (x1, y0), (x1, y1), "right"),
            ViewDimension("e", (first, y0), (first + pitch, y0), "bottom"),
            ViewDimension("c", (first, -thick), (first, thick), "left"),
        ),
    )
    legs = [(x - half, -leaded.THROUGH, x + half, low) for _, x, _ in places]
    side = View(
        "side",
        (
            *(ViewShape("terminal", box_outline(leg)) for leg in legs),
            ViewShape("body", box_outline((x0, low, x1, height))),
        ),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left", 2),
            ViewDimension("A1", (x0, 0), (x0, low), "left"),
            ViewDimension("b", (first - half, -leaded.THROUGH), (first + half, -leaded.THROUGH), "bottom"),
        ),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    low, body = dims["A1"].middle, _body(dims)
    block = gullwing.marked_body(dims, body, gullwing.corner_mark(body))
    return *block, leaded.flat_leads(_places(sheet, dims), dims["b"].middle, dims["c"].middle, low)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    places = _places(sheet, dims)
    group = leaded.leads(places, dims["b"], dims["c"], dims["e"].middle)
    body, body_max = _body(dims), _body(dims, largest=True)
    return LandRecipe(leads=(group,), body=body, body_max=body_max, first_pin=places[0][0], goals="through-hole")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """As a dual in line's: SIP, W lead width, P pitch, L length, H height, Q pins."""
    pitch = f"W{hundredths(dims['b'].middle)}P{hundredths(dims['e'].middle)}"
    size = f"L{hundredths(dims['D'].middle)}H{hundredths(dims['A'].upper)}"
    return f"SIP{pitch}{size}Q{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="single-in-line",
    title="Single in line",
    group="Through the board",
    summary="SIP",
    letters=(
        Letter(key="D", meaning="body length along", view="top", also=("A", "L")),
        Letter(key="E1", meaning="body thickness", view="top", reference="D", typical=(0.03, 1.5), also=("E", "T")),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.02, 0.9), also=("P",)),
        Letter(key="b", meaning="lead width", view="side", reference="e", typical=(0.1, 0.6), also=("B", "W")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.05, 3.0), also=("H",)),
        Letter(
            key="A1",
            meaning="stand-off",
            view="side",
            assumed=STAND_OFF,
            reference="A",
            typical=(0.0, 0.4),
            also=("K", "S"),
        ),
        Letter(
            key="c",
            meaning="lead thickness",
            view="top",
            assumed=THICKNESS,
            reference="A",
            typical=(0.01, 0.4),
            also=("C", "t"),
        ),
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
