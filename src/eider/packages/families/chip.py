"""Two-terminal chips: resistors, capacitors, inductors, diodes with end terminals."""

from collections.abc import Iterator

import numpy as np

from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
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
from eider.packages.forms.name_codes import hundredths, tenths
from eider.packages.plausibility import feet_apart, larger

PREFIX = {"capacitor": "CAPC", "resistor": "RESC", "inductor": "INDC", "diode": "DIOC", "bead": "BEADC"}
MATERIAL = {
    "capacitor": "ceramic tan",
    "resistor": "ceramic black",
    "inductor": "ferrite",
    "diode": "ceramic black",
}


def _pin_fault(pins: int) -> str:
    return "" if pins == 2 else "a chip has 2 terminals"


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "L", "the body is longer than one of its terminals")
    yield from feet_apart(dims, "D", "L")


def _boxes(dims: Dims) -> tuple[Box, Box, Box]:
    """Body and both terminals from above, at nominal size."""
    x, y, foot = dims["D"].middle / 2, dims["E"].middle / 2, dims["L"].middle
    return (-x, -y, x, y), (-x, -y, -x + foot, y), (x - foot, -y, x, y)


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    _, left, right = _boxes(dims)
    return Terminal("1", left, left), Terminal("2", right, right)


def _views(_sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    (x0, y0, x1, y1), left, right = _boxes(dims)
    foot = dims["L"].middle
    top = View(
        "top",
        tuple(
            ViewShape(r, box_outline(b))
            for r, b in (("body", (x0, y0, x1, y1)), ("terminal", left), ("terminal", right))
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right"),
            ViewDimension("L", (x0, y0), (x0 + foot, y0), "bottom"),
        ),
    )
    height = dims["A"].upper
    side = View(
        "side",
        (
            ViewShape("body", box_outline((x0 + foot, 0, x1 - foot, height))),
            ViewShape("terminal", box_outline((x0, 0, x0 + foot, height))),
            ViewShape("terminal", box_outline((x1 - foot, 0, x1, height))),
        ),
        (ViewDimension("A", (x1, 0), (x1, height), "right"),),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    (x0, y0, x1, y1), left, _ = _boxes(dims)
    height, foot = dims["A"].upper, dims["L"].middle
    body = Prism(box_outline((x0 + foot, y0, x1 - foot, y1)), 0.0, height)
    terminal = Prism(box_outline(left), 0.0, height)
    return (
        Solid("body", MATERIAL.get(sheet.kind, "ceramic black"), body),
        Solid("terminal", "tin", terminal, (SolidPlacement(), SolidPlacement(turn=180.0))),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    body, _, _ = _boxes(dims)
    x, y = dims["D"].upper / 2, dims["E"].upper / 2
    middle = np.zeros(1)
    rows = OpposedRows(
        group="terminal 1 and terminal 2",
        axis="x",
        length=dims["D"],
        foot=dims["L"],
        width=dims["E"],
        first=("1",),
        second=("2",),
        at_first=middle,
        at_second=middle,
        goals="chip",
        measures={"length": dims["D"].middle, "width": dims["E"].middle},
    )
    return LandRecipe(rows=(rows,), body=body, body_max=(-x, -y, x, y), first_pin="1", polarised=sheet.kind == "diode")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: class, length and width in tenths, height maximum: CAPC1608X90N."""
    size = tenths(dims["D"].middle) + tenths(dims["E"].middle)
    return f"{PREFIX.get(sheet.kind, 'CHIP')}{size}X{hundredths(dims['A'].upper)}"


FAMILY = Family(
    key="chip",
    first_for="two terminals",
    title="Chip",
    group="Two terminals",
    summary="two end terminals: R, C, L, D",
    letters=(
        Letter(key="D", meaning="body length", view="top", also=("L", "A")),
        Letter(key="E", meaning="body width", view="top", reference="D", typical=(0.2, 2.5), also=("W", "B")),
        Letter(
            key="L",
            meaning="terminal length",
            view="top",
            reference="D",
            typical=(0.04, 0.48),
            also=("a", "B", "e", "l", "L1", "t"),
        ),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.1, 1.6), also=("T", "H", "C")),
    ),
    kinds=tuple(PREFIX),
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
