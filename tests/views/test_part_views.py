"""Trail, coverage, alignment and rows: what the steps show."""

import pytest

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.pins import match_edits
from eider.demo.build import MADE
from eider.demo.parts import converter_part
from eider.evidence.address_table import evidence_coverage
from eider.evidence.evidence_changes import set_evidence
from eider.library import Library
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.packages.sheet_parsing import parse_dimensions
from eider.rulebooks import standard_rulebook
from eider.views.body_alignment import body_alignment
from eider.views.part_values import compose_limits, dimension_rows, level_lands, matched_pads, value_rows
from eider.views.step_registry import trail


@pytest.fixture
def made(library: Library) -> Bundle:
    return converter_part(library, DatasheetLink("0" * 64, "NVK-1216T.pdf", 4))


def states(bundle: Bundle, library: Library) -> dict[str, str]:
    outcome = evaluate_part(bundle, EvaluationRules(standard_rulebook(), library.settings))
    return {s.key: s.state for s in trail(outcome.bundle, outcome.findings)}


def test_the_trail_of_a_new_part_is_empty_and_of_a_made_one_complete(library: Library, made: Bundle) -> None:
    new = states(new_parts.new_part("NVK-1", "ic", library.settings), library)
    assert new == dict.fromkeys(new, "empty")
    assert states(made, library) == {**dict.fromkeys(new, "complete"), "review": "begun"}


def test_a_step_with_a_finding_says_so(library: Library, made: Bundle) -> None:
    assert states(fact_edits.set_fact(made, "Manufacturer", ""), library)["facts"] == "findings"


def test_coverage_counts_what_has_a_place(made: Bundle) -> None:
    assert (evidence_coverage(made).covered, evidence_coverage(made).total) == (31, 31)
    changed = set_evidence(
        package_edits.set_dimension(made, "b", "0.2"), {DimensionAddress("c"): Evidence(EvidenceKind.ASSUMED)}
    )
    assert evidence_coverage(changed).without == (DimensionAddress("b"), DimensionAddress("c")) or set(
        evidence_coverage(changed).without
    ) == {
        DimensionAddress("b"),
        DimensionAddress("c"),
    }


def test_alignment_of_a_generated_body_agrees(made: Bundle) -> None:
    rows = body_alignment(made, "mm")
    assert len(rows) == 18
    assert all(row.agrees for row in rows)
    assert rows[1].measured == rows[1].expected == "1.2 mm"


def test_rows_print_in_the_users_unit(made: Bundle) -> None:
    rows = {row.letter: row for row in dimension_rows(made, parse_dimensions(made.sheet), "mil")}
    # 0.65 mm is 25.591 mil.
    assert rows["e"].nom == "25.591"
    assert rows["E"].alias == "H"
    assert rows["E"].evidence == "page 3"


def test_single_limits_can_be_typed(made: Bundle) -> None:
    row = {r.letter: r for r in dimension_rows(made, parse_dimensions(made.sheet), "mm")}["b"]
    changed = package_edits.set_dimension(made, "b", compose_limits(row, "max", "0.34"))
    limits = changed.sheet.limits("b")
    assert limits is not None
    assert (limits.min, limits.max) == (0.19, 0.34)


def test_levels_and_matches(made: Bundle) -> None:
    lands = level_lands(made, standard_rulebook())
    spans = [dict(lands[level])["Z"] for level in ("A", "B", "C")]
    assert spans[0] > spans[1] > spans[2]
    matched = matched_pads(match_edits.set_match(made, "9", ["10", "99"]))
    assert matched["9"] == ("10",)
    assert matched["1"] == ("1",)
    assert len(value_rows(made)) == 9 + 6 + 16  # dimensions, facts, pins


@pytest.mark.parametrize("name", ["NVK-M64B", "OHC-350-04", "LYN-T3528", "LYN-X25", "NVK-3301Q", "BRM-ECH47"])
def test_bodies_of_other_families_stand_on_their_lands(name: str, library: Library) -> None:
    make = next(make for key, make, _ in MADE if key == name)
    rows = body_alignment(make(library, DatasheetLink("0" * 64, "x.pdf")), "mm")
    assert len(rows) > 2
    assert [row for row in rows if not row.agrees] == []
