"""Land grids: flat lands under the body, LGA."""

from collections.abc import Iterator

from eider.geometry.plane import box_outline
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View, ViewShape
from eider.packages.forms import array
from eider.packages.forms.name_codes import hundredths

ROUND, SQUARE = "round lands", "square lands"
THIN = 0.03


def _pin_fault(pins: int) -> str:
    return "" if pins >= 4 else "a grid has 4 lands or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from array.plausibility(sheet, dims, "b")


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return array.terminals(sheet, dims, "b", square=_is_square(sheet))


def _is_square(sheet: PackageSheet) -> bool:
    return sheet.kind == SQUARE or sheet.limits("L") is not None


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    _, columns = array.grid_size(sheet)
    pitch, _ = array.pitches(dims)
    half = dims["b"].middle / 2
    middles = [(c - (columns - 1) / 2) * pitch for c in range(columns)]
    lands = [ViewShape("terminal", box_outline((x - half, 0.0, x + half, THIN))) for x in middles]
    return array.top_view(sheet, dims, "b", square=_is_square(sheet)), array.side_view(dims, lands, dims["A1"].middle)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    body, _ = array.bodies(dims)
    lands = (_group(group, dims) for group in array.terminals_by_size(sheet, dims, "b"))
    return (*array.carried_body(dims, body), *lands)


def _group(group: array.Terminals, dims: Dims) -> Solid:
    w, h = group.width.middle / 2, group.height.middle / 2
    places = tuple(SolidPlacement(x=p.x, y=p.y) for p in group.places)
    land = Prism(box_outline((-w, -h, w, h)), 0.0, max(THIN, dims["A1"].middle))
    return Solid("land" if group.group == "grid" else "land of another size", "gold", land, places)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return array.recipe(sheet, dims, "b", "flat", square=_is_square(sheet))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """As a ball grid's: LGA, lands, pitch, columns and rows, body, height."""
    rows, columns = array.grid_size(sheet)
    across, _ = array.pitches(dims)
    size = f"{hundredths(dims['D'].middle)}X{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"LGA{len(array.positions(sheet, dims))}C{hundredths(across)}P{columns}X{rows}_{size}"


FAMILY = Family(
    key="land-grid",
    title="Land grid",
    group="Grids",
    summary="LGA",
    letters=(
        *array.LETTERS,
        Letter(key="b", meaning="land size", view="top", reference="e", typical=(0.2, 0.9), also=("B", "d")),
        Letter(
            key="L",
            meaning="land length along, of rectangles",
            view="top",
            reference="b",
            typical=(0.3, 8.0),
            optional=True,
            by_name=True,
        ),
        Letter(
            key="L2",
            meaning="land length where it is another",
            view="top",
            reference="b2",
            typical=(0.3, 8.0),
            optional=True,
            by_name=True,
        ),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.02, 0.8), also=("H",)),
        Letter(
            key="A1", meaning="stand-off", view="side", assumed=THIN, reference="A", typical=(0.0, 0.3), also=("K", "S")
        ),
    ),
    fields=(*array.FIELDS, array.MASK_DEFINED_FIELD),
    kinds=(ROUND, SQUARE),
    default_pins=64,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
