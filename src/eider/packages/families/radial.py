"""Radial parts with two leads: electrolytic and film capacitors, light-emitting diodes."""

from collections.abc import Iterator

from eider.geometry.plane import Box, box_outline
from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Cylinder, Solid
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
from eider.packages.forms import leaded, two_ends
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger

PREFIX = {
    "capacitor polarised": "CAPRD",
    "capacitor": "CAPRD",
    "resistor": "RESRD",
    "diode": "DIORD",
    "inductor": "INDRD",
    "led": "LEDRD",
}


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "span", "the leads are under the body")
    yield from larger(dims, "span", "d", "the leads would touch")


def _places(dims: Dims) -> list[tuple[str, float, float]]:
    half = dims["span"].middle / 2
    return [("1", -half, 0.0), ("2", half, 0.0)]


def _body(dims: Dims, *, largest: bool = False) -> Box:
    half = (dims["D"].upper if largest else dims["D"].middle) / 2
    return -half, -half, half, half


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(dims), dims["d"].middle, dims["d"].middle)


def _views(_sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, _, x1, y1 = _body(dims)
    half, thick, height = dims["span"].middle / 2, dims["d"].middle / 2, dims["L"].upper
    leads = [rounded_rectangle(x, 0.0, 2 * thick, 2 * thick, thick) for _, x, _ in _places(dims)]
    top = View(
        "top",
        (
            ViewShape("body", rounded_rectangle(0.0, 0.0, x1 - x0, x1 - x0, (x1 - x0) / 2)),
            *(ViewShape("terminal", lead) for lead in leads),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("span", (-half, 0.0), (half, 0.0), "bottom"),
            ViewDimension("d", (half, -thick), (half, thick), "right"),
        ),
    )
    legs = [ViewShape("terminal", box_outline((x - thick, -leaded.THROUGH, x + thick, 0.0))) for x in (-half, half)]
    side = View(
        "side",
        (*legs, ViewShape("body", box_outline((x0, 0.0, x1, height)))),
        (ViewDimension("L", (x0, 0.0), (x0, height), "left"),),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    material = "aluminium" if sheet.kind.startswith("capacitor") else "ceramic tan"
    can = Cylinder(0.0, 0.0, dims["D"].middle / 2, 0.0, dims["L"].upper)
    return Solid("body", material, can), leaded.round_leads(_places(dims), dims["d"].middle, 0.1)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    group = leaded.leads(_places(dims), dims["d"])
    return LandRecipe(
        leads=(group,),
        body=_body(dims),
        body_max=_body(dims, largest=True),
        first_pin="1",
        polarised=two_ends.is_polar(sheet),
        goals="through-hole",
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7251: class, span, W lead, D diameter, H height."""
    size = f"D{hundredths(dims['D'].middle)}H{hundredths(dims['L'].upper)}"
    return f"{PREFIX.get(sheet.kind, 'RAD')}{hundredths(dims['span'].middle)}W{hundredths(dims['d'].middle)}{size}"


FAMILY = Family(
    key="radial",
    title="Radial",
    group="Through the board",
    summary="leaded C, LED",
    letters=(
        Letter(key="span", meaning="lead span", view="top", reference="D", typical=(0.15, 0.95), also=("P", "F")),
        Letter(key="d", meaning="lead diameter", view="top", reference="D", typical=(0.02, 0.3), also=("b",)),
        Letter(key="D", meaning="body diameter", view="top", also=("B", "A")),
        Letter(key="L", meaning="body height", view="side", reference="D", typical=(0.3, 5.0), also=("H", "A")),
    ),
    kinds=tuple(PREFIX),
    # Electrolytic capacitors bear a stripe at minus.
    unclear_mark=lambda sheet: sheet.kind == "capacitor polarised",
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
