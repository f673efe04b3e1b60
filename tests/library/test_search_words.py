"""What a search looks for: by the index, by pattern, and one by one."""

import re
import sqlite3

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.library.search_words import holds_word, search_terms

ALPHABET = st.sampled_from("ab1.%_\\*?'")


@pytest.mark.parametrize(
    ("word", "phrases", "patterns", "exact"),
    [
        ("lyn*77", ['"lyn"'], ["%lyn%77%"], []),
        ("nf", [], ["%nf%"], []),
        ("100", ['"100"'], [], []),
        ("0.1u", ['"0.1u"'], [], ["0.1u"]),
        ("1µ", [], [], ["1u"]),
        ("100%", ['"100%"'], [], []),
        ("a_?", [], [r"%a\__%"], []),
        ("a*b*c*d*e", [], [], ["a*b*c*d*e"]),
    ],
)
def test_each_word_goes_the_fastest_way(word: str, phrases: list[str], patterns: list[str], exact: list[str]) -> None:
    assert search_terms([word]) == (phrases, patterns, exact)


@given(st.text(ALPHABET, min_size=1, max_size=6), st.text(st.sampled_from("ab1.%_\\'"), max_size=12))
def test_a_pattern_finds_what_a_look_at_the_text_finds(word: str, text: str) -> None:
    db = sqlite3.connect(":memory:")
    try:
        for pattern in search_terms([word]).patterns:
            (found,) = db.execute("select ? like ? escape '\\'", (text, pattern)).fetchone()
            assert bool(found) == holds_word(text, word)
            # The same by a regular expression.
            wanted = "".join({"*": ".*", "?": "."}.get(letter, re.escape(letter)) for letter in word)
            assert bool(found) == (re.search(wanted, text, re.DOTALL) is not None)
    finally:
        db.close()
