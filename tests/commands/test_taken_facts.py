"""Facts of suppliers under the library's own names."""

from eider.commands.facts.fact_edits import taken_facts
from eider.model.library import Category, FactField, LibrarySettings

CONNECTOR = Category(title="Connector", facts=(FactField("Mounting", also=("Mounting Style",)), FactField("Ways")))


def test_names_of_suppliers_become_the_librarys() -> None:
    offered = {"mounting-style": "surface", "WAYS": "4", "Colour": "white"}
    taken = taken_facts(offered, LibrarySettings(name=""), CONNECTOR)
    assert taken.facts == {"Mounting": "surface", "Ways": "4", "Colour": "white"}
    assert taken.renamed == {"mounting-style": "Mounting", "WAYS": "Ways"}
    assert taken.dropped == ()


def test_unwanted_facts_are_left_out_and_told() -> None:
    settings = LibrarySettings(name="", dropped_facts=("Shipping weight",))
    taken = taken_facts({"shipping_weight": "1 g", "Ways": "4"}, settings, CONNECTOR)
    assert (taken.facts, taken.dropped) == ({"Ways": "4"}, ("shipping_weight",))


def test_the_first_of_two_spellings_holds() -> None:
    taken = taken_facts({"Mounting": "surface", "Mounting Style": "hole"}, LibrarySettings(name=""), CONNECTOR)
    assert (taken.facts, taken.renamed, taken.doubled) == ({"Mounting": "surface"}, {}, ("Mounting Style",))


def test_without_a_category_names_stay_as_they_are() -> None:
    assert taken_facts({"Any Name": "x"}, LibrarySettings(name=""), None).facts == {"Any Name": "x"}
