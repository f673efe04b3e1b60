"""What datasheets write in cells and on drawings; the limits are worked by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.datasheets.tables.value_reading import compose, is_empty, read_value, unit_of

# Text, minimum, nominal and maximum in mm.
READ = [
    ("5.80–6.20", 5.8, None, 6.2),
    ("5.80 − 6.20", 5.8, None, 6.2),
    ("5.80 to 6.20", 5.8, None, 6.2),
    ("0.41 ±0.10", 0.31, 0.41, 0.51),
    ("0.41 +/- 0.10", 0.31, 0.41, 0.51),
    ("0.65 +0.05/-0.10", 0.55, 0.65, 0.70),
    ("0.65 +0.05 −0.10", 0.55, 0.65, 0.70),
    ("0.65 -0.10 +0.05", 0.55, 0.65, 0.70),
    ("1.27 BSC", None, 1.27, None),
    ("(0.65)", None, 0.65, None),
    ("[0.65]", None, 0.65, None),
    ("0.60 REF", None, 0.60, None),
    ("0.9 typ.", None, 0.9, None),
    ("1.75 MAX", None, None, 1.75),
    ("≤ 1.75", None, None, 1.75),
    ("min. 0.4", 0.4, None, None),
    ("3,20 ±0,10", 3.1, 3.2, 3.3),
    ("0.30(1)", None, 0.30, None),
    ("0.30 (note 2)", None, 0.30, None),
    ("0.30*", None, 0.30, None),
    ("16× 0.22–0.38", 0.22, None, 0.38),
    ("4X 0.30", None, 0.30, None),
    ("∅0.50 ±0.05", 0.45, 0.50, 0.55),
    ("R0.15", None, 0.15, None),
    ("100 mil", None, 2.54, None),
    (".100 in", None, 2.54, None),
    ("1.35 ~ 1.45", 1.35, None, 1.45),
]


@pytest.mark.parametrize(("text", "low", "nom", "high"), READ)
def test_what_datasheets_write_is_read(text: str, low: float | None, nom: float | None, high: float | None) -> None:
    value = read_value(text)
    assert value.limits is not None, value
    for got, wanted in ((value.limits.min, low), (value.limits.nom, nom), (value.limits.max, high)):
        assert got == pytest.approx(wanted)
    assert value.doubt == ""


def test_two_numbers_with_a_stroke_are_limits_in_doubt() -> None:
    value = read_value("6.20/5.80")
    assert value.limits is not None
    assert (value.limits.min, value.limits.max) == (5.8, 6.2)
    assert "stroke" in value.doubt


@pytest.mark.parametrize("text", ["8°", "0°–7°", "see note", "A", "AVDD + 0.3", "1.2.3", "0.10 M C"])
def test_what_is_no_length_is_not_made_one(text: str) -> None:
    value = read_value(text)
    assert value.limits is None
    assert value.doubt


def test_a_comma_that_may_part_thousands_is_doubted() -> None:
    assert "thousands" in read_value("1,000").doubt
    assert read_value("0,650").doubt == ""


def test_what_is_left_aside_is_said() -> None:
    assert read_value("0.30(1)").notes == ("footnote (1) left aside",)
    assert read_value("16× 0.22").notes == ("16 times",)


@pytest.mark.parametrize("text", ["", "-", "–", "—", "−", "n/a", "…"])
def test_dashes_say_that_there_is_nothing(text: str) -> None:
    assert is_empty(text)


@pytest.mark.parametrize(
    ("text", "unit"),
    [
        ("Dimensions in mm", "mm"),
        ("Millimetres", "mm"),
        ("(inch)", "in"),
        ("Min (mm)", "mm"),
        ("[in]", "in"),
        ("All dimensions are in inches.", "in"),
        ("mils", "mil"),
        ("mm (inch)", ""),
        ("in the drawing", ""),
    ],
)
def test_a_caption_names_its_unit(text: str, unit: str) -> None:
    assert unit_of(text) == unit


@given(st.text(max_size=30))
def test_any_text_is_read_or_doubted(text: str) -> None:
    value = read_value(text)
    assert value.limits is not None or value.doubt


@given(st.integers(1, 900), st.integers(1, 900), st.sampled_from(["mm", "mil", "in", "um"]))
def test_a_composed_text_reads_back(a: int, b: int, unit: str) -> None:
    low, high = f"{min(a, b) / 100:.2f}", f"{max(a, b) / 100:.2f}"
    per = {"mm": 1.0, "mil": 0.0254, "in": 25.4, "um": 0.001}[unit]
    limits = read_value(compose(low, "", high, unit)).limits
    assert limits is not None
    assert limits.min == pytest.approx(float(low) * per)
    assert limits.max == pytest.approx(float(high) * per)
