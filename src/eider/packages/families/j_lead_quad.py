"""Four rows of J-leads, pin 1 in the middle of the top: PLCC."""

from collections.abc import Iterator

from eider.geometry.shapes import box_outline
from eider.geometry.solids import Solid, Strip
from eider.model.sheet import PackageSheet
from eider.packages import gullwing, jlead
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    SheetField,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.names import hundredths
from eider.packages.quad import (
    Across,
    Sides,
    body_boxes,
    four_sides,
    lead_places,
    quad_pin_fault,
    quad_rows,
    quad_terminals,
    side_counts,
)
from eider.packages.rules import feet_apart, larger, leads_fit


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = side_counts(sheet)
    for span, body, count in (("D", "D1", along_x), ("E", "E1", along_y)):
        yield from larger(dims, span, body, "the leads stand outside the body")
        yield from feet_apart(dims, span, "L")
        yield from leads_fit(dims, body, count)
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")


def _across(dims: Dims) -> tuple[Across, Across]:
    return Across(dims["D"], dims["D1"], dims["L"], dims["b"]), Across(dims["E"], dims["E1"], dims["L"], dims["b"])


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    return four_sides(sheet, dims["e"].middle, first_at_top=True)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return quad_terminals(_sides(sheet, dims), _across(dims), inner=True)


def _mark(dims: Dims) -> gullwing.Mark:
    """On the body before pin 1, in the middle of the top."""
    size = min(0.1 * dims["E1"].middle, 1.2)
    return gullwing.Mark(0.0, dims["E1"].middle / 2 - 1.2 * size, size / 2)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body, _ = body_boxes(dims, "D1", "E1")
    x0, y0, x1, y1 = body
    tip_x, tip_y, pitch, lead = dims["D"].middle / 2, dims["E"].middle / 2, dims["e"].middle, dims["b"].middle
    along_y, along_x = side_counts(sheet)
    first, first_x = (along_y - 1) / 2 * pitch, (along_x - 1) / 2 * pitch
    leads = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims))
    top = View(
        "top",
        (ViewShape("body", box_outline(body)), *leads, ViewShape("mark", _mark(dims).outline())),
        (
            ViewDimension("D1", (x0, y1), (x1, y1), "top"),
            ViewDimension("D", (-tip_x, first), (tip_x, first), "top", 2),
            ViewDimension("E1", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("E", (first_x, -tip_y), (first_x, tip_y), "right", 3),
            ViewDimension("e", (-tip_x, first - pitch), (-tip_x, first), "left"),
            ViewDimension("b", (tip_x, -first - lead / 2), (tip_x, -first + lead / 2), "right"),
        ),
    )
    height, stand_off, foot = dims["A"].upper, dims["A1"].middle, dims["L"].middle
    profile = jlead.profile(dims, dims["D"], dims["D1"])
    side = View(
        "side",
        (
            ViewShape("terminal", profile),
            ViewShape("terminal", tuple((-x, z) for x, z in profile)),
            ViewShape("body", box_outline((x0, stand_off, x1, height))),
        ),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left", 2),
            ViewDimension("A1", (x0, 0), (x0, stand_off), "left"),
            ViewDimension("L", (tip_x - foot, 0), (tip_x, 0), "bottom"),
            ViewDimension("c", (tip_x, 0), (tip_x, dims["c"].middle), "right"),
        ),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = body_boxes(dims, "D1", "E1")
    sides = _sides(sheet, dims)
    solids = [*gullwing.marked_body(dims, body, _mark(dims))]
    for axis, (across, name) in enumerate(zip(_across(dims), ("lead across D", "lead across E"), strict=True)):
        strip = Strip(jlead.profile(dims, across.span, across.body), dims["b"].middle)
        solids.append(Solid(name, "tin", strip, lead_places(sides, axis)))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D1", "E1")
    rows = quad_rows(_sides(sheet, dims), _across(dims), pitch, "j-lead", {"pitch": pitch})
    return LandRecipe(rows=rows, body=body, body_max=body_max, first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: PLCC, pitch, both nominal spans, maximum height, pins."""
    spans = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}"
    pins = sheet.pins - len(sheet.missing)
    return f"PLCC{hundredths(dims['e'].middle)}P{spans}X{hundredths(dims['A'].upper)}-{pins}"


FAMILY = Family(
    key="j-lead-quad",
    title="Quad J-lead",
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
        SheetField(key="pins_d", title="pins at the top", kind="count"),
        SheetField(key="pins_e", title="pins at the left", kind="count"),
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
