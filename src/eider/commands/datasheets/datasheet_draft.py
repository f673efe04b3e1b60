"""A part drafted from what a datasheet was found to hold; whatever could be otherwise becomes a doubt."""

import re
from collections.abc import Mapping, Sequence

import msgspec

from eider.commands.datasheets.captured_values import (
    family_members,
    lettered_rows,
    member_rows,
    use_dimensions,
    use_pins,
)
from eider.commands.datasheets.drafted_ways import pitch_letter, ways_pitch_of, with_pitch_of_ways
from eider.commands.datasheets.family_guess import TWO_TERMINALS, FamilyGuess, guess_family
from eider.commands.datasheets.house_rules import letters_known
from eider.datasheets.documents.package_names import last_package, packages_named, plain_package
from eider.datasheets.pages.page_frame import joined
from eider.datasheets.recognition.recognised_page import RECOGNISED
from eider.datasheets.tables.dimension_tables import ReadDimension
from eider.datasheets.tables.pin_tables import THERMAL_NUMBERS
from eider.datasheets.tables.table_capture import CellLocation, TableCapture
from eider.geometry.limits import Limits
from eider.model.address import DimensionAddress, FieldAddress, PinAddress, parse_address
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.house import House
from eider.model.package_sheet import PackageSheet
from eider.model.wording import counted
from eider.packages.family import Family
from eider.packages.forms.array import row_index, row_letter
from eider.packages.letters.drawn_letters import DRAWN_SO
from eider.packages.letters.letter_proposals import NAMED_SO, DatasheetLetter
from eider.packages.registry import all_families, family_of

replace = msgspec.structs.replace
# So many numbers that a table passes over are places without a lead; more are another numbering.
MOST_GONE = 2
# Letters that mean the same in the standard and in most sheets; a sheet that uses more than this share of them
# otherwise has names of its own, and what a letter is called says nothing there.
STANDARD_NAMES, OWN_NAMES = frozenset({"A", "A1", "b", "c", "D", "E", "e", "L", "D1", "E1"}), 0.3
# Doubts about these addresses come first, in this order.
FIRST = ("sheet.family", "sheet.pins", "symbol", "sheet.dims")
UNUSED = "its letter has no meaning in this family; it was left out"
SEVERAL_UNUSED = "their letters have no meaning in this family; they were left out"
_BALL = re.compile(r"([A-Z]{1,2})(\d{1,3})")


def with_pin_table(bundle: Bundle, capture: TableCapture, document: str, who: str) -> tuple[Bundle, list[Doubt]]:
    """The part with the pins of a captured table, and what of them is doubtful."""
    made = _with_numbered_pad(use_pins(bundle, capture, document, who))
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


def _with_numbered_pad(bundle: Bundle) -> Bundle:
    """The part whose exposed land has the number after the last lead, as lands have, in place of a name."""
    pins = bundle.symbol.pins
    named = [pin for pin in pins if pin.number.casefold() in THERMAL_NUMBERS]
    leads = sorted(int(pin.number) for pin in pins if pin.number.isdecimal())
    if len(named) != 1 or leads != list(range(1, len(pins))):
        return bundle
    numbered = tuple(replace(pin, number=str(len(pins))) if pin is named[0] else pin for pin in pins)
    return replace(bundle, symbol=replace(bundle.symbol, pins=numbered))


def with_dimension_table(
    bundle: Bundle,
    capture: TableCapture,
    document: str,
    who: str,
    package: str,
    title: str = "",
    house: House | None = None,
) -> tuple[Bundle, list[Doubt]]:
    """The part with family and dimensions of a captured table, and what of them is doubtful.

    `title` is what the first page begins with; what is known of the `house` says what its letters mean.
    """
    members = family_members(capture)
    member = chosen_member(capture, package)
    rows = member_rows(capture, member)
    ways = ways_pitch_of(capture) if member.isdecimal() else None
    lengths = lettered_rows(row for _i, row in rows if ways is None or row.letter not in ways.letters)
    lengths = lengths if ways is None else (*lengths, pitch_letter(ways))
    # Those that a category begins with say nothing of this package.
    numbers = [pin.number for pin in bundle.symbol.pins if pin.evidence is not None]
    pins = len(numbers) or (int(member) if ways is not None else pins_named(package))
    are_balls = len(numbers) > 3 and sum(_BALL.fullmatch(number) is not None for number in numbers) > 0.9 * len(numbers)
    guess = guess_family(package, pins, lengths, are_balls, title, capture.drawn)
    made = replace(bundle, sheet=sheet_of(bundle.sheet, guess.key, guess.pins, numbers))
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
        told = f"the table has {', '.join(members)}; {member}, the first, was taken"
        doubts.append(Doubt(str(FieldAddress("sheet", "dims")), counted(len(rows), "row"), told, *at))
    letters = dict(guess.proposal.letters) if guess.proposal else {}
    letters |= _known_letters(house, guess.key, lengths, letters)
    made = use_dimensions(made, capture, letters, document, who, member)
    if ways is not None:
        made, more = with_pitch_of_ways(made, capture, member, ways, title, document, who)
        doubts += more
    doubts += _row_doubts(guess, capture, rows, letters, lengths, document)
    missing = guess.proposal.missing if guess.proposal else ()
    doubts += [
        Doubt(str(DimensionAddress(letter)), "", f"no row of the table gives {_meaning(guess.key, letter)}", *at)
        for letter in missing
    ]
    return made, doubts


def chosen_member(capture: TableCapture, package: str) -> str:
    """The member of a table that is the package, else its first; empty where it speaks of one package."""
    members = family_members(capture)
    return next((m for m in members if _is_package(m, package)), members[0] if members else "")


def _row_doubts(
    guess: FamilyGuess,
    capture: TableCapture,
    rows: Sequence[tuple[int, ReadDimension]],
    letters: Mapping[str, str],
    lengths: Sequence[DatasheetLetter],
    document: str,
) -> list[Doubt]:
    """What is doubtful of the rows of a table, each with its index in the capture, and of their letters' meanings."""
    unused: list[tuple[ReadDimension, CellLocation]] = []
    doubts: list[Doubt] = []
    named_alike = _naming_doubts(guess, lengths) if guess.proposal else {}
    for index, row in rows:
        place = capture.places[index]
        where = (document, place.page, place.box)
        standard = letters.get(row.letter, "")
        of_letter = _letter_doubt(guess, row.letter, standard, row.limits) or named_alike.get(row.letter, "")
        # That it was read in a picture is settled by a second witness, what its letter means is not.
        reason = of_letter or row.doubt if row.doubt == RECOGNISED else row.doubt or of_letter
        if reason == UNUSED:
            unused.append((row, place))
        elif reason:
            address = str(DimensionAddress(standard)) if standard else str(FieldAddress("sheet", "dims"))
            doubts.append(Doubt(address, f"{row.letter} {row.text}".strip(), reason, *where))
    return [*doubts, *_of_unused_rows(unused, document)]


def _of_unused_rows(unused: Sequence[tuple[ReadDimension, CellLocation]], document: str) -> list[Doubt]:
    """One doubt for each page about all rows that the family has no use for."""
    address, made = str(FieldAddress("sheet", "dims")), []
    for page in dict.fromkeys(place.page for _row, place in unused):
        here = [(row, place) for row, place in unused if place.page == page]
        reading = ", ".join(f"{row.letter} {row.text}".strip() for row, _place in here)
        told = UNUSED if len(here) == 1 else SEVERAL_UNUSED
        made.append(Doubt(address, reading, told, document, page, joined(*(place.box for _row, place in here))))
    return made


def _known_letters(
    house: House | None, family: str, lengths: Sequence[DatasheetLetter], proposed: Mapping[str, str]
) -> dict[str, str]:
    """What is known of the house's letters in a table, where no other letter of it was proposed for the same."""
    own = {row.letter for row in lengths}
    known = {letter: meant for letter, meant in letters_known(house, family).items() if letter in own}
    taken = {meant for letter, meant in proposed.items() if letter not in known}
    return {letter: meant for letter, meant in known.items() if meant not in taken}


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


def sheet_of(sheet: PackageSheet, key: str, pins: int, numbers: Sequence[str]) -> PackageSheet:
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


def _naming_doubts(guess: FamilyGuess, rows: Sequence[DatasheetLetter]) -> dict[str, str]:
    """By the sheet's letter why its name is no witness: the sheet names other lengths in its own way, or has a second
    length of that name without a meaning.

    Of two terminals length, width and height are called L, W and T or H nearly everywhere.
    """
    proposal, family = guess.proposal, family_of(guess.key)
    if proposal is None:
        return {}
    if guess.pins == TWO_TERMINALS and all(_is_usual(family, own, key) for own, key in proposal.letters.items()):
        return {}
    known = {own: key for own, key in proposal.letters.items() if own in STANDARD_NAMES}
    otherwise = [own for own, key in known.items() if key.rstrip("0123456789") != own.rstrip("0123456789")]
    left = [row.letter for row in rows if row.letter not in proposal.letters]
    found: dict[str, str] = {}
    for own, key in proposal.letters.items():
        why = proposal.reasons.get(own, "")
        # A known way of naming explains all letters of a sheet.
        is_explained = NAMED_SO in why and (own == key or DRAWN_SO in why)
        if own in proposal.doubts or is_explained:
            continue
        beside = [other for other in left if other[:1] == own[:1] and other[:1].isalpha()]
        if len(otherwise) > OWN_NAMES * len(known):
            found[own] = f"taken as {key}: the sheet uses {', '.join(otherwise)} for other lengths than the standard"
        elif beside and own not in STANDARD_NAMES and DRAWN_SO not in why:
            found[own] = f"taken as {key}: {', '.join(beside)} may be it as well"
    return found


def _is_usual(family: Family, own: str, key: str) -> bool:
    letter = family.letter(key)
    return own == key or (letter is not None and own in letter.also)


def _letter_doubt(guess: FamilyGuess, letter: str, standard: str, limits: Limits | None) -> str:
    """Why a letter may mean something else; empty where its name speaks for it."""
    if limits is None:
        return ""
    if not standard:
        return UNUSED
    if guess.question is not None and guess.question.letter == letter:
        return f"{guess.question.text} {_meaning(guess.key, standard).capitalize()} was taken"
    reason = guess.proposal.doubts.get(letter, "") if guess.proposal else ""
    return f"taken as {standard}, {_meaning(guess.key, standard)}: {reason}" if reason else ""


def _meaning(family: str, letter: str) -> str:
    found = all_families()[family].letter(letter)
    return f"the {found.meaning}" if found else letter


def pins_named(package: str) -> int:
    """How many pins a package's name tells; 0 where it tells none, as the name of a size or of a series does."""
    if not packages_named(package):
        return 0
    found = re.search(r"-?(\d{1,4})[A-Z]?$", package)
    # The numbers of other outlines are those of their form.
    is_counted = not re.match(r"(?:T?SOT|SOD|SC|TO|DO)\b", package, re.IGNORECASE)
    return int(found[1]) if found and is_counted else 0


def open_doubts(bundle: Bundle) -> tuple[Doubt, ...]:
    """The doubts of a draft that nobody has looked at yet: those first on which most hangs."""
    letters = [letter.key for letter in family_of(bundle.sheet.family).letters]
    return tuple(sorted(bundle.part.to_confirm, key=lambda doubt: _weight(doubt.address, letters)))


def _weight(address: str, letters: Sequence[str]) -> tuple[int, int]:
    """What comes first: family and count, for all else is read by them; whole tables; lengths in the order of the
    family's letters; single pins; lands, the document, facts and words."""
    if address in FIRST:
        return FIRST.index(address), 0
    known = parse_address(address)
    if isinstance(known, DimensionAddress):
        return len(FIRST), letters.index(known.letter) if known.letter in letters else len(letters)
    order = ("symbol", "lands", "source", "facts", "part")
    area = address.partition(".")[0]
    return len(FIRST) + 1 + (order.index(area) if area in order else len(order)), 0


def confirm_doubt(bundle: Bundle, doubt: Doubt) -> Bundle:
    """The part without a doubt that someone has looked at."""
    left = tuple(other for other in bundle.part.to_confirm if other != doubt)
    return replace(bundle, part=replace(bundle.part, to_confirm=left))
