"""Contacts along the edge of the user's own board, which plug into an edge-card socket; on one side or on both."""

from collections.abc import Iterator, Sequence

from eider.geometry.plane import Box, Outline, box_outline, join_boxes
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
    Terminal,
    View,
    ViewDimension,
)
from eider.packages.forms import bare_lands
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import larger

ROW, ZIGZAG = "row", "zigzag"
BOTH = "both_sides"
# The opening of the mask reaches so far beyond the contacts (mm): no mask is left between them.
OPEN = 0.25


def _pin_fault(pins: int) -> str:
    return "" if pins >= 2 else "an edge has 2 contacts or more"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "e", "b", "neighbouring contacts would touch")
    if _is_double(sheet) and sheet.pins % 2:
        message = "contacts on both sides of the board are an even number"
        yield Implausible(("pins",), message, str(sheet.pins), f"{sheet.pins - 1} or {sheet.pins + 1}")


def _is_double(sheet: PackageSheet) -> bool:
    return sheet.option(BOTH) is True


def _numbers(sheet: PackageSheet) -> tuple[Sequence[str], Sequence[str]]:
    """Numbers on the top and on the bottom, from the left as seen from above."""
    count = sheet.pins + len(sheet.missing)
    if not _is_double(sheet):
        return [str(i + 1) for i in range(count)], ()
    half = count // 2
    if sheet.numbering == ZIGZAG:
        return [str(2 * i + 1) for i in range(half)], [str(2 * i + 2) for i in range(half)]
    return [str(i + 1) for i in range(half)], [str(half + i + 1) for i in range(half)]


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    """The contacts about the middle of their field; one opening of each side lies over all of its contacts."""
    width, length, pitch = dims["b"].middle, dims["L"].middle, dims["e"].middle
    made = []
    for numbers, side in zip(_numbers(sheet), ("top", "bottom"), strict=True):
        middle = (len(numbers) - 1) / 2
        places = [(n, tidy((i - middle) * pitch)) for i, n in enumerate(numbers) if n not in sheet.missing]
        for index, (number, x) in enumerate(places):
            pad = Pad(number, x, 0.0, width, length, layers=side)
            opening = _opening(x, (places[0][1], places[-1][1]), dims) if index == 0 else ()
            made.append(
                ManualPad(pad=pad, mask=0.0 if opening else None, mask_outline=opening, no_mask=not opening,
                          no_paste=True)
            )  # fmt: skip
    return tuple(made)


def _opening(x: float, ends: tuple[float, float], dims: Dims) -> Outline:
    """The opening over all contacts of a side, about the first of them, down to the edge of the board."""
    half, length = dims["b"].middle / 2, dims["L"].middle / 2
    low, high = -length - dims["s"].middle, length + OPEN
    return box_outline((ends[0] - half - OPEN - x, low, ends[1] + half + OPEN - x, high))


def _around(sheet: PackageSheet, dims: Dims) -> Box:
    x0, y0, x1, y1 = join_boxes([manual.pad.box for manual in _pads(sheet, dims)])
    return x0, y0 - dims["s"].middle, x1, y1


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return bare_lands.terminals(_pads(sheet, dims))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    pads = [manual.pad for manual in _pads(sheet, dims)]
    x, y0, half = pads[0].x, -dims["L"].middle / 2, dims["b"].middle / 2
    edge = y0 - dims["s"].middle
    lengths = (
        ViewDimension("e", (x, -y0), (x + dims["e"].middle, -y0), "top"),
        ViewDimension("b", (x - half, y0), (x + half, y0), "bottom"),
        ViewDimension("L", (x - half, y0), (x - half, -y0), "left"),
        ViewDimension("s", (x - half, edge), (x - half, y0), "left", 2),
    )
    return bare_lands.views(_pads(sheet, dims), _around(sheet, dims), lengths)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    """The contacts of the top; those of the bottom lie under the board."""
    return tuple(
        Solid(f"contact {manual.pad.number}", "gold", Prism(box_outline(manual.pad.box), 0.0, bare_lands.COPPER))
        for manual in _pads(sheet, dims)
        if manual.pad.layers == "top"
    )


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    return bare_lands.bare_recipe(_pads(sheet, dims), _around(sheet, dims))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """EDGE, contacts, pitch, contact width and length; D where they stand on both sides."""
    size = f"{hundredths(dims['b'].middle)}X{hundredths(dims['L'].middle)}"
    return f"EDGE{sheet.pins}P{hundredths(dims['e'].middle)}_{size}{'D' if _is_double(sheet) else ''}"


FAMILY = Family(
    key="edge-contacts",
    title="Edge contacts",
    group="Copper alone",
    summary="contacts of the board's own edge",
    letters=(
        Letter(key="e", meaning="pitch", view="top", also=("P", "p")),
        Letter(key="b", meaning="contact width", view="top", reference="e", typical=(0.3, 0.95), also=("W", "w")),
        Letter(key="L", meaning="contact length", view="top", reference="e", typical=(0.5, 15.0), also=("A", "H")),
        Letter(
            key="s",
            meaning="contact to the edge of the board",
            view="top",
            reference="L",
            typical=(0.0, 1.0),
            also=("S", "E"),
        ),
    ),
    fields=(
        FamilyField(key=BOTH, title="on both sides", kind="flag"),
        FamilyField(key="numbering", title="numbered", kind="choice", choices=(ROW, ZIGZAG)),
        FamilyField(key="missing", title="places of the key", kind="numbers"),
    ),
    default_pins=10,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
