"""Power transistors with leads through the board and a tab, standing or lying: TO-220 and its like."""

from collections.abc import Iterator

from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Solid
from eider.model.package_sheet import PackageSheet, Post
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
from eider.packages.forms import dual, leaded
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger, leads_fit

LYING = "lying"
# Thickness of the body and of the tab, and how far the tab's back is behind the leads (mm), where not given.
THICK, TAB, BEHIND = 4.5, 1.3, 2.6
# Lying, the body begins so far behind the leads where the sheet does not say it (mm).
BENT = 3.0


def _pin_fault(pins: int) -> str:
    return "" if 2 <= pins <= 15 else "such a package has 2 to 15 leads"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from leads_fit(dims, "E", sheet.pins)


def _places(sheet: PackageSheet, dims: Dims) -> list[tuple[str, float, float]]:
    return [(n, x, 0.0) for n, x in leaded.in_line(sheet.pins, dims["e"].middle, sheet.missing)]


def _is_lying(sheet: PackageSheet) -> bool:
    return sheet.mounting == LYING


def _body(sheet: PackageSheet, dims: Dims, *, largest: bool = False) -> Box:
    """From above: standing, its thickness about the leads; lying, its whole height behind them."""
    e, d, a = (dims[k].upper if largest else dims[k].middle for k in ("E", "D", "A"))
    if _is_lying(sheet):
        begin = dims["F"].middle if "F" in dims else BENT
        return -e / 2, begin, e / 2, begin + d
    return -e / 2, BEHIND - a, e / 2, BEHIND


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(sheet, dims), dims["b"].middle, dims["c"].middle)


def _lengths(sheet: PackageSheet, dims: Dims) -> Iterator[ViewDimension]:
    """What is shown from above."""
    x0, y0, x1, y1 = _body(sheet, dims)
    first, thick = _places(sheet, dims)[0][1], dims["c"].middle / 2
    yield ViewDimension("E", (x0, y1), (x1, y1), "top")
    yield ViewDimension("e", (first, y0), (first + dims["e"].middle, y0), "bottom")
    yield ViewDimension("c", (first, -thick), (first, thick), "left")
    yield ViewDimension("D" if _is_lying(sheet) else "A", (x1, y0), (x1, y1), "right")
    if "F" in dims:
        yield ViewDimension("F", (x1, 0.0), (x1, dims["F"].middle), "right", 2)
    if "Q" in dims:
        yield ViewDimension("Q", (0.0, 0.0), (0.0, dims["Q"].middle), "left", 2)
    if "hole" in dims:
        half = dims["hole"].middle / 2
        yield ViewDimension("hole", (-half, y1), (half, y1), "top", 2)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, _, x1, _ = body = _body(sheet, dims)
    places, half = _places(sheet, dims), dims["b"].middle / 2
    first = places[0][1]
    top = View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", dual.box_of(t)) for t in _terminals(sheet, dims)),
        ),
        tuple(_lengths(sheet, dims)),
    )
    shown = "A" if _is_lying(sheet) else "D"
    tall = dims[shown].middle
    legs = [(x - half, -leaded.THROUGH, x + half, 0.0) for _, x, _ in places]
    side = View(
        "side",
        (
            *(ViewShape("terminal", box_outline(leg)) for leg in legs),
            ViewShape("body", box_outline((x0, 0.0, x1, tall))),
        ),
        (
            ViewDimension(shown, (x0, 0.0), (x0, tall), "left"),
            ViewDimension("b", (first - half, -leaded.THROUGH), (first + half, -leaded.THROUGH), "bottom"),
        ),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    x0, y0, x1, y1 = body = _body(sheet, dims)
    leads = leaded.flat_leads(_places(sheet, dims), dims["b"].middle, dims["c"].middle, 0.1)
    if _is_lying(sheet):
        front = (x0, y0, x1, y0 + 0.6 * (y1 - y0))
        tab = dual.block("tab", "tin", body, 0.0, TAB)
        return dual.block("body", "mould compound", front, TAB, dims["A"].middle), tab, leads
    tall = dims["D"].middle
    front = (x0, y0, x1, y1 - TAB)
    tab = dual.block("tab", "tin", (x0, y1 - TAB, x1, y1), 0.0, tall)
    return dual.block("body", "mould compound", front, 0.0, 0.6 * tall), tab, leads


def _posts(sheet: PackageSheet, dims: Dims) -> tuple[Post, ...]:
    """The hole of the tab goes through the board where the part lies on it."""
    if not _is_lying(sheet) or "hole" not in dims or "Q" not in dims:
        return ()
    return (Post(0.0, dims["Q"].middle, dims["hole"].middle),)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    places = _places(sheet, dims)
    group = leaded.leads(places, dims["b"], dims["c"], dims["e"].middle)
    body, body_max = _body(sheet, dims), _body(sheet, dims, largest=True)
    return LandRecipe(
        leads=(group,),
        posts=_posts(sheet, dims),
        body=body,
        body_max=body_max,
        first_pin=places[0][0],
        goals="through-hole",
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """TO, V or H, pitch, body width, height and thickness, leads."""
    size = f"{hundredths(dims['E'].middle)}X{hundredths(dims['D'].middle)}X{hundredths(dims['A'].middle)}"
    way = "H" if _is_lying(sheet) else "V"
    return f"TO{way}{hundredths(dims['e'].middle)}P{size}-{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="tab-through-hole",
    title="Tab, leads through",
    group="Through the board",
    summary="TO-220, standing or lying",
    letters=(
        Letter(key="E", meaning="body width", view="top", also=("A", "B")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.05, 0.6), also=("P", "G")),
        Letter(key="b", meaning="lead width", view="side", reference="e", typical=(0.1, 0.7), also=("D",)),
        Letter(key="c", meaning="lead thickness", view="top", reference="b", typical=(0.2, 1.5), also=("J",)),
        Letter(key="D", meaning="body and tab", view="side", reference="E", typical=(0.6, 3.0), also=("L", "C")),
        Letter(
            key="A", meaning="thickness", view="top", assumed=THICK, reference="E", typical=(0.15, 0.8), also=("T",)
        ),
        Letter(key="F", meaning="leads to body", view="top", reference="E", typical=(0.05, 1.5), optional=True),
        Letter(key="Q", meaning="leads to hole", view="top", reference="E", typical=(0.5, 4.0), optional=True),
        Letter(key="hole", meaning="hole of the tab", view="top", reference="E", typical=(0.15, 0.6), optional=True),
    ),
    fields=(FamilyField(key="mounting", title="mounted", kind="choice", choices=("standing", LYING)),),
    default_pins=3,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
