"""Categories inherit; names of facts are known in every spelling; texts are composed from facts."""

import pytest

from eider.facts.categories import category_of, fact_names, parent_fault, spelling_key, value_field
from eider.facts.text_templates import compose_name, compose_text, missing_places, template_fault
from eider.model.library import Category, FactField, LibrarySettings

PASSIVE = Category(
    title="Passive", reference="R", facts=(FactField("Manufacturer", required=True), FactField("Tolerance")),
    description="{Manufacturer} part",
)  # fmt: skip
RESISTOR = Category(
    title="Resistor", parent="passive", part_name="LYN-R{Package}-{Resistance|code}",
    description="{Resistance} {Tolerance}, {Rated power}, {Package}",
    facts=(
        FactField("Resistance", kind="number", unit="Ω", is_value=True, also=("R", "Value (Ohms)")),
        FactField("Tolerance", required=True, kind="number", unit="%"),
        FactField("Rated power", kind="number", unit="W"), FactField("Package"),
    ),
)  # fmt: skip
THIN = Category(title="Thin film", parent="resistor", reference="RT")
SETTINGS = LibrarySettings(name="", categories={"passive": PASSIVE, "resistor": RESISTOR, "thin": THIN})


def test_a_category_has_what_its_parents_have() -> None:
    found = category_of(SETTINGS, "thin")
    assert found is not None
    names = [fact.name for fact in found.facts]
    assert names == ["Manufacturer", "Tolerance", "Resistance", "Rated power", "Package"]
    # The nearer one wins, at the place that the parent gave it.
    assert found.facts[1].required
    assert (found.reference, found.part_name) == ("RT", RESISTOR.part_name)
    assert category_of(SETTINGS, "passive") == PASSIVE
    assert category_of(SETTINGS, "nothing") is None
    assert (value := value_field(found)) and value.name == "Resistance"


def test_parents_that_are_missing_or_go_round_are_told_and_do_no_harm() -> None:
    first, second = Category(title="A", parent="b"), Category(title="B", parent="a")
    round_about = LibrarySettings(
        name="", categories={"a": first, "b": second, "c": Category(title="C", parent="gone")}
    )
    assert "circle" in parent_fault(round_about, "a")
    assert "“gone” is not a category" in parent_fault(round_about, "c")
    assert parent_fault(SETTINGS, "thin") == ""
    found = category_of(round_about, "a")
    assert found is not None and found.title == "A"


def test_names_are_known_in_every_spelling() -> None:
    names = fact_names(RESISTOR)
    for spelling in ("resistance", "R", "Value (Ohms)", "value-ohms", "RESISTANCE"):
        assert names[spelling_key(spelling)] == "Resistance"


FACTS = {
    "Resistance": "4k7",
    "Tolerance": "1",
    "Package": "1608",
    "Rated power": "0.1 W",
    "Manufacturer": "Lyng Passive",
}


def test_texts_are_composed_from_facts_as_they_are_printed() -> None:
    assert compose_text(RESISTOR.description, RESISTOR, FACTS) == "4.7 kΩ 1 %, 100 mW, 1608"
    assert compose_name(RESISTOR.part_name, RESISTOR, FACTS) == "LYN-R1608-4K7"


def test_what_is_empty_leaves_nothing_behind() -> None:
    some = {**FACTS, "Rated power": "–", "Tolerance": ""}
    assert compose_text(RESISTOR.description, RESISTOR, some) == "4.7 kΩ, 1608"
    assert list(missing_places(RESISTOR.description, some)) == ["Tolerance"]


@pytest.mark.parametrize(
    ("template", "fault"),
    [
        ("{Resistance} {Colour}", "“Colour” is not a fact"), ("{Resistance", "brace"), ("{Package}", ""), ("plain", ""),
        ("{Package|short}", "“short” is not a form"),
    ],
)  # fmt: skip
def test_templates_that_cannot_be_used_are_told(template: str, fault: str) -> None:
    found = template_fault(template, RESISTOR)
    assert fault in found
    assert bool(found) == bool(fault)
