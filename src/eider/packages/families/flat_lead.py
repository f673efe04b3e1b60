"""Flat leads that leave the body at board level: SOD and SOT flat."""

from collections.abc import Iterator

from eider.geometry.plane import box_outline
from eider.geometry.solids import Prism, Solid
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, FamilyField, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual, gullwing, two_ends
from eider.packages.forms.name_codes import hundredths, tenths
from eider.packages.plausibility import feet_apart, larger, row_fits

THICKNESS = 0.12
# Marks are above the body by so little (mm): seen, not measured.
MARK = 0.01
# Numbers by position from the top down, where the sheet names none.
TYPICAL_SIDES = {3: (("1", "", "2"), ("", "3", "")), 5: (("1", "2", "3"), ("5", "", "4"))}


def _pin_fault(pins: int) -> str:
    return "" if 2 <= pins <= 8 else "a flat-lead package has 2 to 8 pins"


def _plausibility(sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from larger(dims, "E", "E1", "the leads reach beyond the body on both sides")
    yield from feet_apart(dims, "E", "L")
    if sheet.pins > 3:
        yield from larger(dims, "e", "b", "neighbouring leads would touch")
    if sheet.pins > 2:
        part = _part(sheet, dims)
        yield from row_fits(dims, "D", [at for _, at in max(part.left, part.right, key=len)])


def _part(sheet: PackageSheet, dims: Dims) -> dual.Dual:
    if sheet.pins == 2 and not sheet.left:
        return two_ends.ends(dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"])
    pitch = dims["e"].middle
    if sheet.pins in TYPICAL_SIDES and not sheet.left:
        left, right = (
            [dual.Numbered(n, (1 - i) * pitch) for i, n in enumerate(side) if n] for side in TYPICAL_SIDES[sheet.pins]
        )
    else:
        left, right = (list(side) for side in dual.two_rows(sheet, pitch))
    return dual.Dual(tuple(left), tuple(right), dims["E"], dims["E1"], dims["D"], dims["L"], dims["b"], pitch)


def _terminals(sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    part = _part(sheet, dims)
    return dual.flat_terminals(part, part.span.middle / 2 - part.foot.middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    part = _part(sheet, dims)
    shown = dual.Shown(pitch="e" if part.pitch else "")
    marks = (
        (gullwing.corner_mark(part.body).outline(),)
        if part.pitch
        else (box_outline(two_ends.cathode_band(part.body)),)
        if sheet.kind == "diode"
        else ()
    )
    top = dual.top_view(part, dual.flat_terminals(part), shown, marks)
    tip = part.span.middle / 2
    profile = box_outline((min(part.width.middle / 2, tip - part.foot.middle), 0.0, tip, dims["c"].middle))
    return top, dual.side_view(part, dims, profile, shown)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    part = _part(sheet, dims)
    tip, half = part.span.middle / 2, part.lead.middle / 2
    inner = min(part.width.middle / 2, tip - part.foot.middle)
    height = dims["A"].upper
    body = dual.block("body", "mould compound", part.body, 0.0, height)
    return (
        body,
        *_marks(sheet, part, height),
        dual.terminal_solid(part, box_outline((inner, -half, tip, half)), dims["c"].middle, "lead"),
    )


def _marks(sheet: PackageSheet, part: dual.Dual, height: float) -> tuple[Solid, ...]:
    """A dot at the first of several leads, a band at the cathode of two."""
    if part.pitch:
        outline = gullwing.corner_mark(part.body).outline()
        return (Solid("pin 1 mark", "marking", Prism(outline, height, height + MARK)),)
    if sheet.kind == "diode":
        return (two_ends.band_solid(part.body, height),)
    return ()


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    part = _part(sheet, dims)
    measures = {"length": dims["E"].middle, "pitch": part.pitch}
    rows = dual.opposed(part, "flat-lead", measures)
    return dual.dual_recipe(part, (rows,), polarised=bool(part.pitch) or sheet.kind == "diode")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: SODFL with span and width in tenths, or SOTFL with pitch, span, height and pins."""
    height = hundredths(dims["A"].upper)
    if sheet.pins == 2:
        return f"SODFL{tenths(dims['E'].middle)}{tenths(dims['D'].middle)}X{height}"
    return f"SOTFL{hundredths(dims['e'].middle)}P{hundredths(dims['E'].middle)}X{height}-{sheet.pins}"


FAMILY = Family(
    key="flat-lead",
    title="Flat lead",
    group="Leads",
    summary="SOD, SOT with flat leads",
    letters=(
        Letter(key="E", meaning="span over the leads", view="top", also=("HE", "H", "L")),
        Letter(key="E1", meaning="body across", view="top", reference="E", typical=(0.4, 0.97), also=("D", "A")),
        Letter(key="D", meaning="body along", view="top", reference="E", typical=(0.2, 2.5), also=("E", "B")),
        Letter(
            key="e",
            meaning="pitch",
            view="top",
            reference="D",
            typical=(0.1, 0.8),
            optional=True,
            pictured=True,
            also=("P",),
        ),
        Letter(key="b", meaning="lead width", view="top", reference="D", typical=(0.1, 0.9), also=("bp", "C")),
        Letter(key="L", meaning="foot length", view="side", reference="E", typical=(0.04, 0.35), also=("Lp",)),
        Letter(key="A", meaning="height", view="side", reference="E", typical=(0.1, 1.0), also=("H",)),
        Letter(
            key="c",
            meaning="lead thickness",
            view="side",
            assumed=THICKNESS,
            reference="A",
            typical=(0.02, 0.5),
            also=("C", "t"),
        ),
    ),
    fields=(
        FamilyField(key="left", title="numbers at the left", kind="numbers"),
        FamilyField(key="right", title="numbers at the right", kind="numbers"),
    ),
    kinds=("diode", "transistor"),
    pin_fault=_pin_fault,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
