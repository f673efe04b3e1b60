"""Which of a datasheet's letters means which of the standard's: told from names, words, values and the geometry."""

import re
import tomllib
from collections.abc import Collection, Iterator, Mapping, Sequence
from functools import cache

import msgspec

from eider.geometry.limits import Limits
from eider.model.codec import convert
from eider.model.finding import Severity
from eider.model.package_sheet import Dimension, PackageSheet
from eider.packaged_data import packaged_text
from eider.packages.family import Dims, Family, Implausible, Letter

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
    return packaged_text(f"packages/{name}")


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


# What speaks for a letter, in points; a length that the family needs and that finds none costs more than any of them.
SAME, ALIKE, TYPICAL, FITS_KIND = 3.0, 1.0, 2.0, 1.0
MISSING, LEFT_EMPTY = -6.0, -0.5
NAMED_SO = "as sheets that name their lengths so have it"
# How many beginnings are followed at once, and how many answers are given.
BREADTH, BEST = 300, 5
NOTHING_SPOKEN: Mapping[tuple[str, str], float] = {}
# Twice as many are looked at, as each fault of lengths that hardly belong to one package costs points.
DOUBTFUL = -2.0
# What angles and allowances are called: without a word for it no length of a package is meant.
_ANGLES = frozenset("αβγδθ")
# More rows than this are no table of one package.
MOST_ROWS = 40


class DatasheetLetter(msgspec.Struct, frozen=True):
    """A row of the sheet: its letter, what it measures, and what the sheet's own words call that, if it has any."""

    letter: str
    limits: Limits
    words: str = ""


class Proposal(msgspec.Struct, frozen=True):
    """One possible package: the standard's letter for each of the sheet's, and what speaks for each.

    `missing` are letters that the family needs and that no row fits. `doubts` tell by the sheet's letter why it may
    mean something else: nothing but its length speaks for it, or the outline drawing speaks against it.
    """

    letters: dict[str, str]
    reasons: dict[str, str]
    missing: tuple[str, ...]
    score: float
    doubts: dict[str, str] = {}


class _Begun(msgspec.Struct, frozen=True):
    taken: tuple[tuple[str, int], ...] = ()
    score: float = 0.0


def propose_letters(
    family: Family,
    sheet: PackageSheet,
    rows: Sequence[DatasheetLetter],
    *,
    most: int = BEST,
    spoken: Mapping[tuple[str, str], float] = NOTHING_SPOKEN,
) -> tuple[Proposal, ...]:
    """The assignments of the sheet's rows to the family's letters that make a possible package, the best first.

    The number of pins is that of `sheet`; lengths whose ratio no real package has are ruled out, as is what the
    family's plausibility rules speak against; what they only doubt comes after the rest. `spoken` are points for or
    against a row's letter having a meaning, by both.
    """
    rows = [row for row in rows[:MOST_ROWS] if row.letter not in _ANGLES or row.words]
    begun: list[tuple[_Begun, Mapping[str, str]]] = []
    for style in ({}, *styles_of(family.key, {row.letter for row in rows})):
        states = [_Begun()]
        for letter in _in_order(family.letters):
            grown = [new for state in states for new in _grown(state, letter, rows, style, spoken)]
            states = sorted(grown, key=lambda s: -s.score)[:BREADTH]
        begun += [(state, style) for state in states]
    found: list[Proposal] = []
    for state, style in sorted(begun, key=lambda entry: -entry[0].score):
        proposal = _proposal(family, state, rows, style)
        poorer = any(proposal.letters.items() <= better.letters.items() for better in found)
        faults = [] if poorer else _package_faults(family, sheet, proposal.letters, rows)
        if not poorer and all(fault.severity is not Severity.BLOCKER for fault in faults):
            score = proposal.score + DOUBTFUL * len(faults)
            found.append(msgspec.structs.replace(proposal, score=round(score, 2)))
        if len(found) == 2 * most:
            break
    return tuple(sorted(found, key=lambda proposal: -proposal.score)[:most])


def _in_order(letters: Sequence[Letter]) -> list[Letter]:
    """Each letter after the one that it is compared with."""
    known: set[str] = {""}
    ordered: list[Letter] = []
    waiting = list(letters)
    while waiting:
        ready = [x for x in waiting if x.reference in known] or waiting
        ordered += ready
        known |= {x.key for x in ready}
        waiting = [x for x in waiting if x not in ready]
    return ordered


def _grown(
    state: _Begun,
    letter: Letter,
    rows: Sequence[DatasheetLetter],
    style: Mapping[str, str],
    spoken: Mapping[tuple[str, str], float],
) -> Iterator[_Begun]:
    taken = dict(state.taken)
    used = set(taken.values())
    for index, row in enumerate(rows):
        if index in used or not letter_fits(letter, row.limits, taken, rows):
            continue
        told = spoken.get((row.letter, letter.key), 0.0)
        points = told + sum(points for points, _ in _speaks_for(letter, row, style))
        # What only some packages have, or what is assumed without a row, is not the place for whatever is left.
        is_spoken_for = points > 0 and not (letter.optional or letter.by_name)
        is_compared = not letter.reference or letter.reference in taken
        # A stand-off without a height is told by its own name alone.
        is_told = is_compared and (is_spoken_for or told > 0)
        if not (is_needed(letter) or is_told or _is_called(letter, row, style)):
            continue
        score = state.score + points
        yield _Begun((*state.taken, (letter.key, index)), score)
    left = 0.0 if letter.optional or letter.by_name else MISSING if is_needed(letter) else LEFT_EMPTY
    yield _Begun(state.taken, state.score + left)


def _is_called(letter: Letter, row: DatasheetLetter, style: Mapping[str, str]) -> bool:
    is_named = row.letter.lower() == letter.key.lower() or row.letter in letter.also
    return is_named or style.get(row.letter) == letter.key or words_speak(row.words, letter.meaning, is_own=False) > 0


def letter_fits(letter: Letter, limits: Limits, taken: Mapping[str, int], rows: Sequence[DatasheetLetter]) -> bool:
    """Whether a length can be a letter's beside those that others have taken, by the index of their row."""
    if limits.lower < 0:
        return False
    if not letter.reference:
        return True
    if letter.reference not in taken:
        # A cut corner of a pad that the sheet does not give is another length.
        return not letter.optional
    low, high = letter.typical
    share = limits.middle / max(rows[taken[letter.reference]].limits.middle, 1e-9)
    return low <= share <= high


def _speaks_for(letter: Letter, row: DatasheetLetter, style: Mapping[str, str]) -> Iterator[tuple[float, str]]:
    points = words_speak(row.words, letter.meaning, is_own=row.letter == letter.key)
    if points:
        yield points, f"called “{row.words}”"
    if style.get(row.letter) == letter.key:
        yield SAME, NAMED_SO
    elif row.letter in style:
        yield -SAME, "other than sheets that name their lengths so have it"
    elif row.letter == letter.key and letter.key not in style.values():
        yield SAME, "the standard's own letter"
    elif row.letter in letter.also:
        yield TYPICAL - 0.2 * letter.also.index(row.letter), f"often used for the {letter.meaning}"
    elif row.letter.lower() == letter.key.lower():
        yield ALIKE, "the standard's letter but for its case"
    only_max = row.limits.max is not None and row.limits.min is None and row.limits.nom is None
    if letter.meaning == "height" and only_max:
        yield FITS_KIND, "a maximum alone, as heights have"
    if letter.meaning == "pitch" and row.limits.is_exact and not only_max:
        yield FITS_KIND, "one exact value, as pitches have"
    if letter.meaning == "pitch" and not row.limits.is_exact:
        yield -FITS_KIND, "with a tolerance, unlike a pitch"


def is_needed(letter: Letter) -> bool:
    """Whether a family gives no lands without a letter."""
    return letter.assumed is None and not letter.optional


def _proposal(family: Family, state: _Begun, rows: Sequence[DatasheetLetter], style: Mapping[str, str]) -> Proposal:
    taken = dict(state.taken)
    letters, reasons, doubts = {}, {}, {}
    for key, index in taken.items():
        letter, row = family.letter(key), rows[index]
        if letter is None:
            continue
        words = [words for points, words in _speaks_for(letter, row, style) if points > 0]
        is_called = _is_called(letter, row, style)
        if letter.reference in taken:
            share = row.limits.middle / max(rows[taken[letter.reference]].limits.middle, 1e-9)
            words.append(f"{share:.2f} of {letter.reference}, usual {letter.typical[0]:g} to {letter.typical[1]:g}")
        letters[row.letter] = key
        reasons[row.letter] = "; ".join(words) or "what is left"
        if not is_called:
            doubts[row.letter] = f"told by its length alone: {reasons[row.letter]}"
    missing = tuple(x.key for x in family.letters if is_needed(x) and x.key not in taken)
    return Proposal(letters, reasons, missing, round(state.score, 2), doubts)


def is_possible(
    family: Family, sheet: PackageSheet, letters: Mapping[str, str], rows: Sequence[DatasheetLetter]
) -> bool:
    """Whether letters, as a proposal gives them, make a package of the family that can be."""
    return all(f.severity is not Severity.BLOCKER for f in _package_faults(family, sheet, letters, rows))


def _package_faults(
    family: Family, sheet: PackageSheet, letters: Mapping[str, str], rows: Sequence[DatasheetLetter]
) -> list[Implausible]:
    """What speaks against the package that letters make."""
    by_sheet_letter = {row.letter: row.limits for row in rows}
    dims = {key: Dimension(limits=by_sheet_letter[sheet_letter]) for sheet_letter, key in letters.items()}
    tried = msgspec.structs.replace(sheet, dims=dims)
    return list(family.implausible(tried, Dims(tried, family.letters)))
