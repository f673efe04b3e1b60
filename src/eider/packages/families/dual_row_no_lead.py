"""Four sides of flat terminals in two rows each, the inner one staggered or in line: dual-row QFN."""

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
    SheetError,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.forms import gullwing, noleads, thermal_pad
from eider.packages.forms.dual import Numbered
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import Across, Sides, body_boxes, quad_rows, quad_terminals, terminal_prisms
from eider.packages.plausibility import feet_apart, inside, larger, leads_fit

# Rows by the letter with which their numbers begin, the outer one first.
OUTER, INNER = "A", "B"
INNER_PINS = "inner_pins"


def _pin_fault(pins: int) -> str:
    return "" if pins >= 16 and pins % 4 == 0 else "two rows on four sides are a multiple of 4 pins, 16 or more"


def _counts(sheet: PackageSheet) -> tuple[int, int]:
    """Terminals of the outer and the inner row on each side; the inner row has one less where nothing is said."""
    total, inner = sheet.pins // 4, sheet.option(INNER_PINS)
    if isinstance(inner, int) and inner:
        if inner % 4 or inner // 4 >= total:
            raise SheetError(
                f"{inner} inner pins are not alike on four sides or leave no outer row; correct them", INNER_PINS
            )
        return total - inner // 4, inner // 4
    if total % 2 == 0:
        raise SheetError(
            f"{sheet.pins} pins are not an outer row and an inner one with one less on each side; enter the inner pins",
            INNER_PINS,
        )
    return (total + 1) // 2, total // 2


def _sides(count: int, pitch: float, letter: str, missing: tuple[str, ...]) -> Sides:
    """Left, bottom, right and top, numbered counter-clockwise with the letter of their row."""
    numbered = (
        [Numbered(f"{letter}{side * count + i + 1}", ((count - 1) / 2 - i) * pitch) for i in range(count)]
        for side in range(4)
    )
    return tuple(tuple(p for p in side if p.number not in missing) for side in numbered)


def _rows(sheet: PackageSheet, dims: Dims) -> tuple[tuple[str, Sides, tuple[Across, Across]], ...]:
    """The outer and the inner row: what it is called, its terminals, and the lengths across both axes."""
    outer, inner = _counts(sheet)
    pitch, lead, foot = dims["e"].middle, dims["b"], dims["L"]
    found = []
    for title, letter, count, row_foot in (
        ("outer row", OUTER, outer, foot),
        ("inner row", INNER, inner, dims["L2" if "L2" in dims else "L"]),
    ):
        back = 2 * (noleads.pull_back(dims) if letter == OUTER else dims["eR"].middle)
        d, e = (dims[body].less(back) for body in ("D", "E"))
        across = Across(d, dims["D"], row_foot, lead), Across(e, dims["E"], row_foot, lead)
        found.append((title, _sides(count, pitch, letter, sheet.missing), across))
    return tuple(found)


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    outer, _ = _counts(sheet)
    for body, pad in (("D", "D2"), ("E", "E2")):
        yield from feet_apart(dims, body, "L")
        yield from leads_fit(dims, body, outer)
        yield from inside(dims, pad, body, "the thermal pad lies under the body")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from larger(dims, "eR", "L", "the inner row begins where the outer one has ended")


def _perimeter(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    rows = _rows(sheet, dims)
    return tuple(t for _, sides, across in rows for t in quad_terminals(sides, across, inner=True))


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return (*_perimeter(sheet, dims), *thermal_pad.terminals(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body, _ = body_boxes(dims, "D", "E")
    x0, y0, x1, y1 = body
    (_, outer, _), (_, inner, _) = _rows(sheet, dims)
    pitch, lead, foot, row = dims["e"].middle, dims["b"].middle, dims["L"].middle, dims["eR"].middle
    first, back = outer[0][0].at, noleads.pull_back(dims)
    inner_at = inner[0][-1].at
    top = View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", box_outline(t.whole)) for t in _perimeter(sheet, dims)),
            *thermal_pad.shapes(dims),
            ViewShape("mark", gullwing.corner_mark(body, 0.06, 0.4).outline()),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("e", (x0 + back, first - pitch), (x0 + back, first), "left"),
            ViewDimension("b", (x1 - back, -first - lead / 2), (x1 - back, -first + lead / 2), "right"),
            ViewDimension("L", (x0 + back, -first), (x0 + back + foot, -first), "bottom"),
            ViewDimension("eR", (x0, inner_at), (x0 + row, inner_at), "bottom", 2),
            *thermal_pad.dimensions(dims, 3),
            *noleads.pull_back_dimension(dims, x1, -first),
        ),
    )
    return top, noleads.side(dims, body)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = body_boxes(dims, "D", "E")
    terminals = (
        replace(solid, name=f"{title} {solid.name}")
        for title, sides, across in _rows(sheet, dims)
        for solid in terminal_prisms(sides, across, dims["c"].middle)
    )
    mark = gullwing.corner_mark(body, 0.06, 0.4)
    return (*gullwing.marked_body(dims, body, mark, is_sawn=True), *terminals, *thermal_pad.solids(dims))


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D", "E")
    rows = tuple(
        replace(row, group=f"{title}: {row.group}", ring=ring, remarks=noleads.remarks(sheet) if ring == 0 else ())
        for ring, (title, sides, across) in enumerate(_rows(sheet, dims))
        for row in quad_rows(
            sides,
            across,
            pitch,
            # Nothing of an inner terminal can be seen or wetted at its end.
            noleads.goals(dims) if title == "outer row" else "no-lead-pulled-back",
            {"pitch": pitch},
        )
    )
    return LandRecipe(rows=rows, plates=thermal_pad.plates(sheet, dims), body=body, body_max=body_max, first_pin="A1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """As a QFN's, with the rows: pitch, both sides, maximum height, pins with the thermal pad."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"QFN2R{hundredths(dims['e'].middle)}P{size}-{thermal_pad.count(sheet, dims)}"


FAMILY = Family(
    key="dual-row-no-lead",
    title="Dual-row no-lead",
    group="No leads",
    summary="QFN with two rows on each side",
    letters=(
        Letter(key="D", meaning="body width", view="top", also=("A", "W")),
        Letter(key="E", meaning="body length", view="top", reference="D", typical=(0.3, 3.0), also=("B",)),
        Letter(key="e", meaning="pitch of a row", view="top", reference="D", typical=(0.02, 0.3), also=("P", "eT")),
        Letter(key="eR", meaning="body edge to the tips of the inner row", view="top", reference="D",
               typical=(0.03, 0.3), also=("R", "S")),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.2, 0.8), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="D", typical=(0.02, 0.2), also=("L1", "K")),
        Letter(key="L2", meaning="terminal length of the inner row", view="top", reference="L", typical=(0.4, 2.5),
               optional=True, by_name=True),
        *noleads.letters(),
    ),
    fields=(
        FamilyField(key=INNER_PINS, title="pins of the inner rows", kind="count",
                    help="All four sides together; one less a side than the outer row where nothing is said."),
        noleads.WETTABLE_FIELD,
    ),
    default_pins=44,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
