"""What must hold of every family, and what the shipped ones find implausible."""

import pytest

from eider.model.sheet import Dimension, PackageSheet
from eider.packages.family import SheetError
from eider.packages.reading import read_dimensions, with_dimension
from eider.packages.registry import all_families, family_of
from helpers import make_sheet

SAMPLES = {
    "chip": {"pins": 2, "kind": "capacitor", "D": "1.6±0.1", "E": "0.8±0.1", "L": "0.35±0.15", "A": "0.8±0.1"},
    "gullwing-dual": {
        "pins": 8, "E": "5.8–6.2", "E1": "3.8–4.0", "D": "4.8–5.0", "e": "1.27", "b": "0.31–0.51", "L": "0.4–1.27",
        "A": "max 1.75", "A1": "0.1–0.25", "c": "0.17–0.25",
    },
    "gullwing-quad": {
        "pins": 32, "D": "8.8–9.2", "D1": "6.9–7.1", "E": "8.8–9.2", "E1": "6.9–7.1", "e": "0.8", "b": "0.3–0.45",
        "L": "0.45–0.75", "A": "max 1.6", "A1": "0.05–0.15", "c": "0.09–0.2",
    },
}  # fmt: skip
NAMES = {"chip": "CAPC1608X90", "gullwing-dual": "SOIC127P600X175-8", "gullwing-quad": "QFP80P900X900X160-32"}


def sample(key: str, **changes: str) -> PackageSheet:
    return make_sheet(key, **{**SAMPLES[key], **changes})  # type: ignore[arg-type]


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


def test_terminals_numbers_and_lands_agree(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    dims = family.dims(sheet)
    terminals = {terminal.number: terminal for terminal in family.terminals(sheet, dims)}
    recipe = family.lands(sheet, dims)
    assert set(terminals) == {n for rows in recipe.rows for n in (*rows.first, *rows.second)}
    assert set(terminals) == {str(i + 1) for i in range(sheet.pins)}
    for rows in recipe.rows:
        along = 1 if rows.axis == "x" else 0
        for number, at in zip((*rows.first, *rows.second), (*rows.at_first, *rows.at_second), strict=True):
            foot = terminals[number].foot
            assert (foot[along] + foot[along + 2]) / 2 == pytest.approx(at, abs=1e-6)


def test_views_show_every_letter_once(key: str) -> None:
    family, sheet = family_of(key), sample(key)
    views = family.views(sheet, family.dims(sheet))
    shown = [dimension.letter for view in views for dimension in view.dimensions]
    assert sorted(shown) == sorted(letter.key for letter in family.letters)


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
    hits = list(found.plausibility(sheet, found.dims(sheet)))
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
    reading = read_dimensions(make_sheet("gullwing-dual", 8, E="E1 + 1", E1="E - 1"))
    assert set(reading.faults) == {"E", "E1"}
