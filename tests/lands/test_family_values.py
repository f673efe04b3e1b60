"""Lands of each family against the standard's formulas, worked here from limits and goals as they are printed."""

import math

import pytest

from eider.lands.land_layout import lay_out_lands
from eider.lands.pattern import make_pattern
from eider.lands.thermal_lands import paste_coverage
from eider.model.package_sheet import PackageSheet, Post
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook
from helpers import make_sheet

RULEBOOK = standard_rulebook()
F, P = 0.10, 0.05


def nearest(value: float, step: float) -> float:
    return math.floor(value / step + 0.5 + 1e-9) * step


def worked(length: tuple, foot: tuple, width: tuple, goals: tuple, step: float = 0.05) -> tuple[float, ...]:
    """Z, G and X of the solder-joint equations, rounded; every length as (min, max), goals toe, heel, side."""
    c_l, c_t, c_w = (high - low for low, high in (length, foot, width))
    c_s = math.hypot(c_l, c_t, c_t)
    s_max = length[1] - 2 * foot[0] - (c_l + 2 * c_t - c_s) / 2
    z = length[0] + 2 * goals[0] + math.sqrt(c_l**2 + F**2 + P**2)
    g = s_max - 2 * goals[1] - math.sqrt(c_s**2 + F**2 + P**2)
    x = width[0] + 2 * goals[2] + math.sqrt(c_w**2 + F**2 + P**2)
    return tuple(nearest(v, step) for v in (z, g, x))


def dims(text: str) -> dict[str, str]:
    return dict(piece.split("=") for piece in text.split())


# Family, pins, kind, lengths; L, T, W; goals at A, B and C (toe, heel, side), from the standard's table.
GULL = ((0.55, 0.45, 0.05), (0.35, 0.35, 0.03), (0.15, 0.25, 0.01))
J = ((0.55, 0.10, 0.05), (0.35, 0.0, 0.03), (0.15, -0.10, 0.01))
ROWS = [
    ("transistor", 3, "", "E=2.1-2.64 E1=1.2-1.4 D=2.8-3.04 e=0.95 b=0.3-0.5 L=0.4-0.6 A=1.12",
     (2.1, 2.64), (0.4, 0.6), (0.3, 0.5), GULL),
    ("j-lead-dual", 20, "", "E=8.31-8.51 E1=7.49-7.75 D=12.57-12.83 e=1.27 b=0.38-0.51 L=0.9-1.3 A=3.75",
     (8.31, 8.51), (0.9, 1.3), (0.38, 0.51), J),
    ("j-lead-quad", 20, "", "D=9.78-10.03 D1=8.89-9.04 E=9.78-10.03 E1=8.89-9.04 e=1.27 b=0.33-0.53 L=1.2-1.6 A=4.57",
     (9.78, 10.03), (1.2, 1.6), (0.33, 0.53), J),
    ("cylinder", 2, "diode", "D=3.4-3.6 E=1.5-1.7 L=0.3-0.55",
     (3.4, 3.6), (0.3, 0.55), (1.5, 1.7), ((0.6, 0.2, 0.1), (0.4, 0.1, 0.05), (0.2, 0.02, 0.01))),
    ("moulded", 2, "diode", "D=5.0-5.4 E=2.4-2.8 b=1.3-1.6 L=0.8-1.5 A=2.3",
     (5.0, 5.4), (0.8, 1.5), (1.3, 1.6), ((0.8, 0.25, 0.01), (0.5, 0.15, -0.05), (0.2, 0.07, -0.1))),
    ("flat-lead", 2, "diode", "E=2.3-2.7 E1=1.6-1.8 D=1.15-1.35 b=0.25-0.35 L=0.2-0.4 A=0.8",
     (2.3, 2.7), (0.2, 0.4), (0.25, 0.35), ((0.3, 0.0, 0.05), (0.2, 0.0, 0.0), (0.1, 0.0, -0.05))),
    ("gullwing-diode", 2, "diode", "E=3.55-3.85 E1=2.55-2.85 D=1.4-1.8 b=0.45-0.7 L=0.25-0.5 A=1.35",
     (3.55, 3.85), (0.25, 0.5), (0.45, 0.7), ((0.55, 0.45, 0.05), (0.35, 0.35, 0.03), (0.15, 0.25, 0.01))),
    ("chip-array", 8, "resistor", "E=1.5-1.7 D=3.1-3.3 e=0.8 b=0.3-0.5 L=0.2-0.4 A=0.6",
     (1.5, 1.7), (0.2, 0.4), (0.3, 0.5), ((0.55, -0.05, -0.05), (0.45, -0.07, -0.07), (0.35, -0.1, -0.1))),
    ("castellated", 6, "carrier", "D=6.9-7.1 E=4.9-5.1 e=1.27 b=0.5-0.7 L=0.8-1.2 A=1.5",
     (6.9, 7.1), (0.8, 1.2), (0.5, 0.7), ((0.65, 0.25, 0.05), (0.55, 0.15, -0.05), (0.45, 0.05, -0.15))),
    ("castellated", 4, "oscillator", "D=3.1-3.3 E=2.4-2.6 e=1.65 b=0.8-1.0 L=0.7-0.9 A=1.2",
     (3.1, 3.3), (0.7, 0.9), (0.8, 1.0), ((0.55, -0.05, -0.05), (0.45, -0.07, -0.07), (0.35, -0.1, -0.1))),
    ("can", 2, "", "D=6.5-6.7 E=6.5-6.7 E3=7.1-7.5 b=0.5-0.8 L=2.3-2.7 A=5.7",
     (7.1, 7.5), (2.3, 2.7), (0.5, 0.8), ((0.7, 0.0, 0.5), (0.5, -0.1, 0.4), (0.3, -0.2, 0.3))),
    ("can", 2, "", "D=10.2-10.4 E=10.2-10.4 E3=10.8-11.2 b=0.8-1.1 L=3.2-3.6 A=10.5",
     (10.8, 11.2), (3.2, 3.6), (0.8, 1.1), ((1.0, 0.0, 0.6), (0.7, -0.05, 0.5), (0.4, -0.1, 0.4))),
    ("no-lead-quad", 24, "", "D=3.9-4.1 E=3.9-4.1 e=0.5 b=0.18-0.30 L=0.3-0.5 A=0.8",
     (3.9, 4.1), (0.3, 0.5), (0.18, 0.30), ((0.4, 0.0, -0.04), (0.3, 0.0, -0.04), (0.2, 0.0, -0.04))),
    ("no-lead-dual", 8, "", "D=3.4-3.6 E=2.9-3.1 e=0.8 b=0.25-0.35 L=0.3-0.5 A=0.8 pull_back=0.1",
     (2.7, 2.9), (0.3, 0.5), (0.25, 0.35), ((0.05, 0.05, 0.05), (0.0, 0.0, 0.0), (-0.05, -0.05, -0.05))),
]  # fmt: skip


@pytest.mark.parametrize("level", ["A", "B", "C"])
@pytest.mark.parametrize("case", ROWS, ids=[f"{row[0]} {row[2]}".strip() for row in ROWS])
def test_rows_follow_the_equations(case: tuple, level: str) -> None:
    family, pins, kind, text, length, foot, width, goals = case
    found = make_pattern(make_sheet(family, pins, kind, **dims(text)), level, RULEBOOK).derivation[0]  # type: ignore[arg-type]
    assert pytest.approx(worked(length, foot, width, goals["ABC".index(level)]), abs=1e-6) == (
        found.Z,
        found.G,
        found.X,
    )


def test_leads_and_tab_of_a_power_package_each_by_their_own_goals() -> None:
    text = "H=9.4-10.4 D=5.97-6.22 E=6.35-6.73 e=2.29 b=0.64-0.89 L=1.4-1.78 D2=5.21-5.6 E2=4.32-5.2 A=2.4"
    leads, tab = make_pattern(make_sheet("tab", 3, **dims(text)), "B", RULEBOOK).derivation
    assert leads.numbers == ("1", "3")
    assert tab.numbers == ("2",)
    assert pytest.approx(worked((9.4, 10.4), (1.4, 1.78), (0.64, 0.89), GULL[1]), abs=1e-6) == (
        leads.Z,
        leads.G,
        leads.X,
    )
    # The tab is longer than half of the span: its land reaches over the middle.
    assert pytest.approx(worked((9.4, 10.4), (5.21, 5.6), (4.32, 5.2), (0.35, 0.0, 0.03)), abs=1e-6) == (
        tab.Z,
        tab.G,
        tab.X,
    )
    assert tab.G < 0


def test_differing_sides_have_lands_of_their_own() -> None:
    text = "E=6.7-7.3 E1=3.3-3.7 D=6.3-6.7 e=2.3 b=0.6-0.8 L=0.75-1.1 b_right=2.9-3.1 A=1.8"
    sheet = make_sheet("transistor", 4, **dims(text))
    from msgspec.structs import replace

    pattern = make_pattern(replace(sheet, left=("1", "2", "3"), right=("4",)), "B", RULEBOOK)
    narrow, wide = pattern.derivation
    assert pytest.approx(worked((6.7, 7.3), (0.75, 1.1), (0.6, 0.8), GULL[1])[2]) == narrow.X
    assert pytest.approx(worked((6.7, 7.3), (0.75, 1.1), (2.9, 3.1), GULL[1])[2]) == wide.X
    places = {pad.number: (pad.x < 0, pad.y) for pad in pattern.pads}
    assert places == {"1": (True, 2.3), "2": (True, 0.0), "3": (True, -2.3), "4": (False, 0.0)}


@pytest.mark.parametrize(
    ("ball", "kind", "land"),
    [
        ("0.75", "collapsing", 0.55),
        ("0.50", "collapsing", 0.40),
        ("0.45", "collapsing", 0.35),
        ("0.30", "collapsing", 0.25),
        ("0.70", "collapsing", 0.53),
        ("0.42", "collapsing", 0.34),
        ("0.22", "collapsing", 0.19),
        ("0.60", "non-collapsing", 0.69),
        ("0.40", "non-collapsing", 0.44),
        ("0.20", "non-collapsing", 0.21),
    ],
)
def test_lands_of_balls(ball: str, kind: str, land: float) -> None:
    # In the table, or by a share: 0.70 × 0.75 = 0.525, 0.42 × 0.8 = 0.336, 0.22 × 0.85 = 0.187; × 1.15, 1.10, 1.05.
    sheet = make_sheet("ball-grid", 16, kind, D="8", E="8", e="1.5", b=ball, A="1.2")
    pads = make_pattern(sheet, "B", RULEBOOK).pads
    assert {(pad.width, pad.height, pad.shape) for pad in pads} == {(land, land, "circle")}


def test_grid_letters_leave_six_out_and_a1_is_upper_left() -> None:
    sheet = make_sheet("ball-grid", 484, D="23", E="23", e="1", b="0.5", A="2")
    pads = make_pattern(sheet, "B", RULEBOOK).pads
    numbers = [pad.number for pad in pads]
    assert (pads[0].number, pads[0].x, pads[0].y) == ("A1", -10.5, 10.5)
    rows = list(dict.fromkeys(number.rstrip("0123456789") for number in numbers))
    assert rows == [*"ABCDEFGHJKLMNPRTUVWY", "AA", "AB"]


def grid(**changes: object) -> PackageSheet:
    from msgspec.structs import replace

    sheet = make_sheet("ball-grid", int(str(changes.pop("pins", 12))), D="5", E="5", eD="1", eE="0.8", b="0.4", A="1")
    return replace(sheet, rows=4, columns=4, **changes)


def test_empty_staggered_and_two_pitches() -> None:
    empty = make_pattern(grid(missing=("B2", "B3", "C2", "C3")), "B", RULEBOOK).pads
    assert len(empty) == 12
    assert "B2" not in {pad.number for pad in empty}
    assert {pad.x for pad in empty} == {-1.5, -0.5, 0.5, 1.5}
    assert {pad.y for pad in empty} == {1.2, 0.4, -0.4, -1.2}
    staggered = make_pattern(grid(staggered=True, pins=8), "B", RULEBOOK).pads
    assert [pad.number for pad in staggered] == ["A1", "A3", "B2", "B4", "C1", "C3", "D2", "D4"]


@pytest.mark.parametrize(("level", "hole", "land"), [("A", 1.20, 1.90), ("B", 1.15, 1.75), ("C", 1.10, 1.60)])
def test_a_headers_pin(level: str, hole: float, land: float) -> None:
    # 0.66 square: diagonal 0.9334; + 0.25, 0.20, 0.15 up to 0.05; + 2 × 0.05 + 0.60, 0.50, 0.40.
    sheet = make_sheet("header", 4, e="2.54", b="0.62-0.66", A="8")
    pads = make_pattern(sheet, level, RULEBOOK).pads  # type: ignore[arg-type]
    assert {(pad.hole.width, pad.width) for pad in pads if pad.hole} == {(hole, land)}
    assert [pad.shape for pad in pads] == ["rectangle", "circle", "circle", "circle"]
    assert not any(pad.paste for pad in pads)


def test_a_flat_lead_with_a_wide_tolerance_gets_a_slot() -> None:
    # Diagonals 1.838 and 0.762 (0.7 × 0.3): a hole of 2.05 is 1.29 over the smallest lead, more than 0.70.
    sheet = make_sheet("tab-through-hole", 3, E="10", e="2.54", b="0.7-1.7", c="0.3-0.7", D="15")
    pad = make_pattern(sheet, "B", RULEBOOK).pads[1]
    assert pad.hole
    assert (pad.hole.width, pad.hole.height, pad.shape) == (1.9, 0.9, "oval")
    # 1.9 + 0.1 + 0.5 would be 2.5; between neighbours at 2.54 only 2.34, down to 2.30, is left.
    assert (pad.width, pad.height) == (2.3, 1.5)


def numbered(numbering: str) -> list[tuple[str, float, float]]:
    from msgspec.structs import replace

    sheet = make_sheet("header", 6, e="2", b="0.5", A="8", e1="3")
    pads = make_pattern(replace(sheet, rows=2, columns=3, numbering=numbering), "B", RULEBOOK).pads
    return [(pad.number, pad.x, pad.y) for pad in pads]


def test_headers_are_numbered_by_row_in_zigzag_or_around() -> None:
    assert numbered("row") == [
        ("1", -2, 1.5),
        ("2", 0, 1.5),
        ("3", 2, 1.5),
        ("4", -2, -1.5),
        ("5", 0, -1.5),
        ("6", 2, -1.5),
    ]
    assert numbered("zigzag")[:3] == [("1", -2, 1.5), ("2", -2, -1.5), ("3", 0, 1.5)]
    assert numbered("around")[3:] == [("4", 2, -1.5), ("5", 0, -1.5), ("6", -2, -1.5)]


def test_posts_are_holes_without_copper_measured_from_pin_1() -> None:
    from msgspec.structs import replace

    sheet = make_sheet("header", 3, e="3.5", b="1.0", A="10", above="4", below="8", left="2", right="9")
    sheet = replace(sheet, posts=(Post(3.5, -4.0, 1.3),))
    pattern = make_pattern(sheet, "B", RULEBOOK)
    (post,) = [pad for pad in pattern.pads if not pad.plated]
    # Pin 1 is at (−3.5, 0). 1.3 + 0.15, up to 0.05.
    assert (post.x, post.y, post.number) == (0.0, -4.0, "H1")
    assert post.hole
    assert post.hole.width == post.width == 1.45
    # The body reaches from 2 left of pin 1 to 9 right of it, 4 above to 8 below: courtyard 0.25 further.
    xs, ys = zip(*pattern.courtyard, strict=True)
    assert min(xs) <= -3.5 - 2 - 0.25
    assert max(ys) >= 4 + 0.25
    assert min(ys) <= -8 - 0.25


def thermal(size: str, **changes: str) -> PackageSheet:
    base = dims("D=5.9-6.1 E=5.9-6.1 e=0.5 b=0.18-0.30 L=0.3-0.5 A=0.8")
    return make_sheet("no-lead-quad", 40, **{**base, "D2": size, "E2": size, **changes})


def test_a_thermal_land_is_of_its_pads_size_with_paste_in_windows_and_vias_between() -> None:
    pattern = make_pattern(thermal("4.4"), "B", RULEBOOK)
    (pad,) = [p for p in pattern.pads if p.number == "41"]
    assert (pad.width, pad.height) == (4.4, 4.4)
    # Two windows of 4.4/2 − 0.25 = 1.95 on each side.
    assert len(pad.paste) == 4
    assert 0.5 <= paste_coverage(pad) <= 0.8
    assert paste_coverage(pad) == pytest.approx(4 * 1.95**2 / 4.4**2)
    for via in pattern.vias:
        reach = via.drill / 2
        for window in pad.paste:
            x0, y0, x1, y1 = window.box
            inside = x0 - reach < via.x < x1 + reach and y0 - reach < via.y < y1 + reach
            assert not inside
    assert pattern.vias


def test_a_thermal_land_keeps_its_gap_to_the_others() -> None:
    # G is 5.00 at most: a pad of 4.8 leaves 0.10 on each side, so the land shrinks until 0.20 are free.
    pattern = make_pattern(thermal("4.8"), "B", RULEBOOK)
    (pad,) = [p for p in pattern.pads if p.number == "41"]
    inner = min(abs(p.box[2]) for p in pattern.pads if int(p.number) <= 10)
    assert inner - pad.width / 2 >= 0.20 - 1e-9
    assert any("perimeter lands need" in note for size in pattern.sizes for note in size.notes)


def test_the_thermal_land_alone_gives_way_where_the_rulebook_says_so() -> None:
    # The quad of the worked values: G is 9.80 at B, 10.00 at C. A pad of 9.5 leaves 0.15 on each side.
    letters = dims("D=11.8-12.2 E=11.8-12.2 D1=9.9-10.1 E1=9.9-10.1 e=0.5 b=0.17-0.27 L=0.45-0.75 A=1.2 D2=9.5 E2=9.5")
    sheet = make_sheet("gullwing-quad", 64, **letters)
    by_ends = make_pattern(sheet, "B", RULEBOOK)
    by_land = make_pattern(sheet, "B", RULEBOOK.with_values({"clearances.thermal_trim": "thermal-land"}))
    found = []
    for pattern in (by_ends, by_land):
        (pad,) = [p for p in pattern.pads if p.number == "65"]
        found.append((pattern.derivation[0].G, pad.width, pad.height))
    assert found == [(9.9, 9.5, 9.5), (9.8, 9.4, 9.4)]


@pytest.mark.parametrize("size", ["0.9", "1.5", "2.3", "2.6", "3.1", "4.4"])
def test_coverage_stays_within_the_rules_at_every_size(size: str) -> None:
    (pad,) = [p for p in make_pattern(thermal(size), "B", RULEBOOK).pads if p.number == "41"]
    assert 0.5 - 1e-9 <= paste_coverage(pad) <= 0.8 + 1e-9


def test_carriers_begin_in_the_middle_of_the_top() -> None:
    text = "D=9.78-10.03 D1=8.89-9.04 E=9.78-10.03 E1=8.89-9.04 e=1.27 b=0.33-0.53 L=1.2-1.6 A=4.57"
    pads = {p.number: p for p in make_pattern(make_sheet("j-lead-quad", 20, **dims(text)), "B", RULEBOOK).pads}
    assert pads["1"].x == 0.0
    assert pads["1"].y > 4
    # Counter-clockwise: 2 to the left of it, 20 to the right, 4 at the top of the left side.
    assert pads["2"].x == -1.27
    assert pads["20"].x == 1.27
    assert pads["4"].x < -4
    assert pads["4"].y == 2.54


def test_patterns_of_symmetric_packages_are_symmetric() -> None:
    for key, pins, text in (
        ("no-lead-quad", 40, "D=5.9-6.1 E=5.9-6.1 e=0.5 b=0.18-0.30 L=0.3-0.5 A=0.8 D2=4.2 E2=4.2"),
        ("gullwing-dual", 8, "E=5.8-6.2 E1=3.8-4 D=4.8-5 e=1.27 b=0.31-0.51 L=0.4-1.27 A=1.75"),
        ("dual-in-line", 14, "E=7.62-8.25 E1=6.1-7.11 D=18.67-19.69 e=2.54 b=0.36-0.56 A=5.08 c=0.2-0.36"),
    ):
        family, sheet = family_of(key), make_sheet(key, pins, **dims(text))
        pads = lay_out_lands(family.lands(sheet, family.dims(sheet)), "B", RULEBOOK).pads
        boxes = {(round(p.x, 6), round(p.y, 6), p.width, p.height) for p in pads}
        assert {(-x + 0.0, y, w, h) for x, y, w, h in boxes} == boxes
        assert {(x, -y + 0.0, w, h) for x, y, w, h in boxes} == boxes
