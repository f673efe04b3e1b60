"""What went into the lands leads back to the sheet's cells and to the rulebook."""

from msgspec.structs import replace

from eider.checks import PartUnderCheck
from eider.evidence.address_table import evidenced_values
from eider.library import Library
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.rulebooks import standard_rulebook
from eider.views.derivation_inputs import InputRow, derivation_inputs


def test_each_input_names_its_letter_place_and_evidence(sound: Bundle, library: Library) -> None:
    rows = derivation_inputs(PartUnderCheck(sound, standard_rulebook(), library.settings))
    group = "row 1 and row 2"
    # Norrvik Semi calls the span H.
    assert rows[0] == InputRow(group, "L", "6.2–6.6 mm", "E (H in the sheet)", "page 3", DimensionAddress("E"))
    assert [(r.name, r.letter, r.address) for r in rows[1:3]] == [
        ("T", "L", DimensionAddress("L")),
        ("W", "b", DimensionAddress("b")),
    ]
    assert [(r.name, r.value, r.letter) for r in rows[3:]] == [
        ("F", "0.1 mm", "rulebook, fabrication"),
        ("P", "0.05 mm", "rulebook, placement"),
    ]
    places = {value.address for value in evidenced_values(sound)}
    assert all(row.address in places for row in rows[:3])


def test_an_incomplete_sheet_has_no_derivation(sound: Bundle, library: Library) -> None:
    empty = replace(sound, sheet=PackageSheet(name="", family="gullwing-dual", pins=16))
    assert derivation_inputs(PartUnderCheck(empty, standard_rulebook(), library.settings)) == []
