import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import LineString, Polygon

from eider.geometry.plane import Outline, rectangle, rotated
from eider.geometry.rounding import round_to_step
from eider.geometry.shapes import cut_line, keep_out, rounded_rectangle


@pytest.mark.parametrize(
    ("value", "step", "direction", "expected"),
    [
        (2.8702, 0.05, "nearest", 2.85),
        (0.275, 0.05, "nearest", 0.30),
        (2.975, 0.05, "nearest", 3.0),
        (1.133, 0.05, "up", 1.15),
        (1.15, 0.05, "up", 1.15),
        (-0.01, 0.05, "down", -0.05),
        (0.3, 0.05, "down", 0.3),
        (0.1234, 0.0, "nearest", 0.1234),
    ],
)
def test_rounding(value: float, step: float, direction: str, expected: float) -> None:
    assert round_to_step(value, step, direction) == expected  # type: ignore[arg-type]


def cut_lines(lines: list[Outline], openings: list[Outline], clearance: float, shortest: float) -> list[Outline]:
    return [piece for line in lines for piece in cut_line(line, keep_out(openings, clearance), shortest)]


def test_a_line_is_cut_clear_of_a_box() -> None:
    # A line along x through a box of ±1 with 0.2 clearance: left and right of ±1.2 remain.
    pieces = cut_lines([((-3.0, 0.0), (3.0, 0.0))], [rectangle(0, 0, 2, 2)], 0.2, 0.1)
    assert pieces == [((-3.0, 0.0), (-1.2, 0.0)), ((1.2, 0.0), (3.0, 0.0))]


def test_left_overs_shorter_than_the_limit_are_dropped() -> None:
    assert cut_lines([((-1.3, 0.0), (3.0, 0.0))], [rectangle(0, 0, 2, 2)], 0.2, 0.2) == [((1.2, 0.0), (3.0, 0.0))]


def test_a_closed_line_is_one_piece_round_its_start() -> None:
    ring = rectangle(0, 0, 4, 4)
    pieces = cut_lines([(*ring, ring[0])], [rectangle(2, 0, 1, 1)], 0.0, 0.1)
    assert len(pieces) == 1
    assert len(pieces[0]) == 6


@given(
    st.lists(st.tuples(*[st.floats(-5, 5)] * 2, *[st.floats(0.2, 3)] * 2, st.sampled_from([0, 30, 45])), max_size=6),
    st.floats(0, 0.5),
)
def test_what_remains_keeps_clear_of_every_opening(boxes: list[tuple[float, ...]], clearance: float) -> None:
    openings = [rotated(rectangle(x, y, w, h), turn, (x, y)) for x, y, w, h, turn in boxes]
    ring = rectangle(0, 0, 6, 4)
    for piece in cut_lines([(*ring, ring[0])], openings, clearance, 0.05):
        for opening in openings:
            assert LineString(piece).distance(Polygon(opening)) >= clearance - 1e-5


def test_a_rounded_rectangle_loses_its_corners() -> None:
    # Area of a rectangle with corner radius r: w·h − (4 − π)·r².
    outline = rounded_rectangle(0, 0, 2.0, 1.0, 0.25)
    assert Polygon(outline).area == pytest.approx(2.0 - (4 - math.pi) * 0.25**2, rel=1e-3)
