"""Half holes along the edges of the user's own board, which makes it a module to be soldered on another."""

from collections.abc import Iterator

from eider.geometry.plane import Box, rotated
from eider.geometry.rounding import tidy
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Hole, Pad
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
    Implausible,
    LandRecipe,
    Letter,
    ManualPad,
    Terminal,
    View,
    ViewDimension,
    ViewShape,
)
from eider.packages.forms import bare_lands
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import Sides, body_boxes, number_sides
from eider.packages.pads.pad_shapes import pad_outline
from eider.packages.plausibility import larger, leads_fit

THREE_SIDES = "three_sides"
# Copper beyond the hole on the outside (mm): what the milling cutter takes away with its half of the hole.
OUTSIDE = 0.25


def _pin_fault(pins: int) -> str:
    return "" if pins >= 2 else "the edges of a module have 2 half holes or more"


def _counts(sheet: PackageSheet) -> tuple[int, int, int, int]:
    """Half holes on the left, at the bottom, on the right and at the top; on two sides where nothing is said."""
    along_x = sheet.pins_d or 0
    three = sheet.option(THREE_SIDES) is True
    rest = sheet.pins - along_x * (1 if three else 2)
    along_y = sheet.pins_e if sheet.pins_e is not None else max(rest, 0) // 2
    return along_y, along_x, along_y, 0 if three else along_x


def _sides(sheet: PackageSheet, dims: Dims) -> Sides:
    return number_sides(_counts(sheet), dims["e"].middle, sheet.missing)


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    left, bottom, _, _ = _counts(sheet)
    yield from larger(dims, "e", "b", "neighbouring lands would touch")
    yield from larger(dims, "b", "d", "copper is left beside the hole")
    yield from larger(dims, "L", "d", "the land reaches further inwards than its half hole")
    for body, count in (("E", left), ("D", bottom)):
        if count:
            yield from leads_fit(dims, body, count, fills=False)


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    """A land on each edge with its hole in the edge's line; the half outside is milled away."""
    inward, hole, width = dims["L"].middle, dims["d"].middle, dims["b"].middle
    outward = hole / 2 + OUTSIDE
    made = []
    for side, pins in enumerate(_sides(sheet, dims)):
        edge = dims["D" if side % 2 == 0 else "E"].middle / 2
        for number, at in pins:
            ((x, y),) = rotated([(-edge + (inward - outward) / 2, at)], 90.0 * side)
            drilled = Hole(hole, hole, x=tidy(-(inward - outward) / 2))
            pad = Pad(
                number, tidy(x), tidy(y), inward + outward, width, rotation=90.0 * side, hole=drilled, layers="all"
            )
            made.append(ManualPad(pad=pad))
    return tuple(made)


def _board(dims: Dims) -> Box:
    board, _ = body_boxes(dims, "D", "E")
    return board


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = board = _board(dims)
    left, *_ = _sides(sheet, dims)
    pitch, half = dims["e"].middle, dims["b"].middle / 2
    first = left[0].at if left else 0.0
    last = left[-1].at if left else 0.0
    lengths = (
        ViewDimension("D", (x0, y1), (x1, y1), "top"),
        ViewDimension("E", (x1, y0), (x1, y1), "right"),
        ViewDimension("e", (x0, first - pitch), (x0, first), "left"),
        ViewDimension("b", (x0, last - half), (x0, last + half), "left", 2),
        ViewDimension("L", (x0, last), (x0 + dims["L"].middle, last), "bottom"),
        ViewDimension("d", (x0 - dims["d"].middle / 2, last), (x0 + dims["d"].middle / 2, last), "bottom", 2),
    )
    top, side = bare_lands.views(_pads(sheet, dims), board, lengths)
    edge = ViewShape("board", ((x0, y0), (x1, y0), (x1, y1), (x0, y1)))
    return View(top.name, (edge, *top.shapes), top.dimensions), side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return tuple(
        Solid(f"land {manual.pad.number}", "copper", Prism(pad_outline(manual.pad), 0.0, bare_lands.COPPER))
        for manual in _pads(sheet, dims)
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return bare_lands.bare_recipe(_pads(sheet, dims), _board(dims))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """MODE, half holes, pitch, and the sides of the board."""
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}"
    return f"MODE{sheet.pins}P{hundredths(dims['e'].middle)}_{size}"


FAMILY = Family(
    key="module-edge",
    title="Edge of a module",
    group="Copper alone",
    summary="half holes of the board's own edge",
    letters=(
        Letter(key="D", meaning="board across", view="top", also=("A", "W")),
        Letter(key="E", meaning="board along", view="top", reference="D", typical=(0.1, 10.0), also=("B", "L")),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.01, 0.9), also=("P", "p")),
        Letter(key="d", meaning="hole", view="top", reference="e", typical=(0.2, 0.8), also=("H", "h")),
        Letter(
            key="b",
            meaning="land width along the edge",
            view="top",
            reference="e",
            typical=(0.3, 0.95),
            also=("W", "w"),
        ),
        Letter(
            key="L", meaning="land length from the edge", view="top", reference="b", typical=(0.5, 4.0), also=("K",)
        ),
    ),
    fields=(
        FamilyField(key="pins_d", title="at the bottom and top", kind="count"),
        FamilyField(key="pins_e", title="at the left and right", kind="count"),
        FamilyField(key=THREE_SIDES, title="three sides", kind="flag", help="none at the top"),
        FamilyField(key="missing", title="missing half holes", kind="numbers"),
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
