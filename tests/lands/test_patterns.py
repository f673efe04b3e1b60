"""What must hold of any computed pattern."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from eider.errors import EiderError
from eider.lands.joints import lowest_level, pattern_joints
from eider.lands.pads import area
from eider.lands.pattern import make_pattern
from eider.model.codec import encode
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import LEVELS, Pattern
from eider.packages.family import SheetError
from eider.rulebooks import standard_rulebook
from helpers import hundred_leads, make_sheet

RULEBOOK = standard_rulebook()


@st.composite
def dual_sheets(draw: st.DrawFn) -> PackageSheet:
    """Plausible dual gull-wing packages, built from the inside out."""
    pitch = draw(st.sampled_from([0.4, 0.5, 0.65, 0.8, 1.27]))
    pins = 2 * draw(st.integers(2, 20))
    lead = round(pitch * draw(st.floats(0.3, 0.5)), 2)
    body = draw(st.floats(3.0, 8.0))
    foot = draw(st.floats(0.4, 0.8))
    span = body + 2 * (foot + draw(st.floats(0.3, 0.6)))
    spread = draw(st.floats(0.05, 0.2))

    def around(value: float) -> str:
        return f"{value - spread / 2:.3f}–{value + spread / 2:.3f}"

    return make_sheet(
        "gullwing-dual",
        pins,
        E=around(span),
        E1=around(body),
        D=f"{(pins // 2) * pitch + 0.3:.3f}",
        e=f"{pitch}",
        b=f"{lead}–{lead + 0.08:.3f}",
        L=around(foot),
        A="max 1.5",
        A1="0.1",
        c="0.15",
    )


@given(dual_sheets())
def test_a_has_most_copper_and_c_least(sheet: PackageSheet) -> None:
    copper = [sum(area(pad) for pad in make_pattern(sheet, level, RULEBOOK).pads) for level in LEVELS]
    assert copper[0] >= copper[1] >= copper[2]


@given(dual_sheets(), st.sampled_from(LEVELS))
def test_joints_reach_the_level_computed_for(sheet: PackageSheet, level: str) -> None:
    pattern = make_pattern(sheet, level, RULEBOOK)  # type: ignore[arg-type]
    # Where the gap between neighbours took from X, the side fillet gives way, and a finding says so.
    assume(not any("reduced" in note for group in pattern.derivation for note in group.notes))
    reached = lowest_level(pattern_joints(sheet, pattern.pads, RULEBOOK))
    assert reached is not None
    assert LEVELS.index(reached) <= LEVELS.index(level)  # type: ignore[arg-type]


@given(dual_sheets())
def test_the_pattern_is_symmetric_about_the_origin(sheet: PackageSheet) -> None:
    pads = {(pad.x, pad.y) for pad in make_pattern(sheet, "B", RULEBOOK).pads}
    assert pads == {(-x, -y) for x, y in pads} == {(-x, y) for x, y in pads}


@given(dual_sheets())
def test_twice_the_same_bytes(sheet: PackageSheet) -> None:
    assert encode(make_pattern(sheet, "B", RULEBOOK)) == encode(make_pattern(sheet, "B", RULEBOOK))


@given(dual_sheets())
def test_units_change_nothing(sheet: PackageSheet) -> None:
    in_mil = {
        letter: f"{d.limits.lower / 0.0254:.9f} mil .. {d.limits.upper / 0.0254:.9f} mil"
        for letter, d in sheet.dims.items()
        if d.limits
    }
    other = make_pattern(make_sheet("gullwing-dual", sheet.pins, **in_mil), "B", RULEBOOK)
    one = make_pattern(sheet, "B", RULEBOOK)
    assert [(p.x, p.y, p.width, p.height) for p in other.pads] == [(p.x, p.y, p.width, p.height) for p in one.pads]


def test_numbers_run_counter_clockwise_from_upper_left(so8: PackageSheet) -> None:
    pads = {pad.number: pad for pad in make_pattern(so8, "B", RULEBOOK).pads}
    assert (pads["1"].x < 0) and (pads["1"].y > pads["4"].y)
    assert (pads["8"].x > 0) and pads["8"].y == pads["1"].y
    assert pads["5"].y == pads["4"].y


def test_a_quad_numbers_its_sides_counter_clockwise() -> None:
    pads = {pad.number: pad for pad in make_pattern(hundred_leads(), "B", RULEBOOK).pads}
    assert len(pads) == 100
    # 1 upper left, 26 left end of the bottom, 51 lower end of the right, 76 right end of the top.
    assert pads["1"].x < 0 < pads["1"].y and pads["1"].y == 6.0
    assert pads["26"].y < 0 and pads["26"].x == -6.0
    assert pads["51"].x > 0 and pads["51"].y == -6.0
    assert pads["76"].y > 0 and pads["76"].x == 6.0
    assert pads["26"].width < pads["26"].height


def test_x_gives_way_to_the_gap_never_the_pitch() -> None:
    pattern = make_pattern(hundred_leads(), "A", RULEBOOK)
    # Raw 0.34 rounds to 0.35; 0.5 − 0.35 is below 0.20, so 0.30 remains.
    assert pattern.derivation[0].X == 0.30
    assert "reduced" in pattern.derivation[0].notes[-1]


def test_courtyard_is_rounded_outwards(so8: PackageSheet) -> None:
    # x: 3.45 + 0.25 = 3.70; y: the larger of land 2.205 and body 2.50, + 0.25 = 2.75.
    outline = make_pattern(so8, "B", RULEBOOK).courtyard
    assert (max(x for x, _ in outline), max(y for _, y in outline)) == (3.7, 2.75)


def test_small_chips_round_to_their_own_step() -> None:
    sheet = make_sheet("chip", 2, "capacitor", D="0.95–1.05", E="0.45–0.55", L="0.15–0.35", A="max 0.55")
    group = make_pattern(sheet, "B", RULEBOOK).derivation[0]
    # Z = 0.95 + 0.40 + √(0.1² + 0.1² + 0.05²) = 1.50, goals of bodies below 1608.
    assert group.Z_raw == pytest.approx(1.5, abs=1e-9)
    assert group.Z == 1.5
    assert pytest.approx(round(group.G_raw / 0.02) * 0.02) == group.G


@pytest.mark.parametrize(
    ("changes", "letter"),
    [({"E": ""}, "E"), ({"b": "0.51–0.31"}, "b"), ({"L": "x"}, "L"), ({"L": "3.2–3.4"}, ""), ({"A": ""}, "A")],
)
def test_what_gives_no_lands_says_which_length(so8: PackageSheet, changes: dict[str, str], letter: str) -> None:
    texts = {k: d.text for k, d in so8.dims.items()} | changes
    sheet = make_sheet("gullwing-dual", 8, **{k: v for k, v in texts.items() if v})
    with pytest.raises(SheetError) as caught:
        make_pattern(sheet, "B", RULEBOOK)
    assert caught.value.letter == letter


@given(
    st.dictionaries(st.sampled_from(["E", "E1", "D", "e", "b", "L", "A"]), st.floats(-10, 9000).map(str), min_size=5)
)
def test_nonsense_numbers_end_in_words_or_a_pattern(dims: dict[str, str]) -> None:
    try:
        pattern = make_pattern(make_sheet("gullwing-dual", 8, **dims), "B", RULEBOOK)
    except EiderError as fault:
        assert str(fault)
    else:
        assert isinstance(pattern, Pattern)
