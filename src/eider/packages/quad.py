"""Packages with terminals on four sides: numbering counter-clockwise from the top of the left side, and the lands."""

from typing import NamedTuple

import numpy as np

from eider.geometry.limits import Limits
from eider.geometry.rounding import tidy
from eider.geometry.shapes import Box, bounds, box_outline, rotated
from eider.geometry.solids import Placement, Prism, Solid
from eider.model.sheet import PackageSheet
from eider.packages.dual import Numbered
from eider.packages.family import Dims, OpposedRows, Terminal

Sides = tuple[tuple[Numbered, ...], ...]


class Across(NamedTuple):
    """What faces what across one axis: the span over the terminals, the body, foot and lead."""

    span: Limits
    body: Limits
    foot: Limits
    lead: Limits


def side_counts(sheet: PackageSheet) -> tuple[int, int]:
    """Terminals on a side along y and on one along x: as the sheet says, or a quarter of all."""
    along_x = sheet.pins_d if sheet.pins_d is not None else None
    along_y = sheet.pins_e if sheet.pins_e is not None else None
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
    total = 2 * (along_x + along_y)
    before = along_x - (along_x - 1) // 2 if first_at_top else 0
    sides, index = [], before
    for count in (along_y, along_x, along_y, along_x):
        places = [Numbered(str((index + i) % total + 1), tidy(((count - 1) / 2 - i) * pitch)) for i in range(count)]
        sides.append(tuple(p for p in places if p.number not in sheet.missing))
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


def lead_places(sides: Sides, axis: int) -> tuple[Placement, ...]:
    """Where a lead that points to +x stands for the two sides across one axis (0: left and right)."""
    places = []
    for side in (axis, axis + 2):
        # The left side is +x turned by 180°, and each next side 90° further.
        turn = 180.0 + 90.0 * side
        for _, at in sides[side]:
            ((x, y),) = rotated([(0.0, at)], 90.0 * side)
            places.append(Placement(x=x, y=y, turn=turn % 360))
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
