"""Lands in a row that are bridged, with solder or by copper: solder jumpers, and net ties."""

from collections.abc import Iterator

from eider.geometry.plane import Box, Outline, bounds, join_boxes
from eider.geometry.rounding import tidy
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
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
from eider.packages.pads.pad_shapes import pad_outline
from eider.packages.plausibility import larger

JUMPER, NET_TIE = "solder jumper", "net tie"
BRIDGED = "bridged"
MOST_PINS = 8


def _pin_fault(pins: int) -> str:
    return "" if 2 <= pins <= MOST_PINS else f"a jumper or net tie has 2 to {MOST_PINS} pins"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    if _bridges(sheet):
        yield from larger(dims, "b", "w", "the bridge is narrower than the lands")


def _bridges(sheet: PackageSheet) -> tuple[tuple[str, str], ...]:
    """The pairs of neighbours that copper joins: all of a net tie, of a jumper those that the sheet names (`1-2`).

    Raises:
        SheetError: a text names no two lands that stand next to each other.
    """
    neighbours = [(str(i), str(i + 1)) for i in range(1, sheet.pins)]
    if sheet.kind == NET_TIE:
        return tuple(neighbours)
    named = sheet.option(BRIDGED)
    found = []
    for text in named if isinstance(named, tuple) else ():
        first, _, second = (piece.strip() for piece in text.partition("-"))
        if (first, second) not in neighbours:
            raise SheetError(f"“{text}” are no neighbours of this jumper; enter pairs such as 1-2", BRIDGED)
        found.append((first, second))
    return tuple(found)


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    """The lands from the left; half of each bridge belongs to the land at its end."""
    length, width, gap = dims["L"].middle, dims["b"].middle, dims["g"].middle
    pitch, bridges = length + gap, _bridges(sheet)
    made = []
    for i in range(sheet.pins):
        number = str(i + 1)
        left, right = (str(i), number) in bridges, (number, str(i + 2)) in bridges
        x = tidy((i - (sheet.pins - 1) / 2) * pitch)
        if left or right:
            outline = _with_arms((length, width), dims["w"].middle, gap / 2, left=left, right=right)
            x0, y0, x1, y1 = bounds(outline)
            pad = Pad(number, x, 0.0, tidy(x1 - x0), tidy(y1 - y0), shape="outline", outline=outline)
        else:
            pad = bare_lands.land(number, (x, 0.0), (length, width))
        made.append(ManualPad(pad=pad, no_mask=sheet.kind == NET_TIE, no_paste=True))
    return tuple(made)


def _with_arms(size: tuple[float, float], wide: float, reach: float, *, left: bool, right: bool) -> Outline:
    """A rectangle about the origin with arms to its neighbours (mm), counter-clockwise."""
    x, y, w = size[0] / 2, size[1] / 2, wide / 2
    arm_right = [(x, -w), (x + reach, -w), (x + reach, w), (x, w)] if right else []
    arm_left = [(-x, w), (-x - reach, w), (-x - reach, -w), (-x, -w)] if left else []
    points = [(-x, -y), (x, -y), *arm_right, (x, y), (-x, y), *arm_left]
    return tuple((tidy(px), tidy(py)) for px, py in points)


def _around(sheet: PackageSheet, dims: Dims) -> Box:
    return join_boxes([manual.pad.box for manual in _pads(sheet, dims)])


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    length, width, gap = dims["L"].middle, dims["b"].middle, dims["g"].middle
    x = -(sheet.pins - 1) / 2 * (length + gap)
    lengths = [
        ViewDimension("L", (x - length / 2, -width / 2), (x + length / 2, -width / 2), "bottom"),
        ViewDimension("g", (x + length / 2, -width / 2), (x + length / 2 + gap, -width / 2), "bottom", 2),
        ViewDimension("b", (x - length / 2, -width / 2), (x - length / 2, width / 2), "left"),
    ]
    if _bridges(sheet):
        half, end = dims["w"].middle / 2, -x + length / 2
        lengths.append(ViewDimension("w", (end, -half), (end, half), "right"))
    return bare_lands.views(_pads(sheet, dims), _around(sheet, dims), tuple(lengths))


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return tuple(
        Solid(f"land {manual.pad.number}", "copper", Prism(pad_outline(manual.pad), 0.0, bare_lands.COPPER))
        for manual in _pads(sheet, dims)
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return bare_lands.bare_recipe(_pads(sheet, dims), joined=_bridges(sheet))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """JMP or NT with pins, land and gap; B and the pairs that copper joins."""
    size = f"{hundredths(dims['L'].middle)}X{hundredths(dims['b'].middle)}G{hundredths(dims['g'].middle)}"
    if sheet.kind == NET_TIE:
        return f"NT{sheet.pins}_{size}"
    joined = "".join(f"B{first}{second}" for first, second in _bridges(sheet))
    return f"JMP{sheet.pins}_{size}{joined}"


FAMILY = Family(
    key="solder-jumper",
    title="Solder jumper, net tie",
    group="Copper alone",
    summary="lands bridged by solder or copper",
    letters=(
        Letter(key="L", meaning="length of a land", view="top", also=("A",)),
        Letter(key="b", meaning="width of a land", view="top", reference="L", typical=(0.3, 4.0), also=("B", "W")),
        Letter(key="g", meaning="gap between lands", view="top", reference="L", typical=(0.05, 2.0), also=("G", "S")),
        Letter(key="w", meaning="width of a bridge of copper", view="top", reference="b", typical=(0.1, 0.9),
               optional=True),
    ),
    fields=(
        FamilyField(key=BRIDGED, title="bridged by copper", kind="numbers",
                    help="Neighbours of a jumper that copper joins until it is cut, such as 1-2."),
    ),
    kinds=(JUMPER, NET_TIE),
    default_pins=2,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
