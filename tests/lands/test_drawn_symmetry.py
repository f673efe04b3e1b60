"""Drawings of lands that give less than each group asks for: squares drawn once, thermal lands on one side only."""

import pytest

from eider.errors import InputError
from eider.geometry.plane import Box
from eider.lands.drawn_lands import DrawnDistance
from eider.lands.drawn_pattern import ReadDistance, pattern_of_drawing
from eider.lands.land_layout import LaidLands
from eider.lands.pattern import derive_lands
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import standard_rulebook
from helpers import make_sheet

# Points for a mm, as a drawing may be.
SCALE = 20.0


def laid(*, thermal: bool) -> LaidLands:
    pad = {"D2": "2.50–2.70", "E2": "2.50–2.70"} if thermal else {}
    sheet = make_sheet(
        "no-lead-quad", 16, D="3.90–4.10", E="3.90–4.10", e="0.65", b="0.25–0.35", L="0.30–0.50", A="max 1.00", **pad
    )
    return derive_lands(parse_dimensions(sheet).sheet, "B", standard_rulebook())


def drawn(*, thermal: bool) -> list[Box]:
    """Sixteen lands of 0.80 by 0.35 on centres 4.00 apart, at 0.65; the thermal land of 2.60 comes first."""
    lands: list[Box] = [_land(0, 0, 2.6, 2.6)] if thermal else []
    for place in (-0.975, -0.325, 0.325, 0.975):
        lands += [_land(-2, place, 0.8, 0.35), _land(2, place, 0.8, 0.35)]
        lands += [_land(place, -2, 0.35, 0.8), _land(place, 2, 0.35, 0.8)]
    return lands


def _land(x: float, y: float, wide: float, high: float) -> Box:
    return tuple(SCALE * v for v in (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2))  # type: ignore[return-value]


def lengths_of_one_side(lands: list[Box], *, thermal: bool) -> list[ReadDistance]:
    """What a sheet writes of a square pattern: centres, length and width of the left and right rows, and the thermal
    land's width."""
    left = frozenset(i for i, land in enumerate(lands) if land[2] < -SCALE)
    right = frozenset(i for i, land in enumerate(lands) if land[0] > SCALE)
    read = [
        ReadDistance(0, DrawnDistance("x", "centres", left, right, 4.0 * SCALE), 4.0),
        ReadDistance(1, DrawnDistance("x", "size", left, left, 0.8 * SCALE), 0.8),
        ReadDistance(2, DrawnDistance("y", "size", left, left, 0.35 * SCALE), 0.35),
    ]
    if thermal:
        read.append(ReadDistance(3, DrawnDistance("x", "size", frozenset({0}), frozenset({0}), 2.6 * SCALE), 2.6))
    return read


def test_a_square_that_is_written_once_gives_all_four_sides() -> None:
    lands = drawn(thermal=True)
    found = pattern_of_drawing(laid(thermal=True), lands, lengths_of_one_side(lands, thermal=True))
    assert {form.group: form.lengths for form in found.forms} == {
        "row 1 and row 3": {"C": 0, "Y": 1, "X": 2},
        "row 2 and row 4": {"C": 0, "Y": 1, "X": 2},
        "thermal pad 17": {"width": 3, "height": 3},
    }
    assert found.doubts == ()


def test_a_thermal_land_that_the_package_does_not_have_is_told_and_left_out() -> None:
    """The lengths name lands by their place among all that are drawn, the thermal one too."""
    lands = drawn(thermal=True)
    found = pattern_of_drawing(laid(thermal=False), lands, lengths_of_one_side(lands, thermal=True))
    assert [form.lengths for form in found.forms] == [{"C": 0, "Y": 1, "X": 2}] * 2
    assert [doubt.split(":")[0] for doubt in found.doubts] == [
        "the drawing has a thermal land, the package no thermal pad"
    ]


def test_a_thermal_pad_that_is_not_drawn_stays_as_computed() -> None:
    lands = drawn(thermal=False)
    found = pattern_of_drawing(laid(thermal=True), lands, lengths_of_one_side(lands, thermal=False))
    assert [form.lengths for form in found.forms] == [{"C": 0, "Y": 1, "X": 2}] * 2
    assert found.doubts == ("the drawing has no land for the thermal pad; the computed one stays",)


def test_another_land_too_many_is_no_thermal_land() -> None:
    lands = [*drawn(thermal=False), _land(6, 0, 0.8, 0.35)]
    with pytest.raises(InputError, match="17 lands, the package 16"):
        pattern_of_drawing(laid(thermal=False), lands, [])
