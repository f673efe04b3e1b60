"""Fiducials: a disc of copper in a larger opening of the mask, by which machines find the board."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.plane import Box, circle
from eider.geometry.solids import Cylinder, Solid
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import KeepOut
from eider.packages.family import Dims, Family, FamilyField, Implausible, LandRecipe, ManualPad, Terminal, View
from eider.packages.forms import bare_lands
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger

SIDES = {"top": ("top",), "bottom": ("bottom",), "both": ("top", "bottom")}
SIDE = "board_side"
ROUND = 48


def _pin_fault(pins: int) -> str:
    return "" if pins == 1 else "a fiducial has one pin"


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "d", "the opening of the mask leaves the copper free all round")


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    size, free = dims["d"].middle, (dims["D"].middle - dims["d"].middle) / 2
    return tuple(
        ManualPad(
            pad=replace(bare_lands.land("1", (0.0, 0.0), (size, size), "circle"), layers=side), mask=free, no_paste=True
        )
        for side in SIDES[str(sheet.option(SIDE) or "top")]
    )


def _around(dims: Dims) -> Box:
    half = dims["D"].middle / 2
    return -half, -half, half, half


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    lengths = bare_lands.round_dimension("d", dims["d"].middle), bare_lands.round_dimension("D", dims["D"].middle, 2)
    return bare_lands.views(_pads(sheet, dims), _around(dims), lengths)


def _solids(_sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return (Solid("land", "copper", Cylinder(0.0, 0.0, dims["d"].middle / 2, 0.0, bare_lands.COPPER)),)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    kept = KeepOut(circle(0.0, 0.0, dims["D"].middle / 2, ROUND), "vias")
    return bare_lands.bare_recipe(_pads(sheet, dims), _around(dims), keep_outs=(kept,))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """Copper and opening, and the side where it is not the top alone."""
    side = str(sheet.option(SIDE) or "top")
    ending = "" if side == "top" else side[:2].upper()
    return f"FID{hundredths(dims['d'].middle)}M{hundredths(dims['D'].middle)}{ending}"


FAMILY = Family(
    key="fiducial",
    title="Fiducial",
    group="Copper alone",
    summary="marks for placing machines",
    letters=(
        bare_lands.diameter("d", "copper", ("A",)),
        bare_lands.diameter("D", "opening of the mask", ("B",), (1.2, 4.0)),
    ),
    fields=(FamilyField(key=SIDE, title="side of the board", kind="choice", choices=tuple(SIDES)),),
    default_pins=1,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
