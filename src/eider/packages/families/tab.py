"""Power packages with gull-wing leads at the left and a soldered tab at the right: DPAK, D2PAK, SOT-223."""

from collections.abc import Iterator

import msgspec

from eider.geometry.bends import bend_at
from eider.geometry.limits import Limits
from eider.geometry.plane import Box, box_outline
from eider.geometry.rounding import tidy
from eider.geometry.solids import Solid, SolidPlacement, Strip
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
    ViewShape,
)
from eider.packages.forms import dual, gullwing
from eider.packages.forms.moulding import moulded_block
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, inside, larger, row_fits

# How far the tab reaches out of the body where the sheet does not say it, and thicknesses (mm).
OUT, THICK, TAB_THICK = 1.0, 0.5, 0.5


def _pin_fault(pins: int) -> str:
    return "" if 2 <= pins <= 16 else "a package with a tab has 2 to 16 pins, the tab counted"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "H", "D", "the span over leads and tab is longer than the body")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from inside(dims, "D2", "H", "the tab lies within the span")
    yield from feet_apart(dims, "H", "L")
    yield from row_fits(dims, "E", [at for _, at in _leads(sheet, dims).left])


def _numbers(sheet: PackageSheet) -> tuple[tuple[str, ...], str]:
    """Leads by position, and the number of the tab: the middle one, whose lead is cut short, where none is named."""
    if sheet.left:
        return sheet.left, sheet.right[0] if sheet.right else str(sheet.pins)
    if sheet.pins % 2:
        middle = sheet.pins // 2 + 1
        return tuple("" if i == middle else str(i) for i in range(1, sheet.pins + 1)), str(middle)
    return tuple(str(i) for i in range(1, sheet.pins)), str(sheet.pins)


def _leads(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    numbers, _ = _numbers(sheet)
    placed = msgspec.structs.replace(sheet, left=numbers, right=())
    left, _ = dual.two_rows(placed, dims["e"].middle)
    return dual.Dual(left, (), dims["H"], dims["D"], dims["E"], dims["L"], dims["b"], dims["e"].middle)


def _tab(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    _, number = _numbers(sheet)
    return dual.Dual((), (dual.Numbered(number, 0.0),), dims["H"], dims["D"], dims["E"], dims["D2"], dims["E2"], 0.0)


def _body(dims: Dims, length: Limits, width: Limits, *, largest: bool = False) -> Box:
    """The body: its right edge lies so far inside the span as the tab reaches out."""
    right = dims["H"].middle / 2 - dims["L3"].middle
    d, e = (length.upper, width.upper) if largest else (length.middle, width.middle)
    middle = right - length.middle / 2
    return middle - d / 2, -e / 2, middle + d / 2, e / 2


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    x0, *_ = _body(dims, dims["D"], dims["E"])
    tab = _tab(sheet, dims)
    leads = dual.flat_terminals(_leads(sheet, dims), -x0)
    return (*leads, *dual.flat_terminals(tab, tab.span.middle / 2 - tab.foot.middle))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body = _body(dims, dims["D"], dims["E"])
    x0, y0, x1, y1 = body
    leads = _leads(sheet, dims)
    tip, tab, half_tab = dims["H"].middle / 2, dims["D2"].middle, dims["E2"].middle / 2
    first, last = (leads.left[0].at, leads.left[-1].at) if leads.left else (0.0, 0.0)
    half, height = dims["b"].middle / 2, dims["A"].upper
    pitch = dims["e"].middle
    top = View(
        "top",
        (
            *(ViewShape("terminal", dual.box_of(t)) for t in _terminals(sheet, dims)),
            ViewShape("body", box_outline(body)),
            ViewShape("mark", gullwing.corner_mark(body, 0.12, 0.8).outline()),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("H", (-tip, y1), (tip, y1), "top", 2),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("E2", (tip, -half_tab), (tip, half_tab), "right"),
            ViewDimension("D2", (tip - tab, -half_tab), (tip, -half_tab), "bottom", 2),
            ViewDimension("L3", (x1, -half_tab), (tip, -half_tab), "bottom"),
            ViewDimension("e", (-tip, first - pitch), (-tip, first), "left"),
            ViewDimension("b", (-tip, last - half), (-tip, last + half), "left", 2),
        ),
    )
    side = View(
        "side",
        (
            ViewShape("body", box_outline((x0, 0.0, x1, height))),
            ViewShape("terminal", _profile(dims, x0)),
            ViewShape("terminal", box_outline((tip - tab, 0.0, tip, TAB_THICK))),
        ),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left"),
            ViewDimension("L", (-tip, 0), (-tip + dims["L"].middle, 0), "bottom"),
        ),
    )
    return top, side


def _profile(dims: Dims, edge: float) -> tuple[tuple[float, float], ...]:
    """A lead from the side, left of the body: level out of it, then down to its foot."""
    tip, foot, middle = -dims["H"].middle / 2, dims["L"].middle, 0.5 * dims["A"].upper
    heel = min(tip + foot, edge)
    shoulder = edge - gullwing.SHOULDER_SHARE * (edge - heel)
    low, high, inner = middle - THICK / 2, middle + THICK / 2, edge + gullwing.INTO_BODY
    points = (
        (tip, 0.0),
        (heel, 0.0),
        (shoulder, low),
        (inner, low),
        (inner, high),
        (shoulder - THICK / 2, high),
        (heel - THICK / 2, THICK),
        (tip, THICK),
    )
    return tuple((tidy(x), tidy(z)) for x, z in points)


def _lead(dims: Dims, edge: float) -> Strip:
    """The lead as a solid, bent by radii."""
    profile, into_foot, over_shoulder = _profile(dims, edge), 6, 5
    wide = (1 + gullwing.INNER_RADIUS) * THICK
    bends = bend_at(profile, into_foot, gullwing.INNER_RADIUS * THICK), bend_at(profile, over_shoulder, wide)
    return Strip(profile, dims["b"].middle, bends)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body = _body(dims, dims["D"], dims["E"])
    tab = _tab(sheet, dims)
    places = tuple(SolidPlacement(y=y) for _, y in _leads(sheet, dims).left)
    tip = tab.span.middle / 2
    half = tab.lead.middle / 2
    return (
        moulded_block("body", body, 0.02, dims["A"].upper),
        Solid("lead", "tin", _lead(dims, body[0]), places),
        dual.block("tab", "tin", (tip - tab.foot.middle, -half, tip, half), 0.0, TAB_THICK),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    leads, tab = _leads(sheet, dims), _tab(sheet, dims)
    rows = (
        dual.opposed(leads, "tab-leads", {"pitch": leads.pitch}, "leads"),
        dual.opposed(tab, "tab", {}, "tab"),
    )
    first = leads.left[0].number if leads.left else tab.right[0].number
    body, body_max = (_body(dims, dims["D"], dims["E"], largest=largest) for largest in (False, True))
    return LandRecipe(rows=rows, body=body, body_max=body_max, first_pin=first)


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: TO, pitch, span, maximum height, pins."""
    return f"TO{hundredths(dims['e'].middle)}P{hundredths(dims['H'].middle)}X{hundredths(dims['A'].upper)}-{sheet.pins}"


FAMILY = Family(
    key="tab",
    title="Tab",
    group="Leads",
    summary="DPAK, D2PAK, SOT-223",
    letters=(
        Letter(key="H", meaning="span over leads and tab", view="top", also=("L", "A")),
        Letter(key="D", meaning="body across the leads", view="top", reference="H", typical=(0.3, 0.95), also=("B",)),
        Letter(key="E", meaning="body along the leads", view="top", reference="H", typical=(0.3, 1.6), also=("A", "W")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.05, 0.5), also=("P", "G")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("D",)),
        Letter(key="L", meaning="foot length", view="side", reference="H", typical=(0.03, 0.35), also=("J", "K")),
        Letter(key="D2", meaning="tab length", view="top", reference="H", typical=(0.1, 0.8), also=("L2", "D1")),
        Letter(key="E2", meaning="tab width", view="top", reference="E", typical=(0.2, 1.0), also=("E1", "b2")),
        Letter(
            key="L3",
            meaning="tab beyond the body",
            view="top",
            assumed=OUT,
            reference="H",
            typical=(0.02, 0.4),
            also=("M",),
        ),
        Letter(key="A", meaning="height", view="side", reference="H", typical=(0.1, 0.7), also=("C", "H")),
    ),
    fields=(
        FamilyField(key="left", title="numbers of the leads", kind="numbers"),
        FamilyField(key="right", title="number of the tab", kind="numbers"),
    ),
    default_pins=3,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
