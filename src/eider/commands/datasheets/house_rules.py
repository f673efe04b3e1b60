"""What is learned from a person who looks through a draft, and how it is used in the next sheet of the house."""

import re
from collections.abc import Iterable, Mapping, Sequence

import msgspec

from eider.datasheets.recognition.recognised_page import RECOGNISED
from eider.model.address import DimensionAddress, FieldAddress, PinAddress, parse_address
from eider.model.bundle import Bundle
from eider.model.doubt import Doubt
from eider.model.house import House, HouseRule
from eider.model.symbol import Pin
from eider.model.wording import counted

replace = msgspec.structs.replace
SOURCE = str(FieldAddress("source"))
# How the doubt begins that shows what was taken as it was in earlier sheets of the house.
AS_BEFORE = "taken as in earlier sheets of this house"
_SIGN = re.compile(r"[_#/\\*]\w?")
# Numbers, and not those of letters such as E1.
_NUMBER = re.compile(r"(?<![A-Za-z\d])\d+(?:[.,]\d+)?")
_NAMES = {
    "sheet.family": "family", "sheet.dims": "lengths", "sheet.pins": "number of pins", "symbol": "pins",
    "part.description": "description", "source": "datasheet", "lands": "suggested lands",
}  # fmt: skip
# Readings whose doubt is of the one document: what stands or is missing there.
_OF_ONE_SHEET = (RECOGNISED, "was not taken", "no table of", "not read", "cannot be compared", "gives it")


def rules_learned(bundle: Bundle, confirmed: Sequence[Doubt], sheet: str, by: str, at: str) -> tuple[HouseRule, ...]:
    """What a part teaches whose readings were confirmed or corrected: its letters, what is written at names that are
    active low, and the kinds of readings that were right.

    `sheet` is the name of the datasheet, `by` and `at` who and when (ISO 8601, UTC).
    """
    found = [
        *(("letter", f"{bundle.sheet.family} {own}", letter) for own, letter in sorted(bundle.sheet.aliases.items())),
        *(("active low", sign, "") for sign in _signs_of_active_low(bundle.symbol.pins)),
        *(
            ("reading", key, doubt.reading)
            for doubt in confirmed
            if _own_letter(doubt) not in bundle.sheet.aliases and (key := reading_key(bundle, doubt))
        ),
    ]
    return tuple(
        HouseRule(kind, key, value, sheet, by, at)  # type: ignore[arg-type]  # one of the three kinds above
        for kind, key, value in dict.fromkeys(found)
    )


def reading_key(bundle: Bundle, doubt: Doubt) -> str:
    """What a doubt is about whatever its numbers; empty for one that the next sheet cannot have in the same way."""
    if any(words in doubt.reason for words in _OF_ONE_SHEET) or doubt.reason.startswith(AS_BEFORE):
        return ""
    address = parse_address(doubt.address)
    if isinstance(address, PinAddress):
        return ""
    family = bundle.sheet.family if isinstance(address, DimensionAddress) or doubt.address.startswith("sheet.") else ""
    own = _own_letter(doubt)
    return " | ".join(filter(None, (family, doubt.address, own, _NUMBER.sub("#", doubt.reason))))


def _own_letter(doubt: Doubt) -> str:
    """The sheet's own letter of a reading, which stands before its length; empty for a reading without one."""
    is_length = isinstance(parse_address(doubt.address), DimensionAddress)
    return doubt.reading.split(" ")[0] if is_length and " " in doubt.reading else ""


def _signs_of_active_low(pins: Iterable[Pin]) -> list[str]:
    """What is written behind the names of pins that are active low, such as `_L`."""
    signs: dict[str, None] = {}
    for pin in pins:
        if pin.active_low and pin.evidence is not None:
            for word in pin.evidence.text.split():
                if word.startswith(pin.name) and _SIGN.fullmatch(sign := word[len(pin.name) :]):
                    signs[sign] = None
    return list(signs)


def with_rules(house: House, learned: Iterable[HouseRule]) -> House:
    """A house with what was learned more of it; what says otherwise than before takes its place, what was switched off
    stays so."""
    rules = {(rule.kind, rule.key): rule for rule in house.rules}
    for rule in learned:
        before = rules.get((rule.kind, rule.key))
        if before is None or (before.value != rule.value and rule.kind == "letter"):
            rules[rule.kind, rule.key] = rule
    return replace(house, rules=tuple(rules.values()))


def letters_known(house: House | None, family: str) -> Mapping[str, str]:
    """The standard's letter for each of a house's own, of one family."""
    rules = house.rules if house else ()
    known = {rule.key: rule.value for rule in rules if rule.active and rule.kind == "letter"}
    return {key.split(" ", 1)[1]: value for key, value in known.items() if key.startswith(f"{family} ")}


def with_known_signs(bundle: Bundle, house: House | None) -> Bundle:
    """The part with the pins active low whose names are written as this house writes them."""
    signs = [rule.key for rule in house.rules if rule.active and rule.kind == "active low"] if house else []
    pins = tuple(
        next((replace(p, name=p.name[: -len(s)], active_low=True) for s in signs if _is_signed(p, s)), p)
        for p in bundle.symbol.pins
    )
    return replace(bundle, symbol=replace(bundle.symbol, pins=pins)) if signs else bundle


def _is_signed(pin: Pin, sign: str) -> bool:
    return not pin.active_low and pin.name.endswith(sign) and len(pin.name) > len(sign)


def settled_by_house(
    bundle: Bundle, doubts: Sequence[Doubt], house: House | None, document: str
) -> tuple[list[Doubt], tuple[HouseRule, ...]]:
    """The doubts that are left once this house's are taken as before, and the rules that were used.

    Those that nobody has seen at work yet are told in one doubt about the document.
    """
    active = [rule for rule in house.rules if rule.active] if house else []
    rules: dict[tuple[str, str], HouseRule] = {(rule.kind, rule.key): rule for rule in active}
    letters = letters_known(house, bundle.sheet.family)
    kept: list[Doubt] = []
    used: dict[tuple[str, str], HouseRule] = {}
    for doubt in doubts:
        found = rules.get(("reading", reading_key(bundle, doubt))) or _letter_rule(bundle, doubt, letters, rules)
        if found is None:
            kept.append(doubt)
        else:
            used[found.kind, found.key] = found
    unseen = [rule for rule in used.values() if not rule.seen]
    if unseen:
        sheets = ", ".join(sorted({rule.sheet for rule in unseen}))
        people = ", ".join(sorted({rule.by for rule in unseen}))
        told = f"{AS_BEFORE}, as {people} confirmed in {sheets}: {'; '.join(map(rule_words, unseen))}"
        kept.append(Doubt(SOURCE, counted(len(doubts) - len(kept), "reading"), told, document, 1))
    return kept, tuple(used.values())


def _letter_rule(
    bundle: Bundle, doubt: Doubt, letters: Mapping[str, str], rules: Mapping[tuple[str, str], HouseRule]
) -> HouseRule | None:
    """The rule by which a letter has the meaning that is doubted."""
    address = parse_address(doubt.address)
    own = doubt.reading.split(" ")[0]
    if isinstance(address, DimensionAddress) and letters.get(own) == address.letter and "taken as" in doubt.reason:
        return rules.get(("letter", f"{bundle.sheet.family} {own}"))
    return None


def rule_words(rule: HouseRule) -> str:
    """A rule in words."""
    if rule.kind == "letter":
        family, own = rule.key.split(" ", 1)
        return f"{own} is {rule.value} ({family})"
    if rule.kind == "active low":
        return f"{rule.key} behind a name is active low"
    *about, reason = rule.key.split(" | ")
    named = about[-1] if about else "datasheet"
    return f"{_NAMES.get(named, named)}: {reason}"
