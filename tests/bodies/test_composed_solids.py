"""Composed bodies: sums over letters, rows, mirror images, edges and cuts; volumes compared with their formulas."""

from math import pi
from typing import Any

import pytest
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_ShapeEnum

from eider.bodies.kernel.cad_kernel import explored, make_shape
from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.bodies.solids.composed_solids import composed_solids
from eider.bodies.step_files.step_text import StepError
from eider.bodies.step_files.step_writer import step_file
from eider.geometry.solids import Solid
from eider.model.body import Body, ComposedSolid
from eider.model.item_ref import Ref
from eider.model.outline import OutlineSpec, Step
from eider.packages.family import SheetError
from family_samples import sample

NAMES = {"D": 3.2, "E": 1.6, "L": 0.5, "A": 0.6}


def solids(*rows: ComposedSolid, **outlines: OutlineSpec) -> tuple[Solid, ...]:
    return composed_solids(rows, NAMES, outlines)


def row(**fields: Any) -> ComposedSolid:
    return ComposedSolid(name=fields.pop("name", "body"), **fields)


def volume(solid: Solid) -> float:
    """Of one instance, as the kernel measures it (mm³)."""
    properties = GProp_GProps()
    BRepGProp.VolumeProperties_s(make_shape(solid), properties)
    return float(properties.Mass())


def test_a_chip_with_two_end_caps() -> None:
    body, caps = solids(
        row(length="D-2*L", width="E", height="A", material="ceramic tan"),
        row(name="cap", x="(D-L)/2", length="L", width="E", height="A", mirror="y", material="tin"),
    )
    assert volume(body) == pytest.approx((3.2 - 1.0) * 1.6 * 0.6)
    assert [(place.x, place.y) for place in caps.placements] == [(1.35, 0.0), (-1.35, 0.0)]
    assert measure_body((body, caps)).bounds == ((-1.6, -0.8, 0.0), (1.6, 0.8, 0.6))


@pytest.mark.parametrize(
    ("fields", "expected"),
    [
        ({"shape": "cylinder", "length": "2", "height": "3"}, pi * 3),
        ({"shape": "ball", "length": "2"}, 4 / 3 * pi),
        # A cap of height h of a ball of radius r: π h² (3 r − h) / 3; here the lower 1.5 of 2 mm.
        ({"shape": "ball", "length": "2", "height": "1.5"}, pi * 1.5**2 * (3 - 1.5) / 3),
        ({"shape": "prism", "outline": "0,0 2,0 0,2", "height": "A"}, 2 * 0.6),
        ({"shape": "strip", "outline": "0,0 2,0 2,0.2 0,0.2", "width": "0.3"}, 2 * 0.2 * 0.3),
        # Pappus: the area of the profile times the way of its middle.
        ({"shape": "revolved", "outline": "1,0 2,0 2,1 1,1"}, 1 * 2 * pi * 1.5),
        # Four upright edges lose (1 − π/4) r² each; a chamfer c of them c²/2.
        ({"length": "4", "width": "3", "height": "2", "edges": "upright", "corner": "0.5"}, 24 - (4 - pi) * 0.25 * 2),
        (
            {"length": "4", "width": "3", "height": "2", "edges": "upright", "corner": "0.5", "chamfered": True},
            24 - 4 * 0.125 * 2,
        ),
        # A chamfer of the top is a frustum of height c: (A1 + A2 + √(A1 A2)) c/3 holds for alike sides only; by parts.
        (
            {"length": "4", "width": "3", "height": "2", "edges": "top", "corner": "0.5", "chamfered": True},
            4 * 3 * 1.5 + 0.5 * (4 * 3 - 0.5 * (4 + 3) + 4 / 3 * 0.25),
        ),
        # A cylinder's top rounded by r: the corner that goes away has the area r² (1 − π/4), and its middle lies at
        # r (10 − 3 π) / (12 − 3 π) from the wall: Pappus.
        (
            {"shape": "cylinder", "length": "2", "height": "3", "edges": "top", "corner": "0.2"},
            3 * pi - 0.04 * (1 - pi / 4) * 2 * pi * (1 - 0.2 * (10 - 3 * pi) / (12 - 3 * pi)),
        ),
    ],
)
def test_volumes(fields: dict[str, Any], expected: float) -> None:
    (solid,) = solids(row(**fields))
    assert volume(solid) == pytest.approx(expected)


def test_a_cut_takes_away_what_it_covers() -> None:
    (solid,) = solids(
        row(x="1", z="0.5", length="4", width="4", height="2"),
        row(name="hole", shape="cylinder", x="1", z="1", length="1", height="5", cuts=True),
        row(name="slots", x="1", z="2", length="0.5", width="9", height="9", count="2", dx="3", cuts=True),
    )
    # A bore from 1 to the top at 2.5, and two slots from 2 on, at 1.5 to either side of the middle.
    assert volume(solid) == pytest.approx(32 - pi * 0.25 * 1.5 - 2 * 0.5 * 4 * 0.5)
    assert measure_body((solid,)).bounds == ((-1.0, -2.0, 0.5), (3.0, 2.0, 2.5))


def test_what_joins_is_one_solid_with_what_it_joins() -> None:
    (solid,) = solids(
        row(x="1", length="4", width="2", height="1"),
        row(name="step", x="1", z="1", length="2", width="2", height="1", joins=True),
        row(name="ends", x="1", z="0", length="1", width="2", height="1", count="2", dx="5", joins=True),
        row(name="hole", shape="cylinder", x="1", length="1", height="9", cuts=True),
    )
    # Two blocks and the half of each end that lies outside, less a bore through all: 3 high where the step is.
    assert volume(solid) == pytest.approx(8 + 4 + 2 * 2 - pi * 0.25 * 2)
    assert measure_body((solid,)).bounds == ((-2.0, -1.0, 0.0), (4.0, 1.0, 2.0))
    # Where their faces continue each other no edge is left: bottom, two ends, two sides, four treads and risers, bore.
    assert sum(1 for _ in explored(make_shape(solid), TopAbs_ShapeEnum.TopAbs_FACE)) == 1 + 2 + 2 + 5 + 1


def test_rows_and_both_mirrors() -> None:
    (pins,) = solids(row(x="2", y="1", length="0.2", width="0.1", height="1", count="3", dx="0.5", mirror="both"))
    places = {(place.x, place.y) for place in pins.placements}
    assert places == {(sx * x, sy) for x in (1.5, 2.0, 2.5) for sx in (1, -1) for sy in (1.0, -1.0)}


def test_the_mirror_image_of_a_lopsided_shape_is_a_shape_of_its_own() -> None:
    right, left = solids(row(shape="prism", x="2", outline="0,0 1,0 0,1", height="1", mirror="y"))
    assert measure_body((right,)).bounds[0][0] == 2.0
    assert measure_body((left,)).bounds == ((-3.0, 0.0, 0.0), (-2.0, 1.0, 1.0))
    assert volume(left) == pytest.approx(volume(right))


def test_an_outline_of_the_sheet_is_taken_by_its_name() -> None:
    steps = (Step("right", "D"), Step("up", "E"), Step("left", "D"), Step("down", "E"))
    (solid,) = solids(row(shape="prism", outline="frame", height="1"), frame=OutlineSpec(steps=steps))
    assert volume(solid) == pytest.approx(3.2 * 1.6)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"length": "D"}, "row 1 (body): the width is missing"),
        ({"length": "Q", "width": "1", "height": "1"}, "row 1 (body)"),
        ({"shape": "cone"}, "unknown shape “cone”"),
        ({"shape": "prism", "outline": "0,0 1,1", "height": "1"}, "three places or more"),
        ({"length": "1", "width": "1", "height": "1", "count": "0"}, "a count is a whole number"),
        ({"length": "1", "width": "1", "height": "1", "count": "1e9"}, "a count is a whole number"),
        ({"length": "1", "width": "1", "height": "1", "turn": "half"}, "a turn is a number of degrees"),
        ({"length": "1", "width": "1", "height": "1", "edges": "inner"}, "unknown edges"),
        ({"length": "1", "width": "1", "height": "1", "edges": "all"}, "radius or chamfer of the edges is missing"),
        ({"length": "1", "width": "1", "height": "1", "mirror": "z"}, "unknown mirror"),
        ({"length": "1", "width": "1", "height": "1", "cuts": True}, "no solid before it"),
        ({"length": "1", "width": "1", "height": "1", "joins": True}, "no solid before it"),
    ],
)
def test_what_cannot_be_made_names_the_row(fields: dict[str, Any], words: str) -> None:
    with pytest.raises(SheetError) as fault:
        solids(row(**fields))
    assert words in str(fault.value)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"cuts": True, "joins": True}, "row 3 (body): it can cut the solid before it or join it, not both"),
        ({"joins": True}, "block is cut before this one joins it; move this row up"),
        ({"cuts": True, "edges": "top", "corner": "0.1"}, "edges are those of the solid before it"),
    ],
)
def test_what_cannot_be_combined_names_the_row(fields: dict[str, Any], words: str) -> None:
    size = {"length": "1", "width": "1", "height": "1"}
    with pytest.raises(SheetError) as fault:
        solids(row(name="block", **size), row(name="hole", cuts=True, **size), row(**size, **fields))
    assert words in str(fault.value)


def test_edges_that_do_not_fit_are_told() -> None:
    (solid,) = solids(row(length="1", width="1", height="1", edges="all", corner="2"))
    with pytest.raises(StepError, match=r"edges of body cannot be treated by 2 mm"):
        make_shape(solid)


def test_a_composed_body_takes_the_place_of_the_generated_one() -> None:
    sheet = sample("chip")
    bare = Body(id="b", name="b", package=Ref("p", "p"))
    composed = Body(id="b", name="b", package=Ref("p", "p"), composed=(row(length="D", width="E", height="A"),))
    assert len(body_solids(sheet, bare)) > 1
    (solid,) = body_solids(sheet, composed)
    # D 1.6, E 0.8, A 0.8 of the sample, in the middle of their limits.
    assert measure_body((solid,)).bounds == ((-0.8, -0.4, 0.0), (0.8, 0.4, 0.8))
    assert b"MANIFOLD_SOLID_BREP" in step_file((solid,), "composed")


def test_a_solid_without_size_is_refused_before_the_kernel_sees_it() -> None:
    body = Body(id="b", name="b", package=Ref("p", "p"), composed=(row(length="D", width="E", height="A-A"),))
    with pytest.raises(SheetError, match="the body of the body would have no height"):
        body_solids(sample("chip"), body)
