"""Bars over names: which words they cover, and which lines are none."""

import pytest

from eider.datasheets.pages.overlines import barred_name, with_bars, without_bars
from eider.datasheets.pages.page_words import PageWord
from eider.datasheets.pages.ruling_lines import Ruling

BAR = "\u0305"


def word(text: str, width: float) -> PageWord:
    return PageWord(text, (100.0, 50.0, 100.0 + width, 58.0), 9.0)


def bar(start: float, stop: float, at: float = 59.0) -> Ruling:
    return Ruling(True, at, start, stop)


def test_a_bar_as_long_as_a_name_is_over_all_of_it() -> None:
    found = barred_name(word("CS", 12.0), [bar(100, 112)])
    assert (found.text, found.is_partial) == (f"C{BAR}S{BAR}", False)


@pytest.mark.parametrize("at", [55.5, 58.0, 61.0])
def test_a_bar_touches_the_letters_or_stands_a_little_over_them(at: float) -> None:
    assert barred_name(word("CS", 12.0), [bar(100, 112, at)]).text == f"C{BAR}S{BAR}"


@pytest.mark.parametrize("at", [52.0, 63.0])
def test_a_line_through_a_word_or_far_over_it_is_no_bar(at: float) -> None:
    assert barred_name(word("CS", 12.0), [bar(100, 112, at)]).text == "CS"


def test_a_bar_over_one_of_two_names_is_over_that_one() -> None:
    found = barred_name(word("WP/IO2", 30.0), [bar(100, 111)])
    assert (found.text, found.is_partial) == (f"W{BAR}P{BAR}/IO2", True)


def test_a_rule_of_a_table_over_a_word_is_no_bar() -> None:
    assert barred_name(word("CS", 12.0), [bar(60, 200)]).text == "CS"


def test_bars_are_left_out_of_the_rules_and_borders_of_narrow_cells_are_not() -> None:
    name, over, rule = word("CS", 12.0), bar(100, 112), bar(60, 200, 62.0)
    assert without_bars([name], [over, rule]) == [rule]
    sides = [Ruling(False, 100.0, 40.0, 59.0), Ruling(False, 112.0, 40.0, 59.0)]
    assert without_bars([name], [over, *sides]) == [over, *sides]


def test_words_without_a_bar_stay_as_they_are() -> None:
    other = PageWord("SCK", (100.0, 20.0, 118.0, 28.0), 9.0)
    assert [w.text for w in with_bars([word("CS", 12.0), other], [bar(100, 112)])] == [f"C{BAR}S{BAR}", "SCK"]
