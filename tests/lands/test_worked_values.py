"""The worked values of the land-pattern rules: raw to 1e-4, rounded exactly."""

import pytest

from eider.geometry.limits import Limits
from eider.lands.pads import lay_rows
from eider.lands.pattern import make_pattern
from eider.lands.solver import Lands, extents, reached_joints, solve_lands
from eider.lands.through_hole import hole_and_land, lead_diagonal
from eider.model.pattern import Goals
from eider.packages.family import OpposedRows
from eider.rulebooks import standard_rulebook
from helpers import opposed_rows

RULEBOOK = standard_rulebook()
DUAL = ("gullwing", {"pitch": 1.27}, (5.80, 6.20), (0.40, 1.27), (0.31, 0.51))
QUAD = ("gullwing", {"pitch": 0.5}, (11.80, 12.20), (0.45, 0.75), (0.17, 0.27))
CHIP = ("chip", {"length": 2.0}, (1.85, 2.15), (0.25, 0.75), (1.10, 1.40))
NO_LEAD = ("no-lead", {"pitch": 0.5}, (3.90, 4.10), (0.30, 0.50), (0.18, 0.30))

WORKED = [
    (DUAL, "A", (7.3153, 2.7783, 0.6391), (7.30, 2.80, 0.65)),
    (DUAL, "B", (6.9153, 2.9783, 0.5991), (6.90, 3.00, 0.60)),
    (DUAL, "C", (6.5153, 3.1783, 0.5591), (6.50, 3.20, 0.55)),
    (QUAD, "B", (12.9153, 9.7978, 0.2800), (12.90, 9.80, 0.30)),
    (CHIP, "B", (2.8702, 0.6078, 1.4202), (2.85, 0.60, 1.40)),
    (NO_LEAD, "B", (4.7291, 3.0092, 0.2640), (4.75, 3.00, 0.25)),
]


def rows(case: tuple) -> OpposedRows:
    goals, measures, length, foot, width = case
    return opposed_rows(length, foot, width, goals, measures, measures.get("pitch", 0.0))


@pytest.mark.parametrize(("case", "level", "raw", "rounded"), WORKED)
def test_worked_value(case: tuple, level: str, raw: tuple, rounded: tuple) -> None:
    found = lay_rows(rows(case), level, RULEBOOK).derivation  # type: ignore[arg-type]
    assert (found.Z_raw, found.G_raw, found.X_raw) == pytest.approx(raw, abs=1e-4)
    assert rounded == (found.Z, found.G, found.X)


def test_header_pin() -> None:
    # 0.66 square at its largest: diagonal 0.933; + 0.20 at B, up to 1.15; land 1.15 + 2 × 0.05 + 0.50.
    diagonal = lead_diagonal(0.66, 0.66)
    found = hole_and_land(diagonal, lead_diagonal(0.64, 0.64), "B", RULEBOOK)
    assert diagonal == pytest.approx(0.933, abs=5e-4)
    assert found.hole_raw == pytest.approx(1.133, abs=5e-4)
    assert (found.hole, found.land) == (1.15, 1.75)


def test_the_contracts_first_pad(so8) -> None:  # type: ignore[no-untyped-def]
    pattern = make_pattern(so8, "B", RULEBOOK)
    first = pattern.pads[0]
    assert pattern.name == "SOIC127P600X175-8N"
    assert (first.number, first.x, first.y, first.width, first.height) == ("1", -2.475, 1.905, 1.95, 0.6)


def test_the_inverse_gives_back_the_goals() -> None:
    terminals, goals = extents(rows(DUAL), RULEBOOK), Goals(0.35, 0.35, 0.03)
    reached = reached_joints(terminals, solve_lands(terminals, goals))
    assert (reached.toe, reached.heel, reached.side) == pytest.approx((0.35, 0.35, 0.03))


def test_joints_of_the_rounded_pattern_by_hand() -> None:
    # Z 6.90: (6.90 − 5.80 − 0.41533)/2 = 0.34233; G 3.00: (4.97690 − 3.00 − 1.29860)/2 = 0.33915;
    # X 0.60: (0.60 − 0.31 − 0.22913)/2 = 0.03044.
    reached = reached_joints(extents(rows(DUAL), RULEBOOK), Lands(6.90, 3.00, 0.60))
    assert (reached.toe, reached.heel, reached.side) == pytest.approx((0.34233, 0.33915, 0.03044), abs=1e-5)


def test_worst_case_is_a_plain_sum_without_reduction() -> None:
    # Z = 5.80 + 0.70 + (0.40 + 0.10 + 0.05); G = 5.40 − 0.70 − (2.14 + 0.15); X = 0.31 + 0.06 + (0.20 + 0.15).
    rulebook = RULEBOOK.with_values({"tolerances.method": "worst-case"})
    raw = solve_lands(extents(rows(DUAL), rulebook), Goals(0.35, 0.35, 0.03))
    assert pytest.approx((7.05, 2.41, 0.72)) == (raw.Z, raw.G, raw.X)


def test_a_given_gap_is_taken_as_given() -> None:
    from msgspec.structs import replace

    # G = 5.0 − 0.70 − √(0.2² + 0.1² + 0.05²).
    given = replace(rows(DUAL), gap=Limits(min=4.8, max=5.0))
    assert pytest.approx(4.0708712, abs=1e-6) == solve_lands(extents(given, RULEBOOK), Goals(0.35, 0.35, 0.03)).G
