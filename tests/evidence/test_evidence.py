"""Evidence is taken, typed over, taken back and confirmed; the demo's converter has 31 values, each with a place."""

import pytest
from msgspec.structs import replace

from eider.commands.facts import fact_edits
from eider.commands.packages import package_edits
from eider.commands.parts import new_parts
from eider.commands.pins import pin_edits
from eider.demo.parts import converter_part
from eider.errors import InputError
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.evidence.evidence_changes import confirm_values, put_value, restore_value, set_evidence_at
from eider.library import Library
from eider.model.address import DimensionAddress, FactAddress, PadAddress, PinAddress
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.part import DatasheetLink
from eider.views.part_values import value_rows

PLACE = Evidence(EvidenceKind.DATASHEET, "d" * 64, 3, (10, 20, 30, 40), "0.20 0.32", "Skerry engineer", "2026-11-23")
B = DimensionAddress("b")


@pytest.fixture
def made(library: Library) -> Bundle:
    return converter_part(library, DatasheetLink("0" * 64, "x.pdf"))


def held(bundle: Bundle, place: str) -> tuple[str, bool, str]:
    value = next(v for v in evidenced_values(bundle) if v.address == place)
    return value.text, value.evidence is not None, value.former_text


def test_a_value_goes_in_with_its_place(made: Bundle) -> None:
    changed = put_value(made, B, "0.20–0.32", PLACE, "bp")
    assert changed.sheet.dims["b"].evidence == PLACE
    assert changed.sheet.limits("b").max == 0.32  # type: ignore[union-attr]
    assert changed.sheet.datasheet_letter("b") == "bp"


def test_an_alias_that_is_there_stays(made: Bundle) -> None:
    assert put_value(made, DimensionAddress("E"), "6.3–6.5", PLACE, "HE").sheet.datasheet_letter("E") == "H"


def test_facts_and_cells_of_pins_take_values_too(made: Bundle) -> None:
    assert put_value(made, FactAddress("Package"), "TSSOP-16", PLACE).part.facts["Package"].evidence == PLACE
    named = put_value(made, PinAddress("9", "name"), "nPD", PLACE).symbol.pins[8]
    assert (named.name, named.active_low, named.group, named.evidence) == ("PD", True, made.symbol.pins[8].group, PLACE)
    described = put_value(made, PinAddress("9", "description"), "Power-down", PLACE).symbol.pins[8]
    assert (described.description, described.evidence) == ("Power-down", made.symbol.pins[8].evidence)
    with pytest.raises(InputError, match="cannot be put at"):
        put_value(made, PadAddress("1"), "1", PLACE)


def test_typing_over_keeps_the_old_evidence_on_record(made: Bundle) -> None:
    typed = package_edits.set_dimension(made, "b", "0.20–0.32")
    assert held(typed, B) == ("0.20–0.32", False, "0.19–0.30")
    further = package_edits.set_dimension(typed, "b", "0.21")
    assert held(further, B) == ("0.21", False, "0.19–0.30")
    assert held(package_edits.set_dimension(further, "b", "0.19–0.30"), B) == ("0.19–0.30", True, "")


def test_the_same_for_facts_and_pins(made: Bundle) -> None:
    fact = fact_edits.set_fact(made, "Package", "other")
    assert held(fact, FactAddress("Package")) == ("other", False, made.part.facts["Package"].value)
    pin = made.symbol.pins[2]
    renamed = pin_edits.change_pin(made, 2, replace(pin, name="OTHER"))
    assert held(renamed, PinAddress("3")) == ("OTHER", False, "3 REFP")
    # Another type is no other pin: number and name are what the evidence shows.
    assert pin_edits.change_pin(made, 2, replace(pin, type="passive")).symbol.pins[2].evidence == pin.evidence


@pytest.mark.parametrize("place", [B, FactAddress("Package"), PinAddress("3")])
def test_what_was_proven_comes_back(made: Bundle, place: str) -> None:
    pin = made.symbol.pins[2]
    changed = fact_edits.set_fact(package_edits.set_dimension(made, "b", "0.21"), "Package", "other")
    changed = pin_edits.change_pin(changed, 2, replace(pin, name="OTHER"))
    assert held(restore_value(changed, place), place) == held(made, place)
    assert restore_value(made, place) == made


def test_coverage_counts_values_evidence_and_confirmations(made: Bundle) -> None:
    # 9 dimensions, 6 facts, 16 pins.
    assert (evidence_coverage(made).total, evidence_coverage(made).covered, evidence_coverage(made).confirmed) == (
        31,
        31,
        0,
    )
    typed = package_edits.set_dimension(made, "b", "0.21")
    assert evidence_coverage(typed).without == (B,)
    assumed = set_evidence_at(typed, [B], Evidence(EvidenceKind.ASSUMED), "Skerry engineer")
    assert evidence_coverage(assumed).covered == 30
    measured = set_evidence_at(typed, [B], Evidence(EvidenceKind.MEASURED, text="calliper"), "Skerry engineer")
    assert evidence_coverage(measured).covered == 31


def test_a_second_person_confirms(made: Bundle) -> None:
    with pytest.raises(InputError, match="a second person must confirm"):
        confirm_values(made, [B], "Skerry librarian")
    confirmed = confirm_values(made, [B, PinAddress("3")], "Skerry reviewer")
    assert evidence_coverage(confirmed).confirmed == 2
    row = next(r for r in value_rows(confirmed) if r.address == B)
    assert row.confirmed_by == "Skerry reviewer"
    assert evidence_coverage(confirm_values(confirmed, [B], "Skerry reviewer", is_confirmed=False)).confirmed == 1
    assert evidence_coverage(package_edits.set_dimension(confirmed, "b", "0.21")).confirmed == 1


def test_without_evidence_there_is_nothing_to_confirm(made: Bundle) -> None:
    with pytest.raises(InputError, match="nothing to confirm yet"):
        confirm_values(package_edits.set_dimension(made, "b", "0.21"), [B], "Skerry reviewer")


def test_a_graphic_of_the_standard_needs_no_evidence_for_its_pins(library: Library) -> None:
    capacitor = new_parts.new_part("LYN-C1", "capacitor", library.settings)
    assert not [v for v in evidenced_values(capacitor) if isinstance(v.address, PinAddress)]


def test_a_sum_of_letters_is_evidence_of_its_own(made: Bundle) -> None:
    summed = package_edits.set_dimension(made, "L", "(E - E1)/2 - 0.4")
    evidence = summed.sheet.dims["L"].evidence
    assert evidence is not None
    assert (evidence.kind, evidence.text) == ("calculated", "(E - E1)/2 - 0.4")
