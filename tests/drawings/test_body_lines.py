"""Edges of bodies in isometric view: x to the right and down, y to the right and up, z up."""

import math

import pytest

from eider.drawings.body_lines import body_drawing, box_drawing
from eider.geometry.solids import Ball, Cylinder, Prism, Revolved, Shape, Solid, SolidPlacement, Strip

COS, SIN = math.sqrt(3) / 2, 0.5
SQUARE = ((0.0, 0.0), (2.0, 0.0), (2.0, 1.0), (0.0, 1.0))


def test_a_box_has_twelve_edges_where_they_are_seen() -> None:
    drawing = box_drawing((0.0, 0.0, 0.0), (2.0, 1.0, 3.0))
    edges = sum(len(line.points) - 1 for line in drawing.primitives)  # type: ignore[union-attr]
    assert edges == 4 + 4 + 4
    # The corner (2, 0, 0) is farthest to the right; (2, 1, 3) is the highest, (0, 0, 0) the lowest.
    assert drawing.box == pytest.approx((-1 * COS, 0.0, 2 * COS, (2 + 1) * SIN + 3), abs=1e-4)


def test_instances_are_moved_and_turned() -> None:
    alone = body_drawing([Solid("lead", "", Prism(SQUARE, 0.0, 1.0))])
    turned = SolidPlacement(x=5.0, z=2.0, turn=90.0)
    both = body_drawing([Solid("lead", "", Prism(SQUARE, 0.0, 1.0), (SolidPlacement(), turned))])
    assert len(both.primitives) == 2 * len(alone.primitives)
    # Turned by 90°, the square reaches from x = −1 to 0 and y = 0 to 2; then it is moved to x = 4 to 5.
    assert both.box[2] == pytest.approx(5 * COS, abs=1e-4)
    assert both.box[3] == pytest.approx((5 + 2) * SIN + 2 + 1, abs=1e-4)


@pytest.mark.parametrize(
    ("shape", "lines"),
    [
        (Cylinder(0, 0, 1.0, 0.0, 2.0), 2),
        (Ball(0, 0, 0.2, 0.25, 0.0, 9.0), 3),
        (Revolved(((0.0, 0.0), (1.0, 0.0), (1.0, 1.0))), 3),
        (Prism(SQUARE, 0.0, 1.0, draft=0.1), 3 + 4),
        (Prism(SQUARE, 0.0, 1.0, pockets=(Cylinder(1.0, 0.5, 0.2, 0.9, 1.0),)), 2 + 4 + 2),
        (Strip(((0.0, 0.0), (1.0, 0.0), (1.0, 0.2), (0.0, 0.2)), 0.4), 2 + 4),
    ],
)
def test_every_shape_has_its_edges(shape: Shape, lines: int) -> None:
    assert len(body_drawing([Solid("s", "", shape)]).primitives) == lines


def test_without_solids_there_is_an_empty_drawing() -> None:
    assert body_drawing([]).primitives == ()
