"""Joints of patterns that Eider did not make."""

import pytest
from msgspec.structs import replace

from eider.lands.joints import lowest_level, pattern_joints
from eider.lands.pads import area, corner_radius
from eider.lands.pattern import derive_lands, make_pattern, package_name
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Hole, Pad
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import standard_rulebook
from helpers import make_sheet

RULEBOOK = standard_rulebook()


def joint(sheet: PackageSheet, pads: tuple[Pad, ...], number: str):  # type: ignore[no-untyped-def]
    return next(j for group in pattern_joints(sheet, pads, RULEBOOK) for j in group.pads if j.number == number)


def test_each_pair_has_its_own_joint(so8: PackageSheet) -> None:
    pads = make_pattern(so8, "B", RULEBOOK).pads
    # Pad 2 made 0.2 longer inwards: centre 0.1 nearer, so Z stays and G of the pair falls by 0.2; heel + 0.1.
    longer = tuple(replace(p, width=2.15, x=-2.375) if p.number == "2" else p for p in pads)
    before, after = joint(so8, pads, "2"), joint(so8, longer, "2")
    assert after.toe == pytest.approx(before.toe)
    assert after.heel == pytest.approx(before.heel + 0.1)
    assert joint(so8, longer, "7").heel == pytest.approx(before.heel + 0.1)
    assert joint(so8, longer, "3") == joint(so8, pads, "3")


def test_a_shifted_part_settles_between_its_pads(so8: PackageSheet) -> None:
    pads = make_pattern(so8, "B", RULEBOOK).pads
    moved = tuple(replace(p, x=p.x + 0.3) for p in pads)
    assert joint(so8, moved, "1").toe == pytest.approx(joint(so8, pads, "1").toe)


def test_without_an_opposite_a_pad_is_measured_from_the_origin(so8: PackageSheet) -> None:
    pads = tuple(p for p in make_pattern(so8, "B", RULEBOOK).pads if p.number != "8")
    alone, paired = joint(so8, pads, "1"), joint(so8, pads, "2")
    assert (alone.toe, alone.heel) == pytest.approx((paired.toe, paired.heel))


def test_a_turned_pad_is_measured_as_it_stands(so8: PackageSheet) -> None:
    pads = make_pattern(so8, "B", RULEBOOK).pads
    turned = tuple(replace(p, width=p.height, height=p.width, rotation=90.0) for p in pads)
    assert joint(so8, turned, "1").toe == pytest.approx(joint(so8, pads, "1").toe)


def test_no_pads_reach_no_level(so8: PackageSheet) -> None:
    assert lowest_level(pattern_joints(so8, (), RULEBOOK)) is None


def test_pads_of_other_numbers_have_no_joint(so8: PackageSheet) -> None:
    groups = pattern_joints(so8, (Pad("99", 0, 0, 1, 1),), RULEBOOK)
    assert [group.pads for group in groups] == [()]


def test_rounded_lands_by_rulebook(so8: PackageSheet) -> None:
    rounded = RULEBOOK.with_values({"pads.shape": "rounded"})
    pad = make_pattern(so8, "B", rounded).pads[0]
    # 25 % of the shorter side 0.6 is 0.15; a wide land is limited to 0.25.
    assert (pad.shape, pad.corner_radius) == ("rounded", 0.15)
    assert corner_radius(3.0, 2.0, rounded) == 0.25
    assert (pad.mask[0].shape, pad.mask[0].corner_radius) == ("rounded", 0.2)


@pytest.mark.parametrize(
    ("pad", "expected"),
    [
        (Pad("1", 0, 0, 2.0, 1.0), 2.0),
        (Pad("1", 0, 0, 2.0, 1.0, shape="oval"), 1.0 + 0.785398),
        (Pad("1", 0, 0, 1.0, 1.0, shape="circle"), 0.785398),
    ],
)
def test_area_of_lands(pad: Pad, expected: float) -> None:
    from shapely.geometry import Polygon

    assert area(pad) == pytest.approx(expected, abs=1e-5)
    assert Polygon(pad_outline(pad)).area == pytest.approx(expected, rel=5e-3)


def test_an_outline_pad_is_placed_turned_and_grown() -> None:
    shape = ((0.0, 0.0), (1.0, 0.0), (0.0, 2.0))
    pad = Pad("1", 5, 5, 1, 2, shape="outline", outline=shape, rotation=90.0)
    assert pad_outline(pad) == ((5.0, 5.0), (5.0, 6.0), (3.0, 5.0))
    assert len(pad_outline(pad, 0.1)) >= 3


def test_a_leaded_pad_gets_no_paste(so8: PackageSheet) -> None:
    from eider.lands.pads import with_openings

    surface, leaded = with_openings([Pad("1", 0, 0, 1, 1), Pad("2", 3, 0, 1, 1, hole=Hole(0.6, 0.6))], RULEBOOK)
    assert surface.paste and surface.mask
    assert leaded.mask and not leaded.paste


def test_a_polarised_chip_has_its_mark_at_pin_1_inside_the_courtyard() -> None:
    sheet = make_sheet("chip", 2, "diode", D="2.0±0.15", E="1.25±0.15", L="0.5±0.25", A="max 0.9")
    pattern = make_pattern(sheet, "B", RULEBOOK)
    (mark,) = [s for s in pattern.silkscreen if s.role == "mark"]
    assert pattern.name.startswith("DIOC2012")
    assert max(x for x, _ in mark.points) < pattern.pads[0].box[0]
    assert min(x for x, _ in pattern.courtyard) <= min(x for x, _ in mark.points) - mark.width / 2


def test_a_resistor_has_no_mark() -> None:
    sheet = make_sheet("chip", 2, "resistor", D="2.0±0.15", E="1.25±0.15", L="0.5±0.25", A="max 0.9")
    assert [s.role for s in make_pattern(sheet, "B", RULEBOOK).silkscreen if s.role == "mark"] == []


def test_lengths_alone_are_those_of_the_pattern(so8: PackageSheet) -> None:
    assert derive_lands(so8, "C", RULEBOOK).derivation == make_pattern(so8, "C", RULEBOOK).derivation
    assert package_name(so8) + "L" == make_pattern(so8, "C", RULEBOOK).name


@pytest.mark.parametrize(
    ("mm", "text"), [(1.25, "12"), (1.26, "13"), (2.0, "20"), (0.8, "08"), (0.6, "06"), (3.25, "32")]
)
def test_size_codes(mm: float, text: str) -> None:
    from eider.packages.forms.name_codes import tenths

    assert tenths(mm) == text


QFP44 = {"D": "11.8–12.2", "E": "11.8–12.2", "D1": "9.9–10.1", "E1": "9.9–10.1", "e": "0.8", "b": "0.30–0.45",
         "L": "0.45–0.75", "A": "max 1.2"}  # fmt: skip


@pytest.mark.parametrize("along", [0.1, 0.8])
def test_rows_moved_along_themselves_lose_that_much_of_the_side_fillet(along: float) -> None:
    sheet = make_sheet("gullwing-quad", 44, **QFP44)
    rulebook = standard_rulebook()
    pads = make_pattern(sheet, "B", rulebook).pads
    before = {joint.number: joint for group in pattern_joints(sheet, pads, rulebook) for joint in group.pads}
    # Each row along itself, clockwise, so that the pattern as a whole stays where it is.
    steps = ((0, -along), (along, 0), (0, along), (-along, 0))
    moved = [replace(pad, x=pad.x + steps[k // 11][0], y=pad.y + steps[k // 11][1]) for k, pad in enumerate(pads)]
    after = {joint.number: joint for group in pattern_joints(sheet, moved, rulebook) for joint in group.pads}
    for number, joint in after.items():
        assert (joint.toe, joint.heel) == pytest.approx((before[number].toe, before[number].heel), abs=1e-9)
        assert joint.side == pytest.approx(before[number].side - along, abs=1e-9)
        assert joint.level is None


def test_a_pattern_moved_as_a_whole_keeps_its_joints(so8: PackageSheet) -> None:
    rulebook = standard_rulebook()
    pads = make_pattern(so8, "B", rulebook).pads
    moved = [replace(pad, x=pad.x + 3.0, y=pad.y - 1.27) for pad in pads]
    (after,), (before,) = pattern_joints(so8, moved, rulebook), pattern_joints(so8, pads, rulebook)
    assert [j.level for j in after.pads] == [j.level for j in before.pads]
    assert [j.side for j in after.pads] == pytest.approx([j.side for j in before.pads], abs=1e-9)
