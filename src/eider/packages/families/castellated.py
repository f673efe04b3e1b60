"""Leadless carriers, oscillators and modules whose terminals run up the edges in half holes."""

from collections.abc import Iterator

import msgspec

from eider.geometry.plane import Point, box_outline
from eider.geometry.rounding import tidy
from eider.geometry.solids import Prism, Solid
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
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import (
    Across,
    Sides,
    body_boxes,
    four_sides,
    number_sides,
    quad_rows,
    quad_terminals,
    side_counts,
    terminal_prisms,
)
from eider.packages.plausibility import feet_apart, larger, leads_fit

CARRIER, OSCILLATOR, CRYSTAL = "carrier", "oscillator", "crystal"
# Kinds with the joints of concave oscillators, and what their names begin with.
CONCAVE = {OSCILLATOR: "OSCCC", CRYSTAL: "XTAL"}
THREE_SIDES = "three_sides"
# Leadless carriers on four sides begin at this many pins, where the sheet does not say how many stand on each side.
QUAD_FROM = 16


def _pin_fault(pins: int) -> str:
    return "" if pins >= 3 else "half holes on two sides or more are 3 pins or more"


def _counts(sheet: PackageSheet) -> tuple[int, int]:
    """Terminals on a side along y and on one along x; few stand on two sides only, on three none at the top."""
    if _on_three_sides(sheet):
        along_y = sheet.pins_e if sheet.pins_e is not None else (sheet.pins - (sheet.pins_d or sheet.pins // 3)) // 2
        return along_y, sheet.pins_d if sheet.pins_d is not None else max(sheet.pins - 2 * along_y, 0)
    if sheet.pins_d is None and sheet.pins_e is None and (sheet.pins < QUAD_FROM or sheet.pins % 4):
        return sheet.pins // 2, 0
    return side_counts(sheet)


def _on_three_sides(sheet: PackageSheet) -> bool:
    return sheet.option(THREE_SIDES) is True


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    along_y, along_x = _counts(sheet)
    yield from feet_apart(dims, "D", "L")
    yield from feet_apart(dims, "D", "L1")
    yield from larger(dims, "e", "b", "neighbouring terminals would touch")
    yield from leads_fit(dims, "E", along_y)
    if along_x:
        yield from leads_fit(dims, "D", along_x)
    yield from _rows_on_body(sheet, dims)


def _rows_on_body(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    """Rows that begin at a distance from a corner end before the next one."""
    for start, body, count in zip(("s", "t"), ("E", "D"), _counts(sheet), strict=True):
        if start in dims and count:
            end = dims[start].middle + (count - 1) * dims["e"].middle + dims["b"].middle / 2
            if end > dims[body].upper:
                message = f"the row that begins {start} from the edge reaches beyond the body {body}"
                yield Implausible((start, body), message, f"{end:g} mm", f"≤ {dims[body].upper:g} mm")


def _first_in_middle(sheet: PackageSheet) -> bool:
    """Leadless carriers on four sides have pin 1 in the middle of the top, modules in the upper left corner."""
    return bool(_counts(sheet)[1]) and sheet.kind == CARRIER and not _on_three_sides(sheet)


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    along_y, along_x = _counts(sheet)
    if _on_three_sides(sheet):
        sides = number_sides((along_y, along_x, along_y, 0), dims["e"].middle, sheet.missing)
    else:
        placed = msgspec.structs.replace(sheet, pins_d=along_x, pins_e=along_y)
        sides = four_sides(placed, dims["e"].middle, first_at_top=_first_in_middle(sheet))
    return _moved(sides, _first_places(sheet, dims))


def _first_places(sheet: PackageSheet, dims: Dims) -> tuple[float, float]:
    """By how much the rows at the left and right are above the middle of their side, and the others left of it (mm).

    The sheet says it by the distance of the first terminal from the upper edge (`s`) or the left edge (`t`).
    """
    along_y, along_x = _counts(sheet)
    pitch = dims["e"].middle
    up = dims["E"].middle / 2 - dims["s"].middle - (along_y - 1) / 2 * pitch if "s" in dims else 0.0
    left = dims["D"].middle / 2 - dims["t"].middle - (along_x - 1) / 2 * pitch if "t" in dims else 0.0
    return tidy(up), tidy(left)


def _moved(sides: Sides, by: tuple[float, float]) -> Sides:
    """The sides with their rows moved up and to the left; places are in the frame of each side."""
    up, left = by
    # In the frame of its side, which is turned with it, up is along the left side and against the right one.
    shifts = (up, left, -up, -left)
    return tuple(
        tuple(place._replace(at=tidy(place.at + shift)) for place in side)
        for side, shift in zip(sides, shifts, strict=True)
    )


def _across(dims: Dims) -> tuple[Across, Across]:
    return Across(dims["D"], dims["D"], dims["L"], dims["b"]), Across(dims["E"], dims["E"], dims["L"], dims["b"])


def _parts(sheet: PackageSheet, dims: Dims) -> tuple[tuple[str, Sides, tuple[Across, Across]], ...]:
    """Terminals that are alike, with what their lands and solids are called: pin 1 by itself where it is longer."""
    sides, across = _sides(sheet, dims), _across(dims)
    if "L1" not in dims:
        return (("", sides, across),)
    alone, others = (
        tuple(tuple(p for p in side if (p.number == "1") == is_first) for side in sides) for is_first in (True, False)
    )
    x, y = (a._replace(foot=dims["L1"]) for a in across)
    return ("pin 1", alone, (x, y)), ("", others, across)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    found = [t for _, sides, across in _parts(sheet, dims) for t in quad_terminals(sides, across, inner=True)]
    return tuple(sorted(found, key=lambda t: int(t.number)))


def _mark(sheet: PackageSheet, dims: Dims) -> gullwing.CornerMark:
    body, _ = body_boxes(dims, "D", "E")
    if _first_in_middle(sheet):
        size = 0.06 * dims["E"].middle
        foot = dims["L1"] if "L1" in dims else dims["L"]
        return gullwing.CornerMark(0.0, dims["E"].middle / 2 - foot.middle - 1.5 * size, size / 2)
    return gullwing.corner_mark(body, 0.1, 0.6)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    body, _ = body_boxes(dims, "D", "E")
    x0, y0, x1, y1 = body
    along_y, _ = _counts(sheet)
    pitch, lead, foot, height = dims["e"].middle, dims["b"].middle, dims["L"].middle, dims["A"].upper
    first, last = ((along_y - 1) / 2 * sign * pitch + _first_places(sheet, dims)[0] for sign in (1, -1))
    terminals = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims))
    top = View(
        "top",
        (ViewShape("body", box_outline(body)), *terminals, ViewShape("mark", _mark(sheet, dims).outline())),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("e", (x0, first - pitch), (x0, first), "left"),
            ViewDimension("b", (x1, last - lead / 2), (x1, last + lead / 2), "right"),
            ViewDimension("L", (x0, last), (x0 + foot, last), "bottom"),
            *_start_dimensions(dims, (x0, y1)),
            *_first_dimension(sheet, dims),
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


def _start_dimensions(dims: Dims, corner: Point) -> Iterator[ViewDimension]:
    """How far from the corner the rows begin, where the sheet says it."""
    x0, y1 = corner
    if "s" in dims:
        yield ViewDimension("s", (x0, y1 - dims["s"].middle), (x0, y1), "left", 2)
    if "t" in dims:
        bottom = -dims["E"].middle / 2
        yield ViewDimension("t", (x0, bottom), (x0 + dims["t"].middle, bottom), "bottom", 2)


def _first_dimension(sheet: PackageSheet, dims: Dims) -> Iterator[ViewDimension]:
    """The length of pin 1, where it has one of its own."""
    if "L1" not in dims:
        return
    x0, y0, x1, y1 = next(t.whole for t in _terminals(sheet, dims) if t.number == "1")
    if _first_in_middle(sheet):
        yield ViewDimension("L1", (x0, y0), (x0, y1), "left", 2)
    else:
        yield ViewDimension("L1", (x0, y1), (x1, y1), "top", 2)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = body_boxes(dims, "D", "E")
    height = dims["A"].upper
    # The body stays inside of its terminals; where none stand it reaches its own edge.
    inset = 0.02
    above = 0.0 if _on_three_sides(sheet) else inset
    x0, y0, x1, y1 = body
    block = dual.block("body", "ceramic black", (x0 + inset, y0 + inset, x1 - inset, y1 - above), 0.01, height)
    mark = _mark(sheet, dims)
    dot = Solid("pin 1 mark", "marking", Prism(mark.outline(), height, height + 0.01))
    terminals = [
        msgspec.structs.replace(solid, name=f"{title} {solid.name}".strip())
        for title, sides, across in _parts(sheet, dims)
        for solid in terminal_prisms(sides, across, 0.6 * height)
    ]
    return block, dot, *terminals


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D", "E")
    goals = "concave-oscillator" if sheet.kind in CONCAVE else "castellated"
    rows = tuple(
        msgspec.structs.replace(row, group=title or row.group)
        for title, sides, across in _parts(sheet, dims)
        for row in quad_rows(sides, across, pitch, goals, {"pitch": pitch})
    )
    return LandRecipe(rows=rows, body=body, body_max=body_max, first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: LCC with pitch, sides, height and pins; OSCCC and XTAL with sides and height."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    if sheet.kind in CONCAVE:
        return f"{CONCAVE[sheet.kind]}{size}"
    return f"LCC{hundredths(dims['e'].middle)}P{size}-{sheet.pins - len(sheet.missing)}"


FAMILY = Family(
    key="castellated",
    title="Castellated",
    group="No leads",
    summary="LCC, oscillators, modules with half holes",
    letters=(
        Letter(key="D", meaning="body across", view="top", also=("A", "L")),
        Letter(key="E", meaning="body along", view="top", reference="D", typical=(0.2, 4.0), also=("B", "W")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.02, 0.9), also=("P",)),
        Letter(key="b", meaning="terminal width", view="top", reference="e", typical=(0.1, 0.9), also=("B", "W")),
        Letter(key="L", meaning="terminal length", view="top", reference="D", typical=(0.02, 0.45), also=("K",)),
        Letter(
            key="L1",
            meaning="terminal length of pin 1",
            view="top",
            reference="L",
            typical=(1.0, 3.0),
            optional=True,
            by_name=True,
        ),
        Letter(
            key="s",
            meaning="upper edge to the first terminal",
            view="top",
            reference="E",
            typical=(0.01, 0.8),
            optional=True,
            by_name=True,
        ),
        Letter(
            key="t",
            meaning="left edge to the first terminal",
            view="top",
            reference="D",
            typical=(0.01, 0.8),
            optional=True,
            by_name=True,
        ),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.05, 1.0), also=("H", "T")),
    ),
    fields=(
        FamilyField(key="pins_d", title="pins at the top", kind="count"),
        FamilyField(key="pins_e", title="pins at the left", kind="count"),
        FamilyField(key=THREE_SIDES, title="three sides", kind="flag", help="no terminals at the top"),
    ),
    kinds=(CARRIER, OSCILLATOR, CRYSTAL),
    default_pins=4,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
