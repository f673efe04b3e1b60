"""What went into the lands leads back to the sheet's cells and to the rulebook."""

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck
from eider.cli.packages.lands import bare_bundle
from eider.evidence.address_table import evidenced_values
from eider.library import Library
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.package_sheet import PackageSheet
from eider.rulebooks import standard_rulebook
from eider.views.derivation_inputs import InputRow, derivation_inputs
from family_samples import sample


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


@pytest.mark.parametrize(
    ("family", "expected"),
    [
        # Rows, then the thermal pad of 2.4–2.6 mm either way.
        ("no-lead-quad", [("thermal pad 25", "width", "D2"), ("thermal pad 25", "height", "E2")]),
        ("ball-grid", [("grid", "size", "b")]),
        ("axial", [("leads", "width", "d")]),
    ],
)
def test_what_has_no_toe_and_heel_has_inputs_too(
    family: str, expected: list[tuple[str, str, str]], library: Library
) -> None:
    bundle = bare_bundle(sample(family), None, "B")
    rows = derivation_inputs(PartUnderCheck(bundle, standard_rulebook(), library.settings))
    found = [(row.group, row.name, row.letter) for row in rows]
    for row in expected:
        assert row in found
    assert (("all rows", "F") in {(row.group, row.name) for row in rows}) is (family == "no-lead-quad")


def test_a_length_that_was_not_given_is_called_assumed_or_worked_out(library: Library) -> None:
    # A chip without L: its terminals are taken as a share of D; the typical length stands for it.
    sheet = sample("transistor")
    kept = {letter: d for letter, d in sheet.dims.items() if letter != "b"}
    bundle = bare_bundle(replace(sheet, dims=kept), None, "B")
    rows = derivation_inputs(PartUnderCheck(bundle, standard_rulebook(), library.settings))
    assert all(row.evidence in ("assumed", "from lengths of the sheet") for row in rows if row.letter == "b")
