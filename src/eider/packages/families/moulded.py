"""Moulded bodies whose two leads turn in under them: tantalum capacitors, DO-214 diodes, moulded inductors."""

from collections.abc import Iterator

from eider.geometry.limits import Limits
from eider.geometry.solids import Prism, Solid, SolidPlacement
from eider.model.package_sheet import PackageSheet
from eider.packages.family import Dims, Family, Implausible, LandRecipe, Letter, Terminal, View
from eider.packages.forms import dual, two_ends
from eider.packages.forms.moulding import mould_top, moulded_block
from eider.packages.forms.name_codes import hundredths, tenths
from eider.packages.plausibility import feet_apart

PREFIX = {"capacitor polarised": "CAPMP", "diode": "DIOM", "resistor": "RESM", "inductor": "INDM", "capacitor": "CAPM"}
# The leads run down the ends of the body: it is so much shorter than the part over them, and they are so thick (mm).
LEAD = 0.12


def _plausibility(_sheet: PackageSheet, dims: Dims) -> Iterator[Implausible]:
    yield from feet_apart(dims, "D", "L")


def _part(dims: Dims) -> dual.Dual:
    body = dims["E1"] if "E1" in dims else Limits(nom=dims["D"].middle - 2 * LEAD, max=dims["D"].upper)
    return two_ends.ends(dims["D"], body, dims["E"], dims["L"], dims["b"])


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    part = _part(dims)
    return dual.flat_terminals(part, part.span.middle / 2 - part.foot.middle)


def _views(sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    part = _part(dims)
    letters = {"span": "D", "length": "E", "lead": "b", **({"width": "E1"} if "E1" in dims else {})}
    marks = (two_ends.cathode_band(part.body),) if two_ends.is_polar(sheet) else ()
    top = two_ends.top_view(part, _terminals(sheet, dims), letters, marks)
    return top, two_ends.side_view(part, dims, LEAD, LEAD, foot=True)


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    part, height = _part(dims), dims["A"].upper
    tip, half = part.span.middle / 2, part.lead.middle / 2
    edge = part.width.middle / 2
    sides = (SolidPlacement(turn=180.0), SolidPlacement())
    solids = [
        moulded_block("body", part.body, LEAD, height),
        Solid("foot", "tin", Prism(dual.flat_foot(part), 0.0, LEAD), sides),
    ]
    if tip > edge:
        up = Prism(((edge, -half), (tip, -half), (tip, half), (edge, half)), 0.0, 0.55 * height)
        solids.append(Solid("lead", "tin", up, sides))
    if two_ends.is_polar(sheet):
        solids.append(two_ends.band_solid(mould_top(part.body, LEAD, height), height))
    return tuple(solids)


def _lands(sheet: PackageSheet, dims: Dims) -> LandRecipe:
    part = _part(dims)
    measures = {"length": dims["D"].middle, "width": dims["E"].middle, "height": dims["A"].upper}
    return two_ends.recipe(part, two_ends.pair(part, "moulded", measures), polarised=two_ends.is_polar(sheet))


def _name(sheet: PackageSheet, dims: Dims) -> str:
    """IPC-7351: class, length and width in tenths, height maximum: CAPMP3528X210."""
    size = tenths(dims["D"].middle) + tenths(dims["E"].middle)
    return f"{PREFIX.get(sheet.kind, 'MOLD')}{size}X{hundredths(dims['A'].upper)}"


FAMILY = Family(
    key="moulded",
    title="Moulded, leads inward",
    group="Two terminals",
    summary="tantalum, DO-214, moulded inductor",
    letters=(
        Letter(key="D", meaning="length over the leads", view="top", also=("L", "A", "HE")),
        Letter(key="E", meaning="body width", view="top", reference="D", typical=(0.3, 1.2), also=("W", "B")),
        Letter(key="E1", meaning="body length", view="top", reference="D", typical=(0.6, 1.0), optional=True),
        Letter(key="b", meaning="lead width", view="top", reference="E", typical=(0.2, 1.0), also=("F", "W1")),
        Letter(key="L", meaning="foot length", view="side", reference="D", typical=(0.05, 0.4), also=("S", "P")),
        Letter(key="A", meaning="height", view="side", reference="D", typical=(0.15, 1.2), also=("H", "T")),
    ),
    kinds=tuple(PREFIX),
    pin_fault=two_ends.one_each,
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
