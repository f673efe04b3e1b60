"""The ruler over two lands of 1 × 2 mm, 3 mm apart, a hole of 0.8 mm and a line; all distances by hand."""

import pytest

from eider.drawings.primitives import Area, Disc, Line, Text
from eider.drawings.ruler_snapping import Kind, measure_between, nearest, snaps
from eider.geometry.plane import box_outline
from eider.model.address import PadAddress

LEFT = Area(box_outline((-2.0, -1.0, -1.0, 1.0)), "copper", PadAddress("1"))
RIGHT = Area(box_outline((1.0, -1.0, 2.0, 1.0)), "copper", PadAddress("2"))
HOLE = Disc((3.0, 4.0), 0.4, "hole", PadAddress("3"))
EDGE = Line(((-5.0, -3.0), (5.0, -3.0)), "body")
ITEMS = (LEFT, RIGHT, HOLE, EDGE, Text((0.0, 0.0), "1", 1.0, "number"))


@pytest.mark.parametrize(
    ("at", "kind", "where"),
    [
        ((-1.05, 0.95), "corner", (-1.0, 1.0)),
        ((-1.45, 0.06), "centre", (-1.5, 0.0)),
        ((-1.03, -0.04), "middle of an edge", (-1.0, 0.0)),
        ((-1.04, 0.6), "edge", (-1.0, 0.6)),
        ((3.02, 3.97), "centre", (3.0, 4.0)),
        ((2.5, -3.03), "edge", (2.5, -3.0)),
    ],
)
def test_it_holds_on_to(at: tuple[float, float], kind: Kind, where: tuple[float, float]) -> None:
    snap = nearest(ITEMS, at, 0.1)
    assert snap is not None
    assert snap.kind == kind
    assert snap.at == pytest.approx(where)


def test_it_holds_on_to_nothing_far_from_everything_and_to_no_text() -> None:
    assert nearest(ITEMS, (0.0, 0.0), 0.1) is None


def test_a_round_outline_has_a_centre_and_its_edge_but_no_corners() -> None:
    assert {snap.kind for snap in snaps((HOLE,))} == {"centre"}
    edge = nearest((HOLE,), (3.41, 4.0), 0.1)
    assert edge is not None
    assert (edge.kind, edge.at) == ("edge", pytest.approx((3.4, 4.0)))


def test_two_lands_are_measured_by_place_middle_and_edge() -> None:
    first, second = nearest(ITEMS, (-2.0, 1.0), 0.1), nearest(ITEMS, (1.0, -1.0), 0.1)
    assert first
    assert second
    found = measure_between(first, second)
    assert (found.dx, found.dy) == (3.0, -2.0)
    assert found.distance == pytest.approx(13**0.5)
    assert (found.centres, found.gap) == (pytest.approx(3.0), pytest.approx(2.0))
    assert found.words("mm") == (
        "corner of 1 to corner of 2: dx 3   dy -2   direct 3.6056   centre to centre 3   edge to edge 2 mm"
    )


def test_within_one_outline_there_is_no_gap() -> None:
    first, second = nearest(ITEMS, (1.0, -1.0), 0.1), nearest(ITEMS, (2.0, 1.0), 0.1)
    assert first
    assert second
    found = measure_between(first, second)
    assert (found.dx, found.dy, found.gap, found.centres) == (1.0, 2.0, None, None)
