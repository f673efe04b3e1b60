"""Cylinders with end caps, lying on the board: MELF resistors and diodes."""

from collections.abc import Iterator

from eider.geometry.plane import Outline, circle
from eider.geometry.solids import Solid, SolidPlacement, Strip
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    Implausible,
    LandRecipe,
    Letter,
    Terminal,
    View,
    ViewShape,
)
from eider.packages.forms import dual, two_ends
from eider.packages.forms.name_codes import tenths
from eider.packages.plausibility import feet_apart, larger

# The band of a diode is thicker than its body, and thinner than the caps.
BAND_SHARE = 0.96
PREFIX = {"diode": "DIOMELF", "resistor": "RESMELF"}
# A circle is drawn with this many corners; the body is a little thinner than its caps.
CORNERS, BODY_SHARE = 36, 0.94


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "E", "the cylinder is longer than thick")
    yield from feet_apart(dims, "D", "L")


def _part(dims: Dims) -> dual.Dual:
    return two_ends.ends(dims["D"], dims["D"], dims["E"], dims["L"], dims["E"])


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    part = _part(dims)
    return dual.flat_terminals(part, part.span.middle / 2 - part.foot.middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    part, terminals = _part(dims), _terminals(sheet, dims)
    marks = (two_ends.cathode_band((-0.3 * dims["D"].middle, *part.body[1:])),) if sheet.kind == "diode" else ()
    top = dual.under_body(two_ends.top_view(part, terminals, {"span": "D", "length": "E", "foot": "L"}, marks))
    side = View("side", (ViewShape("body", _circle(dims["E"].middle / 2)),), ())
    return top, side


def _circle(radius: float) -> Outline:
    """The end of the cylinder, standing on the board."""
    return circle(0.0, radius, radius, CORNERS)


def _circle_of(radius: float, share: float) -> Outline:
    """A thinner circle about the same middle."""
    return tuple((x * share, radius + (z - radius) * share) for x, z in _circle(radius))


def _at(x: float) -> SolidPlacement:
    """Along the cylinder."""
    return SolidPlacement(x=x, turn=90.0)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    radius, length, cap = dims["E"].middle / 2, dims["D"].middle, dims["L"].middle
    body = Strip(_circle_of(radius, BODY_SHARE), length - 2 * cap)
    at = (length - cap) / 2
    is_diode = sheet.kind == "diode"
    material = "glass" if is_diode else "ceramic black"
    band = Solid("band", "marking", Strip(_circle_of(radius, BAND_SHARE), 0.1 * length), (_at(-0.2 * length),))
    return (
        Solid("body", material, body, (SolidPlacement(turn=90.0),)),
        *((band,) if is_diode else ()),
        Solid(
            "cap",
            "tin",
            Strip(_circle(radius), cap),
            (SolidPlacement(x=-at, turn=90.0), SolidPlacement(x=at, turn=90.0)),
        ),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    part = _part(dims)
    measures = {"length": dims["D"].middle, "width": dims["E"].middle}
    return two_ends.recipe(part, two_ends.pair(part, "cylinder", measures), polarised=sheet.kind == "diode")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: class, MELF, length and diameter in tenths."""
    return f"{PREFIX.get(sheet.kind, 'MELF')}{tenths(dims['D'].middle)}{tenths(dims['E'].middle)}"


FAMILY = Family(
    key="cylinder",
    title="Cylinder",
    group="Two terminals",
    summary="MELF, MiniMELF",
    letters=(
        Letter(key="D", meaning="length over the caps", view="top", also=("L", "A", "H")),
        Letter(key="E", meaning="diameter", view="top", reference="D", typical=(0.2, 0.8), also=("D", "B")),
        Letter(key="L", meaning="cap length", view="top", reference="D", typical=(0.04, 0.4), also=("K", "t", "C")),
    ),
    kinds=tuple(PREFIX),
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
