"""Two rows of gull-wing leads: SO, SSOP, TSSOP, MSOP and their like."""

from collections.abc import Iterator

import numpy as np

from eider.geometry.shapes import Box, box_outline
from eider.geometry.solids import Placement, Solid
from eider.model.sheet import PackageSheet
from eider.packages import gullwing
from eider.packages.family import (
    Dims,
    Family,
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
    return "" if pins >= 4 and pins % 2 == 0 else "two even rows need an even number of pins, 4 or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the lead span reaches beyond the body on both sides")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from feet_apart(dims, "E", "L")
    yield from foot_outside_body(dims, "E", "E1", "L")
    yield from leads_fit(dims, "D", sheet.pins // 2)


def _rows(sheet: PackageSheet, dims: Dims) -> tuple[list[tuple[str, float]], list[tuple[str, float]]]:
    """Number and y of each lead: down the left side, up the right side; missing pins left out."""
    count = sheet.pins // 2
    down = ((count - 1) / 2 - np.arange(count)) * dims["e"].middle
    left = [(str(i + 1), float(y)) for i, y in enumerate(down) if str(i + 1) not in sheet.missing]
    right = [
        (str(count + i + 1), float(y)) for i, y in enumerate(down[::-1]) if str(count + i + 1) not in sheet.missing
    ]
    return left, right


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    tip, heel, edge = dims["E"].middle / 2, dims["E"].middle / 2 - dims["L"].middle, dims["E1"].middle / 2
    half = dims["b"].middle / 2
    left, right = _rows(sheet, dims)
    return (
        *(Terminal(n, (-tip, y - half, -heel, y + half), (-tip, y - half, -edge, y + half)) for n, y in left),
        *(Terminal(n, (heel, y - half, tip, y + half), (edge, y - half, tip, y + half)) for n, y in right),
    )


def _body_box(dims: Dims) -> Box:
    x, y = dims["E1"].middle / 2, dims["D"].middle / 2
    return -x, -y, x, y


def _mark(dims: Dims) -> gullwing.Mark:
    """The round mark on the body beside pin 1."""
    x0, _, x1, y1 = _body_box(dims)
    size = min(0.22 * (x1 - x0), 0.8)
    inset = 0.75 * size + 0.08 * (x1 - x0)
    return gullwing.Mark(x0 + inset, y1 - inset, size / 2)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    tip, edge, half, pitch = (
        dims["E"].middle / 2, dims["E1"].middle / 2, dims["D"].middle / 2, dims["e"].middle,
    )  # fmt: skip
    lead, first = dims["b"].middle, (sheet.pins // 2 - 1) / 2 * pitch
    leads = tuple(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims))
    top = View(
        "top",
        (*leads, ViewShape("body", box_outline(_body_box(dims))), ViewShape("mark", _mark(dims).outline())),
        (
            ViewDimension("E1", (-edge, half), (edge, half), "top"),
            ViewDimension("E", (-tip, first), (tip, first), "top", 2),
            ViewDimension("D", (edge, -half), (edge, half), "right", 2),
            ViewDimension("e", (-tip, first - pitch), (-tip, first), "left"),
            ViewDimension("b", (tip, -first - lead / 2), (tip, -first + lead / 2), "right"),
        ),
    )
    height, stand_off, foot = dims["A"].upper, dims["A1"].middle, dims["L"].middle
    profile = gullwing.seen_profile(dims, dims["E"], dims["E1"])
    mirrored = tuple((-x, z) for x, z in profile)
    side = View(
        "side",
        (
            ViewShape("terminal", profile),
            ViewShape("terminal", mirrored),
            ViewShape("body", box_outline((-edge, stand_off, edge, height))),
        ),
        (
            ViewDimension("A", (-edge, 0), (-edge, height), "left", 2),
            ViewDimension("A1", (-edge, 0), (-edge, stand_off), "left"),
            ViewDimension("L", (tip - foot, 0), (tip, 0), "bottom"),
            ViewDimension("c", (tip, 0), (tip, dims["c"].middle), "right"),
        ),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, dot = gullwing.marked_body(dims, _body_box(dims), _mark(dims))
    left, right = _rows(sheet, dims)
    places = (*(Placement(y=y, turn=180.0) for _, y in left), *(Placement(y=y) for _, y in right))
    return (
        body,
        dot,
        Solid("lead", "tin", gullwing.lead_strip(dims, dims["E"], dims["E1"]), places),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    left, right = _rows(sheet, dims)
    x, y = dims["E1"].upper / 2, dims["D"].upper / 2
    rows = OpposedRows(
        group="row 1 and row 2",
        axis="x",
        length=dims["E"],
        foot=dims["L"],
        width=dims["b"],
        first=tuple(n for n, _ in left),
        second=tuple(n for n, _ in right),
        at_first=np.array([at for _, at in left]),
        at_second=np.array([at for _, at in right]),
        goals="gullwing",
        measures={"pitch": dims["e"].middle},
        pitch=dims["e"].middle,
    )
    return LandRecipe(rows=(rows,), body=_body_box(dims), body_max=(-x, -y, x, y), first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SOIC at 1.27 pitch, else SOP; pitch, nominal span, maximum height, pins."""
    pitch = hundredths(dims["e"].middle)
    prefix = "SOIC" if pitch == "127" else "SOP"
    pins = sheet.pins - len(sheet.missing)
    return f"{prefix}{pitch}P{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}-{pins}"


FAMILY = Family(
    key="gullwing-dual",
    title="Dual gull-wing",
    summary="SO, SSOP, TSSOP, MSOP",
    letters=(
        Letter(key="E", meaning="lead span, tip to tip", view="top", also=("H", "HE", "C", "D1")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.3, 0.97), also=("E", "A", "W")),
        Letter(
            key="D",
            meaning="body length along the rows",
            view="top",
            reference="E",
            typical=(0.15, 6.0),
            also=("B", "A", "L"),
        ),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.02, 0.6), also=("P", "p")),
        Letter(
            key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("B", "bp", "W", "F")
        ),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.02, 0.35), also=("Lp", "G", "K")),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.08, 1.0), also=("H", "T")),
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
    default_pins=16,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
