"""The solver compared with a second, short calculation written from the formulas alone."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.lands.pads import lay_rows
from eider.lands.solver import Lands, extents, level_reached, reached_joints, solve_lands
from eider.lands.through_hole import hole_and_land
from eider.model.pattern import LEVELS
from eider.rulebooks import standard_rulebook
from helpers import opposed_rows

RULEBOOK = standard_rulebook()


def oracle(l_min: float, l_max: float, t_min: float, t_max: float, w_min: float, w_max: float, goals: tuple) -> tuple:
    """Z, G and X from the text of the rules, F 0.10 and P 0.05."""
    toe, heel, side = goals
    c_l, c_t, c_w = l_max - l_min, t_max - t_min, w_max - w_min
    shift = 0.10**2 + 0.05**2
    s_max = l_max - 2 * t_min
    worst, c_s = c_l + 2 * c_t, math.sqrt(c_l**2 + 2 * c_t**2)
    s_max = s_max - (worst - c_s) / 2
    return (
        l_min + 2 * toe + math.sqrt(c_l**2 + shift),
        s_max - 2 * heel - math.sqrt(c_s**2 + shift),
        w_min + 2 * side + math.sqrt(c_w**2 + shift),
    )


SPAN = st.tuples(st.floats(3, 20), st.floats(0, 0.6)).map(lambda v: (v[0], v[0] + v[1]))
FOOT = st.tuples(st.floats(0.3, 0.8), st.floats(0, 0.5)).map(lambda v: (v[0], v[0] + v[1]))
WIDTH = st.tuples(st.floats(0.1, 1.5), st.floats(0, 0.3)).map(lambda v: (v[0], v[0] + v[1]))
FAMILIES = st.sampled_from(
    [
        ("gullwing", {"pitch": 1.27}), ("gullwing", {"pitch": 0.5}), ("j-lead", {}), ("chip", {"length": 3.2}),
        ("chip", {"length": 0.6}), ("cylinder", {}), ("castellated", {}), ("chip-array", {}), ("no-lead", {}),
        ("no-lead-pulled-back", {}), ("can", {"height": 6.0}), ("can", {"height": 12.0}), ("moulded", {}),
        ("tab-leads", {}), ("flat-lead", {}), ("concave-oscillator", {}), ("butt-lead", {}),
    ]
)  # fmt: skip


@given(SPAN, FOOT, WIDTH, FAMILIES, st.sampled_from(LEVELS))
def test_the_solver_agrees_with_the_formulas(
    length: tuple, foot: tuple, width: tuple, family: tuple, level: str
) -> None:
    pair, row = opposed_rows(length, foot, width, *family), RULEBOOK.goal_row(*family)
    goals = row.goals(level)  # type: ignore[arg-type]
    found = solve_lands(extents(pair, RULEBOOK), goals)
    assert pytest.approx(oracle(*length, *foot, *width, (goals.toe, goals.heel, goals.side)), abs=1e-9) == (
        found.Z,
        found.G,
        found.X,
    )


@given(SPAN, FOOT, WIDTH, FAMILIES, st.sampled_from(LEVELS))
def test_the_inverse_undoes_the_solver(length: tuple, foot: tuple, width: tuple, family: tuple, level: str) -> None:
    goals = RULEBOOK.goal_row(*family).goals(level)  # type: ignore[arg-type]
    terminals = extents(opposed_rows(length, foot, width, *family), RULEBOOK)
    reached = reached_joints(terminals, solve_lands(terminals, goals))
    assert (reached.toe, reached.heel, reached.side) == pytest.approx((goals.toe, goals.heel, goals.side), abs=1e-9)


@given(SPAN, FOOT, WIDTH, st.floats(0.0, 0.4))
def test_less_copper_never_reaches_a_higher_level(length: tuple, foot: tuple, width: tuple, less: float) -> None:
    row = RULEBOOK.goal_row("gullwing", {"pitch": 1.27})
    terminals = extents(opposed_rows(length, foot, width, "gullwing", {"pitch": 1.27}), RULEBOOK)
    full = solve_lands(terminals, row.goals("B"))
    order = [*LEVELS, None]
    before = level_reached(reached_joints(terminals, full), row, RULEBOOK)
    after = level_reached(reached_joints(terminals, Lands(full.Z - less, full.G + less, full.X)), row, RULEBOOK)
    assert before == "B"
    assert order.index(after) >= order.index(before)


@pytest.mark.parametrize(
    ("family", "measures", "level", "raw"),
    [
        # J-lead, L 10.0–10.2, T 1.5–2.0, W 0.38–0.53, B: Z = 10 + .70 + √(.04 + .0125); CS = √(.04 + .5), worst 1.2,
        # S = 10.2 − 3 − (1.2 − .734847)/2 = 6.967423; G = S − 0 − √(.54 + .0125); X = .38 + .06 + √(.0225 + .0125).
        ("j-lead", {}, "B", (10.929129, 6.224120, 0.627083)),
        # Moulded, the same lengths, A: JT .80, JH .25, JS .01.
        ("moulded", {}, "A", (11.829129, 5.724120, 0.587083)),
        # Butt lead, C: JT .60, JH .60, JS .10.
        ("butt-lead", {}, "C", (11.429129, 5.024120, 0.767083)),
    ],
)
def test_further_values_by_hand(family: str, measures: dict, level: str, raw: tuple) -> None:
    pair = opposed_rows((10.0, 10.2), (1.5, 2.0), (0.38, 0.53), family, measures)
    found = lay_rows(pair, level, RULEBOOK).derivation  # type: ignore[arg-type]
    assert (found.Z_raw, found.G_raw, found.X_raw) == pytest.approx(raw, abs=1e-5)


def test_rounding_outwards_takes_z_up_and_g_down() -> None:
    outwards = RULEBOOK.with_values({"rounding.Z": "up", "rounding.G": "down", "rounding.X": "up"})
    pair = opposed_rows((5.80, 6.20), (0.40, 1.27), (0.31, 0.51), "gullwing", {"pitch": 1.27})
    found = lay_rows(pair, "B", outwards).derivation
    assert (found.Z, found.G, found.X) == (6.95, 2.95, 0.60)
    reached = reached_joints(extents(pair, outwards), Lands(found.Z, found.G, found.X))
    assert min(reached.toe - 0.35, reached.heel - 0.35, reached.side - 0.03) >= 0


@pytest.mark.parametrize(
    ("largest", "smallest", "level", "hole", "land", "most"),
    [
        # 0.60 round lead: A 0.60 + .25 → 0.85, land .85 + .10 + .60 = 1.55; C 0.60 + .15 → 0.75, land .75 + .10 + .40.
        (0.60, 0.58, "A", 0.85, 1.55, 1.28),
        (0.60, 0.58, "B", 0.80, 1.40, 1.28),
        (0.60, 0.58, "C", 0.75, 1.25, 1.18),
        (1.02, 0.98, "B", 1.25, 1.85, 1.68),
    ],
)
def test_holes_by_hand(largest: float, smallest: float, level: str, hole: float, land: float, most: float) -> None:
    found = hole_and_land(largest, smallest, level, RULEBOOK)  # type: ignore[arg-type]
    assert (found.hole, found.land) == (hole, land)
    assert found.hole_most == pytest.approx(most)
