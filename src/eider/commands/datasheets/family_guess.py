"""The family of a package, guessed from its name, its pins, the title of its datasheet, and its lengths."""

import re
from collections.abc import Iterator, Sequence
from functools import cache
from typing import NamedTuple

import msgspec

from eider.datasheets.documents.package_names import package_words, plain_package
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.letters.drawing_witness import DrawnSpan
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter, Proposal, is_possible
from eider.packages.letters.letter_questions import NEAR_SCORE, LetterQuestion, deciding_question
from eider.packages.registry import family_of

replace = msgspec.structs.replace
# Letters that say of what form a package is: very, ultra, thin, low, heat sink, with leads on two sides.
_FORMS, MOST_FORMS = "VUWHTLDX", 3
# Families that are tried where no package is named, by how many pins there are.
_FOR_TWO = ("chip", "moulded", "flat-lead", "gullwing-diode", "cylinder", "can")
_FOR_MANY = ("gullwing-dual", "no-lead-quad", "gullwing-quad", "no-lead-dual", "transistor", "j-lead-dual",
             "dual-in-line")  # fmt: skip
TWO_TERMINALS, NOTHING_KNOWN = 2, "gullwing-dual"
# The group of families with leads in holes.
THROUGH = "Through the board"
# The family of what has none, and how many lengths a table of it has at least.
CUSTOM, FEWEST_OF_CUSTOM = "custom", 6
# Where nothing tells how many pins there are, families of more than so many leads are tried with these.
FEWEST_LEADS, _PINS_TRIED = 3, (8, 10, 14, 16, 20, 24, 28, 32, 44, 48, 64, 80, 100)
# By so much a family scores less than the one before it among those that are tried.
RARER = 0.3
# And by so much for each letter for which nothing but its length speaks: a family without it is likelier.
NAMELESS = 1.0
# A letter that always means the same to those who use it, and is taken for something else.
MISNAMED, _STANDARD = 2.0, frozenset({"A1", "A2", "D1", "D2", "E1", "E2", "e1", "L1"})


class _Tried(NamedTuple):
    key: str
    pins: int
    proposal: Proposal


class FamilyGuess(msgspec.Struct, frozen=True):
    """The family of a package, of how many pins, the meaning of the sheet's letters, and why it may be another."""

    key: str
    pins: int
    proposal: Proposal | None
    doubt: str
    question: LetterQuestion | None = None
    is_named: bool = False


def family_of_package(name: str) -> str:
    """The family that a package's name means, such as `SOIC-8`; empty where none is known."""
    plain = re.sub(r"^(?:MINI|MICRO|POWER|[µΜ])(?!MELF)", "", plain_package(name).upper())
    bare = plain.lstrip(_FORMS)
    # A form before a kind that is not listed with it, as in `DHVQFN20`: without its letters one by one.
    names = [plain[at:] for at in range(min(len(plain) - len(bare), MOST_FORMS) + 1)]
    found = (family for own in names for word, family in _words_by_length() if own.startswith(word))
    return next(found, "")


@cache
def _words_by_length() -> tuple[tuple[str, str], ...]:
    """The beginnings of packages' names with their families, the longest first: it is the one that holds."""
    return tuple(sorted(package_words("families").items(), key=lambda entry: -len(entry[0])))


def word_of_title(title: str) -> str:
    """The word of a datasheet's title that means a family; empty without one."""
    words = package_words("titles")
    return next((word for word in words if re.search(rf"\b{word}\b", title, re.IGNORECASE)), "")


class _Candidates(NamedTuple):
    """Families that a package may be of, the likelier first, and what is to be said of how they were found.

    Where nothing but pins and lengths tells them apart they are `inferred`.
    """

    keys: Sequence[str]
    told: str
    inferred: bool = False
    is_named: bool = False


def _candidates(package: str, pins: int, are_balls: bool, title: str, is_surface: bool) -> _Candidates:
    """What the package's name means, else what its pins, the title and how many pins there are leave possible."""
    named = family_of_package(package)
    if named or are_balls:
        return _Candidates((named or "ball-grid",), "", is_named=True)
    word = word_of_title(title)
    if word:
        told = f"no package is named: told by “{word}” in the title"
        return _Candidates((package_words("titles")[word],), told)
    told = "package name missing; family inferred from dimensions"
    if not pins:
        return _Candidates((*_FOR_TWO, *_FOR_MANY), told, inferred=True)
    likely = _FOR_TWO if pins == TWO_TERMINALS else _FOR_MANY
    keys = [key for key in likely if not _pin_fault(key, pins) and not (is_surface and _goes_through(key))]
    return _Candidates(keys, told, inferred=True)


def _goes_through(key: str) -> bool:
    return family_of(key).group == THROUGH


def guess_family(
    package: str,
    pins: int,
    rows: Sequence[DatasheetLetter],
    are_balls: bool,
    title: str = "",
    drawn: Sequence[DrawnSpan] = (),
    is_surface: bool = False,
) -> FamilyGuess:
    """The family whose letters the rows fit best, or the one that the package's name means.

    Where nothing tells how many pins there are (0), it is the most that the lengths leave room for. `drawn` are the
    letters' lines in the outline drawing; a part that `is_surface` mounted has no leads through the board.
    """
    possible = _candidates(package, pins, are_balls, title, is_surface)
    if tuple(possible.keys) == (CUSTOM,):
        return _pads_by_hand(pins, rows, drawn, f"“{word_of_title(title)}” in the title")
    tried = [entry for rank, key in enumerate(possible.keys) for entry in _tried(key, pins, rows, drawn, rank)]
    tried.sort(key=lambda entry: -entry.proposal.score)
    if not tried or tried[0].proposal.missing:
        return replace(_nearest_family(tried, possible.keys, pins), is_named=possible.is_named)
    key, count, best = tried[0]
    if possible.inferred and 2 * len(best.letters) < len(rows) >= FEWEST_OF_CUSTOM:
        told = f"no family has a use for more than {len(best.letters)} of the {counted(len(rows), 'length')}"
        return _pads_by_hand(pins, rows, drawn, told)
    sheet = PackageSheet(name="", family=key, pins=count)
    meanings = propose_drawn_letters(family_of(key), sheet, rows, drawn)
    question = deciding_question(family_of(key), meanings, rows)
    return FamilyGuess(key, count, best, _rivals(tried) or possible.told, question, possible.is_named)


def _nearest_family(tried: Sequence[_Tried], keys: Sequence[str], pins: int) -> FamilyGuess:
    """The family that comes nearest where none has all the letters that it must have."""
    if tried:
        key, count, proposal = tried[0]
        return FamilyGuess(key, count, proposal, _no_fit(key))
    key = next(iter(keys), NOTHING_KNOWN)
    return FamilyGuess(key, pins or family_of(key).default_pins, None, _no_fit(key))


def _no_fit(key: str) -> str:
    return f"no family fits all of the letters; using {family_of(key).title}"


def _rivals(tried: Sequence[_Tried]) -> str:
    """Which families fit nearly as well as the best, in words; empty where none does."""
    best = tried[0].proposal.score
    near = [e.key for e in tried[1:] if not e.proposal.missing and best - e.proposal.score < NEAR_SCORE]
    titles = " or ".join(family_of(key).title for key in near)
    return f"told by its lengths alone; it may be {titles} as well" if near else ""


def _pads_by_hand(pins: int, rows: Sequence[DatasheetLetter], drawn: Sequence[DrawnSpan], told: str) -> FamilyGuess:
    """A package of no family: its pads are laid by hand over the sheet's own letters, so that these stay as they are.

    What can be the body's size is taken so; a letter that means something else here is left out.
    """
    family, count = family_of(CUSTOM), pins or family_of(CUSTOM).default_pins
    sheet = PackageSheet(name="", family=CUSTOM, pins=count)
    found = next(iter(propose_drawn_letters(family, sheet, rows, drawn)), Proposal({}, {}, (), 0.0))
    taken = set(found.letters.values())
    kept = {r.letter: r.letter for r in rows if r.letter not in found.letters and r.letter not in taken}
    kept = {own: own for own in kept if family.letter(own) is None}
    named = {row.letter for row in rows if row.words}
    unsure = {own: found.doubts.get(own, "told by its letter and length") for own in found.letters if own not in named}
    proposal = replace(found, letters={**found.letters, **kept}, missing=(), doubts=unsure)
    return FamilyGuess(CUSTOM, count, proposal, f"its pads are to be laid by hand: {told}. Or choose its family")


def _tried(
    key: str, pins: int, rows: Sequence[DatasheetLetter], drawn: Sequence[DrawnSpan], rank: int
) -> Iterator[_Tried]:
    """A family with the rows' letters; of two that fit alike the commoner one, of lower rank, is likelier."""
    family = family_of(key)
    counts = (pins,) if pins else (family.default_pins,) if family.default_pins <= FEWEST_LEADS else _PINS_TRIED
    sheets = [PackageSheet(name="", family=key, pins=count) for count in counts]
    # Fewer pins always have room, so that the letters are the same for every count.
    for proposal in propose_drawn_letters(family, sheets[0], rows, drawn)[:1]:
        room = [sheet.pins for sheet in sheets if is_possible(family, sheet, proposal.letters, rows)]
        misnamed = sum(own in _STANDARD and own != key for own, key in proposal.letters.items())
        score = proposal.score - RARER * rank - NAMELESS * len(proposal.doubts) - MISNAMED * misnamed
        yield _Tried(key, max(room), replace(proposal, score=score))


def _pin_fault(key: str, pins: int) -> bool:
    """Whether a family has no package of so many pins, nor of one fewer, as a thermal pad is."""
    family = family_of(key)
    return bool(family.pin_fault(pins)) and bool(family.pin_fault(pins - 1))
