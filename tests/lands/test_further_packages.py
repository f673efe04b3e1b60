"""Packages that the plain families do not cover, by values worked out by hand: power packages, connectors, grids."""

import json
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from eider.bodies.solids.body_solids import body_solids, measure_body
from eider.checks import PartUnderCheck, run_checks
from eider.cli.packages.lands import bare_bundle
from eider.evidence.pin_pads import pads_by_pin
from eider.exchange.package_sheet import read_package_sheet
from eider.lands.pattern import make_pattern
from eider.model.finding import Finding, Severity
from eider.model.library import LibrarySettings
from eider.model.package_sheet import PackageSheet
from eider.model.pattern import Pad, Pattern
from eider.model.symbol import Pin, Symbol
from eider.packages.family import SheetError
from eider.packages.registry import family_of
from eider.rulebooks import standard_rulebook

RULEBOOK = standard_rulebook()
Read = Callable[..., PackageSheet]
POWER_SON = {
    "family": "no-lead-dual", "pins": 8,
    "dims": {"D": "4.8–5.0", "E": "5.9–6.1", "e": 1.27, "b": "0.35–0.45", "L": "0.5–0.7", "A": "max 1.1",
             "A1": "0–0.05", "c": 0.25, "w": 3.4, "k": 2.0},
}  # fmt: skip
CARRIER = {
    "family": "castellated", "pins": 20, "pins_e": 7, "pins_d": 6, "three_sides": True,
    "dims": {"D": "14.9–15.1", "E": "19.9–20.1", "e": 2, "b": "0.9–1.1", "L": "1.0–1.2", "A": "max 3", "s": 7.0,
             "t": 2.5},
}  # fmt: skip


@pytest.fixture
def read(tmp_path: Path) -> Read:
    """Reads a sheet as the command line does."""

    def sheet(data: Mapping[str, Any], **changes: Any) -> PackageSheet:
        dims = {**data["dims"], **changes.pop("dims", {})}
        path = tmp_path / "sheet.json"
        path.write_text(json.dumps({**data, **changes, "dims": dims}), encoding="utf-8")
        return read_package_sheet(path)

    return sheet


def made(sheet: PackageSheet) -> Pattern:
    return make_pattern(sheet, "B", RULEBOOK)


def findings(sheet: PackageSheet, pattern: Pattern | None = None) -> dict[str, Finding]:
    """All but notes, and what a bare package cannot have."""
    view = PartUnderCheck(bare_bundle(sheet, pattern or made(sheet), "B"), RULEBOOK, LibrarySettings(name=""))
    relevant = (f for f in run_checks(view) if f.check.startswith(("sheet.", "lands.", "body.")))
    return {f.check: f for f in relevant if f.severity != Severity.NOTE and f.check != "body.not-as-recipe"}


def box_of(pattern: Pattern, number: str, index: int = 0) -> tuple[float, float, float, float]:
    pad = [pad for pad in pattern.pads if pad.number == number][index]
    return pad.x, pad.y, pad.width, pad.height


def test_two_thermal_pads_off_the_centre_stand_beside_the_rows(read: Read) -> None:
    pads = [
        {"number": "9", "x": "-0.2", "y": "-1.1", "width": "w", "height": "k", "paste": "windows"},
        {"number": "10", "x": "0.1", "y": "1.2", "width": "3.0", "height": "1.4", "paste": "windows"},
    ]
    sheet = read(POWER_SON, pads=pads)
    pattern = made(sheet)
    assert box_of(pattern, "9") == (-0.2, -1.1, 3.4, 2.0)
    assert box_of(pattern, "10") == (0.1, 1.2, 3.0, 1.4)
    assert all(len(pad.paste) > 1 for pad in pattern.pads if pad.number in ("9", "10"))
    # 8 pins and two thermal pads; vias are in both.
    assert pattern.name == "SON127P490X600X110-10N"
    assert {via.number for via in pattern.vias} == {"9", "10"}
    assert findings(sheet) == {}


def test_rows_give_way_to_a_thermal_pad_by_hand(read: Read) -> None:
    # The rows' G is 4.60 (S max 5.10 less 0.1268 less 0.364); a pad that reaches to 2.25 leaves 0.05, and wants 0.20:
    # G = 2 × 2.45 = 4.90. The heel goal of level C is 0: the heel reached is 0.0046, so only 0.00 can be given.
    pads = [{"number": "9", "width": "4.5", "height": "k", "paste": "windows"}]
    sheet = read(POWER_SON, pads=pads)
    pattern = made(sheet)
    assert pattern.derivation[0].G == 4.6
    hit = findings(sheet)["lands.thermal-gap"]
    assert (hit.measured, hit.expected) == ("0.050 mm", "≥ 0.20 mm")


def test_a_shield_a_slot_and_a_post_beside_a_row_of_feet(read: Read) -> None:
    socket = {
        "family": "surface-header", "pins": 5,
        "dims": {"E": "5.0–5.2", "E1": "4.0", "D": "7.4", "e": 0.65, "b": "0.2–0.3", "L": "0.9–1.1", "c": 0.2,
                 "A": "max 2.8"},
        "left": ["1", "2", "3", "4", "5"],
        "pads": [
            {"number": "SH", "x": "1.6", "y": "D/2 + 0.6", "hole": "0.7", "slot": "1.5", "ring": "0.35", "mirror": "x"},
            {"x": "-0.6", "y": "2.2", "hole": "0.8", "plated": False, "mirror": "x"},
        ],
    }  # fmt: skip
    sheet = read(socket)
    pattern = made(sheet)
    slots = [pad for pad in pattern.pads if pad.number == "SH"]
    assert [(pad.x, pad.y) for pad in slots] == [(1.6, 4.3), (1.6, -4.3)]
    assert all((p.width, p.height) == (1.4, 2.2) and p.hole and p.hole.height == 1.5 for p in slots)
    assert sum(not pad.plated for pad in pattern.pads) == 2
    assert findings(sheet) == {}
    # Feet, shield tabs and posts are part of the body: 5 + 2 + 2 solids and the housing.
    assert measure_body(body_solids(sheet)).solids == 10


def test_letters_that_no_sum_names_are_still_unknown(read: Read) -> None:
    pads = [{"number": "9", "width": "w", "height": "1"}]
    assert "k is not a letter" in findings(read(POWER_SON, pads=pads))["sheet.unknown-letter"].message.lower()


def test_a_fused_lead_is_one_land_as_wide_as_it(read: Read) -> None:
    sheet = read(POWER_SON, options={"fused": ["5-8"]}, dims={"w": 1, "k": 1})
    sheet = replace(sheet, dims={k: v for k, v in sheet.dims.items() if k not in ("w", "k")})
    pattern = made(sheet)
    # W = b + 3 e = 4.16–4.26: X = 4.16 − 0.08 + √(0.1² + 0.1² + 0.05²) = 4.23 → 4.25.
    assert box_of(pattern, "5") == (2.8375, 0.0, 1.075, 4.25)
    assert [pad.number for pad in pattern.pads] == ["1", "2", "3", "4", "5"]
    assert pattern.name.endswith("-8N")
    assert findings(sheet) == {}


def test_all_pins_of_a_fused_lead_belong_to_its_land(read: Read) -> None:
    sheet = read(POWER_SON, options={"fused": ["8-5"]})
    bundle = bare_bundle(sheet, made(sheet), "B")
    pins = tuple(Pin(str(i), f"P{i}", "passive") for i in range(1, 9))
    bundle = replace(bundle, symbol=replace(bundle.symbol, pins=pins))
    assert isinstance(bundle.symbol, Symbol)
    assert [pads_by_pin(bundle)[str(i)] for i in range(4, 9)] == [("4",), ("8",), ("8",), ("8",), ("8",)]
    checks = {f.check for f in run_checks(PartUnderCheck(bundle, RULEBOOK, LibrarySettings(name="")))}
    assert not {c for c in checks if c.startswith("match.")}
    assert "symbol.count-against-package" not in checks
    # A pin that is lost is told all the same.
    fewer = replace(bundle, symbol=replace(bundle.symbol, pins=pins[:6]))
    checks = {f.check for f in run_checks(PartUnderCheck(fewer, RULEBOOK, LibrarySettings(name="")))}
    assert "symbol.count-against-package" in checks


@pytest.mark.parametrize("fused", [["4-5"], ["5"], ["5-8", "7-8"]])
def test_leads_that_cannot_be_fused_are_refused(read: Read, fused: list[str]) -> None:
    with pytest.raises(SheetError, match="leads of one side|two fused leads"):
        made(read(POWER_SON, options={"fused": fused}))


def test_wettable_flanks_are_a_remark_of_the_derivation(read: Read) -> None:
    notes = made(read(POWER_SON, options={"wettable_flanks": True})).derivation[0].notes
    assert any("wettable flanks" in note for note in notes)
    assert not any("wettable" in note for note in made(read(POWER_SON)).derivation[0].notes)


def test_the_inner_row_of_a_dual_row_package(read: Read) -> None:
    data = {
        "family": "dual-row-no-lead", "pins": 76,
        "dims": {"D": "7.9–8.1", "E": "7.9–8.1", "e": 0.65, "eR": 0.75, "b": "0.20–0.30", "L": "0.35–0.45",
                 "A": "max 0.9", "A1": "0–0.05", "c": 0.2, "D2": "4.3–4.5", "E2": "4.3–4.5"},
    }  # fmt: skip
    pattern = made(read(data))
    # Inner span 8.0 − 2 × 0.75: L 6.4–6.6, T 0.35–0.45, goals of pulled-back terminals at B are 0 throughout:
    # Z = 6.4 + √(0.04 + 0.0125) = 6.6291; CS = √(0.04 + 2·0.01) = 0.2449, S = 6.6 − 0.7 − (0.4 − 0.2449)/2 = 5.8225,
    # G = S − √(0.06 + 0.0125) = 5.5532; X = 0.2 + √(0.01 + 0.0125) = 0.35.
    inner = next(d for d in pattern.derivation if "B1" in d.numbers)
    assert (inner.Z, inner.G, inner.X) == (6.65, 5.55, 0.35)
    assert {pad.number for pad in pattern.pads} == {f"A{i}" for i in range(1, 41)} | {f"B{i}" for i in range(1, 37)} | {
        "77"
    }
    assert findings(read(data)) == {}
    with pytest.raises(SheetError, match="inner"):
        made(read(data, pins=64))


def test_rows_that_begin_at_a_distance_from_the_corner(read: Read) -> None:
    sheet = read(CARRIER, options={"three_sides": True})
    pattern = made(sheet)
    # The upper edge is at +10: the first stands 7.0 below it, the last of seven 12 further.
    places = {pad.number: (pad.x, pad.y) for pad in pattern.pads}
    assert (places["1"][1], places["7"][1]) == (3.0, -9.0)
    assert (places["8"][0], places["13"][0]) == (-5.0, 5.0)
    assert (places["14"][1], places["20"][1]) == (-9.0, 3.0)
    assert {f for f in findings(sheet) if f.startswith("sheet.")} == set()
    beyond = read(CARRIER, options={"three_sides": True}, dims={"s": 9.0})
    assert "reaches beyond" in findings(beyond)["sheet.implausible"].message


HEADER = {"family": "header", "pins": 6, "rows": 2, "columns": 3, "dims": {"e": 2.0, "b": "0.50–0.54", "A": 8}}


def test_press_fit_holes_are_those_of_the_sheet(read: Read) -> None:
    sheet = read(HEADER, options={"press_fit": True}, dims={"b": "1.10–1.14", "hole": "0.95–1.05"})
    pattern = made(sheet)
    assert {pad.hole.width for pad in pattern.pads if pad.hole} == {1.0}
    assert {pad.width for pad in pattern.pads} == {1.6}
    assert "lands.hole-size" not in findings(sheet)
    wide = replace(pattern, pads=tuple(_with_hole(pad, 1.2) for pad in pattern.pads))
    hit = findings(sheet, wide)["lands.hole-size"]
    assert (hit.measured, hit.expected) == ("1.200 mm", "0.95 to 1.05 mm")
    # Pressed or not, the same hole is too small for the pin of a part that is soldered.
    soldered = read(HEADER, dims={"b": "1.10–1.14", "hole": "0.95–1.05"})
    assert findings(soldered)["lands.hole-size"].severity == Severity.BLOCKER


def _with_hole(pad: Pad, size: float) -> Pad:
    return replace(pad, hole=replace(pad.hole, width=size, height=size)) if pad.hole else pad


@pytest.mark.parametrize(
    ("corner", "first", "second", "fourth"),
    [
        ("upper left", (-2, 1), (0, 1), (-2, -1)),
        ("lower left", (-2, -1), (0, -1), (-2, 1)),
        ("lower right", (2, -1), (0, -1), (2, 1)),
        ("upper right", (2, 1), (0, 1), (2, -1)),
    ],
)
def test_pin_1_stands_in_any_corner(read: Read, corner: str, first: tuple, second: tuple, fourth: tuple) -> None:
    sheet = read(HEADER, options={"first_pin": corner}, dims={"left": 1.0, "right": 5.0})
    pattern = made(sheet)
    places = {pad.number: (pad.x, pad.y) for pad in pattern.pads}
    assert (places["1"], places["2"], places["4"]) == (first, second, fourth)
    # Distances of the body are those from pin 1, to the left as seen on the drawing.
    family = family_of(sheet.family)
    x0, _, x1, _ = family.lands(sheet, family.dims(sheet)).body
    assert (x0, x1) == (first[0] - 1.0, first[0] + 5.0)


def test_staggered_tails_stand_in_and_out_of_their_row(read: Read) -> None:
    sheet = read({"family": "header", "pins": 5, "dims": {"e": 1.5, "b": "0.5–0.55", "A": 8, "stagger": 2.0}})
    places = [(pad.x, pad.y) for pad in made(sheet).pads]
    assert places == [(-3, 1), (-1.5, -1), (0, 1), (1.5, -1), (3, 1)]


MEZZANINE = {
    "family": "surface-header", "pins": 20,
    "dims": {"E": "4.8–5.0", "E1": "3.6–3.8", "D": "9.4–9.8", "e": 0.8, "b": "0.25–0.35", "L": "0.5–0.7", "c": 0.2,
             "A": "max 3.1"},
}  # fmt: skip


@pytest.mark.parametrize(
    ("numbering", "left", "right"),
    [("row", "1 2 3", "11 12 13"), ("zigzag", "1 3 5", "2 4 6"), ("around", "1 2 3", "20 19 18")],
)
def test_rows_of_feet_are_numbered_as_the_sheet_says(read: Read, numbering: str, left: str, right: str) -> None:
    pads = made(read(MEZZANINE, numbering=numbering)).pads
    for side, wanted in ((-1, left), (1, right)):
        row = sorted((pad for pad in pads if pad.x * side > 0), key=lambda pad: -pad.y)
        assert " ".join(pad.number for pad in row[:3]) == wanted


def test_staggered_feet_and_feet_of_one_row_in_turn(read: Read) -> None:
    staggered = made(read(MEZZANINE, staggered=True)).pads
    # Half a pitch apart along the rows, a quarter to each side of the middle.
    assert {round(pad.y, 6) for pad in staggered if pad.number in ("1", "11")} == {3.8, 3.4}
    turns = made(read(MEZZANINE, pins=6, options={"one_row": True}, dims={"D": "5.0"})).pads
    assert [(pad.number, pad.x < 0) for pad in turns] == [
        ("1", True), ("2", False), ("3", True), ("4", False), ("5", True), ("6", False)
    ]  # fmt: skip
    assert [pad.y for pad in turns] == pytest.approx([2.0, 1.2, 0.4, -0.4, -1.2, -2.0])


GRID = {"family": "land-grid", "pins": 12, "rows": 4, "columns": 3,
        "dims": {"D": 3, "E": 5, "eD": 0.8, "eE": 1.1, "b": 0.4, "L": 0.7, "A": 1, "A1": 0.03}}  # fmt: skip


def test_rectangular_lands_and_corners_of_another_size(read: Read) -> None:
    sheet = read(GRID, options={"other_size": ["corners", "B2"]}, dims={"b2": 0.5, "L2": 0.9})
    pattern = made(sheet)
    large = {pad.number for pad in pattern.pads if (pad.width, pad.height) == (0.5, 0.9)}
    assert large == {"A1", "A3", "D1", "D3", "B2"}
    assert {(p.width, p.height, p.shape) for p in pattern.pads if p.number not in large} == {(0.4, 0.7, "rectangle")}
    assert findings(sheet) == {}
    with pytest.raises(SheetError, match="E9"):
        made(read(GRID, options={"other_size": ["E9"]}, dims={"b2": 0.5}))


def test_rectangles_are_turned_with_the_package(read: Read) -> None:
    turned = make_pattern(read(GRID), "B", RULEBOOK.with_values({"orientation": "2"}))
    assert {(pad.width, pad.height) for pad in turned.pads} == {(0.7, 0.4)}


def test_mask_defined_lands_reach_under_the_mask(read: Read) -> None:
    balls = {"family": "ball-grid", "pins": 16, "options": {"mask_defined": True},
             "dims": {"D": 4, "E": 4, "e": 0.8, "b": 0.45, "A": 1.2, "A1": 0.3}}  # fmt: skip
    pattern = made(read(balls))
    # A ball of 0.45 has a land of 0.35 by the table: the opening; the copper is 0.05 larger on each side.
    assert {(pad.width, pad.mask[0].width, pad.paste[0].width) for pad in pattern.pads} == {(0.45, 0.35, 0.35)}
    plain = made(read(balls, options={}))
    assert {(pad.width, pad.mask[0].width) for pad in plain.pads} == {(0.35, 0.45)}


def test_an_inner_field_at_a_pitch_of_its_own(read: Read) -> None:
    empty = [f"{row}{column}" for row in "BCDE" for column in range(2, 6)]
    balls = {
        "family": "ball-grid", "pins": 24, "rows": 6, "columns": 6, "missing": empty,
        "options": {"inner_rows": 2, "inner_columns": 2, "inner_first": ["H1"]},
        "dims": {"D": 6, "E": 6, "e": 0.8, "e2": 1.0, "b": 0.45, "A": 1.2, "A1": 0.3},
    }  # fmt: skip
    sheet = read(balls)
    inner = {pad.number: (pad.x, pad.y) for pad in made(sheet).pads if pad.number[0] in "HJ"}
    assert inner == {"H1": (-0.5, 0.5), "H2": (0.5, 0.5), "J1": (-0.5, -0.5), "J2": (0.5, -0.5)}
    assert findings(sheet) == {}
    nearer = read(balls, dims={"e2": 3.2})
    assert "touch" in findings(nearer)["sheet.implausible"].message
    with pytest.raises(SheetError, match="first position"):
        made(read(balls, options={"inner_rows": 2, "inner_columns": 2}))


def test_copper_that_is_joined_on_purpose_is_no_short(read: Read) -> None:
    tie = {"family": "solder-jumper", "kind": "net tie", "pins": 2,
           "dims": {"L": 0.5, "b": 0.5, "g": 0.4, "w": 0.25}}  # fmt: skip
    sheet = read(tie)
    pads = made(sheet).pads
    # Each land with half of the bridge: 0.5 + 0.2 long, from the middle outwards.
    assert [(pad.box[0], pad.box[2]) for pad in pads] == [(-0.7, 0.0), (0.0, 0.7)]
    assert not any(pad.mask or pad.paste for pad in pads)
    assert findings(sheet) == {}
    jumper = read({**tie, "kind": "solder jumper"})
    assert findings(jumper) == {}
    touching = made(sheet)
    assert "lands.pads-overlap" in findings(jumper, touching)


def test_copper_alone_has_its_openings(read: Read) -> None:
    mark = made(read({"family": "fiducial", "pins": 1, "dims": {"d": 1, "D": 2}})).pads[0]
    assert (mark.mask[0].width, mark.paste, mark.shape) == (2.0, (), "circle")
    both = made(read({"family": "fiducial", "pins": 1, "options": {"board_side": "both"}, "dims": {"d": 1, "D": 2}}))
    assert [pad.layers for pad in both.pads] == ["top", "bottom"]
    edge = {"family": "edge-contacts", "pins": 8, "options": {"both_sides": True}, "numbering": "zigzag",
            "dims": {"e": 1.0, "b": 0.7, "L": 3.2, "s": 0.5}}  # fmt: skip
    contacts = made(read(edge)).pads
    assert [(pad.number, pad.layers) for pad in contacts if pad.mask] == [("1", "top"), ("2", "bottom")]
    # One opening from the edge of the board, 0.5 below the contacts, over all four: 3 × 1.0 + 0.7 + 2 × 0.25 wide.
    x0, y0, x1, _ = contacts[0].mask[0].box
    assert (round(x1 - x0, 6), round(y0, 6)) == (4.2, -2.1)
    assert findings(read(edge)) == {}


def test_vias_stand_in_the_ring_of_a_mounting_hole(read: Read) -> None:
    hole = {"family": "mounting-hole", "kind": "plated", "pins": 1, "options": {"vias": 4},
            "dims": {"d": 3.2, "D": 6.4, "v": 0.5}}  # fmt: skip
    pads = made(read(hole)).pads
    # The middle of the ring lies at (3.2 + 6.4)/4 = 2.4.
    assert [(p.x, p.y, p.width) for p in pads[1:]] == [(2.4, 0, 0.8), (0, 2.4, 0.8), (-2.4, 0, 0.8), (0, -2.4, 0.8)]
    assert findings(read(hole)) == {}
    assert "wider than the ring" in findings(read(hole, dims={"D": 4.4}))["sheet.implausible"].message
    bare = read({"family": "mounting-hole", "kind": "unplated", "pins": 0, "dims": {"d": 3.2, "D": 6.4}})
    pad, *others = made(bare).pads
    assert (pad.plated, pad.number, others) == (False, "", [])
    assert findings(bare) == {}


def test_half_holes_lie_on_the_edge_of_the_board(read: Read) -> None:
    module = {"family": "module-edge", "pins": 8, "pins_d": 2, "pins_e": 2,
              "dims": {"D": 8, "E": 8, "e": 2, "d": 0.8, "b": 1.2, "L": 1.4}}  # fmt: skip
    pads = made(read(module)).pads
    holes = [tuple(round(value, 6) for value in pad.hole_centre) for pad in pads]
    assert holes == [(-4, 1), (-4, -1), (-1, -4), (1, -4), (4, -1), (4, 1), (1, 4), (-1, 4)]
    # Inwards 1.4 from the edge, outwards half the hole and 0.25.
    assert pads[0].box == pytest.approx((-4.65, 0.4, -2.6, 1.6))
    assert findings(read(module)) == {}


def test_the_legs_of_a_shell_share_its_number(read: Read) -> None:
    coaxial = {"family": "coaxial-socket", "pins": 2,
               "dims": {"e": 5.08, "d": "1.2–1.3", "b": "0.9–1.0", "D": 6.4, "E": 6.4, "A": 9.6}}  # fmt: skip
    sheet = read(coaxial)
    assert [pad.number for pad in made(sheet).pads] == ["1", "2", "2", "2", "2"]
    assert findings(sheet) == {}
    fewer = read(coaxial, options={"legs_left_out": ["upper left", "upper right"]})
    assert [pad.y < 0 for pad in made(fewer).pads if pad.number == "2"] == [True, True]
    lost = replace(made(sheet), pads=made(sheet).pads[:-1])
    hit = findings(sheet, lost)["lands.pad-numbers"]
    assert (hit.measured, hit.expected) == ("3", "4")
