"""A part begun from another: what differs is offered, the name follows, the evidence of what stays is kept."""

import pytest

from eider.commands.facts.fact_edits import set_about, set_fact
from eider.commands.parts.new_parts import new_part
from eider.commands.parts.start_from import facts_that_differ, name_with_facts, start_with_facts
from eider.errors import InputError
from eider.model.bundle import Bundle
from eider.model.evidence import Evidence, EvidenceKind
from eider.model.library import Category, FactField, LibrarySettings

RESISTOR = Category(
    title="Resistor",
    facts=(
        FactField("Manufacturer", required=True),
        FactField("Part number", required=True),
        FactField("Resistance", required=True, kind="number", unit="Ω", is_value=True),
        FactField("Tolerance", required=True, kind="number", unit="%"),
        FactField("Package"),
        FactField("Lifecycle"),
    ),
    part_name="LYN-R{Package}-{Resistance|code}",
    description="{Resistance} {Tolerance} {Package}",
)
SETTINGS = LibrarySettings(name="", categories={"resistor": RESISTOR, "plain": Category(title="Plain")})
SHEET = Evidence(EvidenceKind.DATASHEET, page=2, by="A")


def origin() -> Bundle:
    bundle = new_part("LYN-R1608-10K", "resistor", SETTINGS)
    for name, value in (("Resistance", "10 kΩ"), ("Tolerance", "1 %"), ("Package", "1608"), ("Part number", "R1")):
        bundle = set_fact(bundle, name, value, SHEET)
    return set_about(bundle, description="10 kΩ 1 % 1608")


def test_the_value_comes_first_then_number_and_ratings() -> None:
    assert facts_that_differ(origin(), SETTINGS) == ("Resistance", "Part number", "Package", "Tolerance")
    assert facts_that_differ(new_part("X", "plain", SETTINGS), SETTINGS) == ()


def test_name_and_description_follow_the_facts() -> None:
    made = start_with_facts(origin(), "", {"Resistance": "4k7", "Part number": "R2"}, SETTINGS, "B", "now")
    assert made.part.name == name_with_facts(origin(), {"Resistance": "4k7"}, SETTINGS) == "LYN-R1608-4K7"
    assert made.part.description == "4.7 kΩ 1 % 1608"
    assert made.part.origin is not None and made.part.origin.name == "LYN-R1608-10K"
    assert made.part.id != origin().part.id


def test_what_stays_keeps_its_evidence_and_what_changes_does_not() -> None:
    made = start_with_facts(origin(), "X", {"Resistance": "4k7", "Tolerance": "1 %"}, SETTINGS, "B", "now")
    assert made.part.name == "X"
    assert made.part.facts["Tolerance"].evidence == SHEET
    changed = made.part.facts["Resistance"]
    assert changed.value == "4k7" and changed.evidence is None and changed.former == SHEET


def test_a_part_that_is_called_by_its_number_is_so_again() -> None:
    plain = Category(title="Plain", facts=(FactField("Part number"),))
    settings = LibrarySettings(name="", categories={"plain": plain})
    bundle = set_fact(new_part("NVK-1", "plain", settings), "Part number", "NVK-1")
    assert start_with_facts(bundle, "", {"Part number": "NVK-2"}, settings, "B", "now").part.name == "NVK-2"


def test_a_copy_without_a_name_needs_one() -> None:
    with pytest.raises(InputError, match="different name"):
        start_with_facts(origin(), " ", {"Resistance": "10 kΩ"}, SETTINGS, "B", "now")
