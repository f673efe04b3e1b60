"""Facts across parts: filling, series, replacing, merging, and what is told to have changed."""

import pytest

from eider.commands.facts.fact_table import (
    FactsOfPart,
    SpellingGroup,
    cell_fault,
    changes_between,
    continue_series,
    drop_facts,
    fact_table,
    fill_down,
    merge_names,
    replace_text,
    set_cells,
    sort_parts,
    spelling_groups,
)
from eider.errors import InputError
from eider.model.library import Category, FactField, LibrarySettings

RESISTOR = Category(
    title="Resistor", reference="R",
    facts=(
        FactField("Manufacturer", required=True, also=("maker",)), FactField("Resistance", kind="number", unit="Ω"),
        FactField("Secret", hidden=True),
    ),
)  # fmt: skip
SETTINGS = LibrarySettings(name="", categories={"resistor": RESISTOR})


def part(number: int, **facts: str) -> FactsOfPart:
    named = {name.replace("_", " "): text for name, text in facts.items()}
    return FactsOfPart(f"p{number}", f"R{number}", "resistor", named)


PARTS = (
    part(1, Manufacturer="Lyng", Resistance="10k", Box="A1"),
    part(2, maker="Lyng", Resistance="4k7", Box="A2"),
    part(3, Manufacturer="Lyng", maker="Brimfall", Resistance="470", Secret="x"),
    part(4, Manufacturer="Lyng", MAKER="Lyng"),
)
TABLE = fact_table(PARTS, SETTINGS)


def column(table: object, name: str) -> list[str]:
    return [p.facts.get(name, "") for p in table.parts]  # type: ignore[attr-defined]


def test_columns_are_the_categorys_facts_and_then_the_others() -> None:
    assert TABLE.names == ("Manufacturer", "Resistance", "Box", "maker", "MAKER")


def test_cells_are_set_and_emptied() -> None:
    made = set_cells(TABLE, {(0, "Box"): "B1", (1, "Box"): "", (2, "New"): " n ", (99, "Box"): "lost"})
    assert column(made, "Box") == ["B1", "", "", ""]
    assert "Box" not in made.parts[1].facts
    assert (made.parts[2].facts["New"], made.names[-1]) == ("n", "New")
    assert TABLE.parts[0].facts["Box"] == "A1"
    changes = list(changes_between(TABLE, made))
    assert [tuple(c[1:]) for c in changes] == [
        ("R1", "Box", "A1", "B1"), ("R2", "Box", "A2", ""), ("R3", "New", "", "n"),
    ]  # fmt: skip
    assert not list(changes_between(TABLE, TABLE))


def test_fill_down_takes_the_first_row() -> None:
    assert column(fill_down(TABLE, [0, 1, 2], ["Box"]), "Box") == ["A1", "A1", "A1", ""]
    # An empty first cell empties the others.
    assert column(fill_down(TABLE, [2, 1], ["Box"]), "Box") == ["A1", "", "", ""]


@pytest.mark.parametrize(
    ("first", "second", "wanted"),
    [
        ("A1", "", ["A1", "A2", "A3", "A4"]), ("A1", "A3", ["A1", "A3", "A5", "A7"]),
        ("10 k", "20 k", ["10 k", "20 k", "30 k", "40 k"]), ("0.5", "0.75", ["0.50", "0.75", "1.00", "1.25"]),
        ("007", "", ["007", "008", "009", "010"]), ("5", "3", ["5", "3", "1", "-1"]),
        ("A1", "B7", ["A1", "A2", "A3", "A4"]),
    ],
)  # fmt: skip
def test_a_series_goes_on(first: str, second: str, wanted: list[str]) -> None:
    begun = set_cells(TABLE, {(0, "Box"): first, (1, "Box"): second})
    assert column(continue_series(begun, [0, 1, 2, 3], ["Box"]), "Box") == wanted


def test_a_series_without_a_number_is_refused() -> None:
    with pytest.raises(InputError, match="no number"):
        continue_series(set_cells(TABLE, {(0, "Box"): "shelf"}), [0, 1], ["Box"])


def test_texts_are_replaced_where_they_are_found() -> None:
    cells = [(row, "Manufacturer") for row in range(4)]
    made, count = replace_text(TABLE, cells, "lyng", "Lyng Passive")
    assert (column(made, "Manufacturer"), count) == (["Lyng Passive", "", "Lyng Passive", "Lyng Passive"], 3)
    assert replace_text(TABLE, cells, "Lyn", "x", whole=True) == (TABLE, 0)
    # What replaces is a text, not a pattern.
    assert column(replace_text(TABLE, cells, "LYNG", r"\1")[0], "Manufacturer")[0] == r"\1"
    with pytest.raises(InputError, match="nothing to find"):
        replace_text(TABLE, cells, "", "x")


def test_two_spellings_are_found_and_merged_where_they_agree() -> None:
    (group,) = spelling_groups(PARTS, SETTINGS)
    assert group == SpellingGroup("Manufacturer", (("MAKER", 1), ("maker", 2)))
    made, left = merge_names(TABLE, group)
    # Part 3 says two different things: nobody but a person knows which is right.
    assert left == ("R3",)
    assert column(made, "Manufacturer") == ["Lyng", "Lyng", "Lyng", "Lyng"]
    assert made.parts[2].facts["maker"] == "Brimfall"
    assert "MAKER" not in made.names and "maker" in made.names


def test_names_that_no_category_knows_are_merged_to_the_usual_one() -> None:
    parts = [part(1, Box_size="1"), part(2, boxsize="2"), part(3, Box_size="3")]
    assert spelling_groups(parts, SETTINGS) == (SpellingGroup("Box size", (("boxsize", 1),)),)


def test_facts_that_nobody_wants_are_dropped_in_any_spelling() -> None:
    made = drop_facts(TABLE, ["Maker"])
    assert made.names == ("Manufacturer", "Resistance", "Box")
    assert column(made, "maker") == ["", "", "", ""]


def test_parts_are_sorted_by_value_and_the_empty_come_last() -> None:
    assert [p.name for p in sort_parts(TABLE, "Resistance", SETTINGS).parts] == ["R3", "R2", "R1", "R4"]
    assert [p.name for p in sort_parts(TABLE, "Resistance", SETTINGS, backwards=True).parts] == ["R1", "R2", "R3", "R4"]


def test_cells_tell_what_is_wrong_with_them() -> None:
    fault = cell_fault(SETTINGS)
    assert fault(PARTS[1], "Manufacturer") == "required"
    assert "is not a number" in fault(part(5, Resistance="X7R"), "Resistance")
    assert fault(PARTS[0], "Box") == fault(PARTS[0], "Resistance") == ""
