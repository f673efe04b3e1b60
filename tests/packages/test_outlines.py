"""Copper by hand: outlines from steps, pads by sums, and a clear word with the place where one is none."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from shapely.geometry import Polygon

from eider.lands.pattern import make_pattern
from eider.model.outline import OutlineSpec, PadSpec, Step
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.packages.family import SheetError
from eider.packages.pads.manual_pads import make_manual_pads
from eider.packages.pads.outlines import OutlineError, make_outline
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import standard_rulebook
from helpers import make_sheet

NAMES = {"w": 2.0, "h": 1.0, "t": 0.4}


def steps(text: str) -> tuple[Step, ...]:
    """`right w, up h, by 1 2` as steps."""
    pieces = [piece.split() for piece in text.split(",")]
    return tuple(Step(p[0], p[1], p[2] if len(p) > 2 else "") for p in pieces)


# A T: the bar w × t on top, the stem t wide and h high below it, from the lower left of the stem.
TEE = OutlineSpec("-t/2", "-h/2", steps("right t, up h, right (w-t)/2, up t, left w, down t, right (w-t)/2, down h"))


def test_a_tee_from_steps() -> None:
    outline = make_outline(TEE, NAMES)
    assert len(outline) == 8
    assert Polygon(outline).area == pytest.approx(2.0 * 0.4 + 0.4 * 1.0)
    assert Polygon(outline).bounds == pytest.approx((-1.0, -0.5, 1.0, 0.9))


def test_another_length_changes_the_outline() -> None:
    assert Polygon(make_outline(TEE, {**NAMES, "w": 3.0})).bounds == pytest.approx((-1.5, -0.5, 1.5, 0.9))


@pytest.mark.parametrize("start", [(0.0, 0.0), (1.0, -2.0)])
def test_a_half_is_mirrored_at_its_axis(start: tuple[float, float]) -> None:
    # From the x axis up, over and down again: half of a rectangle of 2 × 2·h.
    half = OutlineSpec(str(start[0]), "0", steps("up h, right w, down h"), mirror="x")
    outline = make_outline(half, NAMES)
    assert Polygon(outline).bounds == pytest.approx((start[0], -1.0, start[0] + 2.0, 1.0))
    assert Polygon(outline).area == pytest.approx(4.0)


def test_a_quarter_is_mirrored_twice() -> None:
    outline = make_outline(OutlineSpec("w/2", "0", steps("up h, left w/2"), mirror="both"), NAMES)
    assert Polygon(outline).bounds == pytest.approx((-1.0, -1.0, 1.0, 1.0))


def test_an_arc_goes_on_in_the_direction_of_the_way() -> None:
    # A stadium: 2 to the right, half a circle of 0.5 to the left, 2 back, half a circle again.
    outline = make_outline(OutlineSpec("0", "0", steps("right w, arc 0.5 180, left w, arc 0.5 180")), NAMES)
    assert Polygon(outline).area == pytest.approx(2.0 + math.pi * 0.25, rel=0.003)
    assert Polygon(outline).bounds == pytest.approx((-0.5, 0.0, 2.5, 1.0), abs=0.002)


@pytest.mark.parametrize(("chamfered", "missing"), [(True, 4 * 0.02), (False, (4 - math.pi) * 0.04)])
def test_corners_are_cut_or_rounded(chamfered: bool, missing: float) -> None:
    square = OutlineSpec("0", "0", steps("right w, up w, left w, down w"), corner="0.2", chamfered=chamfered)
    assert Polygon(make_outline(square, NAMES)).area == pytest.approx(4.0 - missing, abs=0.001)


@pytest.mark.parametrize(
    ("text", "word", "at"),
    [
        ("right w, up h, left w", "open", (0.0, 1.0)),
        ("right w, up h, left w/2, down 2*h, left w/2, up h", "crosses itself", (1.0, 0.0)),
        ("right w, left w", "three corners", None),
        ("right w, up 0", "no length", (2.0, 0.0)),
        ("right q", "known letter", None),
        ("sideways w", "choose one of right", None),
        ("arc 0 90", "needs a radius", (0.0, 0.0)),
        ("turn w north", "not an angle", None),
        ("right w, right w, left 2*w", "crosses itself", (2.0, 0.0)),
    ],
)
def test_what_is_no_outline_is_refused_with_its_place(text: str, word: str, at: tuple[float, float] | None) -> None:
    with pytest.raises(OutlineError) as caught:
        make_outline(OutlineSpec("0", "0", steps(text)), NAMES)
    assert word in str(caught.value)
    if at is not None:
        assert caught.value.at == pytest.approx(at)


def test_corners_too_large_for_the_outline_are_refused() -> None:
    square = OutlineSpec("0", "0", steps("right h, up h, left h, down h"), corner="0.6")
    for chamfered in (False, True):
        with pytest.raises(OutlineError, match="too large"):
            make_outline(replace(square, chamfered=chamfered), NAMES)


WAYS = st.tuples(st.sampled_from(["right", "left", "up", "down"]), st.integers(1, 4))


@given(st.lists(WAYS, min_size=1, max_size=12))
def test_steps_give_a_sound_outline_or_a_word(walk: list[tuple[str, int]]) -> None:
    spec = OutlineSpec("0", "0", tuple(Step(kind, str(length)) for kind, length in walk))
    try:
        outline = make_outline(spec, {})
    except OutlineError as fault:
        assert fault.message
        return
    shape = Polygon(outline)
    assert shape.is_valid
    assert shape.area > 0
    assert shape.exterior.is_ccw


def laid(*specs: PadSpec, outlines: dict[str, OutlineSpec] | None = None) -> list[Pad]:
    return [g.pad for g in make_manual_pads(specs, outlines or {}, NAMES)]


def places(*specs: PadSpec) -> list[tuple[str, float, float]]:
    return [(pad.number, pad.x, pad.y) for pad in laid(*specs)]


def test_a_row_stands_about_its_middle() -> None:
    row = PadSpec("3", y="h", width="t", height="h", count="3", dx="w")
    assert places(row) == [("3", -2.0, 1.0), ("4", 0.0, 1.0), ("5", 2.0, 1.0)]


def test_a_grid_and_a_circle() -> None:
    grid = PadSpec("A1", width="t", count="2", dx="1", rows="2", row_dy="-2")
    assert places(grid) == [("A1", -0.5, 1.0), ("A2", 0.5, 1.0), ("A3", -0.5, -1.0), ("A4", 0.5, -1.0)]
    circle = PadSpec("1", width="t", count="4", radius="w", start="90")
    assert places(circle) == [("1", 0.0, 2.0), ("2", -2.0, 0.0), ("3", 0.0, -2.0), ("4", 2.0, 0.0)]


def test_the_same_again_at_the_other_side() -> None:
    mirrored = PadSpec("1", x="-w", y="h", width="t", mirror="both")
    assert places(mirrored) == [("1", -2.0, 1.0), ("2", -2.0, -1.0), ("3", 2.0, 1.0), ("4", 2.0, -1.0)]


def test_a_pad_without_a_counting_number_shares_it() -> None:
    assert places(PadSpec("MP", x="w", width="t", mirror="y")) == [("MP", 2.0, 0.0), ("MP", -2.0, 0.0)]


def test_an_outline_is_mirrored_with_its_pad() -> None:
    ell = OutlineSpec("0", "0", steps("right w, up t, left w-t, up h, left t, down h+t"))
    left, right = laid(PadSpec("1", x="-3", outline="L", mirror="y"), outlines={"L": ell})
    assert left.box == pytest.approx((-3.0, 0.0, -1.0, 1.4))
    assert right.box == pytest.approx((1.0, 0.0, 3.0, 1.4))
    assert Polygon(right.outline).exterior.is_ccw


@pytest.mark.parametrize(
    ("pad", "word"),
    [
        (PadSpec("1", x="q", width="1"), "known letter"),
        (PadSpec("1"), "size 0 × 0 mm"),
        (PadSpec("1", width="1", shape="star"), "unknown shape"),
        (PadSpec("1", outline="gone"), "no outline"),
        (PadSpec("1", width="1", count="many"), "not a count"),
        (PadSpec("1", width="1", mirror="z"), "not an axis"),
        (PadSpec("1", width="1", hole="-1"), "hole size -1"),
        (PadSpec("1", width="1", rotation="north"), "not an angle"),
    ],
)
def test_a_row_that_gives_no_pad_is_named(pad: PadSpec, word: str) -> None:
    with pytest.raises(SheetError) as caught:
        make_manual_pads((PadSpec("9", width="1"), pad), {}, NAMES)
    assert "row 2 (1)" in str(caught.value)
    assert word in str(caught.value)


def holder() -> PackageSheet:
    """A coin-cell holder: a T of copper at each end, two posts, a comb-shaped land in the middle."""
    sheet = make_sheet("custom", 3, D="20", E="10", A="5", s="18", w="2", h="1", t="0.4")
    return replace(
        sheet,
        outlines={"tee": TEE},
        pads=(
            PadSpec("1", x="-s/2", outline="tee", mirror="y", mask="0", paste="none"),
            PadSpec("3", width="3", height="2", hole="1.2", layers="all"),
            PadSpec("", x="s/4", hole="1.5", plated=False, mirror="y"),
        ),
    )


def test_mask_paste_and_posts_are_as_they_are_given() -> None:
    pads = make_pattern(holder(), "B", standard_rulebook()).pads
    by_number = {pad.number: pad for pad in pads if pad.plated}
    assert sorted(by_number) == ["1", "2", "3"]
    tee = by_number["1"]
    assert tee.paste == ()
    # An opening without expansion is the copper itself.
    assert Polygon(pad_outline(tee.mask[0])).area == pytest.approx(1.2)
    posts = [pad for pad in pads if not pad.plated]
    assert [(post.x, post.width) for post in posts] == [(4.5, 1.5), (-4.5, 1.5)]
    assert not any(post.paste for post in posts)


def test_the_pads_follow_a_changed_length() -> None:
    sheet = holder()
    wider = replace(sheet, dims={**sheet.dims, "s": make_sheet("custom", 1, s="20").dims["s"]})
    pads = {p.number: p for p in make_pattern(wider, "B", standard_rulebook()).pads if p.plated}
    assert (pads["1"].x, pads["2"].x) == (-10.0, 10.0)
