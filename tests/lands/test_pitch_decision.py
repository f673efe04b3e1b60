"""A metric pitch on an inch grid: errors added up by hand."""

import pytest

from eider.checks import PartUnderCheck
from eider.cli.packages.lands import bare_bundle
from eider.errors import InputError
from eider.lands.pattern import make_pattern
from eider.lands.pitch_decision import PitchDecision, nearest_on_grid
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.rulebooks import standard_rulebook
from eider.views.pitch_view import NO_ROWS, pitch_view
from family_samples import sample
from helpers import make_sheet

RULEBOOK = standard_rulebook()


def view_of(sheet: PackageSheet) -> PartUnderCheck:
    bundle = bare_bundle(sheet, make_pattern(sheet, "B", RULEBOOK), "B")
    return PartUnderCheck(bundle, RULEBOOK, LibrarySettings(name=""))


def test_the_error_adds_up_over_the_row() -> None:
    # 1.25 mm drawn at 50 mil, 1.27: 0.02 a step, 11 × 0.02 = 0.22 over twelve ways, 0.11 at each end.
    found = PitchDecision(12, 1.25, 1.27, 0.1)
    assert (found.step, found.over_row, found.at_ends) == pytest.approx((0.02, 0.22, 0.11))
    assert not found.fits
    # 0.1 / 0.02 = 5 steps, six ways.
    assert found.most_ways == 6
    assert PitchDecision(6, 1.25, 1.27, 0.1).fits
    assert not PitchDecision(7, 1.25, 1.27, 0.1).fits


def test_no_error_has_no_longest_row() -> None:
    assert PitchDecision(40, 2.54, 2.54, 0.0).most_ways is None
    assert PitchDecision(40, 2.54, 2.54, 0.0).fits


@pytest.mark.parametrize(
    ("given", "grid", "nearest"), [(1.25, 1.27, 1.27), (0.5, 0.127, 0.508), (0.4, 1.27, 1.27), (5.0, 0.05, 5.0)]
)
def test_the_nearest_pitch_on_a_grid(given: float, grid: float, nearest: float) -> None:
    assert nearest_on_grid(given, grid) == pytest.approx(nearest)


def test_a_terminal_block_of_metric_pitch_on_the_inch_grid() -> None:
    # Leads 1.0 square, 1.414 across the corners; the hole is that and 0.25 (level B), rounded up to 1.7 or so. What
    # the play leaves is read from the hole that the recipe made, the rest is worked here.
    sheet = make_sheet("header", 12, e="3.50", b="1.00", L="42.00", W="7.00")
    view = view_of(sheet)
    hole = min(pad.hole.width for pad in view.pads if pad.hole)
    rows = {row.grid: row.decision for row in pitch_view(view, "3.556").rows}
    assert rows["datasheet"].given == pytest.approx(3.5)
    assert rows["chosen"].over_row == pytest.approx(11 * 0.056)
    assert rows["chosen"].margin == pytest.approx((hole - 2**0.5) / 2, abs=1e-3)
    assert rows["25 mil grid"].chosen == pytest.approx(3.81 if 3.81 - 3.5 < 3.5 - 3.175 else 3.175)
    assert not rows["chosen"].fits


def test_bad_pitches_and_packages_without_rows() -> None:
    chip = view_of(sample("chip"))
    assert pitch_view(chip).summary == NO_ROWS
    header = view_of(make_sheet("header", 4, e="2.54", b="0.64", L="10.00", W="2.50"))
    for wrong in ("-1", "0", "wide"):
        with pytest.raises(InputError):
            pitch_view(header, wrong)
