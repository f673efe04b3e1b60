"""What a word of a search finds."""

import re
from typing import NamedTuple

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.library.index.search_words import holding, holds_word

ALPHABET = st.sampled_from("ab1.%_\\*?'")


class Entry(NamedTuple):
    text: str


@pytest.mark.parametrize(
    ("word", "text", "is_found"),
    [
        ("lyn*77", "lyn-c00177 chip", True),
        ("lyn*77", "77 lyn-c001", False),
        ("1u", "1uf 16v", True),
        ("1u", "0.1uf 16v", False),
        ("1u", "0.1uf or 1uf", True),
        ("25V", "125v", False),
        ("25V", "rated 25v", True),
        ("1µ", "1uf", True),
        ("100%", "at 100% load", True),
        ("a_?", "a_b", True),
        ("a_?", "a_", False),
        ("?lyn", "lyn", False),
        ("", "anything", True),
        ("***", "", True),
        ("4700ohm", "lyn-r 4.7kω", True),
        ("4700ohm", "lyn-r 14.7kω", False),
        ("4k7", "lyn-r 4.7kω", True),
        ("4k7", "lyn-r-4k7", True),
        ("0.00000001F", "10nf", True),
        ("2012", "lyn-c2012", True),
    ],
)
def test_what_a_word_finds(word: str, text: str, is_found: bool) -> None:
    assert holding([Entry(text)], [word]) == ([Entry(text)] if is_found else [])


def test_every_word_has_to_be_there_in_any_order_and_what_was_found_keeps_its_order() -> None:
    entries = [Entry("one two"), Entry("two three one"), Entry("two"), Entry("three")]
    assert holding(entries, ["two", "ONE"]) == entries[:2]
    assert holding(entries, []) == entries


def test_a_number_and_its_unit_are_one_value() -> None:
    entries = [Entry("r 4.7kω 1%"), Entry("4700 pieces, ohmic"), Entry("4700 ohm"), Entry("lyn 10 v 1608")]
    assert holding(entries, ["4700", "ohm"]) == [entries[0], entries[2]]
    assert holding(entries, ["1608", "lyn", "10", "V"]) == [entries[3]]


@given(st.text(ALPHABET, min_size=1, max_size=6), st.text(st.sampled_from("ab1.%_\\'"), max_size=12))
def test_wildcards_find_what_a_regular_expression_finds(word: str, text: str) -> None:
    wanted = "".join({"*": ".*", "?": "."}.get(letter, re.escape(letter)) for letter in word)
    is_found = re.search(wanted, text, re.DOTALL) is not None
    assert holds_word(text, word) == is_found
    assert bool(holding([Entry(text)], [word])) == is_found


def test_many_wildcards_are_answered_at_once() -> None:
    assert holding([Entry("a" * 20_000)] * 20, ["a?" * 40 + "*a" * 40 + "b"]) == []
