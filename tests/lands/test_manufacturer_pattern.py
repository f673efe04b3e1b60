"""The maker's suggested lands: in their own form, laid in place of the computed, and compared with them."""

import pytest
from msgspec.structs import replace

from eider.checks import PartUnderCheck
from eider.commands.lands import manufacturer_lands
from eider.commands.parts.evaluation import rerun_recipes
from eider.errors import InputError
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.lands.manufacturer_pattern import differences
from eider.lands.pattern import make_pattern
from eider.model.address import ManufacturerLengthAddress
from eider.model.bundle import Bundle
from eider.model.footprint import SuggestedLands
from eider.model.library import LibrarySettings
from eider.model.package_sheet import Dimension, PackageSheet
from eider.rulebooks import standard_rulebook
from eider.views import manufacturer_rows
from helpers import make_sheet

RULEBOOK = standard_rulebook()
ROWS = "row 1 and row 2"


def given(group: str, form: str, **lengths: str) -> SuggestedLands:
    return SuggestedLands(group, form, {key: Dimension(text=text) for key, text in lengths.items()})


@pytest.mark.parametrize(
    ("form", "lengths"),
    [
        ("outer and inner", {"Z": "7.4", "G": "4.2", "X": "0.7"}),
        # 7.4 − 1.6 = 5.8 from centre to centre; a gap of 4.2 between; 7.4 over all.
        ("centres and length", {"C": "5.8", "Y": "1.6", "X": "0.7"}),
        ("gap and length", {"G": "4.2", "Y": "1.6", "X": "0.7"}),
        ("outer and length", {"Z": "7.4", "Y": "1.6", "X": "28 mil * 25/25.4"}),
    ],
)
def test_every_form_gives_the_same_lands(so8: PackageSheet, form: str, lengths: dict[str, str]) -> None:
    lengths = {**lengths, "X": "0.7"}
    pattern = make_pattern(so8, "B", RULEBOOK, (), (given(ROWS, form, **lengths),))
    first = pattern.pads[0]
    assert (first.x, first.y, first.width, first.height) == (-2.9, 1.905, 1.6, 0.7)
    (rows,) = pattern.derivation
    assert (rows.Z, rows.G, rows.X) == (7.4, 4.2, 0.7)
    # The raw values stay those of the equations, and the notes name what would have been computed.
    assert rows.Z_raw == pytest.approx(6.9153, abs=1e-4)
    assert any("computed would be Z 6.9, G 3, X 0.6" in note for note in rows.notes)


def test_lengths_may_be_sums_of_the_sheets_letters(so8: PackageSheet) -> None:
    pattern = make_pattern(
        so8, "B", RULEBOOK, (), (given(ROWS, "outer and inner", Z="E + 1.2", G="E1 + 0.1", X="b + 0.2"),)
    )
    # Nominal E 6.0, E1 3.9, b 0.41.
    assert (pattern.derivation[0].Z, pattern.derivation[0].G, pattern.derivation[0].X) == (7.2, 4.0, 0.61)


def test_a_group_that_is_not_complete_stays_computed(so8: PackageSheet) -> None:
    half = (given(ROWS, "outer and inner", Z="7.4", G="4.2"),)
    assert make_pattern(so8, "B", RULEBOOK, (), half) == make_pattern(so8, "B", RULEBOOK)


@pytest.mark.parametrize(("g", "word"), [("q", "suggested G"), ("8", "which is not a land")])
def test_what_gives_no_land_is_told(so8: PackageSheet, g: str, word: str) -> None:
    with pytest.raises(InputError, match=word):
        make_pattern(so8, "B", RULEBOOK, (), (given(ROWS, "outer and inner", Z="7.4", G=g, X="0.7"),))


def test_the_difference_is_told_pad_by_pad(so8: PackageSheet) -> None:
    suggested = make_pattern(so8, "B", RULEBOOK, (), (given(ROWS, "outer and inner", Z="7.4", G="4.2", X="0.7"),))
    found = differences(suggested.pads, make_pattern(so8, "B", RULEBOOK).pads)
    # Computed: 1.95 × 0.60 at −2.475.
    assert (found[0].dx, found[0].dy, found[0].dwidth, found[0].dheight) == pytest.approx((-0.425, 0, -0.35, 0.1))
    assert found[0].words == "x -0.425, width -0.350, height +0.100"


def test_thermal_land_and_holes_are_suggested_by_their_size() -> None:
    sheet = make_sheet("no-lead-quad", 24, D="4", E="4", e="0.5", b="0.25", L="0.4", A="0.8", D2="2.4", E2="2.4")
    pads = make_pattern(
        sheet, "B", RULEBOOK, (), (given("thermal pad 25", "width and height", width="2.2", height="2.3"),)
    ).pads
    assert [(p.width, p.height) for p in pads if p.number == "25"] == [(2.2, 2.3)]
    header = make_sheet("header", 3, e="2.54", b="0.64", A="8")
    pins = make_pattern(header, "B", RULEBOOK, (), (given("leads", "hole and land", hole="1.0", land="1.7"),)).pads
    assert {(p.hole.width, p.width) for p in pins if p.hole} == {(1.0, 1.7)}


def test_the_part_keeps_both_and_switches_between_them(sound: Bundle) -> None:
    computed = sound.footprint.pattern
    chosen = manufacturer_lands.set_source(sound, "suggested", RULEBOOK)
    assert [(row.group, row.key) for row in manufacturer_rows.suggested_rows(chosen)] == [
        (ROWS, "Z"),
        (ROWS, "G"),
        (ROWS, "X"),
    ]
    for key, text in (("Z", "7.6"), ("G", "4.8"), ("X", "0.4")):
        chosen = manufacturer_lands.set_suggested(chosen, ROWS, key, text)
    made = rerun_recipes(chosen, RULEBOOK)
    assert made.footprint.pattern
    assert made.footprint.pattern.derivation[0].Z == 7.6
    assert all(d.dwidth for d in manufacturer_rows.compared(PartUnderCheck(made, RULEBOOK, LibrarySettings(name=""))))
    back = rerun_recipes(manufacturer_lands.set_source(made, "computed", RULEBOOK), RULEBOOK)
    assert back.footprint.pattern == computed
    assert len(back.footprint.suggested) == 1
    other = manufacturer_lands.set_form(made, ROWS, "centres and length")
    assert [row.text for row in manufacturer_rows.suggested_rows(other)] == ["", "", "0.4"]


def test_suggested_lengths_are_values_with_evidence(sound: Bundle) -> None:
    before = evidence_coverage(sound)
    chosen = manufacturer_lands.set_suggested(
        manufacturer_lands.set_source(sound, "suggested", RULEBOOK), ROWS, "Z", "7.6"
    )
    after = evidence_coverage(chosen)
    assert (after.total, after.covered) == (before.total + 1, before.covered)
    held = next(v for v in evidenced_values(chosen) if isinstance(v.address, ManufacturerLengthAddress))
    assert (held.name, held.text) == (f"suggested Z, {ROWS}", "7.6")
    with pytest.raises(InputError, match="no form is chosen"):
        manufacturer_lands.set_suggested(sound, ROWS, "Z", "7.6")


def test_unplated_holes_stay_beside_suggested_lands() -> None:
    from eider.model.package_sheet import Post

    header = replace(make_sheet("header", 3, e="2.54", b="0.64", A="8"), posts=(Post(2.54, -3.0, 1.5),))
    pads = make_pattern(header, "B", RULEBOOK, (), (given("leads", "hole and land", hole="1.0", land="1.7"),)).pads
    assert [p.hole.width for p in pads if p.hole] == [1.0, 1.0, 1.0, 1.65]
