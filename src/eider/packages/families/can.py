"""Aluminium electrolytic capacitors: a can on a base, two terminals that leave it at the ends."""

import math
from collections.abc import Iterator

from eider.geometry.plane import Outline
from eider.geometry.solids import Cylinder, Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.forms import dual, two_ends
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart

# Height of the base, thickness of a terminal, and the chamfer of the base at the plus side, as a share of its width.
BASE, LEAD, CHAMFER = 0.6, 0.3, 0.2
# The black part of the top: its angle in degrees, and in how many steps it is drawn.
SEGMENT, SEGMENT_STEPS = 110.0, 12


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from feet_apart(dims, "E3", "L")


def _part(dims: Dims) -> dual.Dual:
    return two_ends.ends(dims["E3"], dims["D"], dims["E"], dims["L"], dims["b"])


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    part = _part(dims)
    return dual.flat_terminals(part, part.span.middle / 2 - part.foot.middle)


def _base(dims: Dims) -> Outline:
    """The base, both corners of the plus side (pin 1, left) cut off."""
    x, y = dims["D"].middle / 2, dims["E"].middle / 2
    cut = CHAMFER * dims["E"].middle
    return ((-x + cut, -y), (x, -y), (x, y), (-x + cut, y), (-x, y - cut), (-x, -y + cut))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    part = _part(dims)
    x0, y0, x1, y1 = part.body
    tip, half, foot = part.span.middle / 2, part.lead.middle / 2, part.foot.middle
    found = _terminals(sheet, dims)
    top = View(
        "top",
        (
            *(ViewShape("terminal", dual.box_of(t)) for t in found),
            ViewShape("body", _base(dims)),
            *(ViewShape("terminal", dual.box_of(t)) for t in found),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E3", (-tip, y1), (tip, y1), "top", 2),
            ViewDimension("E", (x1, y0), (x1, y1), "right", 2),
            ViewDimension("b", (tip, -half), (tip, half), "right"),
            ViewDimension("L", (-tip, -half), (-tip + foot, -half), "bottom"),
        ),
    )
    return top, two_ends.side_view(part, dims, LEAD)


def _segment(radius: float) -> Outline:
    """The black part of the top at minus, which lies right of plus."""
    half = math.radians(SEGMENT / 2)
    angles = [half * (2 * step / SEGMENT_STEPS - 1) for step in range(SEGMENT_STEPS + 1)]
    return tuple((radius * math.cos(angle), radius * math.sin(angle)) for angle in angles)


def _solids(_sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    part, height = _part(dims), dims["A"].upper
    radius = min(dims["D"].middle, dims["E"].middle) / 2 * 0.97
    return (
        Solid("can", "aluminium", Cylinder(0.0, 0.0, radius, BASE, height)),
        Solid("minus mark", "ink black", Prism(_segment(radius), height, height + 0.01)),
        Solid("base", "mould compound", Prism(_base(dims), 0.1, BASE)),
        dual.terminal_solid(part, dual.flat_foot(part), LEAD),
    )


def _lands(_sheet: PackageSheet, dims: Dims) -> LandRecipe:
    part = _part(dims)
    rows = two_ends.pair(part, "can", {"height": dims["A"].upper})
    return two_ends.recipe(part, rows, polarised=True)


def _name(_sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: CAPAE, base and maximum height."""
    return f"CAPAE{hundredths(dims['D'].middle)}X{hundredths(dims['A'].upper)}"


FAMILY = Family(
    key="can",
    title="Can",
    group="Two terminals",
    summary="aluminium electrolytic capacitors",
    letters=(
        Letter(key="D", meaning="base across", view="top", also=("A", "L")),
        Letter(key="E", meaning="base along", view="top", reference="D", typical=(0.8, 1.25), also=("B", "W")),
        Letter(key="E3", meaning="span over terminals", view="top", reference="D", typical=(0.6, 1.3), also=("C",)),
        Letter(key="b", meaning="terminal width", view="top", reference="D", typical=(0.05, 0.4), also=("W", "R")),
        Letter(key="L", meaning="foot length", view="top", reference="D", typical=(0.15, 0.48), also=("I", "K")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.4, 2.5), also=("L", "H")),
    ),
    # The base is cut at plus, the top is black at minus.
    unclear_mark=lambda _sheet: True,
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
