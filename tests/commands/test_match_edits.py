"""Matching pins and pads: said to be internal or mechanical, by a table, by proposals with their reasons."""

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.commands.pins.match_edits import (
    match_by_table,
    match_proposals,
    set_internal,
    set_match,
    set_mechanical,
    use_proposals,
)
from eider.errors import InputError
from eider.evidence.pin_pads import pads_by_pin
from eider.lands.pattern import make_pattern
from eider.model.bundle import Bundle
from eider.model.library import LibrarySettings
from eider.model.symbol import Pin
from eider.rulebooks import standard_rulebook
from family_samples import sample

RULEBOOK = standard_rulebook()


def part(family: str, *pins: tuple[str, str]) -> Bundle:
    sheet = sample(family)
    bundle = bare_bundle(sheet, make_pattern(sheet, "B", RULEBOOK), "B")
    return replace(bundle, symbol=replace(bundle.symbol, pins=tuple(Pin(n, name, "passive") for n, name in pins)))


def hits(bundle: Bundle) -> set[str]:
    found = run_checks(PartUnderCheck(bundle, RULEBOOK, LibrarySettings(name="")))
    return {f.check for f in found if f.check.startswith(("match.", "symbol.count"))}


PLAIN = [(str(i), f"P{i}") for i in range(1, 9)]


def test_a_pin_without_a_pad_and_a_pad_without_a_pin_are_said_to_be_so() -> None:
    bundle = part("gullwing-dual", *PLAIN[:7], ("X", "inside"))
    assert hits(bundle) == {"match.pin-without-pad", "match.pad-without-pin", "symbol.count-against-package"}
    said = set_mechanical(set_internal(bundle, ["X"]), ["8"])
    assert hits(said) == set()
    assert pads_by_pin(said)["X"] == ()
    assert (said.part.internal, said.part.mechanical) == (("X",), ("8",))
    back = set_mechanical(set_internal(said, ["X"], internal=False), ["8"], mechanical=False)
    assert back == bundle


def test_a_match_takes_what_was_said_back() -> None:
    said = set_mechanical(set_internal(part("gullwing-dual", *PLAIN[:7], ("X", "x")), ["X"]), ["8"])
    matched = set_match(said, "X", ("8",))
    assert (matched.part.internal, matched.part.mechanical, matched.part.match) == ((), (), {"X": ("8",)})
    assert hits(matched) == {"symbol.count-against-package"}
    # Said again of a pin with a match, the match is gone.
    assert set_internal(matched, ["X"]).part.match == {}


def test_what_is_said_and_what_is_matched_may_not_differ() -> None:
    assert "match.said-otherwise" in hits(set_mechanical(part("gullwing-dual", *PLAIN), ["3"]))


def test_a_table_matches_pins_with_several_pads() -> None:
    bundle = part("gullwing-dual", ("A", "a"), ("B", "b"), ("3", "c"))
    rows = [["Pin", "Pads"], ["A", "1, 2"], ["B", "4", "5"], ["", ""], ["Z", "6"], ["3", "99"], ["B", "6"]]
    matched, doubts = match_by_table(bundle, rows)
    assert matched.part.match == {"A": ("1", "2"), "B": ("4", "5", "6")}
    assert doubts == ("line 5: there is no pin Z", "line 6: there is no pad 99")
    with pytest.raises(InputError, match="no pin Z"):
        match_by_table(bundle, [["Z", "1"]])


def test_proposals_go_by_number_then_name_then_place() -> None:
    bundle = part("no-lead-dual", *[(f"0{i}", f"P{i}") for i in range(1, 10)], ("10", "P10"), ("P", "EP"))
    found = {p.pin: (p.pads, p.reason) for p in match_proposals(bundle)}
    assert found["01"] == (("1",), "number 01 written as 1")
    assert found["P"] == (("11",), "EP is the only pin left for the only pad left")
    assert "10" not in found
    matched = use_proposals(bundle, match_proposals(bundle))
    assert pads_by_pin(matched)["P"] == ("11",) and match_proposals(matched) == ()
    assert hits(matched) <= {"symbol.count-against-package"}


def test_what_is_left_is_proposed_in_its_order_only_where_the_counts_agree() -> None:
    letters = part("gullwing-dual", *[(letter, letter) for letter in "ABCDEFGH"])
    found = match_proposals(letters)
    assert [(p.pin, p.pads) for p in found] == [(letter, (str(i + 1),)) for i, letter in enumerate("ABCDEFGH")]
    assert {p.reason for p in found} == {"as many pins as pads are left: in their order"}
    assert match_proposals(part("gullwing-dual", *[(letter, letter) for letter in "ABCDEFG"])) == ()
    # What is matched already needs no proposal.
    assert match_proposals(part("gullwing-dual", *PLAIN)) == ()
