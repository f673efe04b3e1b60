"""Test points: a land for a probe, round or square, or a plated hole for a hook."""

from collections.abc import Iterator

from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Cylinder, Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import PadShape
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    ManualPad,
    SheetError,
    Terminal,
    View,
    ViewDimension,
)
from eider.packages.forms import bare_lands
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger

ROUND, SQUARE, HOLE = "round", "square", "with a hole"


def _pin_fault(pins: int) -> str:
    return "" if pins == 1 else "a test point has one pin"


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "d", "copper is left all round the hole")


def _hole(sheet: PackageSheet, dims: Dims) -> float:
    if sheet.kind != HOLE:
        return 0.0
    if "d" not in dims:
        raise SheetError("d (hole) is missing; enter it, or choose a test point without a hole", "d")
    return dims["d"].middle


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    size, hole = dims["D"].middle, _hole(sheet, dims)
    shape: PadShape = "rectangle" if sheet.kind == SQUARE else "circle"
    pad = bare_lands.land("1", (0.0, 0.0), (size, size), shape, hole)
    return (ManualPad(pad=pad, no_paste=True),)


def _around(dims: Dims) -> Box:
    half = dims["D"].middle / 2
    return -half, -half, half, half


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    lengths: list[ViewDimension] = [bare_lands.round_dimension("D", dims["D"].middle)]
    if hole := _hole(sheet, dims):
        lengths.append(bare_lands.round_dimension("d", hole, 2))
    return bare_lands.views(_pads(sheet, dims), _around(dims), tuple(lengths))


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    half, hole = dims["D"].middle / 2, _hole(sheet, dims)
    shape = (
        Prism(box_outline(_around(dims)), 0.0, bare_lands.COPPER)
        if sheet.kind == SQUARE
        else Cylinder(0.0, 0.0, half, 0.0, bare_lands.COPPER)
    )
    cuts = (Cylinder(0.0, 0.0, hole / 2, -1.0, 1.0),) if hole else ()
    return (Solid("land", "copper", shape, cuts=cuts),)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return bare_lands.bare_recipe(_pads(sheet, dims), _around(dims))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """Size with R for round and S for square; the hole where there is one."""
    hole = _hole(sheet, dims)
    ending = f"H{hundredths(hole)}" if hole else ""
    return f"TP{'S' if sheet.kind == SQUARE else 'R'}{hundredths(dims['D'].middle)}{ending}"


FAMILY = Family(
    key="test-point",
    title="Test point",
    group="Copper alone",
    summary="round, square, with a hole",
    letters=(
        bare_lands.diameter("D", "land", ("A", "B")),
        Letter(key="d", meaning="hole", view="top", reference="D", typical=(0.2, 0.9), optional=True),
    ),
    kinds=(ROUND, SQUARE, HOLE),
    default_pins=1,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
