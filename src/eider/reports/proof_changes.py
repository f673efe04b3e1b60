"""What a proof marks: the values, pins and drawings that a part changes in the revision that it was begun from."""

from collections.abc import Mapping
from typing import NamedTuple, TypeVar

import msgspec

from eider.evidence.address_table import evidenced_values
from eider.model.address import Address
from eider.model.bundle import Bundle

K = TypeVar("K", Address, str)


class ProofChanges(msgspec.Struct, frozen=True):
    """The part as it was, what that is called (“revision 2”), and all differences in words."""

    before: Bundle
    called: str
    words: tuple[str, ...]


class FormerTexts(NamedTuple):
    """What changed values, facts and pins were before, by address, name and number; empty for what is new."""

    values: dict[Address, str]
    facts: dict[str, str]
    pins: dict[str, str]


def former_texts(changes: ProofChanges | None, bundle: Bundle) -> FormerTexts:
    """What the values of a part that differ were before; without changes there are none."""
    if changes is None:
        return FormerTexts({}, {}, {})
    was = {value.address: value.text for value in evidenced_values(changes.before)}
    now = {value.address: value.text for value in evidenced_values(bundle)}
    facts, old_facts = ({name: fact.value for name, fact in b.part.facts.items()} for b in (bundle, changes.before))
    pins, old_pins = (
        {p.number: f"{p.name} {p.type}{' low' * p.active_low}" for p in b.symbol.pins} for b in (bundle, changes.before)
    )
    return FormerTexts(_differing(was, now), _differing(old_facts, facts), _differing(old_pins, pins))


def _differing(was: Mapping[K, str], now: Mapping[K, str]) -> dict[K, str]:
    return {key: was.get(key, "") for key, text in now.items() if was.get(key) != text}
