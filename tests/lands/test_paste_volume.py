"""Paste of openings and of joints against closed forms worked by hand."""

import pytest

from eider.checks import PartUnderCheck
from eider.cli.packages.lands import bare_bundle
from eider.lands.paste_volume import opening_volume, pasted_lands, released
from eider.lands.pattern import make_pattern
from eider.model.library import LibrarySettings
from eider.model.pattern import Opening
from eider.rulebooks import standard_rulebook
from family_samples import sample

RULES = standard_rulebook().with_values({"pads.stencil": "0.1"})


def test_a_rectangle_gives_its_area_times_the_stencil_and_the_release() -> None:
    found = opening_volume(Opening(x=0, y=0, width=2.0, height=0.5, shape="rectangle"), RULES)
    # 1.0 mm² over walls of 5.0 × 0.1 mm².
    assert (found.area, found.area_ratio) == (pytest.approx(1.0), pytest.approx(2.0))
    assert found.volume == pytest.approx(1.0 * 0.1 * 0.95)


def test_a_round_opening_releases_by_its_diameter() -> None:
    found = opening_volume(Opening(x=0, y=0, width=0.3, height=0.3, shape="circle"), RULES)
    # Of a circle the ratio is its diameter over four times the stencil; it is drawn with many corners.
    assert found.area_ratio == pytest.approx(0.3 / (4 * 0.1), rel=0.01)
    assert found.volume == pytest.approx(found.area * 0.1 * released(found.area_ratio, RULES))


@pytest.mark.parametrize(
    ("ratio", "share"), [(0.2, 0.55), (0.5, 0.55), (0.58, 0.675), (0.66, 0.8), (0.73, 0.85), (0.9, 0.925), (3.0, 0.95)]
)
def test_release_lies_straight_between_the_rows_of_the_table(ratio: float, share: float) -> None:
    assert released(ratio, RULES) == pytest.approx(share)


def test_a_joint_wants_its_fillets_and_what_is_under_the_foot() -> None:
    sheet = sample("gullwing-dual")
    view = PartUnderCheck(bare_bundle(sheet, make_pattern(sheet, "B", RULES), "B"), RULES, LibrarySettings(name=""))
    assert view.dims is not None and view.recipe is not None
    first = next(
        land for land in pasted_lands(view.dims, view.pads, view.joints, view.recipe, RULES) if land.pad == "1"
    )
    joint = next(joint for group in view.joints for joint in group.pads if joint.number == "1")
    foot, width, thick = (view.dims[letter].middle for letter in ("L", "b", "c"))
    high = 0.5 * thick
    triangles = (
        high * joint.toe / 2 * width + high * joint.heel / 2 * width + 2 * (high * max(joint.side, 0) / 2 * foot)
    )
    assert first.wanted == pytest.approx((triangles + 0.05 * foot * width) / 0.5)
    assert first.share == pytest.approx(first.volume / first.wanted)


def test_a_thermal_land_wants_the_gap_under_it() -> None:
    sheet = sample("no-lead-quad")
    view = PartUnderCheck(bare_bundle(sheet, make_pattern(sheet, "B", RULES), "B"), RULES, LibrarySettings(name=""))
    assert view.dims is not None and view.recipe is not None
    lands = pasted_lands(view.dims, view.pads, view.joints, view.recipe, RULES)
    plate = view.recipe.plates[0]
    thermal = next(land for land in lands if land.pad == plate.number)
    assert thermal.wanted == pytest.approx(plate.width.middle * plate.height.middle * 0.05 / 0.5)
    assert thermal.share == pytest.approx(thermal.volume / thermal.wanted)
