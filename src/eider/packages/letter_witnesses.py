"""What speaks for the meaning of a sheet's letter besides geometry: the sheet's words, and houses' ways of naming."""

import re
import tomllib
from collections.abc import Collection, Mapping
from functools import cache
from importlib import resources

import msgspec

from eider.model.codec import convert

# Of a way of naming so many of its letters are in the sheet before it is thought of.
KNOWN_SHARE = 0.7
# What the words of a sheet speak for, or against, in the points of `letters`.
SAME_KIND, NEAR_KIND, OTHER_SIDE, OTHER_KIND = 3.0, 1.5, -1.0, -6.0


class WordKind(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A kind of length, and what it is called: regular expressions."""

    name: str
    words: tuple[str, ...]


class LetterWords(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """The kinds in the order in which they are tried; which are near each other, and which differ by the side alone."""

    kinds: tuple[WordKind, ...]
    near: Mapping[str, tuple[str, ...]]
    sides: Mapping[str, tuple[str, ...]]


class LetterStyle(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A way of naming: the standard's letter for each of its own, for packages of some families."""

    families: tuple[str, ...]
    letters: Mapping[str, str]


@cache
def letter_words() -> LetterWords:
    """The words that ship with Eider."""
    return convert(tomllib.loads(_shipped("letter_words.toml")), LetterWords, "letter_words.toml")


@cache
def letter_styles() -> tuple[LetterStyle, ...]:
    """The ways of naming that ship with Eider."""
    shipped = tomllib.loads(_shipped("letter_styles.toml"))["styles"]
    return convert(shipped, tuple[LetterStyle, ...], "letter_styles.toml")


def _shipped(name: str) -> str:
    return (resources.files("eider.packages") / name).read_text(encoding="utf-8")


def styles_of(family: str, own: Collection[str]) -> list[Mapping[str, str]]:
    """The ways of naming of a family of which most letters are in a sheet."""
    styles = (style.letters for style in letter_styles() if family in style.families)
    return [letters for letters in styles if sum(letter in own for letter in letters) >= KNOWN_SHARE * len(letters)]


@cache
def kind_of_words(text: str) -> str:
    """The kind of length that words name; empty where they name none that is known."""
    return next(
        (kind.name for kind in letter_words().kinds if any(re.search(w, text, re.IGNORECASE) for w in kind.words)), ""
    )


def words_speak(said: str, meaning: str, *, is_own: bool) -> float:
    """How far a sheet's words for a length speak for a meaning, in points; 0 where either says nothing.

    With `is_own` the row has the standard's letter of that meaning: then it does not matter which side the sheet calls
    the width.
    """
    one, other = kind_of_words(said), kind_of_words(meaning)
    if not one or not other:
        return 0.0
    if one == other:
        return SAME_KIND
    if other in letter_words().near.get(one, ()):
        return NEAR_KIND
    if other in letter_words().sides.get(one, ()):
        return NEAR_KIND if is_own else OTHER_SIDE
    return OTHER_KIND
