"""Bills of materials: references, the part that a line means with its doubts, quantities, columns, findings."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.errors import InputError
from eider.library.index.part_index import PartRow
from eider.model.library import BillColumn, Category, FactField, LibrarySettings
from eider.reports.bill_of_materials import STANDARD_COLUMNS, bill_table, unknown_places
from eider.reports.design_lists import (
    DesignLine,
    PartFinder,
    bill_lines,
    design_lines,
    guess_meanings,
    split_references,
)

SETTINGS = LibrarySettings(
    name="",
    categories={
        "resistor": Category("Resistor", "R", facts=(
            FactField("Resistance", kind="number", unit="Ω", is_value=True), FactField("Manufacturer", required=True),
            FactField("Part number"), FactField("Lifecycle"), FactField("Mass", kind="number", unit="g"),
        )),
        "capacitor": Category(
            "Capacitor", "C", facts=(FactField("Capacitance", kind="number", unit="F", is_value=True),)
        ),
    },
)  # fmt: skip


def row(name: str, category: str = "resistor", package: str = "", **facts: str) -> PartRow:
    named = {key.replace("_", " "): value for key, value in facts.items()}
    return PartRow(name, name, category, f"about {name}", "released", 1, package, "chip", named, 0, 0, 0, "")


ROWS = (
    row("LYN-R1608-4K7", package="RESC1608X55N", Resistance="4.7 kΩ", Manufacturer="Lyng", Part_number="LYN 4700/1608"),
    row("LYN-R2012-4K7", package="RESC2012X65N", Resistance="4k7", Manufacturer="Lyng", Mass="5 mg"),
    row("LYN-R1608-10K", package="RESC1608X55N", Resistance="10k"),
    row("LYN-C1608-100N", "capacitor", "CAPC1608X90N", Capacitance="100 nF"),
)
FINDER = PartFinder(ROWS, SETTINGS)


@pytest.mark.parametrize(
    ("text", "references"),
    [
        ("R1", "R1"), ("R10, R2;R3", "R2 R3 R10"), ("R1-R4", "R1 R2 R3 R4"), ("R1 - 3 C1", "C1 R1 R2 R3"),
        ("R1–R2, R7", "R1 R2 R7"), ("R1..R3", "R1 R2 R3"), ("", ""), ("U1A U1B", "U1A U1B"), ("R2 R2", "R2"),
    ],
)  # fmt: skip
def test_references_are_single_ones_in_their_order(text: str, references: str) -> None:
    found, fault = split_references(text)
    assert (" ".join(sorted(found, key=lambda r: (r[0], len(r), r))), fault) == (references, "")


@pytest.mark.parametrize("text", ["R9-R1", "R1-C4", "?", "R1-R99999999", "12"])
def test_references_that_are_none_are_told(text: str) -> None:
    assert "is not a reference" in split_references(text)[1]


@given(st.lists(st.integers(1, 400), min_size=1, max_size=30))
def test_no_reference_is_lost_or_doubled(numbers: list[int]) -> None:
    found, fault = split_references(", ".join(f"R{n}" for n in numbers))
    assert (found, fault) == (tuple(f"R{n}" for n in sorted(set(numbers))), "")


def test_columns_are_known_by_their_headings() -> None:
    header = ("Qty", "Designator", "Comment", "Footprint", "MPN", "Ref", "Colour")
    assert guess_meanings(header) == ("quantity", "reference", "value", "package", "number", "ignored", "ignored")


def test_lines_say_what_is_wrong_in_them() -> None:
    rows = [("Ref", "Value", "Qty"), ("R1 R2", "4k7", "3"), ("", "", ""), ("R?", "10k", "x"), ("", "100n", "-1")]
    lines, doubts = design_lines(rows, guess_meanings(rows[0]))
    assert [(line.line, line.references, line.quantity) for line in lines] == [
        (2, ("R1", "R2"), 3), (4, ("R?",), None), (5, (), None),
    ]  # fmt: skip
    assert [d.partition(":")[0] for d in doubts] == ["line 2", "line 4", "line 4", "line 5"]
    assert "the references count" in doubts[0]
    with pytest.raises(InputError, match="no column says which part"):
        design_lines(rows, ("reference", "ignored", "quantity"))


@pytest.mark.parametrize(
    ("line", "name", "by"),
    [
        (DesignLine(2, ("R1",), part="lyn-r1608-4k7"), "LYN-R1608-4K7", "name"),
        (DesignLine(2, ("R1",), number="LYN 4700-1608"), "LYN-R1608-4K7", "part number"),
        (DesignLine(2, ("R1",), number="LYN-R2012-4K7"), "LYN-R2012-4K7", "name"),
        (DesignLine(2, ("R1",), value="LYN-R2012-4K7"), "LYN-R2012-4K7", "name"),
        (DesignLine(2, ("R1",), value="4700 ohm", package="2012"), "LYN-R2012-4K7", "value"),
        (DesignLine(2, ("C1",), value="0.1uF"), "LYN-C1608-100N", "value"),
        (DesignLine(2, ("R1",), part="10K"), "LYN-R1608-10K", "value"),
    ],
)
def test_the_part_that_a_line_means(line: DesignLine, name: str, by: str) -> None:
    match = FINDER.find(line)
    assert match.row and (match.row.name, match.by) == (name, by)
    # What was found by value alone is looked at by a person.
    assert bool(match.doubt) == (by == "value")


@pytest.mark.parametrize(
    ("line", "doubt", "count"),
    [
        (DesignLine(2, ("R1",), value="4k7"), "2 parts have this value", 2),
        (DesignLine(2, ("R1",), value="4k7", package="0402"), "none in 0402", 2),
        (DesignLine(2, ("C1",), value="4k7"), "no part of the library", 0),
        (DesignLine(2, ("R1",), part="NVK-9"), "no part of the library is “NVK-9”", 0),
    ],
)
def test_what_could_be_several_parts_is_asked(line: DesignLine, doubt: str, count: int) -> None:
    match = FINDER.find(line)
    assert match.row is None and doubt in match.doubt and len(match.candidates) == count


LINES = [
    DesignLine(2, ("R2", "R1"), part="LYN-R1608-4K7"), DesignLine(3, ("C1",), value="100n"),
    DesignLine(4, ("R9", "R1"), number="LYN 4700/1608"), DesignLine(5, ("R5",), value="4k7"),
    DesignLine(6, (), part="LYN-R1608-10K", quantity=4),
]  # fmt: skip


def test_lines_of_one_part_are_one_and_quantities_add_up() -> None:
    lines = bill_lines(LINES, FINDER)
    found = [(line.part.name if line.part else line.said, line.references, line.quantity) for line in lines]
    assert found == [
        ("LYN-C1608-100N", ("C1",), 1), ("LYN-R1608-4K7", ("R1", "R2", "R9"), 4), ("4k7", ("R5",), 1),
        ("LYN-R1608-10K", (), 4),
    ]  # fmt: skip
    assert any("R1 is named twice" in doubt for doubt in lines[1].doubts)
    # What someone chose is the part, without a doubt.
    chosen = bill_lines(LINES, FINDER, {5: ROWS[1]})
    assert [line.part.name for line in chosen if line.part and line.references == ("R5",)] == ["LYN-R2012-4K7"]


def test_cells_are_facts_numbers_and_sums() -> None:
    columns = (
        BillColumn("Qty", "{total}", number=True), BillColumn("With spares", "=total*1.1+1"),
        BillColumn("Ohms", "{Resistance}", number=True), BillColumn("Text", "{value}, {part} ({references})"),
        BillColumn("Maker", "{Manufacturer}", required=True), BillColumn("Mass", "{Mass}", number=True),
    )  # fmt: skip
    table = bill_table(bill_lines(LINES, FINDER, {5: ROWS[1]}), columns, SETTINGS, boards=10)
    assert table.rows[0] == ("Qty", "With spares", "Ohms", "Text", "Maker", "Mass")
    assert table.rows[2] == (40, 45.0, 4700.0, "4.7 kΩ, LYN-R1608-4K7 (R1, R2, R9)", "Lyng", "")
    assert table.rows[3][2:] == (4700.0, "4.7 kΩ, LYN-R2012-4K7 (R5)", "Lyng", 0.005)
    assert [f for f in table.findings if "is empty" in f] == [
        "C1: Maker of LYN-C1608-100N is empty", "item 4: Maker of LYN-R1608-10K is empty",
    ]  # fmt: skip
    with pytest.raises(InputError, match="column Sum"):
        bill_table(bill_lines(LINES, FINDER), [BillColumn("Sum", "=price*2")], SETTINGS)


def test_a_line_without_a_part_stays_with_what_it_says() -> None:
    table = bill_table(bill_lines(LINES, FINDER), STANDARD_COLUMNS, SETTINGS)
    assert any("“4k7” has no part" in finding for finding in table.findings)
    assert len(table.rows) == 5


def test_names_that_no_category_knows_are_told() -> None:
    columns = (*STANDARD_COLUMNS[:3], BillColumn("x", "{Colour} {value}"))
    assert list(unknown_places(columns, SETTINGS)) == ["Colour"]


def test_a_line_that_could_be_several_parts_names_them_and_one_that_is_none_says_so() -> None:
    lines = bill_lines([DesignLine(2, ("R1",), value="4k7"), DesignLine(3, ("C9",), value="7.7n")], FINDER)
    told = bill_table(lines, STANDARD_COLUMNS, SETTINGS).findings
    assert told == (
        "C9: “7.7n” has no part in the library",
        "R1: “4k7” has no part yet: line 2: 2 parts have this value; choose one: LYN-R1608-4K7, LYN-R2012-4K7",
    )
