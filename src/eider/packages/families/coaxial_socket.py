"""Coaxial sockets through the board: a round contact in the middle, four legs of the shell around it."""

from collections.abc import Iterator

from msgspec.structs import replace

from eider.geometry.plane import Box, box_outline
from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement
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
from eider.packages.forms import leaded
from eider.packages.forms.name_codes import hundredths
from eider.packages.forms.quad import body_boxes
from eider.packages.plausibility import larger

CENTRE, SHELL = "1", "2"
WITHOUT = "legs_left_out"
PLACES = ("upper left", "lower left", "lower right", "upper right")
# Of the height, what the block takes up below the barrel; the barrel's diameter as a share of the block.
BLOCK, BARREL = 0.3, 0.7


def _pin_fault(pins: int) -> str:
    return "" if pins == 2 else "a coaxial socket has 2 pins: the centre contact and the shell"


def _legs(sheet: PackageSheet, dims: Dims) -> list[tuple[str, float, float]]:
    half = dims["e"].middle / 2
    left_out = sheet.option(WITHOUT)
    places = zip(PLACES, ((-half, half), (-half, -half), (half, -half), (half, half)), strict=True)
    return [(SHELL, x, y) for name, (x, y) in places if not (isinstance(left_out, tuple) and name in left_out)]


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "D", "e", "the legs are under the body")
    yield from larger(dims, "E", "e", "the legs are under the body")
    yield from larger(dims, "e", "b", "neighbouring legs would touch")


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    d, b = dims["d"].middle, dims["b"].middle
    contact = leaded.lead_terminals([(CENTRE, 0.0, 0.0)], d, d)
    contact = tuple(replace(terminal, round=True) for terminal in contact)
    return (*contact, *leaded.lead_terminals(_legs(sheet, dims), b, b))


def _box(dims: Dims, *, largest: bool = False) -> Box:
    return body_boxes(dims, "D", "E")[largest]


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = body = _box(dims)
    half, b, d, height = dims["e"].middle / 2, dims["b"].middle / 2, dims["d"].middle / 2, dims["A"].upper
    top = View(
        "top",
        (
            ViewShape("body", box_outline(body)),
            *(ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims)),
        ),
        (
            ViewDimension("D", (x0, y1), (x1, y1), "top"),
            ViewDimension("E", (x1, y0), (x1, y1), "right"),
            ViewDimension("e", (-half, y0), (half, y0), "bottom"),
            ViewDimension("b", (-half - b, half), (-half + b, half), "top", 2),
            ViewDimension("d", (-d, 0.0), (d, 0.0), "bottom", 2),
        ),
    )
    legs = [ViewShape("terminal", box_outline((x - b, -leaded.THROUGH, x + b, 0.0))) for x in (-half, half)]
    side = View(
        "side",
        (*legs, ViewShape("body", box_outline((x0, 0.0, x1, height)))),
        (ViewDimension("A", (x0, 0.0), (x0, height), "left"),),
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    height, b = dims["A"].upper, dims["b"].middle / 2
    x0, y0, x1, y1 = _box(dims)
    barrel = BARREL * min(x1 - x0, y1 - y0) / 2
    bore = Cylinder(0.0, 0.0, 0.8 * barrel, BLOCK * height, 2 * height)
    legs = tuple(SolidPlacement(x=x, y=y) for _, x, y in _legs(sheet, dims))
    return (
        Solid("block", "gold", Prism(box_outline((x0, y0, x1, y1)), 0.0, BLOCK * height), cuts=(bore,)),
        Solid("barrel", "gold", Cylinder(0.0, 0.0, barrel, BLOCK * height, height), cuts=(bore,)),
        Solid("leg", "gold", Prism(box_outline((-b, -b, b, b)), -leaded.THROUGH, 0.0), legs),
        Solid("centre contact", "gold", Cylinder(0.0, 0.0, dims["d"].middle / 2, -leaded.THROUGH, 0.9 * height)),
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    contact = leaded.leads([(CENTRE, 0.0, 0.0)], dims["d"])
    legs = leaded.leads(_legs(sheet, dims), dims["b"], dims["b"])
    return LandRecipe(
        leads=(replace(contact, group="centre contact"), replace(legs, group="legs of the shell")),
        body=_box(dims),
        body_max=_box(dims, largest=True),
        first_pin=CENTRE,
        polarised=False,
        goals="through-hole",
    )


def _name(_sheet: PackageSheet, dims: Dims) -> str:
    """COAXV, the spacing of the legs, body and height."""
    size = "X".join(hundredths(value) for value in (dims["D"].middle, dims["E"].middle, dims["A"].upper))
    return f"COAXV{hundredths(dims['e'].middle)}_{size}"


FAMILY = Family(
    key="coaxial-socket",
    title="Coaxial socket",
    group="Connectors",
    summary="centre contact and four legs",
    letters=(
        Letter(key="e", meaning="spacing of the legs", view="top", also=("P", "B")),
        Letter(key="d", meaning="centre contact", view="top", reference="e", typical=(0.05, 0.6), also=("C",)),
        Letter(key="b", meaning="side of the square leg", view="top", reference="e", typical=(0.05, 0.6), also=("W",)),
        Letter(key="D", meaning="body across", view="top", reference="e", typical=(1.0, 3.0), also=("A",)),
        Letter(key="E", meaning="body along", view="top", reference="e", typical=(1.0, 3.0), also=("B",)),
        Letter(key="A", meaning="height", view="side", reference="e", typical=(0.5, 6.0), also=("H", "L")),
    ),
    fields=(
        FamilyField(key=WITHOUT, title="legs left out", kind="numbers", help=f"Of {', '.join(PLACES)}."),
    ),
    default_pins=2,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
