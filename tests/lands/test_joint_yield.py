"""Joint yield against closed forms: with one spread alone, or all of them normal, the answer is known."""

import json
import math
from pathlib import Path
from statistics import NormalDist

import pytest
from msgspec.structs import replace

from command_line import answer, eider
from eider.lands.joint_yield import FilletYield, PadYield, joint_yield
from eider.lands.joints import pattern_joints
from eider.lands.pattern import make_pattern
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad
from eider.rulebooks import Rulebook, standard_rulebook
from family_samples import sample
from helpers import hundred_leads, make_sheet

EXACT = {"tolerances.fabrication": "0", "tolerances.placement": "0", "joint_yield.rotation": "0"}
UNIFORM = {**EXACT, "joint_yield.distribution": "uniform"}
SAMPLES = 200_000


def rules(**changes: str) -> Rulebook:
    return standard_rulebook().with_values({key.replace("__", "."): value for key, value in changes.items()})


def so8(**dims: str) -> PackageSheet:
    """The package of eight leads, each length without tolerance unless it is given."""
    plain = {"E": "6.0", "E1": "3.9", "D": "4.9", "e": "1.27", "b": "0.41", "L": "0.835", "A": "max 1.75", "A1": "0.1"}
    return make_sheet("gullwing-dual", 8, **{**plain, **dims})


def pads_of(sheet: PackageSheet, book: Rulebook, pads: tuple[Pad, ...] | None = None) -> tuple[PadYield, ...]:
    laid = pads or make_pattern(sheet, "B", standard_rulebook()).pads
    return joint_yield(pattern_joints(sheet, laid, book), laid, book, "B", SAMPLES).pads


def share(fillet: FilletYield, goal: str) -> float:
    return fillet.below[goal] / 1e6


def near(expected: float) -> object:
    """Within four standard errors of the sample."""
    return pytest.approx(expected, abs=4 * math.sqrt(max(expected * (1 - expected), 1e-6) / SAMPLES))


def test_only_the_span_varies_uniformly() -> None:
    """toe = (Z − L)/2 misses a goal g where L > Z − 2 g: a share of the spread of L."""
    book = rules(**{k.replace(".", "__"): v for k, v in UNIFORM.items()})
    sheet = so8(E="5.8–6.2")
    (first, *_) = pads_of(sheet, book)
    z, g = _extents(sheet)
    assert first.toe.mean == pytest.approx((z - 6.0) / 2, abs=1e-3)
    assert first.toe.sd == pytest.approx(0.4 / math.sqrt(12) / 2, abs=1e-3)
    for level, goal in (("A", 0.55), ("B", 0.35), ("C", 0.15)):
        assert share(first.toe, level) == near(min(max((6.2 - (z - 2 * goal)) / 0.4, 0.0), 1.0))
    # heel = (L − 2 T − G)/2 with T at 0.835.
    assert share(first.heel, "B") == near(min(max((g + 2 * 0.835 + 2 * 0.35 - 5.8) / 0.4, 0.0), 1.0))
    assert first.side.sd == 0.0


def _extents(sheet: PackageSheet) -> tuple[float, float]:
    (group,) = make_pattern(sheet, "B", standard_rulebook()).derivation
    return group.Z, group.G


def test_only_the_width_varies_normally() -> None:
    """side = (X − W)/2; W is normal with its limits at 3 · Cpk standard deviations."""
    book = rules(**{k.replace(".", "__"): v for k, v in EXACT.items()}, joint_yield__cpk="1.33")
    sheet = so8(b="0.31–0.51")
    (first, *_) = pads_of(sheet, book)
    (group,) = make_pattern(sheet, "B", standard_rulebook()).derivation
    sigma = 0.1 / (3 * 1.33)
    assert first.side.sd == pytest.approx(sigma / 2, rel=0.01)
    for level, goal in (("A", 0.05), ("B", 0.03), ("C", 0.01)):
        assert share(first.side, level) == near(1 - NormalDist(0.41, sigma).cdf(group.X - 2 * goal))


def test_independent_spreads_add_up_as_variances() -> None:
    """Of the toe: half the span, the end of the land, and the part's place, each normal with limits at 3 σ."""
    book = rules(joint_yield__rotation="0", joint_yield__cpk="1")
    sheet = so8(E="5.8–6.2")
    (first, *_) = pads_of(sheet, book)
    # σ of L/2: 0.2/6; of the end of a land: 0.10/6; of the place: 0.05/6.
    sigma = math.sqrt((0.2 / 6) ** 2 + (0.10 / 6) ** 2 + (0.05 / 6) ** 2)
    z, _ = _extents(sheet)
    assert first.toe.sd == pytest.approx(sigma, rel=0.01)
    for level, goal in (("A", 0.55), ("B", 0.35)):
        assert share(first.toe, level) == near(NormalDist((z - 6.0) / 2, sigma).cdf(goal))


def test_a_turned_part_moves_its_outer_leads_most() -> None:
    """Turned by up to 1° and exact else: the toe of a lead at y varies by y · the angle, uniform."""
    book = rules(**{k.replace(".", "__"): v for k, v in UNIFORM.items()} | {"joint_yield__rotation": "1"})
    found = pads_of(so8(), book)
    by_number = {pad.number: pad.toe.sd for pad in found}
    angle = math.radians(1) / math.sqrt(3)
    assert by_number["1"] == pytest.approx(1.905 * angle, rel=0.01)
    assert by_number["2"] == pytest.approx(0.635 * angle, rel=0.01)
    assert by_number["1"] == by_number["4"] == by_number["5"] == by_number["8"]


def test_a_joint_that_misses_two_fillets_is_counted_once() -> None:
    """Width and span vary each by itself, and the heel has room: 1 − (1 − toe)(1 − side)."""
    book = rules(**{k.replace(".", "__"): v for k, v in EXACT.items()}, joint_yield__cpk="0.5")
    sheet = so8(E="5.8–6.2", b="0.31–0.51")
    # Longer at the inner end alone.
    laid = tuple(
        replace(pad, width=pad.width + 0.6, x=pad.x - math.copysign(0.3, pad.x))
        for pad in make_pattern(sheet, "B", book).pads
    )
    first = pads_of(sheet, book, laid)[0]
    toe, side = share(first.toe, "B"), share(first.side, "B")
    assert toe > 0.05 and side > 0.05 and share(first.heel, "B") == 0.0
    assert first.below["B"] / 1e6 == near(1 - (1 - toe) * (1 - side))


def test_a_land_beside_its_lead_loses_side() -> None:
    book = rules(**{k.replace(".", "__"): v for k, v in EXACT.items()})
    sheet = so8()
    laid = make_pattern(sheet, "B", standard_rulebook()).pads
    moved = tuple(replace(pad, y=pad.y + 0.2) if pad.number == "2" else pad for pad in laid)
    before, after = pads_of(sheet, book, laid), pads_of(sheet, book, moved)
    assert after[1].side.mean == pytest.approx(before[1].side.mean - 0.2, abs=1e-6)
    assert after[0] == before[0]


def test_the_same_seed_gives_the_same_and_counts_add_up() -> None:
    sheet, book = hundred_leads(), standard_rulebook()
    laid = make_pattern(sheet, "B", book).pads
    groups = pattern_joints(sheet, laid, book)
    first, again = (joint_yield(groups, laid, book, "B", 20_000, seed=7) for _ in range(2))
    assert first == again != joint_yield(groups, laid, book, "B", 20_000, seed=8)
    assert [pad.number for pad in first.pads] and len(first.pads) == 100
    assert sum(first.pads[0].toe.counts) == 20_000
    # The outermost leads of each side turn farthest.
    assert set(first.worst) <= {"1", "25", "26", "50", "51", "75", "76", "100"}


def test_the_command_answers_as_the_contract_says(tmp_path: Path) -> None:
    sheet, pattern = tmp_path / "so8.json", tmp_path / "pattern.json"
    dims = {"E": "5.80–6.20", "E1": "3.80–4.00", "D": "4.80–5.00", "e": 1.27, "b": "0.31–0.51", "L": "0.40–1.27"}
    data = {"family": "gullwing-dual", "pins": 8, "dims": {**dims, "A": "max 1.75", "A1": "0.10–0.25"}}
    sheet.write_text(json.dumps(data), encoding="utf-8")
    told = answer("yield", sheet, "--samples", "5000", "--seed", "3")
    assert set(told) == {"pads", "worst", "samples"} and told["samples"] == 5000
    assert set(told["pads"][0]) == {"number", "toe", "heel", "side", "any"}
    assert set(told["pads"][0]["toe"]["below"]) == {"A", "B", "C", "zero"}
    pattern.write_text(eider("lands", sheet, "--level", "C", "--json").stdout, encoding="utf-8")
    other = answer("yield", sheet, pattern, "--samples", "5000", "--seed", "3", "--level", "B")
    # Lands of level C reach level B less often than those of level B.
    assert other["pads"][0]["toe"]["below"]["B"] > told["pads"][0]["toe"]["below"]["B"]
    assert "1,000" in eider("yield", sheet, "--samples", "5", status=2).stderr
    assert "joints in a million" in eider("yield", sheet, "--samples", "5000").stdout


def test_balls_have_no_joint_to_simulate(tmp_path: Path) -> None:
    sheet = sample("ball-grid")
    laid = make_pattern(sheet, "B", standard_rulebook()).pads
    found = joint_yield(pattern_joints(sheet, laid, standard_rulebook()), laid, standard_rulebook(), "B", 1000)
    assert found.pads == () and found.worst == ()
