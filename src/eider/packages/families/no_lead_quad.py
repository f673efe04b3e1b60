"""Four sides of flat terminals under the edge of the body, with or without a thermal pad: QFN and its like."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.plane import box_outline
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
    ViewDimension,
    ViewShape,
)
from eider.packages.forms import gullwing, noleads, thermal_pad
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import (
    Across,
    body_boxes,
    four_sides,
    quad_pin_fault,
    quad_rows,
    quad_terminals,
    side_counts,
    terminal_prisms,
)
from eider.packages.plausibility import clear_of_thermal, feet_apart, inside, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = side_counts(sheet)
    for body, count, pad in (("D", along_x, "D2"), ("E", along_y, "E2")):
        yield from feet_apart(dims, body, "L")
        yield from leads_fit(dims, body, count)
        yield from inside(dims, pad, body, "the thermal pad lies under the body")
        yield from clear_of_thermal(dims, body, pad)
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")


def _across(dims: Dims) -> tuple[Across, Across]:
    back = 2 * noleads.pull_back(dims)
    d, e = dims["D"].less(back), dims["E"].less(back)
    return Across(d, dims["D"], dims["L"], dims["b"]), Across(e, dims["E"], dims["L"], dims["b"])


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return (*_perimeter(sheet, dims), *thermal_pad.terminals(sheet, dims))


def _perimeter(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return quad_terminals(four_sides(sheet, dims["e"].middle), _across(dims), inner=True)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body, _ = body_boxes(dims, "D", "E")
    x0, y0, x1, y1 = body
    along_y, _ = side_counts(sheet)
    pitch, lead, foot = dims["e"].middle, dims["b"].middle, dims["L"].middle
    first = (along_y - 1) / 2 * pitch
    back = noleads.pull_back(dims)
    terminals = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _perimeter(sheet, dims))
    top = View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *terminals,
            *thermal_pad.shapes(dims),
            ViewShape("mark", gullwing.corner_mark(body, 0.06, 0.4).outline()),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("e", (x0 + back, first - pitch), (x0 + back, first), "left"),
            ViewDimension("b", (x1 - back, -first - lead / 2), (x1 - back, -first + lead / 2), "right"),
            ViewDimension("L", (x0 + back, -first), (x0 + back + foot, -first), "bottom"),
            *thermal_pad.dimensions(dims, 2),
            *noleads.pull_back_dimension(dims, x1, -first),
        ),
    )
    return top, noleads.side(dims, body)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = body_boxes(dims, "D", "E")
    terminals = terminal_prisms(four_sides(sheet, dims["e"].middle), _across(dims), dims["c"].middle)
    return (
        *gullwing.marked_body(dims, body, gullwing.corner_mark(body, 0.06, 0.4), is_sawn=True),
        *terminals,
        *thermal_pad.solids(dims),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D", "E")
    goals = noleads.goals(dims)
    rows = tuple(
        replace(row, remarks=noleads.remarks(sheet))
        for row in quad_rows(four_sides(sheet, pitch), _across(dims), pitch, goals, {"pitch": pitch})
    )
    return LandRecipe(rows=rows, plates=thermal_pad.plates(sheet, dims), body=body, body_max=body_max, first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: QFN, pitch, both sides, maximum height, pins with the thermal pad."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"QFN{hundredths(dims['e'].middle)}P{size}-{thermal_pad.count(sheet, dims)}"


FAMILY = Family(
    key="no-lead-quad",
    title="Quad no-lead",
    group="No leads",
    summary="QFN, with thermal pad",
    letters=(
        Letter(key="D", meaning="body width", view="top", also=("A", "W")),
        Letter(key="E", meaning="body length", view="top", reference="D", typical=(0.3, 3.0), also=("B",)),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.02, 0.35), also=("P", "p")),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.25, 0.8), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="D", typical=(0.02, 0.3), also=("L1", "K")),
        *noleads.letters(),
    ),
    fields=(
        FamilyField(key="pins_d", title="pins at the top", kind="count"),
        FamilyField(key="pins_e", title="pins at the left", kind="count"),
        noleads.WETTABLE_FIELD,
    ),
    default_pins=24,
    pin_fault=quad_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
