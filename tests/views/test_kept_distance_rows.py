"""Kept distances as rows and lines; one that lost an end stays a row without a value."""

import pytest
from msgspec.structs import replace

from eider.commands.lands import footprint_edits
from eider.commands.lands.kept_distances import kept_of
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.drawings.ruler_snapping import Measured, Snap
from eider.errors import InputError
from eider.library import Library
from eider.model.address import PadAddress
from eider.model.bundle import Bundle
from eider.model.footprint import KeptDistance
from eider.rulebooks import standard_rulebook
from eider.views.kept_distance_rows import distance_rows, kept_lines


def with_distance(bundle: Bundle, first: str, second: str) -> Bundle:
    kept = KeptDistance(first, second, "x")
    return replace(bundle, footprint=replace(bundle.footprint, distances=(kept,)))


def test_a_distance_is_what_it_is_now_and_a_line(sound: Bundle, library: Library) -> None:
    rules = EvaluationRules(standard_rulebook(), library.settings)
    view = evaluate_part(with_distance(sound, "pad 1 centre", "pad 16 centre"), rules).under_check
    (row,) = distance_rows(view)
    pads = {pad.number: pad for pad in view.pads}
    assert row.measured == pytest.approx(pads["16"].x - pads["1"].x)
    (line,) = kept_lines(view)
    ends = [(pads[number].x, pads[number].y) for number in ("1", "16")]
    assert [pytest.approx(end) for end in ends] == list(line.points)
    assert line.address == row.address


def test_a_distance_that_lost_an_end_has_no_value_and_no_line(sound: Bundle, library: Library) -> None:
    rules = EvaluationRules(standard_rulebook(), library.settings)
    view = evaluate_part(with_distance(sound, "pad 1 centre", "pad 99 centre"), rules).under_check
    (row,) = distance_rows(view)
    assert row.measured is None
    assert list(kept_lines(view)) == []


def test_without_lands_nothing_is_measured(sound: Bundle, library: Library) -> None:
    rules = EvaluationRules(standard_rulebook(), library.settings)
    bare = replace(sound, sheet=replace(sound.sheet, dims={}), footprint=replace(sound.footprint, pattern=None))
    view = evaluate_part(with_distance(bare, "pad 1 centre", "pad 16 centre"), rules).under_check
    assert [row.measured for row in distance_rows(view)] == [None]
    assert list(kept_lines(view)) == []
    end = Snap((0.0, 0.0), "centre", PadAddress("1"))
    with pytest.raises(InputError, match="no lands"):
        kept_of(view, Measured(end, end, 0.0, 0.0, 0.0, None, None), "x")


def test_a_turn_is_a_quarter(sound: Bundle) -> None:
    assert footprint_edits.set_orientation(sound, 270, mirrored=True).footprint.turn == 270
    with pytest.raises(InputError, match="45"):
        footprint_edits.set_orientation(sound, 45, mirrored=False)
