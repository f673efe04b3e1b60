"""Packages with terminals on four sides: numbering counter-clockwise from the top of the left side, and the lands."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.plane import Box, Outline, bounds, box_outline, rotated
from eider.geometry.rounding import tidy
from eider.geometry.solids import Prism, Solid, SolidPlacement, Strip
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, LandRecipe, OpposedRows, Terminal, View, ViewDimension, ViewShape
from eider.packages.forms import gullwing
from eider.packages.forms.dual import Numbered

Sides = tuple[tuple[Numbered, ...], ...]


class Across(NamedTuple):
    """What faces what across one axis: the span over the terminals, the body, foot and lead."""

    span: Limits
    body: Limits
    foot: Limits
    lead: Limits


def side_counts(sheet: PackageSheet) -> tuple[int, int]:
    """Terminals on a side along y and on one along x: as the sheet says, or a quarter of all."""
    along_x, along_y = sheet.pins_d, sheet.pins_e
    if along_x is None and along_y is None:
        return sheet.pins // 4, sheet.pins // 4
    if along_x is None:
        along_x = sheet.pins // 2 - (along_y or 0)
    return (along_y if along_y is not None else sheet.pins // 2 - along_x), along_x


def four_sides(sheet: PackageSheet, pitch: float, *, first_at_top: bool = False) -> Sides:
    """Left (falling y), bottom (rising x), right (rising y), top (falling x); missing numbers are left out.

    Places are given in the frame of the left side: each next side is that turned by 90° more. Pin 1 is the first of the
    left side or, as on leaded and leadless carriers, the middle one of the top.
    """
    along_y, along_x = side_counts(sheet)
    before = along_x - (along_x - 1) // 2 if first_at_top else 0
    return number_sides((along_y, along_x, along_y, along_x), pitch, sheet.missing, before)


def number_sides(counts: Sequence[int], pitch: float, missing: Sequence[str] = (), before: int = 0) -> Sides:
    """Sides of so many terminals, left, bottom, right and top, numbered on from `before` + 1; missing are left out."""
    total, sides, index = sum(counts), [], before
    for count in counts:
        places = [Numbered(str((index + i) % total + 1), tidy(((count - 1) / 2 - i) * pitch)) for i in range(count)]
        sides.append(tuple(p for p in places if p.number not in missing))
        index += count
    return tuple(sides)


def turned(box: Box, degrees: float) -> Box:
    """A box turned about the origin by a multiple of 90°."""
    return bounds(rotated(box_outline(box), degrees))


def quad_terminals(sides: Sides, across: tuple[Across, Across], inner: bool = False) -> tuple[Terminal, ...]:
    """Terminals from above; the whole of each reaches to the body, or is its foot where that lies under the body."""
    found = []
    for side, pins in enumerate(sides):
        a = across[side % 2]
        tip, foot, half = a.span.middle / 2, a.foot.middle, a.lead.middle / 2
        edge = tip - foot if inner else a.body.middle / 2
        for number, y in pins:
            boxes = ((-tip, y - half, -tip + foot, y + half), (-tip, y - half, -edge, y + half))
            foot_box, whole = (turned(box, 90.0 * side) for box in boxes)
            found.append(Terminal(number, foot_box, whole))
    return tuple(found)


def lead_places(sides: Sides, axis: int) -> tuple[SolidPlacement, ...]:
    """Where a lead that points to +x stands for the two sides across one axis (0: left and right)."""
    places = []
    for side in (axis, axis + 2):
        # The left side is +x turned by 180°, and each next side 90° further.
        turn = 180.0 + 90.0 * side
        for _, at in sides[side]:
            ((x, y),) = rotated([(0.0, at)], 90.0 * side)
            places.append(SolidPlacement(x=x, y=y, turn=turn % 360))
    return tuple(places)


def quad_rows(
    sides: Sides, across: tuple[Across, Across], pitch: float, goals: str, measures: dict[str, float]
) -> tuple[OpposedRows, ...]:
    """The two pairs of sides for the solder-joint equations."""
    rows = []
    for side, a in enumerate(across):
        near, far = sides[side], sides[side + 2]
        if not near and not far:
            continue
        # Left: falling y, right: rising y; bottom: rising x, top: falling x. The first row of the y pair is the top.
        first, second = (near, far) if side == 0 else (far, near)
        rows.append(
            OpposedRows(
                group=f"row {side + 1} and row {side + 3}",
                axis="x" if side == 0 else "y",
                length=a.span,
                foot=a.foot,
                width=a.lead,
                first=tuple(n for n, _ in first),
                second=tuple(n for n, _ in second),
                at_first=np.array([at for _, at in first]),
                at_second=-np.array([at for _, at in second]),
                goals=goals,
                measures=measures,
                pitch=pitch,
            )
        )
    return tuple(rows)


def terminal_prisms(sides: Sides, across: tuple[Across, Across], thick: float) -> tuple[Solid, ...]:
    """Flat terminals of all sides as prisms from the board up."""
    solids = []
    for axis, (a, name) in enumerate(zip(across, ("terminal across D", "terminal across E"), strict=True)):
        places = lead_places(sides, axis)
        if places:
            tip, half = a.span.middle / 2, a.lead.middle / 2
            outline = box_outline((tip - a.foot.middle, -half, tip, half))
            solids.append(Solid(name, "tin", Prism(outline, 0.0, thick), places))
    return tuple(solids)


def quad_pin_fault(pins: int) -> str:
    """Why a number of pins cannot stand on four sides; empty where it can."""
    return "" if pins >= 8 and pins % 2 == 0 else "four sides need an even number of pins, 8 or more"


def body_boxes(dims: Dims, across: str, along: str) -> tuple[Box, Box]:
    """The body at nominal size and at its largest, about the origin."""
    x, y = dims[across], dims[along]
    nominal, largest = ((x.middle / 2, y.middle / 2), (x.upper / 2, y.upper / 2))
    return (-nominal[0], -nominal[1], *nominal), (-largest[0], -largest[1], *largest)


def opposite(dims: Dims) -> tuple[Across, Across]:
    """The leads of a body D1 by E1: the span D across x, E across y."""
    return Across(dims["D"], dims["D1"], dims["L"], dims["b"]), Across(dims["E"], dims["E1"], dims["L"], dims["b"])


def leaded_top_view(
    sheet: PackageSheet,
    dims: Dims,
    terminals: tuple[Terminal, ...],
    mark: gullwing.CornerMark,
    *,
    leads_over: bool = False,
) -> View:
    """Leads on four sides of a body from above, with its lengths; `leads_over` where they turn in under the body."""
    nominal, _ = body_boxes(dims, "D1", "E1")
    _, y0, x1, y1 = nominal
    tip_x, tip_y, pitch, lead = dims["D"].middle / 2, dims["E"].middle / 2, dims["e"].middle, dims["b"].middle
    along_y, along_x = side_counts(sheet)
    first, first_x = (along_y - 1) / 2 * pitch, (along_x - 1) / 2 * pitch
    leads = tuple(ViewShape("terminal", box_outline(t.whole)) for t in terminals)
    body = ViewShape("body", box_outline(nominal))
    return View(
        "top",
        (*((body, *leads) if leads_over else (*leads, body)), ViewShape("mark", mark.outline())),
        (
            ViewDimension("D1", (-x1, y1), (x1, y1), "top"),
            ViewDimension("D", (-tip_x, first), (tip_x, first), "top", 2),
            ViewDimension("E1", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("E", (first_x, -tip_y), (first_x, tip_y), "right", 3),
            ViewDimension("e", (-tip_x, first - pitch), (-tip_x, first), "left"),
            ViewDimension("b", (tip_x, -first - lead / 2), (tip_x, -first + lead / 2), "right"),
        ),
    )


def leaded_side_view(dims: Dims, profile: Outline) -> View:
    """The same from the side: the right lead's profile and its mirror image, with the lengths."""
    (x0, _, x1, _), _ = body_boxes(dims, "D1", "E1")
    tip, height, stand_off = dims["D"].middle / 2, dims["A"].upper, dims["A1"].middle
    return View(
        "side",
        (
            ViewShape("terminal", profile),
            ViewShape("terminal", tuple((-x, z) for x, z in profile)),
            ViewShape("body", box_outline((x0, stand_off, x1, height))),
        ),
        (
            ViewDimension("A", (x0, 0), (x0, height), "left", 2),
            ViewDimension("A1", (x0, 0), (x0, stand_off), "left"),
            ViewDimension("L", (tip - dims["L"].middle, 0), (tip, 0), "bottom"),
            ViewDimension("c", (tip, 0), (tip, dims["c"].middle), "right"),
        ),
    )


def leaded_solids(
    dims: Dims, sides: Sides, mark: gullwing.CornerMark, lead: Callable[[Dims, Limits, Limits], Strip]
) -> tuple[Solid, ...]:
    """The marked body, and leads, which span and body of an axis give, on four sides."""
    body, _ = body_boxes(dims, "D1", "E1")
    solids = [*gullwing.marked_body(dims, body, mark)]
    for axis, (across, name) in enumerate(zip(opposite(dims), ("lead across D", "lead across E"), strict=True)):
        strip = lead(dims, across.span, across.body)
        solids.append(Solid(name, "tin", strip, lead_places(sides, axis)))
    return tuple(solids)


def leaded_recipe(dims: Dims, sides: Sides, goals: str) -> LandRecipe:
    """Lands of leads on four sides, with the mark at pin 1."""
    pitch = dims["e"].middle
    body, body_max = body_boxes(dims, "D1", "E1")
    rows = quad_rows(sides, opposite(dims), pitch, goals, {"pitch": pitch})
    return LandRecipe(rows=rows, body=body, body_max=body_max, first_pin="1")
