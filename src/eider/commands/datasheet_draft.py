"""A part drafted from what a datasheet was found to hold; whatever could be otherwise becomes a doubt."""

import re
import tomllib
from collections.abc import Mapping, Sequence
from functools import cache
from importlib import resources
from typing import NamedTuple

import msgspec

from eider.commands.captured_values import family_members, member_rows, use_dimensions, use_pins
from eider.datasheets.table_capture import TableCapture
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress, FieldAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.array import row_letter
from eider.packages.letters import DatasheetLetter, Proposal, propose_letters
from eider.packages.registry import all_families, family_of

replace = msgspec.structs.replace
# Families that are tried where no package is named, by how many pins there are.
_FOR_TWO = ("chip", "moulded", "flat-lead", "gullwing-diode", "cylinder", "can")
_FOR_MANY = ("gullwing-dual", "no-lead-quad", "gullwing-quad", "no-lead-dual", "transistor", "j-lead-dual",
             "dual-in-line")  # fmt: skip
# Two families, or two meanings of letters, whose scores are this near are told apart by a person.
NEAR_SCORE = 1.0
# By so much a family scores less than the one before it among those that are tried.
RARER = 0.3
_BALL, MOST_ROWS = re.compile(r"([A-Z]{1,2})(\d{1,3})"), 60


class FamilyGuess(NamedTuple):
    """The family of a package, the meaning of the sheet's letters in it, and why it may be another."""

    key: str
    proposal: Proposal | None
    doubt: str


@cache
def _package_words() -> Mapping[str, str]:
    """Families by the beginnings of packages' names."""
    text = (resources.files("eider.datasheets") / "package_words.toml").read_text(encoding="utf-8")
    return {word: family for family, words in tomllib.loads(text)["families"].items() for word in words}


def family_of_package(name: str) -> str:
    """The family that a package's name means, such as `SOIC-8`; empty where none is known."""
    word = re.match(r"[A-Z]+\d?[A-Z]*", name.upper())
    return _package_words().get(word[0].rstrip("0123456789") if word else "", "")


def guess_family(package: str, pins: int, rows: Sequence[DatasheetLetter], are_balls: bool) -> FamilyGuess:
    """The family whose letters the rows fit best, or the one that the package's name means."""
    named = family_of_package(package)
    candidates = (named,) if named else ("ball-grid",) if are_balls else _FOR_TWO if pins == 2 else _FOR_MANY
    possible = [key for key in candidates if named or are_balls or not _pin_fault(key, pins)]
    tried: list[tuple[str, Proposal]] = []
    for rank, key in enumerate(possible):
        found = propose_letters(family_of(key), PackageSheet(name="", family=key, pins=pins), rows)
        if found:
            # Of two that fit alike the commoner one is likelier.
            tried.append((key, replace(found[0], score=found[0].score - RARER * rank)))
    complete = sorted((entry for entry in tried if not entry[1].missing), key=lambda entry: -entry[1].score)
    if not complete:
        likeliest = max(tried, key=lambda entry: entry[1].score, default=None)
        key = likeliest[0] if likeliest else candidates[0]
        return FamilyGuess(
            key, likeliest[1] if likeliest else None, f"no family fits all of the letters; {key} was taken"
        )
    key, best = complete[0]
    others = [other for other, proposal in complete[1:] if best.score - proposal.score < NEAR_SCORE]
    doubt = "" if named or not others else f"told by its lengths alone; it may be {' or '.join(others)} as well"
    return FamilyGuess(
        key, best, doubt or ("" if named or are_balls else "no package is named: told by its lengths alone")
    )


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
    bundle: Bundle, capture: TableCapture, document: str, who: str, package: str
) -> tuple[Bundle, list[Doubt]]:
    """The part with family and dimensions of a captured table, and what of them is doubtful."""
    members = family_members(capture)
    member = members[0] if members else ""
    rows = member_rows(capture, member)
    lengths = {
        row.letter: DatasheetLetter(row.letter, row.limits, row.meaning)
        for _i, row in rows
        if row.limits and row.letter
    }
    numbers = [pin.number for pin in bundle.symbol.pins]
    pins = len(numbers) or _pins_named(package) or 2
    are_balls = len(numbers) > 3 and sum(_BALL.fullmatch(number) is not None for number in numbers) > 0.9 * len(numbers)
    guess = guess_family(package, pins, tuple(lengths.values()), are_balls)
    made = replace(bundle, sheet=_sheet_of(bundle.sheet, guess.key, pins, numbers))
    at = (document, capture.page, capture.box)
    doubts = [Doubt(str(FieldAddress("sheet", "family")), guess.key, guess.doubt, *at)] if guess.doubt else []
    table = capture.dimensions.doubt if capture.dimensions else ""
    if table:
        doubts.append(Doubt(str(FieldAddress("sheet", "dims")), counted(len(rows), "row"), table, *at))
    if len(members) > 1:
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


def _sheet_of(sheet: PackageSheet, key: str, pins: int, numbers: Sequence[str]) -> PackageSheet:
    """The sheet of a family for so many pins: a thermal pad is no lead, and balls tell rows and columns."""
    family = family_of(key)
    made = replace(sheet, family=key, kind=next(iter(family.kinds), ""), pins=pins)
    balls = [(found[1], int(found[2])) for number in numbers if (found := _BALL.fullmatch(number))]
    if balls and len(balls) == len(numbers):
        rows = max(_row_index(letter) for letter, _column in balls) + 1
        columns = max(column for _letter, column in balls)
        places = {f"{row_letter(r)}{c}" for r in range(rows) for c in range(1, columns + 1)}
        missing = tuple(sorted(places - set(numbers), key=lambda place: (len(place), place)))
        return replace(made, rows=rows, columns=columns, missing=missing)
    if family.pin_fault(pins) and pins > 1 and not family.pin_fault(pins - 1):
        return replace(made, pins=pins - 1)
    return made


def _row_index(letter: str) -> int:
    return next((index for index in range(MOST_ROWS) if row_letter(index) == letter), 0)


def _letter_doubt(guess: FamilyGuess, letter: str, standard: str, limits: Limits | None) -> str:
    """Why a letter may mean something else; empty where its name speaks for it."""
    if limits is None:
        return ""
    if not standard:
        return "its letter has no meaning in this family; it was left out"
    reason = guess.proposal.reasons.get(letter, "") if guess.proposal else ""
    is_named = any(words in reason for words in ("standard's", "often used", "called “", "as sheets that"))
    return "" if is_named else f"taken as {standard}, {_meaning(guess.key, standard)}: {reason}"


def _meaning(family: str, letter: str) -> str:
    found = all_families()[family].letter(letter)
    return f"the {found.meaning}" if found else letter


def _pins_named(package: str) -> int:
    """How many pins a package's name tells; 0 where it tells none."""
    found = re.search(r"-?(\d{1,4})[A-Z]?$", package)
    return int(found[1]) if found else 0


def open_doubts(bundle: Bundle) -> tuple[Doubt, ...]:
    """The doubts of a draft that nobody has looked at yet, in the order of the work."""
    order = {"symbol": 0, "sheet": 1, "lands": 2, "facts": 3}
    return tuple(sorted(bundle.part.to_confirm, key=lambda doubt: order.get(doubt.address.partition(".")[0], 9)))


def confirm_doubt(bundle: Bundle, doubt: Doubt) -> Bundle:
    """The part without a doubt that somebody has looked at."""
    left = tuple(other for other in bundle.part.to_confirm if other != doubt)
    return replace(bundle, part=replace(bundle.part, to_confirm=left))
