"""Values with units by hand: what they mean, how they are printed, and that printing loses nothing."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from eider.facts.quantities import (
    PREFIXES,
    Quantity,
    parse_quantity,
    parse_range,
    print_code,
    print_quantity,
    print_range,
)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("4k7", "Ω", 4700), ("4.7 kΩ", "Ω", 4700), ("4700 ohm", "Ω", 4700), ("4,7k", "Ω", 4700), ("4.7K", "Ω", 4700),
        ("4R7", "Ω", 4.7), ("0R47", "Ω", 0.47), ("10M", "Ω", 1e7), ("1 Meg", "Ω", 1e6), ("4.7 k\u2126", "Ω", 4700),
        ("100n", "F", 1e-7), ("0.1 µF", "F", 1e-7), ("0.1μF", "F", 1e-7), ("0.1uF", "F", 1e-7), ("2n2", "F", 2.2e-9),
        (".1u", "F", 1e-7), ("10 000 pF", "F", 1e-8), ("±5 %", "%", 5), ("5", "%", 5), ("max 25 V", "V", 25),
        ("50VDC", "V", 50), ("3V3", "V", 3.3), ("32.768 kHz", "Hz", 32768), ("-40 °C", "°C", -40), ("1e3", "Ω", 1000),
        ("0.5 A", "A", 0.5), ("100 mA", "A", 0.1), ("20 ppm", "ppm", 20),
    ],
)  # fmt: skip
def test_a_value_in_every_form(text: str, unit: str, value: float) -> None:
    found = parse_quantity(text, unit)
    assert found is not None
    assert (found.value, found.unit) == (pytest.approx(value, rel=1e-12), unit)


@pytest.mark.parametrize(
    ("text", "unit"),
    [
        ("X7R", "F"), ("", "V"), ("25 V", "A"), ("4k7k", "Ω"), ("1,000", "Ω"), ("5 k%", "%"), ("about 5", "V"),
        ("1e99", "Ω"), ("4R7", "F"), ("nan", "V"), ("inf", "V"), ("10 kF V", "F"),
    ],
)  # fmt: skip
def test_what_is_no_such_value(text: str, unit: str) -> None:
    assert parse_quantity(text, unit) is None


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (4700, "Ω", "4.7 kΩ"), (1e-7, "F", "100 nF"), (999.9999999, "Ω", "1 kΩ"), (0.1, "A", "100 mA"), (5, "%", "5 %"),
        (0, "V", "0 V"), (-40, "°C", "-40 °C"), (1e6, "Hz", "1 MHz"), (47, "", "47"), (25, "V", "25 V"),
        (2.2e-12, "F", "2.2 pF"), (1500, "V", "1.5 kV"),
    ],
)  # fmt: skip
def test_a_value_is_printed_with_one_to_three_digits_before_the_point(value: float, unit: str, text: str) -> None:
    assert print_quantity(value, unit) == text


@given(st.integers(1, 999999), st.integers(-12, 6), st.sampled_from(["Ω", "F", "H", "V", "A", "W", "Hz", "s"]))
def test_what_is_printed_reads_back(digits: int, power: int, unit: str) -> None:
    value = float(f"{digits}e{power}")
    if not 1e-14 <= value <= 1e14:
        return
    found = parse_quantity(print_quantity(value, unit), unit)
    assert found is not None
    assert found.value == pytest.approx(value, rel=1e-5)


@given(st.sampled_from([p for p in PREFIXES if p]), st.floats(1, 999).map(lambda v: round(v, 2)))
def test_a_prefix_is_the_power_that_it_stands_for(prefix: str, number: float) -> None:
    found = parse_quantity(f"{number} {prefix}Ω", "Ω")
    assert found is not None
    assert found.value == pytest.approx(number * 10.0 ** PREFIXES[prefix], rel=1e-12)


@pytest.mark.parametrize(
    ("text", "unit", "low", "high"),
    [
        ("-40 to 85 °C", "°C", -40, 85), ("−40 °C to 105 °C", "°C", -40, 105), ("-40…+85", "°C", -40, 85),
        ("-55..125 °C", "°C", -55, 125), ("1.7 V to 3.6 V", "V", 1.7, 3.6), ("1.7-3.6 V", "V", 1.7, 3.6),
        ("85 to -40 °C", "°C", -40, 85), ("10k–100k", "Ω", 1e4, 1e5), ("0 – 70 °C", "°C", 0, 70),
    ],
)  # fmt: skip
def test_ranges(text: str, unit: str, low: float, high: float) -> None:
    found = parse_range(text, unit)
    assert found is not None
    assert (found.low, found.high, found.unit) == (pytest.approx(low), pytest.approx(high), unit)


@pytest.mark.parametrize("text", ["85 °C", "from here to there", "", "5 V to 3 A", "-40"])
def test_what_is_no_range(text: str) -> None:
    assert parse_range(text, "°C") is None


@pytest.mark.parametrize(
    ("value", "unit", "code"),
    [
        (4700, "Ω", "4K7"),
        (0.47, "Ω", "470M"),
        (4.7, "Ω", "4R7"),
        (1e-7, "F", "100N"),
        (4.7e-6, "F", "4U7"),
        (10, "V", "10V"),
    ],
)
def test_values_as_they_are_marked_on_parts(value: float, unit: str, code: str) -> None:
    assert print_code(Quantity(value, unit)) == code


def test_a_range_is_printed_with_its_unit_once() -> None:
    wide, small = parse_range("-40°C to +85°C", "°C"), parse_range("100 mV to 2 V", "V")
    assert wide and small
    assert (print_range(wide), print_range(small)) == ("-40 to 85 °C", "0.1 to 2 V")
