"""Changes to values and their evidence: taken from a datasheet, typed over, confirmed, taken back."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

import msgspec

from eider.errors import InputError
from eider.evidence.address_table import ADDRESS_KINDS, NewValue, evidenced_values
from eider.evidence.value_evidence import EvidencedValue
from eider.model.address import (
    Address,
    PinAddress,
)
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.package_sheet import Dimension
from eider.model.part import Fact
from eider.model.symbol import Pin
from eider.symbols.pin_table import make_pin

replace = msgspec.structs.replace


def utc_now() -> str:
    """The time as documents keep it: ISO 8601, UTC."""
    return datetime.now(tz=UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def set_evidence(bundle: Bundle, evidence: Mapping[Address, Evidence | None]) -> Bundle:
    """Give values evidence, by address."""

    def proven(address: Address, value: Any) -> Any:
        if address not in evidence:
            return value
        return replace(value, evidence=evidence[address], former=None, former_text="")

    for kind in {type(address) for address in evidence}:
        change = ADDRESS_KINDS[kind].change if kind in ADDRESS_KINDS else None
        if change is not None:
            bundle = change(bundle, proven)
    return bundle


def set_evidence_at(bundle: Bundle, addresses: Sequence[Address], evidence: Evidence, who: str) -> Bundle:
    """Say where values came from, and who says so."""
    signed = replace(evidence, by=who, at=utc_now())
    return set_evidence(bundle, dict.fromkeys(addresses, signed))


def confirm_values(bundle: Bundle, addresses: Sequence[Address], who: str, *, is_confirmed: bool = True) -> Bundle:
    """A second person says that value and datasheet agree; or takes that back.

    Raises:
        InputError: a value has no evidence, or the same person brought it in.
    """
    changed: dict[Address, Evidence | None] = {}
    for value in evidenced_values(bundle):
        if value.address not in addresses:
            continue
        if value.evidence is None or not value.is_covered:
            raise InputError(f"{value.name} has no evidence; there is nothing to confirm yet")
        if is_confirmed and value.evidence.by == who:
            raise InputError(f"{value.name} was brought in by {who}; a second person must confirm it")
        changed[value.address] = replace(value.evidence, confirmed_by=who if is_confirmed else "")
    return set_evidence(bundle, changed)


def typed_dimension(old: Dimension, text: str, evidence: Evidence | None) -> Dimension:
    """A dimension after its text was typed again; what was proven before stays on record."""
    return Dimension(text, None, *_changed((old.text, old.evidence, old.former_text, old.former), text, evidence))


def typed_fact(old: Fact | None, text: str, evidence: Evidence | None) -> Fact:
    """The same for a fact."""
    if old is None:
        return Fact(text, evidence)
    return Fact(text, *_changed((old.value, old.evidence, old.former_text, old.former), text, evidence))


def typed_pin(old: Pin, new: Pin) -> Pin:
    """The same for a pin, of which number or name were typed."""
    evidence, former_text, former = _changed((old.text, old.evidence, old.former_text, old.former), new.text, None)
    return replace(new, evidence=evidence, former_text=former_text, former=former)


def _changed(
    old: tuple[str, Evidence | None, str, Evidence | None], text: str, evidence: Evidence | None
) -> tuple[Evidence | None, str, Evidence | None]:
    """Evidence, former text and former evidence of a value whose text is typed."""
    old_text, old_evidence, former_text, former = old
    if evidence is None and text == old_text:
        return old_evidence, former_text, former
    if evidence is None and former is not None and text == former_text:
        return former, "", None
    if former is None and old_evidence is not None and old_evidence.kind != EvidenceKind.CALCULATED:
        return evidence, old_text, old_evidence
    return evidence, former_text, former


def put_value(bundle: Bundle, address: Address, text: str, evidence: Evidence, datasheet_letter: str = "") -> Bundle:
    """Put a value with its evidence at an address of the part.

    `datasheet_letter` is the datasheet's letter for a dimension; it becomes the alias where there is none yet.

    Raises:
        InputError: nothing can be put there.
    """
    kind = ADDRESS_KINDS.get(type(address))
    if kind is None or kind.put is None:
        raise InputError(f"a value cannot be put at {address}")
    return kind.put(bundle, address, NewValue(text, evidence, datasheet_letter))


def restore_value(bundle: Bundle, address: Address) -> Bundle:
    """Take the value that was proven before in place of the one that was typed over it."""
    held = next((value for value in evidenced_values(bundle) if value.address == address), None)
    if held is None or held.former is None:
        return bundle
    if isinstance(address, PinAddress):
        pins = tuple(_restored_pin(p, held) if p.number == address.number else p for p in bundle.symbol.pins)
        return replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    return put_value(bundle, address, held.former_text, held.former)


def _restored_pin(pin: Pin, held: EvidencedValue) -> Pin:
    """A pin with the number and name that its former text gives."""
    number, _, name = held.former_text.partition(" ")
    made, _ = make_pin(number, name)
    is_low = made.active_low or pin.active_low
    return replace(
        pin, number=number, name=made.name, active_low=is_low, evidence=held.former, former=None, former_text=""
    )
