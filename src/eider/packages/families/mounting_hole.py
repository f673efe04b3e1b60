"""Mounting holes: plated with a land for the head, with or without a ring of vias; or bare, with room for the head."""

import math
from collections.abc import Iterator

from eider.geometry.plane import Box, circle
from eider.geometry.rounding import tidy
from eider.geometry.solids import Cylinder, Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Hole, KeepOut, Pad
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
from eider.packages.plausibility import larger

BARE = "unplated"
VIAS = "vias"
# Copper round the drill of a via (mm).
VIA_RING = 0.15
ROUND = 48


def _is_bare(sheet: PackageSheet) -> bool:
    return sheet.kind == BARE


def _pin_fault(pins: int) -> str:
    return "" if pins in (0, 1) else "a mounting hole has one pin, or none where it is not plated"


def _via_count(sheet: PackageSheet) -> int:
    count = sheet.option(VIAS)
    return count if isinstance(count, int) else 0


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    hole, land = dims["d"].middle, dims["D"].middle
    if _is_bare(sheet):
        bare = Pad("", 0.0, 0.0, hole, hole, shape="circle", hole=Hole(hole, hole), plated=False, layers="all")
        return (ManualPad(pad=bare),)
    main = bare_lands.land("1", (0.0, 0.0), (land, land), "circle", hole)
    return (ManualPad(pad=main), *_vias(sheet, dims))


def _vias(sheet: PackageSheet, dims: Dims) -> Iterator[ManualPad]:
    """Vias in the middle of the ring, the first to the right; they lie in the land and have no opening of their own."""
    count = _via_count(sheet)
    radius = (dims["d"].middle + dims["D"].middle) / 4
    for i in range(count):
        at = 2 * math.pi * i / count
        x, y, drill = tidy(radius * math.cos(at)), tidy(radius * math.sin(at)), dims["v"].middle
        size = drill + 2 * VIA_RING
        via = bare_lands.land("1", (x, y), (size, size), "circle", drill)
        yield ManualPad(pad=via, no_mask=True)


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "d", "the land or the head is wider than the hole")
    if _via_count(sheet) and {"D", "d", "v"} <= set(dims):
        room = (dims["D"].middle - dims["d"].middle) / 2
        needed = dims["v"].middle + 2 * VIA_RING
        if needed > room:
            message = "the vias v with their copper are wider than the ring between hole and edge of the land"
            yield Implausible(("v", "D"), message, f"{needed:g} mm", f"≤ {room:g} mm")
    if _is_bare(sheet) == bool(sheet.pins):
        wanted = 0 if _is_bare(sheet) else 1
        message = "a hole without copper has no pin" if _is_bare(sheet) else "a plated hole has one pin"
        yield Implausible(("pins",), message, str(sheet.pins), str(wanted))


def _around(dims: Dims) -> Box:
    half = dims["D"].middle / 2
    return -half, -half, half, half


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    lengths = [bare_lands.round_dimension("d", dims["d"].middle), bare_lands.round_dimension("D", dims["D"].middle, 2)]
    if _via_count(sheet):
        first = (dims["d"].middle + dims["D"].middle) / 4
        half = dims["v"].middle / 2
        lengths.append(ViewDimension("v", (first - half, 0.0), (first + half, 0.0), "top"))
    top, side = bare_lands.views(_pads(sheet, dims), _around(dims), tuple(lengths))
    hole = ViewShape("mark", circle(0.0, 0.0, dims["d"].middle / 2, ROUND))
    return View(top.name, (*top.shapes, hole), top.dimensions), side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    """The ring of copper on the board; of a bare hole its rim, so thin that it is seen and hides nothing."""
    outer = dims["D"].middle / 2 if not _is_bare(sheet) else dims["d"].middle / 2 + 2 * bare_lands.COPPER
    drill = Cylinder(0.0, 0.0, dims["d"].middle / 2, -1.0, 1.0)
    ring = Prism(circle(0.0, 0.0, outer, ROUND), 0.0, bare_lands.COPPER)
    material = "board" if _is_bare(sheet) else "copper"
    return (Solid("rim" if _is_bare(sheet) else "land", material, ring, cuts=(drill,)),)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    kept = KeepOut(circle(0.0, 0.0, dims["D"].middle / 2, ROUND), "parts")
    return bare_lands.bare_recipe(_pads(sheet, dims), _around(dims), keep_outs=(kept,))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """Hole and land, N for one without copper, V and the number of vias."""
    kind = "N" if _is_bare(sheet) else "P"
    vias = f"V{_via_count(sheet)}" if _via_count(sheet) and not _is_bare(sheet) else ""
    return f"MTGH{kind}{hundredths(dims['d'].middle)}L{hundredths(dims['D'].middle)}{vias}"


FAMILY = Family(
    key="mounting-hole",
    title="Mounting hole",
    group="Copper alone",
    summary="plated or bare, with a ring of vias",
    letters=(
        bare_lands.diameter("d", "hole", ("H", "h")),
        bare_lands.diameter("D", "land, or the head of the screw", ("A", "B"), (1.05, 4.0)),
        Letter(key="v", meaning="hole of a via", view="top", reference="d", typical=(0.03, 0.4), optional=True),
    ),
    fields=(FamilyField(key=VIAS, title="vias in the ring", kind="count"),),
    kinds=("plated", BARE),
    default_pins=1,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
