"""What each step shows, as values: computed without a window."""

from collections.abc import Callable
from typing import Any

import pytest
from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.lands import footprint_edits
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part
from eider.commands.pins import match_edits, symbol_edits
from eider.demo.parts import holder_part
from eider.drawings.primitives import Balloon, Text
from eider.library import Library
from eider.model.address import PadAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.footprint import Adjustment
from eider.model.part import DatasheetLink
from eider.rulebooks import standard_rulebook
from eider.services.parts.part_computing import PartRequest, answer_part, check_answer
from eider.views.part_state import PartState, ViewOptions
from eider.views.step_registry import all_steps, make_view, step_of, trail
from eider.views.steps.body import BodyOptions
from eider.views.steps.lands import LandsOptions
from eider.views.steps.pins import PinsOptions

RULEBOOK = standard_rulebook()


@pytest.fixture
def state(sound: Bundle, library: Library) -> PartState:
    return evaluated(sound, library)


def evaluated(bundle: Bundle, library: Library) -> PartState:
    rules = EvaluationRules(RULEBOOK, library.settings)
    return PartState(evaluate_part(bundle, rules), rules)


def changed(state: PartState, change: Callable[[Bundle], Bundle]) -> PartState:
    return PartState(evaluate_part(change(state.bundle), state.rules, before=state.evaluated), state.rules)


def view(state: PartState, key: str, options: Any = None, unit: str = "mm") -> Any:
    return make_view(state, key, ViewOptions(unit, options))


@pytest.mark.parametrize("key", list(all_steps()))
def test_every_step_shows_a_part_that_is_empty(key: str, library: Library) -> None:
    from eider.commands.parts.new_parts import new_part

    made = view(evaluated(new_part("NVK-1", "ic", library.settings), library), key)
    assert type(made).__name__ == f"{key.capitalize()}View"


@pytest.mark.parametrize("key", list(all_steps()))
def test_the_same_state_gives_the_same_view(key: str, state: PartState) -> None:
    assert view(state, key) == view(PartState(state.evaluated, state.rules), key)


def test_lengths_come_in_the_unit_that_is_asked_for(state: PartState) -> None:
    letters = {row.letter: row for row in view(state, "package", unit="mil").rows}
    assert letters["e"].value == "25.591"
    assert view(state, "lands", unit="mil").recipe.summaries["B"].endswith(" mil")


def test_package_reddens_what_cannot_be_true(state: PartState) -> None:
    assert view(state, "package").wrong == {}
    flawed = changed(state, lambda b: package_edits.set_dimension(b, "c", "0.20–0.09"))
    assert list(view(flawed, "package").wrong) == ["c"]
    missing = changed(state, lambda b: package_edits.set_dimension(b, "L", ""))
    assert view(missing, "package").wrong == {}


def test_package_says_why_nothing_is_drawn(state: PartState) -> None:
    empty = changed(state, lambda b: replace(b, sheet=replace(b.sheet, dims={})))
    shown = view(empty, "package")
    assert shown.drawings == ()
    assert shown.hint


def test_pads_by_hand_are_shown_with_their_faults(library: Library) -> None:
    state = evaluated(holder_part(library, DatasheetLink("0" * 64, "BRM-CH16.pdf", 2)), library)
    pads = view(state, "package").manual_pads
    assert pads.fault == ""
    assert set(pads.outlines) == set(state.bundle.sheet.outlines)
    bad = (replace(state.bundle.sheet.pads[0], x="1.2 furlong"), *state.bundle.sheet.pads[1:])
    broken = changed(state, lambda b: package_edits.set_pads(b, bad))
    assert view(broken, "package").manual_pads.fault.startswith("row 1:")


def test_lands_show_the_joint_of_the_pad_in_hand(state: PartState) -> None:
    assert view(state, "lands", LandsOptions(pad="5")).joint.verdict.startswith("Pad 5 reaches")
    fillets = view(state, "lands").joint.fillets
    assert [row.fillet for row in fillets] == ["toe", "heel", "side"]
    assert all(len(row.goals) == 3 for row in fillets)


def test_lands_compare_with_the_manufacturers_only_when_asked(state: PartState) -> None:
    assert view(state, "lands").manufacturer is None
    compared = view(state, "lands", LandsOptions(compares=True)).manufacturer
    assert (compared.is_chosen, compared.differences) == (False, ())
    assert compared.summary.startswith("Draw a rectangle around the suggested lands")


def test_lands_count_what_was_changed_by_hand(state: PartState) -> None:
    made = changed(state, lambda b: footprint_edits.adjust_pad(b, Adjustment("3", "width", "1.2")))
    shown = view(made, "lands")
    assert [a.pad for a in shown.adjustments] == ["3"]
    assert next(pad for pad in shown.pads if pad.number == "3").width == 1.2
    numbers = [b.number for b in shown.drawing.primitives if isinstance(b, Balloon)]
    assert numbers
    assert max(numbers) <= len(made.findings)


def test_layers_that_are_not_chosen_are_not_drawn(state: PartState) -> None:
    def roles(*layers: str) -> set[str]:
        drawing = view(state, "lands", LandsOptions(frozenset(layers))).drawing
        return {p.role for p in drawing.primitives if hasattr(p, "role")}

    assert "courtyard" in roles("courtyard")
    assert "courtyard" not in roles("copper")


def test_pins_show_one_unit_or_all(state: PartState) -> None:
    split = changed(state, lambda b: symbol_edits.split_units(b, "equal"))
    assert len(view(split, "pins").unit_titles) > 1
    whole, alone = view(split, "pins").drawing, view(split, "pins", PinsOptions(unit=1)).drawing
    assert len(alone.primitives) < len(whole.primitives)
    assert any(p.role == "type mark" for p in view(state, "pins", PinsOptions(types=True)).drawing.primitives)


def test_pins_tell_moves_in_words(state: PartState) -> None:
    moved = changed(state, lambda b: symbol_edits.put_on_side(b, ["9"], "right"))
    assert view(moved, "pins").move_words[0].startswith(f"{state.bundle.symbol.pins[8].name} (9): right, ")
    assert list(view(moved, "pins").moves) == ["9"]


def test_match_tells_what_belongs_together(state: PartState) -> None:
    shown = view(state, "match")
    assert shown.summary == "16 of 16 pins have a pad"
    assert (shown.pads_of["3"], shown.pins_of["3"]) == (("3",), ("3",))
    crossed = changed(state, lambda b: match_edits.set_match(match_edits.set_match(b, "3", ["4"]), "4", ["3"]))
    assert (view(crossed, "match").pads_of["3"], view(crossed, "match").wanted["3"]) == (("4",), "4")


def test_body_stands_on_its_lands_or_alone(state: PartState) -> None:
    on, alone = view(state, "body"), view(state, "body", BodyOptions("alone"))
    assert on.solids == alone.solids
    assert len(on.scene.solids) > len(alone.scene.solids)
    assert all(row.agrees for row in on.agreements)


def test_facts_come_in_the_order_of_the_category_then_those_besides(state: PartState) -> None:
    more = changed(state, lambda b: fact_edits.set_fact(b, "Weighed", "0.12 g"))
    rows = view(more, "facts").rows
    assert (rows[-1].name, rows[-1].is_besides) == ("Weighed", True)
    assert [row.is_besides for row in rows] == sorted(row.is_besides for row in rows)


def test_review_counts_and_tells_blockers(state: PartState) -> None:
    assert (view(state, "review").summary, view(state, "review").blockers) == ("No findings", 0)
    broken = changed(state, lambda b: package_edits.set_dimension(b, "L", ""))
    assert view(broken, "review").blockers >= 1


def test_the_trail_follows_from_findings_and_areas(state: PartState) -> None:
    states = {step.key: step for step in trail(state.bundle, state.findings)}
    assert [step.state for step in states.values()][:7] == ["complete"] * 7
    assert states["review"].state == "begun"
    broken = changed(state, lambda b: package_edits.set_dimension(b, "L", ""))
    assert {step_of(f) for f in broken.findings if f.check.startswith("sheet.")} == {"package"}
    assert next(s for s in trail(broken.bundle, broken.findings) if s.key == "package").blockers >= 1


def test_a_request_is_answered_with_results_trail_and_view(state: PartState, library: Library) -> None:
    changed_bundle = fact_edits.set_fact(state.bundle, "Package", "other")
    request = PartRequest(changed_bundle, state, "facts", ViewOptions(), is_changed=True, reads_rules=False)
    answer = answer_part(request, library)
    assert answer.key == "facts"
    assert answer.state.bundle.part.facts["Package"].value == "other"
    assert answer.state.bundle.footprint.pattern is state.bundle.footprint.pattern
    again = answer_part(PartRequest(changed_bundle, answer.state, "lands", ViewOptions(), False, False), library)
    assert again.state is answer.state


def test_a_large_part_is_answered_before_the_checks_have_run_over_it(
    state: PartState, library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    changed_bundle = package_edits.set_dimension(state.bundle, "L", "0.9–0.1")
    request = PartRequest(changed_bundle, state, "lands", ViewOptions(), is_changed=True, reads_rules=False)
    whole = answer_part(request, library)
    assert whole.state.evaluated.is_checked
    monkeypatch.setattr("eider.services.parts.part_computing.MANY_PADS", 16)
    first = answer_part(request, library)
    assert not first.state.evaluated.is_checked
    assert first.state.findings == state.findings
    last = check_answer(first)
    assert last.state.evaluated.is_checked
    assert last.state.bundle is first.state.bundle
    assert last.state.findings == whole.state.findings != state.findings


def test_a_balloon_stands_at_each_thing_of_a_finding_with_a_leader_of_its_own(state: PartState) -> None:
    from eider.drawings.drawing_layout import resolve_primitives
    from eider.drawings.finding_balloons import with_balloons
    from eider.drawings.primitives import Disc, Drawing, Line
    from eider.model.finding import Finding, Severity

    pads = tuple(Disc((x, 0.0), 0.5, "copper", PadAddress(str(n))) for n, x in ((3, 0.0), (14, 5.0)))
    both = Finding("lands.x", Severity.CAUTION, "", PadAddress("3"), "x", also=(PadAddress("14"),))
    other = Finding("lands.y", Severity.NOTE, "", PadAddress("3"), "y")
    drawn = with_balloons(Drawing(pads, (-1.0, -1.0, 6.0, 1.0)), [both, other])
    balloons = [b for b in drawn.primitives if isinstance(b, Balloon)]
    assert [(b.number, str(b.address), b.slot) for b in balloons] == [
        (1, "lands.pads.3", 0),
        (1, "lands.pads.14", 0),
        (2, "lands.pads.3", 1),
    ]
    plain = list(resolve_primitives(drawn, 0.05))
    leaders = [p for p in plain if isinstance(p, Line) and p.role.startswith("finding")]
    discs = [p for p in plain if isinstance(p, Disc) and p.role.startswith("finding")]
    for leader, disc in zip(leaders, discs, strict=True):
        end = leader.points[-1]
        assert ((end[0] - disc.centre[0]) ** 2 + (end[1] - disc.centre[1]) ** 2) ** 0.5 == pytest.approx(disc.radius)
    assert [leader.points[0] for leader in leaders] == [(0.0, 0.0), (5.0, 0.0), (0.0, 0.0)]
    assert len({p.at for p in plain if isinstance(p, Text)}) == 3
    assert PinAddress("3") not in {b.address for b in balloons}
