"""A quoted cell with a line break is one cell, in a pasted table as in a file."""

import pytest

from eider.symbols.pin_table import read_pins, split_table


@pytest.mark.parametrize(
    "text", ['1,"VDD\ncore",P\n2,GND,P', '1\t"VDD\ncore"\tP\n2\tGND\tP', '1,"VDD\r\ncore",P\r\n2,GND,P']
)
def test_the_words_of_a_quoted_cell_stay_apart(text: str) -> None:
    assert split_table(text) == [["1", "VDD core", "P"], ["2", "GND", "P"]]


def test_a_description_over_two_lines_is_one() -> None:
    reading = read_pins(split_table('Pin,Name,Description\n1,VDD,"Supply,\nto be decoupled"\n2,GND,Ground'))
    assert [(pin.number, pin.description) for pin in reading.pins] == [
        ("1", "Supply, to be decoupled"),
        ("2", "Ground"),
    ]
