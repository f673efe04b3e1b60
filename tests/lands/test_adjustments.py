import pytest

from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.lands.adjustments import AdjustmentError, lost
from eider.lands.pattern import make_pattern
from eider.library import Library
from eider.model.footprint import Adjustment
from eider.model.package_sheet import Dimension, PackageSheet
from eider.model.pattern import Hole
from eider.packages.sheet_parsing import with_dimension
from eider.rulebooks import standard_rulebook
from family_samples import sample

RULEBOOK = standard_rulebook()


def test_an_adjustment_survives_another_pitch(so8: PackageSheet) -> None:
    adjustment = Adjustment("3", "width", "2.2")
    for pitch in ("1.27", "1.0"):
        sheet = with_dimension(so8, "e", Dimension(text=pitch))
        pads = {p.number: p for p in make_pattern(sheet, "B", RULEBOOK, [adjustment]).pads}
        assert pads["3"].width == 2.2
        assert pads["2"].width == 1.95


def test_openings_follow_an_adjusted_pad(so8: PackageSheet) -> None:
    pad = make_pattern(so8, "B", RULEBOOK, [Adjustment("1", "height", "0.8")]).pads[0]
    assert pad.mask[0].height == pytest.approx(0.9)


def test_a_sum_with_the_sheets_letters(so8: PackageSheet) -> None:
    pad = make_pattern(so8, "B", RULEBOOK, [Adjustment("1", "x", "-(E - 1)/2")]).pads[0]
    assert pad.x == -2.5


def test_switched_off_it_does_nothing(so8: PackageSheet) -> None:
    pattern = make_pattern(so8, "B", RULEBOOK, [Adjustment("1", "width", "2.2", active=False)])
    assert pattern.pads[0].width == 1.95


def test_one_without_its_pad_is_told_not_dropped(so8: PackageSheet) -> None:
    adjustments = [Adjustment("9", "width", "2.2"), Adjustment("1", "width", "2.2")]
    pattern = make_pattern(so8, "B", RULEBOOK, adjustments)
    assert lost(pattern.pads, adjustments) == [adjustments[0]]


@pytest.mark.parametrize(("what", "value"), [("width", "0"), ("width", "x"), ("shape", "star"), ("colour", "red")])
def test_values_that_cannot_be(so8: PackageSheet, what: str, value: str) -> None:
    with pytest.raises(AdjustmentError, match="pad 1"):
        make_pattern(so8, "B", RULEBOOK, [Adjustment("1", what, value)])


def test_two_pads_become_drilled_posts_and_stay_so_when_the_pitch_is_corrected(so8: PackageSheet) -> None:
    posts = [Adjustment(n, what, value) for n in ("2", "3") for what, value in (("hole", "0.9"), ("plated", "no"))]
    pattern = make_pattern(so8, "B", RULEBOOK, posts)
    bare = {pad.number: pad for pad in pattern.pads if not pad.plated}
    assert sorted(bare) == ["2", "3"]
    assert (bare["2"].width, bare["2"].hole, bare["2"].paste) == (0.9, Hole(0.9, 0.9), ())
    corrected = with_dimension(so8, "e", Dimension(text="1.25"))
    again = {pad.number: pad for pad in make_pattern(corrected, "B", RULEBOOK, posts).pads if not pad.plated}
    assert sorted(again) == ["2", "3"]
    assert again["2"].y == pytest.approx(0.625)


@pytest.mark.parametrize(("value", "width"), [("0", 1.95), ("0.1", 2.15), ("none", None)])
def test_openings_are_adjusted_one_by_one(so8: PackageSheet, value: str, width: float | None) -> None:
    pattern = make_pattern(so8, "B", RULEBOOK, [Adjustment("1", "mask", value)])
    first, second = pattern.pads[0], pattern.pads[1]
    if width is None:
        assert first.mask == ()
    else:
        assert first.mask[0].width == pytest.approx(width)
    assert second.mask[0].width == pytest.approx(2.05)


@pytest.mark.parametrize(
    ("what", "value", "word"),
    [("plated", "perhaps", "yes or no"), ("hole", "-1", "below zero"), ("mask", "q", "pad 1, mask")],
)
def test_what_cannot_be_adjusted_so_is_told(so8: PackageSheet, what: str, value: str, word: str) -> None:
    with pytest.raises(AdjustmentError, match=word):
        make_pattern(so8, "B", RULEBOOK, [Adjustment("1", what, value)])


def test_vias_are_laid_for_the_thermal_land_as_it_is() -> None:
    # 2.70 mm takes two windows each way and a via where the gaps cross; 2.00 mm is one window without a gap.
    sheet = sample("no-lead-quad", D2="2.7", E2="2.7")
    assert len(make_pattern(sheet, "B", standard_rulebook()).vias) >= 1
    smaller = [Adjustment("25", what, "2.0") for what in ("width", "height")]
    assert make_pattern(sheet, "B", standard_rulebook(), smaller).vias == ()


def test_a_grid_is_staggered_by_a_field_of_its_sheet(library: Library) -> None:
    part = package_edits.set_family(new_parts.new_part("NVK-9", "ic", library.settings), "ball-grid")
    staggered = package_edits.set_field(part, "staggered", "yes")
    assert staggered.sheet.staggered is True
    assert package_edits.set_field(staggered, "staggered", "no").sheet.staggered is False


@pytest.mark.parametrize(
    ("pads", "meant"), [("3", "3"), ("1, 3", "13"), ("2–4", "234"), ("1, 6-8", "1678"), ("*", "12345678"), ("9", "")]
)
def test_one_adjustment_speaks_of_several_pads(so8: PackageSheet, pads: str, meant: str) -> None:
    adjustment = Adjustment(pads, "width", "2.2")
    made = make_pattern(so8, "B", RULEBOOK, [adjustment]).pads
    assert "".join(pad.number for pad in made if pad.width == 2.2) == meant
    assert lost(made, [adjustment]) == ([] if meant else [adjustment])


def test_paste_in_windows_on_any_pad(so8: PackageSheet) -> None:
    pads = make_pattern(so8, "B", RULEBOOK, [Adjustment("1", "width", "3"), Adjustment("1", "paste", "windows")]).pads
    # 3.00 mm along takes two windows of at most 2.00 with a gap of 0.25.
    assert len(pads[0].paste) == 2
    assert len(pads[1].paste) == 1
