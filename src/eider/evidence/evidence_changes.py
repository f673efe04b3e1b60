"""Changes to values and their evidence: taken from a datasheet, typed over, confirmed, taken back."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import TypeVar

import msgspec

from eider.errors import InputError
from eider.evidence.value_evidence import DIMENSION, DISTANCE, FACT, PIN, SUGGESTED, evidenced_values
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.package_sheet import Dimension
from eider.model.part import Fact
from eider.model.symbol import Pin
from eider.packages.sheet_parsing import with_dimension
from eider.symbols.pin_table import make_pin

replace = msgspec.structs.replace
T = TypeVar("T", Dimension, Fact, Pin)


def utc_now() -> str:
    """The time as documents keep it: ISO 8601, UTC."""
    return datetime.now(tz=UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


def set_evidence(bundle: Bundle, evidence: Mapping[str, Evidence | None]) -> Bundle:
    """Give values evidence, by place."""
    dims = {k: _proven(d, evidence, f"{DIMENSION}{k}") for k, d in bundle.sheet.dims.items()}
    facts = {k: _proven(f, evidence, f"{FACT}{k}") for k, f in bundle.part.facts.items()}
    pins = tuple(_proven(p, evidence, f"{PIN}{p.number}") for p in bundle.symbol.pins)
    suggested = tuple(
        replace(s, lengths={k: _proven(d, evidence, f"{SUGGESTED}{s.group}.{k}") for k, d in s.lengths.items()})
        for s in bundle.footprint.suggested
    )
    distances = tuple(
        replace(k, shall=_proven(k.shall, evidence, f"{DISTANCE}{k.key}")) for k in bundle.footprint.distances
    )
    return replace(
        bundle,
        footprint=replace(bundle.footprint, suggested=suggested, distances=distances),
        sheet=replace(bundle.sheet, dims=dims),
        part=replace(bundle.part, facts=facts),
        symbol=replace(bundle.symbol, pins=pins),
    )


def _proven(value: T, evidence: Mapping[str, Evidence | None], place: str) -> T:
    if place not in evidence:
        return value
    return replace(value, evidence=evidence[place], former=None, former_text="")


def set_evidence_at(bundle: Bundle, places: Sequence[str], evidence: Evidence, who: str) -> Bundle:
    """Say where values came from, and who says so."""
    signed = replace(evidence, by=who, at=utc_now())
    return set_evidence(bundle, dict.fromkeys(places, signed))


def confirm_values(bundle: Bundle, places: Sequence[str], who: str, *, is_confirmed: bool = True) -> Bundle:
    """A second person says that value and datasheet agree; or takes that back.

    Raises:
        InputError: a value has no evidence, or the same person brought it in.
    """
    changed: dict[str, Evidence | None] = {}
    for value in evidenced_values(bundle):
        if value.place not in places:
            continue
        if value.evidence is None or not value.is_covered:
            raise InputError(f"{value.name} has no evidence; there is nothing to confirm yet")
        if is_confirmed and value.evidence.by == who:
            raise InputError(f"{value.name} was brought in by {who}; a second person must confirm it")
        changed[value.place] = replace(value.evidence, confirmed_by=who if is_confirmed else "")
    return set_evidence(bundle, changed)


def typed_dimension(old: Dimension, text: str, evidence: Evidence | None) -> Dimension:
    """A dimension after its text was typed anew; what was proven before stays on record."""
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


def put_value(bundle: Bundle, place: str, text: str, evidence: Evidence, datasheet_letter: str = "") -> Bundle:
    """Put a value with its evidence into a place of the part.

    `datasheet_letter` is the sheet's letter for a dimension; it becomes the alias where there is none yet.

    Raises:
        InputError: the part has no such place.
    """
    if place.startswith(DIMENSION):
        letter = place.removeprefix(DIMENSION)
        sheet = with_dimension(bundle.sheet, letter, Dimension(text, None, evidence))
        if (
            datasheet_letter
            and datasheet_letter != letter
            and not sheet.datasheet_letter(letter)
            and datasheet_letter not in sheet.aliases
        ):
            sheet = replace(sheet, aliases={**sheet.aliases, datasheet_letter: letter})
        return replace(bundle, sheet=sheet)
    if place.startswith(FACT):
        facts = {**bundle.part.facts, place.removeprefix(FACT): Fact(text, evidence)}
        return replace(bundle, part=replace(bundle.part, facts=facts))
    if place.startswith(PIN):
        number, _, what = place.removeprefix(PIN).rpartition(".")
        pins = tuple(_taken_pin(p, what, text, evidence) if p.number == number else p for p in bundle.symbol.pins)
        return replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    if place.startswith(SUGGESTED):
        return put_suggested(bundle, place, Dimension(text, None, evidence))
    if place.startswith(DISTANCE):
        return put_distance(bundle, place, Dimension(text, None, evidence))
    raise InputError(f"a value cannot be put into “{place}”")


def put_suggested(bundle: Bundle, place: str, value: Dimension) -> Bundle:
    """A suggested length in its group; a group that has no form yet is not there.

    Raises:
        InputError: there is no such group.
    """
    group, _, key = place.removeprefix(SUGGESTED).rpartition(".")
    if not any(s.group == group for s in bundle.footprint.suggested):
        raise InputError(f"no form is chosen yet for the suggested lands of {group}")
    suggested = tuple(
        replace(s, lengths={**s.lengths, key: value}) if s.group == group else s for s in bundle.footprint.suggested
    )
    return replace(bundle, footprint=replace(bundle.footprint, suggested=suggested))


def put_distance(bundle: Bundle, place: str, value: Dimension) -> Bundle:
    """What a kept distance shall be; the others stay."""
    key = place.removeprefix(DISTANCE)
    distances = tuple(replace(k, shall=value) if k.key == key else k for k in bundle.footprint.distances)
    return replace(bundle, footprint=replace(bundle.footprint, distances=distances))


def _taken_pin(pin: Pin, what: str, text: str, evidence: Evidence) -> Pin:
    """A cell of a pin's row; a name tells type and active low, as one that is pasted does."""
    if what == "name":
        made, _ = make_pin(pin.number, text)
        typed = made if pin.type == "undecided" or pin.assumed else replace(made, type=pin.type, assumed=False)
        typed = replace(typed, group=pin.group, description=pin.description)
    elif what in ("number", "description", "group"):
        typed = replace(pin, **{what: text})
    else:
        raise InputError(f"a text of the datasheet cannot be taken as a pin's {what}")
    if what in ("number", "name"):
        return replace(typed, evidence=evidence, former=None, former_text="")
    return typed


def restore_value(bundle: Bundle, place: str) -> Bundle:
    """Take the value that was proven before in place of the one that was typed over it."""
    held = next((value for value in evidenced_values(bundle) if value.place == place), None)
    if held is None or held.former is None:
        return bundle
    if place.startswith(PIN):
        old = place.removeprefix(PIN)
        number, _, name = held.former_text.partition(" ")
        made, _ = make_pin(number, name)
        pins = tuple(
            replace(
                p,
                number=number,
                name=made.name,
                active_low=made.active_low or p.active_low,
                evidence=held.former,
                former=None,
                former_text="",
            )
            if p.number == old
            else p
            for p in bundle.symbol.pins
        )
        return replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    return put_value(bundle, place, held.former_text, held.former)
