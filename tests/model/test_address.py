"""Addresses: printed and parsed, equal by kind and element, unchanged by files and other processes."""

import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.errors import InputError
from eider.evidence.address_table import ADDRESS_KINDS, evidenced_values, step_of_address
from eider.evidence.evidence_changes import put_value
from eider.model.address import (
    Address,
    DimensionAddress,
    FactAddress,
    FieldAddress,
    KeptDistanceAddress,
    LineAddress,
    ManufacturerLengthAddress,
    OutlineStepAddress,
    PadAddress,
    PinAddress,
    dimension_letter,
    parse_address,
    pin_number,
)
from eider.model.bundle import Bundle
from eider.model.codec import decode, encode
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.finding import Finding, Severity
from eider.views.step_registry import all_steps

TEXTS = {
    "sheet.dims.E": DimensionAddress("E"),
    "lands.pads.3": PadAddress("3"),
    "lands.suggested.row 1.Z": ManufacturerLengthAddress("row 1", "Z"),
    "lands.distances.pad 1 left – pad 8 right": KeptDistanceAddress("pad 1 left – pad 8 right"),
    "symbol.pins.B7": PinAddress("B7"),
    "symbol.pins.5.name": PinAddress("5", "name"),
    "facts.Manufacturer": FactAddress("Manufacturer"),
    "facts.V. max": FactAddress("V. max"),
    "outline.steps.2": OutlineStepAddress(2),
    "line 12": LineAddress(12),
    "sheet.pins": FieldAddress("sheet", "pins"),
    "lands.courtyard": FieldAddress("lands", "courtyard"),
    "body": FieldAddress("body"),
}
NAMES = st.text(st.characters(categories=("L", "N")), min_size=1, max_size=8)
ADDRESSES = st.one_of(
    *(NAMES.map(kind) for kind in (DimensionAddress, PadAddress, FactAddress, KeptDistanceAddress)),
    st.builds(ManufacturerLengthAddress, NAMES, NAMES),
    st.builds(PinAddress, NAMES, st.sampled_from(["", "name", "number", "description"])),
    st.integers(0, 10**6).map(OutlineStepAddress),
    st.integers(1, 10**6).map(LineAddress),
)


@pytest.mark.parametrize("text", list(TEXTS))
def test_each_kind_has_its_text(text: str) -> None:
    assert parse_address(text) == TEXTS[text]
    assert str(TEXTS[text]) == text


@given(ADDRESSES)
def test_what_is_printed_is_parsed_again(address: Address) -> None:
    assert parse_address(str(address)) == address
    assert pickle.loads(pickle.dumps(address)) == address
    assert hash(pickle.loads(pickle.dumps(address))) == hash(address)


@pytest.mark.parametrize("text", ["", "sheet.dims.", "elsewhere.E", "outline.steps.x", "sheet.pins.3", "3"])
def test_other_texts_are_refused(text: str) -> None:
    with pytest.raises(InputError, match="is not an address"):
        parse_address(text)


def test_a_pad_is_no_pin_of_the_same_number() -> None:
    assert PadAddress("3") != PinAddress("3")
    assert (pin_number(PadAddress("3")), pin_number(PinAddress("3")), dimension_letter(None)) == ("", "3", "")


def test_an_address_does_not_change() -> None:
    with pytest.raises(AttributeError, match="does not change"):
        PadAddress("3").number = "4"


def test_files_hold_the_text() -> None:
    finding = Finding("lands.pitch", Severity.CAUTION, "NVK-1216T", PadAddress("3"), "off", quick_fix="Put it back")
    text = encode(finding)
    assert '"place": "lands.pads.3"' in text
    assert '"mend": "Put it back"' in text
    assert decode(text, Finding, "here") == finding


def test_every_kind_of_value_is_read_and_written_by_the_table(sound: Bundle) -> None:
    evidence = Evidence(EvidenceKind.MEASURED, text="calliper")
    for value in evidenced_values(sound):
        cell = PinAddress(pin_number(value.address), "name") if isinstance(value.address, PinAddress) else value.address
        made = put_value(sound, cell, value.text, evidence)
        assert next(v for v in evidenced_values(made) if v.address == value.address).evidence == evidence


def test_every_kind_is_shown_in_a_step() -> None:
    keys = set(all_steps())
    assert {kind.step for kind in ADDRESS_KINDS.values()} <= keys
    assert all(
        step_of_address(FieldAddress(of)) in keys for of in ("sheet", "lands", "symbol", "part", "body", "source")
    )
