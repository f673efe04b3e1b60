"""Meanings of letters between which nothing but a person or the outline drawing can decide."""

from eider.geometry.lengths import parse_limits
from eider.model.package_sheet import PackageSheet
from eider.packages.letters.drawing_witness import DrawnReach, DrawnSpan, drawing_agrees
from eider.packages.letters.drawn_letters import DRAWN_ALONE, DRAWN_OTHERWISE, propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter, propose_letters
from eider.packages.letters.letter_questions import LetterAnswer, deciding_question, fitting
from eider.packages.registry import family_of

FAMILY = family_of("gullwing-dual")
SHEET = PackageSheet(name="", family="gullwing-dual", pins=8)
# Letters that no way of naming knows: K is as long as J, so that either can be the span over the leads.
ALIKE = {
    "K": "6.2–6.6",
    "J": "6.0–6.2",
    "F": "4.3–4.5",
    "P": "0.65",
    "N": "0.19–0.30",
    "R": "0.45–0.75",
    "M": "max 1.2",
}
OVER_THE_LEADS = {"K": "E", "J": "D", "F": "E1", "P": "e", "N": "b", "R": "L", "M": "A"}


def rows(texts: dict[str, str]) -> list[DatasheetLetter]:
    return [DatasheetLetter(letter, parse_limits(text)) for letter, text in texts.items()]


def seen_from_above(letter: str, axis: str, reach: DrawnReach) -> DrawnSpan:
    return DrawnSpan(letter, 0, "horizontal" if axis == "x" else "vertical", reach)


# As a datasheet draws it that has the leads at the top and the bottom.
LEADS_UP_AND_DOWN = (
    seen_from_above("K", "y", "whole"),
    seen_from_above("F", "y", "inner"),
    seen_from_above("J", "x", "whole"),
    seen_from_above("P", "x", "inner"),
    DrawnSpan("M", 1, "vertical", "whole"),
)


def test_two_lengths_that_can_be_either_are_asked_about() -> None:
    question = deciding_question(FAMILY, propose_letters(FAMILY, SHEET, rows(ALIKE)), rows(ALIKE))
    assert question
    assert question.letter == "K"
    assert {answer.standard for answer in question.answers} == {"D", "E"}
    assert question.text.startswith("Is K (6.2–6.6 mm) the ")
    assert LetterAnswer("E", "lead span, tip to tip") in question.answers


def test_an_answer_leaves_what_fits_it_and_no_further_question() -> None:
    found = propose_letters(FAMILY, SHEET, rows(ALIKE))
    left = fitting(found, {"K": "E"})
    assert left[0].letters == OVER_THE_LEADS
    assert deciding_question(FAMILY, left, rows(ALIKE)) is None


def test_letters_that_are_clear_are_not_asked_about() -> None:
    named = {"E": "6.2–6.6", "D": "6.0–6.2", "E1": "4.3–4.5", "e": "0.65", "b": "0.19–0.30", "L": "0.45–0.75"}
    texts = named | {"A": "max 1.2"}
    assert deciding_question(FAMILY, propose_letters(FAMILY, SHEET, rows(texts)), rows(texts)) is None
    assert deciding_question(FAMILY, (), rows(texts)) is None


def test_the_drawing_decides_what_lengths_cannot() -> None:
    found = propose_drawn_letters(FAMILY, SHEET, rows(ALIKE), LEADS_UP_AND_DOWN)
    assert found[0].letters == OVER_THE_LEADS
    assert deciding_question(FAMILY, found, rows(ALIKE)) is None


def test_a_drawing_that_shows_it_otherwise_is_a_doubt() -> None:
    meant = {row.letter: row.limits for row in rows(ALIKE)}
    swapped = {**OVER_THE_LEADS, "K": "D", "J": "E"}
    told = drawing_agrees(FAMILY, SHEET, meant, swapped, LEADS_UP_AND_DOWN)
    assert not all(told.values())
    against = [p for p in propose_drawn_letters(FAMILY, SHEET, rows(ALIKE), LEADS_UP_AND_DOWN) if p.letters == swapped]
    assert all(DRAWN_OTHERWISE in p.doubts.values() for p in against)


def test_the_sides_of_a_pad_are_told_by_their_lines() -> None:
    family, sheet = family_of("no-lead-quad"), PackageSheet(name="", family="no-lead-quad", pins=16)
    texts = {"D": "4.0", "E": "5.0", "e": "0.65", "b": "0.3", "L": "0.4", "A": "max 0.9", "Q": "2.4", "R": "2.9"}
    drawn = [
        seen_from_above("D", "x", "whole"),
        seen_from_above("E", "y", "whole"),
        seen_from_above("Q", "x", "inner"),
        seen_from_above("R", "y", "inner"),
    ]
    best = propose_drawn_letters(family, sheet, rows(texts), drawn)[0]
    assert (best.letters["Q"], best.letters["R"]) == ("D2", "E2")
    assert best.doubts["Q"] == DRAWN_ALONE
    assert "Q" not in propose_letters(family, sheet, rows(texts))[0].letters


def test_a_height_that_can_be_either_of_two_is_taken_and_asked_about() -> None:
    texts = ALIKE | {"Q": "0.10–0.14"}
    drawn = (*LEADS_UP_AND_DOWN, DrawnSpan("Q", 1, "vertical", "edge"))
    found = propose_drawn_letters(FAMILY, SHEET, rows(texts), drawn)
    assert found[0].letters == {**OVER_THE_LEADS, "Q": "A1"}
    question = deciding_question(FAMILY, found, rows(texts))
    assert question
    assert (question.letter, {answer.standard for answer in question.answers}) == ("Q", {"A1", "c"})


def test_nothing_is_said_where_nothing_can_be_drawn() -> None:
    assert drawing_agrees(FAMILY, SHEET, {}, {}, LEADS_UP_AND_DOWN) == {}
