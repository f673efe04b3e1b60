"""A part drafted from what a datasheet was found to hold; whatever could be otherwise becomes a doubt."""

import re
import tomllib
from collections.abc import Iterator, Mapping, Sequence
from functools import cache
from typing import NamedTuple

import msgspec

from eider.commands.datasheets.captured_values import (
    family_members,
    lettered_rows,
    member_rows,
    use_dimensions,
    use_pins,
)
from eider.datasheets.documents.package_names import last_package, plain_package
from eider.datasheets.tables.table_capture import TableCapture
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress, FieldAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packaged_data import packaged_text
from eider.packages.forms.array import row_index, row_letter
from eider.packages.letters.drawing_witness import DrawnSpan
from eider.packages.letters.drawn_letters import propose_drawn_letters
from eider.packages.letters.letter_proposals import DatasheetLetter, Proposal, is_possible
from eider.packages.letters.letter_questions import NEAR_SCORE, LetterQuestion, deciding_question
from eider.packages.registry import all_families, family_of

replace = msgspec.structs.replace
# Families that are tried where no package is named, by how many pins there are.
_FOR_TWO = ("chip", "moulded", "flat-lead", "gullwing-diode", "cylinder", "can")
_FOR_MANY = ("gullwing-dual", "no-lead-quad", "gullwing-quad", "no-lead-dual", "transistor", "j-lead-dual",
             "dual-in-line")  # fmt: skip
TWO_TERMINALS, NOTHING_KNOWN = 2, "gullwing-dual"
# The family of what has none, and how many lengths a table of it has at least.
CUSTOM, FEWEST_OF_CUSTOM = "custom", 6
# Where nothing tells how many pins there are, families of more than so many leads are tried with these.
FEWEST_LEADS, _PINS_TRIED = 3, (8, 10, 14, 16, 20, 24, 28, 32, 44, 48, 64, 80, 100)
# So many numbers that a table passes over are places without a lead; more are another numbering.
MOST_GONE = 2
# By so much a family scores less than the one before it among those that are tried.
RARER = 0.3
# And by so much for each letter for which nothing but its length speaks: a family without it is likelier.
NAMELESS = 1.0
# A letter that always means the same to those who use it, and is taken for something else.
MISNAMED, _STANDARD = 2.0, frozenset({"A1", "A2", "D1", "D2", "E1", "E2", "e1", "L1"})
_BALL = re.compile(r"([A-Z]{1,2})(\d{1,3})")


class _Tried(NamedTuple):
    key: str
    pins: int
    proposal: Proposal


class FamilyGuess(NamedTuple):
    """The family of a package, of how many pins, the meaning of the sheet's letters, and why it may be another."""

    key: str
    pins: int
    proposal: Proposal | None
    doubt: str
    question: LetterQuestion | None = None


@cache
def _family_words(table: str) -> Mapping[str, str]:
    """Families by the beginnings of packages' names (`families`), or by words of a title (`titles`)."""
    text = packaged_text("datasheets/package_words.toml")
    return {word: family for family, words in tomllib.loads(text)[table].items() for word in words}


def family_of_package(name: str) -> str:
    """The family that a package's name means, such as `SOIC-8`; empty where none is known."""
    word = re.match(r"[A-Z]+\d?[A-Z]*", name.upper())
    return _family_words("families").get(word[0].rstrip("0123456789") if word else "", "")


def word_of_title(title: str) -> str:
    """The word of a datasheet's title that means a family; empty without one."""
    words = _family_words("titles")
    return next((word for word in words if re.search(rf"\b{word}\b", title, re.IGNORECASE)), "")


def guess_family(
    package: str,
    pins: int,
    rows: Sequence[DatasheetLetter],
    are_balls: bool,
    title: str = "",
    drawn: Sequence[DrawnSpan] = (),
) -> FamilyGuess:
    """The family whose letters the rows fit best, or the one that the package's name means.

    Where nothing tells how many pins there are (0), it is the most that the lengths leave room for. `drawn` are the
    letters' lines in the outline drawing.
    """
    named = family_of_package(package)
    word = "" if named or are_balls else word_of_title(title)
    if named or are_balls:
        possible: Sequence[str] = (named or "ball-grid",)
    elif word:
        possible = (_family_words("titles")[word],)
    elif not pins:
        possible = (*_FOR_TWO, *_FOR_MANY)
    else:
        possible = [key for key in (_FOR_TWO if pins == TWO_TERMINALS else _FOR_MANY) if not _pin_fault(key, pins)]
    if possible == (CUSTOM,):
        return _pads_by_hand(pins, rows, drawn, f"“{word}” in the title")
    tried = [entry for rank, key in enumerate(possible) for entry in _tried(key, pins, rows, drawn, rank)]
    tried.sort(key=lambda entry: -entry.proposal.score)
    if not tried or tried[0].proposal.missing:
        key = tried[0].key if tried else next(iter(possible), NOTHING_KNOWN)
        told = f"no family fits all of the letters; using {family_of(key).title}"
        count = tried[0].pins if tried else pins or family_of(key).default_pins
        return FamilyGuess(key, count, tried[0].proposal if tried else None, told)
    key, count, best = tried[0]
    if not (named or are_balls or word) and 2 * len(best.letters) < len(rows) >= FEWEST_OF_CUSTOM:
        told = f"no family has a use for more than {len(best.letters)} of the {counted(len(rows), 'length')}"
        return _pads_by_hand(pins, rows, drawn, told)
    near = (entry for entry in tried[1:] if not entry.proposal.missing)
    others = [entry.key for entry in near if best.score - entry.proposal.score < NEAR_SCORE]
    titles = " or ".join(family_of(other).title for other in others)
    doubt = "" if named or not others else f"told by its lengths alone; it may be {titles} as well"
    alone = "" if named or are_balls else "package name missing; family inferred from dimensions"
    alone = f"no package is named: told by “{word}” in the title" if word else alone
    sheet = PackageSheet(name="", family=key, pins=count)
    meanings = propose_drawn_letters(family_of(key), sheet, rows, drawn)
    question = deciding_question(family_of(key), meanings, rows)
    return FamilyGuess(key, count, best, doubt or alone, question)


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


def with_pin_table(bundle: Bundle, capture: TableCapture, document: str, who: str) -> tuple[Bundle, list[Doubt]]:
    """The part with the pins of a captured table, and what of them is doubtful."""
    made = use_pins(bundle, capture, document, who)
    doubts = [
        Doubt(str(PinAddress(row.cells.get("number", ""))), row.seen, row.doubt, document, place.page, place.box)
        for row, place in zip(capture.pins.rows if capture.pins else (), capture.places, strict=True)
        if row.doubt
    ]
    table = capture.pins.doubt if capture.pins else ""
    if table:
        doubts.insert(
            0, Doubt("symbol", counted(len(made.symbol.pins), "pin"), table, document, capture.page, capture.box)
        )
    return made, doubts


def with_dimension_table(
    bundle: Bundle, capture: TableCapture, document: str, who: str, package: str, title: str = ""
) -> tuple[Bundle, list[Doubt]]:
    """The part with family and dimensions of a captured table, and what of them is doubtful.

    `title` is what the first page begins with.
    """
    members = family_members(capture)
    member = next((m for m in members if _is_package(m, package)), members[0] if members else "")
    rows = member_rows(capture, member)
    lengths = lettered_rows(row for _i, row in rows)
    numbers = [pin.number for pin in bundle.symbol.pins]
    pins = len(numbers) or _pins_named(package)
    are_balls = len(numbers) > 3 and sum(_BALL.fullmatch(number) is not None for number in numbers) > 0.9 * len(numbers)
    guess = guess_family(package, pins, lengths, are_balls, title, capture.drawn)
    made = replace(bundle, sheet=_sheet_of(bundle.sheet, guess.key, guess.pins, numbers))
    at = (document, capture.page, capture.box)
    title_of_family = family_of(guess.key).title
    doubts = [Doubt(str(FieldAddress("sheet", "family")), title_of_family, guess.doubt, *at)] if guess.doubt else []
    if not pins and guess.pins != TWO_TERMINALS:
        told = "nothing tells how many pins there are"
        doubts.append(Doubt(str(FieldAddress("sheet", "pins")), str(guess.pins), told, *at))
    table = capture.dimensions.doubt if capture.dimensions else ""
    if table:
        doubts.append(Doubt(str(FieldAddress("sheet", "dims")), counted(len(rows), "row"), table, *at))
    if len(members) > 1 and not _is_package(member, package):
        told = f"the table has {', '.join(members)}; the first was taken"
        doubts.append(Doubt(str(FieldAddress("sheet", "dims")), member, told, *at))
    letters = dict(guess.proposal.letters) if guess.proposal else {}
    made = use_dimensions(made, capture, letters, document, who, member)
    for index, row in rows:
        place = capture.places[index]
        where = (document, place.page, place.box)
        standard = letters.get(row.letter, "")
        reason = row.doubt or _letter_doubt(guess, row.letter, standard, row.limits)
        if reason:
            address = str(DimensionAddress(standard)) if standard else str(FieldAddress("sheet", "dims"))
            doubts.append(Doubt(address, f"{row.letter} {row.text}".strip(), reason, *where))
    missing = guess.proposal.missing if guess.proposal else ()
    doubts += [
        Doubt(str(DimensionAddress(letter)), "", f"no row of the table gives {_meaning(guess.key, letter)}", *at)
        for letter in missing
    ]
    return made, doubts


def _is_package(member: str, package: str) -> bool:
    """Whether a member of a table is the package that is drafted."""
    plain = plain_package(package)
    return bool(plain) and plain in (plain_package(member), plain_package(last_package(member)))


def with_further_letters(bundle: Bundle, captures: Sequence[TableCapture], document: str, who: str) -> Bundle:
    """The part with the lengths of further tables under their own letters, without those that are in it already or
    mean something else in its family."""
    family = family_of(bundle.sheet.family)
    for capture in captures:
        member = next(iter(family_members(capture)), "")
        rows = [row for _index, row in member_rows(capture, member)]
        known = {*bundle.sheet.dims, *bundle.sheet.aliases}
        letters = {row.letter: row.letter for row in rows if row.letter not in known and not family.letter(row.letter)}
        bundle = use_dimensions(bundle, capture, letters, document, who, member)
    return bundle


def _sheet_of(sheet: PackageSheet, key: str, pins: int, numbers: Sequence[str]) -> PackageSheet:
    """The sheet of a family for so many pins: a thermal pad is not a lead, balls tell rows and columns, a number that
    the table passes over is a place without a lead.
    """
    family = family_of(key)
    made = replace(sheet, family=key, kind=next(iter(family.kinds), ""), pins=pins)
    balls = [(found[1], int(found[2])) for number in numbers if (found := _BALL.fullmatch(number))]
    if balls and len(balls) == len(numbers):
        rows = max(row_index(letter) or 0 for letter, _column in balls) + 1
        columns = max(column for _letter, column in balls)
        places = {f"{row_letter(r)}{c}" for r in range(rows) for c in range(1, columns + 1)}
        missing = tuple(sorted(places - set(numbers), key=lambda place: (len(place), place)))
        return replace(made, rows=rows, columns=columns, missing=missing)
    counted_to = {int(number) for number in numbers if number.isdecimal()}
    gone = sorted(set(range(1, max(counted_to, default=0) + 1)) - counted_to)
    if 0 < len(gone) <= MOST_GONE and not family.pin_fault(pins + len(gone)):
        return replace(made, pins=pins + len(gone), missing=tuple(map(str, gone)))
    if family.pin_fault(pins) and pins > 1 and not family.pin_fault(pins - 1):
        return replace(made, pins=pins - 1)
    return made


def _letter_doubt(guess: FamilyGuess, letter: str, standard: str, limits: Limits | None) -> str:
    """Why a letter may mean something else; empty where its name speaks for it."""
    if limits is None:
        return ""
    if not standard:
        return "its letter has no meaning in this family; it was left out"
    if guess.question is not None and guess.question.letter == letter:
        return f"{guess.question.text} {_meaning(guess.key, standard).capitalize()} was taken"
    reason = guess.proposal.doubts.get(letter, "") if guess.proposal else ""
    return f"taken as {standard}, {_meaning(guess.key, standard)}: {reason}" if reason else ""


def _meaning(family: str, letter: str) -> str:
    found = all_families()[family].letter(letter)
    return f"the {found.meaning}" if found else letter


def _pins_named(package: str) -> int:
    """How many pins a package's name tells; 0 where it tells none."""
    found = re.search(r"-?(\d{1,4})[A-Z]?$", package)
    return int(found[1]) if found else 0


def open_doubts(bundle: Bundle) -> tuple[Doubt, ...]:
    """The doubts of a draft that nobody has looked at yet, in the order of the work."""
    order = {"symbol": 0, "sheet": 1, "lands": 2, "facts": 3, "part": 4}
    return tuple(sorted(bundle.part.to_confirm, key=lambda doubt: order.get(doubt.address.partition(".")[0], 9)))


def confirm_doubt(bundle: Bundle, doubt: Doubt) -> Bundle:
    """The part without a doubt that someone has looked at."""
    left = tuple(other for other in bundle.part.to_confirm if other != doubt)
    return replace(bundle, part=replace(bundle.part, to_confirm=left))
