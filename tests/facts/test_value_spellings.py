import pytest

from eider.facts.quantities import value_spellings


@pytest.mark.parametrize(
    ("value", "also"),
    [
        ("100 nF", "0.1uF"),
        ("100nF", "0.1uF"),
        ("0.1 µF", "100nF"),
        ("4.7 nF", "4.7nF"),
        ("4.7k", "4700"),
        ("1 MΩ", "1000kΩ"),
        ("10 mH", "0.01H"),
    ],
)
def test_other_spellings(value: str, also: str) -> None:
    assert also in value_spellings(value)


@pytest.mark.parametrize("text", ["X7R", "10 %", "100", "", "−40 °C to 105 °C"])
def test_other_texts_have_none(text: str) -> None:
    assert value_spellings(text) == ()
