"""Four rows of gull-wing leads: QFP and its like."""

from collections.abc import Iterator
from typing import Literal

import numpy as np

from eider.geometry.shapes import Box, bounds, box_outline, rotated
from eider.geometry.solids import Placement, Solid
from eider.model.sheet import PackageSheet
from eider.packages import gullwing
from eider.packages.family import (
    Dims,
    Family,
    FloatArray,
    Implausible,
    LandRecipe,
    Letter,
    OpposedRows,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.names import hundredths
from eider.packages.rules import feet_apart, foot_outside_body, larger, leads_fit


def _pin_fault(pins: int) -> str:
    return "" if pins >= 8 and pins % 4 == 0 else "four even rows need a number of pins that 4 divides, 8 or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    for span, body in (("D", "D1"), ("E", "E1")):
        yield from larger(dims, span, body, "the lead span reaches beyond the body on both sides")
        yield from feet_apart(dims, span, "L")
        yield from foot_outside_body(dims, span, body, "L")
        yield from leads_fit(dims, body, sheet.pins // 4)
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")


def _along(sheet: PackageSheet, dims: Dims) -> FloatArray:
    """Positions along one side, falling, shape (pins / 4,)."""
    count = sheet.pins // 4
    return np.asarray(((count - 1) / 2 - np.arange(count)) * dims["e"].middle, dtype=np.float64)


def _numbers(sheet: PackageSheet, side: int) -> list[tuple[int, str]]:
    """Index along the side and number of its pins; sides run counter-clockwise from the left one."""
    count = sheet.pins // 4
    numbers = [(i, str(side * count + i + 1)) for i in range(count)]
    return [(i, n) for i, n in numbers if n not in sheet.missing]


def _spans(side: int) -> tuple[str, str]:
    """Letters of span and body across which a side faces its opposite: D along x, E along y."""
    return ("D", "D1") if side % 2 == 0 else ("E", "E1")


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    half, foot, along = dims["b"].middle / 2, dims["L"].middle, _along(sheet, dims)
    found = []
    for side in range(4):
        span, body = (dims[letter].middle / 2 for letter in _spans(side))
        for index, number in _numbers(sheet, side):
            y = float(along[index])
            boxes = ((-span, y - half, -span + foot, y + half), (-span, y - half, -body, y + half))
            foot_box, whole = (_turned(box, 90.0 * side) for box in boxes)
            found.append(Terminal(number, foot_box, whole))
    return tuple(found)


def _turned(box: Box, degrees: float) -> Box:
    return bounds(rotated(box_outline(box), degrees))


def _body_box(dims: Dims) -> Box:
    x, y = dims["D1"].middle / 2, dims["E1"].middle / 2
    return -x, -y, x, y


def _mark(dims: Dims) -> gullwing.Mark:
    """The round mark on the body beside pin 1."""
    x0, _, x1, y1 = _body_box(dims)
    size = min(0.12 * (x1 - x0), 1.0)
    inset = 1.2 * size
    return gullwing.Mark(x0 + inset, y1 - inset, size / 2)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = _body_box(dims)
    tip_x, tip_y, pitch, lead = dims["D"].middle / 2, dims["E"].middle / 2, dims["e"].middle, dims["b"].middle
    first = (sheet.pins // 4 - 1) / 2 * pitch
    leads = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims))
    top = View(
        "top",
        (*leads, ViewShape("body", box_outline((x0, y0, x1, y1))), ViewShape("mark", _mark(dims).outline())),
        (
            ViewDimension("D1", (x0, y1), (x1, y1), "top"),
            ViewDimension("D", (-tip_x, first), (tip_x, first), "top", 2),
            ViewDimension("E1", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("E", (first, -tip_y), (first, tip_y), "right", 3),
            ViewDimension("e", (-tip_x, first - pitch), (-tip_x, first), "left"),
            ViewDimension("b", (tip_x, -first - lead / 2), (tip_x, -first + lead / 2), "right"),
        ),
    )
    height, stand_off, foot = dims["A"].upper, dims["A1"].middle, dims["L"].middle
    profile = gullwing.seen_profile(dims, dims["D"], dims["D1"])
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
    along = _along(sheet, dims)
    body, dot = gullwing.marked_body(dims, _body_box(dims), _mark(dims))
    solids = [body, dot]
    for axis, name in ((0, "lead across D"), (1, "lead across E")):
        span, body_letter = _spans(axis)
        strip = gullwing.lead_strip(dims, dims[span], dims[body_letter])
        places = []
        for side in (axis, axis + 2):
            # The strip points to +x; the left side is that turned by 180°, and each next side 90° further.
            turn = 180.0 + 90.0 * side
            for index, _ in _numbers(sheet, side):
                ((x, y),) = rotated([(0.0, float(along[index]))], 90.0 * side)
                places.append(Placement(x=x, y=y, turn=turn % 360))
        solids.append(Solid(name, "tin", strip, tuple(places)))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    along, pitch = _along(sheet, dims), dims["e"].middle
    rows = []
    axes: tuple[tuple[int, Literal["x", "y"]], ...] = ((0, "x"), (1, "y"))
    for side, axis in axes:
        span, _ = _spans(side)
        near, far = _numbers(sheet, side), _numbers(sheet, side + 2)
        # Left: falling y, right: rising y; bottom: rising x, top: falling x. The first row of the y pair is the top.
        first, second = (near, far) if axis == "x" else (far, near)
        rows.append(
            OpposedRows(
                group=f"row {side + 1} and row {side + 3}",
                axis=axis,
                length=dims[span],
                foot=dims["L"],
                width=dims["b"],
                first=tuple(n for _, n in first),
                second=tuple(n for _, n in second),
                at_first=np.array([along[i] for i, _ in first]),
                at_second=-np.array([along[i] for i, _ in second]),
                goals="gullwing",
                measures={"pitch": pitch},
                pitch=pitch,
            )
        )
    x, y = dims["D1"].upper / 2, dims["E1"].upper / 2
    return LandRecipe(rows=tuple(rows), body=_body_box(dims), body_max=(-x, -y, x, y), first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: QFP, pitch, both nominal spans, maximum height, pins."""
    spans = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}"
    pins = sheet.pins - len(sheet.missing)
    return f"QFP{hundredths(dims['e'].middle)}P{spans}X{hundredths(dims['A'].upper)}-{pins}"


FAMILY = Family(
    key="gullwing-quad",
    title="Quad gull-wing",
    summary="QFP, LQFP, TQFP",
    letters=(
        Letter(key="D", meaning="lead span across", view="top", also=("HD", "A")),
        Letter(key="D1", meaning="body width", view="top", reference="D", typical=(0.5, 0.97), also=("D", "A1")),
        Letter(key="E", meaning="lead span along", view="top", reference="D", typical=(0.3, 3.0), also=("HE", "B")),
        Letter(key="E1", meaning="body length", view="top", reference="E", typical=(0.5, 0.97), also=("E", "B1")),
        Letter(key="e", meaning="pitch", view="top", reference="D", typical=(0.008, 0.2), also=("P", "p")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("bp", "B", "W")),
        Letter(key="L", meaning="foot length", view="side", reference="D", typical=(0.01, 0.2), also=("Lp", "G", "K")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.03, 0.6), also=("H", "T")),
        Letter(
            key="A1",
            also=("K", "S"),
            meaning="stand-off",
            view="side",
            assumed=gullwing.HEIGHT_A1,
            reference="A",
            typical=(0.0, 0.6),
        ),
        Letter(
            key="c",
            also=("C", "T"),
            meaning="lead thickness",
            view="side",
            assumed=gullwing.THICKNESS_C,
            reference="A",
            typical=(0.02, 0.5),
        ),
    ),
    default_pins=48,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
