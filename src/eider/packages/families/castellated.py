"""Leadless carriers, oscillators and modules whose terminals run up the edges in half holes."""

from collections.abc import Iterator

import msgspec

from eider.geometry.shapes import box_outline
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages import dual, gullwing
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
from eider.packages.name_codes import hundredths
from eider.packages.plausibility import feet_apart, larger, leads_fit
from eider.packages.quad import (
    Across,
    Sides,
    body_boxes,
    four_sides,
    quad_rows,
    quad_terminals,
    side_counts,
    terminal_prisms,
)

CARRIER, OSCILLATOR = "carrier", "oscillator"
# Leadless carriers on four sides begin at this many pins, where the sheet does not say how many stand on each side.
QUAD_FROM = 16


def _pin_fault(pins: int) -> str:
    return "" if pins >= 4 and pins % 2 == 0 else "terminals on opposing sides need an even number of pins, 4 or more"


def _counts(sheet: PackageSheet) -> tuple[int, int]:
    """Terminals on a side along y and on one along x; few stand on two sides only."""
    if sheet.pins_d is None and sheet.pins_e is None and (sheet.pins < QUAD_FROM or sheet.pins % 4):
        return sheet.pins // 2, 0
    return side_counts(sheet)


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = _counts(sheet)
    yield from feet_apart(dims, "D", "L")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from leads_fit(dims, "E", along_y)
    if along_x:
        yield from leads_fit(dims, "D", along_x)


def _first_in_middle(sheet: PackageSheet) -> bool:
    """Leadless carriers on four sides have pin 1 in the middle of the top, modules in the upper left corner."""
    return bool(_counts(sheet)[1]) and sheet.kind == CARRIER


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    along_y, along_x = _counts(sheet)
    placed = msgspec.structs.replace(sheet, pins_d=along_x, pins_e=along_y)
    return four_sides(placed, dims["e"].middle, first_at_top=_first_in_middle(sheet))


def _across(dims: Dims) -> tuple[Across, Across]:
    return Across(dims["D"], dims["D"], dims["L"], dims["b"]), Across(dims["E"], dims["E"], dims["L"], dims["b"])


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    found = quad_terminals(_sides(sheet, dims), _across(dims), inner=True)
    return tuple(sorted(found, key=lambda t: int(t.number)))


def _mark(sheet: PackageSheet, dims: Dims) -> gullwing.CornerMark:
    body, _ = body_boxes(dims, "D", "E")
    if _first_in_middle(sheet):
        size = 0.06 * dims["E"].middle
        return gullwing.CornerMark(0.0, dims["E"].middle / 2 - dims["L"].middle - 1.5 * size, size / 2)
    return gullwing.corner_mark(body, 0.1, 0.6)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body, _ = body_boxes(dims, "D", "E")
    x0, y0, x1, y1 = body
    along_y, _ = _counts(sheet)
    pitch, lead, foot, height = dims["e"].middle, dims["b"].middle, dims["L"].middle, dims["A"].upper
    first = (along_y - 1) / 2 * pitch
    terminals = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims))
    top = View(
        "top",
        (ViewShape("body", box_outline(body)), *terminals, ViewShape("mark", _mark(sheet, dims).outline())),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("e", (x0, first - pitch), (x0, first), "left"),
            ViewDimension("b", (x1, -first - lead / 2), (x1, -first + lead / 2), "right"),
            ViewDimension("L", (x0, -first), (x0 + foot, -first), "bottom"),
        ),
    )
    ends = ((x0, x0 + 0.06 * (x1 - x0)), (x1 - 0.06 * (x1 - x0), x1))
    side = View(
        "side",
        (
            ViewShape("body", box_outline((x0, 0.0, x1, height))),
            *(ViewShape("terminal", box_outline((a, 0.0, b, 0.8 * height))) for a, b in ends),
        ),
        (ViewDimension("A", (x1, 0), (x1, height), "right"),),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = body_boxes(dims, "D", "E")
    height = dims["A"].upper
    inset = 0.02
    x0, y0, x1, y1 = body
    block = dual.block("body", "ceramic black", (x0 + inset, y0 + inset, x1 - inset, y1 - inset), 0.01, height)
    mark = _mark(sheet, dims)
    dot = Solid("pin 1 mark", "marking", Prism(mark.outline(), height, height + 0.01))
    return block, dot, *terminal_prisms(_sides(sheet, dims), _across(dims), 0.6 * height)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D", "E")
    goals = "concave-oscillator" if sheet.kind == OSCILLATOR else "castellated"
    rows = quad_rows(_sides(sheet, dims), _across(dims), pitch, goals, {"pitch": pitch})
    return LandRecipe(rows=rows, body=body, body_max=body_max, first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: LCC with pitch, sides, height and pins; OSCCC with sides and height."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    if sheet.kind == OSCILLATOR:
        return f"OSCCC{size}"
    return f"LCC{hundredths(dims['e'].middle)}P{size}-{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="castellated",
    title="Castellated",
    summary="LCC, oscillators, modules with half holes",
    letters=(
        Letter(key="D", meaning="body across", view="top", also=("A", "L")),
        Letter(key="E", meaning="body along", view="top", reference="D", typical=(0.2, 4.0), also=("B", "W")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.02, 0.9), also=("P",)),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.1, 0.9), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="D", typical=(0.02, 0.45), also=("L1", "K")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.05, 1.0), also=("H", "T")),
    ),
    fields=(
        FamilyField(key="pins_d", title="pins at the top", kind="count"),
        FamilyField(key="pins_e", title="pins at the left", kind="count"),
    ),
    kinds=(CARRIER, OSCILLATOR),
    default_pins=4,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
