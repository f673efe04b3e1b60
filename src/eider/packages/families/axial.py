"""Axial parts with two leads, lying or standing: resistors, diodes, chokes."""

from collections.abc import Iterator

from eider.geometry.plane import Box, box_outline, circle
from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Cylinder, Solid, SolidPlacement, Strip
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
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

PREFIX = {"resistor": "RESAD", "capacitor": "CAPAD", "diode": "DIOAD", "inductor": "INDAD"}
STANDING = "standing"
CORNERS = 36


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "d", "the body is thicker than its leads")
    if sheet.mounting != STANDING:
        yield from larger(dims, "span", "L", "the leads are bent beside the body")


def _places(dims: Dims) -> list[tuple[str, float, float]]:
    half = dims["span"].middle / 2
    return [("1", -half, 0.0), ("2", half, 0.0)]


def _body(sheet: PackageSheet, dims: Dims, *, largest: bool = False) -> Box:
    """From above: lying along x between the leads, or standing over lead 1."""
    d, length = ((dims[k].upper if largest else dims[k].middle) / 2 for k in ("D", "L"))
    if sheet.mounting == STANDING:
        at = -dims["span"].middle / 2
        return at - d, -d, at + d, d
    return -length, -d, length, d


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return leaded.lead_terminals(_places(dims), dims["d"].middle, dims["d"].middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = body = _body(sheet, dims)
    half, thick, across, length = (dims[k].middle / 2 for k in ("span", "d", "D", "L"))
    standing = sheet.mounting == STANDING
    wire = ViewShape("terminal", box_outline((-half - thick, -thick, half + thick, thick)))
    outline = rounded_rectangle((x0 + x1) / 2, 0, x1 - x0, y1 - y0, across) if standing else box_outline(body)
    marks = (ViewShape("mark", box_outline(two_ends.cathode_band(body))),) if _polar(sheet) and not standing else ()
    lengths = [
        ViewDimension("span", (-half, y1), (half, y1), "top", 2),
        ViewDimension("D", (x1, y0), (x1, y1), "right"),
    ]
    lengths.append(ViewDimension("d", (half, -thick), (half, thick), "right", 2))
    if not standing:
        lengths.append(ViewDimension("L", (x0, y1), (x1, y1), "top"))
    legs = [ViewShape("terminal", box_outline((x - thick, -leaded.THROUGH, x + thick, across))) for x in (-half, half)]
    tall = 2 * length if standing else 2 * across
    side = View(
        "side",
        (*legs, ViewShape("body", box_outline((x0, 0.0, x1, tall)))),
        (ViewDimension("L", (x0, 0.0), (x0, tall), "left"),) if standing else (),
    )
    return View("top", (wire, ViewShape("body", outline), *marks), tuple(lengths)), side


def _polar(sheet: PackageSheet) -> bool:
    return sheet.kind == "diode"


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    half, radius, length, wire = (dims[k].middle / 2 for k in ("span", "D", "L", "d"))
    if sheet.mounting == STANDING:
        top = 2 * length + 2 * wire
        bridge = Strip(((-half, top), (half, top), (half, top + 2 * wire), (-half, top + 2 * wire)), 2 * wire)
        legs = (SolidPlacement(x=-half), SolidPlacement(x=half))
        return (
            Solid("body", "ceramic tan", Cylinder(-half, 0.0, radius, 0.2, 2 * length)),
            Solid("lead", "tin", Cylinder(0.0, 0.0, wire, -leaded.THROUGH, top), legs),
            Solid("bridge", "tin", bridge),
        )
    body, thin = circle(0.0, radius, radius, CORNERS), circle(0.0, radius, wire, CORNERS)
    return (
        Solid("body", "ceramic tan", Strip(body, 2 * length), (SolidPlacement(turn=90.0),)),
        Solid("wire", "tin", Strip(thin, 2 * half), (SolidPlacement(turn=90.0),)),
        leaded.round_leads(_places(dims), 2 * wire, radius),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    group = leaded.leads(_places(dims), dims["d"])
    body, body_max = _body(sheet, dims), _body(sheet, dims, largest=True)
    return LandRecipe(
        leads=(group,), body=body, body_max=body_max, first_pin="1", polarised=_polar(sheet), goals="through-hole"
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7251: class, span, W lead, L body length, D body diameter; V behind the class where it stands."""
    prefix = PREFIX.get(sheet.kind, "AXIAD") + ("V" if sheet.mounting == STANDING else "")
    size = f"L{hundredths(dims['L'].middle)}D{hundredths(dims['D'].middle)}"
    return f"{prefix}{hundredths(dims['span'].middle)}W{hundredths(dims['d'].middle)}{size}"


FAMILY = Family(
    key="axial",
    title="Axial",
    group="Through the board",
    summary="leaded R, D, L, lying or standing",
    letters=(
        Letter(key="span", meaning="span between the leads", view="top", also=("P", "e", "F")),
        Letter(key="d", meaning="lead diameter", view="top", reference="D", typical=(0.05, 0.8), also=("b",)),
        Letter(key="D", meaning="body diameter", view="top", reference="L", typical=(0.1, 1.5), also=("B", "A")),
        Letter(key="L", meaning="body length", view="top", reference="span", typical=(0.2, 4.0), also=("A", "G")),
    ),
    fields=(FamilyField(key="mounting", title="mounted", kind="choice", choices=("lying", STANDING)),),
    kinds=tuple(PREFIX),
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
