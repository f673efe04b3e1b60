"""Tables of parts: read as parts with facts, and written as what is read again."""

from pathlib import Path

import pytest

from carried_lands import family_part
from eider.commands.facts.fact_edits import set_fact
from eider.exchange.fact_rows import fact_rows, found_rows, is_fact_table
from eider.library import Library
from eider.services.intake.arrivals import look_into
from eider.services.parts.part_evaluation import EvaluationRun
from eider.services.publishing.exporting import export_part


@pytest.mark.parametrize(
    ("header", "is_one"),
    [
        (("Name", "Manufacturer"), True),
        (("MPN", "Description", "Price"), True),
        (("Part", "Colour"), False),
        (("Pin", "Name", "Description"), False),
        (("number", "x", "y", "width", "height"), False),
        ((), False),
    ],
)
def test_a_table_of_parts_is_known_by_its_headings(header: tuple[str, ...], is_one: bool) -> None:
    assert is_fact_table([header]) is is_one


def test_a_part_number_is_a_name_and_a_fact(tmp_path: Path) -> None:
    rows = [("Part number", "Manufacturer", "", "Category"), ("LYN-1", "Lyng", "loose", "bead"), ("", "Lyng", "", "")]
    (part,), log = found_rows(rows, "x.csv")
    assert part.facts == {"Part number": "LYN-1", "Manufacturer": "Lyng"} and part.category == "bead"
    assert log == ("column 3 has no heading; left out", "line 3 has no name; left out")


@pytest.mark.parametrize("format_key", ["csv", "xlsx"])
def test_what_is_written_is_read_again(library: Library, tmp_path: Path, format_key: str) -> None:
    part = set_fact(family_part(library, "gullwing-dual"), "Manufacturer", "Lyng, =SUM(A1)")
    export_part(part, [format_key], tmp_path / "out", EvaluationRun(library).rules_of(part))
    (found,) = look_into([tmp_path / "out"], tmp_path / "unpacked").parts
    assert found.name == "P" and found.facts == {"Manufacturer": "Lyng, =SUM(A1)"} and found.category == "ic"
    assert part.footprint.pattern is not None and len(found.pads) == len(part.footprint.pattern.pads)
    assert [pin.number for pin in found.pins] == [pin.number for pin in part.symbol.pins]


def test_rows_of_several_parts_have_a_column_for_each_fact(library: Library) -> None:
    one = set_fact(family_part(library, "chip"), "Height", "0.5 mm").part
    two = set_fact(family_part(library, "can"), "Value", "10 µF").part
    assert fact_rows([one, two]) == [
        ("Name", "Category", "Description", "Height", "Value"),
        ("P", "ic", "", "0.5 mm", ""),
        ("P", "ic", "", "", "10 µF"),
    ]
