"""Every form of the contract's section on package sheets, worked by hand; and what cannot be read."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.geometry.lengths import LengthError, Limits, format_limits, parse_length, parse_limits

NAMES = {"E": 6.0, "L": 1.0}


@pytest.mark.parametrize(
    ("text", "low", "nom", "high"),
    [
        ("1.27", None, 1.27, None),
        ("0.31-0.51", 0.31, None, 0.51),
        ("0.31..0.51", 0.31, None, 0.51),
        ("0.31–0.51", 0.31, None, 0.51),
        ("0.40 – 1.27", 0.40, None, 1.27),
        ("0.31 to 0.51", 0.31, None, 0.51),
        ("0.41±0.10", 0.31, 0.41, 0.51),
        ("0.41 +/-0.10", 0.31, 0.41, 0.51),
        ("0.41 +0.10/-0.05", 0.36, 0.41, 0.51),
        ("0.41 -0.05/+0.10", 0.36, 0.41, 0.51),
        ("max 1.75", None, None, 1.75),
        ("1.75 max", None, None, 1.75),
        ("1.75 max.", None, None, 1.75),
        ("min 0.4", 0.4, None, None),
        ("≤ 1.2", None, None, 1.2),
        (">= 1.2", 1.2, None, None),
        ("min 0.4 nom 0.5 max 0.6", 0.4, 0.5, 0.6),
        ("0.4 min 0.6 max", 0.4, None, 0.6),
        ("1.27 BSC", None, 1.27, None),
        ("(0.65)", None, 0.65, None),
        ("0,65", None, 0.65, None),
        # Units: one mil is 0.0254 mm, after any number or at the end for all.
        ("12 mil", None, 0.3048, None),
        ("3..9 mil", 0.0762, None, 0.2286),
        ("12-20 mil", 0.3048, None, 0.508),
        ("0.1 in", None, 2.54, None),
        ('0.1"', None, 2.54, None),
        ("500 um", None, 0.5, None),
        ("0.30 mm – 20 mil", 0.30, None, 0.508),
        ("max 69 mil", None, None, 1.7526),
        # Sums, with the sheet's letters as nominal values.
        ("(E - L)/2 + 0.1", None, 2.6, None),
        ("1.27/2 mm", None, 0.635, None),
        ("2*(E-L)", None, 10.0, None),
        ("10/2", None, 5.0, None),
        ("3/16 in", None, 4.7625, None),
        ("(0.51/0.3)", None, 1.7, None),
        ("L*(E/L + 1)", None, 7.0, None),
        ("E - 0.2 .. E + 0.2", 5.8, None, 6.2),
        ("(1.27-0.2)", None, 1.07, None),
        ("-0.05", None, -0.05, None),
        ("2*12 mil + 0.5 mm", None, 1.1096, None),
        # Reversed limits are kept, for a check to speak of.
        ("6.20-5.80", 6.20, None, 5.80),
    ],
)
def test_forms(text: str, low: float | None, nom: float | None, high: float | None) -> None:
    limits = parse_limits(text, NAMES)
    assert (limits.min, limits.nom, limits.max) == pytest.approx((low, nom, high), abs=1e-9)


def test_bare_numbers_take_the_unit_of_the_sheet() -> None:
    assert parse_limits("12–20", unit="mil") == Limits(min=0.3048, max=0.508)
    assert parse_limits("0.3 mm", unit="mil").nom == 0.3


@pytest.mark.parametrize(
    ("text", "character", "expected"),
    [
        ("", 1, "a number"),
        ("0.31-x", 6, "a known letter"),
        ("1.27 2", 6, "before it"),
        ("3 furlong", 3, "before it"),
        ("0.4 ? 0.5", 5, "a number, a letter"),
        ("E*L", 1, "area"),
        ("1/E", 1, "not a length"),
        # Limits as datasheets print them, or a quotient: 0.31/0.51 would be 0.608.
        ("0.31/0.51", 5, "0.31–0.51, or a quotient, which is written in brackets: (0.31/0.51)"),
        ("1.75/1.35", 5, "a dash between limits (two lengths with a slash"),
        ("0.31 mm / 0.51 mm", 8, "two lengths"),
        ("12/10 mil", 3, "two lengths"),
        ("5.8/6.0/6.2", 4, "three lengths"),
        ("E/L", 1, "divided by another is a plain number"),
        ("E/L + 0.1", 1, "divided by another"),
        ("L + E/L", 1, "quotient of two lengths"),
        ("1/0", 1, "division by zero"),
        ("99999", 1, "10000 mm"),
        ("1e5", 2, "before it"),
        ("max 1 max 2", 7, "only one max"),
    ],
)
def test_errors_name_the_character_and_what_was_expected(text: str, character: int, expected: str) -> None:
    with pytest.raises(LengthError) as caught:
        parse_limits(text, NAMES)
    assert f"at character {character}" in str(caught.value)
    assert expected in str(caught.value)


@pytest.mark.parametrize(
    "text", ["__import__('os')", "E.__class__", "9**9**9", "[1,2]", "(" * 400, "lambda: 1", "1 if 1 else 2"]
)
def test_nothing_but_sums_is_evaluated(text: str) -> None:
    with pytest.raises(LengthError):
        parse_limits(text, NAMES)


@given(st.text(max_size=40))
def test_any_text_is_read_or_refused_in_words(text: str) -> None:
    try:
        parse_limits(text, NAMES)
    except LengthError as fault:
        assert 0 <= fault.position <= len(text)
        assert fault.expected


LENGTHS = st.floats(min_value=0.001, max_value=500).map(lambda v: round(v, 4))


@given(LENGTHS, LENGTHS)
def test_a_printed_range_reads_back(a: float, b: float) -> None:
    limits = Limits(min=min(a, b), max=max(a, b))
    again = parse_limits(format_limits(limits))
    assert (again.min, again.max) == pytest.approx((limits.min, limits.max), abs=1e-9)


@given(LENGTHS, st.sampled_from(["mm", "mil", "in", "um"]))
def test_a_printed_length_reads_back_in_every_unit(value: float, unit: str) -> None:
    # What is printed is rounded below 0.1 µm.
    assert parse_length(format_limits(Limits(nom=value), unit)) == pytest.approx(value, abs=5.1e-5)


@given(LENGTHS, LENGTHS)
def test_a_printed_tolerance_reads_back(nom: float, tolerance: float) -> None:
    limits = Limits(min=nom - tolerance, nom=nom, max=nom + tolerance)
    again = parse_limits(format_limits(limits))
    assert (again.min, again.nom, again.max) == pytest.approx((limits.min, limits.nom, limits.max), abs=1e-4)


def test_a_range_is_no_single_length() -> None:
    with pytest.raises(LengthError, match="without tolerance"):
        parse_length("0.3-0.5")


@pytest.mark.parametrize(
    "text", ["9" * 400, "-1" + "0" * 400 + ".5", "2*" + "9" * 400, "1" + "0" * 300 + "*1" + "0" * 300]
)
def test_a_number_that_is_too_large_is_refused_in_words(text: str) -> None:
    with pytest.raises(LengthError, match="a number with fewer digits|a sum that gives a length"):
        parse_length(text)
