"""A family from outside: end terminals under a slab, with a count of ribs, and goals of its own."""

from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from eider.geometry.plane import box_outline
from eider.geometry.solids import Prism, Solid
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
    ViewShape,
)
from eider.packages.forms.name_codes import hundredths
from eider.rulebooks.rulebook import GoalRow


def _plausibility(_sheet: PackageSheet, _dims: Dims) -> Iterator[Implausible]:
    return iter(())


def _ribs(sheet: PackageSheet) -> int:
    ribs = sheet.option("ribs")
    return ribs if isinstance(ribs, int) else 1


def _terminals(_sheet: PackageSheet, dims: Dims) -> tuple[Terminal, ...]:
    x, y, foot = dims["D"].middle / 2, dims["E"].middle / 2, dims["L"].middle
    left, right = (-x, -y, -x + foot, y), (x - foot, -y, x, y)
    return Terminal("1", left, left), Terminal("2", right, right)


def _views(_sheet: PackageSheet, dims: Dims) -> tuple[View, ...]:
    x, y, z = dims["D"].middle / 2, dims["E"].middle / 2, dims["A"].upper
    top = View(
        "top",
        (ViewShape("body", box_outline((-x, -y, x, y))),),
        (ViewDimension("D", (-x, y), (x, y), "top"), ViewDimension("E", (x, -y), (x, y), "right")),
    )
    side = View(
        "side", (ViewShape("body", box_outline((-x, 0.0, x, z))),), (ViewDimension("A", (x, 0.0), (x, z), "right"),)
    )
    return top, side


def _solids(sheet: PackageSheet, dims: Dims) -> tuple[Solid, ...]:
    x, y = dims["D"].middle / 2, dims["E"].middle / 2
    height = dims["A"].upper / _ribs(sheet)
    rib = Prism(box_outline((-x, -y, x, y)), 0.0, height)
    return tuple(
        Solid(f"rib {i + 1}", "ceramic", replace(rib, z0=i * height, z1=(i + 1) * height)) for i in range(_ribs(sheet))
    )


def _lands(_sheet: PackageSheet, dims: Dims) -> LandRecipe:
    x, y = dims["D"].middle / 2, dims["E"].middle / 2
    rows = OpposedRows(
        group="slab ends",
        axis="x",
        length=dims["D"],
        foot=dims["L"],
        width=dims["E"],
        first=("1",),
        second=("2",),
        at_first=np.zeros(1),
        at_second=np.zeros(1),
        goals="slab",
        measures={},
    )
    return LandRecipe(rows=(rows,), body=(-x, -y, x, y), body_max=(-x, -y, x, y), first_pin="1")


def _name(sheet: PackageSheet, dims: Dims) -> str:
    return f"SLAB{hundredths(dims['D'].middle)}R{_ribs(sheet)}"


FAMILY = Family(
    key="slab",
    title="Slab with ribs",
    summary="from a file outside Eider",
    letters=(
        Letter(key="D", meaning="length", view="top"),
        Letter(key="E", meaning="width", view="top"),
        Letter(key="L", meaning="foot", view="top"),
        Letter(key="A", meaning="height", view="side"),
    ),
    fields=(FamilyField(key="ribs", title="ribs", kind="count", help="How many ribs stand on each other."),),
    goals=(
        GoalRow(
            family="slab",
            title="Slab with ribs",
            outer=(0.7, 0.5, 0.3),
            inner=(0.0, 0.0, 0.0),
            side=(0.05, 0.0, -0.05),
            courtyard=(0.5, 0.25, 0.1),
            step=0.05,
        ),
    ),
    default_pins=2,
    pin_fault=lambda pins: "" if pins == 2 else "a slab has two ends",
    plausibility=_plausibility,
    terminals=_terminals,
    views=_views,
    solids=_solids,
    lands=_lands,
    name=_name,
)
