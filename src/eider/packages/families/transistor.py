"""Small gull-wing packages with uneven rows: SOT-23, SOT-25, SOT-143, SOT-223, SC-70 and their like."""

from collections.abc import Iterator

import msgspec

from eider.geometry.plane import Point
from eider.geometry.solids import Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import (
    Dims,
    Family,
    FamilyField,
    Implausible,
    LandRecipe,
    Letter,
    OpposedRows,
    Terminal,
    View,
    ViewDimension,
)
from eider.packages.forms import dual, gullwing
from eider.packages.forms.name_codes import hundredths
from eider.packages.plausibility import feet_apart, foot_outside_body, larger, row_fits

# Numbers by position from the top down, where the sheet names none.
TYPICAL = {
    3: (("1", "", "2"), ("", "3", "")),
    4: (("1", "2"), ("4", "3")),
    5: (("1", "2", "3"), ("5", "", "4")),
    6: (("1", "2", "3"), ("6", "5", "4")),
    8: (("1", "2", "3", "4"), ("8", "7", "6", "5")),
}


# What the groups of leads are called that are not alike.
TITLES = {"first": "pin 1", "left": "left row", "right": "right row"}


def _pin_fault(pins: int) -> str:
    return "" if 3 <= pins <= 12 else "a small transistor package has 3 to 12 pins"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the lead span reaches beyond the body on both sides")
    yield from larger(dims, "e", "b", "neighbouring leads would touch")
    yield from larger(dims, "A", "A1", "the height includes the stand-off")
    yield from feet_apart(dims, "E", "L")
    yield from foot_outside_body(dims, "E", "E1", "L")
    parts = [part for _, part in _parts(sheet, dims)]
    rows = [at for part in parts for _, at in part.left], [at for part in parts for _, at in part.right]
    yield from row_fits(dims, "D", max(rows, key=len))


def _sided(sheet: PackageSheet) -> PackageSheet:
    if sheet.left or sheet.right or sheet.pins not in TYPICAL:
        return sheet
    left, right = TYPICAL[sheet.pins]
    return msgspec.structs.replace(sheet, left=left, right=right)


def _both(sheet: PackageSheet, dims: Dims) -> tuple[dual.Dual, dual.Dual]:
    """The left row with the left leads, and the right row with its own lead where that differs."""
    left, right = dual.two_rows(_sided(sheet), dims["e"].middle)
    foot, lead = (dims[f"{x}_right"] if f"{x}_right" in dims else dims[x] for x in ("L", "b"))
    frame = dual.Dual(left, (), dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"], dims["e"].middle)
    return frame, frame._replace(left=(), right=right, foot=foot, lead=lead)


def _parts(sheet: PackageSheet, dims: Dims) -> tuple[tuple[str, dual.Dual], ...]:
    """Leads that are alike, each kind with its name: pin 1 by itself where it is wider or is at another pitch."""
    left, right = _both(sheet, dims)
    if ("b_first" not in dims and "e_first" not in dims) or len(left.left) < 2:
        return (("left", left), ("right", right))
    first, second, *_ = left.left
    at = second.at + (dims["e_first"].middle if "e_first" in dims else first.at - second.at)
    lead = dims["b_first"] if "b_first" in dims else dims["b"]
    alone = left._replace(left=(dual.Numbered(first.number, at),), lead=lead)
    return (("first", alone), ("left", left._replace(left=left.left[1:])), ("right", right))


def _alike(dims: Dims) -> bool:
    return not {"b_right", "L_right", "b_first", "e_first"} & set(dims)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    return tuple(t for _, part in _parts(sheet, dims) for t in dual.flat_terminals(part))


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    left, right = _both(sheet, dims)
    shown = dual.Shown()
    mark = gullwing.corner_mark(left.body).outline()
    rows = left._replace(right=right.right)
    top = dual.top_view(rows, _terminals(sheet, dims), shown._replace(lead=""), (mark,))
    lead = ViewDimension("b", *_lead_ends(left), "left", 2)
    top = View(top.name, top.shapes, (*top.dimensions, lead))
    more = (*_right_dimensions(right, dims), *_first_dimensions(sheet, dims))
    top = View(top.name, top.shapes, (*top.dimensions, *more))
    profile = gullwing.seen_profile(dims, dims["E"], dims["E1"])
    return top, dual.side_view(left, dims, profile, shown, low=dims["A1"].middle)


def _lead_ends(left: dual.Dual) -> tuple[Point, Point]:
    tip, at, half = -left.span.middle / 2, left.left[-1].at if left.left else 0.0, left.lead.middle / 2
    return (tip, at - half), (tip, at + half)


def _right_dimensions(right: dual.Dual, dims: Dims) -> Iterator[ViewDimension]:
    """Width and foot of the right leads, where they differ from the left ones."""
    tip, at = right.span.middle / 2, right.right[0].at if right.right else 0.0
    half, foot = right.lead.middle / 2, right.foot.middle
    if "b_right" in dims:
        yield ViewDimension("b_right", (tip, at - half), (tip, at + half), "right", 3)
    if "L_right" in dims:
        yield ViewDimension("L_right", (tip - foot, at - half), (tip, at - half), "bottom")


def _first_dimensions(sheet: PackageSheet, dims: Dims) -> Iterator[ViewDimension]:
    """Width and pitch of pin 1, where they differ from the others."""
    (name, part), *others = _parts(sheet, dims)
    if name != "first":
        return
    tip, at, half = -part.span.middle / 2, part.left[0].at, part.lead.middle / 2
    if "b_first" in dims:
        yield ViewDimension("b_first", (tip, at - half), (tip, at + half), "left", 3)
    if "e_first" in dims:
        yield ViewDimension("e_first", (tip, others[0][1].left[0].at), (tip, at), "left", 4)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    parts = _parts(sheet, dims)
    box = parts[0][1].body
    body, dot = gullwing.marked_body(dims, box, gullwing.corner_mark(box))
    solids = [body, dot]
    for name, part in parts:
        profile = gullwing.lead_profile(dims, dims["E"], dims["E1"], part.foot)
        strip = gullwing.lead_strip(profile, dims["c"].middle, part.lead.middle)
        turn = 0.0 if name == "right" else 180.0
        places = tuple(SolidPlacement(y=y, turn=turn) for _, y in (*part.left, *part.right))
        if places:
            solids.append(Solid(f"lead {name}", "tin", strip, places))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    left, right = _both(sheet, dims)
    measures = {"pitch": left.pitch}
    rows: tuple[OpposedRows, ...]
    if _alike(dims):
        rows = (dual.opposed(left._replace(right=right.right), "gullwing", measures),)
    else:
        parts = _parts(sheet, dims)
        rows = tuple(dual.opposed(part, "gullwing", measures, TITLES[name]) for name, part in parts)
    return msgspec.structs.replace(dual.dual_recipe(left, rows), stand_off=dims["A1"].lower)


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SOT, pitch, nominal span, maximum height, pins."""
    left, right = _both(sheet, dims)
    size = f"{hundredths(dims['E'].middle)}X{hundredths(dims['A'].upper)}"
    return f"SOT{hundredths(dims['e'].middle)}P{size}-{len(left.left) + len(right.right)}"


FAMILY = Family(
    key="transistor",
    title="Small transistor",
    group="Leads",
    summary="SOT-23, SOT-25, SOT-143, SC-70",
    letters=(
        Letter(key="E", meaning="lead span, tip to tip", view="top", also=("H", "HE", "C")),
        Letter(key="E1", meaning="body width", view="top", reference="E", typical=(0.3, 0.97), also=("E", "B", "W")),
        Letter(key="D", meaning="body length along", view="top", reference="E", typical=(0.4, 3.0), also=("A",)),
        Letter(key="e", meaning="pitch", view="top", reference="E", typical=(0.1, 0.8), also=("P", "G")),
        Letter(key="b", meaning="lead width", view="top", reference="e", typical=(0.15, 0.9), also=("B", "bp", "W")),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.04, 0.4), also=("Lp", "K")),
        Letter(key="b_right", meaning="lead width at the right", view="top", reference="D", typical=(0.05, 0.9),
               optional=True, also=("b1", "b2")),
        Letter(key="L_right", meaning="foot length at the right", view="top", reference="E", typical=(0.04, 0.5),
               optional=True, also=("L2",)),
        Letter(key="b_first", meaning="width of the lead of pin 1", view="top", reference="D", typical=(0.05, 0.9),
               optional=True, by_name=True),
        Letter(key="e_first", meaning="pitch from pin 1 to the next", view="top", reference="e", typical=(0.3, 3.0),
               optional=True, by_name=True),
        *gullwing.HEIGHT_LETTERS,
    ),
    fields=(
        FamilyField(key="left", title="numbers at the left", kind="numbers"),
        FamilyField(key="right", title="numbers at the right", kind="numbers"),
    ),
    default_pins=3,
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)  # fmt: skip
