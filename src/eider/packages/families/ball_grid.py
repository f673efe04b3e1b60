"""Ball grids: BGA."""

from collections.abc import Iterator

from eider.geometry.shapes import rounded_rectangle
from eider.geometry.solids import Ball, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View, ViewShape
from eider.packages.forms import array
from eider.packages.forms.name_codes import hundredths

NON_COLLAPSING = "non-collapsing"
STAND_OFF = 0.3


def _pin_fault(pins: int) -> str:
    return "" if pins >= 4 else "a grid has 4 balls or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from array.plausibility(sheet, dims, "b")


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return array.terminals(sheet, dims, "b")


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    _, columns = array.grid_size(sheet)
    pitch, _ = array.pitches(dims)
    ball, low = dims["b"].middle, dims["A1"].middle
    balls = [
        ViewShape("terminal", rounded_rectangle((c - (columns - 1) / 2) * pitch, low / 2, ball, low, low / 2))
        for c in range(columns)
    ]
    return array.top_view(sheet, dims, "b"), array.side_view(dims, balls, low)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = array.bodies(dims)
    balls = (_balls(group, dims) for group in array.terminals_by_size(sheet, dims, "b"))
    return (*array.carried_body(dims, body), *balls)


def _balls(group: array.Terminals, dims: Dims) -> Solid:
    places = tuple(SolidPlacement(x=p.x, y=p.y) for p in group.places)
    # Up to the body, into which a ball that is higher reaches.
    radius = group.width.middle / 2
    ball = Ball(0.0, 0.0, radius, radius, 0.0, dims["A1"].middle + radius / 4)
    return Solid("ball" if group.group == "grid" else "ball of another size", "tin", ball, places)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return array.recipe(sheet, dims, "b", "non-collapsing" if sheet.kind == NON_COLLAPSING else "collapsing")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: BGA, balls, C for collapsing, pitch, columns and rows, body, height."""
    rows, columns = array.grid_size(sheet)
    across, along = array.pitches(dims)
    pitch = hundredths(across) if across == along else f"{hundredths(across)}X{hundredths(along)}"
    letter = "N" if sheet.kind == NON_COLLAPSING else "C"
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"BGA{len(array.positions(sheet, dims))}{letter}{pitch}P{columns}X{rows}_{size}"


FAMILY = Family(
    key="ball-grid",
    title="Ball grid",
    group="Grids",
    summary="BGA, with empty positions",
    letters=(
        *array.LETTERS,
        Letter(key="b", meaning="ball diameter", view="top", reference="e", typical=(0.2, 0.8), also=("B", "d")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.02, 0.8), also=("H",)),
        Letter(
            key="A1",
            meaning="ball height",
            view="side",
            assumed=STAND_OFF,
            reference="A",
            typical=(0.05, 0.8),
            also=("K", "S"),
        ),
    ),
    fields=(*array.FIELDS, array.MASK_DEFINED_FIELD),
    kinds=("collapsing", NON_COLLAPSING),
    default_pins=64,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
