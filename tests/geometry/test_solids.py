"""Solids that enclose no space are told, as a CAD kernel may die of one."""

import math

import pytest

from eider.geometry.plane import rectangle
from eider.geometry.solids import Cylinder, Prism, Solid, SolidPlacement, Strip, extent_fault

SQUARE = rectangle(0, 0, 2, 2)
LINE = ((0.0, 0.0), (1.0, 0.0), (2.0, 0.0))


@pytest.mark.parametrize(
    ("shape", "fault"),
    [
        (Prism(SQUARE, 0, 1), ""),
        (Prism(SQUARE, 1, 1), "no height"),
        (Prism(SQUARE, 1, 0), "no height"),
        (Prism(LINE, 0, 1), "no area"),
        (Prism(SQUARE, 0, math.inf), "no finite size"),
        (Prism(SQUARE, 0, 1, (Cylinder(0, 0, 0.2, 0.9, 1),)), ""),
        (Prism(SQUARE, 0, 1, (Cylinder(0, 0, 0, 0.9, 1),)), "a pocket without size"),
        (Prism(SQUARE, 0, 1, (Cylinder(0, math.nan, 0.1, 0.9, 1),)), "no finite size"),
        (Cylinder(0, 0, 1, 0, 2), ""),
        (Cylinder(0, 0, -1, 0, 2), "no diameter"),
        (Strip(SQUARE, 0.3), ""),
        (Strip(SQUARE, -0.3), "no width"),
        (Strip(LINE, 0.3), "no thickness"),
        (Strip(((0.0, math.nan), (1.0, 0.0), (1.0, 1.0)), 0.3), "no finite size"),
    ],
)
def test_a_solid_without_extent_says_why(shape: Prism | Cylinder | Strip, fault: str) -> None:
    assert extent_fault(Solid("lead", "tin", shape)) == fault


def test_a_placement_counts_as_well() -> None:
    assert extent_fault(Solid("lead", "tin", Strip(SQUARE, 1), (SolidPlacement(x=math.inf),))) == "no finite size"
