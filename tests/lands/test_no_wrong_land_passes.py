"""What an independent reckoning of the standard's formulas found wrong once: each case by its values."""

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace
from shapely.geometry import LineString, Point, Polygon, box

from command_line import answer, eider
from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.exchange.package_sheet import read_package_sheet
from eider.lands.joints import pattern_joints
from eider.lands.pattern import make_pattern
from eider.lands.pattern_orientation import pattern_lie
from eider.model.finding import Finding
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Level, Pad, Pattern
from eider.packages.family import SheetError
from eider.packages.pads.pad_shapes import pad_outline
from eider.rulebooks import standard_rulebook
from eider.rulebooks.rulebook import RulebookError

RULEBOOK = standard_rulebook()
SO8 = {
    "family": "gullwing-dual", "pins": 8,
    "dims": {"E": "5.80–6.20", "E1": "3.80–4.00", "D": "4.80–5.00", "e": 1.27, "b": "0.31–0.51", "L": "0.40–1.27",
             "A": "max 1.75", "A1": "0.10–0.25"},
}  # fmt: skip
QFN24 = {
    "family": "no-lead-quad", "pins": 24,
    "dims": {"D": "3.9–4.1", "E": "3.9–4.1", "e": 0.5, "b": "0.18–0.30", "L": "0.30–0.50", "A": "max 0.8",
             "A1": "0–0.05", "D2": "2.4–2.6", "E2": "2.4–2.6"},
}  # fmt: skip
SOT = {
    "family": "transistor", "pins": 3,
    "dims": {"E": "2.6–3.0", "E1": "1.5–1.7", "D": "2.8–3.0", "e": 0.95, "b": "0.55–0.75", "L": "0.30–0.60",
             "A": "max 1.3", "A1": "0–0.1"},
}  # fmt: skip


@pytest.fixture
def sheet_of(tmp_path: Path):  # type: ignore[no-untyped-def]
    """Reads a sheet as the command line does."""

    def read(data: Mapping[str, Any], **changes: Any) -> PackageSheet:
        dims = {**data["dims"], **changes.pop("dims", {})}
        path = tmp_path / "sheet.json"
        path.write_text(json.dumps({**data, **changes, "dims": dims}), encoding="utf-8")
        return read_package_sheet(path)

    return read


def findings(sheet: PackageSheet, pattern: Pattern | None = None, level: Level = "B") -> dict[str, Finding]:
    view = PartUnderCheck(bare_bundle(sheet, pattern, level), RULEBOOK, LibrarySettings(name=""))
    return {f.check: f for f in run_checks(view)}


def lands(sheet: PackageSheet, level: Level = "B") -> Pattern:
    return make_pattern(sheet, level, RULEBOOK)


def with_pads(pattern: Pattern, change: Any) -> Pattern:
    return replace(pattern, pads=tuple(change(pad) for pad in pattern.pads))


def test_a_mirrored_pattern_is_told_as_such_and_as_nothing_else(sheet_of: Any) -> None:
    sheet = sheet_of(SO8)
    good = lands(sheet)
    mirrored = with_pads(good, lambda pad: replace(pad, x=-pad.x))
    found = findings(sheet, mirrored)
    assert "mirrored" in found["lands.lie"].message and "run clockwise" in found["lands.lie"].message
    assert found["lands.lie"].severity == "blocker"
    assert not {"lands.pitch", "lands.not-symmetric"} & set(found)
    assert "lands.lie" not in findings(sheet, good)


@pytest.mark.parametrize(("turn", "words"), [(1, "rotated by 90°"), (2, "rotated by 180°"), (3, "rotated by 270°")])
def test_a_turned_pattern_is_told_from_a_mirrored_one(sheet_of: Any, turn: int, words: str) -> None:
    def turned(pad: Pad) -> Pad:
        x, y, width, height = pad.x, pad.y, pad.width, pad.height
        for _ in range(turn):
            x, y, width, height = -y, x, height, width
        return replace(pad, x=x, y=y, width=width, height=height)

    sheet = sheet_of(SO8)
    assert words in findings(sheet, with_pads(lands(sheet), turned))["lands.lie"].message


def test_a_pattern_that_is_only_shifted_or_wide_lies_as_it_should(sheet_of: Any) -> None:
    sheet = sheet_of(SO8)
    good = lands(sheet)
    for moved in (lambda pad: replace(pad, x=pad.x + 3, y=pad.y - 1), lambda pad: replace(pad, x=pad.x * 1.3)):
        assert "lands.lie" not in findings(sheet, with_pads(good, moved))
    assert pattern_lie((), ()) is None


def test_exchanged_ends_of_a_diode_are_told(sheet_of: Any) -> None:
    diode = {"family": "chip", "pins": 2, "kind": "diode",
             "dims": {"D": "1.5–1.7", "E": "0.7–0.9", "L": "0.2–0.5", "A": "max 0.9"}}  # fmt: skip
    sheet = sheet_of(diode)
    swapped = with_pads(lands(sheet), lambda pad: replace(pad, x=-pad.x))
    assert "pin 1 is on the other side" in findings(sheet, swapped)["lands.lie"].message


@pytest.mark.parametrize(
    ("data", "changes", "words"),
    [
        ({**QFN24, "family": "no-lead-quad"}, {"pins": 66}, ("66 pins", "64 terminals", "64 or 68")),
        (QFN24, {"pins": 26}, ("26 pins", "24 terminals", "24 or 28")),
        (SOT, {"pins": 7}, ("7 pins", "6 terminals", "6 or 8")),
        (QFN24, {"pins": 64, "pins_d": 16, "pins_e": 12}, ("64 pins", "56 terminals")),
        (SO8, {"missing": ["9"]}, ("pin 9 cannot be missing",)),
        (SOT, {"left": ["1", "", "2"], "right": ["", "3", ""], "pins": 5}, ("5 pins", "3 terminals")),
    ],
)
def test_counts_that_do_not_come_out_are_refused_with_those_that_fit(
    sheet_of: Any, data: Mapping[str, Any], changes: dict[str, Any], words: tuple[str, ...]
) -> None:
    with pytest.raises(SheetError) as fault:
        lands(sheet_of(data, **changes))
    assert all(word in str(fault.value) for word in words), str(fault.value)


def test_a_missing_pin_of_a_header_has_to_exist(sheet_of: Any) -> None:
    header = {"family": "header", "rows": 2, "columns": 5, "dims": {"e": 2.54, "b": "0.62–0.66", "A": 8.5}}
    with pytest.raises(SheetError, match="pin 11 cannot be missing"):
        lands(sheet_of(header, missing=["11"]))
    assert [pad.number for pad in lands(sheet_of(header, missing=["10"])).pads] == [str(n) for n in range(1, 10)]


def test_five_flat_leads_stand_three_and_two(sheet_of: Any) -> None:
    flat = {"family": "flat-lead", "pins": 5, "dims": {"E": "1.5–1.7", "E1": "1.1–1.3", "D": "1.5–1.7", "e": 0.5,
            "b": "0.17–0.27", "L": "0.1–0.3", "A": "max 0.6"}}  # fmt: skip
    pads = {pad.number: (pad.x < 0, round(pad.y, 3)) for pad in lands(sheet_of(flat)).pads}
    assert pads == {"1": (True, 0.5), "2": (True, 0.0), "3": (True, -0.5), "4": (False, -0.5), "5": (False, 0.5)}


def test_the_gap_acts_on_the_real_neighbour(sheet_of: Any) -> None:
    # Wmin 0.55 + 2 × 0.03 + √(0.2² + 0.1² + 0.05²) = 0.8391; the leads are 1.90 apart, not 0.95.
    sheet = sheet_of(SOT)
    assert {min(pad.width, pad.height) for pad in lands(sheet).pads} == {0.85}
    assert "lands.joint-below-level" not in findings(sheet, lands(sheet))
    flat = {"family": "flat-lead", "pins": 3, "dims": {"E": "1.15–1.25", "E1": "0.75–0.85", "D": "1.15–1.25", "e": 0.4,
            "b": "0.15–0.25", "L": "0.1–0.2", "A": "max 0.5"}}  # fmt: skip
    # 0.15 + 0 + √(0.1² + 0.1² + 0.05²) = 0.30.
    assert {min(pad.width, pad.height) for pad in lands(sheet_of(flat)).pads} == {0.3}


@pytest.mark.parametrize(
    "data",
    [
        {**SOT, "dims": {**SOT["dims"], "e": 1.9}},  # type: ignore[dict-item]
        {"family": "tab", "pins": 3, "dims": {"H": "9.4–10.4", "D": "5.97–6.22", "E": "6.35–6.73", "e": 4.58,
         "b": "0.64–0.89", "L": "1.4–1.78", "D2": "5.21–5.6", "E2": "4.32–5.2", "L3": "0.89–1.27", "A": "max 2.4"}},
        {"family": "flat-lead", "pins": 6, "dims": {"E": "1.5–1.7", "E1": "1.1–1.3", "D": "1.5–1.7", "e": 1.0,
         "b": "0.17–0.27", "L": "0.1–0.3", "A": "max 0.6"}},
    ],
    ids=["SOT-23", "DPAK", "SOT-563"],
)  # fmt: skip
def test_leads_beyond_the_body_are_told(sheet_of: Any, data: Mapping[str, Any]) -> None:
    found = findings(sheet_of(data))["sheet.implausible"]
    assert "do not fit along the body" in found.message and found.severity == "blocker"


def test_a_whole_column_of_mils_is_told_with_its_unit(sheet_of: Any) -> None:
    mils = {"E": "228–244", "E1": "150–157", "D": "189–197", "e": 50, "b": "12–20", "L": "16–50", "A": "max 69"}
    found = findings(sheet_of(SO8, dims={**mils, "A1": "4–10"}))["sheet.unusual-size"]
    assert "read in mil it would fit" in found.message and found.severity == "caution"
    assert "sheet.unusual-size" not in findings(sheet_of(SO8))


def test_the_sheets_findings_come_before_the_refusal(tmp_path: Path) -> None:
    path = tmp_path / "so8.json"
    mils = {"E": "228–244", "E1": "150–157", "D": "189–197", "e": "1.27 mm", "b": "12–20", "L": "16–50", "A": "max 69"}
    path.write_text(json.dumps({**SO8, "units": "mil", "dims": {**mils, "A1": "4–10", "e": "1.27"}}), encoding="utf-8")
    told = eider("lands", path, status=2).stderr
    assert told.index("neighbouring leads would touch") < told.index("not a land") and told.count("\n") == 1


@pytest.mark.parametrize("letter", ["above", "below"])
def test_the_body_of_a_right_angle_header_may_begin_beyond_its_pins(sheet_of: Any, letter: str) -> None:
    other = "below" if letter == "above" else "above"
    header = {"family": "header", "pins": 4, "dims": {"e": 2.54, "b": "0.62–0.66", "A": 8.5, letter: -1.5, other: 9}}
    assert "sheet.not-positive" not in findings(sheet_of(header))


def test_own_letters_of_pads_by_hand_may_be_anything(sheet_of: Any) -> None:
    custom = {"family": "custom", "pins": 2, "dims": {"D": 5, "E": 3, "A": 1, "s": 0, "t": -0.4}}
    assert "sheet.not-positive" not in findings(sheet_of(custom))


def test_an_unknown_kind_is_refused_with_the_nearest(sheet_of: Any) -> None:
    chip = {"family": "chip", "pins": 2, "kind": "diod", "dims": {"D": 1.6, "E": 0.8, "L": 0.3, "A": 0.8}}
    found = findings(sheet_of(chip))["sheet.unknown-kind"]
    assert "diode is" in found.message and found.severity == "blocker"


def test_terminals_that_run_into_the_thermal_pad_are_told(sheet_of: Any) -> None:
    sheet = sheet_of(QFN24, dims={"L": "0.80–1.00"})
    view = PartUnderCheck(bare_bundle(sheet, None, "B"), RULEBOOK, LibrarySettings(name=""))
    found = [f for f in run_checks(view) if f.check == "sheet.implausible"]
    # On both axes: 4.0 and 2.5 leave 0.75 on each side.
    assert [("L" in f.message, f.severity, f.expected[-7:]) for f in found] == [(True, "caution", "0.75 mm")] * 2
    assert "D2" in found[0].message and "E2" in found[1].message


def test_a_body_with_a_third_of_its_leads_is_told(sheet_of: Any) -> None:
    plcc28 = {"family": "j-lead-quad", "pins": 20, "dims": {"D": "12.32–12.57", "D1": "11.43–11.58",
              "E": "12.32–12.57", "E1": "11.43–11.58", "e": 1.27, "b": "0.33–0.53", "L": "1.2–1.6", "A": "max 4.57",
              "A1": "0.51–0.8"}}  # fmt: skip
    found = findings(sheet_of(plcc28))["sheet.implausible"]
    assert "less than half" in found.message and found.severity == "caution"


def test_sides_of_a_dual_without_leads_may_be_uneven_and_two_pins_have_no_pitch(sheet_of: Any) -> None:
    son = {"family": "no-lead-dual", "dims": {"D": "0.9–1.1", "E": "0.5–0.7", "b": "0.2–0.3", "L": "0.2–0.3",
           "A": "max 0.4"}}  # fmt: skip
    three = sheet_of({**son, "pins": 3}, left=["1", "2"], right=["3"], dims={"e": 0.65, "E": "0.9–1.1"})
    assert [pad.number for pad in lands(three).pads] == ["1", "2", "3"]
    two = sheet_of({**son, "pins": 2}, dims={"E": "0.9–1.1"})
    assert [(pad.number, pad.y) for pad in lands(two).pads] == [("1", 0.0), ("2", 0.0)]
    assert "sheet.missing-dimension" not in {check for check, f in findings(two).items() if f.severity == "blocker"}


def test_a_module_has_pin_1_in_the_corner_and_a_carrier_in_the_middle(sheet_of: Any) -> None:
    module = {"family": "castellated", "pins": 20, "dims": {"D": "8.8–9.0", "E": "8.8–9.0", "e": 1.27, "b": "0.6–0.7",
              "L": "1.0–1.4", "A": "max 2"}}  # fmt: skip
    first = lands(sheet_of(module)).pads[0]
    assert first.x < 0 and first.y == pytest.approx(2.54)
    middle = lands(sheet_of({**module, "kind": "carrier"})).pads[0]
    assert (middle.x, middle.y > 0) == (0.0, True)


def ink_under_body(pattern: Pattern, sheet: PackageSheet) -> float:
    """The area of the mark's ink that the largest body covers (mm²)."""
    view = PartUnderCheck(bare_bundle(sheet, pattern, pattern.level), RULEBOOK, LibrarySettings(name=""))
    assert view.recipe
    mark = next(stroke for stroke in pattern.silkscreen if stroke.role == "mark")
    ink = LineString(mark.points).buffer(mark.width / 2, cap_style="flat")
    return float(ink.intersection(box(*view.recipe.body_max)).area)


@pytest.mark.parametrize("level", ["A", "B", "C"])
@pytest.mark.parametrize("data", [SO8, SOT], ids=["SO8", "SOT-23"])
def test_no_ink_of_the_mark_lies_under_the_largest_body(sheet_of: Any, data: Mapping[str, Any], level: Level) -> None:
    sheet = sheet_of(data)
    made = lands(sheet, level)
    assert ink_under_body(made, sheet) == 0.0
    xs, ys = zip(*made.courtyard, strict=True)
    assert min(xs) == pytest.approx(-max(xs)) and min(ys) == pytest.approx(-max(ys))


def test_the_joints_of_a_turned_pattern_are_those_of_the_plain_one(tmp_path: Path) -> None:
    sheet, rules = tmp_path / "so8.json", tmp_path / "pattern.json"
    sheet.write_text(json.dumps(SO8), encoding="utf-8")
    rules.write_text(eider("lands", sheet, "--set", "orientation=2", "--json").stdout, encoding="utf-8")
    told = answer("joints", sheet, rules)
    # (6.90 − 5.80 − √(0.4² + 0.1² + 0.05²)) / 2 = 0.3423.
    assert {round(pad["toe"], 4) for pad in told["pads"]} == {0.3423}
    assert told["level"] == "B" and "lands.lie" not in {f["check"] for f in told["findings"]}
    set_too = answer("joints", sheet, rules, "--set", "E=5.6–6.0")
    assert {round(pad["toe"], 4) for pad in set_too["pads"]} == {0.4423}


def test_joints_of_balls_are_not_told_as_below_c(tmp_path: Path) -> None:
    sheet, pattern = tmp_path / "bga.json", tmp_path / "pattern.json"
    sheet.write_text(json.dumps({"family": "ball-grid", "pins": 16, "dims": {"D": 4, "E": 4, "e": 0.8, "b": 0.45,
                     "A": 1.2}}), encoding="utf-8")  # fmt: skip
    pattern.write_text(eider("lands", sheet, "--json").stdout, encoding="utf-8")
    told = eider("joints", sheet, pattern).stdout
    assert "no solder joint is defined" in told and "below C" not in told


def test_exchanged_letters_are_proposed_only_where_every_check_then_passes(sheet_of: Any) -> None:
    def proposal(data: Mapping[str, Any], **dims: Any) -> str:
        found = findings(sheet_of(data, dims=dims))
        return found["sheet.letters-exchanged"].expected if "sheet.letters-exchanged" in found else ""

    # Span and body under each other's letter: only that exchange makes a package of it.
    assert proposal(SO8, E="3.80–4.00", E1="5.80–6.20") == "E = E1, E1 = E"
    # The length under the letter of the span, as tall as wide: nothing is proposed that is not certain.
    assert "A = E1" not in proposal(SO8, D="5.80–6.20", E="4.80–5.00")
    bga = {"family": "ball-grid", "pins": 64, "dims": {"D": "7.9–8.1", "E": "7.9–8.1", "e": 0.8, "b": "0.85–0.95",
           "A": 1.2, "A1": 0.3}}  # fmt: skip
    assert "sheet.implausible" in findings(sheet_of(bga)) and "eD" not in proposal(bga)
    tssop = {"family": "gullwing-dual", "pins": 16, "dims": {"E": "6.2–6.6", "E1": "4.3–4.5", "D": "4.9–5.1",
             "e": 0.65, "b": "0.19–0.30", "L": "0.45–0.75", "A": "max 1.2", "A1": "1.25–1.35"}}  # fmt: skip
    assert "sheet.implausible" in findings(sheet_of(tssop)) and proposal(tssop) in ("", "A = A1, A1 = A")


def test_a_basic_length_gets_half_of_the_rulebooks_tolerance_on_each_side(sheet_of: Any) -> None:
    rules = RULEBOOK.with_values({"tolerances.basic": "0.2"})
    sheet = sheet_of(SO8, dims={"b": 0.4})
    (group,) = make_pattern(sheet, "B", rules).derivation
    # W from 0.30 to 0.50: 0.30 + 0.06 + √(0.2² + 0.1² + 0.05²) = 0.5891.
    assert group.X_raw == pytest.approx(0.5891, abs=5e-5)


def test_the_derivation_tells_the_fillets_that_the_rounded_lands_give(sheet_of: Any) -> None:
    (group,) = lands(sheet_of(SO8)).derivation
    assert group.reached is not None
    # Z 6.90, G 3.00, X 0.60 against Lmin 5.8, Smax' 3.9948 and Wmin 0.31 with their roots 0.4153, 0.3165 and 0.2291.
    assert group.reached.toe == pytest.approx(0.3423, abs=5e-5)
    assert group.reached.side == pytest.approx((0.60 - 0.31 - 0.2291) / 2, abs=5e-5)
    assert group.reached_words.startswith("reached: toe 0.3423, heel ")


def test_lengths_under_the_datasheets_letters_are_understood(sheet_of: Any) -> None:
    dims = {("HE" if letter == "E" else letter): value for letter, value in SO8["dims"].items()}  # type: ignore[attr-defined]
    sheet = sheet_of({**SO8, "dims": dims}, aliases={"HE": "E"})
    assert lands(sheet) == lands(sheet_of(SO8))


def test_pads_by_hand_may_be_plain_numbers(sheet_of: Any) -> None:
    custom = {"family": "custom", "pins": 1, "dims": {"D": 5, "E": 3, "A": 1},
              "pads": [{"number": "1", "x": -1.25, "y": 0, "width": 2, "height": 1.5}]}  # fmt: skip
    (pad,) = lands(sheet_of(custom)).pads
    assert (pad.x, pad.y, pad.width, pad.height) == (-1.25, 0.0, 2.0, 1.5)


@pytest.mark.parametrize(("text", "value"), [("false", False), ("no", False), ("true", True), ("yes", True)])
def test_yes_and_no_of_a_rulebook_may_be_true_and_false(text: str, value: bool) -> None:
    assert RULEBOOK.with_values({"holes.square_first": text}).holes.square_first is value


def test_a_row_whose_lands_all_overlap_is_one_finding(sheet_of: Any) -> None:
    sheet = sheet_of(SO8)
    wide = with_pads(lands(sheet), lambda pad: replace(pad, height=1.4))
    view = PartUnderCheck(bare_bundle(sheet, wide, "B"), RULEBOOK, LibrarySettings(name=""))
    found = [f.message for f in run_checks(view) if f.check == "lands.pads-overlap"]
    assert found == ["Pads 1, 2, 3 and 4 overlap", "Pads 5, 6, 7 and 8 overlap"]


def test_webs_and_gaps_are_measured_between_outlines(sheet_of: Any) -> None:
    # Balls 0.8 wide, staggered at 0.9: neighbours on the diagonal are 0.9 · √2 = 1.2728 apart, 0.4728 between them.
    grid = {"family": "land-grid", "rows": 3, "columns": 3, "pins": 5, "staggered": True,
            "dims": {"D": 4, "E": 4, "e": 0.9, "b": 0.8, "A": 1}}  # fmt: skip
    sheet = sheet_of(grid)
    assert "lands.mask-web" not in findings(sheet, lands(sheet))


def test_corner_lands_alone_give_way_at_their_inner_corner(sheet_of: Any) -> None:
    # 24 pins at 0.5: the corner lands are 1.375 from the middle along their rows, and G/2 = 1.5 across: 0.125 apart in
    # x and in y, 0.177 in all. 0.2 · √2 − 0.25 = 0.0328 over two cuts: 0.02 each.
    sheet = sheet_of(QFN24)
    pads = {pad.number: pad for pad in lands(sheet).pads}
    assert {n for n, pad in pads.items() if pad.shape == "outline"} == {"1", "6", "7", "12", "13", "18", "19", "24"}
    gap = Polygon(pad_outline(pads["1"])).distance(Polygon(pad_outline(pads["24"])))
    assert 0.2 <= gap < 0.21
    assert (pads["2"].width, pads["1"].width) == (0.875, 0.875)
    left = make_pattern(sheet, "B", RULEBOOK.with_values({"clearances.corner": "leave"}))
    assert all(pad.shape == "rectangle" for pad in left.pads)
    trimmed = make_pattern(sheet, "B", RULEBOOK.with_values({"clearances.corner": "trim"}))
    lengths = {pad.number: max(pad.width, pad.height) for pad in trimmed.pads}
    # Openings are 0.1 larger: (0.025 + t) · √2 ≥ 0.08 asks for more than the lands do, 0.0316.
    assert lengths["2"] == 0.875 and lengths["1"] == pytest.approx(0.875 - 0.04)
    assert "lands.gap-between-lands" not in findings(sheet, trimmed)


def test_holes_that_crowd_get_oval_lands_across_the_row(sheet_of: Any) -> None:
    # 0.42 square at most: diagonal 0.594 + 0.20 → 0.80; land 0.80 + 0.10 + 0.50 = 1.40; 1.27 − 0.20 → 1.05 of it fit.
    header = {"family": "header", "pins": 4, "dims": {"e": 1.27, "b": "0.38–0.42", "A": 5}}
    sheet = sheet_of(header)
    pads = lands(sheet).pads
    assert {(pad.width, pad.height) for pad in pads} == {(1.05, 1.4)}
    assert [pad.shape for pad in pads] == ["rectangle", "oval", "oval", "oval"]
    assert not {"lands.gap-between-lands", "lands.pads-overlap"} & set(findings(sheet, lands(sheet)))
    assert any("oval across the row" in formula for formula in lands(sheet).sizes[0].formulas)
    smaller = make_pattern(sheet, "B", RULEBOOK.with_values({"holes.crowded": "smaller"})).pads
    assert {(pad.width, pad.height) for pad in smaller} == {(1.05, 1.05)}


def test_a_gull_wing_package_may_have_a_thermal_pad(sheet_of: Any) -> None:
    tssop = {"family": "gullwing-dual", "pins": 16, "dims": {"E": "6.2–6.6", "E1": "4.3–4.5", "D": "4.9–5.1",
             "e": 0.65, "b": "0.19–0.30", "L": "0.45–0.75", "A": "max 1.2", "A1": "0.05–0.15"},
             "thermal": {"D2": "2.9–3.1", "E2": "2.4–2.6"}}  # fmt: skip
    sheet = sheet_of(tssop)
    made = lands(sheet)
    pad = next(pad for pad in made.pads if pad.number == "17")
    # D2 lies along the rows, which is y.
    assert (pad.width, pad.height, pad.x, pad.y) == (2.5, 3.0, 0.0, 0.0)
    assert made.name.startswith("SOP65P640X120-17") and made.vias and len(pad.paste) > 1
    assert [f for f in findings(sheet, made).values() if f.severity != "note" and f.check.startswith("lands")] == []
    solids = {solid.name: solid for solid in body_solids(sheet)}
    assert measure_body((solids["thermal pad"],)).bounds == ((-1.25, -1.5, 0.0), (1.25, 1.5, 0.15))
    wide = findings(sheet_of({**tssop, "thermal": {"D2": 3, "E2": 4.6}}))
    assert "E2" in wide["sheet.implausible"].message
    qfp = {"family": "gullwing-quad", "pins": 32, "dims": {"D": "8.8–9.2", "D1": "6.9–7.1", "E": "8.8–9.2",
           "E1": "6.9–7.1", "e": 0.8, "b": "0.3–0.45", "L": "0.45–0.75", "A": "max 1.2", "A1": "0.05–0.15",
           "D2": "4.4–4.6", "E2": "4.4–4.6"}}  # fmt: skip
    assert {pad.number for pad in lands(sheet_of(qfp)).pads} == {str(n) for n in range(1, 34)}


def test_lines_follow_the_body_that_the_rulebook_says(sheet_of: Any) -> None:
    sheet = sheet_of(SO8)
    # E1 3.80–4.00, D 4.80–5.00; a line of 0.12 stands its half outside.
    for size, y in (("largest", 2.5), ("nominal", 2.45), ("smallest", 2.4)):
        book = RULEBOOK.with_values({"lines.silkscreen_body": size, "lines.assembly_body": size})
        made = make_pattern(sheet, "B", book)
        body = next(stroke for stroke in made.silkscreen if stroke.role == "body")
        assert max(abs(py) for _, py in body.points) == pytest.approx(y + 0.06)
        assert max(py for _, py in made.assembly[0].points) == pytest.approx(y)


def test_lands_end_before_a_low_body_where_the_rulebook_wants_it(sheet_of: Any) -> None:
    low = sheet_of(SO8, dims={"A1": "0.02–0.10"})
    plain, book = lands(low), RULEBOOK.with_values({"clearances.low_body": "0.1"})
    trimmed = make_pattern(low, "B", book)
    # The heel reaches 0.3392 with G 3.00; level C wants 0.25 less the 0.0125 of rounding: 0.2034 of G to spare, 0.20.
    assert (plain.derivation[0].G, trimmed.derivation[0].G) == (3.0, 3.2)
    assert "comes down to 0.02 mm" in trimmed.derivation[0].notes[-1]
    high = sheet_of(SO8, dims={"A1": "0.10–0.25"})
    assert make_pattern(high, "B", book).pads == lands(high).pads


def test_a_negative_length_is_refused_with_its_letter(sheet_of: Any) -> None:
    with pytest.raises(SheetError, match=r"e is -1\.27 mm: no length is below zero"):
        lands(sheet_of(SO8, dims={"e": -1.27}))


CHIP = {"family": "chip", "pins": 2, "kind": "capacitor",
        "dims": {"D": "1.5–1.7", "E": "0.7–0.9", "L": "0.2–0.5", "A": "max 0.9"}}  # fmt: skip


def test_pads_of_one_family_may_be_otherwise(sheet_of: Any) -> None:
    book = RULEBOOK.with_values(
        {"family_pads.chip.shape": "rounded", "family_pads.chip.mask_expansion": "0.1", "pads.corner_share": "0.2"}
    )
    chip, so8 = make_pattern(sheet_of(CHIP), "B", book), make_pattern(sheet_of(SO8), "B", book)
    first = chip.pads[0]
    assert first.shape == "rounded" and first.corner_radius == pytest.approx(0.2 * min(first.width, first.height))
    assert first.mask[0].width == pytest.approx(first.width + 0.2)
    assert so8.pads[0].shape == "rectangle" and so8.pads[0].mask[0].width == pytest.approx(so8.pads[0].width + 0.1)
    with pytest.raises(RulebookError, match="there is no"):
        RULEBOOK.with_values({"family_pads.chip.colour": "red"})


def test_d_lands_are_round_towards_the_middle(sheet_of: Any) -> None:
    made = make_pattern(sheet_of(SO8), "B", RULEBOOK.with_values({"pads.shape": "d"}))
    for pad in made.pads:
        outline = Polygon(pad_outline(pad))
        inner, outer = (pad.x - pad.width / 2, pad.x + pad.width / 2)[:: 1 if pad.x > 0 else -1]
        # A D loses (4 − π)/8 of the square over its round end; the outer corners stay.
        assert outline.area == pytest.approx(1.95 * 0.6 - (4 - 3.14159) / 8 * 0.36, abs=1e-3)
        assert outline.covers(Point(outer, pad.y + 0.3)) and not outline.covers(Point(inner, pad.y + 0.29))


def test_paste_in_the_form_of_a_home_plate_points_to_the_middle(sheet_of: Any) -> None:
    made = make_pattern(sheet_of(CHIP), "B", RULEBOOK.with_values({"pads.paste_form": "home-plate"}))
    left = next(pad for pad in made.pads if pad.x < 0)
    (opening,) = left.paste
    points = Polygon(pad_outline(opening))
    whole = left.width * left.height
    # Two corners are cut at 45°, by 0.4 of the length.
    cut = 0.4 * left.width
    assert points.area == pytest.approx(whole - cut**2, abs=1e-6)
    assert points.bounds == pytest.approx(left.box)
    assert not points.covers(Point(left.box[2] - 0.01, left.box[3] - 0.01))


def test_large_lands_get_their_paste_in_windows(sheet_of: Any) -> None:
    tab = {
        "family": "tab",
        "pins": 3,
        "dims": {
            "H": "9.4–10.4",
            "D": "5.97–6.22",
            "E": "6.35–6.73",
            "e": 2.29,
            "b": "0.64–0.89",
            "L": "1.4–1.78",
            "D2": "5.21–5.6",
            "E2": "4.32–5.2",
            "L3": "0.89–1.27",
            "A": "max 2.4",
        },
    }
    plain = lands(sheet_of(tab)).pads  # fmt: skip
    split = make_pattern(sheet_of(tab), "B", RULEBOOK.with_values({"pads.paste_split": "3"})).pads
    assert {pad.number: len(pad.paste) for pad in plain} == {"1": 1, "2": 1, "3": 1}
    counts = {pad.number: len(pad.paste) for pad in split}
    assert counts["1"] == 1 and counts["2"] > 4


@pytest.mark.parametrize(
    ("rows", "columns", "missing", "count"),
    [
        # 9 × 9: 41 of 81 positions, A1 among them; 4 × 5: half of 20.
        (9, 9, [], 41),
        (4, 5, [], 10),
        # Of rows A … Y and AA, AB, AA1 has a ball: half of 88, less one.
        (22, 4, ["AA1"], 43),
    ],
)
def test_a_staggered_grid_counts_its_own_balls(
    sheet_of: Any, rows: int, columns: int, missing: list[str], count: int
) -> None:
    dims = {"D": "23.9–24.1", "E": "23.9–24.1", "e": 0.8, "b": "0.35–0.45", "A": "max 1.2", "A1": "0.2–0.3"}
    data = {
        "family": "ball-grid",
        "rows": rows,
        "columns": columns,
        "staggered": True,
        "missing": missing,
        "dims": dims,
    }
    sheet = sheet_of(data)
    assert (sheet.pins, len(lands(sheet).pads)) == (count, count)


def test_a_position_that_a_staggered_grid_leaves_out_cannot_be_missing(sheet_of: Any) -> None:
    dims = {"D": "7.9–8.1", "E": "7.9–8.1", "e": 0.8, "b": "0.35–0.45", "A": "max 1.2", "A1": "0.2–0.3"}
    data = {"family": "ball-grid", "rows": 9, "columns": 9, "staggered": True, "missing": ["A2"], "dims": dims}
    with pytest.raises(SheetError, match="pin A2 cannot be missing"):
        lands(sheet_of(data))


def test_staggered_balls_touch_across_the_empty_position_too(sheet_of: Any) -> None:
    # Two pitches of 0.4 are nearer than the diagonal of 0.4 and 1.6.
    dims = {"D": "9.9–10.1", "E": "9.9–10.1", "eD": 0.4, "eE": 1.6, "b": "0.8–0.9", "A": "max 1.2", "A1": "0.2–0.3"}
    sheet = sheet_of({"family": "ball-grid", "rows": 5, "columns": 5, "staggered": True, "dims": dims})
    found = findings(sheet, lands(sheet))
    assert "would touch" in found["sheet.implausible"].message


SOT_143 = {
    "family": "transistor", "pins": 4,
    "dims": {"E": "2.1–2.64", "E1": "1.2–1.4", "D": "2.8–3.04", "e": 1.92, "b": "0.3–0.5", "b_first": "0.76–0.94",
             "e_first": 1.72, "L": "0.4–0.6", "A": "max 1.2", "A1": "0.01–0.1"},
}  # fmt: skip


def test_a_wide_first_lead_at_a_pitch_of_its_own(sheet_of: Any) -> None:
    sheet = sheet_of(SOT_143)
    pads = {pad.number: pad for pad in lands(sheet).pads}
    # Pins 2 and 3 stand 0.96 below the middle, pin 4 as far above it, pin 1 at 1.72 from pin 2.
    assert {n: round(pad.y, 3) for n, pad in pads.items()} == {"1": 0.76, "2": -0.96, "3": -0.96, "4": 0.96}
    # Wmin 0.76 + 0.06 + √(0.18² + 0.1² + 0.05²) = 1.0319; 0.30 + 0.06 + √(0.2² + 0.1² + 0.05²) = 0.5891.
    assert (pads["1"].height, pads["2"].height) == (1.05, 0.6)
    found = [f for f in findings(sheet, lands(sheet)).values() if f.check.startswith(("lands.", "sheet."))]
    assert [f for f in found if f.severity == "blocker"] == []
    assert {solid.name for solid in body_solids(sheet)} >= {"lead first", "lead left", "lead right"}


def test_the_longer_terminal_of_pin_1_gets_a_longer_land(sheet_of: Any) -> None:
    dims = {
        "D": "8.8–9.0",
        "E": "8.8–9.0",
        "e": 1.27,
        "b": "0.6–0.7",
        "L": "1.15–1.39",
        "L1": "1.96–2.36",
        "A": "max 2.0",
    }
    sheet = sheet_of({"family": "castellated", "pins": 20, "kind": "carrier", "dims": dims})
    pads = {pad.number: pad for pad in lands(sheet).pads}
    # Z = 8.8 + 1.10 + √(.2² + .0125) = 10.129 → 10.15. Pin 1: CS = √(.04 + 2·.16) = .6, Smax' = 9.0 − 3.92 − .2 = 4.88,
    # G = 4.88 − .30 − √(.36 + .0125) = 3.970 → 3.95; the others: CS = √(.04 + 2·.0576) = .394, Smax' = 6.557,
    # G = 6.557 − .30 − √(.1552 + .0125) = 5.848 → 5.85.
    assert pads["1"].height == pytest.approx((10.15 - 3.95) / 2)
    assert pads["2"].height == pads["11"].height == pytest.approx((10.15 - 5.85) / 2)
    assert pads["1"].box[3] == pads["2"].box[3] == pytest.approx(10.15 / 2)
    found = [f for f in findings(sheet, lands(sheet)).values() if f.check.startswith(("lands.", "sheet.", "body."))]
    assert {f.check for f in found if f.severity != "note"} <= {
        "sheet.no-evidence",
        "lands.not-as-recipe",
        "body.not-as-recipe",
    }
    assert len(body_solids(sheet)) == len({solid.name for solid in body_solids(sheet)})


def test_a_crystal_has_its_own_name_and_the_joints_of_an_oscillator(sheet_of: Any) -> None:
    dims = {"D": "3.1–3.3", "E": "2.4–2.6", "e": 1.65, "b": "0.8–1.0", "L": "0.7–0.9", "A": "max 0.8"}
    crystal, oscillator = (
        lands(sheet_of({"family": "castellated", "pins": 4, "kind": kind, "dims": dims}))
        for kind in ("crystal", "oscillator")
    )
    assert (crystal.name, oscillator.name) == ("XTAL320X250X80N", "OSCCC320X250X80N")
    assert crystal.pads == oscillator.pads


def test_modules_with_half_holes_on_three_sides(sheet_of: Any) -> None:
    dims = {"D": "17.9–18.1", "E": "25.3–25.7", "e": 1.5, "b": "0.8–1.0", "L": "0.8–1.0", "A": "max 3.0"}
    data = {"family": "castellated", "pins": 25, "kind": "carrier", "three_sides": True, "pins_e": 9, "dims": dims}
    sheet = sheet_of(data)
    pads = {pad.number: pad for pad in lands(sheet).pads}
    assert list(pads) == [str(n) for n in range(1, 26)]
    # Down the left side, along the bottom, up the right side; nothing at the top.
    assert {n for n, pad in pads.items() if pad.x < -8} == {str(n) for n in range(1, 10)}
    assert {n for n, pad in pads.items() if pad.y < -12} == {str(n) for n in range(10, 17)}
    assert {n for n, pad in pads.items() if pad.x > 8} == {str(n) for n in range(17, 26)}
    assert pads["1"].y == 6.0 and pads["9"].y == pads["17"].y == -6.0 and pads["10"].x == -4.5
    with pytest.raises(SheetError, match="24 terminals"):
        lands(sheet_of({**data, "three_sides": False}))
    assert {f.severity for f in findings(sheet, lands(sheet)).values() if f.check.startswith("lands.")} <= {"note"}


def test_a_tab_may_share_the_number_of_a_lead(sheet_of: Any) -> None:
    sot_89 = {"family": "tab", "pins": 3, "left": ["1", "2", "3"], "right": ["2"],
              "dims": {"H": "3.94–4.25", "D": "2.29–2.6", "E": "4.4–4.6", "e": 1.5, "b": "0.36–0.56", "L": "0.8–1.2",
                       "D2": "2.6–2.9", "E2": "1.5–1.83", "L3": "0.3–0.6", "A": "max 1.6"}}  # fmt: skip
    sheet = sheet_of(sot_89)
    made = lands(sheet)
    assert [pad.number for pad in made.pads] == ["1", "2", "2", "3"]
    groups = pattern_joints(sheet, made.pads, RULEBOOK)
    leads = next(group for group in groups if len(group.pads) == 3)
    # The lead in the middle gives the joint of its neighbours; it is not measured on the tab of its number.
    assert len({round(joint.toe, 6) for joint in leads.pads}) == 1
