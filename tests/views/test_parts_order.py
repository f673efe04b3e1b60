"""Lists of parts in another order: values as values, empty ones last."""

import pytest

from eider.library.index.part_index import PartRow
from eider.model.library import Category, FactField, LibrarySettings
from eider.views.parts_order import PartsOrder, ordered_parts, value_facts

SETTINGS = LibrarySettings(
    name="x",
    categories={
        "r": Category("R", facts=(FactField("Resistance", kind="number", unit="Ω", is_value=True),)),
        "c": Category("C", facts=(FactField("Capacitance", kind="number", unit="F", is_value=True),)),
        "u": Category("U"),
    },
)


def _row(name: str, category: str, *, blockers: int = 0, **facts: str) -> PartRow:
    return PartRow(name, name, category, "", "released", 1, "", "", facts, blockers, 0, 0, "")


ROWS = [
    _row("A10", "r", Resistance="10 kΩ", Maker="b"),
    _row("A9", "r", Resistance="470", blockers=1),
    _row("B", "r", Resistance="4k7", Maker="a"),
    _row("C", "c", Capacitance="100 nF"),
    _row("D", "u"),
]


@pytest.mark.parametrize(
    ("order", "names"),
    [
        (PartsOrder("name"), ["A9", "A10", "B", "C", "D"]),
        (PartsOrder("name", backwards=True), ["D", "C", "B", "A10", "A9"]),
        (PartsOrder("value"), ["C", "A9", "B", "A10", "D"]),
        (PartsOrder("value", backwards=True), ["A10", "B", "A9", "C", "D"]),
        (PartsOrder("fact:Maker"), ["B", "A10", "A9", "C", "D"]),
        (PartsOrder("fact:Maker", backwards=True), ["A10", "B", "A9", "C", "D"]),
        (PartsOrder("findings"), ["A9", "A10", "B", "C", "D"]),
    ],
)
def test_parts_are_put_in_order(order: PartsOrder, names: list[str]) -> None:
    assert [row.name for row in ordered_parts(ROWS, order, SETTINGS)] == names


def test_the_fact_that_is_the_value_is_known_by_category() -> None:
    assert value_facts(SETTINGS) == {"r": "Resistance", "c": "Capacitance"}
