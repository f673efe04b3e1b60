import pytest

from eider.symbols.pin_names import bus_key, guess_type, is_ground, natural_key, read_name, read_type
from eider.symbols.pin_table import read_pins, split_names


@pytest.mark.parametrize(
    ("text", "name"),
    [
        ("nCS", "CS"),
        ("/RST", "RST"),
        ("~OE", "OE"),
        ("!WR", "WR"),
        ("CS#", "CS"),
        ("RESET_N", "RESET"),
        ("INT_n", "INT"),
        ("WR_B", "WR"),
        ("IRQ*", "IRQ"),
        ("nIRQ0", "IRQ0"),
        ("C\u0305S\u0305", "CS"),
    ],
)
def test_active_low_notations(text: str, name: str) -> None:
    reading = read_name(text)
    assert (reading.name, reading.active_low) == (name, True)


@pytest.mark.parametrize("text", ["NC", "NRST", "nom", "N1", "PHASE_B", "NVM", "net", "IN+", "VREF-", "n", "DQ_B", ""])
def test_what_is_not_active_low(text: str) -> None:
    assert read_name(text) == read_name(text).__class__(text)


def test_alternative_functions_are_kept() -> None:
    reading = read_name("PB3/SPI_SCK/TIM2_CH2")
    assert (reading.name, reading.alternatives) == ("PB3", ("SPI_SCK", "TIM2_CH2"))


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("VDD", "power input"),
        ("VCCIO", "power input"),
        ("AGND", "power input"),
        ("EP", "power input"),
        ("VOUT", "power output"),
        ("NC", "not connected"),
        ("CLKIN", "input"),
        ("EN1", "input"),
        ("SDA", "bidirectional"),
        ("DOUT", "output"),
        ("AIN3", "input"),
        ("GPIO12", "bidirectional"),
    ],
)
def test_types_by_name(name: str, kind: str) -> None:
    guess = guess_type(name)
    assert guess is not None
    assert guess.type == kind
    assert 0 < guess.confidence <= 1


def test_no_guess_where_nothing_speaks_for_one() -> None:
    assert guess_type("FOO") is None


def test_grounds_are_told_from_supplies() -> None:
    assert is_ground("DGND")
    assert is_ground("VSSA")
    assert not is_ground("VDD")


@pytest.mark.parametrize(("word", "kind"), [("I/O", "bidirectional"), ("PWR", "power input"), ("OD", "open collector")])
def test_words_of_pin_tables(word: str, kind: str) -> None:
    assert read_type(word) == kind


def test_orders() -> None:
    assert sorted(["D10", "D2", "D1"], key=bus_key) == ["D1", "D2", "D10"]
    assert sorted(["AA1", "A10", "B1", "A2", "10", "9"], key=natural_key) == ["9", "10", "A2", "A10", "B1", "AA1"]


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("1A to 4A", ["1A", "2A", "3A", "4A"]),
        ("P0.0–P0.2", ["P0.0", "P0.1", "P0.2"]),
        ("D2-D0", ["D2", "D1", "D0"]),
        ("DQ[1:0]", ["DQ1", "DQ0"]),
        ("A, B", ["A", "B"]),
        ("D-", ["D-"]),
        ("GND", ["GND"]),
    ],
)
def test_a_cell_may_give_a_name_for_each_number(text: str, names: list[str]) -> None:
    assert split_names(text) == names


def test_names_of_a_range_are_dealt_out_to_the_numbers_beside_it() -> None:
    pins = read_pins([["Pin", "Name"], ["1, 4, 9, 12", "1A to 4A"], ["7", "GND"], ["2–3", "VCC"]]).pins
    assert [(pin.number, pin.name) for pin in pins] == [
        ("1", "1A"), ("4", "2A"), ("9", "3A"), ("12", "4A"), ("7", "GND"), ("2", "VCC"), ("3", "VCC"),
    ]  # fmt: skip


@pytest.mark.parametrize("text", ["PC14/XI", "E/D", "I/O"])
def test_two_words_about_a_stroke_are_one_name(text: str) -> None:
    assert (read_name(text).name, read_name(text).alternatives) == (text, ())


def test_words_in_brackets_behind_a_name_describe_it() -> None:
    (pin,) = read_pins([["Pin", "Name"], ["1", "E/D (enable / disable)"]]).pins
    assert (pin.name, pin.description) == ("E/D", "enable / disable")
