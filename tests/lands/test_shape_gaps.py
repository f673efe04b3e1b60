"""How near lands come to each other, against what shapely says of their outlines."""

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from eider.lands.shape_gaps import shape_gaps
from eider.model.pattern import Pad
from eider.packages.pads.pad_shapes import pad_outline

LENGTHS = st.floats(0.2, 2.0).map(lambda x: round(x, 3))
PLACES = st.floats(-3.0, 3.0).map(lambda x: round(x, 3))


@st.composite
def pads(draw: st.DrawFn) -> Pad:
    shape = draw(st.sampled_from(("rectangle", "rounded", "oval", "circle")))
    width = draw(LENGTHS)
    return Pad(
        "1",
        draw(PLACES),
        draw(PLACES),
        width,
        width if shape == "circle" else draw(LENGTHS),
        draw(st.sampled_from((0.0, 90.0, 180.0, 30.0))),
        shape,
        corner_radius=0.1 if shape == "rounded" else 0.0,
    )


@given(st.lists(pads(), min_size=2, max_size=6))
def test_distances_are_those_of_the_outlines(shapes: list[Pad]) -> None:
    gaps = shape_gaps(shapes, 10.0)
    assert len(gaps.distance) == len(shapes) * (len(shapes) - 1) // 2
    assert list(gaps.distance) == sorted(gaps.distance)
    for i, j, distance in zip(gaps.first, gaps.second, gaps.distance, strict=True):
        # Outlines have straight pieces for round corners, at most 2.2 µm inside a radius of 1 mm.
        true = shapely.Polygon(pad_outline(shapes[i])).distance(shapely.Polygon(pad_outline(shapes[j])))
        assert max(distance, 0.0) == pytest.approx(true, abs=0.0045)


def test_round_lands_at_a_diagonal_are_farther_apart_than_their_boxes() -> None:
    ball = Pad("1", 0.0, 0.0, 0.5, 0.5, shape="circle")
    # Centres 1.0 mm apart each way: √2 less two radii of 0.25.
    (gap,) = shape_gaps([ball, replace(ball, number="2", x=1.0, y=1.0)], 1.0).distance
    assert gap == pytest.approx(2**0.5 - 0.5)


def test_only_pairs_below_the_limit_are_given() -> None:
    land = Pad("1", 0.0, 0.0, 0.4, 0.4)
    row = [replace(land, number=str(i), x=0.5 * i) for i in range(4)]
    gaps = shape_gaps(row, 0.2)
    assert list(zip(gaps.first, gaps.second, strict=True)) == [(0, 1), (1, 2), (2, 3)]
    assert list(gaps.distance) == pytest.approx([0.1, 0.1, 0.1])
    # A gap of just the limit is not below it.
    assert len(shape_gaps(row, 0.1).distance) == 0
    assert len(shape_gaps([], 1.0).distance) == 0
