"""Anything: pads by sums over letters that the sheet names as it likes, with copper outlines; the body is a box."""

from collections.abc import Iterator
from functools import lru_cache

from eider.geometry.plane import Box, box_outline, join_boxes
from eider.geometry.solids import Solid
from eider.model.outline import OutlineSpec, PadSpec
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
    ViewShape,
)
from eider.packages.forms import dual
from eider.packages.forms.name_codes import hundredths
from eider.packages.pads.manual_pads import make_manual_pads

HEIGHT = 2.0
# What a part by hand can be, and how the name of its pattern then begins.
DEVICES = {
    "battery holder": "BATTHOLDER",
    "connector": "CONN",
    "module": "MODULE",
    "relay": "RELAY",
    "switch": "SWITCH",
    "transformer": "XFMR",
}


def _pin_fault(pins: int) -> str:
    return "" if pins >= 1 else "a part has pins"


def _pads(sheet: PackageSheet, dims: Dims) -> tuple[ManualPad, ...]:
    if not sheet.pads:
        raise SheetError("there are no pads yet; add rows to the pads of the sheet", "pads")
    names = tuple((letter, limits.middle) for letter, limits in dims.items())
    return _laid(sheet.pads, tuple(sheet.outlines.items()), names)


# Recipes and checks ask for the pads of one sheet many times.
@lru_cache(maxsize=32)
def _laid(
    pads: tuple[PadSpec, ...], outlines: tuple[tuple[str, OutlineSpec], ...], names: tuple[tuple[str, float], ...]
) -> tuple[ManualPad, ...]:
    return make_manual_pads(pads, dict(outlines), dict(names))


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    pads = [g.pad for g in _pads(sheet, dims)] if sheet.pads else []
    numbers = {pad.number for pad in pads if pad.number and pad.plated}
    if pads and len(numbers) != sheet.pins:
        message = f"the pads bear {len(numbers)} numbers, the package has {sheet.pins} pins"
        yield Implausible(("pads",), message, str(len(numbers)), str(sheet.pins))


def _body(sheet: PackageSheet, dims: Dims, *, largest: bool = False) -> Box:
    """The body by D and E about the origin, or from where `left` and `below` say; else the box around the pads."""
    if "D" in dims and "E" in dims:
        ends = [_extent(dims, size, start, largest=largest) for size, start in (("D", "left"), ("E", "below"))]
        (x0, x1), (y0, y1) = ends
        return x0, y0, x1, y1
    return join_boxes([g.pad.box for g in _pads(sheet, dims)])


def _extent(dims: Dims, size: str, start: str, *, largest: bool) -> tuple[float, float]:
    """Where the body begins and ends along an axis; at its largest it grows to both sides alike."""
    middle = dims[size].middle
    begin = -dims[start].middle if start in dims else -middle / 2
    grown = (dims[size].upper - middle) / 2 if largest else 0.0
    return begin - grown, begin + middle + grown


def _is_terminal(pad: Pad) -> bool:
    return bool(pad.number) and pad.plated


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    """One for each number, its first pad: further pads of the number belong to it."""
    found: dict[str, Terminal] = {}
    for g in _pads(sheet, dims):
        if _is_terminal(g.pad):
            found.setdefault(g.pad.number, Terminal(g.pad.number, g.pad.box, g.pad.box))
    return tuple(found.values())


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x0, y0, x1, y1 = body = _body(sheet, dims)
    terminals = [ViewShape("terminal", box_outline(t.whole)) for t in _terminals(sheet, dims)]
    shown = [ViewDimension("D", (x0, y1), (x1, y1), "top")] if "D" in dims else []
    shown += [ViewDimension("E", (x1, y0), (x1, y1), "right")] if "E" in dims else []
    shown += [ViewDimension("left", (x0, y0), (0.0, y0), "bottom")] if "left" in dims else []
    shown += [ViewDimension("below", (x0, y0), (x0, 0.0), "left")] if "below" in dims else []
    height = dims["A"].upper
    side = View(
        "side",
        (ViewShape("body", box_outline((x0, 0.0, x1, height))),),
        (ViewDimension("A", (x0, 0.0), (x0, height), "left"),),
    )
    return View("top", (ViewShape("body", box_outline(body)), *terminals), tuple(shown)), side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    return (dual.block("body", "housing", _body(sheet, dims), 0.0, dims["A"].upper),)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    pads = _pads(sheet, dims)
    first = next((g.pad.number for g in pads if _is_terminal(g.pad)), "")
    return LandRecipe(
        manual_pads=pads,
        body=_body(sheet, dims),
        body_max=_body(sheet, dims, largest=True),
        first_pin=first,
        polarised=sheet.pins > 1,
        goals="through-hole",
    )


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """No standard names it: the sheet's own name, else pins and size."""
    x0, y0, x1, y1 = _body(sheet, dims)
    size = f"{hundredths(x1 - x0)}X{hundredths(y1 - y0)}X{hundredths(dims['A'].upper)}"
    return f"{DEVICES.get(str(sheet.option('device') or ''), 'PART')}{size}-{sheet.pins}"


FAMILY = Family(
    key="custom",
    title="Manual pads",
    group="Anything",
    summary="anything: pads by sums, outlines",
    letters=(
        Letter(key="D", meaning="body across", view="top", optional=True, also=("A", "L")),
        Letter(key="E", meaning="body along", view="top", reference="D", typical=(0.02, 50.0), optional=True),
        Letter(key="left", meaning="origin to left edge", view="top", optional=True),
        Letter(key="below", meaning="origin to lower edge", view="top", optional=True),
        Letter(key="A", meaning="height", view="side", assumed=HEIGHT, reference="D", typical=(0.01, 9.0), also=("H",)),
    ),
    fields=(
        FamilyField(
            key="device",
            title="is a",
            kind="choice",
            choices=("part", *DEVICES),
            help="What the part is: the name of the land pattern begins with it.",
        ),
    ),
    default_pins=2,
    any_letters=True,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
