"""Which of a sheet's letters means which of the standard's; the demo's sheets call them otherwise."""

import pytest

from eider.demo.data import sheet_data
from eider.geometry.lengths import parse_limits
from eider.model.package_sheet import PackageSheet
from eider.packages.letters.letter_proposals import (
    DatasheetLetter,
    kind_of_words,
    letter_styles,
    letter_words,
    propose_letters,
)
from eider.packages.registry import all_families, family_of


def rows(texts: dict[str, str], unit: str = "mm") -> list[DatasheetLetter]:
    return [DatasheetLetter(letter, parse_limits(text, unit=unit)) for letter, text in texts.items()]


def sheet(family: str, pins: int) -> PackageSheet:
    return PackageSheet(name="", family=family, pins=pins)


@pytest.mark.parametrize("key", ["nvk-u100p", "nvk-4gt", "brm-l18", "brm-pt6", "lyn-y32"])
def test_the_first_proposal_is_what_the_sheet_means(key: str) -> None:
    data = sheet_data(key)
    own = rows({row[0]: data.limits_text(row) for row in data.rows}, data.unit)
    best = propose_letters(family_of(data.family), sheet(data.family, data.pins), own)[0]
    assert best.letters == data.letters
    assert best.missing == ()
    assert set(best.reasons) == set(best.letters)
    assert all(best.reasons.values())


# A dual gull-wing of 16 leads at 0.65: span 6.4, body 4.4.
DUAL = {"D": "4.90–5.10", "e": "0.65", "b": "0.19–0.30", "L": "0.45–0.75", "A": "max 1.20"}


@pytest.mark.parametrize(
    ("span", "body", "meant"),
    [("E", "E1", {"E": "E", "E1": "E1"}), ("H", "E", {"H": "E", "E": "E1"}), ("HE", "E", {"HE": "E", "E": "E1"})],
)
def test_the_span_is_the_larger_whatever_it_is_called(span: str, body: str, meant: dict[str, str]) -> None:
    own = rows({**DUAL, span: "6.20–6.60", body: "4.30–4.50"})
    best = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 16), own)[0]
    assert {key: best.letters[key] for key in meant} == meant


def test_a_swapped_pair_of_names_does_not_win_against_the_geometry() -> None:
    # The sheet's E1 is the larger: only as span does it make a package.
    own = rows({**DUAL, "E1": "6.20–6.60", "E": "4.30–4.50"})
    best = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 16), own)[0]
    assert (best.letters["E1"], best.letters["E"]) == ("E", "E1")


def test_what_no_row_fits_is_named_as_missing() -> None:
    own = rows({k: v for k, v in DUAL.items() if k != "L"} | {"E": "6.20–6.60", "E1": "4.30–4.50"})
    best = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 16), own)[0]
    assert best.missing == ("L",)


def test_every_proposal_is_possible_and_none_is_a_poorer_copy() -> None:
    own = rows({**DUAL, "E": "6.20–6.60", "E1": "4.30–4.50", "k": "0.25"})
    found = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 16), own)
    assert [p.score for p in found] == sorted((p.score for p in found), reverse=True)
    for index, proposal in enumerate(found):
        assert len(set(proposal.letters.values())) == len(proposal.letters)
        assert not any(proposal.letters.items() <= other.letters.items() for other in found[:index])


def test_rows_that_make_no_package_leave_letters_out() -> None:
    # Ten metres of span over a tenth of pitch: no assignment of both is possible.
    own = rows({"E": "9000", "e": "0.1", "E1": "4.4"})
    for proposal in propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 16), own):
        assert not {"E", "e"} <= {proposal.letters.get("E"), proposal.letters.get("e")}


def test_every_letter_of_every_family_says_what_else_it_is_called() -> None:
    for family in all_families().values():
        for letter in family.letters:
            assert letter.also or letter.optional, (family.key, letter.key)
            assert letter.key not in letter.also


HOUSE = {"A": "max 1.75", "A1": "0.10–0.25", "bp": "0.36–0.49", "c": "0.19–0.25", "D": "4.8–5.0", "E": "3.8–4.0",
        "e": "1.27", "HE": "5.8–6.2", "L": "1.05", "Lp": "0.4–1.0", "Q": "0.65", "y": "0.1"}  # fmt: skip


def test_a_way_of_naming_is_followed_as_a_whole() -> None:
    best = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 8), rows(HOUSE))[0]
    assert best.letters == {
        "A": "A", "A1": "A1", "bp": "b", "c": "c", "D": "D", "E": "E1", "e": "e", "HE": "E", "Lp": "L",
    }  # fmt: skip


def test_a_row_that_fits_nothing_is_left_out() -> None:
    own = rows(
        {"D": "3.9–4.1", "E": "3.9–4.1", "e": "0.5", "b": "0.18–0.3", "L": "0.3–0.5", "A": "max 0.8", "K": "0.35"}
    )
    best = propose_letters(family_of("no-lead-quad"), sheet("no-lead-quad", 24), own)[0]
    assert "K" not in best.letters
    assert best.missing == ()


def test_the_sheets_own_words_say_what_a_letter_measures() -> None:
    words = {"H": ("Body length", "4.8–5.0"), "G": ("Body width", "3.8–4.0"), "J": ("Overall width", "5.8–6.2"),
             "A": ("Overall height", "max 1.75"), "F": ("Standoff", "0.1–0.25"), "B": ("Lead width", "0.31–0.51"),
             "C": ("Lead thickness", "0.17–0.25"), "D": ("Pitch", "1.27"),
             "K": ("Foot length", "0.4–1.27")}  # fmt: skip
    own = [DatasheetLetter(letter, parse_limits(text), said) for letter, (said, text) in words.items()]
    best = propose_letters(family_of("gullwing-dual"), sheet("gullwing-dual", 8), own)[0]
    assert best.letters == {
        "H": "D", "G": "E1", "J": "E", "A": "A", "F": "A1", "B": "b", "C": "c", "D": "e", "K": "L",
    }  # fmt: skip
    assert best.reasons["J"].startswith("called “Overall width”")


def test_no_words_speak_for_two_kinds_of_length() -> None:
    said = ("Molded package thickness", "Lead frame", "Terminal length", "Exposed pad width")
    assert [kind_of_words(words) for words in said] == ["other", "", "lead length", "thermal pad width"]
    known = {kind.name for kind in letter_words().kinds}
    named = [*letter_words().near.items(), *letter_words().sides.items()]
    assert all({kind, *others} <= known for kind, others in named)


def test_every_way_of_naming_names_letters_of_its_families() -> None:
    for style in letter_styles():
        for family in style.families:
            assert set(style.letters.values()) <= {letter.key for letter in family_of(family).letters}
