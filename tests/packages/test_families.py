"""What must hold of every family, and what the shipped ones find implausible."""

import math

import pytest
from shapely.geometry import Polygon

from eider.bodies.solids.body_solids import measure_body
from eider.lands.joints import pattern_joints
from eider.lands.pads import area
from eider.lands.pattern import make_pattern
from eider.model.codec import decode, encode
from eider.model.package_sheet import Dimension
from eider.model.pattern import LEVELS, Pattern
from eider.packages.family import LandRecipe, SheetError
from eider.packages.forms.bare_lands import COPPER
from eider.packages.pads.pad_shapes import pad_outline
from eider.packages.registry import all_families, family_of
from eider.packages.sheet_parsing import parse_dimensions, with_dimension
from eider.rulebooks import standard_rulebook
from family_samples import SAMPLES, sample
from helpers import make_sheet

NAMES = {
    "custom": "PART1600X800X500-2",
    "chip": "CAPC1608X90", "gullwing-dual": "SOIC127P600X175-8", "gullwing-quad": "QFP80P900X900X160-32",
    "transistor": "SOT95P237X112-3", "no-lead-quad": "QFN50P400X400X80-25", "no-lead-dual": "SON50P300X300X80-11",
    "j-lead-dual": "SOJ127P841X375-20", "j-lead-quad": "PLCC127P991X991X457-20", "cylinder": "DIOMELF3516",
    "moulded": "CAPMP3528X210", "flat-lead": "SODFL2512X80", "gullwing-diode": "SOD3716X135",
    "chip-array": "RESCAX80P320X160X60-8",
    "castellated": "OSCCC320X250X120", "can": "CAPAE660X570", "tab": "TO229P990X240-3",
    "ball-grid": "BGA64C80P8X8_800X800X120", "land-grid": "LGA64C80P8X8_800X800X100",
    "dual-in-line": "DIP794W46P254L1918H508Q14", "single-in-line": "SIPW50P254L2280H508Q9",
    "header": "HDRV8W64P254_1X8_2032X254X850", "axial": "RESAD1016W55L630D235", "radial": "CAPRD200W50D500H1150",
    "tab-through-hole": "TOV254P1010X1540X450-3",
    "butt-lead": "SOB254P781X420-8", "surface-header": "HDRS20W30P80_950X490X310",
    "dual-row-no-lead": "QFN2R65P800X800X90-77", "coaxial-socket": "COAXV508_635X635X960",
    "mounting-hole": "MTGHP320L640", "fiducial": "FID100M200", "test-point": "TPR150",
    "solder-jumper": "JMP3_100X150G30", "edge-contacts": "EDGE10P100_70X320", "module-edge": "MODE16P200_1800X2000",
}  # fmt: skip


@pytest.fixture(params=list(all_families()))
def key(request: pytest.FixtureRequest) -> str:
    return str(request.param)


def test_every_family_has_a_sample_here(key: str) -> None:
    assert key in SAMPLES


def test_a_sound_package_is_plausible(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    assert list(family.plausibility(sheet, family.dims(sheet))) == []
    assert family.pin_fault(sheet.pins) == ""


def test_name_follows_the_convention(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    assert family.name(sheet, family.dims(sheet)) == NAMES[key]


def numbers_of(recipe: LandRecipe) -> list[str]:
    rows = [n for row in recipe.rows for n in (*row.first, *row.second)]
    groups = [n for group in (*recipe.grids, *recipe.leads) for n in group.numbers]
    by_hand = [g.pad.number for g in recipe.manual_pads if g.pad.plated]
    return [*rows, *groups, *(plate.number for plate in recipe.plates), *by_hand]


def test_terminals_numbers_and_lands_agree(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    dims = family.dims(sheet)
    terminals = {terminal.number: terminal for terminal in family.terminals(sheet, dims)}
    recipe = family.lands(sheet, dims)
    # The legs of a shell share one number.
    assert set(terminals) == set(numbers_of(recipe))
    assert len(terminals) == sheet.pins + len(recipe.plates)
    places = sorted((t.number, t.foot) for t in family.terminals(sheet, dims))
    assert [number for number, _ in places] == sorted(numbers_of(recipe))
    assert recipe.first_pin in terminals
    for rows in recipe.rows:
        along = 1 if rows.axis == "x" else 0
        for number, at in zip((*rows.first, *rows.second), (*rows.at_first, *rows.at_second), strict=True):
            foot = terminals[number].foot
            assert (foot[along] + foot[along + 2]) / 2 == pytest.approx(at, abs=1e-6)
    for group in (*recipe.grids, *recipe.leads):
        for number, x, y in zip(group.numbers, group.x, group.y, strict=True):
            middles = [((x0 + x1) / 2, (y0 + y1) / 2) for n, (x0, y0, x1, y1) in places if n == number]
            assert pytest.approx((x, y), abs=1e-6) in middles


def test_every_pad_covers_its_terminal_at_nominal_size(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    pattern = make_pattern(sheet, "A", standard_rulebook())
    rows = {n for row in family.lands(sheet, family.dims(sheet)).rows for n in (*row.first, *row.second)}
    for terminal in family.terminals(sheet, family.dims(sheet)):
        x0, y0, x1, y1 = terminal.foot
        of_number = [pad for pad in pattern.pads if pad.number == terminal.number]
        pad = min(of_number, key=lambda pad: math.dist((pad.x, pad.y), ((x0 + x1) / 2, (y0 + y1) / 2)))
        px0, py0, px1, py1 = pad.box
        # The middle of every terminal lies on its land; leads and feet in full at level A.
        assert px0 <= (x0 + x1) / 2 <= px1
        assert py0 <= (y0 + y1) / 2 <= py1
        # Where no part stands the terminal is the land itself.
        if (hole := pad.hole) and not family.lands(sheet, family.dims(sheet)).bare:
            section = x1 - x0 if terminal.round else math.hypot(x1 - x0, y1 - y0)
            assert section <= max(hole.width, hole.height) or hole.width != hole.height
        assert terminal.number in rows or pad.width > 0


@pytest.mark.parametrize("level", ["A", "B", "C"])
def test_the_joints_of_a_computed_pattern_reach_its_level(key: str, level: str) -> None:
    sheet, rulebook = sample(key), standard_rulebook()
    pattern = make_pattern(sheet, level, rulebook)  # type: ignore[arg-type]
    for group in pattern_joints(sheet, pattern.pads, rulebook):
        for joint in group.pads:
            assert joint.level is not None
            assert "ABC".index(joint.level) <= "ABC".index(level), (group.rows.group, joint)


def test_more_copper_at_a_and_least_at_c(key: str) -> None:
    areas = [sum(area(pad) for pad in make_pattern(sample(key), level, standard_rulebook()).pads) for level in LEVELS]
    assert areas[0] >= areas[1] >= areas[2]


def test_a_pattern_is_made_alike_each_time_and_reads_back(key: str) -> None:
    first, again = (encode(make_pattern(sample(key), "B", standard_rulebook())) for _ in range(2))
    assert first == again
    assert encode(decode(first, Pattern, "x")) == first


def test_other_units_change_nothing(key: str) -> None:
    from msgspec.structs import replace

    sheet = sample(key)
    mils = {}
    for letter, dimension in sheet.dims.items():
        assert dimension.limits
        given = {n: getattr(dimension.limits, n) for n in ("min", "nom", "max")}
        mils[letter] = replace(
            dimension, text=" ".join(f"{n} {v / 0.0254:.9f} mil" for n, v in given.items() if v is not None)
        )
    other = parse_dimensions(replace(sheet, dims=mils)).sheet
    a, b = (make_pattern(s, "B", standard_rulebook()) for s in (sheet, other))
    assert [(p.number, p.box) for p in a.pads] == [(p.number, pytest.approx(p.box, abs=1e-6)) for p in b.pads]
    assert a.name == b.name


def test_the_body_reaches_what_the_sheet_says(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    dims = family.dims(sheet)
    bounds = measure_body(family.solids(sheet, dims)).bounds
    if family.lands(sheet, dims).bare:
        # Copper alone, as thick as it is.
        assert (bounds[0][2], bounds[1][2]) == (0.0, COPPER)
        return
    # The height is under another letter where there is no A: a lying cylinder is as high as it is thick.
    letter = {"axial": "D", "cylinder": "E", "radial": "L", "tab-through-hole": "D"}.get(key, "A")
    limits = dims[letter]
    heights = (limits.upper, limits.middle)
    assert min(abs(bounds[1][2] - height) for height in heights) < 0.05
    x0, y0, x1, y1 = family.lands(sheet, dims).body
    assert bounds[0][0] <= x0 + 0.03
    assert bounds[1][0] >= x1 - 0.03
    assert bounds[0][1] <= y0 + 0.03
    assert bounds[1][1] >= y1 - 0.03


def test_views_show_every_letter_once(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    views = family.views(sheet, family.dims(sheet))
    shown = [dimension.letter for view in views for dimension in view.dimensions]
    given = family.dims(sheet)
    assert sorted(shown) == sorted(letter.key for letter in family.letters if letter.key in given)


def test_dimensions_in_the_views_measure_what_they_say(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    dims = family.dims(sheet)
    for view in family.views(sheet, dims):
        for d in view.dimensions:
            axis = 0 if d.side in ("top", "bottom") else 1
            limits = dims[d.letter]
            length = abs(d.a[axis] - d.b[axis])
            assert length == pytest.approx(limits.middle, abs=1e-6) or length == pytest.approx(limits.upper, abs=1e-6)


@pytest.mark.parametrize(
    ("family", "changes", "letters"),
    [
        ("gullwing-dual", {"E": "3.8–4.0", "E1": "5.8–6.2"}, ("E", "E1")),
        ("gullwing-dual", {"L": "2.9–3.1"}, ("E", "L")),
        ("gullwing-dual", {"L": "1.1–1.3"}, ("L", "E", "E1")),
        ("gullwing-dual", {"D": "2.8–3.0"}, ("D", "e")),
        ("gullwing-dual", {"b": "1.2–1.4"}, ("e", "b")),
        ("gullwing-dual", {"A1": "1.8–1.9"}, ("A", "A1")),
        ("chip", {"L": "0.75–0.85"}, ("D", "L")),
        ("gullwing-quad", {"D1": "9.0–9.4"}, ("D", "D1")),
    ],
)
def test_implausible_lengths_are_named(family: str, changes: dict[str, str], letters: tuple[str, ...]) -> None:
    found, sheet = family_of(family), sample(family, **changes)
    hits = found.implausible(sheet, found.dims(sheet))
    assert letters in [hit.letters for hit in hits]


def test_a_missing_length_is_named_not_zero() -> None:
    sheet = sample("gullwing-dual", b="")
    sheet = with_dimension(sheet, "b", None)
    with pytest.raises(SheetError, match="b \\(lead width\\) is missing"):
        family_of("gullwing-dual").lands(sheet, family_of("gullwing-dual").dims(sheet))


def test_left_out_pins_have_no_terminal() -> None:
    from msgspec.structs import replace

    family = family_of("gullwing-dual")
    sheet = replace(sample("gullwing-dual"), missing=("5",))
    assert "5" not in {t.number for t in family.terminals(sheet, family.dims(sheet))}
    assert family.name(sheet, family.dims(sheet)).endswith("-7")


def test_an_unknown_family_names_the_known() -> None:
    with pytest.raises(SheetError, match="gullwing-dual"):
        family_of("gullwing")


def test_sums_follow_the_letters_they_use() -> None:
    sheet = make_sheet("gullwing-dual", 8, E="6.0", E1="E - 2*L", L="1.0")
    assert sheet.limits("E1").nom == 4.0  # type: ignore[union-attr]
    assert with_dimension(sheet, "L", Dimension(text="0.8")).limits("E1").nom == 4.4  # type: ignore[union-attr]


def test_letters_that_need_each_other_are_told() -> None:
    reading = parse_dimensions(make_sheet("gullwing-dual", 8, E="E1 + 1", E1="E - 1"))
    assert set(reading.faults) == {"E", "E1"}


@pytest.mark.parametrize("key", ["no-lead-quad", "no-lead-dual"])
def test_the_cut_corner_of_a_thermal_pad_is_cut_from_land_and_paste(key: str) -> None:
    sheet = sample(key, h="0.50")
    pad = make_pattern(sheet, "B", standard_rulebook()).pads[-1]
    half_w, half_h = pad.width / 2, pad.height / 2
    # The corner of pin 1, upper left, is missing; the triangle that is cut off has legs of 0.50.
    assert (-half_w, half_h) not in pad.outline
    assert {(round(-half_w + 0.5, 6), half_h), (-half_w, round(half_h - 0.5, 6))} <= set(pad.outline)
    copper = Polygon(pad.outline)
    assert copper.area == pytest.approx(pad.width * pad.height - 0.125)
    assert all(copper.buffer(1e-6).contains(Polygon(pad_outline(window))) for window in pad.paste)
