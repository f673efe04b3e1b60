"""The one table from the type of an address to the step that shows it, its reader and its writer.

One more kind of value is one more entry here.
"""

import contextlib
from collections.abc import Callable, Iterator, Mapping
from typing import Any

import msgspec

from eider.errors import InputError
from eider.evidence.value_evidence import EvidencedValue
from eider.geometry.lengths import LengthError, parse_limits
from eider.model.address import (
    Address,
    DimensionAddress,
    FactAddress,
    FieldAddress,
    KeptDistanceAddress,
    ManufacturerLengthAddress,
    OutlineStepAddress,
    PadAddress,
    PinAddress,
)
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence
from eider.model.package_sheet import Dimension
from eider.model.part import Fact
from eider.model.symbol import Pin
from eider.packages.sheet_parsing import with_dimension
from eider.symbols.pin_table import make_pin

replace = msgspec.structs.replace
# Takes each value of a kind with its address, and gives what is to be there.
Change = Callable[[Address, Any], Any]


class NewValue(msgspec.Struct, frozen=True):
    """A text to be put at an address, with its evidence; `datasheet_letter` is what the datasheet calls a length."""

    text: str
    evidence: Evidence
    datasheet_letter: str = ""


class AddressKind(msgspec.Struct, frozen=True):
    """What is known of a type of address.

    Attributes:
        step: key of the step that shows the value.
        values: reads every value of the kind with its evidence; none for things that have no evidence.
        change: puts what a function makes of each value of the kind in its place.
        put: writes a text with its evidence at an address.
    """

    step: str
    values: Callable[[Bundle], Iterator[EvidencedValue]] | None = None
    change: Callable[[Bundle, Change], Bundle] | None = None
    put: Callable[[Bundle, Any, NewValue], Bundle] | None = None


def _dimensions(bundle: Bundle) -> Iterator[EvidencedValue]:
    for letter, d in bundle.sheet.dims.items():
        yield _of_dimension(DimensionAddress(letter), letter, d, d.text or "given")


def _of_dimension(address: Address, name: str, d: Dimension, text: str) -> EvidencedValue:
    return EvidencedValue(address, name, text, d.evidence, d.former_text, d.former)


def _change_dimensions(bundle: Bundle, change: Change) -> Bundle:
    dims = {letter: change(DimensionAddress(letter), d) for letter, d in bundle.sheet.dims.items()}
    return replace(bundle, sheet=replace(bundle.sheet, dims=dims))


def _put_dimension(bundle: Bundle, address: DimensionAddress, value: NewValue) -> Bundle:
    letter, other = address.letter, value.datasheet_letter
    sheet = with_dimension(bundle.sheet, letter, Dimension(value.text, None, value.evidence))
    if other and other != letter and not sheet.datasheet_letter(letter) and other not in sheet.aliases:
        sheet = replace(sheet, aliases={**sheet.aliases, other: letter})
    return replace(bundle, sheet=sheet)


def _manufacturer_lengths(bundle: Bundle) -> Iterator[EvidencedValue]:
    for lands in bundle.footprint.suggested:
        for key, d in lands.lengths.items():
            address = ManufacturerLengthAddress(lands.group, key)
            yield _of_dimension(address, f"suggested {key}, {lands.group}", d, d.text)


def _change_manufacturer_lengths(bundle: Bundle, change: Change) -> Bundle:
    suggested = tuple(
        replace(s, lengths={k: change(ManufacturerLengthAddress(s.group, k), d) for k, d in s.lengths.items()})
        for s in bundle.footprint.suggested
    )
    return replace(bundle, footprint=replace(bundle.footprint, suggested=suggested))


def put_manufacturer_length(bundle: Bundle, address: ManufacturerLengthAddress, value: Dimension) -> Bundle:
    """A length of the manufacturer's land pattern in its group, with the limits (mm) that its text gives.

    Raises:
        InputError: the group has no form yet.
    """
    group, key = address.group, address.key
    if not any(s.group == group for s in bundle.footprint.suggested):
        raise InputError(f"no form is chosen yet for the suggested lands of {group}")
    # A text with letters of the sheet is worked out with the lands: it has no limits of its own.
    with contextlib.suppress(LengthError):
        value = replace(value, limits=parse_limits(value.text))
    suggested = tuple(
        replace(s, lengths={**s.lengths, key: value}) if s.group == group else s for s in bundle.footprint.suggested
    )
    return replace(bundle, footprint=replace(bundle.footprint, suggested=suggested))


def _kept_distances(bundle: Bundle) -> Iterator[EvidencedValue]:
    for kept in bundle.footprint.distances:
        yield _of_dimension(KeptDistanceAddress(kept.key), kept.key, kept.shall, kept.shall.text)


def _change_kept_distances(bundle: Bundle, change: Change) -> Bundle:
    distances = tuple(replace(k, shall=change(KeptDistanceAddress(k.key), k.shall)) for k in bundle.footprint.distances)
    return replace(bundle, footprint=replace(bundle.footprint, distances=distances))


def put_kept_distance(bundle: Bundle, address: KeptDistanceAddress, value: Dimension) -> Bundle:
    """What a kept distance shall be; the others stay."""
    return _change_kept_distances(bundle, lambda found, old: value if found == address else old)


def _facts(bundle: Bundle) -> Iterator[EvidencedValue]:
    for name, f in bundle.part.facts.items():
        yield EvidencedValue(FactAddress(name), name, f.value, f.evidence, f.former_text, f.former)


def _change_facts(bundle: Bundle, change: Change) -> Bundle:
    facts = {name: change(FactAddress(name), fact) for name, fact in bundle.part.facts.items()}
    return replace(bundle, part=replace(bundle.part, facts=facts))


def _put_fact(bundle: Bundle, address: FactAddress, value: NewValue) -> Bundle:
    facts = {**bundle.part.facts, address.name: Fact(value.text, value.evidence)}
    return replace(bundle, part=replace(bundle.part, facts=facts))


def _pins(bundle: Bundle) -> Iterator[EvidencedValue]:
    """The pins of a symbol that is not a standard graphic, whose pins nobody reads in a datasheet."""
    for pin in bundle.symbol.pins if not bundle.symbol.graphic else ():
        name = f"{pin.name} (active low)" if pin.active_low else pin.name
        yield EvidencedValue(
            PinAddress(pin.number), f"pin {pin.number}", name, pin.evidence, pin.former_text, pin.former
        )


def _change_pins(bundle: Bundle, change: Change) -> Bundle:
    pins = tuple(change(PinAddress(pin.number), pin) for pin in bundle.symbol.pins)
    return replace(bundle, symbol=replace(bundle.symbol, pins=pins))


def _put_pin(bundle: Bundle, address: PinAddress, value: NewValue) -> Bundle:
    return _change_pins(bundle, lambda found, pin: _put_cell(pin, address.cell, value) if found == address.row else pin)


def _put_cell(pin: Pin, cell: str, value: NewValue) -> Pin:
    """A cell of a pin's row; a name tells type and active low, as one that is pasted does."""
    if cell == "name":
        made, _ = make_pin(pin.number, value.text)
        typed = made if pin.type == "undecided" or pin.assumed else replace(made, type=pin.type, assumed=False)
        typed = replace(typed, group=pin.group, description=pin.description)
    elif cell in ("number", "description", "group"):
        typed = replace(pin, **{cell: value.text})
    else:
        raise InputError(f"a text of the datasheet cannot be used as a pin's {cell}")
    if cell in ("number", "name"):
        return replace(typed, evidence=value.evidence, former=None, former_text="")
    return typed


ADDRESS_KINDS: Mapping[type[Address], AddressKind] = {
    DimensionAddress: AddressKind("package", _dimensions, _change_dimensions, _put_dimension),
    ManufacturerLengthAddress: AddressKind(
        "lands",
        _manufacturer_lengths,
        _change_manufacturer_lengths,
        lambda b, address, v: put_manufacturer_length(b, address, Dimension(v.text, None, v.evidence)),
    ),
    KeptDistanceAddress: AddressKind(
        "lands",
        _kept_distances,
        _change_kept_distances,
        lambda b, address, v: put_kept_distance(b, address, Dimension(v.text, None, v.evidence)),
    ),
    FactAddress: AddressKind("facts", _facts, _change_facts, _put_fact),
    PinAddress: AddressKind("pins", _pins, _change_pins, _put_pin),
    PadAddress: AddressKind("lands"),
    OutlineStepAddress: AddressKind("package"),
}
_STEPS_OF_FIELDS = {
    "sheet": "package",
    "lands": "lands",
    "symbol": "pins",
    "part": "facts",
    "body": "body",
    "source": "source",
}


def step_of_address(address: Address) -> str:
    """The key of the step that shows what an address names."""
    if isinstance(address, FieldAddress):
        return _STEPS_OF_FIELDS[address.of]
    kind = ADDRESS_KINDS.get(type(address))
    return kind.step if kind else "review"


def evidenced_values(bundle: Bundle) -> Iterator[EvidencedValue]:
    """Every value of a part that can have evidence, by kind."""
    for kind in ADDRESS_KINDS.values():
        if kind.values is not None:
            yield from kind.values(bundle)


class Coverage(msgspec.Struct, frozen=True):
    """How many values of a part have evidence, how many a second person confirmed; and the addresses without any."""

    total: int
    covered: int
    confirmed: int
    without: tuple[Address, ...]

    @property
    def words(self) -> str:
        """In words, for a line."""
        return f"{self.covered} of {self.total} values with evidence, {self.confirmed} confirmed"


def evidence_coverage(bundle: Bundle) -> Coverage:
    """The evidence of all values."""
    values = list(evidenced_values(bundle))
    without = tuple(value.address for value in values if not value.is_covered)
    confirmed = sum(bool(v.evidence and v.evidence.confirmed_by) for v in values)
    return Coverage(len(values), len(values) - len(without), confirmed, without)
