"""What a check declares to read is all that it reads: on every flawed part, and with everything else exchanged."""

from collections.abc import Iterator
from functools import cached_property
from typing import Any

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck, all_checks
from eider.checks.check_inputs import INPUTS, Input, changed_inputs, inputs_of
from eider.checks.runner import check_part
from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts.evaluation import EvaluationRules, evaluate_part, without_results
from eider.commands.pins import match_edits
from eider.demo.flaws import FLAWS
from eider.library import Library
from eider.model.bundle import Bundle
from eider.rulebooks import standard_rulebook

RULEBOOK = standard_rulebook()
OF_DOCUMENT: dict[str, Input] = {"sheet": "sheet", "footprint": "lands", "symbol": "symbol", "body": "body"}
OF_PART: dict[str, Input] = {
    "name": "about",
    "category": "about",
    "description": "about",
    "facts": "facts",
    "match": "match",
    "mechanical": "match",
    "internal": "match",
    "pinout": "match",
    "datasheets": "datasheets",
    "to_confirm": "doubts",
}


class Recorded:
    """Stands for a document, and notes which input each attribute that is asked for belongs to."""

    def __init__(self, document: object, inputs: dict[str, Input], seen: set[Input]) -> None:
        self._document, self._inputs, self._seen = document, inputs, seen

    def __getattr__(self, name: str) -> Any:
        if name == "part":
            return Recorded(self._document.part, OF_PART, self._seen)  # type: ignore[attr-defined]
        self._seen.add(self._inputs[name])
        return getattr(self._document, name)


class RecordingView(PartUnderCheck):
    """The part under check, which notes what of it is read."""

    def __init__(self, bundle: Bundle, library: Library) -> None:
        self.seen: set[Input] = set()
        self._library = library
        self.results = None
        self.bundle = Recorded(bundle, OF_DOCUMENT, self.seen)  # type: ignore[assignment]

    @property
    def rulebook(self) -> Any:
        self.seen.add("rulebook")
        return RULEBOOK

    @property
    def settings(self) -> Any:
        self.seen.add("settings")
        return self._library.settings

    @cached_property
    def category(self) -> Any:
        return self.settings.categories.get(self.bundle.part.category)


@pytest.fixture(scope="module")
def parts(flawed_demo: Library) -> list[Bundle]:
    return [flawed_demo.load(row.id) for row in flawed_demo.search()]


@pytest.mark.parametrize("check_id", list(all_checks()))
def test_a_check_reads_what_it_declares_and_nothing_else(
    check_id: str, parts: list[Bundle], flawed_demo: Library
) -> None:
    entry, seen = all_checks()[check_id], set[Input]()
    for part in parts:
        view = RecordingView(part, flawed_demo)
        list(entry.run(view))
        seen |= view.seen
    assert seen == entry.reads


def _with_inputs_of(bundle: Bundle, other: Bundle, names: frozenset[Input]) -> Bundle:
    """The part with some inputs taken from another one."""
    documents = {field: getattr(other, field) for field, name in OF_DOCUMENT.items() if name in names}
    part = replace(bundle.part, **{f: getattr(other.part, f) for f, name in OF_PART.items() if name in names})
    return replace(bundle, part=part, **documents)


@pytest.mark.parametrize("check_id", list(all_checks()))
def test_what_a_check_does_not_read_never_changes_its_findings(
    check_id: str, parts: list[Bundle], flawed_demo: Library
) -> None:
    entry = all_checks()[check_id]
    unread = frozenset(INPUTS) - entry.reads
    slip = next(flaw.slip for flaw in FLAWS if flaw.check == check_id)
    flawed = next(p for p in parts if p.part.description.endswith(slip))
    hits = list(entry.run(PartUnderCheck(flawed, RULEBOOK, flawed_demo.settings)))
    assert hits
    for other in parts[::7]:
        changed = _with_inputs_of(flawed, other, unread)
        assert list(entry.run(PartUnderCheck(changed, RULEBOOK, flawed_demo.settings))) == hits


def edits() -> Iterator[tuple[str, Any, set[Input]]]:
    yield "fact", lambda b: fact_edits.set_fact(b, "Package", "other"), {"facts"}
    yield "match", lambda b: match_edits.set_match(b, "3", ["4"]), {"match"}
    yield "thickness", lambda b: package_edits.set_dimension(b, "c", "0.10–0.22"), {"sheet", "lands", "body"}


@pytest.mark.parametrize(("change", "touched"), [e[1:] for e in edits()], ids=[e[0] for e in edits()])
def test_only_what_a_change_touched_is_computed_and_checked_again(
    change: Any, touched: set[Input], sound: Bundle, library: Library, monkeypatch: pytest.MonkeyPatch
) -> None:
    rules = EvaluationRules(RULEBOOK, library.settings)
    before = evaluate_part(sound, rules)
    changed = change(before.bundle)
    again = evaluate_part(changed, rules)
    after = evaluate_part(changed, rules, before=before)
    assert (after.bundle, after.findings) == (again.bundle, again.findings)
    moved = changed_inputs(before.checked.inputs, inputs_of(after.bundle, RULEBOOK, library.settings))
    assert moved <= touched
    kept = [run for run, hits in after.checked.hits.items() if hits is before.checked.hits.get(run)]
    assert {run[0] for run in kept} >= {key for key, entry in all_checks().items() if not entry.reads & moved}
    if "sheet" not in touched:
        assert after.bundle.footprint.pattern is before.bundle.footprint.pattern
        assert after.bundle.symbol is before.bundle.symbol


def test_a_foreign_result_is_no_result_of_the_recipe(sound: Bundle, library: Library) -> None:
    pattern = sound.footprint.pattern
    assert pattern is not None
    foreign = replace(sound, footprint=replace(sound.footprint, pattern=replace(pattern, pads=pattern.pads[:-1])))
    rules = EvaluationRules(RULEBOOK, library.settings)
    opened = evaluate_part(foreign, rules, fresh=False)
    assert "lands.pad-numbers" in {f.check for f in opened.findings}
    after = evaluate_part(fact_edits.set_fact(foreign, "Package", "x"), rules, before=opened)
    assert after.bundle.footprint.pattern == pattern
    assert "lands.pad-numbers" not in {f.check for f in after.findings}


def test_a_check_of_the_same_state_takes_all_as_it_is(sound: Bundle, library: Library) -> None:
    view = PartUnderCheck(sound, RULEBOOK, library.settings)
    first = check_part(view)
    again = check_part(PartUnderCheck(sound, RULEBOOK, library.settings), first)
    assert all(again.hits[run] is hits for run, hits in first.hits.items())


def test_recipes_alone_are_what_undo_keeps(sound: Bundle) -> None:
    bare = without_results(sound)
    assert (bare.footprint.pattern, bare.symbol.units, bare.body.result) == (None, (), None)
    assert bare.symbol.pins == sound.symbol.pins
    assert evaluate_part(bare, EvaluationRules(RULEBOOK, _settings())).bundle.footprint.pattern == (
        sound.footprint.pattern
    )


def _settings() -> Any:
    from eider.model.library import LibrarySettings

    return LibrarySettings(name="")
