"""Arcs as chords: every place on the circle, in the sense that was asked for."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.geometry.arcs import arc_points, arc_through


@given(st.floats(-180, 180), st.floats(1, 359), st.floats(0.1, 100), st.booleans())
def test_an_arc_stays_on_its_circle_and_ends_where_it_should(
    begin: float, sweep: float, radius: float, clockwise: bool
) -> None:
    def at(degrees: float) -> tuple[float, float]:
        return 3 + radius * math.cos(math.radians(degrees)), -2 + radius * math.sin(math.radians(degrees))

    end = at(begin - sweep if clockwise else begin + sweep)
    points = arc_points(at(begin), end, (3, -2), clockwise=clockwise)
    assert points[-1] == end and len(points) >= 2
    assert all(math.dist(point, (3, -2)) == pytest.approx(radius, abs=2e-6) for point in points)
    # The length of the chords is near to that of the arc.
    length = sum(math.dist(a, b) for a, b in zip([at(begin), *points], points, strict=False))
    assert length == pytest.approx(math.radians(sweep) * radius, rel=0.01)


def test_an_arc_back_to_its_start_is_a_circle_and_one_without_a_radius_is_its_end() -> None:
    circle = arc_points((1, 0), (1, 0), (0, 0), clockwise=True)
    assert min(x for x, _y in circle) == pytest.approx(-1) and circle[0][1] < 0
    assert arc_points((1, 0), (2, 0), (1, 0), clockwise=False) == [(2, 0)]


def test_an_arc_through_three_places() -> None:
    points = arc_through((-1, 0), (0, 1), (1, 0))
    assert max(y for _x, y in points) == pytest.approx(1) and min(y for _x, y in points) >= 0
    assert min(y for _x, y in arc_through((-1, 0), (0, -1), (1, 0))) == pytest.approx(-1)
    assert arc_through((0, 0), (1, 1), (2, 2)) == [(1, 1), (2, 2)]
