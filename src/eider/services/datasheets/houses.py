"""The houses whose datasheets a library knows, and what it has learned of each."""

from collections.abc import Mapping, Sequence
from contextlib import closing

import msgspec

from eider.commands.datasheets.house_rules import AS_BEFORE, rules_learned, with_rules
from eider.datasheets import Datasheet
from eider.datasheets.documents.house_marks import house_marks, shares_marks
from eider.errors import InputError
from eider.evidence.evidence_changes import utc_now
from eider.library import Library
from eider.library.documents.shared_tables import SHARED_HOUSES
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.house import House, HouseRule
from eider.services.datasheets.datasheet_opening import open_datasheet

replace = msgspec.structs.replace


class KnownHouse(msgspec.Struct, frozen=True):
    """A house by its name in the library, and what is known of it."""

    name: str
    house: House


def known_houses(library: Library) -> dict[str, House]:
    """All houses of a library by name; none where the file cannot be read."""
    return SHARED_HOUSES.read_sound(library)


def house_of(library: Library, datasheet: Datasheet) -> KnownHouse | None:
    """The house that made a datasheet, where the library knows it by one of its marks."""
    houses = known_houses(library)
    return _marked_so(houses, house_marks(datasheet)) if houses else None


def _marked_so(houses: Mapping[str, House], marks: Sequence[str]) -> KnownHouse | None:
    found = (KnownHouse(name, house) for name, house in houses.items() if shares_marks(marks, house.marks))
    return next(found, None)


def learn_house(
    library: Library, datasheet: Datasheet, bundle: Bundle, confirmed: Sequence[Doubt], sheet: str
) -> KnownHouse | None:
    """Keep what a part teaches of the house of its datasheet; None where the sheet bears no mark of a house.

    `confirmed` are the doubts that a person settled, `sheet` is the datasheet's file name.

    Raises:
        ReadOnlyError, ConflictError, InputError: it cannot be kept.
    """
    marks = house_marks(datasheet)
    learned = rules_learned(bundle, confirmed, sheet, library.person().name, utc_now())
    if not marks or not learned:
        return None
    houses = SHARED_HOUSES.read(library)
    known = _marked_so(houses, marks)
    name = known.name if known else marks[0].title()
    before = houses.get(name)
    house = before or House(marks)
    made = with_rules(replace(house, marks=tuple(dict.fromkeys((*house.marks, *marks)))), learned)
    if made != before:
        SHARED_HOUSES.save(library, name, made, replaces=before)
    return KnownHouse(name, made)


def learn_from_sheet(
    library: Library, sha256: str, bundle: Bundle, confirmed: Sequence[Doubt], sheet: str
) -> KnownHouse | None:
    """As `learn_house`, for a datasheet of the library; what was shown as learned before counts as looked at.

    Raises:
        DatasheetError: it is missing or damaged. ReadOnlyError, ConflictError, InputError: nothing can be kept.
    """
    with closing(open_datasheet(library, sha256)) as datasheet:
        if any(doubt.reason.startswith(AS_BEFORE) for doubt in confirmed):
            see_rules(library, datasheet)
        return learn_house(library, datasheet, bundle, confirmed, sheet)


def see_rules(library: Library, datasheet: Datasheet) -> None:
    """What is known of a datasheet's house was looked at in its first use, and is no longer asked about.

    Raises:
        ReadOnlyError, ConflictError, InputError: it cannot be kept.
    """
    known = house_of(library, datasheet)
    if known is not None:
        made = replace(known.house, rules=tuple(replace(rule, seen=True) for rule in known.house.rules))
        if made != known.house:
            SHARED_HOUSES.save(library, known.name, made, replaces=known.house)


def change_rule(library: Library, name: str, rule: HouseRule, changed: HouseRule | None) -> None:
    """Put another rule in place of one, such as the same switched off; None takes it back.

    Raises:
        InputError: the library does not know the house or the rule. ReadOnlyError, ConflictError: it cannot be kept.
    """
    before = SHARED_HOUSES.read(library).get(name)
    if before is None or rule not in before.rules:
        raise InputError(f"there is no such rule of {name}; look at what is known with: eider houses")
    rules = (changed if other == rule else other for other in before.rules)
    made = replace(before, rules=tuple(other for other in rules if other is not None))
    SHARED_HOUSES.save(library, name, made, replaces=before)
