"""Hatches of copper, mask and paste, the package at its least and most, and what the drawing shows of them."""

import math
from itertools import pairwise

import pytest
from shapely.geometry import LineString, Point, Polygon

from eider.drawings.land_drawing import ANGLES, LAYERS, NOTE, LandOptions, hatch, pattern_drawing
from eider.drawings.primitives import Line, Note
from eider.lands.pattern import make_pattern
from eider.packages.orientation import PackageOrientation, extreme_terminals, terminals_on
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample

SQUARE = ((0.0, 0.0), (4.0, 0.0), (4.0, 2.0), (0.0, 2.0))


@pytest.mark.parametrize("degrees", sorted(ANGLES.values()))
def test_lines_lie_inside_at_their_angle_and_step(degrees: float) -> None:
    lines = hatch(SQUARE, degrees, 0.5)
    area = Polygon(SQUARE).buffer(1e-9)
    assert lines
    for (x0, y0), (x1, y1) in lines:
        assert area.contains(LineString([(x0, y0), (x1, y1)]))
        assert math.degrees(math.atan2(y1 - y0, x1 - x0)) % 180 == pytest.approx(degrees % 180, abs=1e-6)
        # Each goes from edge to edge.
        assert all(area.exterior.distance(Point(end)) < 1e-6 for end in ((x0, y0), (x1, y1)))
    # Neighbours are half a millimetre apart, measured across, and none is left out of the rectangle.
    sin, cos = math.sin(math.radians(degrees)), math.cos(math.radians(degrees))
    offsets = sorted(y * cos - x * sin for (x, y), _ in lines)
    assert [b - a for a, b in pairwise(offsets)] == pytest.approx([0.5] * (len(offsets) - 1))
    corners = [y * cos - x * sin for x, y in SQUARE]
    assert 0 <= offsets[0] - min(corners) <= 0.5 + 1e-9
    assert 0 <= max(corners) - offsets[-1] <= 0.5 + 1e-9


def test_hatches_are_shown_with_a_note_where_they_are_wished() -> None:
    pattern = make_pattern(sample("chip"), "B", standard_rulebook())
    shown = pattern_drawing(pattern, (), LandOptions(frozenset(LAYERS))).primitives
    roles = {p.role for p in shown if isinstance(p, Line)}
    assert {"hatch copper", "hatch mask", "hatch paste"} <= roles
    assert Note(NOTE) in shown
    plain = pattern_drawing(pattern).primitives
    assert not any(getattr(p, "role", "").startswith("hatch") for p in plain)
    lands = [Polygon(pad_outline(pad)).buffer(1e-6) for pad in pattern.pads]
    copper = [LineString(p.points) for p in shown if isinstance(p, Line) and p.role == "hatch copper"]
    assert all(any(land.contains(line) for land in lands) for line in copper)


def test_the_package_at_its_least_and_most() -> None:
    # A chip of 1.5 to 1.7 mm: its ends are at ±0.75 and at ±0.85.
    sheet = sample("chip")
    pattern = make_pattern(sheet, "B", standard_rulebook())
    least, most = extreme_terminals(sheet, pattern)
    assert min(t.whole[0] for t in least) == pytest.approx(-0.75)
    assert max(t.whole[2] for t in most) == pytest.approx(0.85)
    options = LandOptions(frozenset(LAYERS), extremes=(least, most))
    roles = [getattr(p, "role", "") for p in pattern_drawing(pattern, (), options).primitives]
    assert roles.count("ghost least") == roles.count("ghost most") == 2


@pytest.mark.parametrize("family", SAMPLES)
def test_extremes_lie_round_the_middle_in_every_family(family: str) -> None:
    sheet = sample(family)
    pattern = make_pattern(sheet, "B", standard_rulebook(), orientation=PackageOrientation(1))
    least, most = extreme_terminals(sheet, pattern)
    middle = terminals_on(sheet, pattern)
    for found in (least, most):
        assert not found or {t.number for t in found} == {t.number for t in middle}
